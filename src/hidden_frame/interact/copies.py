"""Copies of frames that show a story: what they are to show is asked, so that none starts a second
story by accident."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, NamedTuple

from hidden_frame.compose.composition import Composition, Told
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.stories import link
from hidden_frame.edit.text.steps import end_of
from hidden_frame.edit.text.write import cut_out
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Link
from hidden_frame.model.text import Text, TextPlace

Shows = Literal["same", "linked", "empty"]
SHOWS: tuple[tuple[str, Shows], ...] = (
    ("The same words again", "same"),
    ("An empty frame, linked after the first", "linked"),
    ("An empty frame", "empty"),
)


class StoryCopy(NamedTuple):
    """A copy on a page of a frame that shows a story.  `source` is that frame and its page;
    `main` its order among main frames, 0 if it was linked by hand; `words` what it shows."""

    page: str
    item: str
    source: Link
    story: str
    main: int
    words: Text


def stop_words(told: Told, at: int) -> Text:
    """The words that stand in one stop of a story, with their looks."""
    return words_between(told.story.text, told.flow, at, at)


def stop_paragraphs(told: Told, at: int) -> range:
    """The numbers of the paragraphs of which any line stands in one stop of a story."""
    first = told.flow.starts[at].paragraph
    blocks = (b.paragraph for f in told.flow.parts[at].text.fragments for b in f.blocks)
    return range(first, first + max(blocks, default=-1) + 1)


def words_between(text: Text, flow: Flow, first: int, last: int) -> Text:
    """The words that stand in the stops from one to another, both included."""
    start = flow.starts[first]
    part = flow.parts[last]
    if part.rest is None:
        stop: TextPlace = end_of(text)
    else:
        stop = flow.starts[last].paragraph + part.rest.paragraph, part.rest.place.offset
    return cut_out(text, (start.paragraph, start.place.offset), stop)


def story_copies(
    composition: Composition, holder_id: str, items: Iterable[str], page: str, made: Sequence[str]
) -> list[StoryCopy]:
    """Those of the items made on a page, in the order of those that they are copies of, whose
    frames show a story."""
    found = []
    for item, copy in zip(items, made, strict=True):
        told = composition.told(holder_id, item)
        if told is not None:
            at = told.flow.index[holder_id, item]
            source = Link(holder_id, item)
            main = 0 if source in told.story.path else told.flow.stops[at].room.main
            words = stop_words(told, at)
            found.append(StoryCopy(page, copy, source, told.story.id, main, words))
    return found


def copies_showing(
    publication: Publication, copies: Iterable[StoryCopy], shows: Shows
) -> Publication:
    """The copies with the words that their frames showed, or linked each after its own."""
    last: dict[Link, Link] = {}
    for copy in copies:
        if shows == "same":
            changes: dict[str, dict[str, object]] = {copy.item: {"text": copy.words}}
            publication = change_items(publication, copy.page, changes)
        elif shows == "linked" and copy.main:  # the section's story takes main frames in order
            publication = change_items(publication, copy.page, {copy.item: {"main": copy.main}})
        elif shows == "linked":
            after = last.get(copy.source, copy.source)
            publication = link(publication, copy.story, copy.page, copy.item, after)
            last[copy.source] = Link(copy.page, copy.item)
    return publication
