"""Sections: started, ended, moved, joined, deleted."""

from __future__ import annotations

from hidden_frame.desktop.commands.workplace import Workplace
from hidden_frame.desktop.state.command import Command, Row


def commands(window: Workplace) -> list[Row]:
    """The commands of this menu."""
    pages = window.pages
    return [
        Command("start section", "Sections", "Start a section here…", "", pages.start_section),
        Command("page one", "Sections", "Make this page number 1", "", pages.number_from_here),
        Command("rename section", "Sections", "Rename the section…", "",
                lambda: window.show_section(pages.section_of_chosen(), "Name")),
        Command("number section", "Sections", "Number the section…", "",
                lambda: window.show_section(pages.section_of_chosen(), "Numbering")),
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
        Command("delete section", "Sections", "Delete the section, keep its pages", "",
                lambda: pages.delete_section(pages.section_of_chosen(), pages=False)),
        Command("delete section pages", "Sections", "Delete the section and its pages", "",
                lambda: pages.delete_section(pages.section_of_chosen(), pages=True)),
    ]  # fmt: skip
