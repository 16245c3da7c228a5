"""A master's ribbon as a small picture."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPixmap

from hidden_frame.desktop.look import theme


def ribbon_icon(number: int) -> QIcon:
    """A master's ribbon as a small upright strip."""
    pixmap = QPixmap(32, 32)  # sharp on screens of twice the resolution
    pixmap.setDevicePixelRatio(2)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.RIBBONS[number]))
    painter.drawRoundedRect(5, 1, 6, 14, 3, 3)
    painter.end()
    return QIcon(pixmap)
