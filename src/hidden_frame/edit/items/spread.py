"""Items lined up, spaced and sized alike: how far each has to move.

>>> from hidden_frame.model.plane.box import Bounds
>>> aligned([Bounds(0, 0, 10, 10), Bounds(30, 5, 50, 9)], "left")
[(0, 0.0), (-30, 0.0)]
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from hidden_frame.model.plane.box import Bounds, around_all

Edge = Literal["left", "centre", "right", "top", "middle", "bottom"]
Direction = Literal["across", "down"]
Move = tuple[float, float]


def aligned(bounds: Sequence[Bounds], edge: Edge, to: Bounds | None = None) -> list[Move]:
    """The moves that bring an edge or the middle of each to that of `to`.

    Without `to`, they are brought to those of the box around all of them.
    """
    target = around_all(bounds) if to is None else to
    moves: list[Move] = []
    for each in bounds:
        match edge:
            case "left":
                moves.append((target.left - each.left, 0.0))
            case "centre":
                moves.append((target.centre[0] - each.centre[0], 0.0))
            case "right":
                moves.append((target.right - each.right, 0.0))
            case "top":
                moves.append((0.0, target.top - each.top))
            case "middle":
                moves.append((0.0, target.centre[1] - each.centre[1]))
            case "bottom":
                moves.append((0.0, target.bottom - each.bottom))
    return moves


def distributed(bounds: Sequence[Bounds], axis: Direction, to: Bounds | None = None) -> list[Move]:
    """The moves that make all gaps along an axis equal; the outermost stay, or lie at
    the edges of `to`.

    The gap is negative where there is too little room.  A single item goes to the
    middle of `to`.
    """
    if not bounds:
        return []
    flat = [_span(b, axis) for b in bounds]
    low, high = _span(around_all(bounds) if to is None else to, axis)
    if len(flat) == 1:
        starts = {0: (low + high - (flat[0][1] - flat[0][0])) / 2}
    else:
        order = sorted(range(len(flat)), key=lambda n: (flat[n][0] + flat[n][1], n))
        gap = (high - low - sum(b - a for a, b in flat)) / (len(flat) - 1)
        starts, at = {}, low
        for n in order:
            starts[n] = at
            at += flat[n][1] - flat[n][0] + gap
    moves = [starts[n] - flat[n][0] for n in range(len(flat))]
    return [(m, 0.0) if axis == "across" else (0.0, m) for m in moves]


def _span(bounds: Bounds, axis: Direction) -> tuple[float, float]:
    if axis == "across":
        return bounds.left, bounds.right
    return bounds.top, bounds.bottom
