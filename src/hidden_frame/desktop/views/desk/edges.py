"""The desk scrolls by itself while something is dragged to its edge, as far as there is paper."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, QPointF, Qt, QTimer
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.views.desk.camera import Camera

EDGE = 22.0  # pixels
STEP = 14.0  # pixels a tick
PAST = 30.0  # pixels beyond the paper at which it stops
TURN = 20  # ticks at the paper's end after which pages turn

Again = Callable[[QPointF, Qt.KeyboardModifier], bool]


class EdgeScroll(QObject):
    """Told of every move of a drag; ticks as long as the pointer stays at an edge.

    `again` is the drag as it goes on at a point of the port, False once there is none.  `turn` goes
    on a spread (1) or back (-1) where the paper ends, and tells whether there is one.
    """

    def __init__(
        self, camera: Camera, again: Again, turn: Callable[[int], bool], port: QWidget
    ) -> None:
        super().__init__(port)
        self._camera, self._again, self._turn, self._port = camera, again, turn, port
        self._at = QPointF()
        self._held = Qt.KeyboardModifier.NoModifier
        self._waited = 0
        self._timer = QTimer(self)
        self._timer.setInterval(30)
        self._timer.timeout.connect(self.tick)

    def moved(self, point: QPointF, keys: Qt.KeyboardModifier) -> None:
        """The drag goes on at a point of the port."""
        self._at, self._held = point, keys
        if self._edge() == (0, 0):
            self.stop()
        elif not self._timer.isActive():
            self._timer.start()

    def stop(self) -> None:
        """The drag has ended, or is away from all edges."""
        self._waited = 0
        self._timer.stop()

    def _edge(self) -> tuple[int, int]:
        """The edge that the pointer is at: -1 is the left or the upper one."""
        x, y, wide, high = self._at.x(), self._at.y(), self._port.width(), self._port.height()
        return (
            (x > wide - EDGE) - (x < EDGE),
            (y > high - EDGE) - (y < EDGE),
        )

    def _push(self) -> tuple[float, float]:
        """How far the paper is to move: none where its end is in sight already."""
        view, port = self._camera.view, self._port
        area = self._camera.extent("spread")
        if area is None:
            return 0.0, 0.0
        left, top = view.to_widget(area.left, area.top)
        right, bottom = view.to_widget(area.right, area.bottom)
        across, down = self._edge()
        if not (left < PAST if across < 0 else right > port.width() - PAST):
            across = 0
        if not (top < PAST if down < 0 else bottom > port.height() - PAST):
            down = 0
        return -across * STEP, -down * STEP

    def tick(self) -> None:
        """One step, and the drag goes on where the pointer is then."""
        across, down = self._push()
        if (across, down) != (0.0, 0.0):
            self._waited = 0
            self._camera.scroll_by(across, down)
        elif not self._turned():
            return
        if not self._again(self._at, self._held):
            self.stop()

    def _turned(self) -> bool:
        """Whether pages were turned, as is done after a while at the paper's end."""
        self._waited += 1
        if self._waited % TURN:
            return False
        across, down = self._edge()
        way = down or across
        turned = bool(way) and self._turn(way)
        if not turned:
            self.stop()
        return turned
