"""Arrange: the order of stacking, groups, lining up."""

from __future__ import annotations

from functools import partial

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row
from hidden_frame.edit.items.spread import Edge


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session, items = window.session, window.items
    menu = "Arrange"
    rows: list[Row] = [
        Command(name, menu, title, key, partial(items.reorder, name), items.own)
        for name, title, key in (
            ("front", "Bring to front", "Ctrl+Shift+Up"),
            ("forward", "Bring forward", "Ctrl+Up"),
            ("backward", "Send backward", "Ctrl+Down"),
            ("back", "Send to back", "Ctrl+Shift+Down"),
        )
    ]
    rows += [
        None,
        Command("group", menu, "Group", "Ctrl+G", items.group,
                lambda: items.own() and len(session.items) > 1),
        Command("ungroup", menu, "Ungroup", "Ctrl+Shift+G", items.ungroup, items.grouped),
        Command("flip across", menu, "Flip across: left for right", "",
                lambda: items.flip("across"), items.can_flip),
        Command("flip down", menu, "Flip down: top for bottom", "",
                lambda: items.flip("down"), items.can_flip),
        Command("lock", menu, "Lock", "Ctrl+Shift+K", items.lock, items.own),
        Command("unlock", menu, "Unlock all items", "", items.unlock_all),
        Command("items", menu, "Items and layers", "",
                lambda: window.show_shelf("Items")),
        None,
    ]  # fmt: skip
    edges: tuple[Edge, ...] = ("left", "centre", "right", "top", "middle", "bottom")
    rows += [
        Command(f"align {e}", "Arrange > Line up", f"Align {e}", "",
                partial(items.align, e), items.changeable)
        for e in edges
    ]  # fmt: skip
    rows += [
        Command(f"distribute {axis}", "Arrange > Line up", f"Equal gaps {axis}", "",
                partial(items.distribute, axis), items.several)
        for axis in ("across", "down")
    ]  # fmt: skip
    rows += [
        Command(f"same {what}", "Arrange > Line up", f"Same {what} as the first", "",
                partial(items.same, what), items.several)
        for what in ("width", "height")
    ]  # fmt: skip
    return rows
