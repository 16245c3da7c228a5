"""The order in which readers of a PDF find the text of a page: the body, then head and foot.

A page is painted from its masters up, so their heads and feet would be read before the body.
Text of a master is written last where nothing painted after it touches it, which changes
nothing of what is seen.
"""

from __future__ import annotations

from collections.abc import Sequence

from hidden_frame.compose.scene import Placed, TextPrimitive

_LEAN = 24.0  # points by which text may lean out of its frame
Box = tuple[float, float, float, float]  # left, top, right, bottom


def in_reading_order(placed: Sequence[Placed]) -> list[Placed]:
    """The items of a page as they are written."""
    boxes = [_box(p) for p in placed]
    first: list[Placed] = []
    last: list[Placed] = []
    for n, item in enumerate(placed):
        free = _only_text(item) and not any(_touch(boxes[n], b) for b in boxes[n + 1 :])
        (last if free else first).append(item)
    return first + last


def _only_text(item: Placed) -> bool:
    return (
        item.carrier is not None
        and not item.multiplied
        and all(isinstance(p, TextPrimitive) for p in item.drawing.primitives)
    )


def _box(item: Placed) -> Box:
    w, h = item.drawing.width, item.drawing.height
    corners = [item.matrix.apply(x, y) for x, y in ((0, 0), (w, 0), (w, h), (0, h))]
    xs, ys = [c[0] for c in corners], [c[1] for c in corners]
    return min(xs) - _LEAN, min(ys) - _LEAN, max(xs) + _LEAN, max(ys) + _LEAN


def _touch(a: Box, b: Box) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]
