"""An item's box moved and sized by its handles, rotation taken into account.

>>> resized(Box(0, 0, 100, 50, 0), (1, 1), 20, 10)
Box(x=0.0, y=0.0, width=120.0, height=60.0, rotation=0)
"""

from __future__ import annotations

import math
from typing import NamedTuple

# A handle by its place: -1, 0 or 1 from left to right, then from top to bottom.
Handle = tuple[int, int]
HANDLES: tuple[Handle, ...] = (
    (-1, -1), (0, -1), (1, -1), (1, 0), (1, 1), (0, 1), (-1, 1), (-1, 0),
)  # fmt: skip


class Box(NamedTuple):
    """An item's place: the box before it is turned, and its rotation in degrees clockwise."""

    x: float
    y: float
    width: float
    height: float
    rotation: float = 0.0

    @property
    def centre(self) -> tuple[float, float]:
        return self.x + self.width / 2, self.y + self.height / 2

    def point(self, across: float, down: float) -> tuple[float, float]:
        """The point at a share of width and height from the middle (-1 to 1), on the page."""
        return _turned(
            (across * self.width / 2, down * self.height / 2), self.rotation, self.centre
        )


def _turned(
    point: tuple[float, float], degrees: float, centre: tuple[float, float] = (0.0, 0.0)
) -> tuple[float, float]:
    angle = math.radians(degrees)
    cos, sin = math.cos(angle), math.sin(angle)
    return centre[0] + cos * point[0] - sin * point[1], centre[1] + sin * point[0] + cos * point[1]


def resized(box: Box, handle: Handle, dx: float, dy: float, proportional: bool = False) -> Box:
    """The box with a handle moved by (dx, dy) on the page; the opposite handle stays.

    A size never falls below 0; pulled past the opposite edge, the box stays empty
    there.  With `proportional`, a corner keeps width to height.
    """
    across, down = handle
    local = _turned((dx, dy), -box.rotation)
    width = max(box.width + across * local[0], 0.0)
    height = max(box.height + down * local[1], 0.0)
    if proportional and across and down and box.width and box.height:
        scale = max(width / box.width, height / box.height)
        width, height = box.width * scale, box.height * scale
    fixed = box.point(-across, -down)
    # From the fixed point to the new middle, in the item's own directions.
    inward = (across * width / 2, down * height / 2)
    cx, cy = _turned(inward, box.rotation, fixed)
    return Box(cx - width / 2, cy - height / 2, width, height, box.rotation)


def line_between(x1: float, y1: float, x2: float, y2: float) -> Box:
    """The box of a line from one point to another: no height, turned about its middle."""
    length = math.hypot(x2 - x1, y2 - y1)
    angle = math.degrees(math.atan2(y2 - y1, x2 - x1))
    return Box((x1 + x2 - length) / 2, (y1 + y2) / 2, length, 0.0, angle)


def around(x1: float, y1: float, x2: float, y2: float, square: bool = False) -> Box:
    """The box between two corners, or the square that the longer side spans."""
    if square:
        side = max(abs(x2 - x1), abs(y2 - y1))
        x2, y2 = x1 + math.copysign(side, x2 - x1), y1 + math.copysign(side, y2 - y1)
    return Box(min(x1, x2), min(y1, y2), abs(x2 - x1), abs(y2 - y1))
