"""What is anchored in a text, from what a text says of it to what is painted."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec.structs import replace

from hidden_frame.compose.pictures import moved, picture_primitive
from hidden_frame.compose.scene import Primitive, TextPrimitive
from hidden_frame.model.geometry import Crop, Side
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.publication import Picture
from hidden_frame.model.text import Anchor
from hidden_frame.typeset.anchored import BESIDE, IN_LINE, AnchoredStanding, standing
from hidden_frame.typeset.paragraph import Anchored, ParagraphSpec, Span
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.text import SetText, set_text

CAPTION_GAP = 4.0  # points between a picture and its caption


def anchored_span(anchor: Anchor, plain: Span, caption: tuple[ParagraphSpec, ...]) -> Span:
    """The span that keeps a place for what is anchored; `plain` is one of its paragraph, `caption`
    are the paragraphs that stand below its picture."""
    words = caption_of(caption, anchor.width)
    high = anchor.height if _has_picture(anchor) else 0.0
    if words is not None:
        high += words.height + (CAPTION_GAP if high else 0.0)
    room = Anchored(
        anchor.stands, anchor.width, high, anchor.distance, anchor.shift, anchor, caption
    )
    sign = IN_LINE if anchor.stands == "in the line" else BESIDE
    return plain._replace(text=sign, marker=True, language=None, anchored=room)


def caption_of(caption: tuple[ParagraphSpec, ...], width: float) -> SetText | None:
    """A caption set at a width (points); None if there is none."""
    return set_text(caption, [Region(0.0, width)], snug=True) if caption else None


def _has_picture(anchor: Anchor) -> bool:
    return anchor.picture is not None or not anchor.caption


def anchored_primitives(
    shown: TextPrimitive, side: Side, pictures: tuple[Picture, ...]
) -> Iterator[Primitive]:
    """What is anchored in the lines that a frame shows, in the frame's own coordinates."""
    for _, one in anchored_on(shown, side):
        yield from _painted(one, shown, pictures)


def anchored_on(shown: TextPrimitive, side: Side) -> Iterator[tuple[int, AnchoredStanding]]:
    """What is anchored in the lines that are shown, each with the number of its paragraph there."""
    text, left = shown.text, side == "recto"
    if not any(spec.dress.anchored for spec in text.specs):
        return
    for line in text.lines[: shown.shown]:
        if text.specs[line.paragraph].dress.anchored:
            column = text.columns[line.column]
            for one in standing(line.line, line.x, line.top, column, inside_left=left):
                yield line.paragraph, one


def _painted(
    one: AnchoredStanding, shown: TextPrimitive, pictures: tuple[Picture, ...]
) -> Iterator[Primitive]:
    anchor = one.anchored.what
    assert anchor is not None
    x, y = shown.x + one.x, shown.y + one.y
    below = 0.0
    if _has_picture(anchor):
        scale = one.width / anchor.width
        frame = _frame(anchor, scale, shown.alpha)
        yield moved(picture_primitive(frame, pictures), x, y)
        below = frame.height + CAPTION_GAP
    words = caption_of(one.anchored.caption, one.width)
    if words is not None:
        yield TextPrimitive(words, x, y + below, len(words.lines), shown.alpha)


def _frame(anchor: Anchor, scale: float, opacity: float) -> PictureFrame:
    """The frame that an anchored picture is seen in, at a scale."""
    crop = anchor.crop
    if crop is not None:
        crop = Crop(crop.x * scale, crop.y * scale, crop.scale * scale)
    made = PictureFrame(id="", x=0.0, y=0.0, width=anchor.width, height=anchor.height)
    return replace(
        made, width=anchor.width * scale, height=anchor.height * scale,
        picture=anchor.picture, fit=anchor.fit, crop=crop, opacity=opacity,
    )  # fmt: skip
