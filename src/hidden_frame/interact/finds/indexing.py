"""The index as a panel shows it: terms, their pages, and the places of their marks."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.index import entries, folios, marked, marks_in
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.edit.change import change_texts
from hidden_frame.edit.text.index import mark_all
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import IndexMark, Text, TextPlace


class Term(NamedTuple):
    """A row of the panel: a term, or a sub-term of one, and what the index says of it."""

    term: str
    sub: str
    told: str


class MarkPlace(NamedTuple):
    """Where a mark stands: a place of a story."""

    story: str
    place: TextPlace


def terms(composition: Composition) -> list[Term]:
    """Every term and sub-term, in the order of the index."""
    facts = list(composition.facts.values())
    found: list[Term] = []
    language = composition.publication.about.language
    for entry in entries(marked(composition), language):
        rows = [(entry.term, "", entry), *((entry.term, sub.term, sub) for sub in entry.subs)]
        for term, sub, each in rows:
            told = [folios(each.pages, facts)]
            told += [f"see {other}" for other in each.see]
            told += [f"see also {other}" for other in each.see_also]
            found.append(Term(term, sub, ", ".join(t for t in told if t)))
    return found


def places_of(composition: Composition, term: str, sub: str) -> list[MarkPlace]:
    """Where the marks of a term stand in stories, in their order."""
    return [
        MarkPlace(story.id, (paragraph, offset))
        for story in composition.publication.stories if not story.lists
        for paragraph, offset, mark in marks_in(story.text)
        if mark.term == term and (mark.sub == sub or not sub)
    ]  # fmt: skip


def marked_everywhere(
    publication: Publication, words: str, mark: IndexMark
) -> tuple[Publication, int]:
    """A mark behind every place where words stand in the publication's texts, and how many there
    are.  Raises `Refusal` where they stand nowhere."""
    if not words.strip():
        raise Refusal("Type the words behind which marks are to be put.", field="words")
    count = 0
    masters = {id(i.text) for m in publication.masters for i in m.items if hasattr(i, "text")}
    lists = {id(s.text) for s in publication.stories if s.lists}
    lists |= {id(f.text) for f in frames_with_lists(publication.sections)}

    def text(old: Text) -> Text:
        nonlocal count
        if not old or id(old) in masters or id(old) in lists:
            return old
        new, more = mark_all(old, words.strip(), mark)
        count += more
        return new if more else old

    changed = change_texts(publication, text)
    if not count:
        raise Refusal(
            f"“{words.strip()}” was not found without such a mark; try other words.",
            field="words",
        )
    return changed, count
