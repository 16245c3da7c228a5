"""The board with its strip: search, size, fold, new master."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QSlider,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.board.view import LARGE, SMALL, BoardView
from hidden_frame.desktop.commands import Commands
from hidden_frame.desktop.run.thumbnails import Thumbnails
from hidden_frame.desktop.session import Session


class Board(QWidget):
    """`view` holds the cards."""

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.view = BoardView(session, thumbnails)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        strip = QFrame()
        strip.setObjectName("TextStrip")
        self.row = QHBoxLayout(strip)
        self.row.setContentsMargins(12, 5, 12, 5)
        self.search = QLineEdit()
        self.search.setPlaceholderText("Find a master")
        self.search.setAccessibleName("Find a master")
        self.search.setClearButtonEnabled(True)
        self.search.setMaximumWidth(220)
        self.search.textChanged.connect(self.view.search)
        self.search.returnPressed.connect(self._take_first)
        self.row.addWidget(self.search)
        self.fold = _button("Fold all", "Hide every master that builds on another")
        self.fold.clicked.connect(lambda: self.view.fold_all(True))
        self.unfold = _button("Unfold", "Show the whole family")
        self.unfold.clicked.connect(lambda: self.view.fold_all(False))
        self.row.addWidget(self.fold)
        self.row.addWidget(self.unfold)
        self.row.addStretch(1)
        self.row.addWidget(QLabel("Size"))
        self.size_slider = QSlider(Qt.Orientation.Horizontal)
        self.size_slider.setRange(SMALL, LARGE)
        self.size_slider.setValue(self.view.face_height)
        self.size_slider.setMaximumWidth(140)
        self.size_slider.setAccessibleName("Size of the thumbnails")
        self.size_slider.setToolTip("Size of the thumbnails (Ctrl and the wheel)")
        self.size_slider.valueChanged.connect(self.view.zoom_to)
        self.view.zoomed.connect(self.size_slider.setValue)
        self.row.addWidget(self.size_slider)
        column.addWidget(strip)
        column.addWidget(self.view, 1)

    def add_commands(self, commands: Commands) -> None:
        """A button for a new master, once there are commands."""
        button = _button("New master…", commands.tip("new master"))
        button.clicked.connect(commands["new master"].trigger)
        self.row.insertWidget(3, button)

    def _take_first(self) -> None:
        found = self.view.first_match()
        if found is not None:
            self.session.show_master(found)
            self.view.setFocus()


def _button(text: str, tip: str) -> QToolButton:
    button = QToolButton()
    button.setText(text)
    button.setToolTip(tip)
    return button
