"""Doubtful words marked on the desk: a row of small dots below them."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.spelling.words import AskedWord
from hidden_frame.typeset.spelled import SpelledPlace, spelled_places
from hidden_frame.typeset.text import SetText

_FEW = 0.3  # the share of a text's lines up to which each is looked at by itself
_LEAST = 5.5  # pixels; words in smaller type are not marked


def paint_doubts(
    painter: QPainter, text: SetText, shown: int,
    doubtful: Callable[[list[AskedWord]], list[AskedWord]], ink: QColor, clip: QRectF | None,
    scale: float,
) -> None:  # fmt: skip
    """The doubtful words of a text's first lines, as far as they lie within a clip; `scale` is
    pixels to a point."""
    highest, lowest = (clip.top(), clip.bottom()) if clip is not None else (-1e9, 1e9)
    painter.save()
    seen = [
        line for line in text.lines[:shown]
        if highest - line.height <= line.baseline <= lowest + line.height
    ]  # fmt: skip
    few = len(seen) < _FEW * shown  # as with a key, which makes the paragraph another one
    for line in seen:
        spec = text.specs[line.paragraph]
        if spec.base.size * scale >= _LEAST:
            for place in spelled_places(line, spec, doubtful, alone=few):
                _paint(painter, place, ink, scale)
    painter.restore()


def _paint(painter: QPainter, place: SpelledPlace, ink: QColor, scale: float) -> None:
    wide = max(place.size * 0.075, 1.3 / scale)
    pen = QPen(ink, wide, Qt.PenStyle.CustomDashLine, Qt.PenCapStyle.RoundCap)
    pen.setDashPattern([0.01, 1.9])
    painter.setPen(pen)
    y = place.baseline + max(place.size * 0.16, 2 * wide)
    painter.drawLine(QPointF(place.left + wide / 2, y), QPointF(place.right - wide / 2, y))
