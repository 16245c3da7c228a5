"""Sides and spreads (R1).

>>> [side_of(n, publication.setup) for n in (1, 2, 3)]
['recto', 'verso', 'recto']
"""

from __future__ import annotations

from hidden_frame.model.geometry import Side
from hidden_frame.model.publication import Setup


def side_of(position: int, setup: Setup) -> Side:
    """The side of a position: right pages are recto, left ones verso; pages that do not
    face each other are all recto.

    Read left to right, the first page is a recto if it stands alone; read right to
    left it is the mirror image of that.
    """
    if not setup.facing:
        return "recto"
    first: Side = setup.opening
    if setup.direction == "right to left":
        first = OTHER[first]
    return first if position % 2 else OTHER[first]


OTHER: dict[Side, Side] = {"verso": "recto", "recto": "verso"}


def spread_of(position: int, setup: Setup) -> int:
    """The number of a position's spread, counted from 1."""
    if not setup.facing:
        return position
    return position // 2 + 1 if setup.opening == "recto" else (position + 1) // 2


def missing(count: int, setup: Setup) -> int:
    """How many pages are missing to a multiple of the publication's sheet.

    >>> missing(30, publication.setup)  # sheets of four pages
    2
    """
    return -count % setup.sheet
