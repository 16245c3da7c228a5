"""Commands on pages, sections and masters."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.order import order_pages
from hidden_frame.edit.masters.apply import delete_master
from hidden_frame.edit.masters.overrides import follow_on_pages
from hidden_frame.edit.pages.blind import blind_empty_pages, blind_first_pages, show_all_folios
from hidden_frame.edit.pages.held import hold_pages
from hidden_frame.edit.pages.order import add_pages_after, delete_pages, duplicate_pages, set_blind
from hidden_frame.edit.pages.sections import (
    delete_section,
    duplicate_section,
    end_section,
    join_with_previous,
    move_section,
    number_from,
)
from hidden_frame.edit.pages.ties import tie, untie
from hidden_frame.interact.hands.copies import page_copies
from hidden_frame.interact.words.storied import running_into
from hidden_frame.interact.words.told import deleted_in_words, printed_then
from hidden_frame.model.lookup import (
    all_pages,
    find_page,
    find_section,
    positions,
    section_of,
    stack_of,
)
from hidden_frame.model.plural import plural
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
            session.select_pages(tuple(made))

    def _edit(
        self, name: str, change: Callable[[Publication], tuple[Publication, list[str]]]
    ) -> list[str]:
        """An edit that makes pages, and their ids; none if it was refused or must be asked."""
        made: list[str] = []

        def run(publication: Publication) -> Publication:
            made.clear()
            publication, new = change(publication)
            made.extend(new)
            return publication

        return made if order_pages(self.session, name, run, self.parent) else []

    def add_several(self) -> None:
        from hidden_frame.desktop.dialogs.order import AddDialog

        AddDialog(self.session, self.chosen()[-1], self.parent).exec()

    def move(self) -> None:
        from hidden_frame.desktop.dialogs.order import MoveDialog

        MoveDialog(self.session, self.chosen(), self.parent).exec()

    def delete_range(self) -> None:
        from hidden_frame.desktop.dialogs.order import DeleteRangeDialog

        DeleteRangeDialog(self.session, self.parent).exec()

    def fill_up(self) -> None:
        from hidden_frame.desktop.dialogs.order import FillUpDialog

        FillUpDialog(self.session, self.parent).exec()

    def duplicate(self) -> None:
        chosen = self.chosen()
        session = self.session
        composition, order = session.composition, positions(session.publication)
        made = self._edit("duplicate pages", lambda p: duplicate_pages(p, chosen))
        if not made:
            return
        session.select_pages(tuple(made))
        pages = sorted(chosen, key=lambda page: order[page])
        copies = page_copies(composition, pages, made, session.history.now)
        if copies:
            session.copied.emit(copies)

    def delete(self) -> None:
        """Deletes at once, says what went, and offers Undo beside it."""
        session = self.session
        chosen = list(self.chosen())
        count = "page" if len(chosen) == 1 else f"{len(chosen)} pages"
        told = deleted_in_words(session.publication, chosen)
        order_pages(
            session, f"delete {count}", lambda p: delete_pages(p, chosen), self.parent, None, told
        )

    def toggle_blind(self) -> None:
        session = self.session
        chosen = self.chosen()
        blind = not find_page(session.publication, chosen[0]).blind
        session.edit("blind folio", lambda p: set_blind(p, chosen, blind))

    def apply_masters(self) -> None:
        from hidden_frame.desktop.dialogs.pages import ApplyDialog

        ApplyDialog(self.session, self.parent).exec()

    def make_master(self) -> None:
        from hidden_frame.desktop.dialogs.masters import PageMasterDialog

        PageMasterDialog(self.session, self.parent).exec()

    def bring_masters(self) -> None:
        from hidden_frame.desktop.dialogs.masters import bring_masters

        bring_masters(self.session, self.parent)

    def departing(self) -> bool:
        """Whether any of the chosen pages overrides something."""
        publication = self.session.publication
        return self.any() and any(find_page(publication, p).overrides for p in self.chosen())

    def follow(self) -> None:
        chosen = self.chosen()
        self.session.lock_pages(chosen)
        self.session.edit("follow the masters", lambda p: follow_on_pages(p, chosen))

    def start_section(self) -> None:
        from hidden_frame.desktop.dialogs.order import SectionDialog

        SectionDialog(self.session, self.chosen()[0], self.parent).exec()

    # -- order ---------------------------------------------------------------------

    def tied(self) -> bool:
        publication = self.session.publication
        return any(find_page(publication, p).tie for p in self.chosen())

    def could_tie(self) -> bool:
        """Whether two pages are selected that face each other."""
        facts = self.session.composition.facts
        pages = self.session.pages
        return len(pages) == 2 and facts[pages[0]].spread == facts[pages[1]].spread

    def toggle_tie(self) -> None:
        chosen = self.chosen()
        if self.tied():
            self.session.edit("no longer keep as a spread", lambda p: untie(p, chosen))
        elif self.could_tie():
            self.session.edit("keep as a spread", lambda p: tie(p, *chosen))

    def held(self) -> bool:
        publication = self.session.publication
        return all(find_page(publication, p).held is not None for p in self.chosen())

    def toggle_held(self) -> None:
        chosen, held = self.chosen(), not self.held()
        name = "lock at this position" if held else "unlock from its position"
        self.session.edit(name, lambda p: hold_pages(p, chosen, held))

    def number_from_here(self) -> None:
        """“This page is page 1.”"""
        page = self.chosen()[0]
        on = running_into(self.session.composition, page)
        self.session.edit("page number 1", lambda p: number_from(p, page, carrying=on)[0])

    def end_section(self) -> None:
        page = self.chosen()[-1]
        on = running_into(self.session.composition, page)
        self.session.edit("end section", lambda p: end_section(p, page, on)[0])

    def select(self, which: str) -> None:
        """All pages, odd or even ones by their folio, or none."""
        session = self.session
        found = [] if which == "none" else pages_in_range(session.publication, which)
        session.select_pages(tuple(found))

    def select_section(self) -> None:
        section = section_of(self.session.publication, self.chosen()[0])
        self.session.select_section(section.id)

    def select_followers(self) -> None:
        """All pages that follow the topmost master of the chosen page."""
        session = self.session
        stack = stack_of(session.publication, find_page(session.publication, self.chosen()[0]))
        if stack:
            found = set(session.composition.followers(stack[-1]))
            order = session.composition.facts
            session.select_pages(tuple(p for p in order if p in found))

    def blind(self, which: str) -> None:
        """Blind folios on the first page of each section or on empty pages, or all shown."""
        change = {
            "first": blind_first_pages, "empty": blind_empty_pages, "none": show_all_folios
        }[which]  # fmt: skip
        self.session.edit("blind folios", change)

    def blind_followers(self) -> None:
        session = self.session
        master = session.master_id
        found = session.composition.followers(master)
        session.edit("blind folios", lambda p: set_blind(p, found, True))

    # -- sections --------------------------------------------------------------------

    def section_of_chosen(self) -> str:
        return section_of(self.session.publication, self.chosen()[0]).id

    def duplicate_section(self, section: str) -> None:
        self.session.edit("duplicate section", lambda p: duplicate_section(p, section)[0])

    def move_section(self, section: str, by: int) -> None:
        """A section one place earlier or later."""
        ids = [s.id for s in self.session.publication.sections]
        at = ids.index(section)
        before = ids[at - 1] if by < 0 else (ids[at + 2] if at + 2 < len(ids) else None)
        if 0 <= at + by < len(ids):
            order_pages(
                self.session, "move section", lambda p: move_section(p, section, before),
                self.parent,
            )  # fmt: skip

    def delete_section(self, section: str, *, pages: bool) -> None:
        publication = self.session.publication
        found = find_section(publication, section)
        name, count = found.name or "the section", len(found.pages)
        told = plural(
            count, "Deleted {name} with its page.", "Deleted {name} with its {n} pages.", name=name
        )
        if not pages:
            told = f"Deleted the section {name}; its pages stay{printed_then(publication, found)}."
        order_pages(
            self.session, "delete section", lambda p: delete_section(p, section, pages=pages),
            self.parent, None, told,
        )  # fmt: skip

    def section_index(self) -> int:
        publication = self.session.publication
        return publication.sections.index(section_of(publication, self.chosen()[0]))

    def join_section(self) -> None:
        section = self.section_of_chosen()
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
        """From a page to the topmost of its masters, and back."""
        session = self.session
        if session.mode == "pages":
            page = find_page(session.publication, session.page_id)
            stack = stack_of(session.publication, page)
            session.show_master(stack[-1] if stack else session.master_id)
        else:
            session.show_page(session.page_id)

    def delete_master(self, master_id: str) -> None:
        """Deletes a master; asks what its pages shall follow if it is in use (R14)."""
        from hidden_frame.desktop.dialogs.pages import DeleteMasterDialog

        session = self.session
        if session.composition.followers(master_id):
            DeleteMasterDialog(session, master_id, self.parent).exec()
        else:
            session.edit("delete master", lambda p: delete_master(p, master_id))
