"""Outlines as path commands: ("M", x, y), ("L", x, y), ("C", x1, y1, x2, y2, x, y), ("Z",)."""

from __future__ import annotations

from typing import Any

Commands = tuple[tuple[Any, ...], ...]
# Four cubic arcs make an ellipse; with this factor the radius is off by at most
# 0.027 % (4/3·(√2 − 1), common practice of computer graphics).
_ARC = 0.5522847498307936


def level(length: float) -> Commands:
    """A line from left to right."""
    return (("M", 0.0, 0.0), ("L", length, 0.0))


def rectangle(w: float, h: float) -> Commands:
    """A rectangle from its upper left corner."""
    return (("M", 0.0, 0.0), ("L", w, 0.0), ("L", w, h), ("L", 0.0, h), ("Z",))


def corner_radius(item: Any) -> float:
    """The radius of an item's corners, no larger than the item allows, in points."""
    return float(min(item.radius, item.width / 2, item.height / 2))


def rounded(w: float, h: float, rx: float, ry: float | None = None) -> Commands:
    """A rectangle with elliptic corners: an ellipse where their radii are half of its sides."""
    ry = rx if ry is None else ry
    if not rx and not ry:
        return rectangle(w, h)
    kx, ky = rx * (1 - _ARC), ry * (1 - _ARC)
    return (
        ("M", rx, 0.0), ("L", w - rx, 0.0), ("C", w - kx, 0.0, w, ky, w, ry),
        ("L", w, h - ry), ("C", w, h - ky, w - kx, h, w - rx, h),
        ("L", rx, h), ("C", kx, h, 0.0, h - ky, 0.0, h - ry),
        ("L", 0.0, ry), ("C", 0.0, ky, kx, 0.0, rx, 0.0), ("Z",),
    )  # fmt: skip
