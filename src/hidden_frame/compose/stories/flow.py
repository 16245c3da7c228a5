"""A story filled into its stops, doing again only what an edit moved.

What stands in a stop is kept from one flow to the next where the stop is the same, its text
begins at the same place of a paragraph, and the paragraphs that it looked at are the same
objects: so an edit sets its paragraph, fills from its page on, and is done where a page begins
with the same line as before.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from operator import is_

from hidden_frame.compose.stories.part import StoryPart
from hidden_frame.compose.stories.stops import Stop
from hidden_frame.compose.textspec import StorySpecs
from hidden_frame.model.memory import remembered
from hidden_frame.model.same import same_ends
from hidden_frame.typeset.fill import Fragment, Opening, Where, fill
from hidden_frame.typeset.paragraph import ParagraphSpec, words_in
from hidden_frame.typeset.paragraphs import set_paragraph
from hidden_frame.typeset.text import SetText

_MOST_AHEAD = 512  # paragraphs set at once; with more, arrays no longer fit the cache
_FAR = 50  # stops: who wants more at once does not wait longer for the first ones
_SLICE, _MOST_IN_A_SLICE = 4, 10  # stops filled, and paragraphs set, in a few milliseconds
_PATIENCE = 2  # pages
_NOTHING = Fragment((), 0.0, None)


class Flow:
    """A story in its stops, filled as far as somebody asks: the page in sight does not wait for
    those behind it.

    `parts` are what stands in each stop, `starts` where each begins, and `rest` is where what has
    no room begins (None: all of it stands somewhere); asking for these fills all stops.
    """

    __slots__ = (
        "_ahead", "_measure", "_old", "_parts", "_prepared", "_starts", "_where",
        "frames", "index", "specs", "stops",
    )  # fmt: skip

    def __init__(
        self, stops: tuple[Stop, ...], specs: StorySpecs, before: Flow | None = None
    ) -> None:
        self.stops, self.specs = stops, specs
        self._parts: list[StoryPart] = []
        self._starts: list[Where] = []
        self._where: Where | None = Where() if specs.recto else None
        self._measure, self._prepared, self._ahead = 0.0, 0, 16
        # What stood where, without what the flow before it had kept of its own.
        self._old = None if before is None else _Old(before)
        same = before is not None and before.stops is stops
        self.index: dict[tuple[str, str], int] = before.index if same else _index(stops)  # type: ignore[union-attr]
        self.frames: dict[str, list[str]] = before.frames if same else _frames(stops)  # type: ignore[union-attr]
        if same and before is not None:
            self._take_head(before)

    def _take_head(self, before: Flow) -> None:
        """The stops that looked at nothing but paragraphs before the first one that is another."""
        assert self._old is not None
        head, foot = same_ends(before.specs.recto, self.specs.recto)
        if before.specs.verso is not before.specs.recto or self.specs.verso is not self.specs.recto:
            there, behind = same_ends(before.specs.verso, self.specs.verso)
            head, foot = min(head, there), min(foot, behind)
        self._old.foot = foot
        starts = before._starts
        # A part looks at paragraphs up to the one in which the next part starts.
        count = max(bisect_left(starts, head, key=_paragraph) - 1, 0)
        while count and _looked_to(before, count - 1) > head:
            count -= 1  # what is to be kept together is looked at further on
        if 0 < count < len(starts):
            self._parts, self._starts = before._parts[:count], starts[:count]
            self._where = starts[count]

    def _fill(self, count: int, most: int = _MOST_AHEAD) -> None:
        """Fills as many stops, from where the last one ended, `most` paragraphs set at once."""
        if count - len(self._parts) > _FAR:
            self._ahead = most  # they are all wanted now
        end = Where(len(self.specs.recto))
        for number in range(len(self._parts), min(count, len(self.stops))):
            stop = self.stops[number]
            begin = self._where if self._where is not None else end
            specs = self.specs.on(stop.side)
            part, opening = self._kept(number, stop), self._opening(number, stop, begin)
            if part is None or part.opening != opening or not _still(part, begin, specs):
                self._prepare(specs, begin.paragraph, stop, most)
                part = _filled(stop, specs, begin, number == 0, opening)
            elif self._take_foot(number, begin):
                break
            self._starts.append(begin)
            self._parts.append(part)
            self._where = _behind(begin, part)
        if len(self._parts) == len(self.stops):
            self._old = None

    def _opening(self, number: int, stop: Stop, begin: Where) -> Opening:
        """What a stop is to a paragraph that asks for a page: after two pages in vain it starts
        anywhere, so that a side which no frame stands on is not waited for for ever."""
        waited, pages = number, 0
        while waited and not self._parts[waited - 1].lines and self._starts[waited - 1] == begin:
            waited -= 1
            pages += self.stops[waited].opens
            if pages >= _PATIENCE:
                return Opening()
        return Opening(True, stop.opens, stop.side)

    def _prepare(self, specs: list[ParagraphSpec], first: int, stop: Stop, most: int) -> None:
        """Sets the next paragraphs at once, which is quicker than one after the other: few for
        the page in sight, more and more for those behind it."""
        region = stop.room.regions[0]
        if region.outlines or (region.measure == self._measure and first < self._prepared):
            return
        ahead = min(self._ahead, most)
        self._measure, self._prepared = region.measure, first + ahead
        set_paragraph.each(specs[first : self._prepared], region.measure)
        self._ahead = min(2 * ahead, most)

    def _take_foot(self, number: int, begin: Where) -> bool:
        """All that is left as it was, where the text from here on is the same and begins at the
        same place of this very stop: only the numbers of paragraphs may be others."""
        old = self._old
        if old is None or old.stops is not self.stops or len(old.parts) < len(self.stops):
            return False
        by = len(self.specs.recto) - old.paragraphs
        was = old.starts[number]
        if begin.paragraph < len(self.specs.recto) - old.foot or was.place != begin.place:
            return False
        if was.paragraph + by != begin.paragraph:
            return False
        self._parts += old.parts[number:]
        self._starts += [Where(w.paragraph + by, w.place) for w in old.starts[number:]]
        self._where = _behind(self._starts[-1], self._parts[-1])
        return True

    def _kept(self, number: int, stop: Stop) -> StoryPart | None:
        """What stood in this very stop, if its shape is the same and it is as much the first."""
        old = self._old
        if old is None:
            return None
        at = old.index.get(stop.key)
        if at is None or at >= len(old.parts) or (at == 0) != (number == 0):
            return None
        then = old.stops[at]
        same = then.room is stop.room or then.room == stop.room
        same = same and (then.side, then.closes) == (stop.side, stop.closes)
        return old.parts[at] if same else None

    def filling(self, sliced: bool = True) -> Iterator[None]:
        """Fills all stops, if `sliced` a few at a time, so that who waits can do something else
        between; all at once is quicker."""
        each = _SLICE if sliced else len(self.stops)
        most = _MOST_IN_A_SLICE if sliced else _MOST_AHEAD
        while len(self._parts) < len(self.stops):
            self._fill(len(self._parts) + each, most)
            yield

    @property
    def whole(self) -> bool:
        """Whether it has been filled to its end."""
        return len(self._parts) == len(self.stops)

    @property
    def parts(self) -> list[StoryPart]:
        self._fill(len(self.stops))
        return self._parts

    @property
    def starts(self) -> list[Where]:
        self._fill(len(self.stops))
        return self._starts

    @property
    def rest(self) -> Where | None:
        self._fill(len(self.stops))
        return self._where

    def part(self, page_id: str, item_id: str) -> StoryPart | None:
        """What stands in a frame on a page; None if the story does not come there."""
        at = self.index.get((page_id, item_id))
        if at is None:
            return None
        self._fill(at + 1)
        return self._parts[at]

    def first_paragraph(self, page_id: str, item_id: str) -> int:
        """The number in the story of the paragraph from which a part counts."""
        at = self.index[page_id, item_id]
        self._fill(at + 1)
        return self._starts[at].paragraph

    def stops_of(self, places: Sequence[tuple[int, int]]) -> list[int | None]:
        """The same as `stop_of` for many places, rising or not, in one go."""
        self._fill(len(self.stops))
        starts = [_place(where) for where in self._starts]
        end = _place(self._where) if self._where is not None else None
        found: list[int | None] = []
        for place in places:
            if not starts or (end is not None and end <= place):
                found.append(None)
                continue
            at = bisect_right(starts, place) - 1
            while at > 0 and not self._parts[at].lines:
                at -= 1
            found.append(max(at, 0))
        return found

    def parts_to(self, count: int) -> list[StoryPart]:
        """What stands in the first so many stops."""
        self._fill(count)
        return self._parts[:count]

    def where(self, number: int) -> Where:
        """Where a stop begins; behind the last one, where what has no room begins, or the end."""
        self._fill(number)
        at = self._starts[number] if number < len(self._starts) else self._where
        return Where(len(self.specs.recto)) if at is None else at

    def trial(self, stop: Stop, number: int, begin: Where, kept: StoryPart | None) -> StoryPart:
        """What would stand in a stop that is none of the story's, as if it were the one of that
        number; `kept` is what did the last time."""
        specs = self.specs.on(stop.side)
        opening = self._opening(number, stop, begin)
        if kept is not None and kept.opening == opening and _still(kept, begin, specs):
            return kept
        return _filled(stop, specs, begin, number == 0, opening)

    def behind(self, begin: Where, part: StoryPart) -> Where:
        """Where the text goes on behind a part that begins at a place."""
        found = _behind(begin, part)
        return Where(len(self.specs.recto)) if found is None else found

    def start_of(self, number: int) -> tuple[int, int]:
        """The paragraph and the offset at which a stop begins; behind the last one, where what has
        no room begins, or the text ends."""
        return _place(self.where(number))

    @property
    def characters_left(self) -> int:
        """How many characters have no room."""
        if self.rest is None:
            return 0
        behind = self.specs.recto[self.rest.paragraph :]
        return max(sum(len(words_in(spec)) for spec in behind) - self.rest.place.offset, 0)

    @property
    def characters(self) -> int:
        """How many there are."""
        return sum(len(words_in(spec)) for spec in self.specs.recto)

    @property
    def words_left(self) -> int:
        """How many words have no room, of all that stands behind the last stop."""
        rest = self.rest
        if rest is None:
            return 0
        specs = self.specs.recto
        first = specs[rest.paragraph] if rest.paragraph < len(specs) else None
        text = words_in(first) if first is not None else ""
        count = len(text[rest.place.offset :].split())
        return count + sum(words_of.each(specs[rest.paragraph + 1 :]))

    def stop_of(self, paragraph: int, offset: int) -> int | None:
        """The stop in which a place of the story stands; None if it has no room or no frame."""
        place = (paragraph, offset)
        while len(self._parts) < len(self.stops) and (
            self._where is not None and _place(self._where) <= place
        ):
            self._fill(len(self._parts) + 8)
        if not self._parts and self.stops:
            self._fill(1)
        if not self._parts or (self._where is not None and _place(self._where) <= place):
            return None
        at = bisect_right(self._starts, place, key=_place) - 1
        while at > 0 and not self._parts[at].lines:
            at -= 1  # an empty stop at whose head the text goes on
        return max(at, 0)


def _index(stops: tuple[Stop, ...]) -> dict[tuple[str, str], int]:
    return {stop.key: n for n, stop in enumerate(stops)}


def _frames(stops: tuple[Stop, ...]) -> dict[str, list[str]]:
    """The frames of each page."""
    found: dict[str, list[str]] = {}
    for stop in stops:
        found.setdefault(stop.page_id, []).append(stop.room.item_id)
    return found


class _Old:
    """What a flow before stood like: its stops and parts, and how many paragraphs at the text's
    foot are the same now."""

    __slots__ = ("foot", "index", "paragraphs", "parts", "starts", "stops")

    def __init__(self, flow: Flow) -> None:
        self.index, self.stops = flow.index, flow.stops
        self.parts, self.starts = flow._parts, flow._starts
        self.paragraphs = len(flow.specs.recto)
        self.foot = 0


def _looked_to(flow: Flow, number: int) -> int:
    """The number behind the last paragraph that a stop looked at."""
    return flow._starts[number].paragraph + len(flow._parts[number].looked_at)


def _behind(begin: Where, part: StoryPart) -> Where | None:
    """Where the text goes on behind a part."""
    rest = part.rest
    return None if rest is None else Where(begin.paragraph + rest.paragraph, rest.place)


def _paragraph(where: Where) -> int:
    return where.paragraph


@remembered()
def words_of(spec: ParagraphSpec) -> int:
    """How many words a paragraph has."""
    return len(words_in(spec).split())


def _place(where: Where) -> tuple[int, int]:
    return where.paragraph, where.place.offset


def _still(part: StoryPart, begin: Where, specs: Sequence[ParagraphSpec]) -> bool:
    """Whether a part is still right for text that begins at a place."""
    if part.begin != begin.place:
        return False
    seen, first = part.looked_at, begin.paragraph
    end = first + len(seen)
    if end > len(specs) or (part.rest is None and end < len(specs)):
        return False
    return all(map(is_, seen, specs[first:end]))


def _filled(
    stop: Stop, specs: Sequence[ParagraphSpec], begin: Where, first: bool, opening: Opening
) -> StoryPart:
    """A stop filled from a place on; the space above a paragraph counts at the story's head."""
    origin = begin.paragraph
    fragments: list[Fragment] = []
    seen = origin
    where: Where | None = begin if origin < len(specs) else None
    for number, region in enumerate(stop.room.regions):
        if where is None:
            fragments.append(_NOTHING)
            continue
        spaced = first and number == 0 and not stop.room.snug
        here = opening if number == 0 else Opening(False, False)
        closing = stop.side if stop.closes and number == len(stop.room.regions) - 1 else ""
        fragment = fill(
            specs, region, where, spaced=spaced, origin=origin, opening=here, closing=closing
        )
        fragments.append(fragment)
        seen = max(seen, fragment.seen)
        where = fragment.rest
    looked_at = tuple(specs[origin:seen])
    columns = tuple((region.left, region.right) for region in stop.room.regions)
    shown = looked_at[: 1 + max((b.paragraph for f in fragments for b in f.blocks), default=-1)]
    text = SetText(tuple(fragments), columns, shown)
    rest = None if where is None else Where(where.paragraph - origin, where.place)
    return StoryPart(begin.place, rest, text, looked_at, opening)
