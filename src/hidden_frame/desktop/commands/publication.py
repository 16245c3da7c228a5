"""Publications: begun, opened, saved, exported."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Listed, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    files = window.files
    menu = "Publication"
    return [
        Command("new", menu, "New…", "Ctrl+N", files.new),
        Command("open", menu, "Open…", "Ctrl+O", files.open),
        Listed("Publication > Open recent", files.recent, "Nothing has been opened yet"),
        Command("demo", menu, "Open the demo almanac", "", files.demo),
        None,
        Command("save", menu, "Save", "Ctrl+S", files.save_beside),
        Command("save as", menu, "Save as…", "Ctrl+Shift+S", files.save_as),
        Command("revert", menu, "Revert to the saved version", "", files.revert, files.can_revert),
        Command("versions", menu, "Earlier versions…", "", window.dialogs.versions),
        Command("left behind", menu, "Recover unsaved work…", "", window.dialogs.left_behind),
        Command("export", menu, "Export PDF…", "Ctrl+E", files.export),
        None,
        Command("page size", menu, "Page size…", "", window.dialogs.size),
        Command("about", menu, "About this publication…", "", window.dialogs.about),
        Command("replace font", menu, "Replace a font…", "", window.dialogs.replace_font),
        None,
        Command("close", menu, "Close", "Ctrl+W", window.close),
        Command("quit", menu, "Quit", "Ctrl+Q", QApplication.closeAllWindows),
    ]
