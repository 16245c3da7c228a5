"""Edit: steps, the clipboard, selecting, styles and colours."""

from __future__ import annotations

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session, items, clip = window.session, window.items, window.clipboard
    menu = "Edit"

    def idle() -> bool:
        return session.editing is None

    def past() -> str:
        steps = session.kept.past
        return f"Undo {steps[-1].name}" if steps else "Undo"

    def future() -> str:
        steps = session.kept.future
        return f"Redo {steps[-1].name}" if steps else "Redo"

    return [
        Command("undo", menu, "Undo", "Ctrl+Z", session.undo,
                lambda: bool(session.kept.past), None, past),
        Command("redo", menu, "Redo", "Ctrl+Shift+Z", session.redo,
                lambda: bool(session.kept.future), None, future),
        Command("steps", menu, "Steps: what was done", "", lambda: window.show_shelf("Steps")),
        None,
        Command("cut", menu, "Cut", "Ctrl+X", window.edits.cut, window.edits.can_cut),
        Command("copy", menu, "Copy", "Ctrl+C", window.edits.copy, window.edits.can_copy),
        Command("paste", menu, "Paste", "Ctrl+V", window.edits.paste),
        Command("paste plain", menu, "Paste without formatting", "Ctrl+Alt+V",
                window.edits.paste_plain),
        Command("paste same", menu, "Paste in place", "Ctrl+Shift+V",
                lambda: clip.paste(same_spot=True), idle),
        Command("duplicate", menu, "Duplicate items", "Ctrl+D", items.duplicate, items.own),
        Command("repeat", menu, "Step and repeat…", "Ctrl+Shift+D", items.repeat, items.own),
        Command("delete", menu, "Delete", "Del", window.edits.delete, window.edits.can_delete),
        None,
        Command("select all", menu, "Select everything", "Ctrl+A", window.edits.select_all),
        Command("select none", menu, "Select nothing", "Ctrl+Shift+A",
                window.edits.select_none, idle),
        Command("item above", menu, "Select the item above", "Alt+Up",
                lambda: window.items.step(1), idle),
        Command("item below", menu, "Select the item below", "Alt+Down",
                lambda: window.items.step(-1), idle),
        None,
        Command("settings", menu, "Desk settings…", "Ctrl+,", window.dialogs.settings),
        Command("finder", menu, "Find a page, a word, a command…", "F1", window.dialogs.finder),
    ]  # fmt: skip
