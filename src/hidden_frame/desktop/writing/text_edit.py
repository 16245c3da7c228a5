"""Text edited in place by keys and mouse (how it is dressed: `text_dress`)."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence

from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.desk.items_mime import anchorable
from hidden_frame.desktop.sight import Editing
from hidden_frame.desktop.writing.mime import as_mime, from_mime
from hidden_frame.desktop.writing.written import WrittenText
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.carets import END, START, by_line
from hidden_frame.interact.hits import Spot, hit
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.text import TextPlace
from hidden_frame.typeset.caret import Caret, caret_at, reads_from_right, spans_of

_WAYS = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Home: START, Qt.Key.Key_End: END}
_TURNED = {Qt.Key.Key_Left: Qt.Key.Key_Right, Qt.Key.Key_Right: Qt.Key.Key_Left}
_MOVES = {Qt.Key.Key_Left, Qt.Key.Key_Right, *_WAYS}


_KEPT = (
    QKeySequence.StandardKey.SelectAll,
    QKeySequence.StandardKey.Copy,
    QKeySequence.StandardKey.Cut,
    QKeySequence.StandardKey.Paste,
)
_EDITS = {Qt.Key.Key_Backspace, Qt.Key.Key_Delete, Qt.Key.Key_Tab}


def wants_key(event: QKeyEvent) -> bool:
    """Whether a key belongs to the text being edited before any command's key."""
    key = Qt.Key(event.key())
    typed = bool(event.text()) and event.text().isprintable() and not _command(event)
    return typed or key in _EDITS | _MOVES or any(event.matches(k) for k in _KEPT)


class TextEdit(WrittenText):
    """The hand that writes."""

    def press(self, spot: Spot, extend: bool) -> None:
        """The caret at a point of a page, in whichever frame of the story lies there."""
        spot = self.session.owning(spot)
        self._enter(spot)
        place = self._place_at(spot.x, spot.y)
        if place is not None:
            self.caret = place
            if not extend:
                self.anchor = place
            self.session.seal()
            self.moved.emit()

    def point_at(self, spot: Spot) -> None:
        """The caret at a point, unless what is selected lies there."""
        before = self.selection, self.session.editing
        self.press(spot, extend=False)
        if self.session.editing == before[1] and before[0][0] < self.caret < before[0][1]:
            self.anchor, self.caret = before[0]
            self.moved.emit()

    def holds(self, spot: Spot) -> bool:
        """Whether a point lies on the frame that is edited, or on another one of its story."""
        return self._frame_at(spot) is not None

    def _frame_at(self, spot: Spot) -> str | None:
        editing = self.session.editing
        if editing is None:
            return None
        spot = self.session.owning(spot)
        found = hit(self.session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is None:
            return None
        same = (editing.holder_id, editing.side) == (spot.face.holder_id, spot.face.side)
        if same and found.item_id == editing.item_id:
            return found.item_id
        told = self.told()
        here = told is not None and (spot.face.holder_id, found.item_id) in told.flow.index
        return found.item_id if here else None

    def _enter(self, spot: Spot) -> None:
        """Another frame of the story is the one that is written in now."""
        editing, item_id = self.session.editing, self._frame_at(spot)
        if editing is None or item_id is None:
            return
        if (spot.face.holder_id, item_id) != (editing.holder_id, editing.item_id):
            self.session.write_in(Editing(spot.face.holder_id, item_id, spot.face.side))

    def select_word(self, spot: Spot) -> None:
        spot = self.session.owning(spot)
        self._enter(spot)
        place = self._place_at(spot.x, spot.y)
        if place is not None:
            self.anchor, self.caret = edit_text.word_around(self.text, place)
            if self.anchor == self.caret:  # no word: a marker on either side
                index, offset = place
                for at in (offset, offset - 1):
                    if edit_text.object_at(self.text, (index, at)) is not None:
                        self.anchor, self.caret = (index, at), (index, at + 1)
                        break
            self.moved.emit()

    def marks(self, holder_id: str, placed: Placed) -> tuple[Caret | None, list[Bounds]]:
        """The caret, and the selected stretches, as far as they stand in a frame."""
        block, editing, told = placed.drawing.text, self.session.editing, self.told()
        if block is None or editing is None or not block.text.lines:
            return None, []
        mine = (holder_id, placed.item_id) == (editing.holder_id, editing.item_id)
        first = 0
        if told is not None:
            if (holder_id, placed.item_id) not in told.flow.index:
                return None, []
            first = told.flow.first_paragraph(holder_id, placed.item_id)
        (p1, o1), (p2, o2) = self.selection
        start, end = (p1 - first, o1), (p2 - first, o2)
        spans = spans_of(block.text, start, end) if start != end else []
        seen = told is None or told.flow.stop_of(*self.caret) is not None
        at = (self.caret[0] - first, self.caret[1])
        return (caret_at(block.text, *at) if mine and seen else None), spans

    def key(self, event: QKeyEvent) -> bool:
        """Handles a key; False leaves it to the desk."""
        key = event.key()
        if event.matches(QKeySequence.StandardKey.SelectAll):
            self.select_all()
        elif event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Cut):
            self.cut()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste()
        elif key in _MOVES:
            self._move(key, event.modifiers())
        elif key in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            self._delete(-1 if key == Qt.Key.Key_Backspace else 1)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            soft = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self.insert("\u2028" if soft else "\n")
        elif key == Qt.Key.Key_Tab:
            self.insert("\t")
        elif event.text() and event.text().isprintable() and not _command(event):
            self._typed_key(event.text())
        else:
            return False
        self._follow()
        return True

    def select_all(self) -> None:
        """All of the text, or of its story."""
        self.anchor, self.caret = (0, 0), edit_text.end_of(self.text)
        self.moved.emit()

    def cut(self) -> None:
        """What is selected, away and onto the clipboard."""
        self.copy()
        self._delete(0)

    def copy(self) -> None:
        """Words with their styles for here, as a web page and plain for elsewhere."""
        start, end = self.selection
        if start != end:
            piece = edit_text.cut_out(self.text, start, end)
            QGuiApplication.clipboard().setMimeData(as_mime(self.session.publication, piece))

    def paste(self) -> None:
        """Words with what they look like, as far as it is known here; a picture is anchored."""
        parcel = anchorable(QGuiApplication.clipboard().mimeData())
        if parcel is not None and self.anchors.put_item(parcel):
            return
        text = self.text
        piece = from_mime(
            QGuiApplication.clipboard().mimeData(), self.session.publication,
            text[self.caret[0]].style, whole=self.told() is not None,
        )  # fmt: skip
        if piece is None:
            self.insert(QGuiApplication.clipboard().text(), merge="")
            return
        if self._has_room(edit_text.total(piece)):
            text, place = self.without_selection()
            self.change("paste text", *edit_text.put_in(text, place, piece))
            self.session.seal()

    def _delete(self, direction: int) -> None:
        start, end = self.selection
        text = self.text
        if start == end:
            if direction < 0:
                start = edit_text.before(text, end)
            elif direction > 0:
                end = edit_text.after(text, end)
        if start != end:
            text, place = edit_text.delete(text, start, end)
            self.change("delete text", text, place, "deleting")

    def _move(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        text = self.text
        place = self.caret
        whole = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
        if key in _TURNED and self._from_right():
            key = _TURNED[Qt.Key(key)]
        if key == Qt.Key.Key_Left:
            place = edit_text.before(text, place)
            if whole:
                place = edit_text.word_around(text, place)[0]
        elif key == Qt.Key.Key_Right:
            place = edit_text.after(text, place)
            if whole:
                place = edit_text.word_around(text, place)[1]
        elif whole and key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            place = (0, 0) if key == Qt.Key.Key_Home else edit_text.end_of(text)
        elif whole:
            place = edit_text.paragraph_from(text, place, -1 if key == Qt.Key.Key_Up else 1)
        else:
            place = self._by_line(key)
        self.caret = place
        if not modifiers & Qt.KeyboardModifier.ShiftModifier:
            self.anchor = place
        self.session.seal()

    def _from_right(self) -> bool:
        """Whether the text at the caret is read from right to left, so that a key that points to
        the left goes on in it."""
        block = self.block()
        if block is None or not block.text.lines:
            return False
        return reads_from_right(block.text, self.caret[0] - self.first(), self.caret[1])

    def _by_line(self, key: int) -> TextPlace:
        block, told, editing = self.block(), self.told(), self.session.editing
        if block is None or editing is None:
            return self.caret
        at = told.flow.index[editing.holder_id, editing.item_id] if told is not None else 0
        return by_line(self.text, block.text, self.caret, _WAYS[Qt.Key(key)], told, at)


def _command(event: QKeyEvent) -> bool:
    """Whether a key with what is held is no letter: Ctrl or Alt, but not both, since some
    keyboards give signs by Ctrl+Alt as others do by AltGr."""
    keys, kinds = event.modifiers(), Qt.KeyboardModifier
    control = bool(keys & (kinds.ControlModifier | kinds.MetaModifier))
    return control != bool(keys & kinds.AltModifier)
