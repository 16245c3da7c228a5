"""A story filled into its stops, doing again only what an edit moved.

What stands in a stop is kept from one flow to the next where the stop is the same, its text
begins at the same place of a paragraph, and the paragraphs that it looked at are the same
objects: so an edit sets its paragraph, fills from its page on, and is done where a page begins
with the same line as before.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from operator import is_

from hidden_frame.compose.stories.part import Part
from hidden_frame.compose.stories.stops import Stop
from hidden_frame.model.geometry import Side
from hidden_frame.model.memory import remembered
from hidden_frame.typeset.fill import Fragment, Where, fill
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.text import SetText

Specs = Mapping[Side, Sequence[ParagraphSpec]]
_NOTHING = Fragment((), 0.0, None)


class Flow:
    """A story's stops with their parts; `starts` are where each part begins, and `rest` is where
    what has no room begins (None: all of it stands somewhere)."""

    __slots__ = ("frames", "index", "parts", "rest", "specs", "starts", "stops")

    def __init__(
        self,
        stops: tuple[Stop, ...],
        parts: list[Part],
        starts: list[Where],
        rest: Where | None,
        specs: Specs,
    ) -> None:
        self.stops, self.parts, self.starts = stops, parts, starts
        self.rest, self.specs = rest, specs
        self.index = {stop.key: n for n, stop in enumerate(stops)}
        self.frames: dict[str, list[str]] = {}  # the frames of each page
        for stop in stops:
            self.frames.setdefault(stop.page_id, []).append(stop.room.item_id)

    def part(self, page_id: str, item_id: str) -> Part | None:
        """What stands in a frame on a page; None if the story does not come there."""
        at = self.index.get((page_id, item_id))
        return self.parts[at] if at is not None else None

    def first_paragraph(self, page_id: str, item_id: str) -> int:
        """The number in the story of the paragraph from which a part counts."""
        return self.starts[self.index[page_id, item_id]].paragraph

    @property
    def words_left(self) -> int:
        """How many words have no room, of all that stands behind the last stop."""
        if self.rest is None:
            return 0
        specs = self.specs["recto"]
        first = specs[self.rest.paragraph] if self.rest.paragraph < len(specs) else None
        text = "".join(s.text for s in first.spans) if first is not None else ""
        count = len(text[self.rest.place.offset :].split())
        return count + sum(words_of.each(specs[self.rest.paragraph + 1 :]))

    def stop_of(self, paragraph: int, offset: int) -> int | None:
        """The stop in which a place of the story stands; None if it has no room or no frame."""
        if not self.stops or (self.rest is not None and _place(self.rest) <= (paragraph, offset)):
            return None
        places = [_place(start) for start in self.starts]
        at = bisect_right(places, (paragraph, offset)) - 1
        while at > 0 and not self.parts[at].lines:
            at -= 1  # an empty stop at whose head the text goes on
        return max(at, 0)


@remembered()
def words_of(spec: ParagraphSpec) -> int:
    """How many words a paragraph has."""
    return len("".join(span.text for span in spec.spans).split())


def _place(where: Where) -> tuple[int, int]:
    return where.paragraph, where.place.offset


def flow(stops: tuple[Stop, ...], specs: Specs, before: Flow | None = None) -> Flow:
    """Fills the stops with the paragraphs, which are given as they are set on either side."""
    parts: list[Part] = []
    starts: list[Where] = []
    where: Where | None = Where()
    end = Where(len(specs["recto"]))
    for number, stop in enumerate(stops):
        starts.append(where if where is not None else end)
        begin = starts[-1]
        old = _old_part(before, number, stop)
        part = old if old is not None and _still(old, begin, specs[stop.side]) else None
        if part is None:
            part = _filled(stop, specs[stop.side], begin, first=number == 0)
        parts.append(part)
        rest = part.rest
        where = None if rest is None else Where(begin.paragraph + rest.paragraph, rest.place)
    if not stops and end.paragraph:
        return Flow(stops, parts, starts, Where(), specs)
    return Flow(stops, parts, starts, where, specs)


def _old_part(before: Flow | None, number: int, stop: Stop) -> Part | None:
    """What stood in this very stop, if it has the same shape and comes first or later as then."""
    if before is None:
        return None
    at = before.index.get(stop.key)
    if at is None or (at == 0) != (number == 0):
        return None
    old = before.stops[at]
    same = old.room is stop.room or old.room == stop.room
    return before.parts[at] if same and old.side == stop.side else None


def _still(part: Part, begin: Where, specs: Sequence[ParagraphSpec]) -> bool:
    """Whether a part is still right for text that begins at a place."""
    if part.begin != begin.place:
        return False
    seen, first = part.looked_at, begin.paragraph
    end = first + len(seen)
    if end > len(specs) or (part.rest is None and end < len(specs)):
        return False
    return all(map(is_, seen, specs[first:end]))


def _filled(stop: Stop, specs: Sequence[ParagraphSpec], begin: Where, first: bool) -> Part:
    """A stop filled from a place on; the space above a paragraph counts at the story's head."""
    origin = begin.paragraph
    fragments: list[Fragment] = []
    where: Where | None = begin if origin < len(specs) else None
    for number, region in enumerate(stop.room.regions):
        if where is None:
            fragments.append(_NOTHING)
            continue
        spaced = first and number == 0 and not stop.room.snug
        fragment = fill(specs, region, where, spaced=spaced, origin=origin)
        fragments.append(fragment)
        where = fragment.rest
    last = len(specs) - 1 if where is None else where.paragraph
    looked_at = tuple(specs[origin : last + 1])
    columns = tuple((region.left, region.right) for region in stop.room.regions)
    shown = looked_at[: 1 + max((b.paragraph for f in fragments for b in f.blocks), default=-1)]
    text = SetText(tuple(fragments), columns, shown)
    rest = None if where is None else Where(where.paragraph - origin, where.place)
    return Part(begin.place, rest, text, looked_at)
