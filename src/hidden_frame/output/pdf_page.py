"""One scene written as the content of one PDF page."""

from __future__ import annotations

import io
from collections.abc import Mapping

from reportlab.graphics import renderPDF
from reportlab.lib.colors import CMYKColorSep
from reportlab.lib.utils import ImageReader
from reportlab.pdfbase.pdfdoc import PDFDictionary, PDFName, PDFStream, pdfdocEnc
from reportlab.pdfgen.canvas import Canvas
from svglib.svglib import svg2rlg

from hidden_frame.compose.scene import (
    PathPrimitive,
    PicturePrimitive,
    Placed,
    Scene,
    TextPrimitive,
)
from hidden_frame.output.pdf_fonts import EmbeddedFont
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.layout import GlyphRun
from hidden_frame.typeset.paragraph import Ink, SpotInk


def _n(value: float) -> str:
    """A number as short as a thousandth of a point allows."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


class PageWriter:
    """Writes scenes onto a reportlab canvas, keeping fonts and pictures for all pages."""

    def __init__(self, canvas: Canvas, blobs: Mapping[str, bytes]) -> None:
        self.canvas = canvas
        self.blobs = blobs
        self.fonts: dict[FontFace, EmbeddedFont] = {}
        self._forms: dict[str, tuple[float, float] | None] = {}

    def page(self, scene: Scene) -> None:
        """The whole scene, from its own axes (y downward) to the page's (y upward)."""
        canvas = self.canvas
        canvas.saveState()
        self._say(f"1 0 0 -1 {_n(scene.bleed)} {_n(scene.height + scene.bleed)} cm")
        for placed in scene.placed:
            if placed.printing:
                self._placed(placed)
        canvas.restoreState()

    def finish(self) -> None:
        """Writes the fonts; to be called once, after the last page."""
        for font in self.fonts.values():
            font.add_to(self.canvas._doc)

    def _say(self, code: str) -> None:
        self.canvas._code.append(code)

    def _colour(self, ink: Ink, stroking: bool) -> None:
        """The operator that sets a colour; a spot ink names its Separation space
        (ISO 32000-1, 8.6.6.4)."""
        if isinstance(ink, SpotInk):
            colour = CMYKColorSep(*ink.cmyk, spotName=ink.name)
            name = self.canvas._checkSeparation(colour)
            space, tint = ("CS", "SCN") if stroking else ("cs", "scn")
            self._say(f"/{name} {space} {_n(ink.tint)} {tint}")
            return
        operator = {3: "rg", 4: "k"}[len(ink)]
        operator = operator.upper() if stroking else operator
        self._say(" ".join(_n(v) for v in ink) + f" {operator}")

    def _placed(self, placed: Placed) -> None:
        self.canvas.saveState()
        self._say(" ".join(_n6(v) for v in placed.matrix) + " cm")
        if placed.multiplied:
            self.canvas.setBlendMode("Multiply")
        for primitive in placed.drawing.primitives:
            if isinstance(primitive, TextPrimitive):
                self._text(primitive)
            elif isinstance(primitive, PathPrimitive):
                self._path(primitive)
            elif isinstance(primitive, PicturePrimitive):
                self._picture(primitive)
        self.canvas.restoreState()

    def _path(self, path: PathPrimitive) -> None:
        code = [_OPERATORS[c[0]](c) for c in path.commands]
        if path.ink is not None:
            self.canvas.setFillAlpha(path.alpha)
            self._colour(path.ink, False)
            self._say(" ".join(code) + " f")
        if path.pen is not None:
            pen = path.pen
            self.canvas.setStrokeAlpha(pen.alpha)
            dash = " ".join(_n(v) for v in pen.dash)
            self._colour(pen.ink, True)
            self._say(f"{_n(pen.width)} w [{dash}] 0 d")
            self._say(" ".join(code) + " S")

    def _text(self, block: TextPrimitive) -> None:
        lines = [line for line in block.text.lines[: block.shown] if line.runs]
        if not lines:
            return
        self.canvas.setFillAlpha(block.alpha)
        self._say("BT")
        state: tuple[object, ...] = (None, None, None)
        for line in lines:
            for run in line.runs:
                state = self._run(run, block.x, block.y, state)
        if state[2]:
            self._say("0 Tc")
        self._say("ET")

    def _run(
        self, run: GlyphRun, dx: float, dy: float, before: tuple[object, ...]
    ) -> tuple[object, ...]:
        setting = run.setting
        font = self._font(setting.face)
        after = ((font.name, setting.size), run.span.ink, setting.tracking)
        if after[0] != before[0]:
            self._say(f"/{font.name} {_n(setting.size)} Tf")
        if after[1] != before[1]:
            self._colour(run.span.ink, False)
        if after[2] != before[2]:
            self._say(f"{_n(setting.tracking)} Tc")
        words, xs = run.words, run.xs
        if not words:
            return after
        self._say(f"1 0 0 -1 {_n(xs[0] + dx)} {_n(run.baseline + dy)} Tm")
        parts: list[str] = []
        spelt = True
        end = xs[0]
        space = font.space_advance * setting.size / 1000 + setting.tracking
        for word, x, spaced in zip(words, xs, run.spaced, strict=True):
            if spaced and parts:
                parts.append(f"<{font.face.space:04X}>")
                end += space
            if abs(x - end) > 1e-6:
                parts.append(f" {_n((end - x) * 1000 / setting.size)} ")
            code, plain = font.code(word)
            parts.append(code)
            spelt = spelt and plain
            end = x + word.width
        array = f"[{''.join(parts)}] TJ"
        if not spelt:
            text = run.text.encode("utf-16-be").hex().upper()
            array = f"/Span <</ActualText <FEFF{text}>>> BDC {array} EMC"
        self._say(array)
        return after

    def _font(self, face: FontFace) -> EmbeddedFont:
        found = self.fonts.get(face)
        if found is None:
            found = self.fonts[face] = EmbeddedFont(face, len(self.fonts) + 1)
        return found

    def _picture(self, picture: PicturePrimitive) -> None:
        size = self._form(picture)
        if size is None:
            return
        x, y, w, h = picture.rect
        self.canvas.saveState()
        self._say(" ".join(_OPERATORS[c[0]](c) for c in picture.clip) + " W n")
        self.canvas.setFillAlpha(picture.alpha)
        self.canvas.setStrokeAlpha(picture.alpha)
        self._say(f"{_n6(w / size[0])} 0 0 {_n6(-h / size[1])} {_n(x)} {_n(y + h)} cm")
        self.canvas.doForm(picture.hash)
        self.canvas.restoreState()

    def _form(self, picture: PicturePrimitive) -> tuple[float, float] | None:
        """The picture as a form of the PDF, made when first used; None if it is missing."""
        if picture.hash in self._forms:
            return self._forms[picture.hash]
        data = self.blobs.get(picture.hash)
        size = None if data is None else self._make_form(picture, data)
        self._forms[picture.hash] = size
        return size

    def _make_form(self, picture: PicturePrimitive, data: bytes) -> tuple[float, float] | None:
        canvas = self.canvas
        if picture.kind == "svg":
            drawing = svg2rlg(io.BytesIO(data))
            if drawing is None:
                return None
            size = (float(drawing.width), float(drawing.height))
            canvas.beginForm(picture.hash, 0, 0, *size)
            renderPDF.draw(drawing, canvas, 0, 0)
        else:
            reader = ImageReader(io.BytesIO(data))
            size = (float(reader.getSize()[0]), float(reader.getSize()[1]))
            canvas.beginForm(picture.hash, 0, 0, *size)
            canvas.drawImage(reader, 0, 0, *size, mask="auto")
        canvas.endForm(Contents=_as_group(canvas))
        return size


def _as_group(canvas: Canvas) -> PDFStream:
    """What was drawn since the form was begun, as one transparency group: opacity and
    blending then hold for the picture as a whole (ISO 32000-1, 11.6.6)."""
    stream = PDFStream(content=pdfdocEnc("\n".join([canvas._preamble, *canvas._code])))
    group = {"Type": PDFName("Group"), "S": PDFName("Transparency")}
    stream.dictionary["Group"] = PDFDictionary(group)
    return stream


def _n6(value: float) -> str:
    """Matrix elements need more places than lengths: they are multiplied by lengths."""
    text = f"{value:.8f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


_OPERATORS = {
    "M": lambda c: f"{_n(c[1])} {_n(c[2])} m",
    "L": lambda c: f"{_n(c[1])} {_n(c[2])} l",
    "C": lambda c: " ".join(_n(v) for v in c[1:]) + " c",
    "Z": lambda c: "h",
}
