"""One direction of a page before and after: the lines that things lie on, and where a thing goes.

All maps are their own inverse with old and new exchanged, as long as a thing lies on the same
lines in both.
"""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise
from typing import NamedTuple

ON = 0.01  # points: nearer to a line than this is on it
NEAR = 12.0  # points, a pica: what is no farther from a line than this keeps its distance to it


class MovedLine(NamedTuple):
    """Where a line lies before, and where after."""

    old: float
    new: float


class Axis(NamedTuple):
    """The lines of a direction.  `low` and `high` are the trim's edges, `area` the margins,
    `bleed` what lies a bleed's width outside of them; `stops`, in order, are the edges and margins
    between which what lies on no line is shared out, of the page that faces it too.  `lines` are
    all that hold things.  The spine lies at the `low` edge, or at the high one.
    """

    low: MovedLine
    high: MovedLine
    area: tuple[MovedLine, MovedLine]
    bleed: tuple[MovedLine, MovedLine]
    stops: tuple[MovedLine, ...]
    lines: tuple[MovedLine, ...]
    from_low: bool = True


def axis(
    length: MovedLine,
    margins: tuple[MovedLine, MovedLine],
    bleed: MovedLine,
    inner: Iterable[MovedLine] = (),
    facing: str = "",
) -> Axis:
    """An axis from the trim's length, the margins at its low and high edge, the bleed, and more
    lines (columns, guides).  `facing` says at which edge another page lies: "low", "high" or "".
    """
    low, high = MovedLine(0.0, 0.0), length
    begin, end = margins[0], MovedLine(length.old - margins[1].old, length.new - margins[1].new)
    stops: tuple[MovedLine, ...] = (low, begin, end, high)
    inside = tuple(inner)
    beyond: tuple[MovedLine, ...] = ()
    if facing:
        # What faces it is its mirror image, beyond the spine.
        spine = low if facing == "low" else high
        beyond = tuple(_mirrored(line, spine) for line in (*stops, *inside))
        turned = tuple(_mirrored(line, spine) for line in reversed(stops))
        stops = (*turned[:-1], *stops) if facing == "low" else (*stops, *turned[1:])
    outside = (
        MovedLine(-bleed.old, -bleed.new),
        MovedLine(length.old + bleed.old, length.new + bleed.new),
    )
    lines = tuple(dict.fromkeys((low, high, begin, end, *outside, *inside, *beyond)))
    return Axis(low, high, (begin, end), outside, stops, lines, facing != "high")


def _mirrored(line: MovedLine, spine: MovedLine) -> MovedLine:
    return MovedLine(2 * spine.old - line.old, 2 * spine.new - line.new)


def shared_out(x: float, along: Axis) -> float:
    """Where a point goes that no line holds.

    Between two stops, a third of the shorter distance at each end keeps its distance to that
    stop; what lies between is spread evenly.  Outside of all, the distance to the edge is kept.
    """
    stops = along.stops
    if x <= stops[0].old:
        return x - stops[0].old + stops[0].new
    for low, high in pairwise(stops):
        if x > high.old:
            continue
        old, new = high.old - low.old, high.new - low.new
        kept = min(old, new) / 3
        if x - low.old <= kept:
            return low.new + (x - low.old)
        if high.old - x <= kept:
            return high.new - (high.old - x)
        return low.new + kept + (x - low.old - kept) * (new - 2 * kept) / (old - 2 * kept)
    return x - stops[-1].old + stops[-1].new


class Hold(NamedTuple):
    """What holds a thing: a line at its `low` edge or its `high` one, both (it spans from one to
    the other), or a `centre`; nothing at all: it is shared out."""

    low: MovedLine | None = None
    high: MovedLine | None = None
    centre: tuple[MovedLine, MovedLine] | None = None

    @property
    def spans(self) -> bool:
        return self.low is not None and self.high is not None


def hold(a: float, b: float, along: Axis) -> Hold:
    """What holds a thing that reaches from a to b."""
    low, high = _nearest(a, along), _nearest(b, along)
    to_low, to_high = abs(a - low.old), abs(b - high.old)
    both = max(to_low, to_high)
    if low.old < high.old and (both <= ON or (both <= NEAR and b - a > 2 * NEAR)):
        return Hold(low, high)
    if min(to_low, to_high) > ON:
        for pair in ((along.low, along.high), along.area):
            if abs(a + b - pair[0].old - pair[1].old) <= 2 * ON:
                return Hold(centre=pair)
    if min(to_low, to_high) > NEAR:
        return Hold()
    low_first = to_low < to_high or (to_low == to_high and along.from_low)
    return Hold(low=low) if low_first else Hold(high=high)


def _nearest(x: float, along: Axis) -> MovedLine:
    """The line that is nearest; of two as near, the one nearer to the spine."""
    way = 1.0 if along.from_low else -1.0
    return min(along.lines, key=lambda line: (abs(line.old - x), way * line.old))


def placed(
    a: float,
    b: float,
    along: Axis,
    size: float | None = None,
    *,
    rigid: bool = False,
    gives: bool = False,
) -> tuple[float, float]:
    """Where a thing that reaches from a to b goes.

    What spans from one line to another goes on spanning, unless it is `rigid` or gets a `size` all
    the same.  Of what `gives`, each edge that no line holds is shared out.  What reaches the edge
    of the bleed, goes on reaching it.
    """
    grown = (0.0, 0.0)
    if size is None and not rigid:
        a, b, grown = _trimmed(a, b, along)
    held = hold(a, b, along)
    if held.spans and size is None and not rigid:
        assert held.low is not None and held.high is not None
        low = a - held.low.old + held.low.new
        high = b - held.high.old + held.high.new
        if high < low:  # two lines changed places
            low = high = (low + high) / 2
    elif gives:
        low = shared_out(a, along) if held.low is None else a - held.low.old + held.low.new
        high = shared_out(b, along) if held.high is None else b - held.high.old + held.high.new
        low, high = min(low, high), max(low, high)
    else:
        low, high = _moved(a, b, b - a if size is None else size, held, along)
    return low - grown[0], high + grown[1]


def _trimmed(a: float, b: float, along: Axis) -> tuple[float, float, tuple[float, float]]:
    """A thing without what of it lies in the bleed, and how much of that there will be."""
    low = high = 0.0
    if abs(a - along.bleed[0].old) <= ON and b > along.low.old:
        low, a = along.low.new - along.bleed[0].new, along.low.old
    if abs(b - along.bleed[1].old) <= ON and a < along.high.old:
        high, b = along.bleed[1].new - along.high.new, along.high.old
    return a, b, (low, high)


def _moved(a: float, b: float, size: float, held: Hold, along: Axis) -> tuple[float, float]:
    if held.centre is not None:
        middle = (held.centre[0].new + held.centre[1].new) / 2
        return middle - size / 2, middle + size / 2
    at_low = held.low is not None and (held.high is None or along.from_low)
    if at_low and held.low is not None:
        start = a - held.low.old + held.low.new
        return start, start + size
    if held.high is not None:
        end = b - held.high.old + held.high.new
        return end - size, end
    if along.from_low:
        start = _within(shared_out(a, along), size, _room(a, b, along))
        return start, start + size
    end = -_within(-shared_out(b, along), size, _turned(_room(a, b, along)))
    return end - size, end


def _room(a: float, b: float, along: Axis) -> tuple[float, float] | None:
    """Between which stops a thing lies now, as they will be."""
    for low, high in [*pairwise(along.stops), (along.low, along.high)]:
        if low.old - ON <= a and b <= high.old + ON:
            return low.new, high.new
    return None


def _turned(room: tuple[float, float] | None) -> tuple[float, float] | None:
    return None if room is None else (-room[1], -room[0])


def _within(start: float, size: float, room: tuple[float, float] | None) -> float:
    """A start that keeps a thing in its room, where it fits."""
    if room is None or size > room[1] - room[0]:
        return start
    return min(max(start, room[0]), room[1] - size)
