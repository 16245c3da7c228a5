"""What the desk tells of the place under the pointer, and of that of the caret."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import QPointF, QRect, Qt

from hidden_frame.compose.contrast import poor_contrast
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.camera import Camera
from hidden_frame.desktop.views.desk.hand import SLACK, Hand
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.writing.mouse import TextMouse
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.interact.hands.hits import hit


class Pointed(Protocol):
    """What is asked of a desk."""

    session: Session
    camera: Camera
    hand: Hand
    selected: Selected
    text: TextEdit
    text_mouse: TextMouse


def told_at(desk: Pointed, point: QPointF) -> str:
    """Why the text under a point does not fit, or is hard to read; "" where it is well."""
    slack = SLACK / desk.camera.view.zoom
    spot = desk.session.owning(desk.camera.spot(point), slack)
    scene = desk.session.scene_of(spot.face)
    found = hit(scene, spot.x, spot.y, slack)
    if found is None:
        return ""
    if found.drawing.overflow is not None:
        return found.drawing.overflow.sentence
    poor = poor_contrast(scene, found.item_id) if found.drawing.text is not None else None
    return poor.sentence if poor is not None else ""


def shape_at(desk: Pointed, point: QPointF | None, asked: bool, pans: bool) -> Qt.CursorShape:
    """What the pointer looks like at a point: `asked` for one, or with the desk in its hand."""
    session = desk.session
    if asked or session.linking is not None:
        return Qt.CursorShape.CrossCursor
    if pans:
        return Qt.CursorShape.OpenHandCursor
    if session.editing is not None:
        spot = desk.camera.spot(point) if point is not None else None
        if spot and desk.text.anchors.opposite(spot, SLACK / desk.camera.view.zoom):
            return Qt.CursorShape.SizeAllCursor
        if desk.text_mouse.dragging:
            words = desk.text_mouse.target is not None
            return Qt.CursorShape.DragMoveCursor if words else Qt.CursorShape.ForbiddenCursor
        return Qt.CursorShape.IBeamCursor
    if session.tool != "select":
        return Qt.CursorShape.CrossCursor
    if point is not None and not session.proof:
        return desk.hand.cursor(desk.camera.spot(point))
    return Qt.CursorShape.ArrowCursor


def caret_on(desk: Pointed) -> QRect:
    """Where the caret stands on the desk, so that an input method's list opens beside it."""
    editing = desk.session.editing
    found = desk.selected.placed(editing.item_id) if editing is not None else None
    if found is None or found[0].drawing.text is None:
        return QRect()
    placed, face = found
    caret = desk.text.marks(face.holder_id, placed).caret
    block = placed.drawing.text
    if caret is None or block is None:
        return QRect()
    x, y = placed.matrix.apply(caret.x + block.x, caret.bottom + block.y)
    px, py = desk.camera.view.to_widget(x + face.x, y)
    return QRect(round(px), round(py) - 14, 1, 14)
