"""Commands on pages, sections and masters."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.masters import PageMasterDialog, bring_masters
from hidden_frame.desktop.dialogs.pages import (
    AddDialog,
    ApplyDialog,
    DeleteMasterDialog,
    SectionDialog,
)
from hidden_frame.desktop.session import Session
from hidden_frame.edit.masters import delete_master
from hidden_frame.edit.overrides import follow_on_pages
from hidden_frame.edit.pages import add_pages_after, delete_pages, duplicate_pages, set_blind
from hidden_frame.edit.sections import join_with_previous
from hidden_frame.model.lookup import all_pages, find_page, positions, section_of
from hidden_frame.model.publication import Publication


class PageActions:
    """Each method is one command."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self.session = session
        self.parent = parent

    def chosen(self) -> tuple[str, ...]:
        """The selected pages, or else the one on the desk."""
        return self.session.pages or (self.session.page_id,)

    def any(self) -> bool:
        return self.session.mode == "pages" or bool(self.session.pages)

    def add(self) -> None:
        session = self.session
        after = self.chosen()[-1]
        made = self._edit("add page", lambda p: add_pages_after(p, after))
        if made:
            session.pages = tuple(made)
            session.show_page(made[0])

    def _edit(
        self, name: str, change: Callable[[Publication], tuple[Publication, list[str]]]
    ) -> list[str]:
        """An edit that makes pages, and their ids; none if it was refused."""
        made: list[str] = []

        def run(publication: Publication) -> Publication:
            publication, new = change(publication)
            made.extend(new)
            return publication

        return made if self.session.edit(name, run) else []

    def add_several(self) -> None:
        AddDialog(self.session, self.parent).exec()

    def duplicate(self) -> None:
        chosen = self.chosen()
        made = self._edit("duplicate pages", lambda p: duplicate_pages(p, chosen))
        if made:
            self.session.select_pages(tuple(made))

    def delete(self) -> None:
        session = self.session
        chosen = self.chosen()
        count = "page" if len(chosen) == 1 else f"{len(chosen)} pages"
        if session.edit(f"delete {count}", lambda p: delete_pages(p, chosen)):
            session.noticed.emit(f"Deleted {count}. Undo brings them back.")

    def toggle_blind(self) -> None:
        session = self.session
        chosen = self.chosen()
        blind = not find_page(session.publication, chosen[0]).blind
        session.edit("blind folio", lambda p: set_blind(p, chosen, blind))

    def apply_masters(self) -> None:
        ApplyDialog(self.session, self.parent).exec()

    def make_master(self) -> None:
        PageMasterDialog(self.session, self.parent).exec()

    def bring_masters(self) -> None:
        bring_masters(self.session, self.parent)

    def departing(self) -> bool:
        """Whether any of the chosen pages overrides something."""
        publication = self.session.publication
        return self.any() and any(find_page(publication, p).overrides for p in self.chosen())

    def follow(self) -> None:
        chosen = self.chosen()
        self.session.unlocked = {u for u in self.session.unlocked if u[0] not in chosen}
        self.session.edit("follow the masters", lambda p: follow_on_pages(p, chosen))

    def start_section(self) -> None:
        SectionDialog(self.session, self.parent).exec()

    def section_index(self) -> int:
        publication = self.session.publication
        return publication.sections.index(section_of(publication, self.session.page_id))

    def join_section(self) -> None:
        section = section_of(self.session.publication, self.session.page_id).id
        self.session.edit("join sections", lambda p: join_with_previous(p, section))

    def turn(self, step: int) -> None:
        """The next or the previous spread on the desk."""
        session = self.session
        order = positions(session.publication)
        on_desk = [order[f.holder_id] for f in session.faces()]
        target = (max(on_desk) if step > 0 else min(on_desk)) + step
        pages = all_pages(session.publication)
        if 1 <= target <= len(pages):
            session.show_page(pages[target - 1].id)

    def change_mode(self) -> None:
        session = self.session
        if session.mode == "pages":
            session.show_master(session.master_id)
        else:
            session.show_page(session.page_id)

    def delete_master(self, master_id: str) -> None:
        """Deletes a master; asks what its pages shall follow if it is in use (R14)."""
        session = self.session
        if session.composition.followers(master_id):
            DeleteMasterDialog(session, master_id, self.parent).exec()
        else:
            session.edit("delete master", lambda p: delete_master(p, master_id))
