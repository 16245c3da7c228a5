"""What lies mirrored at the spine (R3)."""

from __future__ import annotations

from typing import TypeVar

from msgspec.structs import replace

from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item

T = TypeVar("T", bound=Item)


def mirrored(item: T, trim_width: float) -> T:
    """An item mirrored at the spine (R3): x becomes trim width − x − width, and its rotation
    changes sign.  Its own inverse.

    >>> from hidden_frame.model.items import Shape
    >>> mirrored(Shape(id="a", x=10, y=0, width=30, height=5), 100.0).x
    60.0
    """
    return replace(item, x=trim_width - item.x - item.width, rotation=-item.rotation or 0.0)


def guide_x(position: float, side: Side, trim_width: float) -> float:
    """x of a vertical guide from its distance to the spine."""
    return position if side == "recto" else trim_width - position
