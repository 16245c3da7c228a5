"""A master dropped among pages: what is carried, and what was foretold done."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.order import order_pages
from hidden_frame.edit.masters.apply import apply_masters
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.interact.words.drops import MasterDrop
from hidden_frame.model.publication import Publication

MASTER_MIME = "application/x-hidden-frame-master"


def carried(event: QDropEvent) -> tuple[str, bool]:
    """The master that is carried, "" for something else; and whether Ctrl adds it on top."""
    master_id = bytes(event.mimeData().data(MASTER_MIME).data()).decode("utf-8", "replace")
    return master_id, bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)


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
