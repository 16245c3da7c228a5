"""Set text as text operators (ISO 32000-1, 9.4): what was shaped is what is shown."""

from __future__ import annotations

from collections.abc import Callable

from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.output.pdf.fonts import EmbeddedFont
from hidden_frame.output.pdf.operators import number
from hidden_frame.output.pdf.store import Sheet
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.layout import GlyphRun, Line
from hidden_frame.typeset.paragraph import Ink

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

    def _line(self, line: Line, dx: float, dy: float) -> None:
        for number_, run in enumerate(line.runs):
            self._run(run, dx, dy, number_ > 0)
        for run in line.leaders:  # they are nobody's text (ISO 32000-1, 14.8.2.2)
            self.sheet.say("/Artifact BMC")
            self._run(run, dx, dy, False)
            self.sheet.say("EMC")

    def _run(self, run: GlyphRun, dx: float, dy: float, goes_on: bool) -> None:
        words, xs, spaced = run.words, run.xs, list(run.spaced)
        if not words or not (any(spaced) or any(w.text for w in words)):
            return
        setting = run.setting
        font, name = self.fonts(setting.face)
        self._state(name, setting.size, run.span.ink, setting.tracking)
        shown = Shown(font, setting.size)
        width = font.space_width * setting.size / 1000 + setting.tracking
        end = start = xs[0] - (width if goes_on and spaced[0] else 0.0)
        for n, (word, x) in enumerate(zip(words, xs, strict=True)):
            if spaced[n] and (n or goes_on):
                shown.glyphs(font.space)
                end += width
            shown.move(x - end)
            shown.word(font, word.shaped)
            end = x + word.width
        self.sheet.say(f"1 0 0 -1 {number(start + dx)} {number(run.baseline + dy)} Tm")
        code = shown.code()
        if not shown.spelt:  # the glyphs alone don't spell it (ISO 32000-1, 14.9.4)
            text = run.text.encode("utf-16-be", "replace").hex().upper()
            code = f"/Span <</ActualText <FEFF{text}>>> BDC {code} EMC"
        self.sheet.say(code)

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


class Shown:
    """The glyphs of a run as TJ arrays, one for each height that they stand at."""

    def __init__(self, font: EmbeddedFont, size: float) -> None:
        self.size = size
        self.spelt = True
        self._per_unit = font.per_unit
        self._done: list[str] = []
        self._parts: list[str] = []
        self._rise = 0.0

    def move(self, by: float) -> None:
        """To the right by points; in TJ, thousandths of an em to the left."""
        if abs(by) > 1e-6:
            self._parts.append(f" {number(-by * 1000 / self.size)} ")

    def glyphs(self, code: str) -> None:
        self._parts.append(code)

    def word(self, font: EmbeddedFont, shaped) -> None:  # type: ignore[no-untyped-def]
        pieces, spelt = font.code(shaped)
        self.spelt = self.spelt and spelt
        for rise, code in pieces:
            self._at(rise * self._per_unit * self.size / 1000)
            self._parts.append(code)
        self._at(0.0)

    def _at(self, rise: float) -> None:
        if rise != self._rise:
            self._flush()
            self._done.append(f"{number(rise)} Ts")
            self._rise = rise

    def _flush(self) -> None:
        if self._parts:
            self._done.append(f"[{''.join(self._parts)}] TJ")
            self._parts = []

    def code(self) -> str:
        self._flush()
        return " ".join(self._done)
