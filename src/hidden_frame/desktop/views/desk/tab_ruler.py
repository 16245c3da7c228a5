"""A ruler above the column that one writes in: the paragraph's indents and tab stops, by hand.

A click sets a stop, a drag moves it, down and away takes it off, a double click turns its
alignment.
"""

from __future__ import annotations

from typing import NamedTuple

from msgspec.structs import replace
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QHelpEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QToolTip, QWidget

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.model.styles import computed_style
from hidden_frame.model.text import TabStop
from hidden_frame.model.units import Unit, format_length

HIGH = 20  # pixels
_PAD = 8  # pixels on either side of the column, for what stands at its edges
_GRIP = 6.0  # pixels beside a stop that still count
_AWAY = 22.0  # pixels below the ruler, from which on a stop is taken off
_TURNS = {"left": "centre", "centre": "right", "right": "left"}
_STEPS = {"mm": 72 / 25.4, "cm": 72 / 25.4, "in": 72 / 16, "p": 12.0}  # points; else 6


class Ruled(NamedTuple):
    """What a ruler shows: the column's measure and the indents (points), the stops, and pixels
    to the point."""

    measure: float
    left: float
    first: float
    right: float
    stops: tuple[TabStop, ...]
    zoom: float
    unit: Unit


class TabRuler(QWidget):
    """`changed` gives the paragraph's stops as they are to be."""

    changed = Signal(object)

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.ruled: Ruled | None = None
        self._held: int | None = None  # the stop that is dragged
        self._moving: tuple[TabStop, ...] = ()
        self._x = 0.0
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Tab stops of the paragraph")
        self.setCursor(Qt.CursorShape.ArrowCursor)
        self.hide()

    def follow(self, ruled: Ruled | None, left: float, top: float) -> None:
        """Stands above a column whose upper left corner is at a point of the desk; None hides."""
        if ruled is None:
            self._held = None
            self.hide()
            return
        if self._held is None:
            self.ruled = ruled
        wide = max(round(ruled.measure * ruled.zoom), 40)
        self.setGeometry(
            round(left) - _PAD, max(round(top) - HIGH - 3, 0), wide + 1 + 2 * _PAD, HIGH
        )
        self.show()
        self.update()

    @property
    def stops(self) -> tuple[TabStop, ...]:
        """The stops that are seen, also while one is dragged."""
        if self._held is not None:
            return self._moving
        return self.ruled.stops if self.ruled is not None else ()

    # -- places ------------------------------------------------------------------

    def _at(self, stop: TabStop) -> float:
        assert self.ruled is not None
        right = self.ruled.measure - self.ruled.right
        return (right if stop.position is None else stop.position) * self.ruled.zoom

    def _under(self, x: float) -> int | None:
        near = [(abs(self._at(s) - x), n) for n, s in enumerate(self.stops)]
        return min(near)[1] if near and min(near)[0] <= _GRIP else None

    def _position(self, x: float) -> float:
        """The place under a pixel, to a tenth of the unit's step."""
        assert self.ruled is not None
        step = _STEPS.get(self.ruled.unit, 6.0) / 2
        points = min(max(x / self.ruled.zoom, 0.0), self.ruled.measure)
        return round(round(points / step) * step, 3)

    # -- by hand -----------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.ruled is None or event.button() != Qt.MouseButton.LeftButton:
            return
        x = event.position().x() - _PAD
        self._moving, held = self.stops, self._under(x)
        if held is None:
            self._moving = (*self._moving, TabStop(self._position(x)))
            held = len(self._moving) - 1
        self._held, self._x = held, x
        self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            return
        point = event.position()
        if abs(point.x() - _PAD - self._x) > 1:
            stop = replace(self._moving[self._held], position=self._position(point.x() - _PAD))
            self._moving = _with(self._moving, self._held, stop)
        away = point.y() > HIGH + _AWAY
        self.setCursor(Qt.CursorShape.ForbiddenCursor if away else Qt.CursorShape.ArrowCursor)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._held is None or self.ruled is None:
            return
        stops, held = self._moving, self._held
        self._held = None
        self.setCursor(Qt.CursorShape.ArrowCursor)
        if event.position().y() > HIGH + _AWAY:
            stops = (*stops[:held], *stops[held + 1 :])
        self._tell(stops)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if self.ruled is None:
            return
        under = self._under(event.position().x() - _PAD)
        if under is not None:
            stop = self.stops[under]
            turned = replace(stop, align=_TURNS[stop.align])
            self._held = None
            self._tell(_with(self.stops, under, turned))

    def _tell(self, stops: tuple[TabStop, ...]) -> None:
        if self.ruled is not None and stops != self.ruled.stops:
            self.ruled = self.ruled._replace(stops=stops)
            self.changed.emit(stops)
        self.update()

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent) and self.ruled is not None:
            under = self._under(event.pos().x() - _PAD)
            told = "Click to set a tab stop"
            if under is not None:
                stop = self.stops[under]
                where = "right edge" if stop.position is None else (
                    format_length(stop.position, self.ruled.unit))  # fmt: skip
                hint = "drag to move or, down, to remove; double-click to change it"
                told = f"{stop.align}, {where}; {hint}"
            QToolTip.showText(event.globalPos(), told, self)
            return True
        return super().event(event)

    # -- painting ----------------------------------------------------------------

    def paintEvent(self, _: QPaintEvent) -> None:
        if self.ruled is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        colours, ruled = theme.current(), self.ruled
        edge = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        painter.setPen(QPen(QColor(colours.line), 1))
        painter.setBrush(QColor(colours.field))
        painter.drawRoundedRect(edge, 3, 3)
        painter.translate(_PAD, 0)
        self._paint_ticks(painter, ruled, QColor(colours.quiet))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.quiet))
        for x in (ruled.left, ruled.left + ruled.first, ruled.measure - ruled.right):
            painter.drawEllipse(QPointF(x * ruled.zoom, HIGH - 4.5), 2.6, 2.6)
        painter.setBrush(QColor(colours.action))
        for stop in self.stops:
            painter.drawPolygon(_pennant(self._at(stop), stop.align))

    def _paint_ticks(self, painter: QPainter, ruled: Ruled, ink: QColor) -> None:
        ink.setAlphaF(0.5)
        painter.setPen(QPen(ink, 1))
        step = _STEPS.get(ruled.unit, 6.0)
        every = next(n for n in (1, 5, 10, 50, 1000) if n * step * ruled.zoom >= 5)
        count = int(ruled.measure / step)
        for n in range(0, count + 1, every):
            x = round(n * step * ruled.zoom) + 0.5
            high = 6 if n % (every * 5 if every > 1 else 10) == 0 else 3
            painter.drawLine(QPointF(x, 1), QPointF(x, 1 + high))


def _pennant(x: float, align: str) -> QPolygonF:
    """A flag on a staff, flying to where the text of its stop runs."""
    top, foot = 5.0, HIGH - 3.0
    left = {"left": 0.0, "right": -8.0, "centre": -6.0}[align]
    right = {"left": 8.0, "right": 0.0, "centre": 6.0}[align]
    points = [(-0.8, foot), (-0.8, foot - 5), (left, top + 3.5), (-0.8, top), (0.8, top)]
    points += [(right, top + 3.5), (0.8, foot - 5), (0.8, foot)]
    return QPolygonF([QPointF(x + dx, y) for dx, y in points])


def _with(stops: tuple[TabStop, ...], number: int, stop: TabStop) -> tuple[TabStop, ...]:
    return (*stops[:number], stop, *stops[number + 1 :])


def rule(
    ruler: TabRuler, session: Session, writing: TextEdit, selected: Selected, view: View
) -> None:
    """Puts the ruler above the column in which the caret stands; a frame that is turned, or is
    not in sight, has none."""
    editing = session.editing
    found = selected.placed(editing.item_id) if editing is not None else None
    block = found[0].drawing.text if found is not None else None
    if editing is None or found is None or block is None or not writing.text or session.proof:
        ruler.follow(None, 0, 0)
        return
    placed, face = found
    caret = writing.marks(face.holder_id, placed).caret
    upright = placed.matrix.b == 0 and placed.matrix.a > 0
    if caret is None or not upright or not block.text.lines:
        ruler.follow(None, 0, 0)
        return
    line = block.text.lines[min(caret.line, len(block.text.lines) - 1)]
    left, right = block.text.columns[line.column]
    style = computed_style(
        session.publication.paragraph_styles, writing.text[writing.caret[0]].style
    )
    ruled = Ruled(
        right - left, style.indent_left, style.indent_first, style.indent_right,
        writing.dress.tabs(), view.zoom, session.publication.setup.unit,
    )  # fmt: skip
    x, y = placed.matrix.apply(left + block.x, 0.0)
    ruler.follow(ruled, *view.to_widget(x + face.x, y))
