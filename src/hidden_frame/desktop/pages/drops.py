"""What a master that is dropped among pages does: told beforehand, then done.

On a page it is applied, with Ctrl added on top; between two pages it makes a new page.
"""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QWidget

from hidden_frame.compose.facts import page_name
from hidden_frame.desktop.actions.order import order_pages
from hidden_frame.desktop.session import Session
from hidden_frame.edit.masters.apply import apply_masters
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.interact.foretold import gap_in_words
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
from hidden_frame.model.publication import Publication

MASTER_MIME = "application/x-hidden-frame-master"
EDGE = 0.16  # of a thumbnail's width, at each side: a drop there goes between pages


def carried(event: QDropEvent) -> tuple[str, bool]:
    """The master that is carried, "" for something else; and whether Ctrl adds it on top."""
    master_id = bytes(event.mimeData().data(MASTER_MIME).data()).decode()
    return master_id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)


class MasterDrop(NamedTuple):
    """A drop's meaning: on `pages`, or between pages at a `place` (section and index there)."""

    master_id: str
    pages: tuple[str, ...]
    place: tuple[str, int] | None
    adding: bool
    words: str


def on_page(session: Session, master_id: str, page_id: str, adding: bool) -> MasterDrop:
    """A master on a page, or on all selected ones if it is among them."""
    publication = session.publication
    known = masters_by_id(publication)
    name = known[master_id].name
    pages = session.pages if page_id in session.pages else (page_id,)
    facts = session.composition.facts[page_id]
    on = f"page {page_name(facts)}" if len(pages) == 1 else f"{len(pages)} pages"
    if adding:
        return MasterDrop(master_id, pages, None, True, f"Add “{name}” on top of {on}")
    words = f"Apply “{name}” to {on}"
    stack = [known[m].name for m in stack_of(publication, find_page(publication, page_id))]
    if len(pages) == 1 and stack and stack != [name]:
        words += f", in place of {' + '.join(stack)}"
    return MasterDrop(master_id, pages, None, False, words)


def between(session: Session, master_id: str, place: tuple[str, int]) -> MasterDrop:
    """A new page that follows a master, at a place between pages."""
    name = masters_by_id(session.publication)[master_id].name
    where = gap_in_words(session.publication, *place)
    where, _, within = where.partition(", in ")
    words = f"New page {where}, following “{name}”" + (f", in {within}" if within else "")
    return MasterDrop(master_id, (), place, False, words)


def carry_out(session: Session, drop: MasterDrop, parent: QWidget) -> None:
    """Does what was foretold, as one step."""
    if drop.place is None:
        mode = "add" if drop.adding else "replace"
        name = "add master on top" if drop.adding else "apply master"
        session.edit(
            name,
            lambda p: apply_masters(p, drop.pages, (drop.master_id,), mode),  # type: ignore[arg-type]
        )
        return
    section, index = drop.place
    made: list[str] = []

    def change(publication: Publication) -> Publication:
        made.clear()
        publication, ids = add_pages(publication, section, index, 1, (drop.master_id,))
        made.extend(ids)
        return publication

    if order_pages(session, "add page", change, parent):
        session.select_pages(tuple(made))
