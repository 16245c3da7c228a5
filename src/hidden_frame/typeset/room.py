"""The room that a text is set in: columns, and outlines that text runs around.

>>> Room(120.0, columns=2, gutter=12.0).edges(212.0)
((0.0, 100.0), (112.0, 212.0))
"""

from __future__ import annotations

import math
from typing import NamedTuple

Outline = tuple[tuple[float, float], ...]  # corners of a convex polygon, in points
Edges = tuple[float, float]
_HAIR = 0.001  # points; what only touches a line is not in its way


class Room(NamedTuple):
    """Columns of `height` points, and what stands in the way of their text."""

    height: float = math.inf
    columns: int = 1
    gutter: float = 0.0
    outlines: tuple[Outline, ...] = ()

    @property
    def limit(self) -> float:
        """How far down a column's last line may reach."""
        return self.height + 0.01

    def edges(self, width: float) -> tuple[Edges, ...]:
        """Left and right of each column of a text this wide."""
        wide = max((width - self.gutter * (self.columns - 1)) / self.columns, 0.0)
        step = wide + self.gutter
        return tuple((n * step, n * step + wide) for n in range(self.columns))

    def free(self, edges: Edges, top: float, height: float) -> tuple[float, float, float]:
        """The widest free stretch of a column in a band, and where to look if it is too narrow.

        Returns its left and right edge, and the y below which something in the way ends.
        A line stands on one side of what is in its way, the wider one: words that are read
        across a picture tear a line apart (common practice of the trade).
        """
        left, right = edges
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
