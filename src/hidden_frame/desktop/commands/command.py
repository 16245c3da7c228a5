"""Every command by name, with its key and its place; menus, keys and the finder come from
one list."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu


class Command(NamedTuple):
    """`enabled` is asked whenever something changes; a key of "" is none.

    `checked` makes a command that is on or off; `named` gives a title that changes.
    A menu of "A > B" is a menu within a menu.
    """

    id: str
    menu: str
    title: str
    key: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = lambda: True
    checked: Callable[[], bool] | None = None
    named: Callable[[], str] | None = None


Row = Command | None  # None is a line between two groups

# Alt and the letter behind & opens a menu.
_MNEMONICS = {
    "Publication": "&Publication", "Edit": "&Edit", "Arrange": "&Arrange", "Text": "&Text",
    "Pages": "Pa&ges", "Sections": "&Sections", "Masters": "&Masters", "Draw": "&Draw",
    "View": "&View", "Help": "&Help",
}  # fmt: skip


class Commands:
    """The commands as Qt actions, by id."""

    def __init__(self, window: QMainWindow, commands: list[Command | None]) -> None:
        self.actions: dict[str, QAction] = {}
        self.list = [c for c in commands if c is not None]
        self.menus: dict[str, QMenu] = {}
        self._window = window
        last = ""
        for command in commands:
            if command is None:
                if last:
                    self.menus[last].addSeparator()
                continue
            last = command.menu
            action = QAction(command.title, window)
            action.setObjectName(command.id)
            if command.key:
                action.setShortcut(QKeySequence(command.key))
            action.setCheckable(command.checked is not None)
            run = command.run
            action.triggered.connect(lambda *_, run=run: run())
            self._menu(command.menu).addAction(action)
            self.actions[command.id] = action
        for menu in self.menus.values():
            menu.aboutToShow.connect(self.refresh)
            menu.setToolTipsVisible(True)

    def _menu(self, path: str) -> QMenu:
        """The menu of this name, made where it is missing."""
        found = self.menus.get(path)
        if found is None:
            above, _, name = path.rpartition(" > ")
            found = self._menu(above).addMenu(name) if above else self._bar(name)
            self.menus[path] = found
        return found

    def _bar(self, name: str) -> QMenu:
        return self._window.menuBar().addMenu(_MNEMONICS.get(name, name))

    def refresh(self) -> None:
        """Enables what can be done now."""
        for command in self.list:
            action = self.actions[command.id]
            action.setEnabled(command.enabled())
            if command.checked is not None:
                action.setChecked(command.checked())
            if command.named is not None:
                action.setText(command.named())

    def key(self, command_id: str) -> str:
        """A command's key as people read it; "" without one."""
        return self.actions[command_id].shortcut().toString()

    def tip(self, command_id: str) -> str:
        """A command's name with its key, for a tooltip."""
        key = self.key(command_id)
        return self.actions[command_id].text() + (f" ({key})" if key else "")

    def __getitem__(self, command_id: str) -> QAction:
        return self.actions[command_id]
