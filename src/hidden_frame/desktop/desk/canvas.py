"""The desk's widget: shows a spread or a master, and hands mouse and keys on."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragMoveEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QToolTip, QWidget

from hidden_frame.compose.contrast import poor_contrast
from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.desk.edges import EdgeScroll
from hidden_frame.desktop.desk.hand import SLACK, Hand
from hidden_frame.desktop.desk.judge import Judge
from hidden_frame.desktop.desk.paper import Paper, Sheet
from hidden_frame.desktop.desk.surface import LinesLayer, overflow_tab, paint_desk
from hidden_frame.desktop.desk.text_edit import TextEdit, wants_key
from hidden_frame.desktop.desk.view import View, fitted, widened
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.session import Editing, Session
from hidden_frame.desktop.settings import settings
from hidden_frame.interact.faces import Face
from hidden_frame.interact.hits import Spot, face_at, hit
from hidden_frame.model.plane.box import Bounds

Asked = Callable[[Spot, QPointF], None]


class Desk(QWidget):
    """`master_item_pulled`: someone tried to drag a master's item on a page (global point);
    `overflow_pressed`: the mark of text that does not fit was pressed (item, global point)."""

    master_item_pulled = Signal(QPoint)
    menu_wanted = Signal(QPoint)
    overflow_pressed = Signal(str, QPoint)
    dropped = Signal(QMimeData, object)
    pointer_moved = Signal(object)
    view_changed = Signal()

    def __init__(self, session: Session, pictures: PictureShelf) -> None:
        super().__init__()
        self.session = session
        self.paper = Paper(pictures)
        self.lines = LinesLayer()
        self.view = View()
        self.fit = "spread"
        self.text = TextEdit(session, self.edited)
        self.text.moved.connect(self.update)
        self.hand = Hand(self)
        self._asked: Asked | None = None
        self._unasked: Callable[[], object] | None = None
        self._panning: QPointF | None = None
        self._space = False
        self._pointer = QPointF()
        self._shown_faces: tuple[Face, ...] = ()
        # While the view moves, the pages are shown as they were painted before, moved and
        # scaled; once it rests they are painted sharp.
        self.moving = False
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.setInterval(90)
        self._rest.timeout.connect(self._sharpen)
        self.judge = Judge(self)
        self.edges = EdgeScroll(self)
        self._blink = QTimer(self)
        self._blink.setInterval(530)
        self._blink.timeout.connect(self._toggle_caret)
        self.caret_on = True
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setMinimumSize(240, 200)
        self.setAccessibleName("Desk")
        # The desk paints all of itself, so Qt need not clear it first.
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        session.changed.connect(self._refresh)
        session.looked.connect(self._refresh)
        settings().changed.connect(self.update)

    # -- what is shown -----------------------------------------------------------

    def sheets(self) -> tuple[Sheet, ...]:
        faces = self.session.faces()
        return tuple(
            Sheet(face, self.session.scene_of(face), n > 0, n < len(faces) - 1)
            for n, face in enumerate(faces)
        )

    def placed(self, item_id: str) -> tuple[Placed, Face] | None:
        """A selected item where it is shown."""
        return self.placed_all().get(item_id)

    def placed_all(self) -> dict[str, tuple[Placed, Face]]:
        """Every selected item that is shown, by id."""
        session = self.session
        wanted = set(session.items)
        found: dict[str, tuple[Placed, Face]] = {}
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                for placed in session.scene_of(face).placed:
                    if placed.item_id in wanted:
                        found[placed.item_id] = (placed, face)
        return found

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
        if self.hand.gesture is None:
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

    def extent(self, what: str) -> Bounds | None:
        """The part of the desk that is the `page`, the `spread` or the `selection`."""
        faces = self.session.faces()
        if not faces:
            return None
        if what == "selection":
            found = self.hand.selection_bounds()
            if found is not None:
                return found
            what = "page"
        if what == "page":
            chosen = [f for f in faces if f.holder_id == self.session.holder_id]
            chosen = [f for f in chosen if f.side == self.session.side] or chosen
            faces = tuple(chosen[:1]) or faces
        trim = self.session.publication.setup.trim
        left = min(f.x for f in faces)
        return Bounds(left, 0.0, max(f.x for f in faces) + trim.width, trim.height)

    def fit_to(self, what: str) -> None:
        """Shows the whole `spread`, the `page` that is worked on, the `selection`, or the
        spread as wide as the desk (`width`)."""
        area = self.extent("spread" if what == "width" else what)
        if area is None:
            return
        self.fit = what if what in ("page", "spread", "width") else ""
        if what == "width":
            self._look(widened(*area, self.width(), self.height()))
        else:
            self._look(fitted(*area, self.width(), self.height()))

    def actual_size(self) -> None:
        """As large as it will be printed, by the resolution that the screen reports."""
        screen = self.screen()
        dots = screen.physicalDotsPerInch() if screen is not None else 96.0
        dots = dots if 40 <= dots <= 800 else float(self.logicalDpiX())  # some report nonsense
        self.zoom_by(dots / 72 / self.view.zoom)

    def zoom_by(self, factor: float, at: QPointF | None = None, moving: bool = False) -> None:
        point = at if at is not None else QPointF(self.width() / 2, self.height() / 2)
        self.fit = ""
        self._look(self.view.zoomed(factor, point.x(), point.y()), moving)

    def scroll_by(self, across: float, down: float) -> None:
        """Moves the paper by so many pixels."""
        self.fit = ""
        self._look(self.view.moved(across, down), moving=True)

    def _sharpen(self) -> None:
        self.moving = False
        self.update()

    def _look(self, view: View, moving: bool = False) -> None:
        if view != self.view:
            self.view = view
            self.moving = moving
            if moving:
                self._rest.start()
                self.session.hurry()
            self.view_changed.emit()
            self.update()

    # -- painting ----------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        paint_desk(self)
        self.session.proven()

    # -- mouse -------------------------------------------------------------------

    def spot(self, point: QPointF) -> Spot:
        """The page and the place on it under a widget point."""
        x, y = self.view.to_spread(point.x(), point.y())
        face = face_at(self.session.faces(), self.session.publication.setup.trim.width, x)
        return Spot(face, x - face.x, y)

    def point_to(self, point: QPointF) -> None:
        """Where the pointer is, told by a ruler from which a guide is pulled."""
        self._pointer = point

    @property
    def pointer(self) -> QPointF:
        """Where the pointer was last seen over the desk."""
        return self._pointer

    def ask_for_point(self, answer: Asked, otherwise: Callable[[], object]) -> None:
        """The next click is an answer instead of a gesture; with Escape it is `otherwise`."""
        self._asked, self._unasked = answer, otherwise
        self.setFocus()
        self._set_cursor()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        point = event.position()
        self._pointer = point
        middle = event.button() == Qt.MouseButton.MiddleButton
        if middle or (self._space and event.button() == Qt.MouseButton.LeftButton):
            self._panning = point
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
            return
        spot = self.spot(point)
        if self._asked is not None and event.button() == Qt.MouseButton.LeftButton:
            answer, self._asked = self._asked, None
            answer(spot, point)
            self._set_cursor()
            return
        if self.session.proof:
            return
        if event.button() == Qt.MouseButton.RightButton:
            self.hand.pick(spot, event.modifiers() & ~Qt.KeyboardModifier.ControlModifier)
            self.menu_wanted.emit(event.globalPosition().toPoint())
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        marked = overflow_tab(self, point)
        if marked is not None:
            self.session.select_items(spot.face, (marked,))
            self.overflow_pressed.emit(marked, event.globalPosition().toPoint())
            return
        if self.session.editing is not None:
            if self._within_edited(spot):
                extend = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
                self.hand.pressed = point
                self.text.press(spot.x, spot.y, extend)
                return
            self.session.edit_text(None)
        self.hand.press(spot, event)

    def _within_edited(self, spot: Spot) -> bool:
        editing = self.session.editing
        same = editing is not None and (
            (editing.holder_id, editing.side) == (spot.face.holder_id, spot.face.side)
        )
        scene = self.session.scene_of(spot.face)
        found = hit(scene, spot.x, spot.y, 0.0) if same else None
        return found is not None and editing is not None and found.item_id == editing.item_id

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        self._pointer = point
        self.pointer_moved.emit(point)
        if self._panning is not None:
            delta = point - self._panning
            self._panning = point
            self.scroll_by(delta.x(), delta.y())
            return
        if self.hand.pressed is None:
            self._set_cursor(point)
            return
        spot = self.spot(point)
        if self.session.editing is not None:
            self.text.press(spot.x, spot.y, extend=True)
        else:
            self.hand.move(spot, event)
            if self.hand.gesture is not None and self.hand.dragged:
                self.edges.moved(point, event.modifiers())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._panning is not None:
            self._panning = None
            self._set_cursor()
            return
        self.edges.stop()
        self._pointer = event.position()
        if self.session.editing is not None and self.hand.gesture is None:
            self.hand.pressed = None
            return
        self.hand.release(self.spot(event.position()), event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        spot = self.spot(event.position())
        if self.session.proof:
            return
        if self.session.editing is not None and self._within_edited(spot):
            self.text.select_word(spot.x, spot.y)
            return
        if self.session.cropping:
            self.session.crop(False)
        elif self.hand.pick(spot, Qt.KeyboardModifier.NoModifier, alone=True):
            self.begin_text()

    def begin_text(self) -> None:
        """Starts editing the selected frame's text, or cropping its picture, if it may be
        changed here."""
        session = self.session
        found = self.hand.text_place()
        if found is None:
            self.hand.begin_crop()
            return
        item_id, where = found
        if not session.may_change(session.holder_id, item_id):
            self.master_item_pulled.emit(self.mapToGlobal(where))
            return
        self.setFocus()
        self.text.begin(Editing(session.holder_id, item_id, session.side))

    def wheelEvent(self, event: QWheelEvent) -> None:
        delta = event.pixelDelta() if not event.pixelDelta().isNull() else event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom_by(1.0015 ** event.angleDelta().y(), event.position(), moving=True)
        else:
            across, down = delta.x(), delta.y()
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                across, down = down, across
            self.scroll_by(across, down)

    # -- things dropped from elsewhere -------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        data = event.mimeData()
        if data.hasUrls() or data.hasImage() or data.hasText():
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        self.dropped.emit(event.mimeData(), self.spot(event.position()))
        event.acceptProposedAction()

    # -- keys --------------------------------------------------------------------

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The menu by its key, below what is selected; the mouse's own has come by then."""
        if event.reason() == QContextMenuEvent.Reason.Keyboard:
            found = self.hand.selection_bounds()
            x, y = self.view.to_widget(found.left, found.bottom) if found else (20.0, 20.0)
            inside = self.rect().adjusted(4, 4, -4, -4)
            point = QPoint(round(x), round(y))
            at = point if inside.contains(point) else inside.center()
            self.menu_wanted.emit(self.mapToGlobal(at))

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
        elif key in _HELD:
            self.hand.again(self.spot(self._pointer), event.modifiers() | _HELD[key])
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if session.cropping:
                session.crop(False)
            else:
                self.begin_text()
        elif key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = True
            self.setCursor(Qt.CursorShape.OpenHandCursor)
        elif key in _NUDGES:
            far = settings().now.nudge
            far *= 10.0 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1.0
            self.hand.nudge(_NUDGES[key][0] * far, _NUDGES[key][1] * far)
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            self._set_cursor()
        if key in _HELD:
            self.hand.again(self.spot(self._pointer), event.modifiers() & ~_HELD[key])
        super().keyReleaseEvent(event)

    def _escape(self) -> None:
        """One step out: of a question, a gesture, a text, a tool, a group, the selection."""
        session = self.session
        if self._asked is not None:
            self._asked, otherwise = None, self._unasked
            self._set_cursor()
            if otherwise is not None:
                otherwise()
        elif self.hand.cancel():
            return
        elif session.editing is not None:
            session.edit_text(None)
        elif session.cropping:
            session.crop(False)
        elif session.tool != "select":
            session.set_tool("select")
        elif session.items or not session.from_flatplan:
            session.select_items(None, ())
        else:
            session.show_flatplan()

    # -- the rest ----------------------------------------------------------------

    def _set_cursor(self, point: QPointF | None = None) -> None:
        session = self.session
        shape = Qt.CursorShape.ArrowCursor
        if self._asked is not None:
            shape = Qt.CursorShape.CrossCursor
        elif self._space:
            shape = Qt.CursorShape.OpenHandCursor
        elif session.editing is not None:
            shape = Qt.CursorShape.IBeamCursor
        elif session.tool != "select":
            shape = Qt.CursorShape.CrossCursor
        elif point is not None and not session.proof:
            shape = self.hand.cursor(self.spot(point))
        if self.cursor().shape() != shape:
            self.setCursor(shape)

    def _tell(self, event: QHelpEvent) -> bool:
        """Says why a text does not fit or is hard to read, when the pointer rests on it."""
        spot = self.spot(QPointF(event.pos()))
        scene = self.session.scene_of(spot.face)
        found = hit(scene, spot.x, spot.y, SLACK / self.view.zoom)
        said = ""
        if found is not None and found.drawing.overflow is not None:
            said = found.drawing.overflow.sentence
        elif found is not None and found.drawing.text is not None:
            poor = poor_contrast(scene, found.item_id)
            said = poor.sentence if poor is not None else ""
        if said:
            QToolTip.showText(event.globalPos(), said, self)
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
_HELD = {
    Qt.Key.Key_Shift: Qt.KeyboardModifier.ShiftModifier,
    Qt.Key.Key_Alt: Qt.KeyboardModifier.AltModifier,
    Qt.Key.Key_Control: Qt.KeyboardModifier.ControlModifier,
}
