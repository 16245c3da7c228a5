"""The desk's widget: shows a spread or a master, and hands gestures to the tools."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPoint, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QApplication, QToolTip, QWidget

from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.compose.shown import shown_item
from hidden_frame.desktop.desk import chrome
from hidden_frame.desktop.desk.hits import Spot, bounds, face_at, handle_at, hit
from hidden_frame.desktop.desk.paper import Paper, Sheet
from hidden_frame.desktop.desk.surface import paint_desk
from hidden_frame.desktop.desk.text_edit import TextEdit, wants_key
from hidden_frame.desktop.desk.tools import (
    DrawGesture,
    Gesture,
    MoveGesture,
    ResizeGesture,
    box_of,
)
from hidden_frame.desktop.desk.view import View, fitted
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.session import Editing, Face, Session
from hidden_frame.model.items import Line, TextFrame
from hidden_frame.model.lookup import masters_by_id

_SLACK = 5.0  # pixels beside a handle or a thin line that still count
_CURSORS = {
    (-1, -1): Qt.CursorShape.SizeFDiagCursor, (1, 1): Qt.CursorShape.SizeFDiagCursor,
    (1, -1): Qt.CursorShape.SizeBDiagCursor, (-1, 1): Qt.CursorShape.SizeBDiagCursor,
    (0, -1): Qt.CursorShape.SizeVerCursor, (0, 1): Qt.CursorShape.SizeVerCursor,
    (-1, 0): Qt.CursorShape.SizeHorCursor, (1, 0): Qt.CursorShape.SizeHorCursor,
}  # fmt: skip


class Desk(QWidget):
    """`master_item_pulled`: someone tried to drag a master's item on a page (global point)."""

    master_item_pulled = Signal(QPoint)
    menu_wanted = Signal(QPoint)
    view_changed = Signal()

    def __init__(self, session: Session, pictures: PictureShelf) -> None:
        super().__init__()
        self.session = session
        self.paper = Paper(pictures)
        self.view = View()
        self.fit = "spread"
        self.text = TextEdit(session, self.edited)
        self.text.moved.connect(self.update)
        self._gesture: Gesture | None = None
        self._pressed: QPointF | None = None
        self._dragged = False
        self._to_drop = ""
        self._panning: QPointF | None = None
        self._space = False
        self._shown_faces: tuple[Face, ...] = ()
        self._blink = QTimer(self)
        self._blink.setInterval(530)
        self._blink.timeout.connect(self._toggle_caret)
        self.caret_on = True
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setMinimumSize(240, 200)
        self.setAccessibleName("Desk")
        session.changed.connect(self._refresh)
        session.looked.connect(self._refresh)

    # -- what is shown -----------------------------------------------------------

    def scene_of(self, face: Face) -> Scene:
        composition = self.session.composition
        if face.holder_id in masters_by_id(self.session.publication):
            return composition.master_scene(face.holder_id, face.side)
        return composition.scene(face.holder_id)

    def sheets(self) -> tuple[Sheet, ...]:
        faces = self.session.faces()
        return tuple(
            Sheet(face, self.scene_of(face), n > 0, n < len(faces) - 1)
            for n, face in enumerate(faces)
        )

    def placed(self, item_id: str) -> tuple[Placed, Face] | None:
        """A selected item where it is shown."""
        for face in self.session.faces():
            if face.holder_id == self.session.holder_id and face.side == self.session.side:
                for placed in self.scene_of(face).placed:
                    if placed.item_id == item_id:
                        return placed, face
        return None

    def edited(self) -> Placed | None:
        editing = self.session.editing
        found = None if editing is None else self.placed(editing.item_id)
        return None if found is None else found[0]

    def _refresh(self) -> None:
        faces = self.session.faces()
        if [(f.x, f.side) for f in faces] != [(f.x, f.side) for f in self._shown_faces]:
            self._shown_faces = faces
            self.refit()
        self._shown_faces = faces
        if self.session.editing is not None:
            self.text.clamp()
            self.caret_on = True
            self._blink.start()
        else:
            self._blink.stop()
        self._set_cursor()
        self.update()

    def _toggle_caret(self) -> None:
        self.caret_on = not self.caret_on
        self.update()

    # -- getting about -----------------------------------------------------------

    def refit(self) -> None:
        """Fits the spread or the page again, if one of them is to be kept fitted."""
        if self.fit:
            self.fit_to(self.fit)

    def fit_to(self, what: str) -> None:
        """Shows the whole `spread`, or the `page` that is worked on."""
        faces = self.session.faces()
        if not faces:
            return
        if what == "page":
            chosen = [f for f in faces if f.holder_id == self.session.holder_id]
            chosen = [f for f in chosen if f.side == self.session.side] or chosen
            faces = tuple(chosen[:1]) or faces
        trim = self.session.publication.setup.trim
        left = min(f.x for f in faces)
        right = max(f.x for f in faces) + trim.width
        self.fit = what
        self._look(fitted(left, 0.0, right, trim.height, self.width(), self.height()))

    def zoom_by(self, factor: float, at: QPointF | None = None) -> None:
        point = at if at is not None else QPointF(self.width() / 2, self.height() / 2)
        self.fit = ""
        self._look(self.view.zoomed(factor, point.x(), point.y()))

    def _look(self, view: View) -> None:
        if view != self.view:
            self.view = view
            self.view_changed.emit()
            self.update()

    # -- painting ----------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        paint_desk(self)

    # -- mouse -------------------------------------------------------------------

    def spot(self, point: QPointF) -> Spot:
        """The page and the place on it under a widget point."""
        x, y = self.view.to_spread(point.x(), point.y())
        face = face_at(self.session.faces(), self.session.publication.setup.trim.width, x)
        return Spot(face, x - face.x, y)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        point = event.position()
        middle = event.button() == Qt.MouseButton.MiddleButton
        if middle or (self._space and event.button() == Qt.MouseButton.LeftButton):
            self._panning = point
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        if self.session.proof:
            return
        spot = self.spot(point)
        if event.button() == Qt.MouseButton.RightButton:
            self._pick(spot, event.modifiers(), keep=True)
            self.menu_wanted.emit(event.globalPosition().toPoint())
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._pressed, self._dragged = point, False
        self._to_drop = ""
        if self.session.editing is not None:
            if self._within_edited(spot):
                extend = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
                self.text.press(spot.x, spot.y, extend)
                return
            self.session.edit_text(None)
        self._gesture = self._gesture_at(spot, event)

    def _within_edited(self, spot: Spot) -> bool:
        editing = self.session.editing
        same = editing is not None and (
            (editing.holder_id, editing.side) == (spot.face.holder_id, spot.face.side)
        )
        found = hit(self.scene_of(spot.face), spot.x, spot.y, 0.0) if same else None
        return found is not None and editing is not None and found.item_id == editing.item_id

    def _gesture_at(self, spot: Spot, event: QMouseEvent) -> Gesture | None:
        session = self.session
        if session.tool != "select":
            return DrawGesture(session, session.tool, spot)
        if len(session.items) == 1 and session.may_change(session.holder_id, session.items[0]):
            item = shown_item(
                session.publication, session.holder_id, session.items[0], session.side
            )
            found = self.placed(session.items[0])
            if item is not None and found is not None:
                x = spot.x + spot.face.x - found[1].x
                slack = (_SLACK + chrome.HANDLE / 2) / self.view.zoom
                handle = handle_at(box_of(item), x, spot.y, slack, isinstance(item, Line))
                if handle is not None:
                    return ResizeGesture(session, item, handle, spot)
        self._pick(spot, event.modifiers(), keep=True)
        if not session.items:
            return None
        if all(session.may_change(session.holder_id, i) for i in session.items):
            return MoveGesture(session, spot)
        return None

    def _pick(self, spot: Spot, held: Qt.KeyboardModifier, *, keep: bool) -> None:
        """Selects what is at a point; with Shift adds it, or takes it away."""
        session = self.session
        found = hit(self.scene_of(spot.face), spot.x, spot.y, _SLACK / self.view.zoom)
        same = (spot.face.holder_id, spot.face.side) == (session.holder_id, session.side)
        if found is None:
            if not held & Qt.KeyboardModifier.ShiftModifier:
                session.select_items(spot.face, ())
            return
        chosen = found.item_id
        if held & Qt.KeyboardModifier.ShiftModifier and same:
            if chosen in session.items:  # a drag may follow; a mere click takes it away
                self._to_drop = chosen
            else:
                session.select_items(spot.face, (*session.items, chosen))
        elif not (keep and same and chosen in session.items):
            session.select_items(spot.face, (chosen,))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        if self._panning is not None:
            delta = point - self._panning
            self._panning = point
            self.fit = ""
            self._look(self.view.moved(delta.x(), delta.y()))
            return
        if self._pressed is None:
            self._set_cursor(point)
            return
        if not self._dragged:
            far = (point - self._pressed).manhattanLength()
            if far < QApplication.startDragDistance():
                return
            self._dragged = True
            if self._gesture is None and self._master_item_selected():
                self._pressed = None
                self.master_item_pulled.emit(event.globalPosition().toPoint())
                return
        spot = self.spot(point)
        if self.session.editing is not None:
            self.text.press(spot.x, spot.y, extend=True)
        elif self._gesture is not None:
            self._gesture.drag(spot, event.modifiers())
        else:
            self.update()

    def _master_item_selected(self) -> bool:
        session = self.session
        return bool(session.items) and any(
            not session.may_change(session.holder_id, i) for i in session.items
        )

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._panning is not None:
            self._panning = None
            self._set_cursor()
            return
        gesture, self._gesture = self._gesture, None
        pressed, self._pressed = self._pressed, None
        if gesture is not None and pressed is not None:
            if self._to_drop and not self._dragged:
                kept = tuple(i for i in self.session.items if i != self._to_drop)
                self.session.select_items(None, kept)
            drawn = isinstance(gesture, DrawGesture) and gesture.tool == "text"
            gesture.release(self.spot(event.position()), event.modifiers(), self._dragged)
            if drawn:
                self.begin_text()
        self._dragged = False

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        spot = self.spot(event.position())
        if self.session.proof:
            return
        if self.session.editing is not None and self._within_edited(spot):
            self.text.select_word(spot.x, spot.y)
            return
        self._pick(spot, event.modifiers(), keep=False)
        self.begin_text()

    def begin_text(self) -> None:
        """Starts editing the selected frame's text, if it may be changed here."""
        session = self.session
        if len(session.items) != 1:
            return
        item_id = session.items[0]
        item = shown_item(session.publication, session.holder_id, item_id, session.side)
        if not isinstance(item, TextFrame):
            return
        if not session.may_change(session.holder_id, item_id):
            at = self.placed(item_id)
            where = self.rect().center()
            if at is not None:
                left, _, right, bottom = bounds(at[0])
                x, y = self.view.to_widget((left + right) / 2 + at[1].x, bottom)
                where = QPoint(round(x), round(y))
            self.master_item_pulled.emit(self.mapToGlobal(where))
            return
        self.setFocus()
        self.text.begin(Editing(session.holder_id, item_id, session.side))

    def wheelEvent(self, event: QWheelEvent) -> None:
        delta = event.pixelDelta() if not event.pixelDelta().isNull() else event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom_by(1.0015 ** event.angleDelta().y(), event.position())
        else:
            across, down = delta.x(), delta.y()
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                across, down = down, across
            self.fit = ""
            self._look(self.view.moved(across, down))

    # -- keys --------------------------------------------------------------------

    def event(self, event: QEvent) -> bool:
        # Tab belongs to the text while one is edited; otherwise it moves the focus.
        if event.type() == QEvent.Type.KeyPress and self.session.editing is not None:
            self.keyPressEvent(event)  # type: ignore[arg-type]
            return True
        overriding = event.type() == QEvent.Type.ShortcutOverride and self.session.editing
        if overriding and isinstance(event, QKeyEvent) and wants_key(event):
            event.accept()
            return True
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            return self._tell(event)
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        session = self.session
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Escape:
            self._escape()
        elif session.editing is not None:
            if not self.text.key(event):
                super().keyPressEvent(event)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.begin_text()
        elif key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        elif key in _NUDGES:
            far = 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self._nudge(_NUDGES[key][0] * far, _NUDGES[key][1] * far)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            self._set_cursor()
        super().keyReleaseEvent(event)

    def _escape(self) -> None:
        """One step out: of a gesture, of a text, of a tool, of the selection."""
        session = self.session
        if self._gesture is not None:
            self._gesture.cancel()
            self._gesture = self._pressed = None
        elif session.editing is not None:
            session.edit_text(None)
        elif session.tool != "select":
            session.set_tool("select")
        else:
            session.select_items(None, ())

    def _nudge(self, dx: float, dy: float) -> None:
        session = self.session
        if not session.items:
            return
        if self._master_item_selected():
            session.noticed.emit(
                "This item comes from a master; choose Override here in Properties to move it."
            )
            return
        gesture = MoveGesture(session, Spot(session.faces()[0], 0.0, 0.0))
        gesture.drag(Spot(session.faces()[0], dx, dy), Qt.KeyboardModifier.NoModifier)
        draft = session.draft
        session.draft = None
        if draft is not None:
            session.edit("nudge", lambda _: draft, f"nudge {session.items}")

    # -- the rest ----------------------------------------------------------------

    def _set_cursor(self, point: QPointF | None = None) -> None:
        session = self.session
        shape = Qt.CursorShape.ArrowCursor
        if session.editing is not None:
            shape = Qt.CursorShape.IBeamCursor
        elif session.tool != "select":
            shape = Qt.CursorShape.CrossCursor
        elif point is not None and len(session.items) == 1:
            item_id = session.items[0]
            found = self.placed(item_id)
            item = shown_item(session.publication, session.holder_id, item_id, session.side)
            if found and item and session.may_change(session.holder_id, item_id):
                x, y = self.view.to_spread(point.x(), point.y())
                slack = (_SLACK + chrome.HANDLE / 2) / self.view.zoom
                line = isinstance(item, Line)
                handle = handle_at(box_of(item), x - found[1].x, y, slack, line)
                if handle is not None:
                    shape = _CURSORS[handle]
        self.setCursor(shape)

    def _tell(self, event: QHelpEvent) -> bool:
        """Says why a text does not fit, when the pointer rests on its frame."""
        spot = self.spot(QPointF(event.pos()))
        found = hit(self.scene_of(spot.face), spot.x, spot.y, _SLACK / self.view.zoom)
        if found is not None and found.drawing.overflow is not None:
            QToolTip.showText(event.globalPos(), found.drawing.overflow.sentence, self)
        else:
            QToolTip.hideText()
        return True

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.refit()
        super().resizeEvent(event)


_NUDGES = {
    Qt.Key.Key_Left: (-1.0, 0.0),
    Qt.Key.Key_Right: (1.0, 0.0),
    Qt.Key.Key_Up: (0.0, -1.0),
    Qt.Key.Key_Down: (0.0, 1.0),
}
