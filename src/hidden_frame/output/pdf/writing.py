"""A finished document to its file, beside whoever waits for it."""

from __future__ import annotations

import io
import threading
import zlib
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor, wait
from contextlib import suppress
from pathlib import Path
from typing import Any, BinaryIO

import pikepdf

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.files import replace_file

# Called with work done and work in all; False stops the export.
Progress = Callable[[int, int], bool]
_FONTS, _FILE = 5, 10  # shares of the work, in per cent of that on pages
_LOOK = 0.02  # seconds between two looks at what is being written
_PATIENCE = 0.1  # seconds given to what is stopped
_BLOCK = 1 << 20


class Cancelled(Exception):
    """The export was stopped by its progress function; nothing was written."""


class Work:
    """How much is done, said to whoever wants to know; raises `Cancelled` when told to stop."""

    def __init__(self, progress: Progress | None, pages: int) -> None:
        self._progress = progress
        self._pages = pages
        self.total = 2 * pages * (100 + _FONTS + _FILE) // 100 + 2
        self.done = 0

    def more(self, by: int = 1) -> None:
        self.done += by
        self.alive()

    def fonts(self) -> None:
        """The fonts are made."""
        self.more(self._pages * _FONTS // 100)

    def alive(self) -> None:
        """Asks whether to go on, where much is done for a single page."""
        if self._progress is not None and not self._progress(self.done, self.total):
            raise Cancelled

    def at(self, share: float, start: int) -> None:
        """A share (0 to 1) of what is left from `start` on is done."""
        self.done = start + int((self.total - start) * share)
        self.alive()


def to_memory(pdf: Any, work: Work) -> bytes:
    """The bytes of a document."""
    buffer, start = io.BytesIO(), work.done
    _save(pdf, buffer, lambda percent: work.at(percent / 100, start))
    return buffer.getvalue()


def to_file(pdf: Any, path: Path, work: Work, done: Callable[[], None]) -> None:
    """A document into a file, which is replaced only when the disk gives back what was written.

    A thread does it, since no disk says how long it takes: one may stop waiting at any moment, and
    it then writes nothing more.  `done` is called when the document is no longer needed.  Raises
    `Refusal`, or `Cancelled`.
    """
    made, start = _File(pdf), work.done
    pool = ThreadPoolExecutor(1, "export")
    writing = pool.submit(replace_file, path, made.write, lambda there: made.prove(there, path))
    writing.add_done_callback(lambda _: done())
    pool.shutdown(wait=False)
    try:
        while not wait([writing], _LOOK).done:
            work.at(min(made.percent / 100, 0.99), start)
    except BaseException as error:
        if made.stopped() or not isinstance(error, Cancelled):
            wait([writing], _PATIENCE)
            raise
    writing.result()
    with suppress(Cancelled):  # too late: it stands there
        work.at(1.0, start)


class _File:
    """What the thread does; `stopped` may be called by another."""

    def __init__(self, pdf: Any) -> None:
        self.percent = 0
        self._pdf = pdf
        self._state = threading.Lock()
        self._stop = self._whole = False
        self._sum = 0

    def stopped(self) -> bool:
        """Stops it; False where the file is whole and takes its place already."""
        with self._state:
            self._stop = not self._whole
            return self._stop

    def write(self, file: BinaryIO) -> None:
        pdf, self._pdf = self._pdf, None  # which tells this object how far it is
        _save(pdf, _Watched(file, self._wrote), self._progress)

    def prove(self, there: Path, path: Path) -> None:
        """Reads back what was written."""
        found = 0
        with there.open("rb") as file:
            while block := file.read(_BLOCK):
                self._go_on()
                found = zlib.crc32(block, found)
        if found != self._sum:
            raise Refusal(
                f"The disk does not give back what was written for “{path.name}”; export to "
                "another disk."
            )
        with self._state:
            self._go_on()
            self._whole = True

    def _wrote(self, data: bytes) -> None:
        self._sum = zlib.crc32(data, self._sum)
        self._go_on()

    def _progress(self, percent: int) -> None:
        self.percent = percent
        self._go_on()

    def _go_on(self) -> None:
        if self._stop:
            raise Cancelled


class _Watched(io.RawIOBase):
    """A file for writing alone; what is written to it is told."""

    def __init__(self, file: BinaryIO, wrote: Callable[[bytes], None]) -> None:
        self._file, self._told = file, wrote

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._told(data)
        return self._file.write(data)


def _save(pdf: Any, file: Any, progress: Callable[[int], None]) -> None:
    pdf.save(
        file,
        object_stream_mode=pikepdf.ObjectStreamMode.generate,
        deterministic_id=True,
        min_version="1.7",
        progress=progress,
    )
