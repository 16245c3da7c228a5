"""What can be done here: every command by name with its key, found by typing; and what the
hand and the keys do on the desk."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QKeyEvent
from PySide6.QtWidgets import (  # fmt: skip
    QDialog,
    QHeaderView,
    QLabel,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop import theme
from hidden_frame.desktop.commands import Commands
from hidden_frame.desktop.properties.fields import TextField
from hidden_frame.desktop.session import Session


class Hint(NamedTuple):
    """What the hand or a key does, where it has no command."""

    keys: str
    does: str
    where: str


HINTS = (
    Hint("Click, Shift+click", "Select; add to the selection or take away", "desk"),
    Hint("Ctrl+click", "Select the next lower of items that overlap", "desk"),
    Hint("Drag on empty paper", "Rubber band around what it touches", "desk"),
    Hint("Ctrl+drag on empty paper", "Rubber band around what it encloses", "desk"),
    Hint("Double click", "Edit a text; pick one item out of a group", "desk"),
    Hint("Shift while dragging", "Keep to one axis, to the proportions, to 15°", "desk"),
    Hint("Alt while dragging", "Move a copy; size about the middle", "desk"),
    Hint("Ctrl while dragging", "Do not snap", "desk"),
    Hint("Arrow keys, with Shift", "Nudge by the step; by ten steps", "desk"),
    Hint("Drag from a ruler", "Pull out a guide; with Shift across the spread", "desk"),
    Hint("Drag a guide back", "Remove the guide", "desk"),
    Hint("Wheel, Ctrl+wheel", "Scroll; zoom at the pointer", "desk"),
    Hint("Space or middle button", "Drag the desk about", "desk"),
    Hint("Enter", "Edit the selected text", "desk"),
    Hint("Escape", "One step out: gesture, text, tool, selection", "desk"),
    Hint("Tab", "To the next tab stop", "text"),
    Hint("Shift+Enter", "Break the line, not the paragraph", "text"),
    Hint("Ctrl+arrow keys", "By whole words", "text"),
    Hint("Click, Ctrl+click, Shift+click", "Select pages; single ones; a stretch", "run"),
    Hint("Drag pages", "Move pages; the mark says where they go", "run"),
    Hint("Drag a master onto a page", "Apply a master; with Ctrl add it on top", "run"),
)

_PLACES = {"desk": "on the desk", "text": "in a text", "run": "in the Run"}


class Finder(QDialog):
    """Typing narrows the list; Enter runs the chosen command."""

    def __init__(self, session: Session, commands: Commands, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.commands = commands
        self.setWindowTitle("What can be done here")
        self.resize(620, 520)
        column = QVBoxLayout(self)
        title = QLabel("What can be done here")
        title.setObjectName("Title")
        column.addWidget(title)
        self.word = TextField("Type what you want")
        self.word.setPlaceholderText("Type what you want: guide, folio, align…")
        column.addWidget(self.word)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Commands and keys")
        self.list.setHeaderHidden(True)
        self.list.setColumnCount(3)
        self.list.setRootIsDecorated(False)
        self.list.setUniformRowHeights(True)
        header = self.list.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(2, QHeaderView.ResizeMode.ResizeToContents)
        column.addWidget(self.list)
        self.where = QLabel("Grey and slanted: not possible just now. Enter runs what is chosen.")
        self.where.setObjectName("Quiet")
        column.addWidget(self.where)
        self.editing = session.editing is not None
        commands.refresh()
        self.word.textChanged.connect(self.fill)
        self.list.itemActivated.connect(lambda _: self._run())
        self.fill()

    def fill(self) -> None:
        """The rows that hold every word typed, what can be done now first."""
        words = self.word.text().casefold().split()
        colours = theme.current()
        self.list.clear()
        for place, action in self._ranked(words):
            key = action.shortcut().toString()
            row = QTreeWidgetItem([action.text().replace("&", ""), key, place])
            row.setData(0, Qt.ItemDataRole.UserRole, action.objectName())
            if not action.isEnabled():
                font = QFont(self.font())
                font.setItalic(True)
                row.setFont(0, font)
                row.setForeground(0, QColor(colours.quiet))
            row.setForeground(2, QColor(colours.quiet))
            self.list.addTopLevelItem(row)
        here = "text" if self.editing else "desk"
        for hint in sorted(HINTS, key=lambda h: h.where != here):
            if all(w in f"{hint.keys} {hint.does} {hint.where}".casefold() for w in words):
                row = QTreeWidgetItem([hint.does, hint.keys, _PLACES[hint.where]])
                row.setForeground(2, QColor(colours.quiet))
                self.list.addTopLevelItem(row)
        self._go_to(0)

    def _go_to(self, number: int) -> None:
        row = self.list.topLevelItem(max(0, min(number, self.list.topLevelItemCount() - 1)))
        if row is not None:
            self.list.setCurrentItem(row)

    def _ranked(self, words: list[str]):  # type: ignore[no-untyped-def]
        """Commands that match, those whose name begins with the words first."""
        found = []
        for order, command in enumerate(self.commands.list):
            action = self.commands[command.id]
            text = f"{action.text()} {command.menu}".casefold()
            if all(word in text for word in words):
                first = bool(words) and action.text().casefold().startswith(words[0])
                rank = (not action.isEnabled(), not first, order)
                found.append((rank, command.menu.replace(" > ", " › "), action))
        return [(menu, action) for _, menu, action in sorted(found, key=lambda f: f[0])]

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 12,
                Qt.Key.Key_PageUp: -12}.get(key)  # fmt: skip
        if step is not None and self.list.topLevelItemCount():
            self._go_to(self.list.indexOfTopLevelItem(self.list.currentItem()) + step)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._run()
        else:
            super().keyPressEvent(event)

    def _run(self) -> None:
        row = self.list.currentItem()
        command = row.data(0, Qt.ItemDataRole.UserRole) if row is not None else None
        if command is None or not self.commands[command].isEnabled():
            return
        self.accept()
        self.commands[command].trigger()
