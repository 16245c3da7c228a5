"""Live thumbnails of the pages in sight: composed and rendered a few at a time.

Painting never waits for a page: it shows what there is, and what is missing comes.
"""

from __future__ import annotations

import time

from PySide6.QtCore import QObject, QTimer
from PySide6.QtGui import QPixmap

from hidden_frame.compose.batches import set_ahead
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.run.thumbnails import BUSY, SLICE, Thumbnails

_TOGETHER = 4  # pages whose texts are set together while nothing moves
_SLICE = 0.004  # seconds of composing at a time: with rendering and painting, one frame


class LivePages(QObject):
    """`look_at` says what is in sight; `pixmap` gives what there is of a page."""

    def __init__(self, session: Session, thumbnails: Thumbnails, prefix: str) -> None:
        super().__init__()
        self.session = session
        self.thumbnails = thumbnails
        self.prefix = prefix
        self._seen: list[str] = []
        self._size = (1, 1.0)
        self._known: object = None  # the publication that the pages were composed for
        self._done: set[str] = set()
        self._ahead: set[str] = set()  # pages whose own texts were set together, and these
        self._held: list[object] = []
        self._timer = QTimer(self)
        self._timer.setInterval(0)
        self._timer.timeout.connect(self._work)

    def look_at(self, page_ids: list[str], width: int, ratio: float) -> None:
        """The pages in sight, at a width in pixels."""
        if (width, ratio) != self._size:
            self._size = (width, ratio)
            self._done.clear()
        self._seen = page_ids
        self.thumbnails.forget_wishes(self.prefix, {self.prefix + p for p in page_ids})
        self.catch_up()

    def hurry(self) -> None:
        """Something moves: little is composed and rendered at a time, until it rests."""
        self.session.hurry()
        self.thumbnails.slice = BUSY

    def _slice(self) -> float:
        hurried = self.session.hurried
        if not hurried and not self.session.busy:
            self.thumbnails.slice = SLICE
        return BUSY if hurried or self.session.busy else _SLICE

    def catch_up(self) -> None:
        """Composes again what may have changed."""
        if self._known is not self.session.publication:
            self._known = self.session.publication
            self._done.clear()
        if any(p not in self._done for p in self._seen):
            self._timer.start()

    def pixmap(self, page_id: str) -> QPixmap | None:
        return self.thumbnails.kept(self.prefix + page_id)

    def _work(self) -> None:
        until = time.perf_counter() + self._slice()
        self.session.fill()
        composition = self.session.composition
        facts, done = composition.facts, self._done
        still = [p for p in self._seen if p not in done and p in facts]
        for n, page_id in enumerate(still):
            if page_id not in self._ahead and not self.session.hurried:
                some = still[n : n + _TOGETHER]
                self._ahead, self._held = set(some), set_ahead(composition, some)
            scene = composition.scene(page_id)
            self.thumbnails.pixmap(self.prefix + page_id, scene, *self._size)
            self._done.add(page_id)
            if time.perf_counter() > until:
                return
        self._ahead, self._held = set(), []
        self._timer.stop()

    @property
    def missing(self) -> list[str]:
        """The pages in sight whose picture is not as they are now."""
        wanted = [p for p in self._seen if p not in self._done]
        return wanted or [p for p in self._seen if self.pixmap(p) is None]

    def finish(self) -> None:
        """Everything in sight, now."""
        while self._timer.isActive():
            self._work()
        self.thumbnails.finish()
