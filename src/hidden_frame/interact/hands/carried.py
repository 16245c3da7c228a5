"""Stories that go along with pages to another publication: whole, what is shown, or not at all."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from itertools import groupby
from typing import Literal

from msgspec import Struct

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.edit.carry.items import Clip, brought_in, clip_of
from hidden_frame.edit.stories import add_story
from hidden_frame.interact.hands.copies import words_between
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page
from hidden_frame.model.publication import Publication
from hidden_frame.model.stories import Link, MainFrames, Station, Story
from hidden_frame.model.text import Text

Along = Literal["whole", "shown", "empty"]
ALONG: tuple[tuple[str, Along], ...] = (
    ("Bring the whole story", "whole"),
    ("Bring only the words on these pages", "shown"),
    ("Leave their frames empty", "empty"),
)


class StopClip(Struct, frozen=True):
    """A frame by its page's place among those copied, and its own among the page's items, or among
    the main frames of its masters."""

    page: int
    frame: int
    main: bool


class StoryClip(Struct, frozen=True):
    """A story that flows through copied pages; `clip` holds two frames, one with all of its text,
    one with what the pages show, and what they refer to."""

    name: str
    grows: bool
    stops: tuple[StopClip, ...]
    clip: Clip


def stories_copied(composition: Composition, page_ids: Sequence[str]) -> tuple[StoryClip, ...]:
    """The stories that flow through pages, in the order of the publication."""
    publication = composition.publication
    order = {p: n for n, p in enumerate(p for p in page_facts(publication) if p in set(page_ids))}
    found = []
    for story in publication.stories:
        flow = composition.flow(story.id)
        here = [n for n, s in enumerate(flow.stops) if s.page_id in order and flow.parts[n].lines]
        if here:
            texts = (story.text, _shown(story, flow, here))
            layer = publication.layers[0].id
            frames = [
                TextFrame(id="", x=0, y=0, width=1, height=1, layer=layer, text=text)
                for text in texts
            ]
            stops = tuple(_stops(publication, flow, here, order))
            clip = clip_of(publication, frames)
            found.append(StoryClip(story.name, story.grows, stops, clip))
    return tuple(found)


def _shown(story: Story, flow: Flow, here: list[int]) -> Text:
    """The words in some stops, those of neighbours in one piece."""
    runs = [[n for _, n in run] for _, run in groupby(enumerate(here), lambda e: e[1] - e[0])]
    pieces = (words_between(story.text, flow, run[0], run[-1]) for run in runs)
    return tuple(paragraph for piece in pieces for paragraph in piece)


def _stops(
    publication: Publication, flow: Flow, here: Iterable[int], order: dict[str, int]
) -> Iterable[StopClip]:
    for n in here:
        stop = flow.stops[n]
        own = [i.id for i in find_page(publication, stop.page_id).items]
        main = stop.room.item_id not in own
        ids = _mains(publication, stop.page_id) if main else own
        yield StopClip(order[stop.page_id], ids.index(stop.room.item_id), main)


def _mains(publication: Publication, page_id: str) -> list[str]:
    """The text frames of a page's masters, main ones first, in their order."""
    side = page_facts(publication)[page_id].side
    own = {i.id for i in find_page(publication, page_id).items}
    frames = [r.item for r in items_on(publication, page_id, side) if r.item.id not in own]
    texts = [f for f in frames if isinstance(f, TextFrame)]
    return [f.id for f in sorted(texts, key=lambda f: f.main or 100)]


def stories_pasted(
    publication: Publication,
    clips: Iterable[StoryClip],
    pages: Sequence[str],
    along: Along,
    section_id: str = "",
) -> Publication:
    """The publication with the stories that came with pages, flowing through these.

    Through the main frames of a section that was pasted whole they flow as through any; on
    single pages each frame is linked, so that no story that is there is mixed with them.
    """
    if along == "empty":
        return publication
    for one in clips:
        publication, terms = brought_in(publication, one.clip)
        path = tuple(dict.fromkeys(
            _station(publication, stop, pages[stop.page], section_id) for stop in one.stops
        ))  # fmt: skip
        text = text_along(one, along)
        grows = one.grows and any(isinstance(s, MainFrames) for s in path)
        publication, _ = add_story(publication, one.name, terms.text(text), path, grows=grows)
    return publication


def text_along(one: StoryClip, along: Along) -> Text:
    """What comes along of a story."""
    frame = one.clip.items[0 if along == "whole" else 1]
    assert isinstance(frame, TextFrame)
    return frame.text


def _station(publication: Publication, stop: StopClip, page_id: str, section_id: str) -> Station:
    if not stop.main:
        return Link(page_id, find_page(publication, page_id).items[stop.frame].id)
    if section_id:
        return MainFrames(section_id)
    return Link(page_id, _mains(publication, page_id)[stop.frame])
