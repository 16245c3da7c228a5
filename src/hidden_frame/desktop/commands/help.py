"""Help: the guide, keys, what the program is."""

from __future__ import annotations

from typing import TYPE_CHECKING

from hidden_frame.desktop.commands.command import Command, Row
from hidden_frame.desktop.settings import settings

if TYPE_CHECKING:
    from hidden_frame.desktop.window import Window


def commands(window: Window) -> list[Row]:
    """The commands of this menu."""
    menu = "Help"
    return [
        Command("guide", menu, "Guide", "Shift+F1", window.dialogs.guide),
        Command("keys", menu, "Keys", "", lambda: window.dialogs.guide("Keys")),
        Command("hints", menu, "Show the first steps again", "",
                lambda: settings().change(hints=True)),
        None,
        Command("about program", menu, "About Hidden Frame", "", window.dialogs.about_program),
    ]  # fmt: skip
