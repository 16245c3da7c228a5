"""Looks at the contents of every page while nothing else is to be done."""

from __future__ import annotations

import time
from collections.abc import Iterator

from PySide6.QtCore import QObject, QTimer, Signal

from hidden_frame.checks.content import FaultAt, merged, places, text_findings, to_look_at
from hidden_frame.checks.finding import Finding
from hidden_frame.compose.composition import Composition
from hidden_frame.desktop.state.session import Session
from hidden_frame.model.memory import MEMORY, settle_each

SLICE = 0.006  # seconds at a time, so that no key and no move has to wait
PAUSE = 80  # milliseconds until it is seen whether what moves rests
REST = 350  # milliseconds after the last change


class ContentWatch(QObject):
    """`found` says that all pages have been looked at; `findings` are theirs, as of then."""

    found = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.findings: list[Finding] = []
        self.done = False
        self._places: list[FaultAt] = []
        self._looked = 1
        self._left: Iterator[str] = iter(())
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(REST)
        self._later.timeout.connect(self._begin)
        self._work = QTimer(self)
        self._work.setInterval(0)
        self._work.timeout.connect(self._some)
        session.changed.connect(self._again)
        self._again()

    def _again(self) -> None:
        self.done = False
        self._work.stop()
        self._later.start()

    def _begin(self) -> None:
        if self.session.busy:
            self._later.start()
            return
        self._places = []
        self._looked = 1
        self._left = iter(to_look_at(self.session.kept.now))
        self._work.start()

    def _some(self) -> None:
        rests = self.session.rests
        self._work.setInterval(0 if rests else PAUSE)
        if not rests:
            return
        self._look(self.session.composition, time.perf_counter() + SLICE)

    def _look(self, composition: Composition, until: float) -> None:
        """Looks at pages until then, or until all are done."""
        on_desk = {face.holder_id for face in self.session.faces()}
        for holder_id in self._left:
            with MEMORY.walk():
                self._places += places(composition, (holder_id,), self.session.blobs)
            if holder_id in composition.facts and holder_id not in on_desk:
                composition.scene(holder_id).rest()  # there may be thousands
            settle_each(self._looked)
            self._looked += 1
            if time.perf_counter() > until:
                return
        self._work.stop()
        self.findings = text_findings(composition) + merged(composition, self._places)
        self.done = True
        self.found.emit()

    def finish(self, seconds: float = float("inf")) -> bool:
        """Looks at what is left, for so long at most; whether that is all."""
        until = time.perf_counter() + seconds
        if not self.done and not self._work.isActive():
            self._later.stop()
            self._begin()
        while self._work.isActive() and time.perf_counter() < until:
            self._look(self.session.composition, until)
        return self.done
