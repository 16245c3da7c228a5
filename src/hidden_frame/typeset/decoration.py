"""Lines under and through words: where they lie on a line.

>>> from hidden_frame.typeset.fonts import font_book
>>> stroke_of(font_book().face("Spectral"), "underline").position < 0  # below the baseline
True
"""

from __future__ import annotations

from functools import cache
from typing import Literal, NamedTuple

from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.paragraph import Ink

Kind = Literal["underline", "strike"]


class Stroke(NamedTuple):
    """The middle of a line above the baseline, and its weight, in ems."""

    position: float
    weight: float


class Decoration(NamedTuple):
    """A filled rectangle, from the left edge of the line's measure and from its baseline down."""

    x: float
    y: float
    width: float
    height: float
    ink: Ink


@cache
def stroke_of(face: FontFace, kind: Kind) -> Stroke:
    """What a font says of its own lines (OpenType, tables post and OS/2)."""
    tables, upem = face.tables, face.upem
    if kind == "underline":
        post = tables["post"]
        weight = (post.underlineThickness or upem / 20) / upem
        return Stroke((post.underlinePosition or -upem / 10) / upem - weight / 2, weight)
    os2 = tables["OS/2"]
    weight = (os2.yStrikeoutSize or upem / 20) / upem
    return Stroke((os2.yStrikeoutPosition or upem / 4) / upem - weight / 2, weight)


def decorations(line: TextLine) -> list[Decoration]:
    """The lines under and through what stands on a line; none on most."""
    found: list[Decoration] = []
    before: GlyphRun | None = None
    for run in line.runs:
        for kind in ("underline", "strike"):
            if getattr(run.span, kind) and run.words:
                found.append(_decoration(run, before, kind))
        before = run
    return found


def _decoration(run: GlyphRun, before: GlyphRun | None, kind: Kind) -> Decoration:
    """A line under or through a run, and the space before it if the run before has one too."""
    setting = run.setting
    xs, words = run.xs, run.words
    left, right = xs[0], xs[-1] + words[-1].width
    if before is not None and before.words and getattr(before.span, kind):
        left = before.xs[-1] + before.words[-1].width
    stroke = stroke_of(setting.face, kind)
    high = stroke.weight * setting.size
    middle = stroke.position * setting.size + setting.shift
    return Decoration(left, -middle - high / 2, right - left, high, run.span.ink)
