"""The legend of the marks on pages, as they are painted there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QFrame, QGridLayout, QLabel, QWidget

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.marks import paint_own_items, paint_page_marks, paint_warning
from hidden_frame.model.items import Override
from hidden_frame.model.publication import Page

Paint = Callable[[QPainter, QRectF, theme.Theme], None]


def _marked(**more: object) -> Paint:
    page = Page(id="", **more)  # type: ignore[arg-type]
    return lambda painter, rect, colours: paint_page_marks(painter, page, rect, colours)


def _clasp(painter: QPainter, rect: QRectF, colours: theme.Theme) -> None:
    painter.setPen(QPen(QColor("#FFFFFF"), 1))
    painter.setBrush(QColor(colours.action))
    painter.drawRoundedRect(QRectF(rect.right() - 11, rect.bottom() - 12, 21, 8), 4, 4)


def _ring(painter: QPainter, rect: QRectF, colours: theme.Theme) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(colours.master), 2))
    painter.drawRect(rect.adjusted(-2, -2, 2, 2))


def _ribbon(painter: QPainter, rect: QRectF, colours: theme.Theme) -> None:
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.RIBBONS[1]))
    painter.drawRoundedRect(QRectF(rect.left(), rect.bottom() + 3, rect.width(), 4), 2, 2)


MARKS: tuple[tuple[Paint, str], ...] = (
    (_ribbon, "The masters that the page follows, each in its ribbon\u2019s colour"),
    (paint_own_items, "Items of the page\u2019s own"),
    (_marked(overrides=(Override(item=""),)), "Something from its masters is overridden here"),
    (_marked(blind=True), "Blind: the folio is counted, not printed"),
    (_marked(held=1), "Locked at its position"),
    (_marked(made=True), "Made by a story that needed it; it goes again when empty"),
    (_clasp, "Kept with the page that faces it"),
    (paint_warning, "Checks found a problem"),
    (_ring, "Follows the master that is pointed at or on the desk"),
)


class _Sample(QWidget):
    """A small page with one mark."""

    def __init__(self, paint: Paint) -> None:
        super().__init__()
        self._paint = paint
        self.setFixedSize(QSize(52, 62))

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = theme.current()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        rect = QRectF(8, 7, 34, 44)
        painter.fillRect(rect, QColor("#FFFFFF"))
        painter.setPen(QPen(QColor(colours.edge), 1))
        painter.drawRect(rect)
        for n in range(4):
            y = rect.top() + 16 + n * 5
            painter.setPen(QPen(QColor(colours.line), 1.4))
            painter.drawLine(QPointF(rect.left() + 7, y), QPointF(rect.right() - 7, y))
        self._paint(painter, rect, colours)
        painter.end()


class Legend(QFrame):
    """A card that goes away with the next click."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("Card")
        self.setAccessibleName("What the marks mean")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        grid = QGridLayout(self)
        grid.setContentsMargins(14, 10, 18, 10)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(2)
        for n, (paint, words) in enumerate(MARKS):
            row, column = n % 4, n // 4 * 2
            label = QLabel(words)
            label.setWordWrap(True)
            label.setFixedWidth(200)
            grid.addWidget(_Sample(paint), row, column)
            grid.addWidget(label, row, column + 1)
