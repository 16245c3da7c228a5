"""Sides and spreads (R1).

>>> [side_of(n, facing=True, opening="recto") for n in (1, 2, 3)]
['recto', 'verso', 'recto']
"""

from __future__ import annotations

from hidden_frame.model.geometry import Side
from hidden_frame.model.publication import Setup


def side_of(position: int, facing: bool, opening: Side) -> Side:
    """The side of a position; pages that do not face each other are all recto."""
    if not facing:
        return "recto"
    odd: Side = opening
    even: Side = "verso" if opening == "recto" else "recto"
    return odd if position % 2 else even


def spread_of(position: int, facing: bool, opening: Side) -> int:
    """The number of a position's spread, counted from 1."""
    if not facing:
        return position
    return position // 2 + 1 if opening == "recto" else (position + 1) // 2


def spreads(count: int, setup: Setup) -> list[tuple[int, ...]]:
    """The positions of each spread, left to right: `[(1,), (2, 3), (4,)]`."""
    result: list[tuple[int, ...]] = []
    for position in range(1, count + 1):
        number = spread_of(position, setup.facing, setup.opening)
        if number > len(result):
            result.append((position,))
        else:
            result[-1] = (*result[-1], position)
    return result
