"""One scene written as the content of one PDF page."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from typing import Any

import pikepdf
from pikepdf import Dictionary, Name

from hidden_frame.compose.scene import (
    Drawing,
    PathPrimitive,
    PicturePrimitive,
    Placed,
    Scene,
    TextPrimitive,
)
from hidden_frame.output.pdf.fonts import EmbeddedFont
from hidden_frame.output.pdf.operators import concat, number, path
from hidden_frame.output.pdf.order import in_reading_order
from hidden_frame.output.pdf.pictures import PictureWriter
from hidden_frame.output.pdf.rasters import Rasters
from hidden_frame.output.pdf.store import Sheet, Store
from hidden_frame.output.pdf.text import TextWriter
from hidden_frame.typeset.fonts import FontFace
from hidden_frame.typeset.paragraph import Ink, SpotInk


class PageWriter:
    """Writes scenes into a file, keeping fonts, pictures and shared drawings for all pages.

    A drawing that `scenes` show more than once, as a master's do, is written once, as a form
    that every page uses (ISO 32000-1, 8.10).
    """

    def __init__(
        self,
        pdf: pikepdf.Pdf,
        blobs: Mapping[str, bytes],
        scenes: Iterable[Scene],
        rasters: Rasters,
        bleed: float | None = None,
    ) -> None:
        self.bleed = bleed  # points; None: each scene's own
        self.store = Store(pdf)
        self.pictures = PictureWriter(self.store, blobs, rasters)
        self.fonts: dict[FontFace, EmbeddedFont] = {}
        self._names: dict[FontFace, str] = {}
        times = Counter(id(p.drawing) for s in scenes for p in s.painted if p.printing)
        self._shared = {drawing for drawing, count in times.items() if count > 1}

    def page(self, scene: Scene) -> Any:
        """The whole scene as a page, from its own axes (y downward) to the page's (y upward)."""
        sheet = Sheet(self.store)
        bleed = scene.bleed if self.bleed is None else self.bleed
        sheet.say(f"1 0 0 -1 {number(bleed)} {number(scene.height + bleed)} cm")
        for placed in in_reading_order(scene.painted):
            if placed.printing and placed.drawing.primitives:
                self._placed(sheet, placed)
        # ISO 32000-1, 14.11.2: the trim box within the bleed box within the media box.
        size = self.store.box(0, 0, scene.width + 2 * bleed, scene.height + 2 * bleed)
        trim = self.store.box(bleed, bleed, bleed + scene.width, bleed + scene.height)
        return Dictionary(
            Type=Name.Page,
            MediaBox=size,
            BleedBox=size,
            TrimBox=trim,
            Resources=sheet.resources,
            Contents=self.store.pdf.make_indirect(self.store.stream(sheet.content)),
        )

    def finish(self, alive: Callable[[], None] = lambda: None) -> None:
        """Writes the fonts; to be called once, after the last page.  `alive` may raise to stop."""
        for face, font in self.fonts.items():
            self.store.replace("Font", self._names[face], font.dictionary(self.store))
            alive()

    def font(self, face: FontFace) -> tuple[EmbeddedFont, str]:
        """A face as it is embedded, and its name in this file."""
        found = self.fonts.get(face)
        if found is None:
            found = self.fonts[face] = EmbeddedFont(face)
            self._names[face] = self.store.name("Font", face, lambda: Dictionary(Type=Name.Font))
        return found, self._names[face]

    def _placed(self, sheet: Sheet, placed: Placed) -> None:
        drawing = placed.drawing
        sheet.say("q")
        sheet.say(concat(placed.matrix))
        if placed.multiplied:
            sheet.say(f"/{sheet.use('ExtGState', self.store.state(1.0, True))} gs")
        if id(drawing) in self._shared:
            form = self.store.name("XObject", id(drawing), lambda: self._form(drawing))
            sheet.say(f"/{sheet.use('XObject', form)} Do")
        else:
            self._drawing(sheet, drawing)
        sheet.say("Q")

    def _form(self, drawing: Drawing) -> Any:
        """A drawing as a form of its own; it may paint over its item's edges."""
        sheet = Sheet(self.store)
        self._drawing(sheet, drawing)
        reach = 20_000.0
        box = [-reach, -reach, drawing.width + reach, drawing.height + reach]
        return self.store.stream(
            sheet.content,
            Type=Name.XObject, Subtype=Name.Form, BBox=box, Resources=sheet.resources,
        )  # fmt: skip

    def _drawing(self, sheet: Sheet, drawing: Drawing) -> None:
        for primitive in drawing.primitives:
            if isinstance(primitive, TextPrimitive):
                self._text(sheet, primitive)
            elif isinstance(primitive, PathPrimitive):
                self._path(sheet, primitive)
            elif isinstance(primitive, PicturePrimitive):
                self.pictures.write(sheet, primitive)

    def _path(self, sheet: Sheet, primitive: PathPrimitive) -> None:
        code = path(primitive.commands)
        if primitive.ink is not None:
            with AtOpacity(sheet, primitive.alpha):
                sheet.say(colour(sheet, primitive.ink))
                sheet.say(f"{code} f")
        pen = primitive.pen
        if pen is not None:
            with AtOpacity(sheet, pen.alpha):
                dash = " ".join(number(v) for v in pen.dash)
                sheet.say(colour(sheet, pen.ink, stroking=True))
                sheet.say(f"{number(pen.width)} w [{dash}] 0 d")
                sheet.say(f"{code} S")

    def _text(self, sheet: Sheet, block: TextPrimitive) -> None:
        with AtOpacity(sheet, block.alpha):
            TextWriter(sheet, self.font, colour).block(block)


class AtOpacity:
    """What is written within is seen at an opacity; nothing is said where that is full."""

    def __init__(self, sheet: Sheet, alpha: float) -> None:
        self.sheet = sheet
        self.alpha = alpha

    def __enter__(self) -> None:
        if self.alpha < 1:
            state = self.sheet.store.state(round(self.alpha, 5), False)
            self.sheet.say(f"q /{self.sheet.use('ExtGState', state)} gs")

    def __exit__(self, *_: object) -> None:
        if self.alpha < 1:
            self.sheet.say("Q")


def colour(sheet: Sheet, ink: Ink, stroking: bool = False) -> str:
    """The operator that sets a colour in its own space: RGB, CMYK or a spot ink's."""
    if isinstance(ink, SpotInk):
        name = sheet.use("ColorSpace", sheet.store.separation(ink))
        space, tint = ("CS", "SCN") if stroking else ("cs", "scn")
        return f"/{name} {space} {number(ink.tint)} {tint}"
    operator = {3: "rg", 4: "k"}[len(ink)]
    values = " ".join(number(v) for v in ink)
    return f"{values} {operator.upper() if stroking else operator}"
