"""A panel of labelled rows, each with room for the mark of an override."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.properties.fields import _Typed


class Form(QWidget):
    """Headings, rows of one or two fields, buttons, and one place for a sentence."""

    def __init__(self) -> None:
        super().__init__()
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(14, 12, 14, 12)
        self.column.setSpacing(7)
        self.problem = QLabel()
        self.problem.setObjectName("Error")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self.grid: QGridLayout | None = None
        self._rows: dict[QWidget, tuple[QWidget, ...]] = {}

    def title(self, text: str) -> QLabel:
        label = QLabel(text)
        label.setObjectName("Title")
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label

    def heading(self, text: str) -> QLabel:
        self.grid = None
        label = QLabel(text)
        label.setObjectName("Heading")
        self.column.addSpacing(6)
        self.column.addWidget(label)
        return label

    def note(self, text: str = "") -> QLabel:
        self.grid = None
        label = QLabel(text)
        label.setObjectName("Quiet")
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label

    def row(self, label: str, field: QWidget, *, beside: bool = False) -> QToolButton:
        """A field behind its label, `beside` the one before where both are short; the button
        lets an overridden property follow again."""
        if self.grid is None:
            self.grid = QGridLayout()
            self.grid.setHorizontalSpacing(7)
            self.grid.setVerticalSpacing(6)
            self.grid.setColumnStretch(1, 1)
            self.column.addLayout(self.grid)
        name = QLabel(label)
        name.setBuddy(field)
        field.setMinimumWidth(58)
        follow = QToolButton()
        follow.setObjectName("Follow")
        follow.setText("follow")
        follow.setToolTip(f"{label}: follow the master again")
        follow.setAccessibleName(f"{label} follows the master again")
        follow.hide()
        row, first = (self.grid.rowCount() - 1, 3) if beside else (self.grid.rowCount(), 0)
        if beside:
            self.grid.setColumnStretch(4, 1)
            before = self.grid.itemAtPosition(row, 1)
            if before is not None and (whole := before.widget()) is not None:
                self.grid.removeWidget(whole)
                self.grid.addWidget(whole, row, 1, 1, 1)
        self.grid.addWidget(name, row, first)
        span = 1 if beside else 4
        self.grid.addWidget(field, row, first + 1, 1, span)
        self.grid.addWidget(follow, row, first + 2 if beside else 5)
        self._rows[field] = (name, field)
        field.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        if isinstance(field, _Typed):
            field.refused.connect(self.say)
        return follow

    def show_row(self, field: QWidget, shown: bool) -> None:
        """Shows a row, or hides it while what it depends on is not there."""
        for part in self._rows[field]:
            if part.isHidden() == shown:
                part.setVisible(shown)

    def buttons(self, *texts: str) -> list[QPushButton]:
        self.grid = None
        made = []
        for start in range(0, len(texts), 2):
            line = QHBoxLayout()
            line.setSpacing(6)
            for text in texts[start : start + 2]:
                button = QPushButton(text)
                button.setAutoDefault(False)  # in a dialog, Enter gives the answer
                line.addWidget(button)
                made.append(button)
            self.column.addLayout(line)
        return made

    def rule(self) -> None:
        self.grid = None
        line = QFrame()
        line.setFrameShape(QFrame.Shape.HLine)
        line.setFixedHeight(1)
        line.setStyleSheet("background: palette(mid); border: none;")
        self.column.addWidget(line)

    def end(self) -> None:
        """Closes the form; the sentence about bad input stands at its foot."""
        self.column.addWidget(self.problem)
        self.column.addStretch(1)
        self.column.setAlignment(Qt.AlignmentFlag.AlignTop)

    def say(self, sentence: str) -> None:
        """Shows what is wrong with the last input, in place; "" takes it away."""
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
