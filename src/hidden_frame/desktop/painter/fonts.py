"""Qt's handles on the fonts that text was shaped with."""

from __future__ import annotations

from PySide6.QtCore import QByteArray
from PySide6.QtGui import QFont, QPainterPath, QRawFont

from hidden_frame.typeset.fonts import FontFace

_raw: dict[tuple[FontFace, float], QRawFont] = {}
_data: dict[FontFace, QByteArray] = {}
_paths: dict[tuple[FontFace, int], QPainterPath] = {}
OUTLINE_SIZE = 1000.0  # pixels to the em of a glyph's path


def raw_font(face: FontFace, size: float) -> QRawFont:
    """The font at a size in points, one pixel to the point; the painter's scale does the rest."""
    key = (face, size)
    found = _raw.get(key)
    if found is None:
        data = _data.get(face)
        if data is None:
            data = _data[face] = QByteArray(face.data)
        found = QRawFont(data, size, QFont.HintingPreference.PreferNoHinting)
        if len(_raw) > 300:
            _raw.clear()
        _raw[key] = found
    return found


def glyph_path(face: FontFace, glyph: int) -> QPainterPath:
    """A glyph's outline, `OUTLINE_SIZE` pixels to the em, y downward."""
    found = _paths.get((face, glyph))
    if found is None:
        if len(_paths) > 4_000:
            _paths.clear()
        found = _paths[face, glyph] = raw_font(face, OUTLINE_SIZE).pathForGlyph(glyph)
    return found
