"""Every command of a window, menu by menu: one list feeds menus, keys, buttons, and Find."""

from __future__ import annotations

from hidden_frame.desktop.commands import (
    arrange,
    draw,
    edit,
    help,
    masters,
    pages,
    publication,
    sections,
    text,
    view,
)  # fmt: skip
from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Row

MENUS = (publication, edit, arrange, text, pages, sections, masters, draw, view, help)


def every_command(window: Workplace) -> list[Row]:
    """The commands of all menus in their order."""
    return [row for menu in MENUS for row in menu.commands(window)]
