"""Work in slices between two frames of the desk."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal

from hidden_frame.model.publication import Publication
from hidden_frame.settle.slices import Slices, Working

AT_ONCE = 0.1  # seconds for which one waits for what an edit brings with it
SLICE = 0.016  # seconds at a time for what takes longer


class Slicer(QObject):
    """Works something out beside the desk: `seen` is what there is so far, `done` what came of
    it; what takes a moment only is done before `start` returns."""

    seen = Signal(object)
    done = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._working: Working | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(lambda: self._go_on(SLICE))

    @property
    def busy(self) -> bool:
        return self._working is not None

    def start(self, slices: Slices, begun: Publication) -> None:
        """Begins; what was worked on before is not wanted any more."""
        self._working = Working(slices, begun)
        self._go_on(AT_ONCE)
        if self._working is not None:
            self._timer.start()

    def stop(self) -> None:
        """What is worked on is not wanted any more."""
        self._timer.stop()
        self._working = None

    def finish(self) -> None:
        """Works until it is done."""
        if self._working is not None:
            self._go_on(float("inf"))

    def _go_on(self, seconds: float) -> None:
        working = self._working
        if working is None:
            return
        if working.go_on(seconds):
            self.stop()
            self.done.emit(working.seen)
        else:
            self.seen.emit(working.seen)
