"""A guide pulled out of a ruler, moved, or dragged away."""

from __future__ import annotations

from typing import Literal

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Gesture, Keys, Shift
from hidden_frame.desktop.views.desk.snapper import Snapper
from hidden_frame.edit.items.guides import add_guide, move_guide, own_guides, remove_guide
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.sight.value import GuideAt
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.plane.mirror import guide_x
from hidden_frame.model.publication import Publication

Orientation = Literal["horizontal", "vertical"]


class GuideGesture(Gesture):
    """`existing` None pulls a new guide onto the page under the pointer; with Shift a level
    one goes to every page of the spread.  Dropped beside the pages, a guide goes away.
    """

    def __init__(
        self,
        session: Session,
        axis: Orientation,
        start: Spot,
        zoom: float,
        existing: GuideAt | None,
    ) -> None:
        super().__init__(session, start)
        self.axis: Orientation = axis
        self.existing = existing
        self.snapper = Snapper(session, zoom, set())
        self.outside = False
        self.at: GuideAt | None = existing
        if existing is not None:  # it would snap to itself
            old = self._old(existing)
            x = guide_x(old.position, start.face.side, session.publication.setup.trim.width)
            mine = x + start.face.x if axis == "vertical" else old.position
            self.snapper.targets = [  # a new list: the old one is remembered
                t for t in self.snapper.targets
                if not (t.word == "guide" and abs(t.at - mine) < 1e-6)
            ]  # fmt: skip

    def _old(self, at: GuideAt) -> Guide:
        return own_guides(self.session.history.now, at.holder_id)[at.number]

    def drag(self, spot: Spot, keys: Keys) -> None:
        session, now = self.session, self.session.history.now
        trim = now.setup.trim
        reach = 12.0
        across = -reach <= spot.x <= trim.width + reach
        self.outside = not (across and -reach <= spot.y <= trim.height + reach)
        face = self.start.face if self.existing is not None else spot.face
        if self.outside:
            self.lines, self.words = (), "removes the guide" if self.existing else ""
            draft = now
            if self.existing is not None:
                draft = remove_guide(now, *self.existing)
            session.set_draft(draft)
            return
        place = self._place(spot, face, keys)
        try:
            draft = self._with(now, face, place, bool(keys & Shift))
        except Refusal as refusal:
            self.words = str(refusal)
            return
        wide = keys & Shift and self.axis == "horizontal" and session.mode == "pages"
        shown = guide_x(place, face.side, trim.width) if self.axis == "vertical" else place
        zero = session.zero[0 if self.axis == "vertical" else 1]
        where = " · across the spread" if wide and self.existing is None else ""
        self.words = f"{self.length(shown - zero)}{where}"
        session.set_draft(draft)

    def _place(self, spot: Spot, face: Face, keys: Keys) -> float:
        """The guide's position, drawn to what is near it."""
        x, y = spot.x + spot.face.x, spot.y
        upright = self.axis == "vertical"
        edges = ((x,), ()) if upright else ((), (y,))
        # Shift spreads a level guide out; it is no reason not to snap.
        snap = self.snapper.snap(Bounds(x, y, x, y), keys & ~Shift, edges, gaps=False)
        self.lines = snap.lines
        if not upright:
            return y + snap.dy
        width = self.session.publication.setup.trim.width
        return guide_x(x + snap.dx - face.x, face.side, width)

    def _with(self, now: Publication, face: Face, place: float, wide: bool) -> Publication:
        if self.existing is not None:
            return move_guide(now, *self.existing, place)
        holders = [face.holder_id]
        if wide and self.axis == "horizontal" and self.session.mode == "pages":
            holders = [f.holder_id for f in self.session.faces()]
        for holder in holders:
            now = add_guide(now, holder, Guide(self.axis, place))
        self.at = GuideAt(face.holder_id, len(own_guides(now, face.holder_id)) - 1)
        return now

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        session = self.session
        if not dragged:
            return
        if self.existing is None:
            name = "add a guide"
        else:
            name = "remove a guide" if self.outside else "move a guide"
        draft_is_new = session.draft is not None and session.draft is not session.history.now
        session.commit_draft(name)
        if not self.outside and self.at is not None and draft_is_new:
            session.select_guide(*self.at)
        elif self.outside:
            session.let_guide_go()
