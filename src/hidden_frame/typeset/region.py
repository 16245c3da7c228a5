"""A region that text fills: one column, and outlines that stand in its way.

>>> Region(0.0, 100.0).free(0.0, 12.0)
(0.0, 100.0, inf)
"""

from __future__ import annotations

import math
from typing import NamedTuple

Outline = tuple[tuple[float, float], ...]  # corners of a convex polygon, in points
_HAIR = 0.001  # points; what only touches a line is not in its way


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
        A line stands on one side of what is in its way, the wider one: words that are read
        across a picture tear a line apart (common practice of the trade).
        """
        left, right = self.left, self.right
        taken: list[tuple[float, float]] = []
        below = math.inf
        for outline in self.outlines:
            reach = _reach(outline, top + _HAIR, top + height - _HAIR)
            if reach is not None and reach[0] < right and reach[1] > left:
                taken.append(reach)
                below = min(below, max(y for _, y in outline))
        best, at = (left, left), left
        for begin, end in sorted(taken):
            if begin - at > best[1] - best[0]:
                best = (at, begin)
            at = max(at, end)
        if right - at > best[1] - best[0]:
            best = (at, right)
        return best[0], best[1], max(below, top + 0.5) if taken else math.inf


def _reach(outline: Outline, top: float, bottom: float) -> tuple[float, float] | None:
    """The leftmost and rightmost x of a convex polygon within a band; None if it is not there."""
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
