"""The frames that a story flows through, in order, each as a page shows it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from hidden_frame.compose.around import Obstacle, in_the_way
from hidden_frame.compose.cascade import Resolved, shown_on
from hidden_frame.compose.context import Context, standing
from hidden_frame.compose.reading import read_in_order
from hidden_frame.compose.regions import grid_in, regions_of
from hidden_frame.model.geometry import Grid, Side
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, find_section, links, positions
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.stories import Link, Story
from hidden_frame.typeset.region import Outline, Region


class Room(NamedTuple):
    """What a text frame on a page offers: its regions, from its inner corner."""

    item_id: str
    main: int
    regions: tuple[Region, ...]
    snug: bool


class Stop(NamedTuple):
    """A frame on a page through which a story flows; one that `opens` is its first there, one that
    `closes` its last."""

    page_id: str
    side: Side
    room: Room
    opens: bool = True
    closes: bool = True

    @property
    def key(self) -> tuple[str, str]:
        return self.page_id, self.room.item_id


class PageInFlow(NamedTuple):
    """A page's side, what it shows, bottom to top, its baseline grid, and what stands in its texts'
    way from the page that faces it."""

    side: Side
    items: tuple[Resolved, ...]
    grid: Grid | None = None
    over: tuple[Obstacle, ...] = ()


@remembered()
def rooms(
    items: tuple[Resolved, ...], side: Side, context: Context, grid: Grid | None = None,
    over: tuple[Obstacle, ...] = (),
) -> dict[str, Room]:  # fmt: skip
    """The visible text frames of a page, by id; those that are main first, in their order."""
    stood = (*standing(items, side, context), *over)
    frames = [
        r for r in items
        if isinstance(r.item, TextFrame) and r.item.visible and r.item.layer not in context.hidden
    ]  # fmt: skip
    frames.sort(key=lambda r: getattr(r.item, "main", 0) or 100)
    found: dict[str, Room] = {}
    for resolved in frames:
        frame = resolved.item
        assert isinstance(frame, TextFrame)
        outlines: tuple[Outline, ...] = ()
        if stood and frame.yields:
            at = shown_on(resolved, side, context.setup)
            assert isinstance(at, TextFrame)
            outlines = in_the_way(at, stood)
        regions = regions_of(frame, outlines, grid=grid_in(frame, grid, context.known))
        found[frame.id] = Room(frame.id, frame.main, regions, frame.snug)
    return found


@remembered()
def main_stops(
    page_id: str, side: Side, items: tuple[Resolved, ...], grid: Grid | None,
    over: tuple[Obstacle, ...], context: Context,
) -> tuple[Stop, ...]:  # fmt: skip
    """The main frames of a page, in the order in which they are read."""
    known = rooms(items, side, context, grid, over)
    main = [known[i] for i in read_in_order(items, side, context) if i in known]
    last = len(main) - 1
    return tuple(Stop(page_id, side, room, n == 0, n == last) for n, room in enumerate(main))


def stops_of(
    publication: Publication, story: Story, context: Context, view: Callable[[Page], PageInFlow]
) -> Iterator[Stop]:
    """The stops of a story; stations whose page, section or frame is gone are passed over.

    A frame that is linked by hand is that story's alone, also if it is a main frame.
    """
    known = positions(publication)
    sections = {s.id for s in publication.sections}
    by_hand = links(publication)
    page = ""
    behind = (*story.path[1:], None)
    for station, following in zip(story.path, behind, strict=False):
        if isinstance(station, Link):
            if station.page in known:
                side, items, grid, over = view(find_page(publication, station.page))
                room = rooms(items, side, context, grid, over).get(station.item)
                if room is not None:
                    closes = not isinstance(following, Link) or following.page != station.page
                    yield Stop(station.page, side, room, station.page != page, closes)
                    page = station.page
        elif station.section in sections:
            for each in find_section(publication, station.section).pages:
                for stop in main_stops(each.id, *view(each), context):
                    if not by_hand or stop.key not in by_hand:
                        yield stop
