"""What stands in the way of text: outlines of items that text runs around.

An item with `around` pushes away the text of every frame it lies over that yields,
above it or below, master items and local ones alike; never its own text.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import pairwise
from typing import NamedTuple

from hidden_frame.compose.kinds import Rounded, appearance
from hidden_frame.compose.pictures import picture_rect
from hidden_frame.model.items import Item, PictureFrame, TextFrame
from hidden_frame.model.plane.matrix import Matrix, placement
from hidden_frame.model.publication import Picture
from hidden_frame.typeset.region import Corners, Outline

_STEPS = 16  # corners to a quarter of an ellipse: 0.12 % off at most


class Obstacle(NamedTuple):
    """An outline on a page, in points from the trim's corner, and whose it is."""

    item_id: str
    outline: Corners
    both: bool = False


def obstacles(items: Iterable[Item], pictures: tuple[Picture, ...]) -> tuple[Obstacle, ...]:
    """The outlines of those of a page's items that text runs around, as they stand on it."""
    return tuple(
        Obstacle(i.id, _moved(grown_outline(i, pictures), _matrix(i)), i.around.both)
        for i in items
        if i.around is not None
    )


def in_the_way(item: TextFrame, found: tuple[Obstacle, ...]) -> tuple[Outline, ...]:
    """The outlines that touch a frame, in the frame's own coordinates."""
    back = _matrix(item).inverse()
    result = []
    bottom = math.inf if item.grows else item.height
    for obstacle in found:
        if obstacle.item_id == item.id:
            continue
        outline = _moved(obstacle.outline, back)
        xs, ys = [x for x, _ in outline], [y for _, y in outline]
        if min(xs) < item.width and max(xs) > 0 and min(ys) < bottom and max(ys) > 0:
            result.append(Outline(outline, obstacle.both))
    return tuple(result)


def grown_outline(item: Item, pictures: tuple[Picture, ...]) -> Corners:
    """An item's outline with its offset around it, in the item's own coordinates."""
    assert item.around is not None
    o = item.around.offset
    x, y, w, h = 0.0, 0.0, item.width, item.height
    corners = Rounded()
    if item.around.shape == "outline" and isinstance(item, PictureFrame):
        found = _by_transparency(item, pictures, o)
        if found:
            return found
    if item.around.shape != "box":
        if isinstance(item, PictureFrame):
            x, y, w, h = _seen(item, pictures)
        corners = appearance(item).corners(item)
    if corners.across or corners.down:
        return _corners(x - o, y - o, w + 2 * o, h + 2 * o, corners.across + o, corners.down + o)
    return (
        (x - o, y - o), (x + w + o, y - o), (x + w + o, y + h + o), (x - o, y + h + o),
    )  # fmt: skip


def _by_transparency(item: PictureFrame, pictures: tuple[Picture, ...], offset: float) -> Corners:
    """Around what can be seen of a picture with transparent parts, in bands from the top down;
    nothing if it has none."""
    picture = next((p for p in pictures if p.hash == item.picture), None)
    if picture is None or not picture.contour:
        return ()
    x, y, w, h = picture_rect(picture, item)
    contour = picture.contour
    if item.flip in ("across", "both"):
        contour = tuple((t, b, 1 - right, 1 - left) for t, b, left, right in contour)
    if item.flip in ("down", "both"):
        contour = tuple((1 - b, 1 - t, left, right) for t, b, left, right in contour)
    bands = [
        (max(y + top * h, 0.0), min(y + bottom * h, item.height), x + left * w, x + right * w)
        for top, bottom, left, right in contour
    ]
    seen = [b for b in bands if b[1] > b[0] and b[3] > 0 and b[2] < item.width]
    if not seen:
        return ()
    edges = sorted({e + d for b in seen for e, d in ((b[0], -offset), (b[1], offset))})
    lefts: list[tuple[float, float]] = []
    rights: list[tuple[float, float]] = []
    for above, below in pairwise(edges):
        near = [b for b in seen if b[0] - offset < below and b[1] + offset > above]
        if near:
            left = max(min(b[2] for b in near), 0.0) - offset
            right = min(max(b[3] for b in near), item.width) + offset
            lefts += [(left, above), (left, below)]
            rights += [(right, above), (right, below)]
    return (*rights, *reversed(lefts))


def _seen(item: PictureFrame, pictures: tuple[Picture, ...]) -> tuple[float, float, float, float]:
    """The part of a frame in which its picture is seen."""
    picture = next((p for p in pictures if p.hash == item.picture), None)
    if picture is None:
        return 0.0, 0.0, item.width, item.height
    px, py, pw, ph = picture_rect(picture, item)
    left, top = max(px, 0.0), max(py, 0.0)
    right, bottom = min(px + pw, item.width), min(py + ph, item.height)
    return left, top, max(right - left, 0.0), max(bottom - top, 0.0)


def _corners(x: float, y: float, w: float, h: float, rx: float, ry: float) -> Corners:
    """A rectangle with elliptic corners, clockwise from its right top."""
    points = []
    for quarter, (cx, cy) in enumerate(
        ((x + w - rx, y + ry), (x + w - rx, y + h - ry), (x + rx, y + h - ry), (x + rx, y + ry))
    ):
        for step in range(_STEPS + 1):
            angle = math.pi / 2 * (quarter - 1 + step / _STEPS)
            points.append((cx + rx * math.cos(angle), cy + ry * math.sin(angle)))
    return tuple(points)


def _matrix(item: Item) -> Matrix:
    return placement(item.x, item.y, item.width, item.height, item.rotation)


def _moved(outline: Corners, matrix: Matrix) -> Corners:
    return tuple(matrix.apply(x, y) for x, y in outline)
