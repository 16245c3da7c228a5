"""Work that was not closed normally, from a window that is open already."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QLabel, QPushButton, QVBoxLayout, QWidget

from hidden_frame.desktop.dialogs.left_cards import LeftList
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.recovery import Left


class LeftDialog(QDialog):
    """`recover` goes on with one of them, in a window of its own."""

    def __init__(self, recover: Callable[[Left], object], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._recover = recover
        self.setWindowTitle("Recover unsaved work")
        self.setMinimumWidth(620)
        column = QVBoxLayout(self)
        self.told = QLabel("Nothing to recover: everything was closed normally.")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.left = LeftList()
        self.left.wanted.connect(self._go_on)
        self.left.emptied.connect(self.told.show)
        column.addWidget(self.left)
        close = QPushButton("Close")
        close.setAutoDefault(False)
        close.clicked.connect(self.reject)
        column.addWidget(close, 0, Qt.AlignmentFlag.AlignRight)
        self.told.setVisible(not self.left.rows)

    def _go_on(self, left: Left) -> None:
        try:
            self._recover(left)
        except Refusal as refusal:
            self.told.setText(str(refusal))
            self.told.show()
        else:
            self.accept()
