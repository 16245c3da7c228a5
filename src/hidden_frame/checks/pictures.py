"""Pictures that are missing, can't be read, or have too few pixels."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.fault import Fault, PrintedItem
from hidden_frame.compose.scene import PicturePrimitive
from hidden_frame.model.number_format import decimal, figure


def picture_faults(look: PrintedItem) -> Iterator[Fault]:
    """What is wrong with each picture that an item shows."""
    for primitive in look.placed.drawing.primitives:
        if isinstance(primitive, PicturePrimitive):
            yield from _of_picture(primitive, look)


def _of_picture(primitive: PicturePrimitive, look: PrintedItem) -> Iterator[Fault]:
    limits = look.limits
    picture = next((p for p in limits.pictures if p.hash == primitive.hash), None)
    if picture is None or primitive.hash in limits.missing:
        what = "shows a picture whose file is missing; it prints nothing"
        yield look.fault("missing picture", what, primitive.hash)
        return
    for digest, why in limits.troubled:
        if digest == primitive.hash:
            what = f"shows “{picture.name or 'a picture'}”, which {why}; place it again"
            yield look.fault("unreadable picture", what, primitive.hash)
            return
    _, _, w, h = primitive.rect
    if picture.kind == "svg" or w <= 0 or h <= 0:
        return
    ppi = min(picture.width * 72 / w, picture.height * 72 / h)
    least = limits.least_line_ppi if picture.bilevel else limits.least_ppi
    if ppi < least - 0.5:
        what = f"shows {decimal(ppi, 0)} ppi; at least {figure(least)} ppi is needed"
        yield look.fault("low resolution", what, (ppi / least,))
