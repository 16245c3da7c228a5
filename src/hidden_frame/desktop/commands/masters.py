"""Masters: made, applied, split, overridden, deleted."""

from __future__ import annotations

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session, pages = window.session, window.pages
    return [
        Command("new master", "Masters", "New master…", "",
                lambda: window.shelf.new_master(None)),
        Command("new on", "Masters", "New master based on this one", "",
                lambda: window.shelf.new_master(session.master_id),
                lambda: bool(session.master_id)),
        Command("page master", "Masters", "Make a master of this page…", "",
                pages.make_master, lambda: session.mode == "pages"),
        Command("rename master", "Masters", "Rename this master…", "",
                lambda: window.dialogs.rename_master(session.master_id),
                lambda: bool(session.master_id)),
        Command("duplicate master", "Masters", "Duplicate this master", "",
                lambda: window.shelf.duplicate(session.master_id),
                lambda: bool(session.master_id)),
        Command("bring masters", "Masters", "Masters from another publication…", "",
                pages.bring_masters),
        Command("master rules", "Masters", "Masters by rule…", "", window.dialogs.rules),
        None,
        Command("to master", "Masters", "Move to a master…", "Ctrl+Shift+M",
                lambda: window.items.to_master(keep=False), window.items.local),
        Command("copy to master", "Masters", "Copy to a master…", "",
                lambda: window.items.to_master(keep=True), window.items.local),
        Command("split faces", "Masters", "Split into verso and recto", "",
                window.items.split_faces, window.items.on_both_faces),
        Command("join faces", "Masters", "Join verso and recto in one", "",
                window.items.join_faces, window.items.two_on_master),
        None,
        Command("override", "Masters", "Override here", "Ctrl+Shift+O",
                window.items.unlock, window.items.from_masters),
        Command("override all", "Masters", "Override everything here", "",
                window.items.unlock_page, lambda: session.mode == "pages"),
        Command("hide here", "Masters", "Hide here", "", window.items.hide_here,
                window.items.from_masters),
        Command("make local", "Masters", "Make local", "", window.items.make_local,
                lambda: session.mode == "pages" and window.items.from_masters()),
        Command("follow", "Masters", "Follow the masters again", "", window.items.follow,
                window.items.departing),
        Command("follow pages", "Masters", "Follow the masters again on the selected pages", "",
                pages.follow, pages.departing),
        Command("overrides", "Masters", "All overrides…", "Shift+F5", window.dialogs.overrides),
        None,
        Command("delete master", "Masters", "Delete this master…", "",
                lambda: pages.delete_master(session.master_id),
                lambda: session.mode == "masters"),
        Command("masters", "Masters", "Masters on the Shelf", "",
                lambda: window.show_shelf("Masters")),
    ]  # fmt: skip
