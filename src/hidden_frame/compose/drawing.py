"""Items to drawings: paths, set text, pictures, in the item's own coordinates.

A drawing is remembered by what it was made of, and its position is not part of
that: an item that only moves is not drawn again.
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.compose.scene import (
    Drawing,
    PathPrimitive,
    Pen,
    PicturePrimitive,
    Placeholder,
    Primitive,
    Rect,
    TextPrimitive,
)
from hidden_frame.compose.textspec import Palette, ink, specs
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Picture
from hidden_frame.model.remember import remembered
from hidden_frame.model.text import Text
from hidden_frame.typeset.layout import SetText, set_text
from hidden_frame.typeset.overflow import Overflow, explain

# Four cubic arcs make an ellipse; with this factor the radius is off by at most
# 0.027 % (4/3·(√2 − 1), common practice of computer graphics).
_ARC = 0.5522847498307936


@remembered(50_000)
def draw(
    item: Item,
    side: Side,
    values: tuple[str, ...],
    known: Palette,
    pictures: tuple[Picture, ...],
) -> Drawing:
    """An item's drawing on a side, `values` being what its markers show."""
    if isinstance(item, TextFrame) and item.grows:
        item = replace(item, height=max(item.height, text_height(item, side, values, known)))
    primitives: list[Primitive] = []
    outline = _outline(item)
    if item.fill is not None and not isinstance(item, Line):
        primitives.append(_filled(outline, item.fill, item.opacity, known))
    overflow = None
    if isinstance(item, TextFrame):
        text, overflow = _text(item, side, values, known)
        primitives.append(text)
    elif isinstance(item, PictureFrame):
        primitives.append(_picture(item, pictures))
    if item.stroke is not None:
        pen = _pen(item.stroke, item.opacity, known)
        primitives.append(PathPrimitive(outline, pen=pen))
    return Drawing(tuple(primitives), item.width, item.height, overflow)


def _filled(outline: tuple, fill: Fill, opacity: float, known: Palette) -> PathPrimitive:
    colour = ink(known.colours[fill.colour], fill.tint)
    return PathPrimitive(outline, ink=colour, alpha=fill.opacity * opacity)


def _pen(stroke: Stroke, opacity: float, known: Palette) -> Pen:
    colour = ink(known.colours[stroke.colour], stroke.tint)
    return Pen(colour, stroke.width, stroke.opacity * opacity, stroke.dash)


def _outline(item: Item) -> tuple:
    w, h = item.width, item.height
    if isinstance(item, Line):
        return (("M", 0.0, 0.0), ("L", w, 0.0))
    if isinstance(item, Shape) and item.form == "ellipse":
        return _rounded(w, h, w / 2, h / 2)
    if isinstance(item, Shape) and item.form == "rounded":
        radius = min(item.radius, w / 2, h / 2)
        return _rounded(w, h, radius, radius)
    return (("M", 0.0, 0.0), ("L", w, 0.0), ("L", w, h), ("L", 0.0, h), ("Z",))


def _rounded(w: float, h: float, rx: float, ry: float) -> tuple:
    kx, ky = rx * (1 - _ARC), ry * (1 - _ARC)
    return (
        ("M", rx, 0.0), ("L", w - rx, 0.0), ("C", w - kx, 0.0, w, ky, w, ry),
        ("L", w, h - ry), ("C", w, h - ky, w - kx, h, w - rx, h),
        ("L", rx, h), ("C", kx, h, 0.0, h - ky, 0.0, h - ry),
        ("L", 0.0, ry), ("C", 0.0, ky, kx, 0.0, rx, 0.0), ("Z",),
    )  # fmt: skip


@remembered(20_000)
def _set(
    text: Text, width: float, side: Side, values: tuple[str, ...], known: Palette, snug: bool
) -> SetText:
    paragraphs = specs(text, values, side, known)
    if snug and paragraphs:
        paragraphs[0] = paragraphs[0]._replace(before=0.0)
    return set_text(paragraphs, width)


def text_height(item: TextFrame, side: Side, values: tuple[str, ...], known: Palette) -> float:
    """How high a frame must be for all of its text, insets included, in points."""
    width = max(item.width - 2 * item.inset, 0.0)
    return _set(item.text, width, side, values, known, item.snug).height + 2 * item.inset


def _text(
    item: TextFrame, side: Side, values: tuple[str, ...], known: Palette
) -> tuple[TextPrimitive, Overflow | None]:
    inset = item.inset
    width = max(item.width - 2 * inset, 0.0)
    height = max(item.height - 2 * inset, 0.0)
    text = _set(item.text, width, side, values, known, item.snug)
    overflow = explain(text, height)
    shown = overflow.shown if overflow else len(text.lines)
    y = inset
    if overflow is None and item.vertical != "top":
        y += (height - text.height) * (0.5 if item.vertical == "middle" else 1.0)
    return TextPrimitive(text, inset, y, shown, item.opacity), overflow


def _picture(item: PictureFrame, pictures: tuple[Picture, ...]) -> Primitive:
    frame = (0.0, 0.0, item.width, item.height)
    picture = next((p for p in pictures if p.hash == item.picture), None)
    if picture is None:
        return Placeholder(frame, "Picture")
    rect = fitted(picture.width, picture.height, item)
    return PicturePrimitive(picture.hash, picture.kind, rect, frame, item.opacity)


def fitted(width: float, height: float, item: PictureFrame) -> Rect:
    """The place of a picture of these proportions in its frame, by the frame's fit."""
    if item.fit == "stretch":
        return (0.0, 0.0, item.width, item.height)
    across, down = item.width / width, item.height / height
    scale = min(across, down) if item.fit == "fit" else max(across, down)
    w, h = width * scale, height * scale
    return ((item.width - w) / 2, (item.height - h) / 2, w, h)
