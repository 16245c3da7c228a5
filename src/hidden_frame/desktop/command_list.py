"""Which commands there are: name, key, menu, what it does, and when it can be done."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication

from hidden_frame.compose.markers import LABELS
from hidden_frame.desktop.commands import Command
from hidden_frame.desktop.session import Tool
from hidden_frame.desktop.settings import settings
from hidden_frame.edit.items.guides import own_guides
from hidden_frame.edit.items.spread import Edge
from hidden_frame.model.text import Marker

if TYPE_CHECKING:
    from hidden_frame.desktop.window import Window

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
Row = Command | None  # None is a line between two groups


def command_list(window: Window) -> list[Row]:
    """Every command of a window, menu by menu."""
    return [
        *_publication(window),
        *_edit(window),
        *_arrange(window),
        *_text(window),
        *_pages(window),
        *_draw(window),
        *_view(window),
        *_help(window),
    ]


def _publication(window: Window) -> list[Row]:
    files = window.files
    menu = "Publication"
    return [
        Command("new", menu, "New…", "Ctrl+N", files.new),
        Command("open", menu, "Open…", "Ctrl+O", files.open),
        Command("demo", menu, "Open the demo almanac", "", files.demo),
        None,
        Command("save", menu, "Save", "Ctrl+S", files.save),
        Command("save as", menu, "Save as…", "Ctrl+Shift+S", files.save_as),
        Command("export", menu, "Export PDF…", "Ctrl+E", files.export),
        None,
        Command("about", menu, "About this publication…", "", window.edit_about),
        Command("replace font", menu, "Replace a font…", "", window.replace_font),
        None,
        Command("close", menu, "Close", "Ctrl+W", window.close),
        Command("quit", menu, "Quit", "Ctrl+Q", QApplication.closeAllWindows),
    ]


def _edit(window: Window) -> list[Row]:
    session, items, clip = window.session, window.items, window.clipboard
    menu = "Edit"

    def idle() -> bool:
        return session.editing is None

    def past() -> str:
        steps = session.history.past
        return f"Undo {steps[-1].name}" if steps else "Undo"

    def future() -> str:
        steps = session.history.future
        return f"Redo {steps[-1].name}" if steps else "Redo"

    return [
        Command("undo", menu, "Undo", "Ctrl+Z", session.undo,
                lambda: bool(session.history.past), None, past),
        Command("redo", menu, "Redo", "Ctrl+Shift+Z", session.redo,
                lambda: bool(session.history.future), None, future),
        Command("steps", menu, "Steps: what was done", "", lambda: window.show_shelf("Steps")),
        None,
        Command("cut", menu, "Cut", "Ctrl+X", window.cut, window.can_cut),
        Command("copy", menu, "Copy", "Ctrl+C", window.copy, window.can_copy),
        Command("paste", menu, "Paste", "Ctrl+V", window.paste, idle),
        Command("paste same", menu, "Paste at the same spot", "Ctrl+Shift+V",
                lambda: clip.paste(same_spot=True), idle),
        Command("duplicate", menu, "Duplicate items", "Ctrl+D", items.duplicate, items.own),
        Command("repeat", menu, "Step and repeat…", "Ctrl+Shift+D", items.repeat, items.own),
        Command("delete", menu, "Delete", "Del", window.delete, window.can_delete),
        None,
        Command("select all", menu, "Select everything", "Ctrl+A", window.select_all, idle),
        Command("select none", menu, "Select nothing", "Ctrl+Shift+A", window.select_none, idle),
        Command("item above", menu, "Select the item above", "Alt+Up",
                lambda: window.items.step(1), idle),
        Command("item below", menu, "Select the item below", "Alt+Down",
                lambda: window.items.step(-1), idle),
        None,
        Command("styles", menu, "Paragraph styles…", "Ctrl+T", window.edit_styles),
        Command("character styles", menu, "Character styles…", "Ctrl+Alt+T",
                window.edit_character_styles),
        Command("colours", menu, "Colours", "", lambda: window.show_shelf("Colours")),
        Command("new colour", menu, "New colour…", "", lambda: window.colours.open_new()),
        None,
        Command("settings", menu, "Desk settings…", "Ctrl+,", window.open_settings),
        Command("finder", menu, "Find a page, a word, a command…", "F1", window.open_finder),
    ]  # fmt: skip


def _arrange(window: Window) -> list[Row]:
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
        Command("lock", menu, "Lock", "Ctrl+Shift+K", items.lock, items.own),
        Command("unlock", menu, "Free all locked items", "", items.unlock_all),
        Command("items", menu, "Items: the stacking order", "",
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


def _text(window: Window) -> list[Row]:
    text = window.text
    menu = "Text"
    rows: list[Row] = [
        Command("folios", menu, "Folios…", "Ctrl+Shift+F", window.open_folios),
        Command("no folios", menu, "Remove all folios", "", window.remove_folios),
        None,
        Command("bold", menu, "Bold", "Ctrl+B", lambda: text.toggle("bold"), text.editing),
        Command("italic", menu, "Italic", "Ctrl+I", lambda: text.toggle("italic"), text.editing),
        Command("two ends", menu, "Two ends: tab to the right edge", "Ctrl+Shift+T",
                text.two_ends, text.editing),
        None,
    ]  # fmt: skip
    rows += [
        Command(f"marker {kind}", "Text > Insert marker", f"Insert marker: {label}", "",
                partial(text.marker, Marker(kind)), text.editing)
        for kind, label in LABELS.items()
    ]  # fmt: skip
    rows += [
        Command(f"style {n}", "Text > Paragraph style", f"Paragraph style {n} of the list",
                f"Ctrl+{n}", partial(text.style, n), partial(text.has_style, n),
                None, partial(text.style_name, n))
        for n in range(1, 10)
    ]  # fmt: skip
    return rows


def _pages(window: Window) -> list[Row]:
    session, pages = window.session, window.pages
    return [
        Command("add page", "Pages", "Add a page", "Ctrl+Return", pages.add),
        Command("add pages", "Pages", "Add pages…", "", pages.add_several),
        Command("fill up", "Pages", "Fill up to full sheets…", "", pages.fill_up),
        Command("duplicate pages", "Pages", "Duplicate pages", "", pages.duplicate, pages.any),
        Command("move pages", "Pages", "Move pages…", "Ctrl+Shift+J", pages.move, pages.any),
        Command("delete pages", "Pages", "Delete pages", "", pages.delete, pages.any),
        Command("delete range", "Pages", "Delete a range of pages…", "", pages.delete_range),
        Command("new from pages", "Pages", "New publication of these pages", "",
                window.new_from_pages, pages.any),
        None,
        Command("spreads", "Pages", "Spreads: facing, opening side, direction…", "",
                window.open_pairing),
        Command("tie", "Pages", "Tie as a spread, or untie", "", pages.toggle_tie,
                lambda: pages.any() and (pages.could_tie() or pages.tied())),
        Command("hold", "Pages", "Hold at this position, or free", "", pages.toggle_held,
                pages.any, pages.held),
        None,
        Command("apply", "Pages", "Apply masters…", "Ctrl+M", pages.apply_masters),
        *(Command(f"pages {which}", "Pages > Select", f"Select {which} pages", "",
                  partial(pages.select, which))
          for which in ("odd", "even")),
        Command("select section", "Pages > Select", "Select the pages of this section", "",
                pages.select_section),
        Command("select followers", "Pages > Select", "Select the pages that follow this master",
                "", pages.select_followers),
        None,
        Command("blind", "Pages > Blind folios", "Blind folio on or off", "", pages.toggle_blind,
                pages.any),
        Command("blind first", "Pages > Blind folios", "Blind on the first page of each section",
                "", lambda: pages.blind("first")),
        Command("blind empty", "Pages > Blind folios", "Blind on empty pages", "",
                lambda: pages.blind("empty")),
        Command("blind followers", "Pages > Blind folios",
                "Blind on all pages that follow this master", "", pages.blind_followers,
                lambda: session.mode == "masters"),
        Command("show folios", "Pages > Blind folios", "Show all folios again", "",
                lambda: pages.blind("none")),
        Command("start section", "Sections", "Start a section here…", "", pages.start_section),
        Command("page one", "Sections", "Make this page number 1", "", pages.number_from_here),
        Command("end section", "Sections", "End the section with this page", "",
                pages.end_section),
        Command("join section", "Sections", "Join with the section before", "",
                pages.join_section, lambda: pages.section_index() > 0),
        Command("duplicate section", "Sections", "Duplicate the section", "",
                lambda: pages.duplicate_section(pages.section_of_chosen())),
        Command("section earlier", "Sections", "Section one place earlier", "",
                lambda: pages.move_section(pages.section_of_chosen(), -1)),
        Command("section later", "Sections", "Section one place later", "",
                lambda: pages.move_section(pages.section_of_chosen(), 1)),
        Command("delete section", "Sections", "Delete the section, its pages stay", "",
                lambda: pages.delete_section(pages.section_of_chosen(), pages=False)),
        Command("delete section pages", "Sections", "Delete the section with its pages", "",
                lambda: pages.delete_section(pages.section_of_chosen(), pages=True)),
        Command("new master", "Masters", "New master…", "",
                lambda: window.shelf.new_master(None)),
        Command("new on", "Masters", "New master based on this one", "",
                lambda: window.shelf.new_master(session.master_id),
                lambda: bool(session.master_id)),
        Command("page master", "Masters", "Make a master of this page…", "",
                pages.make_master, lambda: session.mode == "pages"),
        Command("rename master", "Masters", "Rename this master…", "",
                lambda: window.rename_master(session.master_id),
                lambda: bool(session.master_id)),
        Command("duplicate master", "Masters", "Duplicate this master", "",
                lambda: window.shelf.duplicate(session.master_id),
                lambda: bool(session.master_id)),
        Command("bring masters", "Masters", "Masters from another publication…", "",
                pages.bring_masters),
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
        Command("overrides", "Masters", "All overrides…", "Shift+F5", window.open_overrides),
        None,
        Command("delete master", "Masters", "Delete this master…", "",
                lambda: pages.delete_master(session.master_id),
                lambda: session.mode == "masters"),
        Command("masters", "Masters", "Masters: the family", "",
                lambda: window.show_shelf("Masters")),
    ]  # fmt: skip


def _draw(window: Window) -> list[Row]:
    session = window.session
    tools: tuple[tuple[Tool, str, str], ...] = (
        ("select", "Select", "1"), ("text", "Text frame", "2"),
        ("picture", "Picture frame", "3"), ("rectangle", "Rectangle", "4"),
        ("rounded", "Rounded rectangle", ""), ("ellipse", "Ellipse", ""),
        ("line", "Line", "5"),
    )  # fmt: skip
    return [
        Command(f"tool {name}", "Draw", title, key, partial(session.set_tool, name))
        for name, title, key in tools
    ] + [
        None,
        Command("place pictures", "Draw", "Place pictures…", "", window.place_pictures),
    ]  # fmt: skip


def _view(window: Window) -> list[Row]:
    session, desk, pages, items = window.session, window.desk, window.pages, window.items
    kept = settings()

    def on_pages() -> bool:
        return session.mode == "pages"

    def guides() -> bool:
        return bool(own_guides(session.publication, session.holder_id))

    def all_locked() -> bool:
        own = own_guides(session.publication, session.holder_id)
        return bool(own) and all(g.locked for g in own)

    return [
        Command("mode", "View", "Change between pages and masters", "F3", pages.change_mode),
        Command("board", "View", "Masters board", "F5", window.toggle_board,
                lambda: bool(session.publication.masters), lambda: session.view == "board"),
        Command("flatplan", "View", "Flatplan", "F2", window.toggle_flatplan, lambda: True,
                lambda: session.view == "flatplan"),
        Command("checks", "View", "Checks: what is doubtful", "Shift+F2", window.toggle_checks,
                lambda: True, lambda: window.checks.isVisible()),
        Command("go to", "View", "Go to…", "F4", window.open_goto),
        Command("next spread", "View", "Next spread", "PgDown", lambda: pages.turn(1), on_pages),
        Command("previous spread", "View", "Previous spread", "PgUp", lambda: pages.turn(-1),
                on_pages),
        None,
        Command("fit page", "View", "Fit the page", "F6", lambda: desk.fit_to("page")),
        Command("fit spread", "View", "Fit the spread", "F7", lambda: desk.fit_to("spread")),
        Command("fit width", "View", "Fit the width", "Shift+F7", lambda: desk.fit_to("width")),
        Command("fit selection", "View", "Fit the selection", "Shift+F6",
                lambda: desk.fit_to("selection"), lambda: bool(session.items)),
        Command("actual size", "View", "Actual size", "Ctrl+0", desk.actual_size),
        Command("zoom in", "View", "Zoom in", "Ctrl++", lambda: desk.zoom_by(1.25)),
        Command("zoom out", "View", "Zoom out", "Ctrl+-", lambda: desk.zoom_by(1 / 1.25)),
        None,
        Command("proof", "View", "Proof view", "F8",
                lambda: session.set_proof(not session.proof), lambda: True,
                lambda: session.proof),
        Command("rulers", "View", "Rulers", "Ctrl+F9",
                lambda: kept.change(rulers=not kept.now.rulers), lambda: True,
                lambda: kept.now.rulers),
        Command("run", "View", "Run", "F12", lambda: kept.change(run=not kept.now.run),
                lambda: True, lambda: kept.now.run),
        Command("shelf", "View", "Shelf", "Ctrl+F11",
                lambda: kept.change(shelf_shown=not kept.now.shelf_shown), lambda: True,
                lambda: kept.now.shelf_shown),
        Command("properties", "View", "Properties", "Ctrl+F12",
                lambda: kept.change(properties_shown=not kept.now.properties_shown),
                lambda: True, lambda: kept.now.properties_shown),
        Command("only desk", "View", "Only the desk", "F11", window.only_desk, lambda: True,
                lambda: not (kept.now.shelf_shown or kept.now.properties_shown or kept.now.run)),
        None,
        Command("lines above", "View > Guides", "Guides and margins over what is printed", "",
                lambda: kept.change(lines_above=not kept.now.lines_above), lambda: True,
                lambda: kept.now.lines_above),
        Command("guides", "View > Guides", "Show guides", "Shift+F9",
                lambda: kept.change(guides=not kept.now.guides), lambda: True,
                lambda: kept.now.guides),
        Command("guide fields", "View > Guides", "Guides in rows and columns…", "",
                window.open_guides),
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


def _help(window: Window) -> list[Row]:
    menu = "Help"
    return [
        Command("guide", menu, "Guide", "Shift+F1", window.open_guide),
        Command("keys", menu, "Keys", "", lambda: window.open_guide("Keys")),
        Command("hints", menu, "Show the first steps again", "",
                lambda: settings().change(hints=True)),
        None,
        Command("about program", menu, "About Hidden Frame", "", window.about_program),
    ]  # fmt: skip


def _snaps(name: str) -> bool:
    return bool(getattr(settings().now.snap, name))


def _snap(name: str):  # type: ignore[no-untyped-def]
    """Turns one kind of thing to snap to on or off."""

    def run() -> None:
        snap = settings().now.snap
        settings().change(snap=snap._replace(**{name: not getattr(snap, name)}))

    return run
