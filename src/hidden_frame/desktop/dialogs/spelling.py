"""Spelling as a list: every doubtful word with its pages, and the publication's own words."""

from __future__ import annotations

import time
from collections.abc import Iterator

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QTabWidget,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.base import put_over_properties
from hidden_frame.desktop.look.languages import language_name
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.spelling import speller
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.desktop.views.desk.hits import show_hit
from hidden_frame.edit.about import add_word, remove_word
from hidden_frame.interact.finds.spelling import (
    Asked,
    DoubtfulWord,
    WordPlace,
    add_asked,
    asked_in_turn,
    corrected,
    pages_in_words,
    without_own,
)
from hidden_frame.model.number_format import grouped
from hidden_frame.model.plural import plural
from hidden_frame.spelling.dictionaries import dictionary_of, own_folder

MOST = 2_000  # words that are listed
_SLICE = 0.008  # seconds of reading between two looks at what the user does
_ROLE = Qt.ItemDataRole.UserRole


class SpellingPanel(QDialog):
    """Stays open beside the desk; reads the publication a little at a time."""

    def __init__(self, session: Session, desk: Desk, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.session, self.desk = session, desk
        self.setWindowTitle("Spelling")
        self.setModal(False)
        self.resize(400, 540)
        self.words: list[DoubtfulWord] = []
        self._asked: Asked = {}
        self._reading: Iterator[Asked] | None = None
        self._read: Asked = {}
        self._shown: object = None
        self._at: dict[str, int] = {}
        self._lay_out()
        self._tick = QTimer(self)
        self._tick.setInterval(0)
        self._tick.timeout.connect(self._read_on)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(400)
        self._later.timeout.connect(self.refresh)
        self._connect()

    def _lay_out(self) -> None:
        column = QVBoxLayout(self)
        self.tabs = QTabWidget()
        self.tabs.setDocumentMode(True)
        doubtful = QWidget()
        inner = QVBoxLayout(doubtful)
        inner.setContentsMargins(0, 10, 0, 0)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Unknown words")
        self.list.setHeaderLabels(["Word", "Times", "Pages"])
        self.list.setColumnWidth(0, 150)
        self.list.setColumnWidth(1, 50)
        self.list.setRootIsDecorated(False)
        inner.addWidget(self.list, 1)
        row = QHBoxLayout()
        row.addWidget(QLabel("Instead"))
        self.by = QComboBox()
        self.by.setEditable(True)
        self.by.setAccessibleName("Instead")
        self.by.setInsertPolicy(QComboBox.InsertPolicy.NoInsert)
        row.addWidget(self.by, 1)
        inner.addLayout(row)
        grid = QGridLayout()
        self.next, self.one = QPushButton("Next"), QPushButton("Replace")
        self.right, self.all = QPushButton("Add to own words"), QPushButton("Replace all")
        self.right.setToolTip("Adds it to this publication’s own words")
        for n, button in enumerate((self.next, self.one, self.right, self.all)):
            button.setAutoDefault(False)
            grid.addWidget(button, n // 2, n % 2)
        inner.addLayout(grid)
        self.marked = QCheckBox("Mark unknown words")
        inner.addWidget(self.marked)
        self.own = _OwnWords(self.session)
        self.tabs.addTab(doubtful, "Unknown")
        self.tabs.addTab(self.own, "Own words")
        column.addWidget(self.tabs, 1)
        self.told = QLabel()
        self.told.setObjectName("Quiet")
        self.told.setWordWrap(True)
        column.addWidget(self.told)

    def _connect(self) -> None:
        self.list.currentItemChanged.connect(lambda *_: self._choose())
        self.list.itemDoubleClicked.connect(lambda *_: self.go_on())
        self.next.clicked.connect(self.go_on)
        self.one.clicked.connect(self.replace_one)
        self.all.clicked.connect(self.replace_all)
        self.right.clicked.connect(self.keep)
        self.by.editTextChanged.connect(lambda _: self._enable())
        self.marked.toggled.connect(lambda on: settings().change(spelling=on))
        self.session.changed.connect(self._changed)
        speller().learnt.connect(self._show)
        speller().suggested.connect(self._suggested)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not event.spontaneous():
            put_over_properties(self)

    # -- reading ---------------------------------------------------------------------

    def _changed(self) -> None:
        if self.isVisible() and self.session.publication is not self._shown:
            self._later.start()

    def refresh(self) -> None:
        """Reads the publication as it is now."""
        self.marked.setChecked(settings().now.spelling)
        self._shown = self.session.publication
        self._reading, self._read = asked_in_turn(self.session.publication), {}
        self.own.refresh()
        self._tick.start()

    def _read_on(self) -> None:
        until = time.monotonic() + _SLICE
        while self._reading is not None and time.monotonic() < until:
            more = next(self._reading, None)
            if more is not None:
                add_asked(self._read, more)
                continue
            self._reading, self._asked = None, self._read
            self._tick.stop()
            self._show()
            speller().ask()

    def reading(self) -> bool:
        """Whether the list is not complete yet."""
        return self._reading is not None or not speller().settled()

    def _show(self) -> None:
        """The words that are known to be doubtful."""
        if self._reading is not None or not self.isVisible():
            return
        publication, before = self._shown, self.chosen()
        sought = without_own(self._asked, self.session.publication.about.words)
        wrong = {
            (language, letters)
            for language, words in sought.items()
            for letters in words
            if speller().verdict(language, letters)
        }
        self.words = [
            DoubtfulWord(letters, language, places)
            for (language, letters), places in self._asked.items()
            if (language, letters) in wrong
        ][:MOST]
        composition = self.session.composition
        self.list.blockSignals(True)
        self.list.clear()
        for n, word in enumerate(self.words):
            pages = pages_in_words(composition, word.places)
            row = QTreeWidgetItem([word.letters, grouped(len(word.places)), pages])
            row.setData(0, _ROLE, n)
            row.setToolTip(0, language_name(word.language))
            self.list.addTopLevelItem(row)
            if before is not None and word.letters == before.letters:
                self.list.setCurrentItem(row)
        first = self.list.topLevelItem(0)
        if first is not None and self.list.currentItem() is None:
            self.list.setCurrentItem(first)
        self.list.blockSignals(False)
        if publication is self.session.publication:
            self.told.setText(self._sentence(sought))
        now = self.chosen()
        if now is None or before is None or now.letters != before.letters:
            self._choose()
        self._enable()

    def _sentence(self, sought: dict[str, list[str]]) -> str:
        unknown = [language_name(each) for each in sought if dictionary_of(each) is None]
        count = len(self.words)
        told = (
            plural(count, "{n} unknown word.", "{n} unknown words.")
            if count
            else "No unknown words."
        )
        if unknown:
            told += (
                f" There is no dictionary for {', '.join(unknown)}: install a Hunspell "
                "dictionary from your system, or put its .aff and .dic files into "
                f"{own_folder()}, then restart the program."
            )
        return told

    # -- what is done ----------------------------------------------------------------

    def chosen(self) -> DoubtfulWord | None:
        row = self.list.currentItem()
        at = row.data(0, _ROLE) if row is not None else -1
        return self.words[at] if 0 <= at < len(self.words) else None

    def _choose(self) -> None:
        word = self.chosen()
        self.by.clear()
        if word is not None:
            speller().suggest(word.language, word.letters)
        self._enable()

    def _suggested(self, language: str, letters: str, suggestions: list[str]) -> None:
        word = self.chosen()
        if word is not None and (word.language, word.letters) == (language, letters):
            typed = self.by.currentText()
            self.by.clear()
            self.by.addItems(suggestions)
            if typed:
                self.by.setEditText(typed)
            self._enable()

    def _enable(self) -> None:
        chosen, by = self.chosen(), self.by.currentText().strip()
        for button in (self.next, self.right):
            button.setEnabled(chosen is not None)
        for button in (self.one, self.all):
            button.setEnabled(chosen is not None and bool(by) and by != chosen.letters)

    def _place(self, step: int) -> WordPlace | None:
        """The place that is shown, or the one behind it."""
        word = self.chosen()
        if word is None:
            return None
        at = (self._at.get(word.letters, -1) + step) % len(word.places)
        self._at[word.letters] = at
        return word.places[at]

    def go_on(self) -> None:
        """To the next place of the chosen word."""
        place, word = self._place(1), self.chosen()
        if place is None or word is None:
            return
        show_hit(self.desk, *place)
        at = self._at[word.letters] + 1
        self.told.setText(f"“{word.letters}”, {grouped(at)} of {grouped(len(word.places))}")

    def replace_one(self) -> None:
        """The place that was gone to, or the first one."""
        word, by = self.chosen(), self.by.currentText().strip()
        if word is None or not self._is_now():
            return
        at = min(max(self._at.get(word.letters, 0), 0), len(word.places) - 1)
        place = word.places[at]
        if self.session.edit("correct a word", lambda p: corrected(p, [place], by)):
            self._at[word.letters] = at - 1
            self.told.setText(f"Replaced by “{by}”; Undo reverses it.")
            self.refresh()

    def replace_all(self) -> None:
        """All places of the chosen word, in one step."""
        word, by = self.chosen(), self.by.currentText().strip()
        if word is None or not self._is_now():
            return
        self.session.edit_text(None)
        if self.session.edit("correct a word", lambda p: corrected(p, word.places, by)):
            count = len(word.places)
            self.session.undoable.emit(
                plural(
                    count,
                    "Replaced “{word}” once.",
                    "Replaced “{word}” {n} times.",
                    word=word.letters,
                )
            )
            self.refresh()

    def keep(self) -> None:
        """The chosen word is one of the publication's own."""
        word = self.chosen()
        if word is not None:
            self.session.edit("add a word", lambda p: add_word(p, word.letters))
            self.refresh()

    def _is_now(self) -> bool:
        """Whether the list tells of the publication as it is; if not, it is read again first."""
        if self._shown is self.session.publication and self._reading is None:
            return True
        self.refresh()
        self.told.setText("The text has changed and the list was refreshed; try again.")
        return False


class _OwnWords(QWidget):
    """The words of the publication: typed in, and taken out."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 0)
        row = QHBoxLayout()
        self.word, self.add = QLineEdit(), QPushButton("Add")
        self.word.setPlaceholderText("A word to accept")
        self.word.setAccessibleName("A word to accept")
        self.word.setMaxLength(100)
        row.addWidget(self.word, 1)
        row.addWidget(self.add)
        column.addLayout(row)
        self.list = QListWidget()
        self.list.setAccessibleName("Own words")
        self.list.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        column.addWidget(self.list, 1)
        self.out = QPushButton("Take out")
        for button in (self.add, self.out):
            button.setAutoDefault(False)
        column.addWidget(self.out, 0, Qt.AlignmentFlag.AlignRight)
        self.add.clicked.connect(self.put)
        self.word.returnPressed.connect(self.put)
        self.out.clicked.connect(self.take_out)
        self.list.itemSelectionChanged.connect(self._enable)
        self.word.textChanged.connect(lambda _: self._enable())
        self.refresh()

    def refresh(self) -> None:
        words = list(self.session.publication.about.words)
        if words != [self.list.item(n).text() for n in range(self.list.count())]:
            self.list.clear()
            self.list.addItems(words)
        self._enable()

    def _enable(self) -> None:
        self.add.setEnabled(bool(self.word.text().strip()))
        self.out.setEnabled(bool(self.list.selectedItems()))

    def put(self) -> None:
        word = self.word.text()
        if word.strip() and self.session.edit("add a word", lambda p: add_word(p, word)):
            self.word.clear()
        self.refresh()

    def take_out(self) -> None:
        """The selected words, in one step."""
        words = [row.text() for row in self.list.selectedItems()]

        def change(publication):  # type: ignore[no-untyped-def]
            for word in words:
                publication = remove_word(publication, word)
            return publication

        self.session.edit("take words out", change)
        self.refresh()
