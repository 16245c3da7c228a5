"""A group of rows under a heading that folds it away, and remembers that it did."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSizePolicy, QToolButton, QVBoxLayout, QWidget

from hidden_frame.desktop.look.settings import settings


class Group(QWidget):
    """`body` takes the rows; a click on the heading, or Space, folds them."""

    def __init__(self, name: str, title: str) -> None:
        super().__init__()
        self.name = name
        around = QVBoxLayout(self)
        around.setContentsMargins(0, 6, 0, 0)
        around.setSpacing(7)
        self.head = QToolButton()
        self.head.setObjectName("Fold")
        self.head.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.head.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.head.setText(title)
        self.head.setAccessibleName(f"{title.capitalize()}: show or fold")
        self.head.clicked.connect(self._fold)
        around.addWidget(self.head)
        self.rows = QWidget()
        self.body = QVBoxLayout(self.rows)
        self.body.setContentsMargins(0, 0, 0, 0)
        self.body.setSpacing(7)
        around.addWidget(self.rows)
        self.refresh()

    @property
    def folded(self) -> bool:
        return self.name in settings().now.folded

    def _fold(self) -> None:
        self.show_rows(self.folded)

    def show_rows(self, shown: bool) -> None:
        """Shows the rows or folds them away, here and wherever a group has this name."""
        others = tuple(n for n in settings().now.folded if n != self.name)
        settings().change(folded=others if shown else (*others, self.name))
        self.refresh()

    def refresh(self) -> None:
        """Takes up what is remembered."""
        folded = self.folded
        self.rows.setVisible(not folded)
        self.head.setArrowType(Qt.ArrowType.RightArrow if folded else Qt.ArrowType.DownArrow)
        self.head.setToolTip("Show these" if folded else "Fold these away")

    def setText(self, title: str) -> None:
        self.head.setText(title)

    def text(self) -> str:
        return self.head.text()
