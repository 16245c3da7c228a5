"""Items lined up, spaced and sized alike where they are seen; a group counts as one.

>>> changed = align(publication, page, "recto", [frame], "left", Bounds(36, 0, 300, 400))
>>> changed.sections[1].pages[0].items[0].x
36.0
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from hidden_frame.compose.placing import text_area
from hidden_frame.edit.items.spread import Direction, Edge, Move, aligned, distributed
from hidden_frame.interact.hands.shown import box_of, change_shown, shown_items
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, is_level
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import find_page, masters_by_id
from hidden_frame.model.plane.box import Bounds, Handle, around_all, bounds_of, scaled, sized_at
from hidden_frame.model.publication import Publication

AlignTo = Literal["selection", "margins", "page", "spread"]


def area(
    publication: Publication, holder_id: str, side: Side, what: AlignTo, facing: bool
) -> Bounds | None:
    """What items are lined up with, in the coordinates of their page; None is themselves.

    `facing` tells whether another page lies beside this one on its spread.
    """
    trim = publication.setup.trim
    if what == "selection":
        return None
    if what == "spread" and facing:
        left = -trim.width if side == "recto" else 0.0
        return Bounds(left, 0.0, left + 2 * trim.width, trim.height)
    if what != "margins":
        return Bounds(0.0, 0.0, trim.width, trim.height)
    if holder_id in masters_by_id(publication):
        layout = master_layout(publication, holder_id)
    else:
        layout = page_layout(publication, find_page(publication, holder_id))
    return text_area(publication.setup, layout.margins, side)


def _units(items: dict[str, Item]) -> list[list[str]]:
    """The ids of items that move together: those of a group, or one alone."""
    units: dict[str, list[str]] = {}
    for item_id, item in items.items():
        units.setdefault(item.group or item_id, []).append(item_id)
    return list(units.values())


def _arranged(
    publication: Publication,
    holder_id: str,
    side: Side,
    item_ids: Sequence[str],
    moves: Callable[[list[Bounds]], list[Move]],
) -> Publication:
    items = shown_items(publication, holder_id, item_ids, side)
    units = _units(items)
    bounds = [around_all(bounds_of(box_of(items[i])) for i in unit) for unit in units]
    changes: dict[str, dict[str, object]] = {}
    for unit, (dx, dy) in zip(units, moves(bounds), strict=True):
        for item_id in unit:
            item = items[item_id]
            changes[item_id] = {"x": item.x + dx, "y": item.y + dy}
    return change_shown(publication, holder_id, side, changes)


def align(
    publication: Publication,
    holder_id: str,
    side: Side,
    item_ids: Sequence[str],
    edge: Edge,
    to: Bounds | None = None,
) -> Publication:
    """An edge or the middle of each item brought to that of `to`, or of all of them."""
    return _arranged(publication, holder_id, side, item_ids, lambda b: aligned(b, edge, to))


def distribute(
    publication: Publication,
    holder_id: str,
    side: Side,
    item_ids: Sequence[str],
    axis: Direction,
    to: Bounds | None = None,
) -> Publication:
    """All gaps along an axis made equal, between the outermost items or within `to`."""
    return _arranged(publication, holder_id, side, item_ids, lambda b: distributed(b, axis, to))


def same_size(
    publication: Publication,
    holder_id: str,
    side: Side,
    item_ids: Sequence[str],
    what: Literal["width", "height"],
    point: Handle = (-1, -1),
) -> Publication:
    """Every item as wide or as high as the first one; its reference point stays."""
    items = shown_items(publication, holder_id, item_ids, side)
    if len(items) < 2:
        raise Refusal(f"One item alone has no other {what} to take; select two or more.")
    size = float(getattr(next(iter(items.values())), what))
    changes: dict[str, dict[str, object]] = {}
    for item_id, item in items.items():
        if what == "height" and is_level(item):
            continue  # a line has none
        width, height = (size, None) if what == "width" else (None, size)
        box = sized_at(box_of(item), point, width, height)
        changes[item_id] = {"x": box.x, "y": box.y, what: size}
    return change_shown(publication, holder_id, side, changes)


def reshape(
    publication: Publication, holder_id: str, side: Side, item_ids: Sequence[str], to: Bounds
) -> Publication:
    """Several items moved and sized together, so that the box around them becomes `to`."""
    items = shown_items(publication, holder_id, item_ids, side)
    around = around_all(bounds_of(box_of(i)) for i in items.values())
    changes: dict[str, dict[str, object]] = {}
    for item_id, item in items.items():
        box = scaled(box_of(item), around, to)
        changes[item_id] = {"x": box.x, "y": box.y, "width": box.width, "height": box.height}
    return change_shown(publication, holder_id, side, changes)
