"""Items to drawings: paths, set text, pictures, in the item's own coordinates.

A drawing is remembered by what it was made of, and its position is not part of
that: an item that only moves is not drawn again.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.anchors import anchored_primitives
from hidden_frame.compose.kinds import appearance
from hidden_frame.compose.numbers import labels
from hidden_frame.compose.palette import Palette, ink
from hidden_frame.compose.pictures import picture_primitive
from hidden_frame.compose.regions import inner_height, regions_of
from hidden_frame.compose.scene import (
    Drawing,
    PathPrimitive,
    Pen,
    Primitive,
    TextPrimitive,
)
from hidden_frame.compose.stories.part import StoryPart
from hidden_frame.compose.textspec import specs
from hidden_frame.compose.worn import worn
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, PictureFrame, TextFrame
from hidden_frame.model.memory import remembered
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Picture
from hidden_frame.model.text import Text
from hidden_frame.typeset.inked import DarkText
from hidden_frame.typeset.overflow import Overflow, explain, too_wide
from hidden_frame.typeset.region import Outline, Region
from hidden_frame.typeset.text import SetText, set_text

NOTHING: tuple[Outline, ...] = ()


def draw(
    item: Item,
    side: Side,
    values: tuple[str, ...],
    known: Palette,
    pictures: tuple[Picture, ...],
    outlines: tuple[Outline, ...] = NOTHING,
    part: StoryPart | None = None,
    grid: tuple[float, float] | None = None,
    dark: bool = False,
) -> Drawing:
    """An item's drawing on a side, `values` being what its markers show; a frame with a `part`
    of a story shows that instead of a text of its own.

    Text runs around `outlines`, polygons in the item's own coordinates; `grid` is where
    the baseline grid lies in it (`regions.grid_in`).  On `dark` ground words take the colours that
    are meant for it.
    """
    palette = known
    if isinstance(item, TextFrame) and part is None:
        item, palette = worn(item, known, dark)
    if isinstance(item, TextFrame) and item.grows and part is None:
        height = text_height(item, side, values, palette, outlines, grid)
        item = replace(item, height=max(item.height, height))
    primitives: list[Primitive] = []
    look = appearance(item)
    outline = look.outline(item)
    if item.fill is not None and look.filled:
        primitives.append(_filled(outline, item.fill, item.opacity, known))
    content = CONTENT.get(type(item))
    overflow = None
    if content is not None:
        setting = _Setting(side, values, palette, known, pictures, outlines, part, grid, dark)
        shown, overflow = content(item, setting)
        primitives += shown
    if item.stroke is not None:
        pen = _pen(item.stroke, item.opacity, known)
        primitives.append(PathPrimitive(outline, pen=pen))
    return Drawing(tuple(primitives), item.width, item.height, overflow, part is not None)


class _Setting(NamedTuple):
    """What an item is drawn with: as given to `draw`, and the `palette` that its words wear."""

    side: Side
    values: tuple[str, ...]
    palette: Palette
    known: Palette
    pictures: tuple[Picture, ...]
    outlines: tuple[Outline, ...]
    part: StoryPart | None
    grid: tuple[float, float] | None
    dark: bool


Content = tuple[list[Primitive], Overflow | None]


def _text_shown(item: TextFrame, given: _Setting) -> Content:
    """A text of its own, or a part of a story, with what is anchored in it."""
    if given.part is None:
        shown, overflow = _text(
            item, given.side, given.values, given.palette, given.outlines, given.grid
        )
    else:
        shown, overflow = (
            _of_story(item, given.part, bool(given.outlines)),
            too_wide(given.part.text),
        )
        if given.dark:
            named = None if item.on_dark is None else ink(given.known.colours[item.on_dark])
            shown = shown._replace(text=DarkText(shown.text, named))
    return [shown, *anchored_primitives(shown, given.side, given.pictures)], overflow


def _picture_shown(item: PictureFrame, given: _Setting) -> Content:
    return [picture_primitive(item, given.pictures, given.dark)], None


# What stands in items, by their kind: between their fill and their stroke.
CONTENT: dict[type, Callable[[Any, _Setting], Content]] = {
    TextFrame: _text_shown,
    PictureFrame: _picture_shown,
}


def _filled(outline: tuple, fill: Fill, opacity: float, known: Palette) -> PathPrimitive:
    colour = ink(known.colours[fill.colour], fill.tint)
    return PathPrimitive(outline, ink=colour, alpha=fill.opacity * opacity)


def _pen(stroke: Stroke, opacity: float, known: Palette) -> Pen:
    colour = ink(known.colours[stroke.colour], stroke.tint)
    return Pen(colour, stroke.width, stroke.opacity * opacity, stroke.dash)


@remembered(
    by_value=("values", "regions"), weigh=lambda text: 300 + 160 * len(text.specs), passing=True
)
def set_frame(
    text: Text,
    regions: tuple[Region, ...],
    side: Side,
    values: tuple[str, ...],
    known: Palette,
    snug: bool,
) -> SetText:
    """A text set in the regions of a frame; the same object for the same."""
    return set_text(specs(text, values, side, known, labels(text, known)), regions, snug=snug)


@remembered(by_value=("values",))
def paragraphs_shown(frame: TextFrame, side: Side, values: tuple[str, ...], known: Palette) -> int:
    """How many paragraphs of a frame's own text have a line that it has room for."""
    frame, known = worn(frame, known)
    text = set_frame(frame.text, regions_of(frame), side, values, known, frame.snug)
    overflow = explain(text, inner_height(frame))
    lines = text.lines if overflow is None else text.lines[: overflow.shown]
    return lines[-1].paragraph + 1 if lines else 0


_NEAR = 0.05  # points by which a height may be more than is needed


def text_height(
    item: TextFrame,
    side: Side,
    values: tuple[str, ...],
    known: Palette,
    outlines: tuple[Outline, ...] = NOTHING,
    grid: tuple[float, float] | None = None,
) -> float:
    """How high a frame must be for all of its text, insets included, in points.

    Columns are as even as their lines allow: the least height is looked for between one that is
    too little and one that is enough.
    """
    edge = item.insets.top + item.insets.bottom
    item, known = worn(item, known)

    def set_in(height: float) -> SetText:
        regions = regions_of(item, outlines, height, grid)
        return set_frame(item.text, regions, side, values, known, item.snug)

    if item.columns == 1:
        return set_in(math.inf).height + edge
    alone = set_in(math.inf)
    low, high, line = 0.0, alone.height, min((each.height for each in alone.lines), default=0.0)
    middle = high / item.columns  # right, where nothing is in the way
    while high - low > _NEAR:
        done = set_in(middle)
        if explain(done, middle) is None:
            high = min(middle, max((each.bottom for each in done.lines), default=0.0))
        else:
            low = middle
        # Between two heights less than a line apart, the one that is enough is nearly the least.
        middle = (low + high) / 2 if high - low > 1.5 * line else high - _NEAR * 0.9
    return high + edge


def _of_story(item: TextFrame, part: StoryPart, around: bool) -> TextPrimitive:
    """What of a story stands in a frame."""
    y, text = item.insets.top, part.text
    if item.vertical != "top" and not around and not part.goes_on:
        text, y = _aligned(item, text)
    return TextPrimitive(text, item.insets.left, y, text.count, item.opacity)


def _aligned(item: TextFrame, text: SetText) -> tuple[SetText, float]:
    """A text that fits, stood in the middle or at the foot of its frame, and its top."""
    height, y = inner_height(item), item.insets.top
    share = 0.5 if item.vertical == "middle" else 1.0
    if item.columns == 1:
        return text, y + (height - text.height) * share
    return text.lowered([(height - f.bottom) * share for f in text.fragments]), y


def _text(
    item: TextFrame,
    side: Side,
    values: tuple[str, ...],
    known: Palette,
    outlines: tuple[Outline, ...],
    grid: tuple[float, float] | None,
) -> tuple[TextPrimitive, Overflow | None]:
    insets, height = item.insets, inner_height(item)
    regions = regions_of(item, outlines, grid=grid)
    text = set_frame(item.text, regions, side, values, known, item.snug)
    overflow = explain(text, height) or too_wide(text)
    shown = overflow.shown if overflow else len(text.lines)
    y = insets.top
    if overflow is None and item.vertical != "top" and not outlines:
        text, y = _aligned(item, text)
    return TextPrimitive(text, insets.left, y, shown, item.opacity), overflow
