"""Asks what to do with a file that somebody else changed or took away meanwhile."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.dialogs.differing import DifferingPages, State
from hidden_frame.desktop.look.moments import moment
from hidden_frame.interact.words.compared import compared
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import Opened, load
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.stamps import stamp_of

Answer = Literal["overwrite", "save as", "take theirs", "cancel"]


class ChangedFileDialog(QDialog):
    """Shows what differs in theirs; `answer` is what was chosen, `theirs` what the file holds."""

    def __init__(self, path: Path, mine: State, parent: QWidget | None) -> None:
        super().__init__(parent)
        self.answer: Answer = "cancel"
        self.theirs: Opened | None = None
        self.newer = False  # whether it says more than this version knows
        self.setWindowTitle("The file has changed")
        self.setMinimumWidth(560)
        column = QVBoxLayout(self)
        column.setSpacing(12)
        head, self.told = QLabel(), QLabel()
        head.setObjectName("Strong")
        head.setWordWrap(True)
        self.told.setWordWrap(True)
        self.pages = DifferingPages(("Mine", "Theirs"))
        for part in (head, self.told, self.pages):
            column.addWidget(part)
        self.buttons = QHBoxLayout()
        self.buttons.addStretch(1)
        column.addLayout(self.buttons)
        stamp = stamp_of(path)
        if stamp is None:
            self.setWindowTitle("The file is gone")
            head.setText(f"“{path.name}” is no longer there: it was moved or deleted.")
            gone = "" if path.parent.is_dir() else ", which is not there either"
            self.told.setText(f"It was in {path.parent}{gone}.")
        else:
            when = moment(stamp.changed / 1e9)
            head.setText(f"“{path.name}” was changed by somebody else, {when}.")
            self._look(path, mine)
        self._offer(gone=stamp is None)

    def _look(self, path: Path, mine: State) -> None:
        try:
            theirs = load(path, PicturesOnDisk())
        except Refusal as refusal:
            self.told.setText(str(refusal))
            return
        if theirs.more:  # neither taken nor written over: what is not known here would be lost
            self.newer = True
            self.told.setText(theirs.warnings[0])
            return
        self.theirs = theirs
        differs = compared(mine.composition.publication, theirs.publication)
        self.told.setText(
            f"Different in their version: {differs}. What you discard is kept in Earlier versions."
        )
        self.pages.compare(mine, State(Composer().compose(theirs.publication), theirs.blobs))

    def _offer(self, gone: bool) -> None:
        self._button("Cancel", "cancel")
        if gone:
            self._button("Write it again", "overwrite")
        elif not self.newer:
            self._button("Overwrite theirs", "overwrite")
        if self.theirs is not None:
            self._button("Take theirs", "take theirs")
        self._button("Save as…", "save as").setDefault(True)

    def _button(self, words: str, answer: Answer) -> QPushButton:
        def press() -> None:
            self.answer = answer
            self.accept()

        button = QPushButton(words)
        button.setAutoDefault(False)
        button.clicked.connect(press)
        self.buttons.addWidget(button)
        return button
