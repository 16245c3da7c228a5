"""Families by name, faces by family and style, and the face for a character."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import cache, cached_property
from pathlib import Path

import uharfbuzz as hb

from hidden_frame.resources import FALLBACK, FONTS
from hidden_frame.typeset.fonts.face import FontFace, FontSource
from hidden_frame.typeset.fonts.index import machine_fonts
from hidden_frame.typeset.fonts.machine import InstalledFont

DEFAULT_FAMILY = "Spectral"
_STYLES = {
    (False, False): "Regular",
    (False, True): "Italic",
    (True, False): "Bold",
    (True, True): "Bold Italic",
}
# What ships for characters that a text's own font lacks; below, who is asked, in order.
_FALLBACK = {
    "Noto Serif": "NotoSerif",
    "Noto Serif Hebrew": "NotoSerifHebrew",
    "Noto Naskh Arabic": "NotoNaskhArabic",
    "Noto Sans Math": "NotoSansMath",
    "Noto Sans Symbols": "NotoSansSymbols",
    "Noto Sans Symbols2": "NotoSansSymbols2",
}
_ASKED = (*list(_FALLBACK)[:3], "Spectral", "Alegreya Sans", *list(_FALLBACK)[3:])
_Styles = dict[str, FontSource]


class FontBook:
    """Families by name.  The program's own never depend on the machine's."""

    def __init__(
        self,
        assets: Path = FONTS,
        machine: Callable[[], Iterable[InstalledFont]] = machine_fonts,
    ) -> None:
        self._machine = machine
        self._shipped = {
            "Spectral": _files(assets, "Spectral"),
            "Alegreya Sans": _files(assets, "AlegreyaSans"),
        }
        self._reserve = {name: _files(FALLBACK, stem) for name, stem in _FALLBACK.items()}
        self._faces: dict[tuple[str, str], FontFace] = {}

    @property
    def shipped(self) -> list[str]:
        """The families that come with the program to be chosen."""
        return list(self._shipped)

    def families(self) -> list[str]:
        """All families that can be used: the program's, then the machine's by name."""
        return [*self._shipped, *sorted(set(self._found) - set(self._shipped), key=str.lower)]

    @cached_property
    def refused(self) -> dict[str, str]:
        """Families of the machine that can't be used, and why: “is damaged (…)”."""
        usable = set(self._found) | set(self._shipped)
        return {f.family: f.reason for f in self._machine() if f.reason and f.family not in usable}

    @cached_property
    def _found(self) -> dict[str, _Styles]:
        found: dict[str, _Styles] = {}
        for each in self._machine():
            if not each.reason:
                found.setdefault(each.family, {}).setdefault(each.style, each.source)
        return found

    def knows(self, family: str) -> bool:
        """Whether a family can be used here."""
        return family in self._shipped or family in self._found

    def face(self, family: str, bold: bool = False, italic: bool = False) -> FontFace:
        """The face of a family; a family that is not here is set in the default one.

        A style that a family lacks falls back to its nearest: regular at last.
        """
        key = (family, _STYLES[bold, italic])
        found = self._faces.get(key)
        if found is None:
            found = self._faces[key] = self._open(family, bold, italic)
        return found

    def reserve(self, bold: bool, italic: bool) -> list[FontFace]:
        """The faces that are asked for a character which a text's own font lacks."""
        return [self.face(name, bold, italic) for name in _ASKED]

    def having(self, characters: str) -> dict[str, str]:
        """The machine's families that have some of these characters, and which; those that have
        most come first."""
        wanted, found = frozenset(characters), {}
        for family, styles in self._found.items():
            source = styles.get("Regular") or next(iter(styles.values()))
            there = "".join(c for c in characters if c in characters_of(source) & wanted)
            if there:
                found[family] = there
        return dict(sorted(found.items(), key=lambda each: (-len(each[1]), each[0].lower())))

    def _open(self, family: str, bold: bool, italic: bool) -> FontFace:
        files = self._shipped.get(family) or self._reserve.get(family) or self._found.get(family)
        if files is None:
            return self.face(DEFAULT_FAMILY, bold, italic)
        wanted = (_STYLES[bold, italic], _STYLES[bold, False], _STYLES[False, italic], "Regular")
        style = next((s for s in wanted if s in files), next(iter(files)))
        try:
            return FontFace(family, style, files[style])
        except Exception:  # deleted or damaged since it was listed: as if it were not here
            if family in self._shipped or family in self._reserve:
                raise
            self._found.pop(family, None)
            return self.face(DEFAULT_FAMILY, bold, italic)


def _files(folder: Path, stem: str) -> _Styles:
    """A family's files, by style; each is named for its style without spaces."""
    named = {s: folder / f"{stem}-{s.replace(' ', '')}.ttf" for s in _STYLES.values()}
    return {style: FontSource(path) for style, path in named.items() if path.exists()}


@cache
def characters_of(source: FontSource) -> frozenset[str]:
    """The characters that a font of the machine has glyphs for; none if it can't be read."""
    try:
        face = hb.Face(hb.Blob.from_file_path(str(source.path)), max(source.number, 0))
        return frozenset(map(chr, face.unicodes))
    except Exception:  # deleted or damaged since it was listed
        return frozenset()


@cache
def font_book() -> FontBook:
    """The one font book of this process."""
    return FontBook()
