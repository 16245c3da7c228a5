"""Every command by name, with its key and its place; menus, keys and the finder come from
one list."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

from hidden_frame.desktop.state.needs import need_of


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


class Listed(NamedTuple):
    """A menu within a menu that is made anew each time it opens: titles, what they do, and whether
    they are ticked.  Without any it says what there is `none` of."""

    menu: str
    rows: Callable[[], list[tuple[str, Callable[[], object], bool]]]
    none: str


Row = Command | Listed | None  # None is a line between two groups

# Alt and the letter behind & opens a menu.
_MNEMONICS = {
    "Publication": "&Publication", "Edit": "&Edit", "Arrange": "&Arrange", "Text": "&Text",
    "Pages": "Pa&ges", "Sections": "&Sections", "Masters": "&Masters", "Draw": "&Draw",
    "View": "&View", "Help": "&Help",
}  # fmt: skip


class Commands:
    """The commands as Qt actions, by id."""

    def __init__(self, window: QMainWindow, commands: list[Row]) -> None:
        self.actions: dict[str, QAction] = {}
        self.list = [c for c in commands if isinstance(c, Command)]
        self.say: Callable[[str], object] = lambda _: None  # where a menu's hints are read
        self.menus: dict[str, QMenu] = {}
        self._window = window
        last = ""
        for command in commands:
            if command is None:
                if last:
                    self.menus[last].addSeparator()
                continue
            if isinstance(command, Listed):
                self._listed(command)
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
            menu.hovered.connect(lambda action: self.say(self.why(action)))
            menu.aboutToHide.connect(lambda: self.say(""))

    def _menu(self, path: str) -> QMenu:
        """The menu of this name, made where it is missing."""
        found = self.menus.get(path)
        if found is None:
            above, _, name = path.rpartition(" > ")
            found = self._menu(above).addMenu(name) if above else self._bar(name)
            self.menus[path] = found
        return found

    def _listed(self, listed: Listed) -> None:
        """A menu that is filled when it opens."""
        menu = self._menu(listed.menu)

        def fill() -> None:
            menu.clear()
            rows = listed.rows()
            for title, run, ticked in rows:
                action = menu.addAction(title.replace("&", "&&"))
                action.setCheckable(ticked)
                action.setChecked(ticked)
                action.triggered.connect(lambda *_, run=run: run())
            if not rows:
                menu.addAction(listed.none).setEnabled(False)

        menu.aboutToShow.connect(fill)

    def why(self, action: QAction) -> str:
        """Why a command can't be done now; "" if it can."""
        return "" if action.isEnabled() else need_of(action.objectName())

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
            action.setToolTip(self.why(action))

    def key(self, command_id: str) -> str:
        """A command's key as people read it; "" without one."""
        return self.actions[command_id].shortcut().toString()

    def tip(self, command_id: str) -> str:
        """A command's name with its key, for a tooltip."""
        key = self.key(command_id)
        return self.actions[command_id].text() + (f" ({key})" if key else "")

    def __getitem__(self, command_id: str) -> QAction:
        return self.actions[command_id]
