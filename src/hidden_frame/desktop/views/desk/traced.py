"""A picture of thin lines that knows where they are.

To blend all of a picture with what lies below takes five times as long as to blend its lines.
"""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QLineF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap, QRegion


class Traced:
    """Lines and empty rectangles, drawn crisp, in pixels of the widget."""

    def __init__(self, size: QSize, ratio: float) -> None:
        self._pixmap = QPixmap(size * ratio)
        self._pixmap.setDevicePixelRatio(ratio)
        self._pixmap.fill(Qt.GlobalColor.transparent)
        self._region = QRegion()

    def draw(self, pen: QPen, lines: Sequence[QLineF]) -> None:
        """Lines with a pen."""
        painter = QPainter(self._pixmap)
        painter.setPen(pen)
        painter.drawLines(lines)
        painter.end()
        by = round(pen.widthF() / 2) + 1
        for line in lines:
            box = QRectF(line.p1(), line.p2()).normalized().toAlignedRect()
            self._region += box.adjusted(-by, -by, by, by)

    def lay(self, painter: QPainter, mode: QPainter.CompositionMode) -> None:
        """Lays them over what is painted already."""
        painter.save()
        painter.setClipRegion(self._region)
        painter.setCompositionMode(mode)
        painter.drawPixmap(0, 0, self._pixmap)
        painter.restore()


def edges(rect: QRectF) -> list[QLineF]:
    """The four lines around a rectangle."""
    a, b, c, d = rect.topLeft(), rect.topRight(), rect.bottomRight(), rect.bottomLeft()
    return [QLineF(a, b), QLineF(b, c), QLineF(c, d), QLineF(d, a)]
