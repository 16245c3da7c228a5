"""What a hand on pages is about to do, painted: the rubber band, where a drop goes, and words."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.space import Gap

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter


def paint_hand(
    painter: QPainter, hand: PageHand, scrolled: QPointF, port: QRect, font: QFont,
    colours: theme.Theme,
) -> None:  # fmt: skip
    """Paints over the pages of a view, whose `port` shows what is `scrolled` to."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(-scrolled)
    if hand.band is not None:
        _paint_rubber(painter, hand.band, colours)
    ink = QColor(colours.warning if hand.refused else colours.action)
    if hand.gap is not None:
        _paint_gap(painter, hand.gap, QRectF(port).translated(scrolled), ink)
    painter.translate(scrolled)
    if hand.words:
        _paint_words(painter, hand, port, font, ink, QColor(colours.action_text))
    painter.restore()


def _paint_rubber(painter: QPainter, band: QRectF, colours: theme.Theme) -> None:
    ink = QColor(colours.action)
    painter.setPen(QPen(ink, 1, Qt.PenStyle.DashLine))
    ink.setAlphaF(0.12)
    painter.setBrush(ink)
    painter.drawRect(band)


def _paint_gap(painter: QPainter, gap: Gap, seen: QRectF, ink: QColor) -> None:
    """The insertion mark: upright between pages, level where a section has rows of its own."""
    painter.setPen(QPen(ink, 4))
    if gap.bottom - gap.top < 10:
        painter.drawLine(QPointF(seen.left() + 6, gap.top), QPointF(seen.right() - 6, gap.top))
        return
    painter.drawLine(QPointF(gap.x, gap.top - 6), QPointF(gap.x, gap.bottom + 6))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(ink)
    painter.drawEllipse(QPointF(gap.x, gap.top - 7), 5, 5)


def _paint_words(
    painter: QPainter, hand: PageHand, port: QRect, font: QFont, ground: QColor, ink: QColor
) -> None:
    """What the drop would do, by the pointer and within the view."""
    font = QFont(font)
    font.setPixelSize(14)
    painter.setFont(font)
    metrics = painter.fontMetrics()
    most = port.width() - 36
    lines = [
        metrics.elidedText(line, Qt.TextElideMode.ElideRight, most)
        for line in hand.words.split("\n")
    ]
    wide = max(metrics.horizontalAdvance(line) for line in lines) + 24
    high = metrics.lineSpacing() * len(lines) + 16
    at = hand.pointer
    x = min(max(at.x() - wide / 2, 6), port.width() - wide - 6)
    y = at.y() + 26 if at.y() + 40 + high < port.height() else at.y() - high - 18
    y = min(max(y, 4.0), port.height() - high - 4)
    box = QRectF(x, y, wide, high)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(ground)
    painter.drawRoundedRect(box, 7, 7)
    painter.setPen(ink)
    painter.drawText(box.adjusted(12, 0, -12, 0), _LEFT, "\n".join(lines))
