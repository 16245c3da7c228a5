"""The menu of a text that one writes in: what may have been meant by a doubtful word, and what is
done with words."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPoint, Qt, QTimer
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QMenu, QWidget

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.spelling import speller
from hidden_frame.edit.about import add_word
from hidden_frame.spelling.words import AskedWord, is_own

_WAITS = 900  # milliseconds for suggestions; the menu comes without them then


class TextMenu(QObject):
    """Shown at the pointer; goes with its `window`."""

    def __init__(self, parts: Workplace, commands: Commands, window: QWidget) -> None:
        super().__init__(window)
        self.parts, self.commands, self.window = parts, commands, window
        self._word: AskedWord | None = None
        self._point = QPoint()
        speller().suggested.connect(self._suggested)
        self._late = QTimer(self)
        self._late.setSingleShot(True)
        self._late.timeout.connect(lambda: self._open([]))

    def show(self, point: QPoint) -> None:
        """The menu at a point of the screen; of a doubtful word once its suggestions are there."""
        self._point, self._word = point, self._doubtful()
        if self._word is None:
            self._open([])
        else:
            self._late.start(_WAITS)
            speller().suggest(self._word.language, self._word.letters)

    def _doubtful(self) -> AskedWord | None:
        """The doubtful word at the caret."""
        from hidden_frame.interact.finds.spelling import word_at  # loads what finds words

        session, edit = self.parts.session, self.parts.desk.text
        if not edit.text or edit.caret != edit.anchor:
            return None
        word = word_at(session.publication, edit.text, edit.caret)
        if word is None or is_own(word.letters, frozenset(session.publication.about.words)):
            return None
        return word if speller().verdict(word.language, word.letters) else None

    def _suggested(self, language: str, letters: str, suggestions: list[str]) -> None:
        asked = self._word
        if asked is not None and (asked.language, asked.letters) == (language, letters):
            self._open(suggestions)

    def _open(self, suggestions: list[str]) -> None:
        self._late.stop()
        word, self._word = self._word, None
        if word is not None and word != self._doubtful():
            return  # something else was done while the dictionary was asked
        menu = QMenu(self.window)
        menu.setObjectName("TextMenu")
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        if word is not None:
            self._about(menu, word, suggestions)
        self.commands.refresh()
        for name in ("cut", "copy", "paste", "paste plain", "", "bold", "italic", "", "index mark",
                     "refer", "note", "characters"):  # fmt: skip
            if name:
                menu.addAction(self.commands[name])
            else:
                menu.addSeparator()
        menu.popup(self._point)

    def _about(self, menu: QMenu, word: AskedWord, suggestions: list[str]) -> None:
        session = self.parts.session
        for each in suggestions[:6]:
            action = menu.addAction(each, lambda by=each: self._put(word, by))
            font = action.font()
            font.setBold(True)
            action.setFont(font)
        if not suggestions:
            menu.addAction("No similar word in the dictionary").setEnabled(False)
        menu.addSeparator()
        add = QAction(f"Accept “{word.letters}” in this publication", menu)
        add.triggered.connect(
            lambda: session.edit("add a word", lambda p: add_word(p, word.letters))
        )
        menu.addAction(add)
        menu.addAction(self.commands["spelling list"])
        menu.addSeparator()

    def _put(self, word: AskedWord, by: str) -> None:
        """Another word in place of the one at the caret."""
        from hidden_frame.edit.text.find import Change, with_changes

        edit = self.parts.desk.text
        number = edit.caret[0]
        changed = with_changes(edit.text[number], [Change(word.start, word.end, by)])
        text = (*edit.text[:number], changed, *edit.text[number + 1 :])
        edit.change("correct a word", text, (number, word.start + len(by)))
        edit.session.seal()
