"""The machine's fonts: what they are called, and why one can't be used.

Static and variable fonts and collections, with TrueType or CFF outlines.  What is
damaged, or may not be embedded in a PDF, is found out here and never fails later.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple

from hidden_frame.typeset.fonts.face import FontSource

FOLDERS = (
    Path("/usr/share/fonts"),
    Path("/usr/local/share/fonts"),
    Path.home() / ".local/share/fonts",
    Path.home() / ".fonts",
)
ENDINGS = (".ttf", ".otf", ".ttc", ".otc")
_NEEDED = ("head", "hhea", "hmtx", "maxp", "cmap", "name", "OS/2", "post")
# OpenType specification, OS/2 table, fsType: who may embed a font, and how.
_RESTRICTED, _PREVIEW, _EDITABLE, _WHOLE, _BITMAP = 0x0002, 0x0004, 0x0008, 0x0100, 0x0200


class InstalledFont(NamedTuple):
    """A font of the machine; `reason` says why it can't be used, "" if it can."""

    family: str
    style: str
    source: FontSource
    reason: str = ""


def font_files(folders: tuple[Path, ...] | None = None) -> Iterator[Path]:
    """Every font file of the machine, by name within each folder."""
    for folder in FOLDERS if folders is None else folders:
        if folder.is_dir():
            files = (p for p in sorted(folder.rglob("*")) if p.suffix.lower() in ENDINGS)
            yield from (p for p in files if p.is_file())


def fonts_in(path: Path) -> list[InstalledFont]:
    """The fonts of a file: one, the members of a collection, or a font's named instances."""
    from fontTools.ttLib import TTCollection, TTFont

    try:
        if path.suffix.lower() in (".ttc", ".otc"):
            with TTCollection(str(path), lazy=True) as collection:
                members = list(enumerate(collection.fonts))
                return [f for n, font in members for f in _fonts(font, FontSource(path, n))]
        with TTFont(path, lazy=True) as font:
            return list(_fonts(font, FontSource(path)))
    except Exception as error:  # a damaged file can make fontTools raise anything
        return [
            InstalledFont(path.stem, "Regular", FontSource(path), f"is damaged ({_said(error)})")
        ]


def _said(error: Exception) -> str:
    return " ".join(str(error).split())[:80] or type(error).__name__


def _fonts(font: Any, source: FontSource) -> Iterator[InstalledFont]:
    reason = _reason(font)
    names = font["name"]
    family = str(names.getDebugName(1) or source.path.stem)
    style = _plain_style(str(names.getDebugName(2) or "Regular"))
    if "fvar" not in font or reason:
        yield InstalledFont(family, style, source, reason)
        return
    family = str(names.getDebugName(16) or family)
    italic = style if "Italic" in style else ""
    for instance in font["fvar"].instances:
        named = str(names.getDebugName(instance.subfamilyNameID) or "Regular")
        axes = tuple(sorted((str(a), float(v)) for a, v in instance.coordinates.items()))
        at = FontSource(source.path, source.number, axes)
        yield InstalledFont(*_instance(family, named, bool(italic)), at)


def _instance(family: str, named: str, italic: bool) -> tuple[str, str]:
    """Family and style of a named instance: what is neither regular nor bold is a family of
    its own, as among static fonts (OpenType specification, name ids 1 and 2)."""
    words = [w for w in named.split() if w not in ("Italic", "Oblique", "Regular", "Roman")]
    slanted = "Italic" if italic or {"Italic", "Oblique"} & set(named.split()) else ""
    weight = "Bold" if words == ["Bold"] else ""
    own = family if weight or not words else f"{family} {' '.join(words)}"
    return own, " ".join(w for w in (weight, slanted) if w) or "Regular"


def _plain_style(style: str) -> str:
    style = style.replace("Oblique", "Italic")
    return "Regular" if style in ("Book", "Roman", "Normal") else style


def _reason(font: Any) -> str:
    """Why a font can't be used; "" if it can."""
    lacking = [tag for tag in _NEEDED if tag not in font]
    if lacking:
        return f"is damaged (it has no table “{lacking[0]}”)"
    if "glyf" not in font and "CFF " not in font:
        return "has no outlines that can be printed"
    font.reader.file.seek(0, 2)
    size = font.reader.file.tell()
    if any(entry.offset + entry.length > size for entry in font.reader.tables.values()):
        return "is damaged (it is cut short)"
    for tag in (*_NEEDED, *(t for t in ("loca",) if "glyf" in font)):
        font[tag]  # what can't be read raises
    if not font["maxp"].numGlyphs or font["head"].unitsPerEm < 16 or not font.getBestCmap():
        return "is damaged (it has no characters)"
    kind = font["OS/2"].fsType
    # Where several bits are set the most generous one counts.
    if kind & _RESTRICTED and not kind & (_PREVIEW | _EDITABLE):
        return "may not be embedded in a PDF by its licence"
    return "may be embedded as bitmaps only by its licence" if kind & _BITMAP else ""


def keeps_whole(tables: Any) -> bool:
    """Whether a font's licence forbids embedding only a part of it."""
    return bool(tables["OS/2"].fsType & _WHOLE)
