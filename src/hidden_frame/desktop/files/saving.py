"""Saving beside the work: the value can't change, so a thread writes it while one goes on."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from typing import NamedTuple

from PySide6.QtCore import QObject, QTimer

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.mishaps import in_words, write_down
from hidden_frame.desktop.state.session import Session
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.files import other_names
from hidden_frame.storage.format import save
from hidden_frame.storage.stamps import stamp_of
from hidden_frame.storage.store import lean
from hidden_frame.typeset.known import KNOWN

_LOOK = 25  # milliseconds from one look at the thread to the next


class _Save(NamedTuple):
    """What is being written, where, and how many steps it was ahead of the save before."""

    path: Path
    publication: Publication
    steps: int
    future: Future[None]


class Saver(QObject):
    """One save after the other; `preview` draws the first page, `saved` is told what stands in a
    file now."""

    def __init__(self, session: Session, preview: Callable[[], bytes], parent: QObject) -> None:
        super().__init__(parent)
        self.session, self._preview = session, preview
        self.saved: Callable[[Path, Publication, int], None] = lambda *_: None
        self.about_to: Callable[[Path], Callable[[str], object]] = lambda _: lambda _: None
        # Keeps what could not be saved; whether it is kept.
        self.failed: Callable[[], bool] = lambda: False
        self._now: _Save | None = None
        self._parted = 0  # other names of the file that is written
        self._again: Path | None = None  # to be saved once more, since work went on
        self._pool = ThreadPoolExecutor(1, "save")
        self._timer = QTimer(self)
        self._timer.setInterval(_LOOK)
        self._timer.timeout.connect(self._look)

    @property
    def busy(self) -> bool:
        """Whether something is being written."""
        return self._now is not None

    def begin(self, path: Path) -> None:
        """Writes the present value; behind the save that is under way, if there is one."""
        if self._now is not None:
            self._again = path
            return
        session = self.session
        publication, blobs = session.history.now, session.blobs
        self._parted = other_names(path)
        about_to = self.about_to(path)
        own = path == session.path and stamp_of(path) == session.stamp
        what = publication, blobs, self._preview()
        future = self._pool.submit(_write, path, *what, about_to, own)
        self._now = _Save(path, publication, session.ahead(), future)
        session.beside(future)
        self._timer.start()

    def finish(self) -> bool:
        """Waits for what is under way; whether the last of it was written."""
        written = True
        while self._now is not None:
            self._now.future.exception()
            written = self._done()
        return written

    def _look(self) -> None:
        if self._now is not None and self._now.future.done():
            self._done()

    def _done(self) -> bool:
        """Tells how it went; whether it was written."""
        assert self._now is not None
        path, publication, steps, future = self._now
        self._now = None
        self._timer.stop()
        again, self._again = self._again, None
        error, session = future.exception(), self.session
        kept = " Your work is kept for now." if error is not None and self.failed() else ""
        if isinstance(error, Refusal):
            session.noticed.emit(f"{error}{kept}")
        elif error is not None:
            write_down("Saving", error)
            told = in_words("Saving", error, "no file was written and the old one is untouched")
            session.noticed.emit(f"{told}{kept}")
        else:
            session.keep_saved(path, publication)
            self.saved(path, publication, steps)
            settings().remember(path)
            session.noticed.emit(f"Saved “{path.name}”.{_told_names(self._parted)}")
            if again is not None and session.modified:
                self.begin(again)
        return error is None


def _told_names(count: int) -> str:
    """That other names of the file keep what was in it."""
    if not count:
        return ""
    which = "one other name" if count == 1 else f"{count} other names"
    keeps = "keeps" if count == 1 else "keep"
    return f" The file had {which} on the disk, which {keeps} the work as it was before."


def _write(
    path: Path,
    publication: Publication,
    blobs: Mapping[str, bytes],
    preview: bytes,
    about_to: Callable[[str], object],
    own: bool,
) -> None:
    """A file without the pictures that only undone or earlier steps use."""
    save(path, lean(publication), blobs, preview, about_to, own)
    KNOWN.keep()  # where its lines end: it is opened sooner next time
