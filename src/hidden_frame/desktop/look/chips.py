"""A line of text in which markers stand as chips, each one character to the caret."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QMimeData, QSize, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QPainter,
    QPyTextObject,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFormat,
    QTextOption,
)
from PySide6.QtWidgets import QFrame, QSizePolicy, QTextEdit

from hidden_frame.compose.markers import marker_label
from hidden_frame.desktop.look import theme
from hidden_frame.model.text import Look, Marker, Piece, Run

_KIND = QTextFormat.ObjectTypes.UserObject.value + 1
_MARKER = QTextFormat.Property.UserProperty.value + 1  # number of the marker among the field's
_DRESS = _MARKER + 1  # number of the character style and look among the field's
_OBJECT = "\ufffc"  # U+FFFC OBJECT REPLACEMENT CHARACTER stands for a chip
_BREAK, _SHOWN = "\u2028", "↵"  # a line break, and how one line shows it
Dress = tuple[str | None, Look | None]


class _Chip(QPyTextObject):
    """Draws a marker's name in a rounded box in the masters' colour."""

    def __init__(self, field: ChipField) -> None:
        super().__init__(field)
        self.field = field

    def _words(self, given: QTextFormat) -> str:
        return marker_label(self.field.markers[given.intProperty(_MARKER)])

    def intrinsicSize(self, doc: QTextDocument, at: int, given: QTextFormat) -> QSizeF:
        metrics = QFontMetricsF(self.field.font())
        return QSizeF(metrics.horizontalAdvance(self._words(given)) + 14, metrics.height())

    def drawObject(
        self, painter: QPainter, rect: Any, doc: QTextDocument, at: int, given: QTextFormat
    ) -> None:
        colours = theme.current()
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QColor(colours.master))
        painter.setBrush(QColor(colours.master_soft))
        painter.drawRoundedRect(rect.adjusted(1.5, 0.5, -1.5, -0.5), 6, 6)
        painter.setFont(self.field.font())
        painter.setPen(QColor(colours.text))
        painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, self._words(given))
        painter.restore()


class ChipField(QTextEdit):
    """Shows the pieces of one paragraph and lets them be written; `edited` tells of a change."""

    edited = Signal()

    def __init__(self, label: str) -> None:
        super().__init__()
        self.setAccessibleName(label)
        self.setObjectName("Chips")
        self.setAcceptRichText(False)
        self.setTabChangesFocus(True)
        self.setLineWrapMode(QTextEdit.LineWrapMode.NoWrap)
        self.setWordWrapMode(QTextOption.WrapMode.NoWrap)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.document().setDocumentMargin(4)
        self.markers: list[Marker] = []
        self._dresses: list[Dress] = [(None, None)]
        self._chip = _Chip(self)
        self.document().documentLayout().registerHandler(_KIND, self._chip)
        self.textChanged.connect(self.edited)

    def sizeHint(self) -> QSize:
        return QSize(200, round(self.fontMetrics().height() + 13))

    def minimumSizeHint(self) -> QSize:
        return QSize(80, self.sizeHint().height())

    # -- pieces in and out -------------------------------------------------------------

    def show_content(self, content: tuple[Piece, ...]) -> None:
        """Shows pieces; what was there goes."""
        if content == self.content():
            return
        self.blockSignals(True)
        self.clear()
        cursor = self.textCursor()
        for piece in content:
            if isinstance(piece, Marker):
                self._put(cursor, piece)
            elif isinstance(piece, Run):
                given = self._given((piece.style, piece.look))
                cursor.insertText(piece.text.replace(_BREAK, _SHOWN), given)
        self.blockSignals(False)
        self.edited.emit()

    def content(self) -> tuple[Piece, ...]:
        """What is written, as pieces: neighbours that look alike are one run."""
        pieces: list[Piece] = []
        block = self.document().begin()
        while block.isValid():
            stretches = block.begin()
            while not stretches.atEnd():
                fragment = stretches.fragment()
                self._take(pieces, fragment.text(), fragment.charFormat())
                stretches += 1
            block = block.next()
        return tuple(pieces)

    def _take(self, pieces: list[Piece], text: str, given: QTextCharFormat) -> None:
        if given.objectType() == _KIND:
            marker = self.markers[given.intProperty(_MARKER)]
            pieces.extend([marker] * text.count(_OBJECT))
            return
        style, look = self._dresses[given.intProperty(_DRESS)]
        string = text.replace(_OBJECT, "").replace(_SHOWN, _BREAK)
        last = pieces[-1] if pieces else None
        if isinstance(last, Run) and (last.style, last.look) == (style, look):
            pieces[-1] = Run(last.text + string, style, look)
        elif string:
            pieces.append(Run(string, style, look))

    def _given(self, dress: Dress) -> QTextCharFormat:
        """The format of a run: it carries its character style and look along."""
        if dress not in self._dresses:
            self._dresses.append(dress)
        given = QTextCharFormat()
        given.setProperty(_DRESS, self._dresses.index(dress))
        return given

    def _put(self, cursor: QTextCursor, marker: Marker) -> None:
        self.markers.append(marker)
        given = QTextCharFormat()
        given.setObjectType(_KIND)
        given.setVerticalAlignment(QTextCharFormat.VerticalAlignment.AlignMiddle)
        given.setProperty(_MARKER, len(self.markers) - 1)
        cursor.insertText(_OBJECT, given)
        cursor.setCharFormat(QTextCharFormat())

    def put(self, marker: Marker) -> None:
        """Puts a marker in at the caret, in place of what is selected."""
        cursor = self.textCursor()
        cursor.removeSelectedText()
        self._put(cursor, marker)
        self.setTextCursor(cursor)
        self.setCurrentCharFormat(QTextCharFormat())
        self.setFocus()

    # -- one line ----------------------------------------------------------------------

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter gives the dialog's answer: the line has no second one."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            event.ignore()
            return
        super().keyPressEvent(event)

    def insertFromMimeData(self, source: QMimeData) -> None:
        """Plain words on one line, whatever is pasted."""
        self.insertPlainText(" ".join(source.text().replace(_OBJECT, "").split("\n")))

    def createMimeDataFromSelection(self) -> QMimeData:
        """Words for elsewhere: a chip is its name in brackets."""
        data = QMimeData()
        cursor = self.textCursor()
        start, end, words = cursor.selectionStart(), cursor.selectionEnd(), ""
        reader = QTextCursor(self.document())
        for at in range(start, end):
            reader.setPosition(at)
            reader.setPosition(at + 1, QTextCursor.MoveMode.KeepAnchor)
            given = reader.charFormat()
            chip = given.objectType() == _KIND
            name = marker_label(self.markers[given.intProperty(_MARKER)]) if chip else ""
            words += f"[{name}]" if chip else reader.selectedText()
        data.setText(words)
        return data
