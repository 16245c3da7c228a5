"""What all gestures share: press, drag and release in page coordinates.

A gesture answers with drafts, which show at once, and at last with one edit.  While
it goes on, the desk shows its snap `lines` and says its `words` at the pointer.
"""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import Qt

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.selected import selected_face
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.hands.shown import box_of, change_shown, shown_items
from hidden_frame.interact.hands.snapping import SnapLine
from hidden_frame.model.items import is_level
from hidden_frame.model.plane.box import Bounds, Box, around_all, bounds_of
from hidden_frame.model.units import short_length

Keys = Qt.KeyboardModifier
Shift = Qt.KeyboardModifier.ShiftModifier
Alt = Qt.KeyboardModifier.AltModifier
Ctrl = Qt.KeyboardModifier.ControlModifier


class Gesture:
    """A press that goes on; `drag` is called past the drag distance only."""

    lines: tuple[SnapLine, ...] = ()
    words: str = ""

    def __init__(self, session: Session, start: Spot) -> None:
        self.session = session
        self.start = start

    def drag(self, spot: Spot, keys: Keys) -> None:
        raise NotImplementedError

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        raise NotImplementedError

    def cancel(self) -> None:
        self.session.set_draft(None)

    def pull(self, spot: Spot) -> tuple[float, float]:
        """How far the pointer has gone since the press, in points."""
        x = spot.x + spot.face.x - self.start.x - self.start.face.x
        return x, spot.y - self.start.y

    def length(self, points: float) -> str:
        return short_length(points, self.session.publication.setup.unit)


class ItemsGesture(Gesture):
    """A gesture on the selected items, whose boxes it remembers from the start.

    Boxes stand in the coordinates of the page that holds the items.
    """

    def __init__(self, session: Session, start: Spot) -> None:
        super().__init__(session, start)
        items = shown_items(session.publication, session.holder_id, session.items, session.side)
        self.items = items
        self.boxes = {i: box_of(item) for i, item in items.items()}
        self.face = selected_face(session)
        self.around = around_all(bounds_of(b) for b in self.boxes.values())

    def show(self, boxes: Mapping[str, Box]) -> None:
        """The draft in which the items have these boxes."""
        session = self.session
        changes: dict[str, dict[str, object]] = {}
        for item_id, box in boxes.items():
            before, values = self.boxes[item_id], box._asdict()
            if is_level(self.items[item_id]):
                values["height"] = before.height
            changes[item_id] = {
                name: value for name, value in values.items() if value != getattr(before, name)
            }
        now = session.history.now
        session.set_draft(change_shown(now, session.holder_id, session.side, changes))

    def on_spread(self, bounds: Bounds) -> Bounds:
        return bounds.moved(self.face.x, 0.0)


def named(verb: str, count: int) -> str:
    """The undo step's name: “move”, “move 3 items”."""
    return verb if count == 1 else f"{verb} {count} items"
