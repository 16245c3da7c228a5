"""Qt's handles on the fonts that text was shaped with."""

from __future__ import annotations

from PySide6.QtCore import QByteArray
from PySide6.QtGui import QFont, QRawFont

from hidden_frame.typeset.fonts import FontFace

_raw: dict[tuple[FontFace, float], QRawFont] = {}
_data: dict[FontFace, QByteArray] = {}


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
