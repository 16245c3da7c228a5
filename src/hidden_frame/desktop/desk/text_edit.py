"""Text edited in place: caret and selection, keys to edits."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QGuiApplication, QKeyEvent, QKeySequence

from hidden_frame.compose.scene import Placed, TextPrimitive
from hidden_frame.desktop.session import Editing, Session
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.shown import change_shown, shown_item
from hidden_frame.model.items import TextFrame
from hidden_frame.model.styles import computed_characters, computed_style
from hidden_frame.model.text import Alignment, Marker, Text, TextPlace
from hidden_frame.typeset.caret import caret_at, place_at

_MOVES = {
    Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home,
    Qt.Key.Key_End,
}  # fmt: skip


_KEPT = (
    QKeySequence.StandardKey.SelectAll,
    QKeySequence.StandardKey.Copy,
    QKeySequence.StandardKey.Cut,
    QKeySequence.StandardKey.Paste,
)
_EDITS = {Qt.Key.Key_Backspace, Qt.Key.Key_Delete, Qt.Key.Key_Tab}


_REST = 2.0  # seconds without a key after which typing is a new step
_STEP = 48  # characters of one step, to the end of their word


def wants_key(event: QKeyEvent) -> bool:
    """Whether a key belongs to the text being edited before any command's key."""
    key = Qt.Key(event.key())
    typed = bool(event.text()) and event.text().isprintable() and not _command(event)
    return typed or key in _EDITS | _MOVES or any(event.matches(k) for k in _KEPT)


class TextEdit(QObject):
    """The caret of the frame named by `session.editing`."""

    moved = Signal()

    def __init__(self, session: Session, placed: Callable[[], Placed | None]) -> None:
        super().__init__()
        self.session = session
        self._placed = placed
        self.caret: TextPlace = (0, 0)
        self.anchor: TextPlace = (0, 0)
        self._typed, self._typed_at = "", 0.0

    # -- the text ----------------------------------------------------------------

    @property
    def text(self) -> Text:
        """The text being edited, with at least one paragraph."""
        editing = self.session.editing
        if editing is None:
            return ()
        item = shown_item(
            self.session.publication, editing.holder_id, editing.item_id, editing.side
        )
        first = self.session.publication.paragraph_styles[0].id
        return edit_text.start_of(item.text, first) if isinstance(item, TextFrame) else ()

    def block(self) -> TextPrimitive | None:
        placed = self._placed()
        return None if placed is None else placed.drawing.text

    def begin(self, editing: Editing) -> None:
        """Puts the caret at the text's end."""
        self.session.edit_text(editing)
        text = self.text
        self.caret = self.anchor = edit_text.end_of(text)
        self.moved.emit()

    def clamp(self) -> None:
        """Keeps the caret within the text after an undo."""
        text = self.text
        if not text:
            return
        self.caret = _clamped(text, self.caret)
        self.anchor = _clamped(text, self.anchor)

    @property
    def selection(self) -> tuple[TextPlace, TextPlace]:
        return min(self.anchor, self.caret), max(self.anchor, self.caret)

    # -- changes -----------------------------------------------------------------

    def _has_room(self, more: int) -> bool:
        """Whether the frame takes so many more characters; says so if not."""
        room = edit_text.total(self.text) + more <= edit_text.MAX_CHARACTERS
        if not room:
            limit = f"{edit_text.MAX_CHARACTERS:,}"
            self.session.noticed.emit(
                f"A frame holds at most {limit} characters; put the rest into another one."
            )
        return room

    def _change(self, name: str, text: Text, place: TextPlace, merge: str = "") -> None:
        editing = self.session.editing
        if editing is None:
            return
        self.session.edit(
            name,
            lambda p: change_shown(
                p, editing.holder_id, editing.side, {editing.item_id: {"text": text}}
            ),
            merge and f"{merge} {editing.item_id}",
        )
        self.caret = self.anchor = place
        self.moved.emit()

    def _without_selection(self) -> tuple[Text, TextPlace]:
        start, end = self.selection
        text = self.text
        return edit_text.delete(text, start, end) if start != end else (text, start)

    def insert(self, string: str, merge: str = "typing") -> None:
        if not self._has_room(len(string)):
            return
        if merge:
            self._pause(string)
        text, place = self._without_selection()
        text, place = edit_text.insert(text, place, string)
        self._change("typing" if merge else "paste text", text, place, merge)

    def _pause(self, string: str) -> None:
        """Ends an undo step as people write: after a rest, with a new paragraph, and with
        the next word once a step holds a line's worth of characters."""
        now = time.monotonic()
        begins_word = string.strip() != "" and self._typed.endswith((" ", "\n"))
        long = begins_word and len(self._typed) >= _STEP
        if now - self._typed_at > _REST or "\n" in string or long:
            self.session.seal()
            self._typed = ""
        self._typed_at = now
        self._typed += string

    def insert_marker(self, marker: Marker) -> None:
        text, place = self._without_selection()
        text, place = edit_text.insert_marker(text, place, marker)
        self._change("insert marker", text, place)
        self.session.seal()

    def set_paragraph_style(self, style: str) -> None:
        start, end = self.selection
        text = edit_text.set_paragraph_style(self.text, start[0], end[0], style)
        self._keep("paragraph style", text)

    def set_look(self, **changes: object) -> None:
        """The selection with some of its look changed; without one, the caret's word."""
        start, end = self._stretch()
        if start == end:
            self.session.noticed.emit("Nothing is selected; select the characters to change.")
            return
        self._keep("character look", edit_text.set_look(self.text, start, end, **changes))

    def _stretch(self) -> tuple[TextPlace, TextPlace]:
        start, end = self.selection
        return edit_text.word_around(self.text, start) if start == end else (start, end)

    def set_alignment(self, alignment: Alignment | None) -> None:
        """The selected paragraphs aligned otherwise than their style says; None follows it."""
        start, end = self.selection
        text = edit_text.set_alignment(self.text, start[0], end[0], alignment)
        self._keep("alignment", text)

    def toggle(self, name: str) -> None:
        """Bold or italic put on the selection, or taken off it."""
        self.set_look(**{name: not self.now()[name]})

    def split_ends(self) -> None:
        """A line with two ends: what follows the caret goes to the right edge."""
        text, place = self._without_selection()
        text, place = edit_text.split_ends(text, place)
        self._change("tab to the right edge", text, place)
        self.session.seal()

    def now(self) -> dict[str, Any]:
        """How the text at the caret looks: its own look over its styles."""
        text, publication = self.text, self.session.publication
        paragraph = text[self.caret[0]]
        style = computed_style(publication.paragraph_styles, paragraph.style)
        start, _ = self.selection
        at = (start[0], start[1] + 1) if self.anchor != self.caret else self.caret
        at = at if at[1] <= edit_text.length(text[at[0]]) else self.caret
        named, own = edit_text.dress_at(text, at)
        character = computed_characters(publication.character_styles).get(named or "")
        found: dict[str, Any] = {"style": paragraph.style, "character": named}
        found["alignment"] = paragraph.alignment or style.alignment
        for name in ("family", "bold", "italic", "size", "tracking", "colour", "tint"):
            values = (getattr(own, name), getattr(character, name, None), getattr(style, name))
            found[name] = next(v for v in values if v is not None)
        found["language"] = own.language
        return found

    def set_character_style(self, style: str | None) -> None:
        start, end = self.selection
        text = edit_text.set_character_style(self.text, start, end, style)
        self._keep("character style", text)

    def _keep(self, name: str, text: Text) -> None:
        """A change that moves neither caret nor selection."""
        caret, anchor = self.caret, self.anchor
        self._change(name, text, caret)
        self.caret, self.anchor = caret, anchor
        self.session.seal()
        self.moved.emit()

    def paragraph_style(self) -> str | None:
        """The style of the caret's paragraph."""
        text = self.text
        return text[self.caret[0]].style if text else None

    # -- keys and mouse ----------------------------------------------------------

    def press(self, x: float, y: float, extend: bool) -> None:
        """The caret at a point of the page."""
        place = self._place_at(x, y)
        if place is not None:
            self.caret = place
            if not extend:
                self.anchor = place
            self.session.seal()
            self.moved.emit()

    def select_word(self, x: float, y: float) -> None:
        place = self._place_at(x, y)
        if place is not None:
            self.anchor, self.caret = edit_text.word_around(self.text, place)
            self.moved.emit()

    def _place_at(self, x: float, y: float) -> TextPlace | None:
        placed, block = self._placed(), self.block()
        if placed is None or block is None or not block.text.lines:
            return (0, 0) if self.text else None
        px, py = placed.matrix.inverse().apply(x, y)
        return _clamped(self.text, place_at(block.text, px - block.x, py - block.y))

    def key(self, event: QKeyEvent) -> bool:
        """Handles a key; False leaves it to the desk."""
        key = event.key()
        if event.matches(QKeySequence.StandardKey.SelectAll):
            self.anchor, self.caret = (0, 0), edit_text.end_of(self.text)
        elif event.matches(QKeySequence.StandardKey.Copy):
            self._copy()
        elif event.matches(QKeySequence.StandardKey.Cut):
            self._copy()
            self._delete(0)
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.insert(QGuiApplication.clipboard().text(), merge="")
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
            self.insert(event.text())
        else:
            return False
        self.moved.emit()
        return True

    def _copy(self) -> None:
        start, end = self.selection
        if start != end:
            QGuiApplication.clipboard().setText(edit_text.plain(self.text, start, end))

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
            self._change("delete text", text, place, "deleting")

    def _move(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        text = self.text
        place = self.caret
        whole = bool(modifiers & Qt.KeyboardModifier.ControlModifier)
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
        else:
            place = self._by_line(key)
        self.caret = place
        if not modifiers & Qt.KeyboardModifier.ShiftModifier:
            self.anchor = place
        self.session.seal()

    def _by_line(self, key: int) -> TextPlace:
        block = self.block()
        if block is None or not block.text.lines:
            return self.caret
        caret = caret_at(block.text, *self.caret)
        line = block.text.lines[caret.line]
        if key == Qt.Key.Key_Home:
            return line.paragraph, line.start
        if key == Qt.Key.Key_End:
            return line.paragraph, line.end
        step = -1 if key == Qt.Key.Key_Up else 1
        index = caret.line + step
        if not 0 <= index < len(block.text.lines):
            return (0, 0) if step < 0 else edit_text.end_of(self.text)
        other = block.text.lines[index]
        return place_at(block.text, caret.x, (other.top + other.bottom) / 2)


def _clamped(text: Text, place: TextPlace) -> TextPlace:
    index = min(place[0], len(text) - 1)
    return index, min(place[1], edit_text.length(text[index]))


def _command(event: QKeyEvent) -> bool:
    """Whether a key with what is held is no letter: Ctrl or Alt, but not both, since some
    keyboards give signs by Ctrl+Alt as others do by AltGr."""
    keys, kinds = event.modifiers(), Qt.KeyboardModifier
    control = bool(keys & (kinds.ControlModifier | kinds.MetaModifier))
    return control != bool(keys & kinds.AltModifier)
