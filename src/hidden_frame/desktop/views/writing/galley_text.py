"""A story's words in the galley, where one writes as on the page."""

from __future__ import annotations

import re

from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, QRect, Qt, QTimer, Signal
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QFont,
    QGuiApplication,
    QInputMethodEvent,
    QKeyEvent,
    QMouseEvent,
    QPaintEvent,
    QResizeEvent,
    QTextCursor,
    QTextFormat,
    QTextOption,
)
from PySide6.QtWidgets import QPlainTextEdit, QTextEdit

from hidden_frame.compose.stories.flow import Flow
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing import galley_paint as paint
from hidden_frame.desktop.views.writing.drops import DropTarget
from hidden_frame.desktop.views.writing.galley_paint import MARGIN
from hidden_frame.desktop.views.writing.keys import BY_LINES, act_of
from hidden_frame.desktop.views.writing.mouse import FAR, TextMouse
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.desktop.views.writing.units import from_units, to_units
from hidden_frame.edit.text import steps
from hidden_frame.interact.hands.carets import Standing
from hidden_frame.model.same import same_ends
from hidden_frame.model.text import Paragraph, Text, TextPlace

_MEASURE = 640  # pixels that a line may be long: longer ones are hard to read
# What would end a paragraph of Qt's, or is a sign of its own there.
_STRANGE = re.compile("[\n\r\u2029\ufdd0\ufdd1\ud800-\udfff]")


class GalleyText(QPlainTextEdit):
    """The text itself; a block is a paragraph, so a place is a block and a position in it.

    `menu_wanted`: of the text, at a point of the screen.
    """

    menu_wanted = Signal(QPoint)

    def __init__(self, session: Session, writing: TextEdit, mouse: TextMouse) -> None:
        super().__init__()
        self.session, self.writing, self.mouse = session, writing, mouse
        self.story_id = ""
        self.taken: Text = ()
        self.making = False  # whether an input method makes something here
        self._held: QPointF | None = None  # where selected words were taken hold of
        self.drop_at: TextPlace | None = None  # where they would go
        self.setAccessibleName("Galley")
        self.setUndoRedoEnabled(False)
        self.setCursorWidth(2)
        self.setViewportMargins(MARGIN, 0, 0, 0)
        font = QFont(self.font())
        font.setPixelSize(15)
        self.setFont(font)
        self.names = paint.Names(self)
        self.updateRequest.connect(self._scrolled)
        self._bring = QTimer(self)
        self._bring.setSingleShot(True)
        self._bring.setInterval(0)
        self._bring.timeout.connect(self.ensureCursorVisible)
        session.stepped.connect(self._stop_making)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(120)
        self._later.timeout.connect(self.viewport().update)

    # -- the text ----------------------------------------------------------------------

    def take(self, text: Text) -> None:
        """Shows a text: only paragraphs that are not the same objects as before are put in anew."""
        old = self.taken
        if text is not old:
            first, last = same_ends(old, text)
            self._replace(
                first, len(old) - last, [_plain(p) for p in text[first : len(text) - last]]
            )
            self.taken = text
            self.names.update()
        self.take_caret()
        self._later.start()

    def _replace(self, first: int, end: int, lines: list[str]) -> None:
        """Blocks `first` to `end` (excluded) exchanged for lines."""
        document = self.document()
        if first == 0 and end >= len(self.taken):
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
        """The place of the text at a position of the document."""
        block = self.document().findBlock(cursor_position)
        number = block.blockNumber()
        units = cursor_position - block.position()
        if number >= len(self.taken):
            return number, units
        return number, from_units(steps.letters(self.taken[number]), units)

    def position_of(self, place: TextPlace) -> int:
        """The position in the document of a place of the text."""
        block = self.document().findBlockByNumber(place[0])
        if not block.isValid():
            return 0
        units = place[1]
        if place[0] < len(self.taken):
            units = to_units(steps.letters(self.taken[place[0]]), units)
        return block.position() + min(units, max(block.length() - 1, 0))

    def take_caret(self) -> None:
        """The caret and the selection as they are on the desk."""
        told = self.writing.told()
        if told is None or told.story.id != self.story_id or not self.isVisible() or self.making:
            return
        anchor, caret = self.position_of(self.writing.anchor), self.position_of(self.writing.caret)
        cursor = self.textCursor()
        if (cursor.anchor(), cursor.position()) != (anchor, caret):
            cursor.setPosition(anchor)
            cursor.setPosition(caret, QTextCursor.MoveMode.KeepAnchor)
            self.setTextCursor(cursor)
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
            mine = act_of(event) is not None
            event.setAccepted(mine)
            return mine
        return super().event(event)

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        """What is being composed is shown here; what comes of it goes to the story, as keys do."""
        made, self.making = event.commitString(), bool(event.preeditString())
        cursor = self.textCursor()
        if cursor.hasSelection():  # the widget would delete it: it goes when something is made
            cursor.setPosition(cursor.selectionStart())
            self.setTextCursor(cursor)
        shown = QInputMethodEvent(event.preeditString(), event.attributes())
        replaced = event.replacementStart(), event.replacementLength()
        super().inputMethodEvent(shown)
        if (made or replaced[1]) and self._writes():
            self.writing.making.put(made, *replaced)
            self.ensureCursorVisible()
        elif not self.making:
            self.take_caret()
        event.accept()

    def _stop_making(self) -> None:
        """What an input method makes here is dropped when a step is taken back meanwhile."""
        if self.making:
            self.making = False
            QGuiApplication.inputMethod().reset()
            super().inputMethodEvent(QInputMethodEvent())

    def _writes(self) -> bool:
        """Whether what is typed here goes to the story, which is opened for that."""
        told = self.writing.told()
        if told is None or told.story.id != self.story_id:
            self._give_caret()
        return self.writing.told() is not None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The same table of keys as on the page; lines, and how many are seen, are those here."""
        if event.key() == Qt.Key.Key_Escape:
            if not self._cancel():
                self.session.edit_text(None)
            return
        act = act_of(event)
        if act is not None and act.what in BY_LINES:
            super().keyPressEvent(event)
            self._give_caret()
            return
        if act is None or not self._writes():
            event.ignore()
            return
        self.writing.do(act, event.text())
        self.ensureCursorVisible()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        left = event.button() == Qt.MouseButton.LeftButton
        plain = not event.modifiers() & Qt.KeyboardModifier.ShiftModifier
        if left and plain and self._on_selected(event.position().toPoint()):
            self._held = event.position()
            return
        if event.button() == Qt.MouseButton.RightButton:
            return
        super().mousePressEvent(event)
        self._give_caret()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            super().mouseMoveEvent(event)
            return
        far = (event.position() - self._held).manhattanLength() >= FAR
        if far or self.drop_at is not None:
            self.drop_at = self._place_under(event.position().toPoint())
            self.viewport().setCursor(Qt.CursorShape.DragMoveCursor)
            self.viewport().update()

    def _on_selected(self, point: QPoint) -> bool:
        cursor, at = self.textCursor(), self.cursorForPosition(point).position()
        return cursor.selectionStart() <= at < cursor.selectionEnd()

    def _place_under(self, point: QPoint) -> TextPlace:
        return self.place_of(self.cursorForPosition(point).position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            super().mouseReleaseEvent(event)
            self._give_caret()
            return
        at, editing = self.drop_at, self.session.editing
        self._cancel()
        if at is None:  # a mere click
            place = self._place_under(event.position().toPoint())
            self.writing.write_at(self.story_id, place)
            self.session.seal()
        elif editing is not None and self._writes():
            copies = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self.mouse.drops.drop(DropTarget(editing, self.story_id, Standing(at), 0), copies)

    def _cancel(self) -> bool:
        """Words that are dragged stay where they are; False if none are."""
        was = self._held is not None
        self._held = self.drop_at = None
        self.viewport().setCursor(Qt.CursorShape.IBeamCursor)
        self.viewport().update()
        return was

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The menu of the text, as on the page: a plain text edit's own would change it alone."""
        if event.reason() == QContextMenuEvent.Reason.Mouse and not self._on_selected(event.pos()):
            self.writing.write_at(self.story_id, self._place_under(event.pos()))
        if self._writes():
            self.menu_wanted.emit(event.globalPos())

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        super().mouseDoubleClickEvent(event)
        place = self._place_under(event.position().toPoint())
        if place[0] < len(self.taken):
            first, last = steps.word_around(self.taken, place)
            self.writing.write_at(self.story_id, last, first)

    def insertFromMimeData(self, source: QMimeData) -> None:
        """What is dropped here, or pasted by the middle button."""
        self._give_caret()
        if self._writes():
            self.writing.pasting.put(source)

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
        known = flow is not None and len(self.taken) == self.document().blockCount()
        if flow is not None and known:
            paint.paint_overset(self, flow)
        super().paintEvent(event)
        if flow is not None and known:
            paint.paint_pages(self, flow)
        if self.drop_at is not None:
            paint.paint_drop(self, self.drop_at)

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


def _plain(paragraph: Paragraph) -> str:
    """A paragraph's characters, each place one of them."""
    return _STRANGE.sub("\ufffd", steps.letters(paragraph))
