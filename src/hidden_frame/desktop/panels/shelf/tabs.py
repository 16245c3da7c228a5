"""The Shelf's lists: masters, stories, styles, items, colours, steps."""

from __future__ import annotations

from PySide6.QtWidgets import (  # fmt: skip
    QButtonGroup,
    QGridLayout,
    QSizePolicy,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.look.settings import settings

NAMES = ("Masters", "Stories", "Styles", "Items", "Colours", "Steps")
_ABREAST = 3


class ShelfTabs(QWidget):
    """Shows one list at a time, and remembers which."""

    def __init__(self, *panels: QWidget) -> None:
        super().__init__()
        self.setObjectName("Panel")
        self.setMinimumWidth(248)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(0)
        grid = QGridLayout()  # two rows: no name is cut where the Shelf is narrow
        grid.setContentsMargins(6, 0, 6, 0)
        grid.setSpacing(1)
        self.stack = QStackedWidget()
        self.buttons: dict[str, QToolButton] = {}
        group = QButtonGroup(self)
        for number, (name, panel) in enumerate(zip(NAMES, panels, strict=True)):
            button = QToolButton()
            button.setObjectName("Tab")
            button.setText(name)
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, n=number: self.show_panel(n))
            group.addButton(button)
            button.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
            grid.addWidget(button, number // _ABREAST, number % _ABREAST)
            self.buttons[name] = button
            self.stack.addWidget(panel)
        column.addLayout(grid)
        column.addWidget(self.stack)
        self.show_panel(settings().now.shelf)

    def show_panel(self, number: int) -> None:
        self.stack.setCurrentIndex(number)
        self.buttons[NAMES[number]].setChecked(True)
        settings().change(shelf=number)
