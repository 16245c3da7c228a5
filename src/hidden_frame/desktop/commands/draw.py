"""Draw: tools, guides, folios."""

from __future__ import annotations

from functools import partial

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row
from hidden_frame.interact.sight.value import Tool


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session = window.session
    tools: tuple[tuple[Tool, str, str], ...] = (
        ("select", "Select", "1"), ("text", "Text frame", "2"),
        ("picture", "Picture frame", "3"), ("rectangle", "Rectangle", "4"),
        ("rounded", "Rounded rectangle", ""), ("ellipse", "Ellipse", ""),
        ("line", "Line", "5"),
    )  # fmt: skip
    rows: list[Row] = [
        Command(f"tool {name}", "Draw", title, key, partial(session.set_tool, name))
        for name, title, key in tools
    ]
    rows += [
        None,
        Command("place pictures", "Draw", "Place pictures…", "", window.place_pictures),
    ]
    return rows
