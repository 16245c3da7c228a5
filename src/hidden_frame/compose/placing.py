"""Where a master item stands on a side (R3, R4), and back again."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.model.geometry import Margins, Side
from hidden_frame.model.items import Item
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.plane.mirror import mirrored
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Alignment
from hidden_frame.typeset.paragraph import PhysicalAlign


def stands_on(item: Item, side: Side) -> bool:
    """Whether a master item shows on pages of this side."""
    return item.face in ("both", side)


def on_side(item: Item, side: Side, trim_width: float) -> Item:
    """The item as it stands on a page of this side.

    On a verso a mirrored item keeps its distance to the spine: x becomes
    trim width − x − width, and its rotation changes sign.  The rule is its own
    inverse, so it also takes a place on a verso page back to the master's.

    >>> from hidden_frame.model.items import Shape
    >>> on_side(Shape(id="a", x=10, y=0, width=30, height=5), "verso", 100.0).x
    60.0
    """
    if side == "recto" or item.placing == "repeated":
        return item
    return mirrored(item, trim_width)


def to_recto(
    item: Item, side: Side, trim_width: float, changes: dict[str, object]
) -> dict[str, object]:
    """Changes made to a master item as it stands on a side, in the master's coordinates.

    Only what really differs is returned, so that an override stays as small as it can.
    """
    shown = on_side(item, side, trim_width)
    back = on_side(replace(shown, **changes), side, trim_width)
    names = [*changes, *(n for n in ("x", "rotation") if n not in changes)]
    return {n: getattr(back, n) for n in names if not _same(getattr(back, n), getattr(item, n))}


def _same(a: object, b: object) -> bool:
    if isinstance(a, float) and isinstance(b, float | int):
        return abs(a - b) < 1e-9
    return a == b


def physical(alignment: Alignment, side: Side) -> PhysicalAlign:
    """Left or right for inside and outside (R4): the spine is a recto's left edge."""
    if alignment == "inside":
        return "left" if side == "recto" else "right"
    if alignment == "outside":
        return "right" if side == "recto" else "left"
    return alignment


def text_area(setup: Setup, margins: Margins, side: Side) -> Bounds:
    """What lies between the margins of a page."""
    return Bounds(
        margins.left(side),
        margins.top,
        setup.trim.width - margins.right(side),
        setup.trim.height - margins.bottom,
    )
