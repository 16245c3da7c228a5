"""What work that was left behind differs in from its file."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.dialogs.differing import DifferingPages, State
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.words.compared import compared
from hidden_frame.storage.format import Opened


class LeftCompared(QDialog):
    """`go_on` with it from here, too."""

    def __init__(
        self, session: Session, opened: Opened, go_on: Callable[[], object],
        parent: QWidget | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.setWindowTitle("Recover unsaved work")
        self.resize(600, 460)
        column = QVBoxLayout(self)
        since = compared(session.publication, opened.publication)
        same = since == "nothing"
        self.told = QLabel(
            "It is identical to the file." if same else f"It differs from the file: {since}."
        )
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.pages = DifferingPages(("In the file", "Recovered"))
        mine = State(session.composition, session.blobs)
        self.pages.compare(mine, State(Composer().compose(opened.publication), opened.blobs))
        column.addWidget(self.pages)
        column.addStretch(1)
        row = QHBoxLayout()
        row.addStretch(1)
        close, self.go_on = QPushButton("Close"), QPushButton("Recover it")
        close.setAutoDefault(False)
        close.clicked.connect(self.reject)
        self.go_on.setDefault(True)
        self.go_on.clicked.connect(self.accept)
        self.accepted.connect(go_on)
        row.addWidget(close)
        row.addWidget(self.go_on)
        column.addLayout(row)
