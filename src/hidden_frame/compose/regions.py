"""A frame on a page as the regions that its text fills: columns, insets, what is in the way."""

from __future__ import annotations

from hidden_frame.compose.palette import Palette
from hidden_frame.model.geometry import Grid
from hidden_frame.model.items import TextFrame
from hidden_frame.typeset.region import Outline, Region


def inner_width(frame: TextFrame) -> float:
    """The frame's width within its insets, in points."""
    return max(frame.width - frame.insets.left - frame.insets.right, 0.0)


def inner_height(frame: TextFrame) -> float:
    """The frame's height within its insets, in points."""
    return max(frame.height - frame.insets.top - frame.insets.bottom, 0.0)


def regions_of(
    frame: TextFrame,
    outlines: tuple[Outline, ...] = (),
    height: float | None = None,
    grid: tuple[float, float] | None = None,
) -> tuple[Region, ...]:
    """A region for each column, in the order of reading, from the frame's inner corner.

    `outlines` are what stands in the way, in the frame's own coordinates; `height` takes the
    place of the frame's own (points); `grid` is where the baseline grid lies in them.
    """
    high = inner_height(frame) if height is None else height
    gaps = frame.gutter * (frame.columns - 1)
    wide = max((inner_width(frame) - gaps) / frame.columns, 0.0)
    step = wide + frame.gutter
    insets = frame.insets
    moved = tuple(
        o._replace(corners=tuple((x - insets.left, y - insets.top) for x, y in o.corners))
        for o in outlines
    )
    return tuple(Region(n * step, n * step + wide, high, moved, grid) for n in range(frame.columns))


def grid_in(frame: TextFrame, grid: Grid | None, known: Palette) -> tuple[float, float] | None:
    """How far below a frame's inner corner a line of the baseline grid lies, and its step; None
    if no style asks for it, or the frame is turned."""
    if grid is None or frame.rotation or not any(s.on_grid for s in known.paragraphs.values()):
        return None
    return (grid.start - frame.y - frame.insets.top) % grid.step, grid.step
