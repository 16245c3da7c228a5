"""Commands on the selected items."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.draw import (
    change_items,
    duplicate_items,
    group_items,
    remove_items,
    reorder_items,
    ungroup_items,
)
from hidden_frame.edit.items.guides import lock_guides, remove_guide, remove_guides
from hidden_frame.edit.items.spread import Direction, Edge
from hidden_frame.edit.masters.faces import join_faces, split_faces
from hidden_frame.edit.masters.overrides import follow_items, hide_here, make_local
from hidden_frame.interact.hands.flipping import Way, flipped
from hidden_frame.interact.hands.line_up import align, area, distribute, same_size
from hidden_frame.interact.hands.shown import items_on, shown_item, shown_items
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import holder
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.publication import Publication


class ItemActions:
    """Each method is one command; those that can fail say why in a notice."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self.session = session
        self.parent = parent

    # -- what can be done ----------------------------------------------------------

    def own(self) -> bool:
        """Whether what is selected stands on this page or master itself."""
        session = self.session
        if not session.items or session.editing is not None:
            return False
        own = {i.id for i in holder(session.publication, session.holder_id).items}
        return own.issuperset(session.items)

    def changeable(self) -> bool:
        """Whether what is selected may be changed here, master items by override too."""
        session = self.session
        return (
            bool(session.items)
            and session.editing is None
            and session.may_change_all(session.holder_id, session.items)
        )

    def several(self) -> bool:
        return len(self.session.items) > 1 and self.changeable()

    def grouped(self) -> bool:
        if not self.own():
            return False
        items = holder(self.session.publication, self.session.holder_id).items
        return any(i.group for i in items if i.id in self.session.items)

    def local(self) -> bool:
        """Whether what is selected are items of a page's own."""
        return self.session.mode == "pages" and self.own()

    def from_masters(self) -> bool:
        """Whether all that is selected comes from a master, or from a base."""
        session = self.session
        return bool(session.items) and len(self._inherited()) == len(session.items)

    def departing(self) -> bool:
        """Whether something selected departs from its master here."""
        owner = holder(self.session.publication, self.session.holder_id)
        return any(o.item in self.session.items for o in owner.overrides)

    def _inherited(self) -> tuple[str, ...]:
        session = self.session
        own = {i.id for i in holder(session.publication, session.holder_id).items}
        return tuple(i for i in session.items if i not in own)

    def on_both_faces(self) -> bool:
        """Whether one item of a facing master is selected that stands on both faces."""
        if not (self.two_on_master(1) and self.session.publication.setup.facing):
            return False
        owner = holder(self.session.publication, self.session.holder_id).items
        return any(i.id == self.session.items[0] and i.face == "both" for i in owner)

    def two_on_master(self, count: int = 2) -> bool:
        session = self.session
        return session.mode == "masters" and len(session.items) == count and self.own()

    def step(self, by: int) -> None:
        """The next item above or below in the order they are stacked in, on this page."""
        session = self.session
        here, faces = (session.holder_id, session.side), session.faces()
        face = next((f for f in faces if (f.holder_id, f.side) == here), faces[0])
        order = [p.item_id for p in session.scene_of(face).placed]
        if not order:
            return
        at = order.index(session.items[-1]) if session.items and session.items[-1] in order else -1
        to = (at + by) % len(order) if at >= 0 else (0 if by > 0 else len(order) - 1)
        session.select_items(face, (order[to],))

    # -- masters -------------------------------------------------------------------

    def to_master(self, *, keep: bool) -> None:
        from hidden_frame.desktop.dialogs.masters import ToMasterDialog

        ToMasterDialog(self.session, keep=keep, parent=self.parent).exec()

    def split_faces(self) -> None:
        session = self.session
        master, item = session.holder_id, session.items[0]
        if session.edit("split faces", lambda p: split_faces(p, master, item)[0]):
            session.noticed.emit("Now two items, one for each face, to be changed separately.")

    def join_faces(self) -> None:
        session = self.session
        master, (first, second) = session.holder_id, session.items
        session.edit("join faces", lambda p: join_faces(p, master, first, second))

    def unlock(self) -> None:
        self.session.unlock(self.session.holder_id, *self._inherited())

    def unlock_page(self) -> None:
        """Every item that the masters bring to this page may be changed here."""
        session = self.session
        found = items_on(session.publication, session.holder_id, session.side)
        session.unlock(session.holder_id, *(r.item.id for r in found if r.carrier is not None))
        session.noticed.emit("Everything on this page can now be changed here.")

    def hide_here(self) -> None:
        session = self.session
        holder_id, items = session.holder_id, self._inherited()

        def change(publication: Publication) -> Publication:
            for item_id in items:
                publication = hide_here(publication, holder_id, item_id)
            return publication

        if session.edit("hide here", change):  # nothing is held that can't be seen
            session.select_items(None, ())

    def make_local(self) -> None:
        """The selected master items made items of the page's own (R13), and selected."""
        session = self.session
        holder_id, side, items = session.holder_id, session.side, self._inherited()
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            for item_id in items:
                shown = shown_item(publication, holder_id, item_id, side)
                if shown is not None:
                    publication, new_id = make_local(publication, holder_id, item_id, shown)
                    made.append(new_id)
            return publication

        if session.edit("make local", change):
            session.select_items(None, tuple(made))

    def follow(self) -> None:
        """The selected items follow their masters again in everything."""
        session = self.session
        holder_id, items = session.holder_id, session.items
        session.lock(holder_id, *items)
        session.edit("follow the masters", lambda p: follow_items(p, holder_id, items))

    # -- selecting -----------------------------------------------------------------

    def select_all(self) -> None:
        """Every item of the page or face that can be picked up and changed."""
        session = self.session
        if session.editing is not None:
            return
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                found = tuple(
                    p.item_id
                    for p in session.scene_of(face).placed
                    if not p.locked and session.may_change(face.holder_id, p.item_id)
                )
                session.select_items(face, found)

    def select_none(self) -> None:
        self.session.select_items(None, ())

    # -- stacking and grouping -----------------------------------------------------

    def delete(self) -> None:
        session = self.session
        holder_id, items = session.holder_id, session.items
        count = "item" if len(items) == 1 else f"{len(items)} items"
        session.edit(f"delete {count}", lambda p: remove_items(p, holder_id, items))

    def can_flip(self) -> bool:
        """Whether something is selected that may be changed, and that is not words alone."""
        session = self.session
        if not session.items or not session.may_change_all(session.holder_id, session.items):
            return False
        shown = shown_items(session.publication, session.holder_id, session.items, session.side)
        return len(shown) > 1 or not all(isinstance(i, TextFrame) for i in shown.values())

    def flip(self, way: Way) -> None:
        """What is selected, mirrored about its middle."""
        session = self.session
        at = (session.holder_id, session.side, session.items)
        session.edit(f"flip {way}", lambda p: flipped(p, *at, way))

    def duplicate(self) -> None:
        self._made("duplicate", lambda p, h, i: duplicate_items(p, h, i))

    def _made(self, name, change) -> None:  # type: ignore[no-untyped-def]
        """An edit that makes items, which are selected then."""
        session = self.session
        holder_id, items = session.holder_id, list(session.items)
        made: list[str] = []

        def run(publication: Publication) -> Publication:
            publication, new = change(publication, holder_id, items)
            made.extend(new)
            return publication

        if session.edit(name, run):
            session.select_items(None, tuple(made))
            session.tell_copies(holder_id, items, holder_id, made)

    def repeat(self) -> None:
        from hidden_frame.desktop.dialogs.repeat import RepeatDialog

        RepeatDialog(self.session, self.parent).exec()

    def reorder(self, to: str) -> None:
        holder_id, items = self.session.holder_id, list(self.session.items)
        self.session.edit(f"to {to}", lambda p: reorder_items(p, holder_id, items, to))

    def group(self) -> None:
        holder_id, items = self.session.holder_id, list(self.session.items)
        self.session.edit("group", lambda p: group_items(p, holder_id, items))

    def ungroup(self) -> None:
        holder_id, items = self.session.holder_id, list(self.session.items)
        self.session.edit("ungroup", lambda p: ungroup_items(p, holder_id, items))

    def lock(self) -> None:
        """The selected items locked; they are freed from the list of items."""
        session = self.session
        holder_id, items = session.holder_id, session.items
        count = "item" if len(items) == 1 else f"{len(items)} items"
        locked = {i: {"locked": True} for i in items}
        if session.edit(f"lock {count}", lambda p: change_items(p, holder_id, locked)):  # type: ignore[arg-type]
            session.select_items(None, ())
            session.noticed.emit(f"Locked {count}. Unlock them in Items on the Shelf.")

    def unlock_all(self) -> None:
        session = self.session
        items = holder(session.publication, session.holder_id).items
        free = {i.id: {"locked": False} for i in items if i.locked}
        session.edit("unlock items", lambda p: change_items(p, session.holder_id, free))  # type: ignore[arg-type]

    # -- lining up -----------------------------------------------------------------

    def _area(self, fallback: bool) -> Bounds | None:
        """What to line up with; a single item lines up with its margins."""
        session = self.session
        what = session.align_to
        if what == "selection" and fallback and len(session.items) == 1:
            what = "margins"
        facing = len(session.faces()) > 1
        return area(session.publication, session.holder_id, session.side, what, facing)

    def align(self, edge: Edge) -> None:
        session = self.session
        to, holder_id, side, items = (
            self._area(True),
            session.holder_id,
            session.side,
            session.items,
        )
        session.edit(f"align {edge}", lambda p: align(p, holder_id, side, items, edge, to))

    def distribute(self, axis: Direction) -> None:
        session = self.session
        to, holder_id, side, items = (
            self._area(True),
            session.holder_id,
            session.side,
            session.items,
        )
        session.edit("distribute", lambda p: distribute(p, holder_id, side, items, axis, to))

    def same(self, what: str) -> None:
        session = self.session
        holder_id, side, items = session.holder_id, session.side, session.items
        session.edit(
            f"same {what}",
            lambda p: same_size(p, holder_id, side, items, what, session.reference),  # type: ignore[arg-type]
        )

    # -- guides --------------------------------------------------------------------

    def delete_guide(self) -> None:
        at = self.session.guide
        if at is not None:
            self.session.edit("remove a guide", lambda p: remove_guide(p, *at))

    def lock_guides(self, locked: bool) -> None:
        holder_id = self.session.holder_id
        name = "lock guides" if locked else "free guides"
        self.session.edit(name, lambda p: lock_guides(p, holder_id, locked))

    def remove_guides(self) -> None:
        holder_id = self.session.holder_id
        self.session.edit("remove guides", lambda p: remove_guides(p, holder_id))
