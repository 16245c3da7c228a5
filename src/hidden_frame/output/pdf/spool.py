"""The streams of pictures, on disk until their file is written.

A PDF of 500 photographs would not fit into memory.  Their data are written first, one after the
other, into a file of their own, which is itself a plain PDF (ISO 32000-1, 7.5) without pages;
what is then made of it reads each stream only when it is written.

>>> with Spool() as spool:
...     number = spool.add(b"Q q")
...     with spool.opened() as pdf:
...         pdf.get_object(number, 0).read_raw_bytes()
b'Q q'
"""

from __future__ import annotations

import os
import tempfile
from contextlib import suppress
from types import TracebackType
from typing import IO, Any

import pikepdf

from hidden_frame.storage.shelf import pictures_folder

_IN_MEMORY = 16 * 1024 * 1024  # bytes until which nothing goes to the disk
_CATALOGUE, _PAGES = 1, 2
_HEAD = (
    b"%PDF-1.7\n%\xe2\xe3\xcf\xd3\n"
    b"1 0 obj\n<< /Type /Catalog /Pages 2 0 R >>\nendobj\n"
    b"2 0 obj\n<< /Type /Pages /Kids [] /Count 0 >>\nendobj\n"
)


class Spool:
    """Raw streams by object number; its file is gone when it is closed."""

    def __init__(self) -> None:
        self._file: IO[bytes] = tempfile.SpooledTemporaryFile(_IN_MEMORY, dir=_folder())  # noqa: SIM115
        self._file.write(_HEAD)
        self._places = [_HEAD.index(b"%d 0 obj" % n) for n in (_CATALOGUE, _PAGES)]

    def __enter__(self) -> Spool:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, _: TracebackType | None
    ) -> None:
        self._file.close()

    def add(self, data: bytes) -> int:
        """Writes the data of a stream; the number of its object.  Raises `OSError` where the disk
        takes nothing."""
        self._places.append(self._file.tell())
        number = len(self._places)
        self._file.write(b"%d 0 obj\n<< /Length %d >>\nstream\n" % (number, len(data)))
        self._file.write(data)
        self._file.write(b"\nendstream\nendobj\n")
        return number

    def opened(self) -> Any:
        """A document that has all of them; the spool is needed until it is written."""
        at, size = self._file.tell(), len(self._places) + 1
        lines = [b"0000000000 65535 f \n", *(b"%010d 00000 n \n" % place for place in self._places)]
        self._file.write(b"xref\n0 %d\n" % size + b"".join(lines))
        self._file.write(b"trailer\n<< /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n"
                         % (size, at))  # fmt: skip
        self._file.seek(0)
        return pikepdf.Pdf.open(self._file, access_mode=pikepdf.AccessMode.stream)


def _folder() -> str | None:
    """Where pictures are anyway, so that there is room; None: wherever the system says."""
    folder = pictures_folder()
    with suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
    return str(folder) if os.access(folder, os.W_OK) else None
