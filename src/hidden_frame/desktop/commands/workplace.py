"""What commands know of the window that they are given in: its parts, and what it does itself."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PySide6.QtWidgets import QMenuBar, QWidget

from hidden_frame.desktop.commands.actions.at_caret import CaretActions
from hidden_frame.desktop.commands.actions.clipboard import Clipboard
from hidden_frame.desktop.commands.actions.edit import EditActions
from hidden_frame.desktop.commands.actions.items import ItemActions
from hidden_frame.desktop.commands.actions.lists import ListActions
from hidden_frame.desktop.commands.actions.pages import PageActions
from hidden_frame.desktop.commands.actions.stories import StoryActions
from hidden_frame.desktop.commands.actions.text import TextActions
from hidden_frame.desktop.commands.dialogs import Dialogs
from hidden_frame.desktop.files.files import Files
from hidden_frame.desktop.panels.shelf.colours import ColourList
from hidden_frame.desktop.panels.shelf.shelf import Shelf
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk


class Workplace(Protocol):
    """Windows are workplaces; a command needs no more of one than this."""

    session: Session
    desk: Desk
    items: ItemActions
    pages: PageActions
    text: TextActions
    at_caret: CaretActions
    lists: ListActions
    stories: StoryActions
    clipboard: Clipboard
    edits: EditActions
    files: Files
    dialogs: Dialogs
    shelf: Shelf
    colours: ColourList

    @property
    def checks(self) -> QWidget: ...

    def windows(self) -> list[tuple[str, Callable[[], object], bool]]: ...
    def show_section(self, section_id: str, field: str) -> None: ...
    def place_pictures(self) -> None: ...
    def new_from_pages(self) -> None: ...
    def remove_folios(self) -> None: ...
    def show_shelf(self, name: str) -> None: ...
    def toggle_board(self) -> None: ...
    def toggle_flatplan(self) -> None: ...
    def toggle_galley(self) -> None: ...
    def galley_shown(self) -> bool: ...
    def toggle_checks(self) -> None: ...
    def only_desk(self) -> None: ...
    def close(self) -> bool: ...
    def menuBar(self) -> QMenuBar: ...
