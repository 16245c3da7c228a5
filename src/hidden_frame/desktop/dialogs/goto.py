"""Go to: a folio, a position, a section or a master by name."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.finds.goto import Destination, find_place, places


class GoToDialog(Question):
    """Lists what the typed word may mean; Enter takes the chosen one."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent, "Go to", "Go")
        self.session = session
        self.word = TextField("Folio, #position, section or master")
        self.word.setPlaceholderText("12   iv   #17   Spring   Month table")
        self.form.column.addWidget(self.word)
        self.found = QListWidget()
        self.found.setAccessibleName("What it means")
        self.found.setMinimumSize(380, 170)
        self.form.column.addWidget(self.found)
        self._places: list[Destination] = []
        self.word.textChanged.connect(self._look)
        self.found.itemActivated.connect(lambda _: self._accept())
        self.finish()

    def _look(self) -> None:
        self.form.say("")
        self._places = places(self.session.publication, self.word.text())[:40]
        self.found.clear()
        for place in self._places:
            self.found.addItem(QListWidgetItem(place.name[:1].upper() + place.name[1:]))
        self.found.setCurrentRow(0)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()))
        if step is not None and self._places:
            row = self.found.currentRow() + step
            self.found.setCurrentRow(max(0, min(row, len(self._places) - 1)))
            return
        super().keyPressEvent(event)

    def answer(self) -> None:
        row = self.found.currentRow()
        if 0 <= row < len(self._places):
            place = self._places[row]
        else:
            place = find_place(self.session.publication, self.word.text())
        go_to(self.session, place)


def go_to(session: Session, place: Destination) -> None:
    """Lays a page or a master on the desk."""
    if place.kind == "master":
        session.show_master(place.id)
        return
    session.show_page(place.id)
