"""The galley: a story as continuous plain text beside the desk, with its own caret for both.

Style names stand in its left margin; at the right, where a page begins, its folio.  What has no
room on a page is on a warm ground.  It is another view of the text that is written on the desk:
keys typed here go the same way, and what is typed there appears here.
"""

from __future__ import annotations

from PySide6.QtCore import QEvent, QRect, QSize, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QFont,
    QInputMethodEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
    QTextBlock,
    QTextCursor,
    QTextFormat,
    QTextOption,
)
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QTextEdit,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.stories.flow import Flow
from hidden_frame.desktop import theme
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.writing.text_edit import TextEdit, wants_key
from hidden_frame.model.same import same_ends
from hidden_frame.model.text import Paragraph, Run, Text, TextPlace

MARGIN = 104  # pixels for the names of styles
_MEASURE = 640  # pixels that a line may be long: longer ones are hard to read
_OBJECT = "\ufffc"  # what stands for a marker
_MOVES = {
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home,
    Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown,
}  # fmt: skip


class Galley(QWidget):
    """Follows the story that one writes in; stays with the last one otherwise."""

    closed = Signal()
    alone = Signal(bool)  # whether it stands instead of the desk

    def __init__(self, session: Session, writing: TextEdit) -> None:
        super().__init__()
        self.session, self.writing = session, writing
        self.setObjectName("Panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.text = GalleyText(session, writing)
        self.name = QLabel()
        self.name.setObjectName("Heading")
        self.signs = QToolButton()
        self.signs.setText("¶")
        self.signs.setCheckable(True)
        self.signs.setToolTip("Show spaces, tabs and ends of paragraphs")
        self.wide = QToolButton()
        self.wide.setText("Wide")
        self.wide.setCheckable(True)
        self.wide.setToolTip("The galley instead of the desk")
        self.close_button = QToolButton()
        self.close_button.setText("✕")
        self.close_button.setToolTip("Close the galley")
        row = QHBoxLayout()
        row.addWidget(self.name, 1)
        row.addWidget(self.wide)
        row.addWidget(self.signs)
        row.addWidget(self.close_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 8)
        column.addLayout(row)
        column.addWidget(self.text, 1)
        self.signs.toggled.connect(self.text.show_signs)
        self.wide.toggled.connect(self.alone)
        self.close_button.clicked.connect(self.closed)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)
        writing.moved.connect(self.text.take_caret)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Takes up the story's text, paragraph by paragraph, where it changed."""
        if not self.isVisible():
            return
        told = self.writing.told()
        if told is not None:
            self.text.story_id = told.story.id
        stories = {s.id: s for s in self.session.publication.stories}
        if self.text.story_id not in stories:
            self.text.story_id = next(iter(stories), "")
        story = stories.get(self.text.story_id)
        self.name.setText(story.name.upper() if story is not None else "NO STORY YET")
        self.text.take(story.text if story is not None else ())


class GalleyText(QPlainTextEdit):
    """The text itself; a block is a paragraph, so a place is a block and a position in it."""

    def __init__(self, session: Session, writing: TextEdit) -> None:
        super().__init__()
        self.session, self.writing = session, writing
        self.story_id = ""
        self._shown: Text = ()
        self._taking = False
        self.setAccessibleName("Galley")
        self.setUndoRedoEnabled(False)
        self.setCursorWidth(2)
        self.setViewportMargins(MARGIN, 0, 0, 0)
        font = QFont(self.font())
        font.setPixelSize(15)
        self.setFont(font)
        self.names = _Names(self)
        self.updateRequest.connect(self._scrolled)
        self._bring = QTimer(self)
        self._bring.setSingleShot(True)
        self._bring.setInterval(0)
        self._bring.timeout.connect(self.ensureCursorVisible)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(120)
        self._later.timeout.connect(self.viewport().update)

    # -- the text ----------------------------------------------------------------------

    def take(self, text: Text) -> None:
        """Shows a text: only paragraphs that are not the same objects as before are put in anew."""
        old = self._shown
        if text is not old:
            first, last = same_ends(old, text)
            self._taking = True
            try:
                self._replace(
                    first, len(old) - last, [_plain(p) for p in text[first : len(text) - last]]
                )
            finally:
                self._taking = False
            self._shown = text
            self.names.update()
        self.take_caret()
        self._later.start()

    def _replace(self, first: int, end: int, lines: list[str]) -> None:
        """Blocks `first` to `end` (excluded) exchanged for lines."""
        document = self.document()
        if first == 0 and end >= len(self._shown):
            self.setPlainText("\n".join(lines))
            return
        cursor = QTextCursor(document)
        if end > first:
            cursor.setPosition(document.findBlockByNumber(first).position())
            last = document.findBlockByNumber(end - 1)
            stop = last.position() + last.length() - 1
            cursor.setPosition(stop, QTextCursor.MoveMode.KeepAnchor)
            if lines:
                cursor.insertText("\n".join(lines))
                return
            cursor.removeSelectedText()
            if first > 0:
                cursor.deletePreviousChar()
            else:
                cursor.deleteChar()
        elif first > 0:
            before = document.findBlockByNumber(first - 1)
            cursor.setPosition(before.position() + before.length() - 1)
            cursor.insertText("\n" + "\n".join(lines))
        else:
            cursor.setPosition(0)
            cursor.insertText("\n".join(lines) + "\n")

    def place_of(self, cursor_position: int) -> TextPlace:
        block = self.document().findBlock(cursor_position)
        return block.blockNumber(), cursor_position - block.position()

    def position_of(self, place: TextPlace) -> int:
        block = self.document().findBlockByNumber(place[0])
        return (
            block.position() + min(place[1], max(block.length() - 1, 0)) if block.isValid() else 0
        )

    def take_caret(self) -> None:
        """The caret and the selection as they are on the desk."""
        told = self.writing.told()
        if told is None or told.story.id != self.story_id or not self.isVisible():
            return
        anchor, caret = self.position_of(self.writing.anchor), self.position_of(self.writing.caret)
        cursor = self.textCursor()
        if (cursor.anchor(), cursor.position()) != (anchor, caret):
            self._taking = True
            cursor.setPosition(anchor)
            cursor.setPosition(caret, QTextCursor.MoveMode.KeepAnchor)
            self.setTextCursor(cursor)
            self._taking = False
            self._bring.start()  # once it is laid out
        line = QTextEdit.ExtraSelection()  # the caret is hidden while one writes on the desk
        line.format.setBackground(QColor(theme.current().action_soft))  # type: ignore[attr-defined]
        line.format.setProperty(QTextFormat.Property.FullWidthSelection, True)  # type: ignore[attr-defined]
        line.cursor = QTextCursor(cursor)  # type: ignore[attr-defined]
        line.cursor.clearSelection()  # type: ignore[attr-defined]
        self.setExtraSelections([line])

    def _give_caret(self) -> None:
        """The caret set here is the one on the desk, which follows."""
        if not self.story_id:
            return
        cursor = self.textCursor()
        caret, anchor = self.place_of(cursor.position()), self.place_of(cursor.anchor())
        self.writing.write_at(self.story_id, caret, anchor)
        self.session.seal()

    # -- hands ----------------------------------------------------------------------------

    def event(self, event: QEvent) -> bool:
        """The keys of commands are theirs: a plain text edit takes Ctrl+Z, and undoes nothing."""
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            mine = wants_key(event) or Qt.Key(event.key()) in _MOVES
            event.setAccepted(mine)
            return mine
        return super().event(event)

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        """What is being composed is shown here; what comes of it goes to the story, as keys do."""
        made = event.commitString()
        super().inputMethodEvent(QInputMethodEvent(event.preeditString(), event.attributes()))
        if made and self._writes():
            self.writing.insert(made)
            self.ensureCursorVisible()
        event.accept()

    def _writes(self) -> bool:
        """Whether what is typed here goes to the story, which is opened for that."""
        told = self.writing.told()
        if told is None or told.story.id != self.story_id:
            self._give_caret()
        return self.writing.told() is not None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape:
            self.session.edit_text(None)
            return
        if key in _MOVES:
            super().keyPressEvent(event)
            self._give_caret()
            return
        if not self._writes() or not self.writing.key(event):
            event.ignore()
        self.ensureCursorVisible()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        self._give_caret()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        self._give_caret()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        super().mouseDoubleClickEvent(event)
        self._give_caret()

    def insertFromMimeData(self, source) -> None:  # type: ignore[no-untyped-def]
        if source.hasText():
            self._give_caret()
            self.writing.insert(source.text(), merge="")

    # -- painting --------------------------------------------------------------------------

    def show_signs(self, on: bool) -> None:
        """Spaces, tabs and ends of paragraphs, or not."""
        option = QTextOption()
        if on:
            option.setFlags(
                QTextOption.Flag.ShowTabsAndSpaces | QTextOption.Flag.ShowLineAndParagraphSeparators
            )
        self.document().setDefaultTextOption(option)

    def flow(self) -> Flow | None:
        known = {s.id for s in self.session.publication.stories}
        return self.session.composition.flow(self.story_id) if self.story_id in known else None

    def paintEvent(self, event: QPaintEvent) -> None:
        flow = self.flow()
        if flow is not None and len(self._shown) == self.document().blockCount():
            self._paint_overset(flow)
        super().paintEvent(event)
        if flow is not None and len(self._shown) == self.document().blockCount():
            self._paint_pages(flow)

    def _paint_overset(self, flow: Flow) -> None:
        """A warm ground from where the text has no room."""
        if flow.rest is None:
            return
        y = self._y_of((flow.rest.paragraph, flow.rest.place.offset))
        if y is None:
            y = 0 if self.firstVisibleBlock().blockNumber() > flow.rest.paragraph else None
        if y is not None and y < self.viewport().height():
            painter = QPainter(self.viewport())
            ground = QColor(theme.current().warning)
            ground.setAlphaF(0.12)
            size = self.viewport().size()
            painter.fillRect(QRect(0, max(y, 0), size.width(), size.height()), ground)

    def _paint_pages(self, flow: Flow) -> None:
        """A line where each page begins, and its folio at the right."""
        colours, facts = theme.current(), self.session.composition.facts
        first = self.firstVisibleBlock().blockNumber()
        last = self.cursorForPosition(self.viewport().rect().bottomLeft()).blockNumber()
        painter = QPainter(self.viewport())
        font = QFont(self.font())
        font.setPixelSize(11)
        font.setBold(True)
        painter.setFont(font)
        wide = self.viewport().width()
        for stop, part, start in zip(flow.stops, flow.parts, flow.starts, strict=True):
            if not part.lines or not first <= start.paragraph <= last:
                continue
            y = self._y_of((start.paragraph, start.place.offset))
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

    def _y_of(self, place: TextPlace) -> int | None:
        """The top of the line on which a place stands; None if it is not in sight."""
        block = self.document().findBlockByNumber(place[0])
        if not block.isValid() or not block.isVisible():
            return None
        cursor = QTextCursor(block)
        cursor.setPosition(self.position_of(place))
        rect = self.cursorRect(cursor)
        return rect.top() if -4 <= rect.top() <= self.viewport().height() + 4 else None

    def _scrolled(self, rect: QRect, dy: int) -> None:
        if dy:
            self.names.scroll(0, dy)
        self.names.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        inner = self.contentsRect()
        spare = max(inner.width() - MARGIN - _MEASURE, 0)
        if self.viewportMargins().right() != spare:
            self.setViewportMargins(MARGIN, 0, spare, 0)
        self.names.setGeometry(inner.left(), inner.top(), MARGIN, inner.height())

    def paint_names(self, painter: QPainter) -> None:
        """The style of each paragraph in sight, beside its first line."""
        colours = theme.current()
        names = {s.id: s.name for s in self.session.publication.paragraph_styles}
        font = QFont(self.font())
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(QColor(colours.quiet))
        block: QTextBlock = self.firstVisibleBlock()
        top = self.blockBoundingGeometry(block).translated(self.contentOffset()).top()
        while block.isValid() and top < self.viewport().height():
            number = block.blockNumber()
            name = names.get(self._shown[number].style, "") if number < len(self._shown) else ""
            room = QRect(6, round(max(top, 2.0)), MARGIN - 14, 20)
            words = painter.fontMetrics().elidedText(
                name, Qt.TextElideMode.ElideRight, room.width()
            )
            painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
                             words)  # fmt: skip
            top += self.blockBoundingRect(block).height()
            block = block.next()


class _Names(QWidget):
    """The left margin."""

    def __init__(self, text: GalleyText) -> None:
        super().__init__(text)
        self._text = text

    def sizeHint(self) -> QSize:
        return QSize(MARGIN, 0)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        self._text.paint_names(painter)
        painter.end()


def _plain(paragraph: Paragraph) -> str:
    """A paragraph's characters, each place one of them."""
    return "".join(c.text if isinstance(c, Run) else _OBJECT for c in paragraph.content)
