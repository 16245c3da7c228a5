"""The desk scrolls by itself while something is dragged to its edge, as far as there is paper."""

from __future__ import annotations

from PySide6.QtCore import QObject, QPointF, Qt, QTimer
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.desk.camera import Camera
from hidden_frame.desktop.desk.hand import Hand

EDGE = 22.0  # pixels
STEP = 14.0  # pixels a tick
PAST = 30.0  # pixels beyond the paper at which it stops


class EdgeScroll(QObject):
    """Told of every move of a drag; ticks as long as the pointer stays at an edge."""

    def __init__(self, camera: Camera, hand: Hand, port: QWidget) -> None:
        super().__init__(port)
        self._camera, self._hand, self._port = camera, hand, port
        self._at = QPointF()
        self._held = Qt.KeyboardModifier.NoModifier
        self._timer = QTimer(self)
        self._timer.setInterval(30)
        self._timer.timeout.connect(self.tick)

    def moved(self, point: QPointF, keys: Qt.KeyboardModifier) -> None:
        self._at, self._held = point, keys
        if self._push() == (0.0, 0.0):
            self._timer.stop()
        elif not self._timer.isActive():
            self._timer.start()

    def stop(self) -> None:
        self._timer.stop()

    def _push(self) -> tuple[float, float]:
        """How far the paper is to move: none where its end is in sight already."""
        view, port = self._camera.view, self._port
        area = self._camera.extent("spread")
        if area is None:
            return 0.0, 0.0
        left, top = view.to_widget(area.left, area.top)
        right, bottom = view.to_widget(area.right, area.bottom)
        across = down = 0.0
        if self._at.x() < EDGE and left < PAST:
            across = STEP
        elif self._at.x() > port.width() - EDGE and right > port.width() - PAST:
            across = -STEP
        if self._at.y() < EDGE and top < PAST:
            down = STEP
        elif self._at.y() > port.height() - EDGE and bottom > port.height() - PAST:
            down = -STEP
        return across, down

    def tick(self) -> None:
        """One step, and the gesture goes on where the pointer is then."""
        across, down = self._push()
        if self._hand.gesture is None or (across, down) == (0.0, 0.0):
            self._timer.stop()
            return
        self._camera.scroll_by(across, down)
        self._hand.again(self._camera.spot(self._at), self._held)
