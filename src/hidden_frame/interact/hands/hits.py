"""What lies under a point of the desk."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.compose.ground import inside_path
from hidden_frame.compose.scene import PathPrimitive, Placed, Scene, TextPrimitive
from hidden_frame.interact.hands.faces import Face
from hidden_frame.model.layouts import PageLayout
from hidden_frame.model.plane.box import HANDLES, Bounds, Box, Handle, holds
from hidden_frame.model.plane.mirror import guide_x


class Spot(NamedTuple):
    """A point of the desk: the face it belongs to, and its place there in points."""

    face: Face
    x: float
    y: float


def face_at(faces: tuple[Face, ...], width: float, x: float) -> Face:
    """The face on which a spread's x lies; outside of all, the nearest."""
    return min(faces, key=lambda f: max(f.x - x, x - f.x - width, 0.0))


def owner_of(scene: Scene, faces: tuple[Face, ...], spot: Spot, slack: float) -> Spot:
    """The spot on the face whose item is topmost there: one may reach over the spine."""
    placed = _topmost(scene.painted, spot.x, spot.y, slack)
    if placed is None:
        return spot
    home = next((f for f in faces if (f.holder_id, f.side) == placed.home), None)
    return on_face(spot, home or spot.face)


def on_face(spot: Spot, face: Face) -> Spot:
    """The same point of the desk as it is seen from another face."""
    return Spot(face, spot.x + spot.face.x - face.x, spot.y)


def hit(scene: Scene, x: float, y: float, slack: float) -> Placed | None:
    """The topmost item of which something is seen at a point: words, a picture, a fill, a stroke;
    where nothing is, the topmost one there.  `slack` points beside thin ones still count."""
    return _topmost(scene.placed, x, y, slack)


def _topmost(items: Sequence[Placed], x: float, y: float, slack: float) -> Placed | None:
    there = [p for p in reversed(items) if not p.locked and _inside(p, x, y, slack)]
    if len(there) < 2:
        return there[0] if there else None
    return next((p for p in there if _is_seen(p, x, y, slack)), there[0])


def _is_seen(placed: Placed, x: float, y: float, slack: float) -> bool:
    """Whether something of an item is painted at a point of the page; of one in which nothing is
    painted anywhere, all of it is."""
    px, py = placed.matrix.inverse().apply(x, y)
    drawing = placed.drawing
    w, h = drawing.width, drawing.height
    if min(w, h) < 2 * slack:
        return True  # thin as it is, it is meant
    empty = True
    for primitive in drawing.primitives:
        if isinstance(primitive, TextPrimitive):
            lines = primitive.text.lines[: primitive.shown]
            empty = empty and not any(line.runs for line in lines)
            at = px - primitive.x, py - primitive.y
            if any(
                line.runs and line.left - slack <= at[0] <= line.right + slack
                and line.top <= at[1] <= line.bottom
                for line in lines
            ):  # fmt: skip
                return True
        elif isinstance(primitive, PathPrimitive):
            empty = False
            if primitive.ink is not None and inside_path(primitive, (px, py), w, h):
                return True
            if primitive.pen is not None:
                reach = max(primitive.pen.width / 2, slack)
                if min(px, py, w - px, h - py) <= reach:
                    return True
        else:
            empty = False
            left, top, wide, high = primitive.rect
            if left <= px <= left + wide and top <= py <= top + high:
                return True
    return empty


def all_hits(scene: Scene, x: float, y: float, slack: float) -> list[Placed]:
    """Every item at a point, topmost first."""
    found = [p for p in scene.placed if not p.locked and _inside(p, x, y, slack)]
    return found[::-1]


def _inside(placed: Placed, x: float, y: float, slack: float) -> bool:
    px, py = placed.matrix.inverse().apply(x, y)
    w, h = placed.drawing.width, placed.drawing.height
    sx, sy = (slack if w < 2 * slack else 0.0), (slack if h < 2 * slack else 0.0)
    return -sx <= px <= w + sx and -sy <= py <= h + sy


def handle_at(box: Box, x: float, y: float, slack: float, line: bool) -> Handle | None:
    """The handle of a box at a point; a line has one at each end only.

    Inside a small box handles reach less far in, so that its middle can be dragged.
    """
    handles = ((-1, 0), (1, 0)) if line else HANDLES
    if not line and holds(box, x, y):
        slack = min(slack, box.width / 4, box.height / 4)
    best = None
    nearest = slack
    for handle in handles:
        hx, hy = box.point(*handle)
        distance = max(abs(hx - x), abs(hy - y))
        if distance <= nearest:
            best, nearest = handle, distance
    return best


def turn_knob(box: Box, away: float) -> tuple[float, float]:
    """Where the knob that turns a box stands: `away` points out from the middle of its right
    edge, so that it never hides below a page's head."""
    x, y = box.point(1, 0)
    cx, cy = box.centre
    far = math.hypot(x - cx, y - cy)
    angle = math.radians(box.rotation)
    across, down = (
        ((x - cx) / far, (y - cy) / far) if far > 1e-9 else (math.cos(angle), math.sin(angle))
    )
    return x + across * away, y + down * away


def guide_at(
    layout: PageLayout, face: Face, width: float, x: float, y: float, slack: float
) -> int | None:
    """The index, among all guides of a layout, of the one at a point of a page."""
    best, nearest = None, slack
    for n, guide in enumerate(layout.guides):
        at = guide_x(guide.position, face.side, width) if guide.axis == "vertical" else None
        away = abs(x - at) if at is not None else abs(y - guide.position)
        if away <= nearest:
            best, nearest = n, away
    return best


def away_from(bounds: Bounds, spot: Spot) -> float:
    """How far a point is from a box, in points across and down together; 0 within it."""
    left, top, right, bottom = bounds
    return max(left - spot.x, spot.x - right, 0.0) + max(top - spot.y, spot.y - bottom, 0.0)
