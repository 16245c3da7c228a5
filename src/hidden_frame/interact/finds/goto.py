"""Where a typed word goes: a folio, a position, a section's or a master's name.

>>> find_place(publication, "ii").name
'page ii (#2)'
"""

from __future__ import annotations

from typing import Literal, NamedTuple

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication


class Destination(NamedTuple):
    """A page or a master, and how to name it."""

    kind: Literal["page", "master"]
    id: str
    name: str


def places(publication: Publication, typed: str) -> list[Destination]:
    """Everything that a typed word may mean, the most exact first; none for nonsense.

    A folio goes before a position, then section and master names that are equal to the
    word, that begin with it, or that hold it.
    """
    word = " ".join(typed.split()).casefold()
    if not word:
        return []
    facts = page_facts(publication)
    found: list[Destination] = []
    if "," not in typed and word not in ("all", "odd", "even"):
        # Sections may count anew: each page of this folio is shown.
        pages = [f.page_id for f in facts.values() if f.folio and f.folio.casefold() == word]
        try:
            pages = pages or pages_in_range(publication, typed)
        except Refusal:
            pages = []
        several = len(pages) > 1
        if several and facts[pages[0]].folio.casefold() != word:
            pages = []  # a range, or a name of many
        for page in pages:
            of = f", section {facts[page].section_name or '–'}" if several else ""
            found.append(Destination("page", page, f"page {page_name(facts[page])}{of}"))
    named: list[tuple[int, Destination]] = []
    for section in publication.sections:
        rank = _rank(word, section.name)
        if rank is not None and section.pages:
            first = section.pages[0].id
            name = f"section {section.name}, page {page_name(facts[first])}"
            named.append((rank, Destination("page", first, name)))
    for master in publication.masters:
        rank = _rank(word, master.name)
        if rank is not None:
            named.append((rank, Destination("master", master.id, f"master {master.name}")))
    return found + [place for _, place in sorted(named, key=lambda pair: pair[0])]


def _rank(word: str, name: str) -> int | None:
    name = name.casefold()
    if name == word:
        return 0
    if name.startswith(word):
        return 1
    return 2 if word in name else None


def find_place(publication: Publication, typed: str) -> Destination:
    """The first of `places`; refuses what names nothing, and a folio of several pages."""
    found = places(publication, typed)
    folios = [f.folio.casefold() for f in page_facts(publication).values() if f.folio]
    if folios.count(" ".join(typed.split()).casefold()) > 1:
        pages_in_range(publication, typed)  # says which pages share the folio
    if found:
        return found[0]
    raise Refusal(
        f"“{typed.strip()}” names no page, section or master; write a folio, a position such as "
        "#5, or a name.",
        field="place",
    )
