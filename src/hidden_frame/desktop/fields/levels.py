"""Levels of a panel, one at a time: page, section, publication."""

from __future__ import annotations

from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QVBoxLayout, QWidget


class Levels(QWidget):
    """A row of buttons, and beneath them the rows of the one that is pressed."""

    def __init__(self, *names: str) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.setSpacing(4)
        row = QHBoxLayout()
        row.setSpacing(0)
        column.addLayout(row)
        self.buttons: dict[str, QPushButton] = {}
        self.columns: dict[str, QVBoxLayout] = {}
        self._parts: dict[str, QWidget] = {}
        group = QButtonGroup(self)
        for name in names:
            button = QPushButton(name)
            button.setObjectName("Level")
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=name: self.show_level(n))
            group.addButton(button)
            row.addWidget(button)
            part = QWidget()
            self.columns[name] = QVBoxLayout(part)
            self.columns[name].setContentsMargins(0, 0, 0, 0)
            self.columns[name].setSpacing(7)
            column.addWidget(part)
            self.buttons[name], self._parts[name] = button, part
        self.level = ""
        self.show_level(names[0])

    def show_level(self, name: str) -> None:
        self.level = name
        self.buttons[name].setChecked(True)
        for each, part in self._parts.items():
            part.setVisible(each == name)

    def reveal(self, widget: QWidget) -> None:
        """Shows the level that holds a widget."""
        for name, part in self._parts.items():
            if part.isAncestorOf(widget):
                self.show_level(name)
