"""Marks that mean the same wherever they stand."""

from __future__ import annotations

from PySide6.QtCore import QPointF
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.desktop import theme


def paint_diamond(painter: QPainter, x: float, y: float, colours: theme.Theme) -> None:
    """The mark of overrides, on pages and masters alike."""
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.master))
    painter.drawPolygon(
        [QPointF(x - 5, y), QPointF(x, y - 5), QPointF(x + 5, y), QPointF(x, y + 5)]
    )
