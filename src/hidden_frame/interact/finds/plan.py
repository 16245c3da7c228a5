"""What the flatplan says of a publication: numbering, counts, and pages by a word.

>>> count_in_words(publication)
'16 pages = 4 × 4'
"""

from __future__ import annotations

from msgspec import UnsetType

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.interact.finds.goto import places
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, base_chain, masters_by_id, stack_of
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.sides import missing
from hidden_frame.model.text import Run

_MANY = 4


def preview(publication: Publication, number: int) -> list[str]:
    """What a section's first three pages and its last will print; “–” for no folio."""
    facts = page_facts(publication)
    pages = publication.sections[number].pages
    shown = pages if len(pages) <= _MANY else (*pages[:3], pages[-1])
    return [(f.folio or "–") if not f.blind else f"({f.folio})" for f in
            (facts[p.id] for p in shown)]  # fmt: skip


def numbering_in_words(publication: Publication, number: int) -> str:
    """“12 pages · 1, 2, 3 … 12”, “1 page · no folios”, “no pages”."""
    section = publication.sections[number]
    count = len(section.pages)
    if not count:
        return "no pages"
    words = pages_counted(count)
    if section.numbering.style == "none":
        return f"{words} · no folios" + (", counted" if section.numbering.counted else "")
    folios = preview(publication, number)
    listed = ", ".join(folios)
    if count > _MANY:
        listed = ", ".join(folios[:3]) + f" … {folios[3]}"
    return f"{words} · {listed}"


def masters_in_words(publication: Publication, number: int) -> str:
    """What a section's pages follow unless told otherwise: “follows Text + Tint”."""
    section = publication.sections[number]
    own = section.masters is not None
    stack = section.masters if section.masters is not None else publication.default_masters
    names = [masters_by_id(publication)[m].name for m in stack]
    return ("follows " if own else "as the publication: ") + (" + ".join(names) or "no master")


def count_in_words(publication: Publication) -> str:
    """How many pages there are, and how many are missing to full sheets."""
    count, setup = len(all_pages(publication)), publication.setup
    words = pages_counted(count)
    if setup.sheet == 1:
        return words
    lacking = missing(count, setup)
    if not lacking:
        return f"{words} = {count // setup.sheet} × {setup.sheet}"
    return f"{words}, {lacking} missing to a multiple of {setup.sheet}"


def own_text(page: Page) -> str:
    """The words that stand on a page itself, its overrides included."""
    texts = [i.text for i in page.items if isinstance(i, TextFrame)]
    texts += [o.text for o in page.overrides if not isinstance(o.text, UnsetType)]
    words = ("".join(c.text for c in p.content if isinstance(c, Run)) for t in texts for p in t)
    return "\n".join(words)


def matching(publication: Publication, typed: str) -> list[str]:
    """The pages that a word means: a folio or position, a range, else those of sections and
    masters whose name holds it, and those that have it in a text of their own."""
    word = " ".join(typed.split()).casefold()
    try:
        return pages_in_range(publication, typed)
    except Refusal:
        pass
    found: set[str] = set()
    for section in publication.sections:
        if word in section.name.casefold():
            found |= {p.id for p in section.pages}
    named = {m.id for m in publication.masters if word in m.name.casefold()}
    for page in all_pages(publication):
        bases = (base_chain(publication, top) for top in stack_of(publication, page))
        if (named and any(m.id in named for chain in bases for m in chain)) or (
            page.id not in found and len(word) > 1 and word in own_text(page).casefold()
        ):
            found.add(page.id)
    if not found:
        found |= {p.id for p in places(publication, typed) if p.kind == "page"}
    return [p.id for p in all_pages(publication) if p.id in found]
