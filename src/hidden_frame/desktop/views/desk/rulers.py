"""Rulers above and beside the desk, in the publication's unit.

Each page has its own count, from its trim's corner or from the zero that was set by
pulling the corner between the rulers; the selection's extent is shaded.
"""

from __future__ import annotations

import math
from typing import Literal

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QGridLayout, QWidget

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.desktop.views.desk.gestures.guide import GuideGesture
from hidden_frame.desktop.views.desk.snapper import Snapper
from hidden_frame.model.number_format import decimal
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.units import POINTS, Unit

THICK = 20  # pixels
_NICE = (1, 2, 5)
Axis = Literal["x", "y"]


def tick_step(pixels_per_unit: float, least: float = 52.0) -> float:
    """The step between figures, in units: 1, 2 or 5 times a power of ten, at least so wide."""
    power = math.floor(math.log10(least / pixels_per_unit)) if pixels_per_unit > 0 else 0
    for exponent in (power, power + 1):
        for digit in _NICE:
            step = digit * 10.0**exponent
            if step * pixels_per_unit >= least:
                return step
    return 10.0 ** (power + 2)


class Ruler(QWidget):
    """One ruler; pulling from it draws out a guide."""

    def __init__(self, desk: Desk, axis: Axis) -> None:
        super().__init__()
        self.desk = desk
        self.axis = axis
        self._pulling = False
        self._key: object = None
        self._pixmap = QPixmap()
        if axis == "x":
            self.setFixedHeight(THICK)
            self.setAccessibleName("Ruler above")
            self.setToolTip("Drag out a guide; with Shift across the spread")
        else:
            self.setFixedWidth(THICK)
            self.setAccessibleName("Ruler beside")
            self.setToolTip("Pull out a guide")
        self.setMouseTracking(True)
        desk.camera.moved.connect(self.update)
        desk.pointer_moved.connect(lambda _: self.update())
        desk.session.changed.connect(self.update)
        desk.session.looked.connect(self.update)

    # -- painting ------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = theme.current()
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours.panel))
        self._paint_extent(painter, colours)
        painter.drawPixmap(0, 0, self._ticks(colours))
        self._paint_pointer(painter, colours)

    def _ticks(self, colours: theme.Theme) -> QPixmap:
        """Ticks and figures, painted again only when what they depend on is another."""
        stretches, session = self._stretches(), self.desk.session
        ratio = self.devicePixelRatioF()
        key = (self.desk.camera.view, self.size(), ratio, stretches, session.publication.setup.unit,
               colours.dark)  # fmt: skip
        if key == self._key:
            return self._pixmap
        self._key = key
        self._pixmap = QPixmap(self.size() * ratio)
        self._pixmap.setDevicePixelRatio(ratio)
        self._pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(self._pixmap)
        font = self.font()
        font.setPixelSize(11)
        painter.setFont(font)
        for start, length, origin in stretches:
            self._paint_ticks(painter, start, length, origin, colours)
        painter.setPen(QPen(QColor(colours.line), 1))
        if self.axis == "x":
            painter.drawLine(0, THICK - 1, self.width(), THICK - 1)
        else:
            painter.drawLine(THICK - 1, 0, THICK - 1, self.height())
        painter.end()
        return self._pixmap

    def _stretches(self) -> list[tuple[float, float, float]]:
        """Start and length of each page along the ruler, and where it counts from, in points."""
        session = self.desk.session
        trim = session.publication.setup.trim
        if self.axis == "y":
            return [(0.0, trim.height, session.zero[1])]
        faces = session.faces()
        return [(f.x, trim.width, f.x + session.zero[0]) for f in faces]

    def _to_pixels(self, points: float) -> float:
        x, y = self.desk.camera.view.to_widget(points, points)
        return x if self.axis == "x" else y

    def _paint_ticks(
        self,
        painter: QPainter,
        start: float,
        length: float,
        origin: float,
        colours: theme.Theme,
    ) -> None:
        unit: Unit = self.desk.session.publication.setup.unit
        scale = POINTS[unit] * self.desk.camera.view.zoom
        step = tick_step(scale)
        small = step / 10 if step * scale / 10 >= 4 else step / 5
        pages = len(self._stretches())
        slack = 60 / self.desk.camera.view.zoom if pages == 1 else 0.0
        low = (start - slack - origin) / POINTS[unit]
        high = (start + length + slack - origin) / POINTS[unit]
        first, last = math.ceil(low / small - 1e-9), math.floor(high / small + 1e-9)
        if last - first > 4000:
            return
        every = round(step / small)
        for n in range(first, last + 1):
            at = self._to_pixels(origin + n * small * POINTS[unit])
            if not -40 <= at <= max(self.width(), self.height()) + 40:
                continue
            tall = THICK * (0.62 if n % every == 0 else 0.32 if n % (every / 2 or 1) == 0 else 0.2)
            painter.setPen(QPen(QColor(colours.edge), 1))
            if self.axis == "x":
                painter.drawLine(QLineF(at, THICK - tall, at, THICK))
            else:
                painter.drawLine(QLineF(THICK - tall, at, THICK, at))
            if n % every == 0:
                self._paint_figure(painter, n * small, at, colours)

    def _paint_figure(
        self, painter: QPainter, value: float, at: float, colours: theme.Theme
    ) -> None:
        text = decimal(value, 4).replace("-", "−")
        text = "0" if text in ("", "−0") else text
        painter.setPen(QColor(colours.quiet))
        if self.axis == "x":
            painter.drawText(QPointF(at + 3, 11), text)
        else:
            painter.save()
            painter.translate(11, at - 3)
            painter.rotate(-90)
            painter.drawText(QPointF(0, 0), text)
            painter.restore()

    def _paint_extent(self, painter: QPainter, colours: theme.Theme) -> None:
        bounds = self.desk.selected.bounds()
        if bounds is None:
            return
        low, high = (bounds.left, bounds.right) if self.axis == "x" else (bounds.top, bounds.bottom)
        a, b = self._to_pixels(low), self._to_pixels(high)
        rect = QRectF(a, 0, b - a, THICK) if self.axis == "x" else QRectF(0, a, THICK, b - a)
        painter.fillRect(rect, QColor(colours.action_soft))
        painter.setPen(QPen(QColor(colours.action), 1.4))
        for at in (a, b):
            line = QLineF(at, 0, at, THICK) if self.axis == "x" else QLineF(0, at, THICK, at)
            painter.drawLine(line)

    def _paint_pointer(self, painter: QPainter, colours: theme.Theme) -> None:
        pointer = self.desk.pointer
        at = pointer.x() if self.axis == "x" else pointer.y()
        painter.setPen(QPen(QColor(colours.snap), 1))
        if self.axis == "x":
            painter.drawLine(QLineF(at, 0, at, THICK))
        else:
            painter.drawLine(QLineF(0, at, THICK, at))

    # -- pulling a guide -------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self.desk.session.proof:
            return
        if not settings().now.guides:
            settings().change(guides=True)  # one that is pulled out must be seen
        desk = self.desk
        desk.session.edit_text(None)
        axis: Literal["horizontal", "vertical"] = "horizontal" if self.axis == "x" else "vertical"
        spot = desk.camera.spot(self._on_desk(event))
        desk.hand.gesture = GuideGesture(desk.session, axis, spot, desk.camera.view.zoom, None)
        desk.hand.pressed, desk.hand.dragged = self._on_desk(event), True
        self._pulling = True

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pulling and self.desk.hand.gesture is not None:
            point = self._on_desk(event)
            self.desk.point_to(point)
            self.desk.hand.gesture.drag(self.desk.camera.spot(point), event.modifiers())
            self.desk.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pulling:
            self._pulling = False
            self.desk.hand.release(self.desk.camera.spot(self._on_desk(event)), event)
            self.desk.setFocus()

    def _on_desk(self, event: QMouseEvent) -> QPointF:
        return QPointF(self.desk.mapFromGlobal(event.globalPosition()))


class Corner(QWidget):
    """The corner between the rulers: pulled onto a page it sets the zero, a double click
    takes the zero back to the trim's corner."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self._pulling = False
        self.setFixedSize(THICK, THICK)
        self.setAccessibleName("Zero of the rulers")
        self.setToolTip("Drag onto the page to set the rulers’ zero; double-click to reset it")

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = theme.current()
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor(colours.panel))
        moved = self.desk.session.zero != (0.0, 0.0)
        painter.setPen(QPen(QColor(colours.action if moved else colours.edge), 1.4))
        painter.drawLine(5, THICK - 5, THICK - 5, THICK - 5)
        painter.drawLine(THICK - 5, 5, THICK - 5, THICK - 5)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pulling = event.button() == Qt.MouseButton.LeftButton

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if not self._pulling:
            return
        self._pulling = False
        point = QPointF(self.desk.mapFromGlobal(event.globalPosition()))
        if point.x() < 0 or point.y() < 0:
            return
        spot = self.desk.camera.spot(point)
        x, y = spot.x + spot.face.x, spot.y
        snapper = Snapper(self.desk.session, self.desk.camera.view.zoom, set())
        snap = snapper.snap(Bounds(x, y, x, y), event.modifiers(), ((x,), (y,)), gaps=False)
        self.desk.session.set_zero(spot.x + snap.dx, spot.y + snap.dy)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self._pulling = False
        self.desk.session.set_zero(0.0, 0.0)
        self.update()


class RuledDesk(QWidget):
    """The desk with its rulers, which can be hidden."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(0)
        self.above, self.beside = Ruler(desk, "x"), Ruler(desk, "y")
        self.corner = Corner(desk)
        grid.addWidget(self.corner, 0, 0)
        grid.addWidget(self.above, 0, 1)
        grid.addWidget(self.beside, 1, 0)
        grid.addWidget(desk, 1, 1)
        settings().changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        for part in (self.corner, self.above, self.beside):
            part.setVisible(settings().now.rulers)
