"""Small pictures of scenes, rendered a few at a time so that the window stays quick."""

from __future__ import annotations

import time
from collections import OrderedDict

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPixmap

from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Look, paint_scene

SLICE = 0.012  # seconds of rendering at a time
BUSY = 0.0025  # the same while a hand is at work on the desk
_KEPT = 600


class Thumbnails(QObject):
    """`pixmap` gives what is there at once; what is missing comes with `arrived` (keys)."""

    arrived = Signal(list)

    def __init__(self, pictures: PictureShelf) -> None:
        super().__init__()
        self.pictures = pictures
        self.slice = SLICE
        self._kept: OrderedDict[str, tuple[Scene, int, QPixmap]] = OrderedDict()
        self._wanted: dict[str, tuple[Scene, int, float]] = {}
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._work)

    def pixmap(self, key: str, scene: Scene, width: int, ratio: float) -> QPixmap | None:
        """The scene's picture, `width` pixels wide; an older one until the new is ready."""
        found = self._kept.get(key)
        if found is not None and found[0] is scene and found[1] == width:
            return found[2]
        self._wanted[key] = (scene, width, ratio)
        self._timer.start()
        return found[2] if found is not None else None

    def _work(self) -> None:
        until = time.perf_counter() + self.slice
        done: list[str] = []
        while self._wanted and (not done or time.perf_counter() < until):
            key = next(iter(self._wanted))
            scene, width, ratio = self._wanted.pop(key)
            done.append(key)
            self._kept[key] = (scene, width, self.render(scene, width, ratio))
            self._kept.move_to_end(key)
            while len(self._kept) > _KEPT:
                self._kept.popitem(last=False)
        if not self._wanted:
            self._timer.stop()
        self.arrived.emit(done)

    def finish(self) -> None:
        """Renders everything that is still wanted."""
        while self._wanted:
            self._work()

    def render(self, scene: Scene, width: int, ratio: float = 1.0) -> QPixmap:
        """A page's trim as a picture."""
        scale = width / scene.width
        pixmap = QPixmap(round(width * ratio), round(scene.height * scale * ratio))
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(QColor("#FFFFFF"))
        painter = QPainter(pixmap)
        painter.scale(scale, scale)
        paint_scene(painter, scene, self.pictures, Look(proof=not scene.is_master))
        painter.end()
        return pixmap
