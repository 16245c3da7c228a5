"""The pages of a publication on which a word stands.

>>> [f.name for f in words_on_pages(publication, "stream")]
['page 1 (#3): “After rain, by the stream.”']
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.interact.finds.goto import Destination
from hidden_frame.interact.finds.plan import own_text
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication

_AROUND = 24  # characters told on either side of a word that was found


def words_on_pages(publication: Publication, typed: str, most: int = 60) -> list[Destination]:
    """Pages on which the words stand as they were typed, with what stands around them; at most
    `most`, and none for less than two letters."""
    word = " ".join(typed.split()).casefold()
    return list(islice(_on_pages(publication, word), most)) if len(word) > 1 else []


def _on_pages(publication: Publication, word: str) -> Iterator[Destination]:
    """Pages on which the word stands, with what stands around it."""
    facts = page_facts(publication)
    for page in all_pages(publication):
        text = " ".join(own_text(page).split())
        at = text.casefold().find(word)
        if at >= 0:
            said = _around(text, at, at + len(word))
            yield Destination("page", page.id, f"page {page_name(facts[page.id])}: “{said}”")


def _around(text: str, start: int, end: int) -> str:
    """A piece of text about a word, cut between words."""
    first, last = max(0, start - _AROUND), min(len(text), end + _AROUND)
    before, after = text[first:start], text[end:last]
    if first:
        before = "… " + before[before.find(" ") + 1 :]
    if last < len(text):
        after = after[: after.rfind(" ") + 1] + "…" if " " in after else after + "…"
    return before + text[start:end] + after
