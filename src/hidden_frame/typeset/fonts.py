"""The fonts that text is set in: those that ship with the program, then the machine's.

>>> face = font_book().face("Spectral", bold=True)
>>> face.name
'Spectral Bold'
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache, cached_property
from pathlib import Path
from typing import TYPE_CHECKING

import uharfbuzz as hb

from hidden_frame.resources import FONTS

if TYPE_CHECKING:
    from fontTools.ttLib import TTFont

MACHINE = (
    Path("/usr/share/fonts"),
    Path("/usr/local/share/fonts"),
    Path.home() / ".local/share/fonts",
    Path.home() / ".fonts",
)
DEFAULT_FAMILY = "Spectral"
_STYLES = {
    (False, False): "Regular",
    (False, True): "Italic",
    (True, False): "Bold",
    (True, True): "Bold Italic",
}


class FontFace:
    """One font file: its data, its HarfBuzz font, and its vertical metrics in ems."""

    def __init__(self, family: str, style: str, path: Path) -> None:
        self.family = family
        self.style = style
        self.path = path
        self.data = path.read_bytes()
        self._face = hb.Face(self.data)
        self.font = hb.Font(self._face)
        self.upem: int = self._face.upem
        extents = self.font.get_font_extents("ltr")
        self.ascent = extents.ascender / self.upem
        self.descent = -extents.descender / self.upem

    @property
    def name(self) -> str:
        return f"{self.family} {self.style}"

    @cached_property
    def tables(self) -> TTFont:
        """The font as fontTools reads it, tables loaded when asked for."""
        from fontTools.ttLib import TTFont  # only a PDF needs it

        return TTFont(self.path, lazy=True)

    @cached_property
    def space(self) -> int:
        """The glyph id of the space."""
        return int(self.font.get_nominal_glyph(0x20) or 0)

    def __repr__(self) -> str:
        return f"FontFace({self.name!r})"


class FontBook:
    """Families by name.  The program's own never depend on the machine's."""

    def __init__(self, assets: Path = FONTS) -> None:
        self._assets = assets
        self._shipped = {
            "Spectral": self._files("Spectral"),
            "Alegreya Sans": self._files("AlegreyaSans"),
        }
        self._machine: dict[str, dict[str, Path]] | None = None
        self._faces: dict[tuple[str, str], FontFace] = {}

    def _files(self, stem: str) -> dict[str, Path]:
        return {
            style: self._assets / f"{stem}-{style.replace(' ', '')}.ttf"
            for style in _STYLES.values()
        }

    @property
    def shipped(self) -> list[str]:
        """The families that come with the program."""
        return list(self._shipped)

    def families(self) -> list[str]:
        """All families that can be used: the program's, then the machine's by name."""
        return [*self._shipped, *sorted(set(self._on_machine()) - set(self._shipped))]

    def knows(self, family: str) -> bool:
        return family in self._shipped or family in self._on_machine()

    def face(self, family: str, bold: bool = False, italic: bool = False) -> FontFace:
        """The face of a family; a family that is not here is set in the default one.

        A style that a family lacks falls back to its nearest: regular at last.
        """
        key = (family, _STYLES[bold, italic])
        found = self._faces.get(key)
        if found is None:
            found = self._faces[key] = self._open(family, bold, italic)
        return found

    def _open(self, family: str, bold: bool, italic: bool) -> FontFace:
        files = self._shipped.get(family)
        if files is None:
            files = self._on_machine().get(family)
        if files is None:
            return self.face(DEFAULT_FAMILY, bold, italic)
        for wanted in (_STYLES[bold, italic], _STYLES[bold, False], _STYLES[False, italic]):
            if wanted in files:
                return FontFace(family, wanted, files[wanted])
        style, path = min(files.items(), key=lambda pair: pair[0] != "Regular")
        return FontFace(family, style, path)

    def _on_machine(self) -> dict[str, dict[str, Path]]:
        if self._machine is None:
            self._machine = {}
            for path in _font_files():
                for family, style in _names(path):
                    self._machine.setdefault(family, {}).setdefault(style, path)
        return self._machine


def _font_files() -> Iterator[Path]:
    for folder in MACHINE:
        if folder.is_dir():
            yield from sorted(folder.rglob("*.ttf"))


def _names(path: Path) -> Iterator[tuple[str, str]]:
    """Family and style of a static TrueType font that may be embedded in a PDF."""
    from fontTools.ttLib import TTFont, TTLibError

    try:
        with TTFont(path, lazy=True) as font:
            if "glyf" not in font or "fvar" in font:
                return
            # OpenType OS/2 fsType bit 1: restricted licence, must not be embedded.
            if font["OS/2"].fsType & 0x0002:
                return
            family = font["name"].getDebugName(1)
            style = font["name"].getDebugName(2) or "Regular"
            if family:
                yield family, "Regular" if style in ("Book", "Roman") else style
    except (TTLibError, OSError, KeyError, AttributeError):
        return


@cache
def font_book() -> FontBook:
    """The one font book of this process."""
    return FontBook()
