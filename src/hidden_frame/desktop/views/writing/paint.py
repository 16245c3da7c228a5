"""The caret, what is selected, what an input method makes, and where dragged words would go."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.look.theme import Theme
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.desktop.views.writing.drops import DropTarget
from hidden_frame.desktop.views.writing.text_edit import WritingMarks
from hidden_frame.interact.hands.faces import Face
from hidden_frame.model.plane.box import Bounds
from hidden_frame.typeset.caret import Caret, caret_at

_At = Callable[[float, float], QPointF]


def paint_marks(
    painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme, marks: WritingMarks
) -> None:
    """What is seen of the writing in a frame."""
    at = _to_widget(placed, face, view)
    if at is None:
        return
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_faint(theme, 0.28))
    _boxes(painter, at, marks.selected)
    painter.setBrush(_faint(theme, 0.20))
    _boxes(painter, at, marks.chosen)
    painter.setPen(QPen(QColor(theme.action), 1.2))
    for left, _, right, bottom in marks.making:
        painter.drawLine(at(left, bottom), at(right, bottom))
    if marks.caret is not None:
        _caret(painter, at, marks.caret, QPen(QColor(theme.action), 2.0))


def paint_target(
    painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme, target: DropTarget
) -> None:
    """A dashed caret where words would go that are dragged."""
    at, block = _to_widget(placed, face, view), placed.drawing.text
    here = (face.holder_id, placed.item_id, face.side)
    if at is None or block is None or here != tuple(target.editing) or not block.text.lines:
        return
    (paragraph, offset), late, _ = target.standing
    caret = caret_at(block.text, paragraph - target.first, offset, late)
    _caret(painter, at, caret, QPen(QColor(theme.action), 2.0, Qt.PenStyle.DotLine))


def _to_widget(placed: Placed, face: Face, view: View) -> _At | None:
    block = placed.drawing.text
    if block is None:
        return None

    def at(x: float, y: float) -> QPointF:
        px, py = placed.matrix.apply(x + block.x, y + block.y)
        return QPointF(*view.to_widget(px + face.x, py))

    return at


def _boxes(painter: QPainter, at: _At, boxes: Iterable[Bounds]) -> None:
    for left, top, right, bottom in boxes:
        corners = [at(left, top), at(right, top), at(right, bottom), at(left, bottom)]
        painter.drawPolygon(QPolygonF(corners))


def _caret(painter: QPainter, at: _At, caret: Caret, pen: QPen) -> None:
    painter.setPen(pen)
    painter.drawLine(at(caret.x, caret.top + 1), at(caret.x, caret.bottom - 1))


def _faint(theme: Theme, alpha: float) -> QColor:
    colour = QColor(theme.action)
    colour.setAlphaF(alpha)
    return colour
