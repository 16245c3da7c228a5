"""Room for what is anchored in a paragraph: how much a line needs above itself for it, and
where it comes to stand.

What stands in the line or above it pushes its line down; what stands in a margin takes no room.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import NamedTuple

from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.paragraph import Anchored
from hidden_frame.typeset.paragraphs import SetLines

IN_LINE = "\ufffc"  # a line may end on either side of it (UAX #14, CB)
BESIDE = "\u2060"  # and on neither (WJ)


def anchored_in(line: TextLine) -> Iterator[tuple[Anchored, GlyphRun]]:
    """What is anchored in a line, and the run that keeps its place."""
    for run in line.runs:
        if run.span.anchored is not None and run.span.anchored.what is not None:
            yield run.span.anchored, run


def room_above(line: TextLine) -> float:
    """What a line needs above itself, in points: what stands above it is side by side."""
    tall = (
        one.height + one.distance + one.shift
        for one, _ in anchored_in(line)
        if one.stands == "above the line"
    )
    return _in_line(line) + max(tall, default=0.0)


def _in_line(line: TextLine) -> float:
    """How much higher what stands in a line is than the line."""
    tall = (
        one.height + one.shift - line.rise
        for one, _ in anchored_in(line)
        if one.stands == "in the line"
    )
    return max(0.0, *tall, 0.0)


class LineTop(NamedTuple):
    """A line's own top (points from the region's), below what stands above it."""

    top: float
    above: float


def rows(
    known: SetLines, first: int, y: float, pitch: float, limit: float, *, on_grid: bool, bare: bool
) -> list[LineTop]:
    """Where the lines from `first` on stand, from y down, as far as the limit allows.

    In a region that is `bare` the first one always finds room if a line without anything
    anchored does: what is anchored there is made smaller.
    """
    found: list[LineTop] = []
    leading = known.spec.leading
    for line in known.lines[first:]:
        above = room_above(line)
        if on_grid:
            above = math.ceil(above / pitch - 1e-6) * pitch
        top = y + above
        if top + leading > limit and bare and not found:
            top = max(limit - leading, y)
            above = top - y
        if top + leading > limit:
            break
        found.append(LineTop(top, above))
        y = top + pitch
    return found


class AnchoredStanding(NamedTuple):
    """Something anchored where it stands: its box from the frame's inner corner, points, and the
    offset of its character in its paragraph."""

    anchored: Anchored
    x: float
    y: float
    width: float
    height: float
    offset: int


def standing(
    line: TextLine, left: float, top: float, column: tuple[float, float], *, inside_left: bool
) -> Iterator[AnchoredStanding]:
    """What is anchored in a line whose measure begins at `left` and which stands at `top`:
    smaller where it would stand out of its column, or of the region's head."""
    edge, right = column
    in_line = _in_line(line)
    x_above = left + min(line.left, max(right - left, 0.0))
    for one, run in anchored_in(line):
        x, offset = run.x, run.sources()[0][0]
        if one.stands == "in the line":
            yield _fitted(one, left + x, top + line.rise - one.shift, right - left - x, offset)
        elif one.stands == "above the line":
            foot = top - in_line - one.distance - one.shift
            made = _fitted(one, x_above, foot, right - x_above, offset)
            yield made
            x_above = min(made.x + made.width + one.distance, right)
        else:
            to_left = (one.stands == "inside") == inside_left
            at = edge - one.distance - one.width if to_left else right + one.distance
            yield AnchoredStanding(one, at, top - one.shift, one.width, one.height, offset)


def _fitted(one: Anchored, x: float, foot: float, most: float, offset: int) -> AnchoredStanding:
    """At a place, its foot given, no wider than there is room and no higher than the head."""
    scale = min(1.0, max(most, 1.0) / one.width)
    if one.height:
        scale = min(scale, max(foot, 1.0) / one.height)
    high = one.height * scale
    return AnchoredStanding(one, x, foot - high, one.width * scale, high, offset)
