"""Every change kept for a crash, a few seconds later, beside the work."""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

from PySide6.QtCore import QObject, QTimer

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.mishaps import in_words, write_down
from hidden_frame.desktop.state.session import Session
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication
from hidden_frame.storage.holding import Holding, hold, release
from hidden_frame.storage.recovery import AboutWork, Journal, Saving, Whereabouts
from hidden_frame.storage.versions import keep_version, versions_of

# Seconds from one keeping to the next, longer where it takes long; a change is kept five seconds
# later at most, on a busy machine too, so it is asked more often than it is done.
_LEAST, _MOST, _TIMES = 1.5, 3.0, 10
_ASKED = 0.4


class Keeper(QObject):
    """Keeps a session's work; `first` draws the first page as a PNG."""

    def __init__(self, session: Session, first: Callable[[], bytes], parent: QObject) -> None:
        super().__init__(parent)
        self.session, self._first = session, first
        self.journal = Journal()
        self.where: Callable[[], Whereabouts | None] = lambda: None
        self._kept: Publication | None = None  # what stands in the journal
        self._drawn: object = None  # the first page that was drawn last
        self._number = 0  # of what was kept last
        self._writing: Future[None] | None = None
        self._begun = self._took = 0.0  # seconds: when the last was begun, how long it took
        self._saved: Future[None] | None = None
        self._told = False  # whether it was said that nothing can be kept
        self._pool = ThreadPoolExecutor(1, "journal")
        self._holding: Holding | None = None  # the file that is said to be open here
        self._held: Path | None = None
        self._hold()
        self._timer = QTimer(self)
        self._timer.setInterval(round(_ASKED * 1000))
        self._timer.timeout.connect(self._ask)
        self._timer.start()

    def _ask(self) -> None:
        """Looks, where the last one is long enough ago for what it takes."""
        pause = min(max(_TIMES * self._took, _LEAST), _MOST)
        if time.monotonic() - self._begun >= pause:
            self.look()

    def look(self) -> None:
        """Keeps what has changed since the last look; nothing where all is saved."""
        if self._writing is not None and not self._writing.done():
            return
        self._tell()
        self._hold()
        session = self.session
        if session.settles:
            return  # only settled values are kept
        now = session.kept.now
        if not session.unsaved:
            if self._kept is not None:
                self._kept = self._drawn = None
                self.journal.clear()
            return
        if now is self._kept:
            return
        path = str(session.path or "")
        self._number += 1
        about = AboutWork(now.title, path, session.ahead(), stamp=session.stamp, at=self.where(),
                      number=self._number)  # fmt: skip
        self._kept = now
        self._begun = time.monotonic()
        self._writing = self._pool.submit(self._write, now, about, self._picture(now))
        session.beside(self._writing)

    def _write(self, now: Publication, about: AboutWork, first: bytes | None) -> None:
        self.journal.write(now, self.session.blobs, about, first)
        self._took = time.monotonic() - self._begun

    def saving(self, path: Path) -> Callable[[str], object]:
        """What a save to a file that begins now tells, by the hash of what it holds, right before
        it is done."""
        number, journal = self._number, self.journal
        return lambda digest: journal.saving(Saving(str(path), digest, number))

    def keep_unsaved(self) -> bool:
        """Keeps what could not be saved at once, not at the next look; whether it is kept."""
        self.wait()
        self.look()
        self.wait()
        return self._kept is self.session.history.now

    def keep_version(
        self,
        path: Path,
        publication: Publication,
        steps: int,
        pictures: Mapping[str, bytes] | None = None,
    ) -> None:
        """What was saved is kept as a version of its file; before the first one what the file
        held when it was opened."""
        self.look()  # what is saved is not left behind any more
        most, opened = settings().now.versions_mb * 1_000_000, self.session.opened
        blobs = self.session.blobs if pictures is None else pictures

        def keep() -> None:
            if opened is not None and opened is not publication and not versions_of(path):
                keep_version(path, opened, blobs, 0, most)
            keep_version(path, publication, blobs, steps, most)

        self._saved = self._pool.submit(keep)
        self.session.beside(self._saved)

    def keep_now(
        self, path: Path, publication: Publication, steps: int, pictures: Mapping[str, bytes]
    ) -> None:
        """The same, and waits for it: what was given up may be gone a moment later."""
        self.keep_version(path, publication, steps, pictures)
        self.wait()

    def wait(self) -> None:
        """Until what is being kept is on the disk."""
        if self._writing is not None:
            self._writing.exception(timeout=60)
            self._tell()
        if self._saved is not None:
            self._saved.exception(timeout=60)

    def close(self) -> None:
        """The session ends as it should: nothing is left behind."""
        self._timer.stop()
        self._pool.shutdown(wait=True)
        self.journal.close()
        if self._holding is not None:
            release(self._holding)
            self._holding = None

    def _hold(self) -> None:
        """Says to other programs which file is open here."""
        path = self.session.path
        if path == self._held:
            return
        if self._holding is not None:
            release(self._holding)
        self._held = path
        self._holding = hold(path) if path is not None and path.exists() else None

    def _picture(self, now: Publication) -> bytes | None:
        """The first page, where it is another one than before."""
        page = all_pages(now)[0]
        if page is self._drawn:
            return None
        self._drawn = page
        return self._first()

    def _tell(self) -> None:
        """Says once that nothing can be kept; tries again all the same."""
        done = [f for f in (self._writing, self._saved) if f is not None and f.done()]
        failed = next((e for e in (f.exception() for f in done) if e is not None), None)
        self._writing = None
        self._saved = None if self._saved in done else self._saved
        if failed is None:
            return
        self._kept = None
        if not isinstance(failed, Refusal):
            write_down("Keeping work", failed)
        if not self._told:
            self._told = True
            told = str(failed) if isinstance(failed, Refusal) else in_words("Keeping work", failed)
            self.session.noticed.emit(told)
