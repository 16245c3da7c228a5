"""What lies under a point of the desk."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.desktop.session import Face
from hidden_frame.edit.boxes import HANDLES, Box, Handle


class Spot(NamedTuple):
    """A point of the desk: the face it belongs to, and its place there in points."""

    face: Face
    x: float
    y: float


def face_at(faces: tuple[Face, ...], width: float, x: float) -> Face:
    """The face on which a spread's x lies; outside of all, the nearest."""
    return min(faces, key=lambda f: max(f.x - x, x - f.x - width, 0.0))


def hit(scene: Scene, x: float, y: float, slack: float) -> Placed | None:
    """The topmost item at a point; `slack` points beside thin ones still count."""
    for placed in reversed(scene.placed):
        if not placed.locked and _inside(placed, x, y, slack):
            return placed
    return None


def _inside(placed: Placed, x: float, y: float, slack: float) -> bool:
    px, py = placed.matrix.inverse().apply(x, y)
    w, h = placed.drawing.width, placed.drawing.height
    sx, sy = (slack if w < 2 * slack else 0.0), (slack if h < 2 * slack else 0.0)
    return -sx <= px <= w + sx and -sy <= py <= h + sy


def handle_at(box: Box, x: float, y: float, slack: float, line: bool) -> Handle | None:
    """The handle of a box at a point; a line has one at each end only."""
    handles = ((-1, 0), (1, 0)) if line else HANDLES
    best = None
    nearest = slack
    for handle in handles:
        hx, hy = box.point(*handle)
        distance = max(abs(hx - x), abs(hy - y))
        if distance <= nearest:
            best, nearest = handle, distance
    return best


def bounds(placed: Placed) -> tuple[float, float, float, float]:
    """Left, top, right and bottom of an item on its page."""
    w, h = placed.drawing.width, placed.drawing.height
    corners = [placed.matrix.apply(x, y) for x, y in ((0, 0), (w, 0), (w, h), (0, h))]
    xs, ys = [c[0] for c in corners], [c[1] for c in corners]
    return min(xs), min(ys), max(xs), max(ys)
