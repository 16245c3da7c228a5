"""Help: the guide, keys, what the program is."""

from __future__ import annotations

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.command import Command, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    menu = "Help"
    return [
        Command("guide", menu, "Guide", "Shift+F1", window.dialogs.guide),
        Command("keys", menu, "Keys", "", lambda: window.dialogs.guide("Keys")),
        Command("hints", menu, "Show the first steps again", "",
                lambda: settings().change(hints=True)),
        None,
        Command("report", menu, "Report…", "", window.dialogs.report),
        Command("about program", menu, "About Hidden Frame", "", window.dialogs.about_program),
    ]  # fmt: skip
