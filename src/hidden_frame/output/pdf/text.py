"""Set text as text operators (ISO 32000-1, 9.4): what was shaped is what is shown."""

from __future__ import annotations

import math
from collections.abc import Callable

from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.output.pdf.fonts import EmbeddedFont, Pieces
from hidden_frame.output.pdf.operators import number
from hidden_frame.output.pdf.store import Sheet
from hidden_frame.typeset.decoration import Decoration, borders, decorated, decorations
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.line import GlyphRun
from hidden_frame.typeset.paragraph import Ink
from hidden_frame.typeset.shaping import Word
from hidden_frame.typeset.text import PlacedLine

Fonts = Callable[[FontFace], tuple[EmbeddedFont, str]]
Colours = Callable[[Sheet, Ink], str]


class TextWriter:
    """Writes one block; font, colour and letter space are said where they change."""

    def __init__(self, sheet: Sheet, fonts: Fonts, colours: Colours) -> None:
        self.sheet = sheet
        self.fonts = fonts
        self.colours = colours
        self._font: tuple[str, float] | None = None
        self._ink: Ink | None = None
        self._tracking = 0.0

    def block(self, block: TextPrimitive) -> None:
        lines = [line for line in block.text.lines[: block.shown] if line.runs or line.leaders]
        if not lines:
            return
        self.sheet.say("BT")
        for line in lines:
            self._line(line, block.x, block.y)
        if self._tracking:
            self.sheet.say("0 Tc")
        self.sheet.say("ET")
        self._fill(borders(block.text, block.shown), block.x, block.y)
        for line in lines if decorated(block.text) else ():
            self._fill(decorations(line.line), block.x + line.x, block.y + line.baseline)

    def _line(self, line: PlacedLine, dx: float, dy: float) -> None:
        dx, dy = dx + line.x, dy + line.baseline
        for number_, run in enumerate(line.runs):
            self._run(run, dx, dy, number_ > 0)
        for run in line.leaders:  # they are nobody's text (ISO 32000-1, 14.8.2.2)
            self.sheet.say("/Artifact BMC")
            self._run(run, dx, dy, False)
            self.sheet.say("EMC")

    def _fill(self, rectangles: list[Decoration], dx: float, dy: float) -> None:
        """Lines under and through words, and rules of paragraphs (ISO 32000-1, 8.5.2)."""
        for x, y, width, height, ink in rectangles:
            if ink != self._ink:
                self._ink = ink
                self.sheet.say(self.colours(self.sheet, ink))
            corner = f"{number(x + dx)} {number(y + dy)}"
            self.sheet.say(f"{corner} {number(width)} {number(height)} re f")

    def _run(self, run: GlyphRun, dx: float, dy: float, goes_on: bool) -> None:
        words, setting = run.words, run.setting
        if not words:
            return
        dy -= setting.shift
        font, name = self.fonts(setting.face)
        if len(words) > 1 and run.evenly:  # most runs by far
            self._state(name, setting.size, run.span.ink, setting.tracking / setting.stretch)
            if self._evenly(run, words, font, dx, dy):
                return
        spaced = run.spaced
        if not (any(spaced) or any(w.text for w in words)):
            return
        self._state(name, setting.size, run.span.ink, setting.tracking / setting.stretch)
        alike = not spaced[0] and all(spaced[1:]) and not run.both_ways
        if alike and self._evenly(run, words, font, dx, dy):
            return
        size, xs = setting.size, run.xs
        across = size * setting.stretch  # an em from left to right
        width = font.space_width * across / 1000 + setting.tracking
        before = goes_on and spaced[0]
        end = start = xs[0] - (width if before else 0.0)
        parts = Shown(font, size)
        add, space, codes = parts.add, font.space, font.codes
        spelt, first = True, not before
        rows = list(zip(words, xs, spaced, strict=True))
        if run.both_ways:
            rows = in_sight(rows, width)
            end = start = rows[0][1]
            first = True
        for word, x, gap in rows:
            if gap and not first:
                add(space)
                end += width
            first = False
            by = x - end
            if by > 1e-6 or by < -1e-6:  # in TJ, thousandths of an em to the left
                add(f" {number(-by * 1000 / across)} ")
            coded = codes.get(id(word.shaped)) or font.code(word.shaped)
            if coded.plain is not None:
                add(coded.plain)
            else:
                parts.raised(coded.pieces)
            spelt = spelt and coded.spelt
            end = x + word.width
        self.sheet.say(f"{number(setting.stretch)} 0 0 -1 {number(start + dx)} {number(dy)} Tm")
        code = parts.code()
        if not spelt:  # the glyphs alone don't spell it (ISO 32000-1, 14.9.4)
            text = run.text.encode("utf-16-be", "replace").hex().upper()
            code = f"/Span <</ActualText <FEFF{text}>>> BDC {code} EMC"
        self.sheet.say(code)

    def _evenly(
        self, run: GlyphRun, words: list[Word], font: EmbeddedFont, dx: float, dy: float
    ) -> bool:
        """Most runs: words with one and the same space between them, in one array.  False for
        a run that needs more than that."""
        plain = font.plain
        try:
            codes = [plain[word] for word in words]
        except KeyError:
            if not all(map(font.is_plain, words)):
                return False
            codes = [plain[word] for word in words]
        extra, stretch = run.extra, run.setting.stretch
        size = run.setting.size * stretch
        wider = f" {number(-extra * 1000 / size)} " if abs(extra) > 1e-6 else ""
        array = f"{font.space}{wider}".join(codes).replace("><", "")
        place = f"{number(run.x + dx)} {number(dy)}"
        self.sheet.say(f"{number(stretch)} 0 0 -1 {place} Tm [{array}] TJ")
        return True

    def _state(self, name: str, size: float, ink: Ink, tracking: float) -> None:
        if (name, size) != self._font:
            self._font = (name, size)
            self.sheet.say(f"/{self.sheet.use('Font', name)} {number(size)} Tf")
        if ink != self._ink:
            self._ink = ink
            self.sheet.say(self.colours(self.sheet, ink))
        if tracking != self._tracking:
            self._tracking = tracking
            self.sheet.say(f"{number(tracking)} Tc")


Row = tuple[Word, float, bool]  # a word, where it starts, and whether a space stands before it


def in_sight(rows: list[Row], space: float) -> list[Row]:
    """Words from left to right, as readers of PDF expect them of every script, before they put
    them in the order of reading."""
    found: list[Row] = []
    end = math.inf
    for word, x, _ in sorted(rows, key=lambda row: row[1]):
        found.append((word, x, x - end > space / 2))
        end = x + word.width
    return found


class Shown:
    """The glyphs of a run as TJ arrays, one for each height that they stand at."""

    def __init__(self, font: EmbeddedFont, size: float) -> None:
        self._unit = font.per_unit * size / 1000
        self._done: list[str] = []
        self._parts: list[str] = []
        self._rise = 0.0
        self.add = self._parts.append

    def raised(self, pieces: Pieces) -> None:
        """A word of which some glyphs stand higher or lower (text rise: 9.3.7)."""
        for rise, code in pieces:
            self._at(rise * self._unit)
            self._parts.append(code)
        self._at(0.0)

    def _at(self, rise: float) -> None:
        if rise != self._rise:
            self._flush()
            self._done.append(f"{number(rise)} Ts")
            self._rise = rise

    def _flush(self) -> None:
        if self._parts:
            # Neighbouring strings of an array are one.
            self._done.append(f"[{''.join(self._parts).replace('><', '')}] TJ")
            self._parts.clear()

    def code(self) -> str:
        self._flush()
        return " ".join(self._done)
