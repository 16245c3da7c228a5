"""A spread drawn small: paper, margins, columns, fold."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.desktop.look import theme
from hidden_frame.model.geometry import Side
from hidden_frame.model.publication import Setup


def paint_spread(painter: QPainter, room: QRectF, setup: Setup) -> None:
    """A spread with its margins and columns, as large as a room allows and in its middle."""
    colours = theme.current()
    trim = setup.trim
    count = 2 if setup.facing else 1
    scale = min(room.width() / (trim.width * count), room.height() / trim.height)
    w, h = trim.width * scale, trim.height * scale
    x, y = room.center().x() - w * count / 2, room.center().y() - h / 2
    for n in range(count):
        side: Side = "recto" if count == 1 or n == 1 else "verso"
        page = QRectF(x + n * w, y, w, h)
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor("#FFFFFF"))
        painter.drawRect(page)
        m = setup.margins
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(colours.margin), 1))
        text = page.adjusted(
            m.left(side) * scale, m.top * scale, -m.right(side) * scale, -m.bottom * scale
        )
        painter.drawRect(text)
        columns = setup.columns
        gutter = columns.gutter * scale
        step = (text.width() + gutter) / columns.count
        painter.setPen(QPen(QColor(colours.column), 1))
        for k in range(1, columns.count):
            for at in (text.left() + k * step - gutter, text.left() + k * step):
                painter.drawLine(QPointF(at, text.top()), QPointF(at, text.bottom()))
