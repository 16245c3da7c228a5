"""What the galley paints beside its words: styles, where pages begin, and what has no room."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen, QTextBlock, QTextCursor
from PySide6.QtWidgets import QWidget

from hidden_frame.compose.stories.flow import Flow
from hidden_frame.desktop.look import theme
from hidden_frame.model.text import TextPlace

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.galley_text import GalleyText

MARGIN = 104  # pixels for the names of styles


def paint_overset(galley: GalleyText, flow: Flow) -> None:
    """A warm ground from where the text has no room."""
    if flow.rest is None:
        return
    y = _y_of(galley, (flow.rest.paragraph, flow.rest.place.offset))
    if y is None:
        y = 0 if galley.firstVisibleBlock().blockNumber() > flow.rest.paragraph else None
    if y is not None and y < galley.viewport().height():
        painter = QPainter(galley.viewport())
        ground = QColor(theme.current().warning)
        ground.setAlphaF(0.12)
        size = galley.viewport().size()
        painter.fillRect(QRect(0, max(y, 0), size.width(), size.height()), ground)


def paint_pages(galley: GalleyText, flow: Flow) -> None:
    """A line where each page begins, and its folio at the right."""
    colours, facts = theme.current(), galley.session.composition.facts
    first = galley.firstVisibleBlock().blockNumber()
    last = galley.cursorForPosition(galley.viewport().rect().bottomLeft()).blockNumber()
    painter = QPainter(galley.viewport())
    font = QFont(galley.font())
    font.setPixelSize(11)
    font.setBold(True)
    painter.setFont(font)
    wide = galley.viewport().width()
    for stop, part, start in zip(flow.stops, flow.parts, flow.starts, strict=True):
        if not part.lines or not first <= start.paragraph <= last:
            continue
        y = _y_of(galley, (start.paragraph, start.place.offset))
        if y is None:
            continue
        painter.setPen(QPen(QColor(colours.action), 1, Qt.PenStyle.DashLine))
        painter.drawLine(0, y, wide, y)
        known = facts.get(stop.page_id)
        words = f"{known.folio or '#' + str(known.position)}" if known is not None else ""
        room = painter.fontMetrics().horizontalAdvance(words) + 10
        tag = QRect(wide - room - 2, y - 8, room, 16)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.action))
        painter.drawRoundedRect(tag, 8, 8)
        painter.setPen(QColor(colours.action_text))
        painter.drawText(tag, Qt.AlignmentFlag.AlignCenter, words)


def paint_names(galley: GalleyText, painter: QPainter) -> None:
    """The style of each paragraph in sight, beside its first line."""
    colours = theme.current()
    names = {s.id: s.name for s in galley.session.publication.paragraph_styles}
    font = QFont(galley.font())
    font.setPixelSize(12)
    painter.setFont(font)
    painter.setPen(QColor(colours.quiet))
    block: QTextBlock = galley.firstVisibleBlock()
    top = galley.blockBoundingGeometry(block).translated(galley.contentOffset()).top()
    while block.isValid() and top < galley.viewport().height():
        number = block.blockNumber()
        name = names.get(galley.taken[number].style, "") if number < len(galley.taken) else ""
        room = QRect(6, round(max(top, 2.0)), MARGIN - 14, 20)
        words = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, room.width())
        painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
                         words)  # fmt: skip
        top += galley.blockBoundingRect(block).height()
        block = block.next()


def paint_drop(galley: GalleyText, at: TextPlace) -> None:
    """A dotted caret where words would go that are dragged."""
    cursor = QTextCursor(galley.document())
    cursor.setPosition(galley.position_of(at))
    rect = galley.cursorRect(cursor)
    painter = QPainter(galley.viewport())
    painter.setPen(QPen(QColor(theme.current().action), 2.0, Qt.PenStyle.DotLine))
    painter.drawLine(QPoint(rect.left(), rect.top()), QPoint(rect.left(), rect.bottom()))


def _y_of(galley: GalleyText, place: TextPlace) -> int | None:
    """The top of the line on which a place stands; None if it is not in sight."""
    block = galley.document().findBlockByNumber(place[0])
    if not block.isValid() or not block.isVisible():
        return None
    cursor = QTextCursor(block)
    cursor.setPosition(galley.position_of(place))
    rect = galley.cursorRect(cursor)
    return rect.top() if -4 <= rect.top() <= galley.viewport().height() + 4 else None


class Names(QWidget):
    """The left margin."""

    def __init__(self, text: GalleyText) -> None:
        super().__init__(text)
        self._text = text

    def sizeHint(self) -> QSize:
        return QSize(MARGIN, 0)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        paint_names(self._text, painter)
        painter.end()
