"""Marks of pages and masters that mean the same wherever they stand."""

from __future__ import annotations

from functools import cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen

from hidden_frame.compose.facts import PageFacts
from hidden_frame.desktop.look import theme
from hidden_frame.model.publication import Page

_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


STORY = "#7A4E9E"  # stories and what they make: plum, which nothing else has


@cache
def _font(family: str, pixels: int, bold: bool) -> QFont:
    """A font made once: a flatplan asks for it at each of its pages."""
    font = QFont(family)
    font.setPixelSize(pixels)
    font.setBold(bold)
    return font


def paint_diamond(painter: QPainter, x: float, y: float, colours: theme.Theme) -> None:
    """The mark of overrides, on pages and masters alike."""
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.master))
    painter.drawPolygon(
        [QPointF(x - 5, y), QPointF(x, y - 5), QPointF(x + 5, y), QPointF(x, y + 5)]
    )


def paint_page_marks(painter: QPainter, page: Page, rect: QRectF, colours: theme.Theme) -> None:
    """Overrides: a small ochre diamond; a blind folio: a ring crossed out; held at its
    position: a pin at the head; made by a story: a plum fold at the right foot."""
    if page.made:
        x, y = rect.right(), rect.bottom()
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(STORY))
        painter.drawPolygon([QPointF(x - 9, y), QPointF(x, y - 9), QPointF(x, y)])
    x = rect.right() - 8
    if page.overrides:
        paint_diamond(painter, x, rect.top() + 9, colours)
    if page.blind:
        y = rect.bottom() - 9
        painter.setBrush(QColor("#FFFFFF"))
        painter.setPen(QPen(QColor(colours.warning), 1.6))
        painter.drawEllipse(QPointF(x, y), 5, 5)
        painter.drawLine(QPointF(x - 4, y + 4), QPointF(x + 4, y - 4))
    paint_pin(painter, page, rect, colours)


def paint_pin(painter: QPainter, page: Page, rect: QRectF, colours: theme.Theme) -> None:
    """The pin of a page that is held at its position, at any size of the page."""
    if page.held is None:
        return
    part = min(max(rect.width() / 40, 0.5), 1.0)
    middle = rect.center().x()
    painter.setPen(QPen(QColor("#FFFFFF"), part))
    painter.setBrush(QColor(colours.action))
    painter.drawEllipse(QPointF(middle, rect.top() + part), 5 * part, 5 * part)
    painter.setPen(QPen(QColor(colours.action), 1.8 * part))
    foot = rect.top() + 13 * part
    painter.drawLine(QPointF(middle, rect.top() + 6 * part), QPointF(middle, foot))


def paint_clasp(
    painter: QPainter, spine: float, foot: float, wide: float, colours: theme.Theme
) -> None:
    """The mark of two tied pages, over the spine between them at their feet; `wide` is a page."""
    long, thick = (21, 8) if wide >= 40 else (11, 4)
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.action))
    painter.drawRoundedRect(QRectF(spine - long / 2, foot - thick - 4, long, thick), 4, 4)


def paint_parted(painter: QPainter, verso: bool, rect: QRectF, colours: theme.Theme) -> None:
    """The mark of a page whose tied neighbour does not face it, where its spine is."""
    x = rect.right() if verso else rect.left()
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.warning))
    painter.drawRoundedRect(QRectF(x - 6, rect.bottom() - 12, 12, 8), 4, 4)


def paint_own_items(painter: QPainter, rect: QRectF, colours: theme.Theme) -> None:
    """The mark of items of a page's own: a small sheet corner at the left foot."""
    x, y = rect.left(), rect.bottom()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.action))
    painter.drawPolygon([QPointF(x, y - 9), QPointF(x + 9, y), QPointF(x, y)])


def paint_warning(painter: QPainter, rect: QRectF, colours: theme.Theme) -> None:
    """The mark of something doubtful: a triangle at the left head."""
    x, y = rect.left() + 9, rect.top() + 9
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.warning))
    painter.drawPolygon([QPointF(x, y - 6), QPointF(x + 6.5, y + 5), QPointF(x - 6.5, y + 5)])


def paint_foot(
    painter: QPainter,
    font: QFont,
    rect: QRectF,
    facts: PageFacts,
    ribbons: list[int],
    colours: theme.Theme,
    on_desk: bool,
) -> None:
    """Under a page: the ribbons of its masters, its folio large, its position small."""
    painter.setPen(Qt.PenStyle.NoPen)
    width = rect.width() / max(len(ribbons), 1)
    close = rect.height() < 60
    for n, number in enumerate(ribbons):
        ribbon = QRectF(rect.left() + n * width, rect.bottom() + 3, max(width - 1, 1), 4)
        if close:  # hundreds at a time, too small for round ends
            painter.fillRect(ribbon.adjusted(0, -1, 0, -2), QColor(theme.RIBBONS[number]))
        else:
            painter.setBrush(QColor(theme.RIBBONS[number]))
            painter.drawRoundedRect(ribbon, 2, 2)
    foot = QRectF(rect.left(), rect.bottom() + 9, rect.width(), 20)
    if close:
        foot = QRectF(rect.left(), rect.bottom() + 5, rect.width(), 15)
    if on_desk:
        painter.setBrush(QColor(colours.action_soft))
        painter.drawRoundedRect(foot, 5, 5)
    wide = rect.width() >= 52
    family = font.family()
    painter.setFont(_font(family, 16 if wide else 11 if close else 12, True))
    painter.setPen(QColor(colours.action if on_desk else colours.text))
    inset = 5 if wide else 1
    painter.drawText(foot.adjusted(inset, 0, 30, 0), _LEFT, facts.folio or "–")
    if wide:
        painter.setFont(_font(family, 12, False))
        painter.setPen(QColor(colours.quiet))
        painter.drawText(foot.adjusted(0, 2, -4, 0), _RIGHT, f"#{facts.position}")
