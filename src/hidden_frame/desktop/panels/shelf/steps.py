"""Steps: what was done, in order; a click goes back or forward to that point."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QFont
from PySide6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.words.steps_told import step_told
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication

MOST = 200  # rows shown at either side of the present


class StepList(QWidget):
    """The present is bold; steps that were undone are grey below it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self._first = 0
        self._told: dict[tuple[int, int], tuple[Publication, Publication, str]] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        title = QLabel("STEPS")
        title.setObjectName("Heading")
        column.addWidget(title)
        self.list = QListWidget()
        self.list.setAccessibleName("Steps")
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        with_tones(self.list)
        column.addWidget(self.list)
        note = QLabel("Click a step to go back to how things were after it.")
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
        past = history.past
        here = len(past)
        self._first = max(here - MOST, 0)
        rows = self._rows(self._first, here + MOST)
        self.list.clear()
        for n, words in enumerate(rows, self._first):
            row = QListWidgetItem(words)
            if n < here:
                row.setToolTip(f"Go back to here. {_steps(here - n)} below it, made upon it, "
                               "will be undone with it.")  # fmt: skip
            elif n > here:
                row.setToolTip(f"Do this again: {_steps(n - here)} up to here.")
            if n == here:
                font = QFont(self.font())
                font.setBold(True)
                row.setFont(font)
            elif n > here:
                set_tone(row, "quiet")
            self.list.addItem(row)
        self.list.setCurrentRow(here - self._first)
        self.list.scrollToItem(self.list.currentItem())

    def _rows(self, first: int, last: int) -> list[str]:
        """What each step led to, from row `first` on; row 0 is what was opened."""
        history = self.session.kept
        future = history.future[::-1]
        # A step's name stands with the value before it while it is done, and with the one behind
        # it once it is undone.
        values = [*(s.publication for s in history.past), history.now,
                  *(s.publication for s in future)]  # fmt: skip
        steps, known, told = [*history.past, *future], self._told, ["As it was opened"]
        self._told = {}
        for n in range(max(first, 1), min(last, len(steps)) + 1):
            old, new = values[n - 1], values[n]
            key = (id(old), id(new))
            found = known.get(key)
            if found is None or found[0] is not old or found[1] is not new:
                step = steps[n - 1]
                found = (old, new, step_told(step.name, old, new, step.page))
            self._told[key] = found
            told.append(found[2])
        return told if first == 0 else told[1:]

    def _jump(self, row: QListWidgetItem) -> None:
        at = self.list.row(row) + self._first
        self.session.jump(at - len(self.session.history.past))


def _steps(count: int) -> str:
    return "The step" if count == 1 else f"The {grouped(count)} steps"
