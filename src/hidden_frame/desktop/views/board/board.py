"""The board with its strip: search, size, fold, new master."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from hidden_frame.desktop.look.fitting import Folding
from hidden_frame.desktop.look.strip import search_field, size_slider, strip, text_button
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.board.view import LARGE, SMALL, BoardView
from hidden_frame.desktop.views.run.thumbnails import Thumbnails


class Board(QWidget):
    """`view` holds the cards."""

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.view = view = BoardView(session, thumbnails)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.frame, self.row = strip()
        self.search = search_field("Find a master", "Find a master", view.search, self._take_first)
        self.fold = text_button(
            "Fold all", "Hide every master that builds on another", lambda: view.fold_all(True)
        )
        self.unfold = text_button("Unfold", "Show the whole family", lambda: view.fold_all(False))
        for part in (self.search, self.fold, self.unfold):
            self.row.addWidget(part)
        self.row.addStretch(1)
        self.row.addWidget(QLabel("Size"))
        self.size_slider = size_slider(
            "Size of the thumbnails", SMALL, LARGE, view.face_height, view.zoom_to
        )
        view.zoomed.connect(self.size_slider.setValue)
        self.row.addWidget(self.size_slider)
        column.addWidget(self.frame)
        column.addWidget(view, 1)

    def add_commands(self, commands: Commands) -> None:
        """A button for a new master, once there are commands."""
        new = commands["new master"]
        button = text_button("New master…", commands.tip("new master"), new.trigger)
        self.row.insertWidget(3, button)
        self.folding = Folding(self.frame, self.row, [button, self.unfold, self.fold])

    def _take_first(self) -> None:
        found = self.view.first_match()
        if found is not None:
            self.session.show_master(found)
            self.view.setFocus()
