"""Every command by name, with its key and its place; menus and keys come from one list."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu


class Command(NamedTuple):
    """`enabled` is asked whenever something changes; a key of "" is none."""

    id: str
    menu: str
    title: str
    key: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = lambda: True


class Commands:
    """The commands as Qt actions, by id."""

    def __init__(self, window: QMainWindow, commands: list[Command | None]) -> None:
        self.actions: dict[str, QAction] = {}
        self._commands = [c for c in commands if c is not None]
        bar = window.menuBar()
        menus: dict[str, QMenu] = {}
        last = ""
        for command in commands:
            if command is None:
                if last:
                    menus[last].addSeparator()
                continue
            if command.menu not in menus:
                menus[command.menu] = bar.addMenu(command.menu)
            last = command.menu
            action = QAction(command.title, window)
            action.setObjectName(command.id)
            if command.key:
                action.setShortcut(QKeySequence(command.key))
            run = command.run
            action.triggered.connect(lambda *_, run=run: run())
            menus[command.menu].addAction(action)
            self.actions[command.id] = action

    def refresh(self) -> None:
        """Enables what can be done now."""
        for command in self._commands:
            self.actions[command.id].setEnabled(command.enabled())

    def __getitem__(self, command_id: str) -> QAction:
        return self.actions[command_id]
