"""Lines under and through words, and rules above and below paragraphs: where they lie.

>>> from hidden_frame.typeset.fonts import font_book
>>> stroke_of(font_book().face("Spectral"), "underline").position < 0  # below the baseline
True
"""

from __future__ import annotations

from functools import cache
from typing import Literal, NamedTuple

from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.paragraph import Border, Ink, ParagraphSpec
from hidden_frame.typeset.segments import TextOffset
from hidden_frame.typeset.text import PlacedLine, SetText

Kind = Literal["underline", "strike"]


class DecorationLine(NamedTuple):
    """The middle of a line above the baseline, and its weight, in ems."""

    position: float
    weight: float


class Decoration(NamedTuple):
    """A filled rectangle; for a line of text, from the left edge of its measure and from its
    baseline down."""

    x: float
    y: float
    width: float
    height: float
    ink: Ink


@cache
def stroke_of(face: FontFace, kind: Kind) -> DecorationLine:
    """What a font says of its own lines (OpenType, tables post and OS/2)."""
    tables, upem = face.tables, face.upem
    if kind == "underline":
        post = tables["post"]
        weight = (post.underlineThickness or upem / 20) / upem
        return DecorationLine((post.underlinePosition or -upem / 10) / upem - weight / 2, weight)
    os2 = tables["OS/2"]
    weight = (os2.yStrikeoutSize or upem / 20) / upem
    return DecorationLine((os2.yStrikeoutPosition or upem / 4) / upem - weight / 2, weight)


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
    left, right = min(xs), max(x + word.width for x, word in zip(xs, words, strict=True))
    if before is not None and before.words and getattr(before.span, kind):
        end = before.xs[-1] + before.words[-1].width
        if 0 <= left - end <= setting.size:
            left = end
    stroke = stroke_of(setting.face, kind)
    high = stroke.weight * setting.size
    middle = stroke.position * setting.size + setting.shift
    return Decoration(left, -middle - high / 2, right - left, high, run.span.ink)


def decorated(text: SetText) -> bool:
    """Whether anything of a text has a line under or through it."""
    return any(span.underline or span.strike for spec in text.specs for span in spec.spans)


def borders(text: SetText, shown: int) -> list[Decoration]:
    """The rules above and below the paragraphs among a text's first lines, from the frame's
    inner corner; none in most texts."""
    specs = text.specs
    if not any(spec.dress.above or spec.dress.below for spec in specs):
        return []
    found = []
    for line in text.lines[:shown]:
        spec = specs[line.paragraph]
        above, below = spec.dress.above, spec.dress.below
        if above is not None and line.line.place == TextOffset():
            found.append(_border(text, line, spec, above, line.top - above.offset - above.weight))
        if below is not None and line.end >= _length(spec):
            found.append(_border(text, line, spec, below, line.bottom + below.offset))
    return found


def _border(
    text: SetText, line: PlacedLine, spec: ParagraphSpec, border: Border, y: float
) -> Decoration:
    left, right = line.left, line.right
    if border.wide:
        left, right = text.columns[line.column]
        left, right = left + min(spec.left, spec.left + spec.first), right - spec.right
    return Decoration(left, y, max(right - left, 0.0), border.weight, spec.ink)


def _length(spec: ParagraphSpec) -> int:
    """How many characters a paragraph's text has, spaces at its end left out."""
    text = "".join(
        ("" if s.goes_on else "\ufffc") if s.marker else "" if s.goes_on else s.text
        for s in spec.spans
    )
    initials = spec.dress.drop.span.text if spec.dress.drop is not None else ""
    return len((initials + text).rstrip(" "))
