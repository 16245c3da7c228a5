"""Set text as text operators (ISO 32000-1, 9.4): what was shaped is what is shown."""

from __future__ import annotations

import math
from collections.abc import Callable
from itertools import groupby
from typing import NamedTuple

from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.output.pdf.fonts import EmbeddedFont, Pieces
from hidden_frame.output.pdf.operators import number
from hidden_frame.output.pdf.readback import LEFT_TO_RIGHT, ReadBack, Told, told
from hidden_frame.output.pdf.store import Sheet
from hidden_frame.typeset.decoration import Decoration, borders, decorated, decorations
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN
from hidden_frame.typeset.line import GlyphRun
from hidden_frame.typeset.paragraph import Ink
from hidden_frame.typeset.segments import is_rtl
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
        for line, said in zip(lines, told(lines), strict=True):
            self._line(line, block.x, block.y, said, is_rtl(block.text.specs[line.paragraph]))
        if self._tracking:
            self.sheet.say("0 Tc")
        self.sheet.say("ET")
        self._fill(borders(block.text, block.shown), block.x, block.y)
        for line in lines if decorated(block.text) else ():
            self._fill(decorations(line.line), block.x + line.x, block.y + line.baseline)

    def _line(self, line: PlacedLine, dx: float, dy: float, said: Told, rtl: bool) -> None:
        dx, dy = dx + line.x, dy + line.baseline
        if line.line.both_ways and not rtl:
            self._both_ways(line, dx, dy, said)
        else:
            for n, run in enumerate(line.runs):
                here = {k: what for (at, k), what in said.items() if at == n} if said else {}
                self._run(run, dx, dy, n > 0, here)
        for run in line.leaders:  # they are nobody's text (ISO 32000-1, 14.8.2.2)
            self.sheet.say("/Artifact BMC")
            self._run(run, dx, dy, False, {})
            self.sheet.say("EMC")

    def _both_ways(self, line: PlacedLine, dx: float, dy: float, said: Told) -> None:
        """A line from left to right in which words are read from right to left, from left to right
        as everybody expects it, each word with what is read in its place (`readback`)."""
        end, before = None, 0
        for word in in_order(line, said):
            setting = word.run.setting
            font, name = self.fonts(setting.face)
            self._state(name, setting.size, word.run.span.ink, setting.tracking / setting.stretch)
            across = setting.size * setting.stretch
            parts, x = ShownGlyphs(font, setting.size), word.x
            if end is not None and x - end > setting.space / 2:
                parts.add(font.saying_space(LEFT_TO_RIGHT if before or word.level else ""))
                by = x - end - font.space_width * across / 1000 - setting.tracking
                parts.add(f" {number(-by * 1000 / across)} ")
                x = end
            coded = font.code(word.shown.shaped)
            if word.text is not None:
                coded = font.saying(word.shown.shaped, word.text)
            self.sheet.say(f"{number(setting.stretch)} 0 0 -1 {number(x + dx)} "
                           f"{number(dy - setting.shift)} Tm")  # fmt: skip
            if isinstance(word.text, str):
                self.sheet.say(parts.code())
                parts = ShownGlyphs(font, setting.size)
            parts.raised(coded.pieces)
            code = parts.code()
            if word.actual is not None or not coded.spelt:
                own = word.shown.text.replace(SOFT_HYPHEN, "")
                code = _spelling(own if word.actual is None else word.actual, code)
            self.sheet.say(code)
            end, before = word.x + word.shown.width, word.level

    def _fill(self, rectangles: list[Decoration], dx: float, dy: float) -> None:
        """Lines under and through words, and rules of paragraphs (ISO 32000-1, 8.5.2)."""
        for x, y, width, height, ink in rectangles:
            if ink != self._ink:
                self._ink = ink
                self.sheet.say(self.colours(self.sheet, ink))
            corner = f"{number(x + dx)} {number(y + dy)}"
            self.sheet.say(f"{corner} {number(width)} {number(height)} re f")

    def _run(
        self, run: GlyphRun, dx: float, dy: float, goes_on: bool, said: dict[int, ReadBack]
    ) -> None:
        words, setting = run.words, run.setting
        if not words:
            return
        dy -= setting.shift
        font, name = self.fonts(setting.face)
        if len(words) > 1 and run.evenly:  # most runs by far
            self._state(name, setting.size, run.span.ink, setting.tracking / setting.stretch)
            if self._evenly(run, words, font, dx, dy, said):
                return
        spaced = run.spaced
        if not (any(spaced) or any(w.text for w in words)):
            return
        self._state(name, setting.size, run.span.ink, setting.tracking / setting.stretch)
        alike = not spaced[0] and all(spaced[1:]) and not run.both_ways
        if alike and self._evenly(run, words, font, dx, dy, said):
            return
        size, xs = setting.size, run.xs
        across = size * setting.stretch  # an em from left to right
        width = font.space_width * across / 1000 + setting.tracking
        before = goes_on and spaced[0]
        end = start = xs[0] - (width if before else 0.0)
        parts = ShownGlyphs(font, size)
        add, space, codes = parts.add, font.space, font.codes
        spelt, first = True, not before
        rows = list(zip(words, xs, spaced, strict=True))
        sayings = [said.get(n) for n in range(len(words))]
        if run.both_ways:
            rows = in_sight(rows, width)
            end = start = rows[0][1]
            first, sayings = True, [None] * len(rows)
        for (word, x, gap), saying in zip(rows, sayings, strict=True):
            if gap and not first:
                add(space)
                end += width
            first = False
            by = x - end
            if by > 1e-6 or by < -1e-6:  # in TJ, thousandths of an em to the left
                add(f" {number(-by * 1000 / across)} ")
            if saying is not None:
                coded = font.saying(word.shaped, saying)
            else:
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
            code = _spelling(run.text.replace(SOFT_HYPHEN, ""), code)
        self.sheet.say(code)

    def _evenly(
        self, run: GlyphRun, words: list[Word], font: EmbeddedFont, dx: float, dy: float,
        said: dict[int, ReadBack],
    ) -> bool:  # fmt: skip
        """Most runs: words with one and the same space between them, in one array.  False for
        a run that needs more than that."""
        plain = font.plain
        try:
            codes = [plain[word] for word in words]
        except KeyError:
            if not all(map(font.is_plain, words)):
                return False
            codes = [plain[word] for word in words]
        for n, saying in said.items():
            codes[n] = "".join(code for _, code in font.saying(words[n].shaped, saying).pieces)
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


def _spelling(text: str, code: str) -> str:
    """What is said of glyphs that don't spell it themselves (ISO 32000-1, 14.9.4)."""
    spelling = text.encode("utf-16-be", "replace").hex().upper()
    return f"/Span <</ActualText <FEFF{spelling}>>> BDC {code} EMC"


class Read(NamedTuple):
    """A word where it stands on a line from left to right: its run and level, what is read in its
    place, and what that is for readers who put it in order themselves."""

    shown: Word
    x: float
    run: GlyphRun
    level: int
    text: str | ReadBack | None
    actual: str | None


def in_order(line: PlacedLine, said: Told) -> list[Read]:
    """The words of a line from left to right.  Those that stand together and are read from right
    to left say each other's texts, so that they come in the order of reading."""
    rows = [
        (x, level, n, k, word)
        for n, run in enumerate(line.runs)
        for k, (word, x, level) in enumerate(zip(run.words, run.xs, run.levels(), strict=True))
        if word.text
    ]
    found: list[Read] = []
    for turned, group in groupby(sorted(rows, key=lambda row: row[0]), key=lambda r: r[1] > 0):
        words = list(group)
        reading = sorted(words, key=lambda row: row[2:4]) if turned else words
        for (x, level, n, k, word), other in zip(words, reading, strict=True):
            text: str | ReadBack | None = said.get((n, k))
            actual = None
            if turned:
                text = other[4].text
                actual = text[::-1] if other[1] % 2 else text
            found.append(Read(word, x, line.runs[n], level, text, actual))
    return found


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


class ShownGlyphs:
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
