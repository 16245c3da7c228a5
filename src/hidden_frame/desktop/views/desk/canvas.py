"""The desk's widget: shows a spread or a master, and hands mouse and keys on."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, QPointF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.spelling import speller
from hidden_frame.desktop.views.desk.camera import Camera
from hidden_frame.desktop.views.desk.edges import EdgeScroll
from hidden_frame.desktop.views.desk.hand import SLACK, Hand
from hidden_frame.desktop.views.desk.judge import ContrastJudge
from hidden_frame.desktop.views.desk.keyed import KeyedDesk
from hidden_frame.desktop.views.desk.paper import Paper, ShownFace
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.desk.stations import marked, out_mark
from hidden_frame.desktop.views.desk.surface import DeskSeen, LinesLayer, overflow_tab, paint_desk
from hidden_frame.desktop.views.desk.tab_ruler import TabRuler, rule
from hidden_frame.desktop.views.writing.mouse import TextMouse
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.interact.finds.listing import lists_itself
from hidden_frame.interact.hands.anchoring import frame_over
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import Spot, hit
from hidden_frame.interact.sight.value import Editing

Asked = Callable[[Spot, QPointF], None]


class Desk(KeyedDesk):
    """`master_item_pulled`: someone tried to drag a master's item on a page (global point);
    `overflow_pressed`: the mark of text that does not fit was pressed (item, global point);
    `text_menu_wanted`: of the text that is edited; `out_mark_pressed`: that at which the selected
    frame's text goes on; `link_wanted`: a frame was clicked or drawn in which it shall (face,
    item)."""

    master_item_pulled = Signal(QPoint)
    overflow_pressed = Signal(str, QPoint)
    pointer_moved = Signal(object)
    out_mark_pressed = Signal()
    list_pressed = Signal()
    link_wanted = Signal(object, str)

    def __init__(self, session: Session, pictures: PictureShelf) -> None:
        super().__init__()
        self.session = session
        self.paper = Paper(pictures)
        self.lines = LinesLayer()
        self.selected = Selected(session)
        self.camera = Camera(session, self.selected, self)
        self.camera.moved.connect(self.update)
        self.text = TextEdit(session, self.selected.edited)
        self.text_mouse = TextMouse(session, self.text)
        for written in (self.text, self.text_mouse):
            written.moved.connect(self.update)
        self.tabs = TabRuler(self)
        self.tabs.changed.connect(self.text.dress.set_tabs)
        self.text.moved.connect(self.updateMicroFocus)
        for moved in (self.camera.moved, self.text.moved):
            moved.connect(self._rule)
        self.hand = Hand(session, self.camera, self.selected)
        self.hand.moved.connect(self.update)
        self.hand.frame_drawn.connect(self._drawn)
        self.hand.master_item_pulled.connect(self.master_item_pulled)
        self._panning: QPointF | None = None
        self._wrote = False
        self._stay: int | None = None  # where its upper edge was when writing began or ended
        self._pointer = QPointF()
        self.judge = ContrastJudge(session, self)
        self.edges = EdgeScroll(self.camera, self._drag, self.text_mouse.turn, self)
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
        self.setAttribute(Qt.WidgetAttribute.WA_InputMethodEnabled)
        self.setInputMethodHints(Qt.InputMethodHint.ImhMultiLine)
        session.changed.connect(self._refresh)
        session.looked.connect(self._refresh)
        settings().changed.connect(self.update)
        speller().learnt.connect(self.update)

    # -- what is shown -----------------------------------------------------------

    def sheets(self) -> tuple[ShownFace, ...]:
        faces = self.session.faces()
        return tuple(
            ShownFace(face, self.session.scene_of(face), n > 0, n < len(faces) - 1)
            for n, face in enumerate(faces)
        )

    def _refresh(self) -> None:
        if (self.session.editing is not None) != self._wrote:
            self._wrote = self.session.editing is not None
            self._stay = self.mapToGlobal(QPoint(0, 0)).y()  # bars come and go above
            QTimer.singleShot(60, self, self._stayed)
        self.camera.follow()
        if self.session.editing is not None:
            self.text.clamp()
            self.caret_on = True
            self._blink.start()
        else:
            self._blink.stop()
        self.updateMicroFocus()  # an input method is told whether one writes, and where
        if self.hand.gesture is None:
            self._set_cursor()
        self._rule()
        self.update()

    def _rule(self) -> None:
        """The ruler of tab stops follows the column that one writes in."""
        rule(self.tabs, self.session, self.text, self.selected, self.camera.view)

    def _toggle_caret(self) -> None:
        self.caret_on = not self.caret_on
        self.update()

    # -- painting ----------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        try:
            paint_desk(painter, self._seen(), self.paper, self.lines)
        finally:
            painter.end()
        self.session.proven()

    def _seen(self) -> DeskSeen:
        resting = self.hand.gesture is None and self.session.editing is None
        return DeskSeen(
            session=self.session,
            sheets=self.sheets(),
            view=self.camera.view,
            size=self.size(),
            ratio=self.devicePixelRatioF(),
            moving=self.camera.moving,
            selected=self.selected,
            gesture=self.hand.gesture,
            words=self.hand.gesture.words if self.hand.gesture and self.hand.dragged else "",
            pointer=self._pointer,
            writing=self.text,
            target=self.text_mouse.target,
            caret_on=self.caret_on,
            poor=self.judge.poor if resting else lambda _: {},
        )

    # -- mouse -------------------------------------------------------------------

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
        spot = self.camera.spot(point)
        if self._asked is not None and event.button() == Qt.MouseButton.LeftButton:
            answer, self._asked = self._asked, None
            answer(spot, point)
            self._set_cursor()
            return
        if self.session.proof:
            return
        if event.button() == Qt.MouseButton.RightButton:
            if self.text_mouse.holds(self.session.owning(spot)):
                self.text_mouse.point_at(spot)
                self.text_menu_wanted.emit(event.globalPosition().toPoint())
                return
            self.hand.pick(spot, event.modifiers() & ~Qt.KeyboardModifier.ControlModifier)
            self.menu_wanted.emit(event.globalPosition().toPoint())
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        marked = overflow_tab(self.session, self.sheets(), self.camera.view, point)
        if marked is not None:
            self.session.select_items(spot.face, (marked,))
            self.overflow_pressed.emit(marked, event.globalPosition().toPoint())
            return
        if self.session.linking is not None:
            self._link_at(spot, event)
            return
        out = self._out_mark_at(point)
        if out is not None:
            self.session.edit_text(None)
            self.session.select_items(*out)
            self.out_mark_pressed.emit()
            return
        if self.session.editing is not None:
            if self.text.anchors.grab(spot, SLACK / self.camera.view.zoom):
                self.hand.pressed = point
                return
            if self.text.anchors.press(spot):
                return
            if self._press_text(spot, event):
                return
            self.session.edit_text(None)
        elif self._goes_back(spot, event):
            return
        self.hand.press(spot, event)

    def _goes_back(self, spot: Spot, event: QMouseEvent) -> bool:
        """A press with Shift selects to there from where one wrote before one turned pages."""
        shift = event.modifiers() == Qt.KeyboardModifier.ShiftModifier
        return shift and self.text_mouse.back_to(spot) and self._press_text(spot, event)

    def _press_text(self, spot: Spot, event: QMouseEvent) -> bool:
        """A press in the text that is written; False if the point isn't in it."""
        if not self.text_mouse.holds(self.session.owning(spot)):
            return False
        extends = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        self.hand.pressed = event.position()
        self.text_mouse.press(spot, event.position(), extends=extends)
        return True

    def _drag(self, point: QPointF, keys: Qt.KeyboardModifier) -> bool:
        """What is dragged goes on at a point; False if nothing is."""
        spot = self.camera.spot(point)
        if self.session.editing is not None and self.hand.gesture is None:
            self.text_mouse.move(spot, point)
            return self.text_mouse.selecting or self.text_mouse.dragging
        self.hand.again(spot, keys)
        return self.hand.gesture is not None

    def _out_mark_at(self, point: QPointF) -> tuple[Face, tuple[str, ...]] | None:
        """The frame whose out-mark lies under a point, and its face."""
        for placed, face, _ in marked(self.session, self.sheets()):
            if out_mark(placed, face, self.camera.view).adjusted(-2, -2, 2, 2).contains(point):
                return face, (placed.item_id,)
        return None

    def _link_at(self, spot: Spot, event: QMouseEvent) -> None:
        """The frame under a point goes on with the text; on empty paper one is drawn for it."""
        spot = self.session.owning(spot)
        found = hit(self.session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is not None and found.drawing.text is not None:
            self.link_wanted.emit(spot.face, found.item_id)
            return
        self.session.set_tool("text")
        self.hand.press(spot, event)

    def _drawn(self) -> None:
        """A frame was drawn: to be written in, or to go on with another one's text."""
        if self.session.linking is None:
            self.begin_text()
            return
        faces = {f.holder_id: f for f in self.session.faces()}
        self.link_wanted.emit(faces[self.session.holder_id], self.session.items[0])

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        point = event.position()
        self._pointer = point
        self.pointer_moved.emit(point)
        if self._panning is not None:
            delta = point - self._panning
            self._panning = point
            self.camera.scroll_by(delta.x(), delta.y())
            return
        if self.hand.pressed is None:
            self._set_cursor(point)
            return
        spot = self.camera.spot(point)
        if self.session.editing is not None:
            if not self.text.anchors.pull(spot):
                self.text_mouse.move(spot, point)
                self._set_cursor(point)
                if self.text_mouse.selecting or self.text_mouse.dragging:
                    self.edges.moved(point, event.modifiers())
        else:
            self.hand.drag(spot, event)
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
            self.text.anchors.drop()
            copies = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            self.text_mouse.release(copies)
            self.hand.pressed = None
            self._set_cursor()
            return
        self.hand.release(self.camera.spot(event.position()), event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        spot = self.camera.spot(event.position())
        if self.session.proof:
            return
        if self.session.editing is not None and self.text.anchors.press(spot):
            return
        if self.session.editing is not None and self.text_mouse.holds(self.session.owning(spot)):
            self.hand.pressed = event.position()
            self.text_mouse.double(spot, event.position())
            return
        if self.session.cropping:
            self.session.crop(False)
            return
        over = frame_over(self.session.scene_of(spot.face), spot.face.side, spot.x, spot.y)
        if over is not None:
            self.session.select_items(spot.face, (over.item_id,))
        if over or self.hand.pick(spot, Qt.KeyboardModifier.NoModifier, alone=True):
            spot = self.session.owning(spot)
            self.begin_text((spot.x, spot.y))
            self.text.anchors.press(spot)

    def begin_text(self, at: tuple[float, float] | None = None) -> None:
        """Starts editing the selected frame's text, or cropping its picture, if it may be
        changed here."""
        session = self.session
        item_id = self.hand.text_frame()
        if item_id is None:
            self.hand.begin_crop()
            return
        if lists_itself(session.composition, session.holder_id, item_id):
            self.list_pressed.emit()
            return
        told = session.mode == "pages" and session.composition.told(session.holder_id, item_id)
        if not told and not session.may_change(session.holder_id, item_id):
            self.master_item_pulled.emit(self.mapToGlobal(self._below(item_id)))
            return
        self.setFocus()
        self.text.begin(Editing(session.holder_id, item_id, session.side), at)

    def _below(self, item_id: str) -> QPoint:
        """The point below an item's middle, on the desk."""
        found = self.selected.placed(item_id)
        if found is None:
            return self.rect().center()
        left, _, right, bottom = found[0].bounds
        x, y = self.camera.view.to_widget((left + right) / 2 + found[1].x, bottom)
        return QPoint(round(x), round(y))

    def wheelEvent(self, event: QWheelEvent) -> None:
        delta = event.pixelDelta() if not event.pixelDelta().isNull() else event.angleDelta()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.camera.zoom_by(1.0015 ** event.angleDelta().y(), event.position(), moving=True)
        else:
            across, down = delta.x(), delta.y()
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                across, down = down, across
            self.camera.scroll_by(across, down)

    # -- the rest ----------------------------------------------------------------

    def _stayed(self) -> None:
        self._stay = None

    def resizeEvent(self, event: QResizeEvent) -> None:
        if self._stay is None:
            self.camera.refit()
        else:  # what one is about to write in stays where it is on the screen
            down = self.mapToGlobal(QPoint(0, 0)).y() - self._stay
            self._stay += down
            self.camera.look(self.camera.view.moved(0.0, -down))
        super().resizeEvent(event)
