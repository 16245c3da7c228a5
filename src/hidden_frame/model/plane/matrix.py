"""Affine transforms of the plane, as (a, b, c, d, e, f) in PDF's order.

A point (x, y) goes to (a·x + c·y + e, b·x + d·y + f): ISO 32000-1, 8.3.3.
"""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple


class Matrix(NamedTuple):
    """`Matrix(*first).then(second)` applies the first transform, then the second."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    def apply(self, x: float, y: float) -> tuple[float, float]:
        return self.a * x + self.c * y + self.e, self.b * x + self.d * y + self.f

    def then(self, other: Matrix) -> Matrix:
        e, f = other.apply(self.e, self.f)
        return Matrix(
            self.a * other.a + self.b * other.c,
            self.a * other.b + self.b * other.d,
            self.c * other.a + self.d * other.c,
            self.c * other.b + self.d * other.d,
            e,
            f,
        )

    def inverse(self) -> Matrix:
        det = self.a * self.d - self.b * self.c
        a, b, c, d = self.d / det, -self.b / det, -self.c / det, self.a / det
        return Matrix(a, b, c, d, -(self.e * a + self.f * c), -(self.e * b + self.f * d))


@lru_cache(maxsize=5_000)  # what a master carries stands alike on thousands of pages
def placement(x: float, y: float, width: float, height: float, rotation: float) -> Matrix:
    """From an item's own coordinates to its page's: turned clockwise about its middle."""
    if not rotation:
        return Matrix(e=x, f=y)
    angle = math.radians(rotation)
    cos, sin = math.cos(angle), math.sin(angle)
    cx, cy = width / 2, height / 2
    return Matrix(cos, sin, -sin, cos, x + cx - cos * cx + sin * cy, y + cy - sin * cx - cos * cy)
