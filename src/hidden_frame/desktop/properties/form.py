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

    def row(self, label: str, field: QWidget, *, pair: bool = False) -> QToolButton:
        """A field behind its label; the button lets an overridden property follow again."""
        if self.grid is None:
            self.grid = QGridLayout()
            self.grid.setHorizontalSpacing(7)
            self.grid.setVerticalSpacing(6)
            self.grid.setColumnStretch(1, 1)
            self.column.addLayout(self.grid)
        name = QLabel(label)
        name.setBuddy(field)
        field.setMinimumWidth(64)
        follow = QToolButton()
        follow.setObjectName("Follow")
        follow.setText("follow")
        follow.setToolTip(f"{label}: follow the master again")
        follow.setAccessibleName(f"{label} follows the master again")
        follow.hide()
        row = self.grid.rowCount()
        self.grid.addWidget(name, row, 0)
        self.grid.addWidget(field, row, 1)
        self.grid.addWidget(follow, row, 2)
        field.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        if isinstance(field, _Typed):
            field.refused.connect(self.say)
        return follow

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
