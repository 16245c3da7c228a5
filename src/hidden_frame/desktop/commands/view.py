"""View: zoom, panels, what one snaps to, going about."""

from __future__ import annotations

from functools import partial

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.command import Command, Listed, Row
from hidden_frame.edit.items.guides import own_guides

SNAPS = (
    ("page", "Snap to page edges and centre"),
    ("margins", "Snap to margins and their centre"),
    ("columns", "Snap to columns"),
    ("guides", "Snap to guides"),
    ("bleed", "Snap to the bleed"),
    ("grid", "Snap to the baseline grid"),
    ("items", "Snap to edges and centres of items"),
    ("gaps", "Snap to equal gaps"),
)


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session, camera = window.session, window.desk.camera
    pages, items = window.pages, window.items
    kept = settings()

    def on_pages() -> bool:
        return session.mode == "pages"

    def guides() -> bool:
        return bool(own_guides(session.publication, session.holder_id))

    def all_locked() -> bool:
        own = own_guides(session.publication, session.holder_id)
        return bool(own) and all(g.locked for g in own)

    return [
        Command("mode", "View", "Switch between pages and masters", "F3", pages.change_mode),
        Command("board", "View", "Masters board", "F5", window.toggle_board,
                lambda: bool(session.publication.masters), lambda: session.pane == "board"),
        Command("flatplan", "View", "Flatplan", "F2", window.toggle_flatplan, lambda: True,
                lambda: session.pane == "flatplan"),
        Command("checks", "View", "Checks: possible problems", "Shift+F2", window.toggle_checks,
                lambda: True, lambda: window.checks.isVisible()),
        Command("go to", "View", "Go to…", "F4", window.dialogs.goto),
        Command("next spread", "View", "Next spread", "PgDown", lambda: pages.turn(1), on_pages),
        Command("previous spread", "View", "Previous spread", "PgUp", lambda: pages.turn(-1),
                on_pages),
        None,
        Command("fit page", "View", "Fit the page", "F6", lambda: camera.fit_to("page")),
        Command("fit spread", "View", "Fit the spread", "F7", lambda: camera.fit_to("spread")),
        Command("fit width", "View", "Fit the width", "Shift+F7", lambda: camera.fit_to("width")),
        Command("fit selection", "View", "Fit the selection", "Shift+F6",
                lambda: camera.fit_to("selection"), lambda: bool(session.items)),
        Command("actual size", "View", "Actual size", "Ctrl+0", camera.actual_size),
        Command("zoom in", "View", "Zoom in", "Ctrl++", lambda: camera.zoom_by(1.25)),
        Command("zoom out", "View", "Zoom out", "Ctrl+-", lambda: camera.zoom_by(1 / 1.25)),
        None,
        Command("galley", "View", "Galley", "Shift+F3",
                window.toggle_galley, lambda: bool(session.publication.stories),
                window.galley_shown),
        Command("paths", "View", "Show story paths", "Shift+F8", window.stories.toggle_paths,
                lambda: bool(session.publication.stories), lambda: session.paths),
        Command("tint lines", "View", "Highlight loose and tight lines", "",
                lambda: session.tint_lines(not session.tinted), lambda: True,
                lambda: session.tinted),
        Command("signs", "View", "Show hidden characters", "",
                lambda: session.show_signs(not session.signs), lambda: True,
                lambda: session.signs),
        Command("spelling", "View", "Mark unknown words", "",
                lambda: kept.change(spelling=not kept.now.spelling), lambda: True,
                lambda: kept.now.spelling),
        Command("proof", "View", "Proof view", "F8",
                lambda: session.set_proof(not session.proof), lambda: True,
                lambda: session.proof),
        None,
        Command("colours", "View", "Colours", "", lambda: window.show_shelf("Colours")),
        Command("new colour", "View", "New colour…", "", lambda: window.colours.open_new()),
        None,
        Command("rulers", "View > Panels", "Rulers", "Ctrl+F9",
                lambda: kept.change(rulers=not kept.now.rulers), lambda: True,
                lambda: kept.now.rulers),
        Command("run", "View > Panels", "Run", "F12", lambda: kept.change(run=not kept.now.run),
                lambda: True, lambda: kept.now.run),
        Command("shelf", "View > Panels", "Shelf", "Ctrl+F11",
                lambda: kept.change(shelf_shown=not kept.now.shelf_shown), lambda: True,
                lambda: kept.now.shelf_shown),
        Command("properties", "View > Panels", "Properties", "Ctrl+F12",
                lambda: kept.change(properties_shown=not kept.now.properties_shown),
                lambda: True, lambda: kept.now.properties_shown),
        Command("only desk", "View > Panels", "Only the desk", "F11", window.only_desk,
                lambda: True,
                lambda: not (kept.now.shelf_shown or kept.now.properties_shown or kept.now.run)),
        Listed("View > Windows", window.windows, "No window is open"),
        Command("lines above", "View > Guides", "Guides and margins in front of items", "",
                lambda: kept.change(lines_above=not kept.now.lines_above), lambda: True,
                lambda: kept.now.lines_above),
        Command("guides", "View > Guides", "Show guides", "Shift+F9",
                lambda: kept.change(guides=not kept.now.guides), lambda: True,
                lambda: kept.now.guides),
        Command("guide fields", "View > Guides", "Guides in rows and columns…", "",
                window.dialogs.guides),
        Command("lock guides", "View > Guides", "Lock the guides here", "",
                lambda: items.lock_guides(not all_locked()), guides, all_locked),
        Command("remove guides", "View > Guides", "Remove all guides here", "",
                items.remove_guides, guides),
        Command("snapping", "View > Snap to", "Snap", "F9",
                lambda: kept.change(snapping=not kept.now.snapping), lambda: True,
                lambda: kept.now.snapping),
        *(Command(f"snap {name}", "View > Snap to", title, "", _snap(name), lambda: True,
                  partial(_snaps, name))
          for name, title in SNAPS),
    ]  # fmt: skip


def _snaps(name: str) -> bool:
    return bool(getattr(settings().now.snap, name))


def _snap(name: str):  # type: ignore[no-untyped-def]
    """Turns one kind of thing to snap to on or off."""

    def run() -> None:
        snap = settings().now.snap
        settings().change(snap=snap._replace(**{name: not getattr(snap, name)}))

    return run
