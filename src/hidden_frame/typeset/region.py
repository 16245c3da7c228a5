"""A region that text fills: one column, and outlines that stand in its way.

>>> Region(0.0, 100.0).free(0.0, 12.0)
(0.0, 100.0, inf)
"""

from __future__ import annotations

import math
from typing import NamedTuple

from hidden_frame.model.memory import remembered

Corners = tuple[tuple[float, float], ...]  # of a polygon, in points
_HAIR = 0.001  # points; what only touches a line is not in its way


class Outline(NamedTuple):
    """What stands in the way; text runs on `both` of its sides, or on the wider one."""

    corners: Corners
    both: bool = False


class Region(NamedTuple):
    """From `left` to `right`, `height` points high; y counts from its top.

    `grid` is how far down the first line of the baseline grid lies, and its step (points).
    """

    left: float
    right: float
    height: float = math.inf
    outlines: tuple[Outline, ...] = ()
    grid: tuple[float, float] | None = None

    @property
    def measure(self) -> float:
        """How wide a line may be where nothing is in its way."""
        return self.right - self.left

    @property
    def limit(self) -> float:
        """How far down the last line may reach."""
        return self.height + 0.01

    def free(self, top: float, height: float) -> tuple[float, float, float]:
        """The widest free stretch in a band, and where to look if it is too narrow.

        Returns its left and right edge, and the y below which something in the way ends.
        """
        stretches, below = self.stretches(top, height)
        left, right = max(stretches, key=lambda s: s[1] - s[0])
        return left, right, below

    def stretches(self, top: float, height: float) -> tuple[list[tuple[float, float]], float]:
        """The stretches of a band in which text stands, from left to right, and the y below
        which something in the way ends.

        A line stands on one side of what is in its way, the wider one: words that are read
        across a picture tear a line apart (common practice of the trade), unless that is asked
        for of all that is in the way there.
        """
        left, right = self.left, self.right
        taken: list[tuple[float, float]] = []
        below, both = math.inf, True
        for outline in self.outlines:
            reach = _reach(outline.corners, top + _HAIR, top + height - _HAIR)
            if reach is not None and reach[0] < right and reach[1] > left:
                taken.append(reach)
                below = min(below, max(y for _, y in outline.corners))
                both = both and outline.both
        if not taken:
            return [(left, right)], math.inf
        free, at = [(left, left)], left
        for begin, end in sorted(taken):
            if begin > at:
                free.append((at, begin))
            at = max(at, end)
        if right > at:
            free.append((at, right))
        if not both or len(free) == 1:
            free = [max(free, key=lambda s: s[1] - s[0])]
        else:
            del free[0]
        return free, max(below, top + 0.5)


@remembered()
def _reach(outline: Corners, top: float, bottom: float) -> tuple[float, float] | None:
    """The leftmost and rightmost x of a polygon within a band; None if it is not there."""
    xs: list[float] = []
    x1, y1 = outline[-1]
    for x2, y2 in outline:
        if top < y2 < bottom:
            xs.append(x2)
        for y in (top, bottom):
            if (y1 < y) != (y2 < y):
                xs.append(x1 + (x2 - x1) * (y - y1) / (y2 - y1))
        x1, y1 = x2, y2
    return (min(xs), max(xs)) if xs else None
