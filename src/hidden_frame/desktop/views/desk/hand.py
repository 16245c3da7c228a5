"""The hand on the desk: which gesture a press begins, and what a click selects."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPoint, QPointF, Qt, Signal
from PySide6.QtGui import QMouseEvent

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.camera import Camera
from hidden_frame.desktop.views.desk.chrome import HANDLE, KNOB
from hidden_frame.desktop.views.desk.gestures.band import BandGesture
from hidden_frame.desktop.views.desk.gestures.base import Ctrl, Gesture, Shift
from hidden_frame.desktop.views.desk.gestures.crop import CropGesture
from hidden_frame.desktop.views.desk.gestures.draw import DrawGesture
from hidden_frame.desktop.views.desk.gestures.guide import GuideGesture
from hidden_frame.desktop.views.desk.gestures.move import MoveGesture
from hidden_frame.desktop.views.desk.gestures.size import SizeGesture
from hidden_frame.desktop.views.desk.gestures.turn import TurnGesture
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.desk.snapper import layout_of
from hidden_frame.edit.items.guides import move_guide, own_guides
from hidden_frame.interact.hands.cropping import picture_of
from hidden_frame.interact.hands.hits import Spot, all_hits, guide_at, handle_at, hit, turn_knob
from hidden_frame.interact.hands.shown import box_of, shown_item
from hidden_frame.interact.sight.value import GuideAt
from hidden_frame.model.items import TextFrame
from hidden_frame.model.plane.box import Handle, holds

SLACK = 5.0  # pixels beside a handle or a thin line that still count
GUIDE_SLACK = 3.0  # pixels
FAR = 3  # pixels that something is pulled before it is dragged


class Hand(QObject):
    """Told of press, move and release by the desk; `gesture` is what is going on.

    `moved`: what it shows has changed; `frame_drawn`: a text frame was drawn, to write in;
    `master_item_pulled`: someone tried to drag a master's item on a page (global point).
    """

    moved = Signal()
    frame_drawn = Signal()
    master_item_pulled = Signal(QPoint)

    def __init__(self, session: Session, camera: Camera, selected: Selected) -> None:
        super().__init__(camera)
        self.session, self.camera, self.selected = session, camera, selected
        self.gesture: Gesture | None = None
        self.pressed: QPointF | None = None
        self.dragged = False
        self._to_drop = ""
        self._below = False

    # -- what is under the pointer -------------------------------------------------

    def handle_under(self, spot: Spot) -> Handle | str | None:
        """The handle at a spot, or “turn” on the knob that turns."""
        found = self.selected.box()
        if found is None:
            return None
        box, line = found
        zoom = self.camera.view.zoom
        x = spot.x + spot.face.x - self.selected.face().x
        slack = (SLACK + HANDLE / 2) / zoom
        handle = handle_at(box, x, spot.y, slack, line)
        if handle is not None:
            return handle
        if not line and not self.session.cropping:
            kx, ky = turn_knob(box, KNOB / zoom)
            if max(abs(kx - x), abs(ky - spot.y)) <= slack:
                return "turn"
        return None

    def guide_under(self, spot: Spot) -> tuple[GuideAt, str] | None:
        """The page's or master's own free guide at a spot, and its axis."""
        session = self.session
        if not settings().now.guides:
            return None
        layout = layout_of(session, spot.face)
        width = session.publication.setup.trim.width
        slack = GUIDE_SLACK / self.camera.view.zoom
        index = guide_at(layout, spot.face, width, spot.x, spot.y, slack)
        if index is None:
            return None
        own = own_guides(session.publication, spot.face.holder_id)
        # A page shows its master's guides first, then its own.
        index -= len(layout.guides) - len(own)
        if not 0 <= index < len(own) or own[index].locked:
            return None
        return GuideAt(spot.face.holder_id, index), own[index].axis

    # -- press, move, release --------------------------------------------------------

    def press(self, spot: Spot, event: QMouseEvent) -> None:
        self.pressed, self.dragged = event.position(), False
        self._to_drop, self._below = "", False
        self.gesture = self._begin(spot, event.modifiers())

    def _begin(self, spot: Spot, keys: Qt.KeyboardModifier) -> Gesture | None:
        session, zoom = self.session, self.camera.view.zoom
        if session.tool != "select":
            return DrawGesture(session, session.tool, spot, zoom)
        handle = self.handle_under(spot)
        if handle == "turn":
            return TurnGesture(session, spot)
        if session.cropping:
            if isinstance(handle, tuple):
                return CropGesture(session, spot, handle)
            if self._on_cropped(spot):
                return CropGesture(session, spot)
            session.crop(False)
        if isinstance(handle, tuple):
            return SizeGesture(session, handle, spot, zoom)
        guide = self.guide_under(spot)
        if guide is not None and not self._on_selected(spot):
            session.select_guide(*guide[0])
            return GuideGesture(session, guide[1], spot, zoom, guide[0])  # type: ignore[arg-type]
        if not self.pick(spot, keys):
            return BandGesture(session, spot)
        if session.may_change_all(session.holder_id, session.items):
            return MoveGesture(session, spot, zoom)
        return None

    def _on_cropped(self, spot: Spot) -> bool:
        """Whether a spot lies on the picture that is being cropped, or on its frame."""
        session = self.session
        item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
        found = self.selected.box()
        x = spot.x + spot.face.x - self.selected.face().x
        return item is not None and (
            holds(box_of(item), x, spot.y) or (found is not None and holds(found[0], x, spot.y))
        )

    def begin_crop(self) -> bool:
        """Starts moving the selected picture in its frame; False if it is none."""
        session = self.session
        if len(session.items) != 1:
            return False
        item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
        if picture_of(session.publication, item) is None:
            return False
        if session.may_change(session.holder_id, session.items[0]):
            session.crop(True)
        return True

    def _on_selected(self, spot: Spot) -> bool:
        """Whether the topmost item at a spot is selected already."""
        spot = self.session.owning(spot)
        found = hit(self.session.scene_of(spot.face), spot.x, spot.y, 0.0)
        return found is not None and found.item_id in self.session.items

    def pick(self, spot: Spot, keys: Qt.KeyboardModifier, *, alone: bool = False) -> bool:
        """Selects what is at a spot, with its group unless `alone`; with Shift adds it or
        takes it away.  False if nothing is there."""
        session = self.session
        slack = SLACK / self.camera.view.zoom
        spot = session.owning(spot, slack)
        hits = all_hits(session.scene_of(spot.face), spot.x, spot.y, slack)
        same = (spot.face.holder_id, spot.face.side) == (session.holder_id, session.side)
        if not hits:
            if not keys & Shift:
                session.select_items(spot.face, ())
            return False
        here = [p.item_id for p in hits]
        if same and keys & Ctrl and any(i in session.items for i in here):
            self._below = True  # a click takes the one below; a drag moves what is selected
            return True
        chosen: tuple[str, ...] = (here[0],)
        if not alone:
            chosen = session.with_groups(spot.face.holder_id, chosen)
        if keys & Shift and same:
            if here[0] in session.items:  # a drag may follow; a mere click takes it away
                self._to_drop = here[0]
            else:
                session.select_items(spot.face, (*session.items, *chosen))
        elif alone or not (same and here[0] in session.items):
            session.select_items(spot.face, chosen)
        return True

    def pick_below(self, spot: Spot) -> None:
        """Selects the next lower item at a spot, and after the lowest the topmost again."""
        session = self.session
        slack = SLACK / self.camera.view.zoom
        spot = session.owning(spot, slack)
        here = [p.item_id for p in all_hits(session.scene_of(spot.face), spot.x, spot.y, slack)]
        at = next((n for n, i in enumerate(here) if i in session.items), -1)
        if here:
            session.select_items(spot.face, (here[(at + 1) % len(here)],))

    def drag(self, spot: Spot, event: QMouseEvent) -> None:
        point = event.position()
        if self.pressed is None:
            return
        if not self.dragged:
            far = (point - self.pressed).manhattanLength()
            if far < FAR:
                return
            self.dragged = True
        if self.gesture is not None:
            self.gesture.drag(spot, event.modifiers())
            self.moved.emit()

    def again(self, spot: Spot, keys: Qt.KeyboardModifier) -> None:
        """The gesture as it goes on when only a key was pressed or let go."""
        if self.gesture is not None and self.dragged:
            self.gesture.drag(spot, keys)
            self.moved.emit()

    def release(self, spot: Spot, event: QMouseEvent) -> None:
        gesture, self.gesture = self.gesture, None
        pressed, self.pressed = self.pressed, None
        if pressed is None:
            return
        if not self.dragged and self._to_drop:
            kept = tuple(i for i in self.session.items if i != self._to_drop)
            self.session.select_items(None, kept)
        if not self.dragged and self._below:
            self.pick_below(spot)
        if gesture is None and self.dragged and self.master_item_selected():
            # It has not moved; what can be done with it is offered where it was let go.
            self.master_item_pulled.emit(event.globalPosition().toPoint())
        if gesture is not None:
            drawn = isinstance(gesture, DrawGesture) and gesture.tool == "text"
            gesture.release(spot, event.modifiers(), self.dragged)
            if drawn:
                self.frame_drawn.emit()
        self.dragged = False
        self.moved.emit()

    def cancel(self) -> bool:
        """Gives up what is going on; False if nothing is."""
        if self.gesture is None:
            return False
        self.gesture.cancel()
        self.gesture = self.pressed = None
        self.dragged = False
        self.moved.emit()
        return True

    def master_item_selected(self) -> bool:
        session = self.session
        return bool(session.items) and not session.may_change_all(session.holder_id, session.items)

    def nudge(self, dx: float, dy: float) -> None:
        """The selected items, or the selected guide, moved by a key."""
        session = self.session
        if session.guide is not None:
            self._nudge_guide(dx, dy)
            return
        if not session.items:
            return
        if self.master_item_selected():
            session.noticed.emit(
                "This item comes from a master; to move it, choose Override here in Properties."
            )
            return
        face, name = self.selected.face(), "nudge"
        if session.cropping:
            crop, name = CropGesture(session, Spot(face, 0.0, 0.0)), "crop a picture"
            crop.show(dx, dy)
        else:
            gesture = MoveGesture(session, Spot(face, 0.0, 0.0), self.camera.view.zoom)
            gesture.own = False  # a nudge never carries an item to the facing page
            gesture.move(dx, dy, copying=False)
        draft = session.draft
        session.draft = None
        if draft is not None:
            session.edit(name, lambda _: draft, f"{name} {session.items}")

    def _nudge_guide(self, dx: float, dy: float) -> None:
        session = self.session
        at = session.guide
        if at is None:
            return
        guide = own_guides(session.publication, at.holder_id)[at.number]
        side = session.side_of(at.holder_id)
        across = dx if side == "recto" else -dx
        by = across if guide.axis == "vertical" else dy
        session.edit(
            "move a guide", lambda p: move_guide(p, *at, guide.position + by), f"guide {at}"
        )

    def cursor(self, spot: Spot) -> Qt.CursorShape:
        """The pointer's shape over a spot."""
        handle = self.handle_under(spot)
        if handle == "turn":
            return Qt.CursorShape.PointingHandCursor
        if isinstance(handle, tuple):
            return _CURSORS[handle]
        guide = self.guide_under(spot)
        if guide is not None and not self._on_selected(spot):
            upright = guide[1] == "vertical"
            return Qt.CursorShape.SplitHCursor if upright else Qt.CursorShape.SplitVCursor
        return Qt.CursorShape.ArrowCursor

    def text_frame(self) -> str | None:
        """The selected text frame, if it is the only thing selected."""
        session = self.session
        if len(session.items) != 1:
            return None
        item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
        return item.id if isinstance(item, TextFrame) else None


_CURSORS = {
    (-1, -1): Qt.CursorShape.SizeFDiagCursor, (1, 1): Qt.CursorShape.SizeFDiagCursor,
    (1, -1): Qt.CursorShape.SizeBDiagCursor, (-1, 1): Qt.CursorShape.SizeBDiagCursor,
    (0, -1): Qt.CursorShape.SizeVerCursor, (0, 1): Qt.CursorShape.SizeVerCursor,
    (-1, 0): Qt.CursorShape.SizeHorCursor, (1, 0): Qt.CursorShape.SizeHorCursor,
}  # fmt: skip
