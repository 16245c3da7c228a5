"""A note written, at the caret or the one that is selected there."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QPlainTextEdit, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import grouped

MOST = 20_000  # characters


class NoteDialog(Question):
    """What a note says; its number comes by itself."""

    def __init__(
        self, parent: QWidget | None, words: str | None, put: Callable[[str], None]
    ) -> None:
        super().__init__(parent, "Note", "Insert" if words is None else "Change")
        self._put = put
        self.form.note("Its number appears in the text; lists of notes print what you write here.")
        self.words = QPlainTextEdit(words or "")
        self.words.setAccessibleName("What the note says")
        self.words.setTabChangesFocus(True)
        self.words.setMinimumSize(380, 120)
        self.form.column.addWidget(self.words)
        self.words.setFocus()
        self.finish()

    def answer(self) -> None:
        words = " ".join(self.words.toPlainText().split())
        if not words:
            raise Refusal("The note is empty; write it, or cancel.")
        if len(words) > MOST:
            raise Refusal(f"A note has at most {grouped(MOST)} characters; shorten it.")
        self._put(words)
