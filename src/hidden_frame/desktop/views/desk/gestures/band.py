"""A rubber band around items."""

from __future__ import annotations

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Ctrl, Gesture, Keys, Shift
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.hands.shown import bounds_on
from hidden_frame.model.plane.box import Bounds


class BandGesture(Gesture):
    """Selects what the band touches, or only what it encloses; Ctrl does the other of
    the two.  Shift adds to the selection.  Items of one page are selected: of the page
    on which the band began, unless it meets none there.
    """

    def __init__(self, session: Session, start: Spot) -> None:
        super().__init__(session, start)
        self.band: Bounds | None = None  # on the spread
        self.enclosing = False
        self.found: tuple[Face, tuple[str, ...]] = (start.face, ())
        self.before = session.items if self._same(start.face) else ()

    def _same(self, face: Face) -> bool:
        session = self.session
        return (face.holder_id, face.side) == (session.holder_id, session.side)

    def drag(self, spot: Spot, keys: Keys) -> None:
        x1, y1 = self.start.x + self.start.face.x, self.start.y
        x2, y2 = spot.x + spot.face.x, spot.y
        self.band = Bounds(min(x1, x2), min(y1, y2), max(x1, x2), max(y1, y2))
        self.enclosing = settings().now.enclosing != bool(keys & Ctrl)
        faces = sorted(self.session.faces(), key=lambda f: f is not self.start.face)
        faces.sort(key=lambda f: f != self.start.face)
        self.found = (self.start.face, ())
        for face in faces:
            items = self._within(face)
            if items:
                self.found = (face, items)
                break
        count = len(self.found[1])
        how = "enclosed" if self.enclosing else "touched"
        self.words = f"{count} {how}"

    def _within(self, face: Face) -> tuple[str, ...]:
        """The items of a face that the band takes: those that may be changed there."""
        assert self.band is not None
        session, band = self.session, self.band.moved(-face.x, 0.0)
        takes = band.encloses if self.enclosing else band.touches
        scene = session.scene_of(face)
        bounds = bounds_on(session.publication, face.holder_id, face.side)
        free = [p.item_id for p in scene.placed if not p.locked]
        return tuple(
            item_id
            for item_id in free
            if item_id in bounds
            and takes(bounds[item_id])
            and session.may_change(face.holder_id, item_id)
        )

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        face, items = self.found
        if not dragged:
            return
        if keys & Shift and self._same(face):
            items = (*self.before, *(i for i in items if i not in self.before))
        self.session.select_items(face, self.session.with_groups(face.holder_id, items))

    def cancel(self) -> None:
        self.band = None
