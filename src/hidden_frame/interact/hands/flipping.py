"""Items flipped: mirrored about the middle of what is selected, pictures with what they show.

>>> flips("no", "across"), flips("both", "across")
('across', 'down')
"""

from __future__ import annotations

from typing import Literal

from msgspec.structs import replace

from hidden_frame.compose.pictures import picture_rect
from hidden_frame.interact.hands.cropping import picture_of
from hidden_frame.interact.hands.shown import box_of, change_shown, shown_items
from hidden_frame.model.geometry import Flip, Side
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.plane.box import Bounds, bounds_of
from hidden_frame.model.publication import Publication

Way = Literal["across", "down"]
_BITS: tuple[Flip, ...] = ("no", "across", "down", "both")


def flips(now: Flip, way: Way) -> Flip:
    """How a picture is flipped after one flip more."""
    return _BITS[_BITS.index(now) ^ _BITS.index(way)]


def flipped(
    publication: Publication, holder_id: str, side: Side, item_ids: tuple[str, ...], way: Way
) -> Publication:
    """Items mirrored across, left for right, or down, top for bottom, about the middle of the box
    around them.  Words are never mirrored: a text frame changes its place alone."""
    items = shown_items(publication, holder_id, item_ids, side)
    around = _around([bounds_of(box_of(i)) for i in items.values()])
    changes: dict[str, dict[str, object]] = {}
    for item_id, item in items.items():
        middle_x, middle_y = item.x + item.width / 2, item.y + item.height / 2
        change: dict[str, object] = {}
        if way == "across":
            change["x"] = around.left + around.right - middle_x - item.width / 2
        else:
            change["y"] = around.top + around.bottom - middle_y - item.height / 2
        if not isinstance(item, TextFrame) and item.rotation:
            change["rotation"] = -item.rotation
        if isinstance(item, PictureFrame):
            change |= _picture(publication, item, way)
        changes[item_id] = {n: v for n, v in change.items() if v != getattr(item, n)}
    return change_shown(publication, holder_id, side, changes)


def _picture(publication: Publication, item: PictureFrame, way: Way) -> dict[str, object]:
    """What a picture shows, mirrored about the middle of its frame."""
    change: dict[str, object] = {"flip": flips(item.flip, way)}
    picture = picture_of(publication, item)
    if item.fit == "free" and item.crop is not None and picture is not None:
        x, y, wide, high = picture_rect(picture, item)
        crop = item.crop
        if way == "across":
            change["crop"] = replace(crop, x=item.width - x - wide)
        else:
            change["crop"] = replace(crop, y=item.height - y - high)
    return change


def _around(boxes: list[Bounds]) -> Bounds:
    return Bounds(
        min(b.left for b in boxes), min(b.top for b in boxes),
        max(b.right for b in boxes), max(b.bottom for b in boxes),
    )  # fmt: skip
