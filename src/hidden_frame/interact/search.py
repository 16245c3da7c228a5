"""Everything in a publication that a typed word means: pages, their texts, masters, styles.

>>> [f.name for f in search(publication, "stream")]
['page 1 (#3): “After rain, by the stream.”']
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.interact.goto import places
from hidden_frame.interact.plan import own_text
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication

_AROUND = 24  # characters told on either side of a word that was found


class Hit(NamedTuple):
    """A page, a master or a style, and how to name it."""

    kind: Literal["page", "master", "style"]
    id: str
    name: str


def search(publication: Publication, typed: str, most: int = 60) -> list[Hit]:
    """What a word means, folios and names before words on pages; at most `most`."""
    word = " ".join(typed.split()).casefold()
    if not word:
        return []
    found = [Hit(p.kind, p.id, p.name) for p in places(publication, typed)]
    found += [
        Hit("style", s.id, f"paragraph style {s.name}")
        for s in publication.paragraph_styles
        if word in s.name.casefold()
    ]
    found += [
        Hit("style", s.id, f"character style {s.name}")
        for s in publication.character_styles
        if word in s.name.casefold()
    ]
    if len(word) > 1:
        found += _on_pages(publication, word)
    return found[:most]


def _on_pages(publication: Publication, word: str) -> Iterator[Hit]:
    """Pages on which the word stands, with what stands around it."""
    facts = page_facts(publication)
    for page in all_pages(publication):
        text = " ".join(own_text(page).split())
        at = text.casefold().find(word)
        if at >= 0:
            said = _around(text, at, at + len(word))
            yield Hit("page", page.id, f"page {page_name(facts[page.id])}: “{said}”")


def _around(text: str, start: int, end: int) -> str:
    """A piece of text about a word, cut between words."""
    first, last = max(0, start - _AROUND), min(len(text), end + _AROUND)
    before, after = text[first:start], text[end:last]
    if first:
        before = "… " + before[before.find(" ") + 1 :]
    if last < len(text):
        after = after[: after.rfind(" ") + 1] + "…" if " " in after else after + "…"
    return before + text[start:end] + after
