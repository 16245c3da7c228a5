"""Snap lines with their words, the rubber band, and what is said at the pointer."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.desktop.look.theme import Theme
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.interact.hands.snapping import SnapLine
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.units import Unit


def paint_snap_lines(
    painter: QPainter,
    lines: tuple[SnapLine, ...],
    view: View,
    size: QSize,
    unit: Unit,
    theme: Theme,
    avoid: QRectF,
) -> None:
    """Each line where it was snapped to, its words beside the end that is in sight and clear
    of what stands in `avoid`."""
    taken: list[QRectF] = [avoid]
    for line in lines:
        upright = line.axis == "x"
        if upright:
            a = QPointF(*view.to_widget(line.at, line.low))
            b = QPointF(*view.to_widget(line.at, line.high))
        else:
            a = QPointF(*view.to_widget(line.low, line.at))
            b = QPointF(*view.to_widget(line.high, line.at))
        gap = line.word == "equal gaps"
        painter.setPen(QPen(QColor(theme.snap), 1.6 if gap else 1.2))
        painter.drawLine(a, b)
        if gap:  # a measured span ends in small strokes across
            off = QPointF(4, 0) if upright else QPointF(0, 4)
            painter.drawLine(a - off, a + off)
            painter.drawLine(b - off, b + off)
        _label(painter, line.told(unit), a, upright, size, theme, taken)


def _label(
    painter: QPainter,
    words: str,
    at: QPointF,
    upright: bool,
    size: QSize,
    theme: Theme,
    taken: list[QRectF],
) -> None:
    """A small tag at a line's start, kept within the desk and clear of other tags."""
    font = painter.font()
    font.setPixelSize(13)
    painter.setFont(font)
    wide = painter.fontMetrics().horizontalAdvance(words) + 12
    x = at.x() + 5 if upright else at.x() + 6
    y = at.y() + 5 if upright else at.y() - 22
    rect = QRectF(x, y, wide, 18)
    rect.moveLeft(min(max(rect.left(), 4.0), size.width() - wide - 4.0))
    rect.moveTop(min(max(rect.top(), 4.0), size.height() - 22.0))
    while any(rect.intersects(other) for other in taken):
        rect.translate(0, 20)
    taken.append(rect)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.snap_ground))
    painter.drawRoundedRect(rect, 4, 4)
    painter.setPen(QColor("#FFFFFF"))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)


def paint_band(painter: QPainter, band: Bounds, enclosing: bool, view: View, theme: Theme) -> None:
    """The rubber band: a closed line where it encloses, a broken one where touching is enough."""
    a = QPointF(*view.to_widget(band.left, band.top))
    b = QPointF(*view.to_widget(band.right, band.bottom))
    fill = QColor(theme.action)
    fill.setAlphaF(0.1)
    painter.setBrush(fill)
    style = Qt.PenStyle.SolidLine if enclosing else Qt.PenStyle.DashLine
    painter.setPen(QPen(QColor(theme.action), 1.2, style))
    painter.drawRect(QRectF(a, b))


def words_rect(painter: QPainter, words: str, pointer: QPointF, size: QSize) -> QRectF:
    """Where the words of a gesture stand: beside the pointer, within the desk."""
    if not words:
        return QRectF()
    font = painter.font()
    font.setPixelSize(13)
    painter.setFont(font)
    wide = painter.fontMetrics().horizontalAdvance(words) + 16
    x = min(max(pointer.x() + 18, 4.0), size.width() - wide - 4.0)
    y = min(max(pointer.y() + 20, 4.0), size.height() - 26.0)
    return QRectF(x, y, wide, 22)


def paint_words(painter: QPainter, words: str, rect: QRectF, theme: Theme) -> None:
    """What a gesture comes to."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.text))
    painter.drawRoundedRect(rect, 5, 5)
    painter.setPen(QColor(theme.window))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, words)
