"""One font: its data, its HarfBuzz font, its measures, and which characters it has."""

from __future__ import annotations

import io
from functools import cached_property
from hashlib import blake2b
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

import uharfbuzz as hb

if TYPE_CHECKING:
    from fontTools.ttLib import TTFont


class FontSource(NamedTuple):
    """Where a font is: a file, its number in a collection, and the axes of an instance."""

    path: Path
    number: int = -1
    axes: tuple[tuple[str, float], ...] = ()

    def data(self) -> bytes:
        """The font as a file of its own; an instance is made once and kept on disk.

        Raises `OSError` or fontTools' errors where the file is gone or damaged.
        """
        if self.number < 0 and not self.axes:
            return self.path.read_bytes()
        from hidden_frame.typeset.fonts.instances import single_font  # loads all of fontTools

        return single_font(self.path, self.number, self.axes)


class FontFace:
    """A font in one style; lengths in ems unless it is said otherwise."""

    def __init__(self, family: str, style: str, source: FontSource) -> None:
        self.family = family
        self.style = style
        self.data = source.data()
        self._face = hb.Face(self.data)
        self.font = hb.Font(self._face)
        self.upem: int = self._face.upem
        extents = self.font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.upem
        self.descent = -extents.descender / self.upem

    @cached_property
    def digest(self) -> bytes:
        """What the font's file holds, whatever it is called."""
        return blake2b(self.data, digest_size=16).digest()

    @property
    def name(self) -> str:
        return f"{self.family} {self.style}"

    @property
    def bold(self) -> bool:
        return "Bold" in self.style

    @property
    def italic(self) -> bool:
        return "Italic" in self.style

    @cached_property
    def tables(self) -> TTFont:
        """The font as fontTools reads it, tables loaded when asked for."""
        from fontTools.ttLib import TTFont  # only a PDF needs it

        return TTFont(io.BytesIO(self.data), lazy=True)

    @cached_property
    def unicodes(self) -> frozenset[str]:
        """The characters that it has glyphs for."""
        return frozenset(map(chr, self._face.unicodes))

    @cached_property
    def capital(self) -> float:
        """How high its capitals are."""
        glyph = self.font.get_nominal_glyph(ord("H"))
        extents = self.font.get_glyph_extents(glyph) if glyph else None
        return extents.y_bearing / self.upem if extents and extents.y_bearing else 0.7

    @cached_property
    def has_ascii(self) -> bool:
        """Whether it has every character of ASCII that can be seen."""
        return self.unicodes.issuperset(map(chr, range(32, 127)))

    @cached_property
    def space(self) -> int:
        """The glyph id of the space."""
        return int(self.font.get_nominal_glyph(0x20) or 0)

    def __repr__(self) -> str:
        return f"FontFace({self.name!r})"
