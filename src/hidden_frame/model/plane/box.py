"""An item's box moved and sized by its handles, rotation taken into account.

>>> resized(Box(0, 0, 100, 50, 0), (1, 1), 20, 10)
Box(x=0.0, y=0.0, width=120.0, height=60.0, rotation=0)
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import NamedTuple

# A handle by its place: -1, 0 or 1 from left to right, then from top to bottom.
Handle = tuple[int, int]
HANDLES: tuple[Handle, ...] = (
    (-1, -1), (0, -1), (1, -1), (1, 0), (1, 1), (0, 1), (-1, 1), (-1, 0),
)  # fmt: skip


class Bounds(NamedTuple):
    """An upright box on a page, in points."""

    left: float
    top: float
    right: float
    bottom: float

    @property
    def width(self) -> float:
        return self.right - self.left

    @property
    def height(self) -> float:
        return self.bottom - self.top

    @property
    def centre(self) -> tuple[float, float]:
        return (self.left + self.right) / 2, (self.top + self.bottom) / 2

    def touches(self, other: Bounds) -> bool:
        """Whether the two have a point in common."""
        return (
            self.left <= other.right and other.left <= self.right
            and self.top <= other.bottom and other.top <= self.bottom
        )  # fmt: skip

    def encloses(self, other: Bounds) -> bool:
        """Whether the other lies wholly within this one."""
        return (
            self.left <= other.left and self.top <= other.top
            and other.right <= self.right and other.bottom <= self.bottom
        )  # fmt: skip

    def moved(self, dx: float, dy: float) -> Bounds:
        return Bounds(self.left + dx, self.top + dy, self.right + dx, self.bottom + dy)


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


def bounds_of(box: Box) -> Bounds:
    """The upright box around a box that may be turned."""
    if not box.rotation:
        return Bounds(box.x, box.y, box.x + box.width, box.y + box.height)
    corners = [box.point(across, down) for across in (-1, 1) for down in (-1, 1)]
    xs, ys = [c[0] for c in corners], [c[1] for c in corners]
    return Bounds(min(xs), min(ys), max(xs), max(ys))


def holds(box: Box, x: float, y: float) -> bool:
    """Whether a point lies in a box that may be turned."""
    px, py = _turned((x - box.centre[0], y - box.centre[1]), -box.rotation)
    return abs(px) <= box.width / 2 and abs(py) <= box.height / 2


def around_all(bounds: Iterable[Bounds]) -> Bounds:
    """The box around several; at least one must be given."""
    known = list(bounds)
    return Bounds(
        min(b.left for b in known),
        min(b.top for b in known),
        max(b.right for b in known),
        max(b.bottom for b in known),
    )


def resized(
    box: Box,
    handle: Handle,
    dx: float,
    dy: float,
    proportional: bool = False,
    about_middle: bool = False,
) -> Box:
    """The box with a handle moved by (dx, dy) on the page; the opposite handle stays.

    A size never falls below 0; pulled past the opposite edge, the box stays empty
    there.  With `proportional`, width keeps to height; with `about_middle` the middle
    stays, and both sides move.
    """
    across, down = handle
    local = _turned((dx, dy), -box.rotation)
    reach = 2.0 if about_middle else 1.0
    width = max(box.width + reach * across * local[0], 0.0)
    height = max(box.height + reach * down * local[1], 0.0)
    if proportional and box.width and box.height:
        if across and down:
            scale = max(width / box.width, height / box.height)
        else:
            scale = width / box.width if across else height / box.height
        width, height = box.width * scale, box.height * scale
    if about_middle:
        x, y = box.centre
        return Box(x - width / 2, y - height / 2, width, height, box.rotation)
    fixed = box.point(-across, -down)
    # From the fixed point to the new middle, in the item's own directions.
    inward = (across * width / 2, down * height / 2)
    cx, cy = _turned(inward, box.rotation, fixed)
    return Box(cx - width / 2, cy - height / 2, width, height, box.rotation)


def turned_towards(box: Box, x: float, y: float, start: float, step: float = 0.0) -> float:
    """The rotation of a box whose handle is pulled from the direction `start` to (x, y).

    Directions are degrees clockwise about the box's middle, and so is the result, from
    −180 up to 180; with a `step` it is a multiple of it.
    """
    turned = box.rotation + direction(box, x, y) - start
    if step:
        turned = round(turned / step) * step
    return (turned + 180) % 360 - 180


def direction(box: Box, x: float, y: float) -> float:
    """The direction from a box's middle to a point, in degrees clockwise from the right."""
    cx, cy = box.centre
    return math.degrees(math.atan2(y - cy, x - cx))


def placed_at(box: Box, point: Handle, x: float | None, y: float | None) -> Box:
    """The box moved so that one of its nine points lies at x, y; None leaves one as it is.

    >>> placed_at(Box(0, 0, 100, 50), (1, 1), 100, 80)
    Box(x=0.0, y=30.0, width=100, height=50, rotation=0.0)
    """
    here = box.point(*point)
    dx = 0.0 if x is None else x - here[0]
    dy = 0.0 if y is None else y - here[1]
    return box._replace(x=box.x + dx, y=box.y + dy)


def sized_at(box: Box, point: Handle, width: float | None, height: float | None) -> Box:
    """The box in another size; one of its nine points stays where it is."""
    here = box.point(*point)
    new = box._replace(
        width=box.width if width is None else width, height=box.height if height is None else height
    )
    return placed_at(new, point, *here)


def scaled(box: Box, old: Bounds, new: Bounds) -> Box:
    """A box that goes along when the box around several goes from `old` to `new`.

    Its middle keeps its share of the way across and down.  An upright box, or one turned
    by a right angle, is stretched exactly; any other keeps its proportions and takes the
    geometric mean of both factors.
    """
    across = new.width / old.width if old.width else 1.0
    down = new.height / old.height if old.height else 1.0
    cx, cy = box.centre
    cx = new.left + (cx - old.left) * across
    cy = new.top + (cy - old.top) * down
    quarter = box.rotation % 180
    if quarter == 0:
        width, height = box.width * across, box.height * down
    elif quarter == 90:
        width, height = box.width * down, box.height * across
    else:
        mean = math.sqrt(across * down)
        width, height = box.width * mean, box.height * mean
    return Box(cx - width / 2, cy - height / 2, width, height, box.rotation)


def turned_about(box: Box, centre: tuple[float, float], degrees: float) -> Box:
    """A box carried round a point of the page by an angle, clockwise."""
    cx, cy = box.centre
    x, y = _turned((cx - centre[0], cy - centre[1]), degrees, centre)
    return Box(
        x - box.width / 2, y - box.height / 2, box.width, box.height,
        (box.rotation + degrees + 180) % 360 - 180,
    )  # fmt: skip


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
