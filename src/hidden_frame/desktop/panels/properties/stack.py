"""A master stack to look at and change: topmost first, with its ribbons."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.look.icons import dress
from hidden_frame.desktop.look.ribbon import ribbon_icon
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.publication import Publication

_ID = Qt.ItemDataRole.UserRole


class StackEditor(QWidget):
    """`changed`: the stack that is wanted, bottom to top; `opened`: a master to look at."""

    changed = Signal(object)
    opened = Signal(str)

    def __init__(self, label: str, empty: str) -> None:
        super().__init__()
        self.empty = empty
        self._publication: Publication | None = None
        self._stack: tuple[str, ...] = ()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(3)
        self.list = QListWidget()
        self.list.setAccessibleName(label)
        self.list.setObjectName("Stack")
        self.list.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.list.setToolTip("Drag to change the order; double-click to open the master")
        self.list.model().rowsMoved.connect(self._dragged)
        self.list.itemDoubleClicked.connect(lambda row: self.opened.emit(row.data(_ID)))
        self.list.currentRowChanged.connect(lambda _: self._enable())
        column.addWidget(self.list)
        row = QHBoxLayout()
        row.setSpacing(2)
        self.add = QToolButton()
        self.add.setText("Add on top ▾")
        self.add.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu = QMenu(self.add)
        self.menu.aboutToShow.connect(self.fill_menu)
        self.add.setMenu(self.menu)
        row.addWidget(self.add)
        row.addStretch(1)
        self.up = self._tool("ph.arrow-up", "One up", lambda: self._step(1))
        self.down = self._tool("ph.arrow-down", "One down", lambda: self._step(-1))
        self.remove = self._tool("ph.x", "Remove it", self._remove)
        for button in (self.up, self.down, self.remove):
            row.addWidget(button)
        column.addLayout(row)

    def _tool(self, picture: str, tip: str, run) -> QToolButton:  # type: ignore[no-untyped-def]
        button = QToolButton()
        dress(button, picture)
        button.setToolTip(tip)
        button.setAccessibleName(tip)
        button.clicked.connect(run)
        return button

    def show_stack(self, publication: Publication, stack: tuple[str, ...]) -> None:
        """Shows a stack, given bottom to top."""
        known = masters_by_id(publication)
        rows = [(m, known[m].name, known[m].ribbon) for m in reversed(stack) if m in known]
        self._publication, self._stack = publication, stack
        shown = getattr(self, "_rows", None)
        if rows != shown:
            self._rows = rows
            chosen = self.list.currentRow()
            self.list.clear()
            for master_id, name, ribbon in rows:
                row = QListWidgetItem(ribbon_icon(ribbon), name)
                row.setData(_ID, master_id)
                self.list.addItem(row)
            if not rows:
                row = QListWidgetItem(self.empty)
                row.setFlags(Qt.ItemFlag.NoItemFlags)
                self.list.addItem(row)
            self.list.setCurrentRow(min(max(chosen, 0), len(rows) - 1))
            high = self.list.sizeHintForRow(0) * max(len(rows), 1) + 6
            self.list.setFixedHeight(min(high, 130))
            self.list.setIconSize(QSize(14, 14))
        self._enable()

    def _enable(self) -> None:
        at, count = self.list.currentRow(), len(self._stack)
        self.up.setEnabled(0 < at < count)
        self.down.setEnabled(0 <= at < count - 1)
        self.remove.setEnabled(0 <= at < count)

    def fill_menu(self) -> None:
        """The masters that are not in the stack yet."""
        self.menu.clear()
        for master in self._publication.masters if self._publication else ():
            if master.id not in self._stack:
                self.menu.addAction(
                    ribbon_icon(master.ribbon),
                    master.name,
                    lambda m=master.id: self.changed.emit((*self._stack, m)),
                )
        if self.menu.isEmpty():
            self.menu.addAction("All masters are in the stack").setEnabled(False)

    def _place(self) -> int:
        """The chosen master's place in the stack, counted from the bottom."""
        return len(self._stack) - 1 - self.list.currentRow()

    def _step(self, by: int) -> None:
        stack, at = list(self._stack), self._place()
        stack[at], stack[at + by] = stack[at + by], stack[at]
        row = self.list.currentRow() - by
        self.changed.emit(tuple(stack))
        self.list.setCurrentRow(row)

    def _remove(self) -> None:
        at = self._place()
        self.changed.emit(self._stack[:at] + self._stack[at + 1 :])

    def _dragged(self) -> None:
        rows = [self.list.item(n) for n in range(self.list.count())]
        stack = tuple(r.data(_ID) for r in reversed(rows))
        self._rows = []  # whatever comes back is shown anew
        self.changed.emit(stack)
