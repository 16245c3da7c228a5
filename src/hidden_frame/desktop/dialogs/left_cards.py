"""Work that was not closed normally: told with its first page, opened or discarded."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hidden_frame.desktop.look.moments import moment
from hidden_frame.model.number_format import grouped
from hidden_frame.storage.recovery import AboutWork, Left, discard, left_behind

_HIGH = 54  # pixels of a first page
MOST = 3  # that are shown; more are shown once these are gone


def in_words(about: AboutWork) -> str:
    """“14:02, 37 steps after the last save of almanac.hframe”."""
    at = moment(about.when)
    steps = "1 step" if about.steps == 1 else f"{grouped(about.steps)} steps"
    if not about.path:
        return f"{at}, {steps}, never saved"
    return f"{at}, {steps} after the last save of {Path(about.path).name}"


class LeftList(QWidget):
    """A row for each; `wanted` with the one that is to be opened."""

    wanted = Signal(object)
    emptied = Signal()

    def __init__(self, find: Callable[[], list[Left]] = left_behind) -> None:
        super().__init__()
        self._find = find
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(6)
        self.rows: list[tuple[Left, QFrame, QPushButton, QPushButton]] = []
        self.refresh()

    def refresh(self) -> None:
        """The work that is there now."""
        for _, frame, *_ in self.rows:
            frame.deleteLater()
        self.rows.clear()
        for left in self._find()[:MOST]:
            self._row(left)
        self.setVisible(bool(self.rows))
        if not self.rows:
            self.emptied.emit()

    def _row(self, left: Left) -> None:
        frame = QFrame()
        frame.setObjectName("Left")
        row = QHBoxLayout(frame)
        row.setContentsMargins(12, 6, 12, 6)
        picture, pixmap = QLabel(), QPixmap()
        if left.first and pixmap.loadFromData(left.first):
            ratio = self.devicePixelRatioF()
            pixmap = pixmap.scaledToHeight(
                round(_HIGH * ratio), Qt.TransformationMode.SmoothTransformation
            )
            pixmap.setDevicePixelRatio(ratio)
            picture.setPixmap(pixmap)
        row.addWidget(picture)
        name = QLabel(f"“{left.about.title}” was not closed normally")
        name.setObjectName("Strong")
        detail = QLabel(in_words(left.about))
        detail.setObjectName("Quiet")
        words = QVBoxLayout()
        words.setSpacing(1)
        words.addStretch(1)
        for label in (name, detail):
            label.setTextFormat(Qt.TextFormat.PlainText)
            words.addWidget(label)
        words.addStretch(1)
        row.addLayout(words, 1)
        # The first one made has the focus: Enter goes on with it.
        go_on, away = QPushButton("Recover it", frame), QPushButton("Discard…", frame)
        go_on.clicked.connect(lambda: self.wanted.emit(left))
        away.clicked.connect(lambda: self._discard(left, away))
        row.addWidget(away)
        row.addWidget(go_on)
        self.column.addWidget(frame)
        self.rows.append((left, frame, go_on, away))

    def _discard(self, left: Left, button: QPushButton) -> None:
        """Asks once more, on the button itself: this can't be undone."""
        if button.text() == "Discard…":
            button.setText("Discard for good")
            return
        discard(left)
        self.refresh()
