"""Pages: added, moved, deleted, tied, held, selected; blind folios."""

from __future__ import annotations

from functools import partial

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    session, pages = window.session, window.pages
    return [
        Command("add page", "Pages", "Add a page", "Ctrl+Return", pages.add),
        Command("add pages", "Pages", "Add pages…", "", pages.add_several),
        Command("fill up", "Pages", "Add pages to fill the last sheet…", "", pages.fill_up),
        Command("duplicate pages", "Pages", "Duplicate pages", "", pages.duplicate, pages.any),
        Command("move pages", "Pages", "Move pages…", "Ctrl+Shift+J", pages.move, pages.any),
        Command("delete pages", "Pages", "Delete pages", "", pages.delete, pages.any),
        Command("delete range", "Pages", "Delete a range of pages…", "", pages.delete_range),
        Command("new from pages", "Pages", "New publication of these pages", "",
                window.new_from_pages, pages.any),
        None,
        Command("spreads", "Pages", "Spreads: facing, opening side, direction…", "",
                window.dialogs.pairing),
        Command("tie", "Pages", "Keep these two pages as a spread", "", pages.toggle_tie,
                lambda: pages.any() and (pages.could_tie() or pages.tied()),
                lambda: pages.any() and pages.tied()),
        Command("hold", "Pages", "Lock the page at this position", "", pages.toggle_held,
                pages.any, lambda: pages.any() and pages.held()),
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
        Command("blind first", "Pages > Blind folios", 
            "Blind folio on the first page of each section",
                "", lambda: pages.blind("first")),
        Command("blind empty", "Pages > Blind folios", "Blind folio on empty pages", "",
                lambda: pages.blind("empty")),
        Command("blind followers", "Pages > Blind folios",
                "Blind folio on all pages that follow this master", "", pages.blind_followers,
                lambda: session.mode == "masters"),
        Command("show folios", "Pages > Blind folios", "Show all folios again", "",
                lambda: pages.blind("none")),
    ]  # fmt: skip
