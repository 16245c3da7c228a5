"""Steps: what was done, in order; a click goes back or forward to that point."""

from __future__ import annotations

from PySide6.QtGui import QFont
from PySide6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from hidden_frame.desktop.session import Session
from hidden_frame.desktop.tones import set_tone, with_tones

MOST = 200  # rows shown at either side of the present


class StepList(QWidget):
    """The present is bold; steps that were undone are grey below it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self._first = 0
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        title = QLabel("STEPS")
        title.setObjectName("Heading")
        column.addWidget(title)
        self.list = QListWidget()
        self.list.setAccessibleName("Steps")
        with_tones(self.list)
        column.addWidget(self.list)
        note = QLabel("Click a step to go to how things were after it.")
        note.setObjectName("Quiet")
        note.setWordWrap(True)
        column.addWidget(note)
        self.list.itemClicked.connect(self._jump)
        self.list.itemActivated.connect(self._jump)
        session.changed.connect(self.refresh)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        history = self.session.kept
        if not self.isVisible() or history is self._shown:
            return
        self._shown = history
        past, future = history.past, history.future
        # A step's name stands with the value before it: row n is what step n led to.
        names = ["As it was opened", *(s.name for s in past), *(s.name for s in future[::-1])]
        here = len(past)
        self._first = max(here - MOST, 0)
        self.list.clear()
        for n, name in enumerate(names[self._first : here + MOST + 1], self._first):
            row = QListWidgetItem(name[:1].upper() + name[1:])
            if n == here:
                font = QFont(self.font())
                font.setBold(True)
                row.setFont(font)
            elif n > here:
                set_tone(row, "quiet")
            self.list.addItem(row)
        self.list.setCurrentRow(here - self._first)
        self.list.scrollToItem(self.list.currentItem())

    def _jump(self, row: QListWidgetItem) -> None:
        at = self.list.row(row) + self._first
        self.session.jump(at - len(self.session.history.past))
