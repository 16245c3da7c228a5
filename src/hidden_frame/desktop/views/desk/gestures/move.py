"""The selected items moved; with Alt, copies of them."""

from __future__ import annotations

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Alt, ItemsGesture, Keys, Shift, named
from hidden_frame.desktop.views.desk.snapper import Snapper
from hidden_frame.edit.items.draw import rehome_items
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot, face_at
from hidden_frame.interact.hands.shown import (
    bounds_on,
    change_shown,
    copied_as_shown,
    pasted_as_shown,
)
from hidden_frame.model.lookup import find_page
from hidden_frame.model.publication import Publication


class MoveGesture(ItemsGesture):
    """Shift keeps to one axis, Alt leaves the items and moves copies, Ctrl does not snap.

    On pages, items whose middle comes over the facing page go to that page.
    """

    def __init__(self, session: Session, start: Spot, zoom: float) -> None:
        super().__init__(session, start)
        self.snapper = Snapper(session, zoom, set(self.items))
        self.chosen = session.items
        self.copying = False
        self.own = self._all_own()
        self.name = ""

    def _all_own(self) -> bool:
        session = self.session
        if session.mode != "pages":
            return False
        own = {i.id for i in find_page(session.publication, session.holder_id).items}
        return own.issuperset(self.items)

    def drag(self, spot: Spot, keys: Keys) -> None:
        dx, dy = self.pull(spot)
        around = self.on_spread(self.around)
        edges = None
        if keys & Shift:
            across = abs(dx) >= abs(dy)
            dx, dy = (dx, 0.0) if across else (0.0, dy)
            there = around.moved(dx, dy)
            edges = (
                (there.left, there.right, there.centre[0]) if across else (),
                (there.top, there.bottom, there.centre[1]) if not across else (),
            )
        snap = self.snapper.snap(around.moved(dx, dy), keys, edges, gaps=edges is None)
        self.lines = snap.lines
        self.move(dx + snap.dx, dy + snap.dy, bool(keys & Alt))

    def move(self, dx: float, dy: float, copying: bool) -> None:
        """The draft in which the items, or copies of them, are moved by so much."""
        session, now = self.session, self.session.history.now
        self.copying = copying
        target = self._target(dx, dy)
        if copying:
            clip = copied_as_shown(now, self.face.holder_id, self.chosen, self.face.side)
            over = dx + self.face.x - target.x
            draft, made = pasted_as_shown(now, target.holder_id, target.side, clip, over, dy)
            in_hand = tuple(made)
        else:
            draft = self._moved(now, dx, dy)
            if target is not self.face:
                draft = rehome_items(
                    draft, self.face.holder_id, target.holder_id, self.chosen,
                    self.face.x - target.x,
                )  # fmt: skip
            in_hand = self.chosen
        session.hold(target, in_hand)
        self.name = named("copy" if copying else "move", len(self.items))
        across, down = "←" if dx < 0 else "→", "↑" if dy < 0 else "↓"
        self.words = f"{across} {self.length(abs(dx))}   {down} {self.length(abs(dy))}"
        session.set_draft(draft)

    def _moved(self, publication: Publication, dx: float, dy: float) -> Publication:
        changes: dict[str, dict[str, object]] = {
            i: {"x": item.x + dx, "y": item.y + dy} for i, item in self.items.items()
        }
        return change_shown(publication, self.face.holder_id, self.face.side, changes)

    def _target(self, dx: float, dy: float) -> Face:
        """The face that the items go to: their own, or the one that their middle is over."""
        if not self.own and not (self.copying and self.session.mode == "pages"):
            return self.face
        width = self.session.publication.setup.trim.width
        middle = self.on_spread(self.around).moved(dx, dy).centre[0]
        return face_at(self.session.faces(), width, middle)

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        if not dragged:
            return
        session = self.session
        items, holder, side = session.items, session.holder_id, session.side
        session.commit_draft(self.name)
        there = bounds_on(session.publication, holder, side)
        face = next((f for f in session.faces() if (f.holder_id, f.side) == (holder, side)), None)
        session.select_items(face, tuple(i for i in items if i in there))
        if self.copying:
            session.tell_copies(self.face.holder_id, self.chosen, holder, items)

    def cancel(self) -> None:
        self.session.hold(self.face, self.chosen)
        super().cancel()
