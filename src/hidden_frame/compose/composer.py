"""Pages and masters to scenes, doing again only what an edit touched.

>>> composer = Composer()
>>> composer.compose(publication).scene(page).text_of()
['Field notes 1', 'After rain, by the stream.']
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from hidden_frame.compose.across import across, aside, joined, standing_over, visitors
from hidden_frame.compose.around import Obstacle, in_the_way
from hidden_frame.compose.cascade import Resolved, face_items, page_items, shown_on
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.context import Context, context_of, standing
from hidden_frame.compose.derived import TextFacts
from hidden_frame.compose.drawing import NOTHING, draw
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.given import Given
from hidden_frame.compose.markers import marker_label, marker_value, markers_in
from hidden_frame.compose.regions import grid_in
from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.compose.shortened import shortened
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.compose.stories.flowed import Flowed, flowed
from hidden_frame.compose.stories.part import StoryPart
from hidden_frame.compose.stories.stops import PageInFlow
from hidden_frame.compose.stories.trial import Trials
from hidden_frame.compose.worn import story_turns_dark, turns_dark
from hidden_frame.model.geometry import Grid, Side
from hidden_frame.model.items import Item, TextFrame
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import positions
from hidden_frame.model.memory import MEMORY, remembered
from hidden_frame.model.plane.matrix import placement
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.sides import OTHER
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Marker, Text
from hidden_frame.typeset.region import Outline


@remembered(passing=True)
def _markers_of(items: tuple[Resolved, ...]) -> tuple[Marker, ...]:
    found: dict[Marker, None] = {}
    for resolved in items:
        if isinstance(resolved.item, TextFrame):
            found.update(dict.fromkeys(markers_in(resolved.item.text)))
    return tuple(found)


class _Entry(NamedTuple):
    """A page's scene with all that it was made of; while that is the same, it is right."""

    page: Page
    stack: tuple[Resolved, ...]
    context: Context
    side: Side
    hides_folio: bool
    values: dict[Marker, str]
    shorts: dict[Marker, str]
    parts: tuple[StoryPart, ...]
    grid: Grid | None
    over: tuple[Obstacle, ...]
    scene: Scene


class Composer:
    """Remembers each page's last scene; `composed` counts the scenes it has made."""

    def __init__(self) -> None:
        self._pages: dict[str, _Entry] = {}
        self._masters: dict[
            tuple[str, Side],
            tuple[tuple[Resolved, ...], Context, Grid | None, tuple[Obstacle, ...], Scene],
        ] = {}
        self._flows: dict[str, Flowed] = {}
        self._whole: dict[str, Flowed] = {}  # the last ones that were filled to their end
        self._there: dict[str, int] = {}  # the pages that there were when some were forgotten
        self.composed = 0
        self.given = Given()
        self._last: Composition | None = None
        self.trials = Trials()
        self.lists: dict[object, tuple[tuple[object, ...], Text]] = {}
        self.told: tuple[object, ...] = ()
        self.ruling: tuple[tuple[object, ...], object] | None = None
        self.settled: Publication | None = None  # the last one that was found to be so

    def compose(self, publication: Publication) -> Composition:
        """The composition of a publication; nothing is worked out before it is asked for."""
        MEMORY.turn(publication)
        if self._last is None or self._last.publication is not publication:
            self._last = Composition(self, publication)
        return self._last

    def page(
        self,
        publication: Publication,
        page: Page,
        facts: PageFacts,
        stack: tuple[Resolved, ...],
        told: dict[str, StoryPart],
        said: TextFacts,
        over: tuple[Obstacle, ...] = (),
        faced: bool = False,
    ) -> Scene:
        """A page's scene without what reaches over onto it; `stack` is what its masters carry for
        its side, `told` what of stories stands in its frames, `said` what markers show of texts,
        `over` what stands in its texts' way from the page that faces it, if it is `faced`."""
        context = context_of(publication)
        entry = self._pages.get(page.id)
        if (
            entry is not None
            and entry.page is page
            and entry.stack is stack
            and entry.context is context
            and entry.side == facts.side
            and entry.hides_folio == facts.hides_folio
            and entry.parts == tuple(told.values())
            and entry.grid == page_layout(publication, page).grid
            and entry.over == over
            and entry.scene.faced == faced
            and entry.values == self._values(publication, facts, entry.values, said)
            and entry.shorts == _shorts(entry.values, facts, said)
        ):
            return entry.scene
        items = page_items(publication, page, stack)
        markers = _markers_of(items)
        values = self._values(publication, facts, markers, said)
        shorts = _shorts(markers, facts, said)
        stood = (*standing(items, facts.side, context), *over)
        grid = page_layout(publication, page).grid
        placed = []
        for resolved in items:
            part = told.get(resolved.item.id)
            hides = facts.hides_folio
            one = self._place(
                resolved, facts.side, values, context, hides, stood, grid, part, shorts
            )
            if one is not None:
                placed.append(one)
        trim = context.setup.trim
        scene = Scene(
            page.id, facts.side, (trim.width, trim.height), context.setup.bleed, tuple(placed),
            faced=faced,
        )  # fmt: skip
        self.composed += 1
        self._pages[page.id] = _Entry(
            page, stack, context, facts.side, facts.hides_folio, values, shorts,
            tuple(told.values()), grid, over, scene,
        )  # fmt: skip
        return scene

    def _place(
        self,
        resolved: Resolved,
        side: Side,
        values: dict[Marker, str],
        context: Context,
        hides_folio: bool,
        stood: tuple[Obstacle, ...],
        grid: Grid | None,
        part: StoryPart | None = None,
        shorts: dict[Marker, str] | None = None,
    ) -> Placed | None:
        """An item's drawing at its place, with its `part` of a story; None if it is not to be
        seen."""
        item = resolved.item
        own: tuple[str, ...] = ()
        outlines = NOTHING
        if isinstance(item, TextFrame) and part is None:
            markers = markers_in(item.text)
            if markers:
                if hides_folio and any(m.shows == "folio" for m in markers):
                    return None
                own = tuple([values[m] for m in markers])
            if stood and item.yields:
                at = shown_on(resolved, side, context.setup)
                assert isinstance(at, TextFrame)
                outlines = in_the_way(at, stood)
        # The wrapping is made anew whenever a base changes, the item itself is not.
        on_grid = None
        if isinstance(item, TextFrame) and part is None:
            on_grid = grid_in(item, grid, context.known)
            if shorts and own and not item.grows and any(m in shorts for m in markers):
                short = tuple(shorts.get(m) for m in markers)
                own = shortened(item, side, own, short, context.known, outlines, on_grid)
        return _placed(item, *resolved[1:], side, own, context, outlines, part, on_grid)

    def master(self, publication: Publication, master_id: str, side: Side) -> Scene:
        """A master's face, with what reaches over the spine from the other one."""
        context = context_of(publication)
        facing = context.setup.facing
        sides: tuple[Side, ...] = (side, OTHER[side]) if facing else (side,)
        items = [face_items(publication, master_id, each) for each in sides]
        over = [across(i, each, context) for i, each in zip(items, sides, strict=True)]
        scenes = [
            self._face(publication, master_id, each, items[n], (
                standing_over(over[1 - n], master_id, OTHER[each], context)
                if facing and over[1 - n] else ()
            ))
            for n, each in enumerate(sides) if n == 0 or over[1]
        ]  # fmt: skip
        if len(scenes) < 2:
            return scenes[0]
        ids = frozenset(r.item.id for r in over[1])
        seen = visitors(scenes[1], ids, aside(sides[1], context.setup), (master_id, sides[1]))
        return joined(scenes[0], seen, sides[1] == "verso")

    def _face(
        self,
        publication: Publication,
        master_id: str,
        side: Side,
        items: tuple[Resolved, ...],
        over: tuple[Obstacle, ...],
    ) -> Scene:
        context = context_of(publication)
        grid = master_layout(publication, master_id).grid
        known = self._masters.get((master_id, side))
        same = known is not None and known[0] is items and known[1] is context
        if known is not None and same and known[2:4] == (grid, over):
            return known[4]
        values = {m: marker_label(m, publication) for m in _markers_of(items)}
        stood = (*standing(items, side, context), *over)
        placed = [
            self._place(resolved, side, values, context, False, stood, grid) for resolved in items
        ]
        trim = context.setup.trim
        scene = Scene(
            master_id,
            side,
            (trim.width, trim.height),
            context.setup.bleed,
            tuple(one for one in placed if one is not None),
            is_master=True,
            faced=context.setup.facing,
        )
        self._masters[master_id, side] = (items, context, grid, over, scene)
        return scene

    def flow(
        self, publication: Publication, story: Story, view: Callable[[Page], PageInFlow]
    ) -> Flow:
        """A story in its stops; what did not move is taken from the flow before: the last one that
        was filled to its end, since a draft's is only as far as somebody looked."""
        context = context_of(publication)
        before = self._flows.get(story.id)
        if before is not None and before.flow.whole:
            self._whole[story.id] = before
        before = self._whole.get(story.id, before)
        found = flowed(publication, story, context, view, before, self.given)
        self._flows[story.id] = found
        return found.flow

    def _values(
        self,
        publication: Publication,
        facts: PageFacts,
        markers: Iterable[Marker],
        said: TextFacts,
    ) -> dict[Marker, str]:
        """What these markers show on a page."""
        return {m: marker_value(m, facts, publication, said, self.given) for m in markers}

    def labels(self, story_id: str) -> tuple[str, ...] | None:
        """What stands before each paragraph of a story; None if nothing does."""
        return self._flows[story_id].text.labels

    def forget_missing(self, publication: Publication) -> None:
        """Drops what is kept of pages that are gone."""
        there = positions(publication)
        if there is not self._there:
            self._there = there
            self._pages = {i: entry for i, entry in self._pages.items() if i in there}


_NONE: dict[Marker, str] = {}  # one for all the pages without any


def _shorts(markers: Iterable[Marker], facts: PageFacts, said: TextFacts) -> dict[Marker, str]:
    """The short form of each running head among markers."""
    heads = [m for m in markers if m.head is not None]
    return {m: said.short(m, facts) for m in heads} if heads else _NONE


@remembered(by_value=("overridden", "own", "outlines", "on_grid"), passing=True)
def _placed(
    item: Item,
    carrier: str | None,
    overridden: tuple[str, ...],
    side: Side,
    own: tuple[str, ...],
    context: Context,
    outlines: tuple[Outline, ...],
    part: StoryPart | None,
    on_grid: tuple[float, float] | None,
) -> Placed | None:
    """An item's drawing at its place.  Master items look alike on hundreds of pages and are
    placed once for all of them; a page's own items that did not change keep their places too."""
    if not item.visible or item.layer in context.hidden:
        return None
    drawing = draw(item, side, own, context.known, context.pictures, outlines, part, on_grid)
    at = shown_on(Resolved(item, carrier, overridden), side, context.setup)
    matrix = placement(at.x, at.y, at.width, at.height, at.rotation)
    dark = None
    turns = turns_dark(item, context.known) if part is None else story_turns_dark(item, part.text)
    if turns:
        dark = draw(
            item, side, own, context.known, context.pictures, outlines, part, on_grid, dark=True
        )
    return Placed(
        drawing,
        matrix,
        item.id,
        carrier,
        overridden,
        item.layer not in context.silent,
        item.layer in context.locked or (item.locked and carrier is None),
        item.blend == "multiply",
        item.name,
        (context.order.get(item.layer, 0), carrier is None),
        dark=dark,
    )
