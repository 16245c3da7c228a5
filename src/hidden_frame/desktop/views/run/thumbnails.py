"""Small pictures of scenes, rendered a few at a time so that the window stays quick."""

from __future__ import annotations

import time
from collections import OrderedDict

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPixmap

from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Rendering, paint_scene

SLICE = 0.005  # seconds of rendering at a time, a third of a frame
BUSY = 0.0025  # the same while a hand is at work on the desk
BUDGET = 72 * 1024 * 1024  # bytes of pictures kept, whatever their number


class Thumbnails(QObject):
    """`pixmap` gives what is there at once; what is missing comes with `arrived` (keys)."""

    arrived = Signal(list)

    def __init__(self, pictures: PictureShelf) -> None:
        super().__init__()
        self.pictures = pictures
        self.slice = SLICE
        self.used = 0  # bytes
        self._kept: OrderedDict[str, tuple[Scene, int, QPixmap]] = OrderedDict()
        self._wanted: dict[str, tuple[Scene, int, float]] = {}
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._work)

    def pixmap(self, key: str, scene: Scene, width: int, ratio: float) -> QPixmap | None:
        """The scene's picture, `width` pixels wide; an older one until the new is ready."""
        found = self._kept.get(key)
        if found is not None and found[0] is scene and found[1] == width:
            self._kept.move_to_end(key)
            return found[2]
        self._wanted[key] = (scene, width, ratio)
        if not self._timer.isActive():  # begun again each time, its turn would never come
            self._timer.start()
        return found[2] if found is not None else None

    def kept(self, key: str) -> QPixmap | None:
        """What there is of a picture, however old."""
        found = self._kept.get(key)
        return found[2] if found is not None else None

    def forget_wishes(self, prefix: str, still: set[str]) -> None:
        """Drops what was wanted under a prefix and is not in sight any more."""
        gone = [k for k in self._wanted if k.startswith(prefix) and k not in still]
        for key in gone:
            del self._wanted[key]

    def _work(self) -> None:
        until = time.perf_counter() + self.slice
        done: list[str] = []
        while self._wanted and (not done or time.perf_counter() < until):
            key = next(iter(self._wanted))
            scene, width, ratio = self._wanted.pop(key)
            done.append(key)
            self._keep(key, (scene, width, self.render(scene, width, ratio)))
        if not self._wanted:
            self._timer.stop()
        self.arrived.emit(done)

    def _keep(self, key: str, new: tuple[Scene, int, QPixmap]) -> None:
        old = self._kept.pop(key, None)
        if old is not None:
            self.used -= _size(old[2])
        self._kept[key] = new
        self.used += _size(new[2])
        while self.used > BUDGET and len(self._kept) > 1:
            self.used -= _size(self._kept.popitem(last=False)[1][2])

    @property
    def waiting(self) -> int:
        """How many are still to be painted."""
        return len(self._wanted)

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
        try:
            painter.scale(scale, scale)
            paint_scene(painter, scene, self.pictures, Rendering(not scene.is_master, greeked=True))
        finally:
            painter.end()
        return pixmap


def _size(pixmap: QPixmap) -> int:
    return pixmap.width() * pixmap.height() * pixmap.depth() // 8
