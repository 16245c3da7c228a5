"""The outline of an item, as path commands."""

from __future__ import annotations

from hidden_frame.model.items import Item, Line, Shape

# Four cubic arcs make an ellipse; with this factor the radius is off by at most
# 0.027 % (4/3·(√2 − 1), common practice of computer graphics).
_ARC = 0.5522847498307936


def outline_of(item: Item) -> tuple:
    """An item's outline as path commands, in its own coordinates."""
    w, h = item.width, item.height
    if isinstance(item, Line):
        return (("M", 0.0, 0.0), ("L", w, 0.0))
    if isinstance(item, Shape) and item.form == "ellipse":
        return _rounded(w, h, w / 2, h / 2)
    radius = corner_radius(item)
    if radius:
        return _rounded(w, h, radius, radius)
    return (("M", 0.0, 0.0), ("L", w, 0.0), ("L", w, h), ("L", 0.0, h), ("Z",))


def corner_radius(item: Item) -> float:
    """The radius of an item's corners, no larger than the item allows, in points."""
    if isinstance(item, Line) or (isinstance(item, Shape) and item.form != "rounded"):
        return 0.0
    return min(item.radius, item.width / 2, item.height / 2)


def _rounded(w: float, h: float, rx: float, ry: float) -> tuple:
    kx, ky = rx * (1 - _ARC), ry * (1 - _ARC)
    return (
        ("M", rx, 0.0), ("L", w - rx, 0.0), ("C", w - kx, 0.0, w, ky, w, ry),
        ("L", w, h - ry), ("C", w, h - ky, w - kx, h, w - rx, h),
        ("L", rx, h), ("C", kx, h, 0.0, h - ky, 0.0, h - ry),
        ("L", 0.0, ry), ("C", 0.0, ky, kx, 0.0, rx, 0.0), ("Z",),
    )  # fmt: skip
