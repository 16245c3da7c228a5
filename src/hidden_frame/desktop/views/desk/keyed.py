"""What keys, input methods and things dropped from elsewhere do on the desk."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QHelpEvent,
    QInputMethodEvent,
    QKeyEvent,
)
from PySide6.QtWidgets import QToolTip, QWidget

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.camera import Camera
from hidden_frame.desktop.views.desk.hand import Hand
from hidden_frame.desktop.views.desk.pointing import caret_on, shape_at, told_at
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.writing.keys import act_of
from hidden_frame.desktop.views.writing.mouse import TextMouse
from hidden_frame.desktop.views.writing.text_edit import TextEdit

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


class KeyedDesk(QWidget):
    """The part of the desk that knows no paint and no press; `begin_text` is the desk's own."""

    menu_wanted = Signal(QPoint)
    text_menu_wanted = Signal(QPoint)
    dropped = Signal(QMimeData, object)

    session: Session
    camera: Camera
    hand: Hand
    selected: Selected
    text: TextEdit
    text_mouse: TextMouse
    _pointer: QPointF

    def __init__(self) -> None:
        super().__init__()
        self._space = False
        self._asked: Callable[..., object] | None = None
        self._unasked: Callable[[], object] | None = None

    def begin_text(self, at: tuple[float, float] | None = None) -> None:
        """Begins to write in the selected frame."""
        raise NotImplementedError

    # -- things dropped from elsewhere -------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        data = event.mimeData()
        if data.hasUrls() or data.hasImage() or data.hasText():
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        self.text_mouse.hover(event.mimeData(), self.camera.spot(event.position()))
        event.acceptProposedAction()

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.text_mouse.cancel()

    def dropEvent(self, event: QDropEvent) -> None:
        spot = self.camera.spot(event.position())
        if not self.text_mouse.put(event.mimeData(), spot):
            self.dropped.emit(event.mimeData(), spot)
        event.acceptProposedAction()

    # -- keys --------------------------------------------------------------------

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The menu by its key, below what is selected; the mouse's own has come by then."""
        if event.reason() == QContextMenuEvent.Reason.Keyboard:
            if self.session.editing is not None:
                self.text_menu_wanted.emit(self.mapToGlobal(caret_on(self).bottomLeft()))
                return
            found = self.selected.bounds()
            x, y = self.camera.view.to_widget(found.left, found.bottom) if found else (20.0, 20.0)
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
        if overriding and isinstance(event, QKeyEvent) and act_of(event) is not None:
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
            self.hand.again(self.camera.spot(self._pointer), event.modifiers() | _HELD[key])
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

    def inputMethodEvent(self, event: QInputMethodEvent) -> None:
        """What an input method makes of several keys."""
        if self.session.editing is None:
            super().inputMethodEvent(event)
            return
        self.text.making.take(event)
        event.accept()

    def inputMethodQuery(self, query: Qt.InputMethodQuery) -> object:
        if query == Qt.InputMethodQuery.ImEnabled:
            return self.session.editing is not None
        if self.session.editing is None:
            return super().inputMethodQuery(query)
        if query == Qt.InputMethodQuery.ImCursorRectangle:
            return caret_on(self)
        known = self.text.making.asked(query)
        return super().inputMethodQuery(query) if known is None else known

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
            self._set_cursor()
        if key in _HELD:
            self.hand.again(self.camera.spot(self._pointer), event.modifiers() & ~_HELD[key])
        super().keyReleaseEvent(event)

    def _escape(self) -> None:
        """One step out: of a question, a gesture, a text, a tool, a group, the selection."""
        session = self.session
        if self._asked is not None:
            self._asked, otherwise = None, self._unasked
            self._set_cursor()
            if otherwise is not None:
                otherwise()
        elif self.hand.cancel() or self.text_mouse.cancel():
            return
        elif session.linking is not None:
            session.set_tool("select")
            session.link_from("", "")
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

    # -- the pointer -------------------------------------------------------------

    def _set_cursor(self, point: QPointF | None = None) -> None:
        shape = shape_at(self, point, self._asked is not None, self._space)
        if self.cursor().shape() != shape:
            self.setCursor(shape)

    def _tell(self, event: QHelpEvent) -> bool:
        """Says why a text does not fit or is hard to read, when the pointer rests on it."""
        said = told_at(self, QPointF(event.pos()))
        if said:
            QToolTip.showText(event.globalPos(), said, self)
        else:
            QToolTip.hideText()
        return True
