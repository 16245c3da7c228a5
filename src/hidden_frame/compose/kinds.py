"""What each kind of item looks like, but for what stands in it (`drawing.CONTENT`): its outline,
its inside, how text runs around its shape, and whether it may be cut in two.

A new kind is a class and a row in `model/items.py`, and a row here.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, NamedTuple

from hidden_frame.compose.outlines import Commands, corner_radius, level, rounded
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame


class Rounded(NamedTuple):
    """A shape that text runs around: a rectangle with elliptic corners of these radii, points."""

    across: float = 0.0
    down: float = 0.0


class Appearance(NamedTuple):
    """How items of a kind look: their `outline`, whether they have an inside to be `filled`, the
    corners that text runs around, and whether an item may be cut `in_two` that look like one."""

    outline: Callable[[Any], Commands]
    filled: bool = True
    corners: Callable[[Any], Rounded] = lambda item: Rounded()
    in_two: Callable[[Any], bool] = lambda item: False


def _frame(item: TextFrame | PictureFrame) -> Commands:
    return rounded(item.width, item.height, corner_radius(item))


def _form(item: Shape) -> Commands:
    if item.form == "ellipse":
        return rounded(item.width, item.height, item.width / 2, item.height / 2)
    return rounded(item.width, item.height, _radius(item))


def _radius(item: Shape) -> float:
    return corner_radius(item) if item.form == "rounded" else 0.0


def _form_corners(item: Shape) -> Rounded:
    if item.form == "ellipse":
        return Rounded(item.width / 2, item.height / 2)
    return Rounded(_radius(item), _radius(item))


def _frame_corners(item: TextFrame | PictureFrame) -> Rounded:
    radius = corner_radius(item)
    return Rounded(radius, radius)


APPEARANCES: dict[type, Appearance] = {
    TextFrame: Appearance(_frame, corners=_frame_corners),
    PictureFrame: Appearance(
        _frame, corners=_frame_corners, in_two=lambda item: not corner_radius(item)
    ),
    Shape: Appearance(
        _form, corners=_form_corners,
        in_two=lambda item: item.form != "ellipse" and not _radius(item),
    ),
    Line: Appearance(lambda item: level(item.width), filled=False, in_two=lambda item: True),
}  # fmt: skip


def appearance(item: Item) -> Appearance:
    """How an item looks, by its kind."""
    return APPEARANCES[type(item)]


def outline_of(item: Item) -> Commands:
    """An item's outline as path commands, in its own coordinates.

    >>> from hidden_frame.model.items import Line
    >>> outline_of(Line(id="", x=0, y=0, width=90.0, height=0))
    (('M', 0.0, 0.0), ('L', 90.0, 0.0))
    """
    return appearance(item).outline(item)
