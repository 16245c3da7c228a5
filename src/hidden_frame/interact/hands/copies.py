"""Copies of frames that show a story: what they are to show is asked, so that none starts a second
story by accident."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Literal, NamedTuple

from hidden_frame.compose.composition import Composition, StoryOnPages
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.stories import link
from hidden_frame.edit.text.steps import end_of
from hidden_frame.edit.text.write import cut_out
from hidden_frame.interact.hands.shown import change_shown
from hidden_frame.model.lookup import find_page
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Link
from hidden_frame.model.text import Text, TextPlace

Shows = Literal["same", "linked", "empty"]
SHOWS: tuple[tuple[str, Shows], ...] = (
    ("The same words again", "same"),
    ("An empty frame, linked after the first", "linked"),
    ("An empty frame", "empty"),
)


# Of pages that are copied with their frames.
PAGES_SHOW: tuple[tuple[str, Shows], ...] = (
    ("What follows: the story goes on through them", "linked"),
    ("The same words again", "same"),
    ("Nothing: their frames are empty", "empty"),
)


class StoryCopy(NamedTuple):
    """A copy on a page of a frame that shows a story.  `source` is that frame and its page;
    `main` its order among main frames, 0 if it was linked by hand; `words` what it shows.  With
    `of_page` the whole page was copied, so that a main frame is in the story already."""

    page: str
    item: str
    source: Link
    story: str
    main: int
    words: Text
    of_page: bool = False


def stop_words(told: StoryOnPages, at: int) -> Text:
    """The words that stand in one stop of a story, with their looks."""
    return words_between(told.story.text, told.flow, at, at)


def stop_paragraphs(told: StoryOnPages, at: int) -> range:
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


def page_copies(
    composition: Composition, pages: Iterable[str], made: Iterable[str], now: Publication
) -> list[StoryCopy]:
    """The frames of copied pages whose originals show a story; `made` are the copies, in order, in
    the publication as it is `now`."""
    found = []
    for page, copy in zip(pages, made, strict=True):
        before, after = find_page(composition.publication, page), find_page(now, copy)
        own = dict(zip((i.id for i in before.items), (i.id for i in after.items), strict=True))
        shown = [r.item.id for r in composition.view(before).items]
        copies = [own.get(item, item) for item in shown]
        found += story_copies(composition, page, shown, copy, copies)
    return [copy._replace(of_page=True) for copy in found]


def copies_showing(
    publication: Publication, copies: Iterable[StoryCopy], shows: Shows
) -> Publication:
    """The copies with the words that their frames showed, or linked each after its own."""
    last: dict[Link, Link] = {}
    changes: dict[str, dict[str, object]]
    sides = page_facts(publication)
    for copy in copies:
        if copy.of_page and copy.main:
            changes = {copy.item: {"main": 0, "text": copy.words if shows == "same" else ()}}
            if shows != "linked":
                side = sides[copy.page].side
                publication = change_shown(publication, copy.page, side, changes)
        elif shows == "same":
            changes = {copy.item: {"text": copy.words}}
            publication = change_items(publication, copy.page, changes)
        elif shows == "linked" and copy.main:  # the section's story takes main frames in order
            publication = change_items(publication, copy.page, {copy.item: {"main": copy.main}})
        elif shows == "linked":
            after = last.get(copy.source, copy.source)
            publication = link(publication, copy.story, copy.page, copy.item, after)
            last[copy.source] = Link(copy.page, copy.item)
    return publication
