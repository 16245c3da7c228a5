"""The members of a publication's archive, unpacked within limits: each by itself, all together, and
while it goes on, whatever the archive says of their sizes.

>>> import io, zipfile
>>> file = io.BytesIO()
>>> with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
...     archive.writestr("preview.png", bytes(50_000_000))
>>> unpacked(zipfile.ZipFile(file), "preview.png", "notes.hframe")
Traceback (most recent call last):
...
hidden_frame.model.errors.Refusal: “notes.hframe” holds “preview.png” of 48 MB, more than any \
publication has; it was not opened.
"""

from __future__ import annotations

import zipfile
from typing import NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import decimal

_MB = 1024**2
MAX_MEMBERS = 20_000
MAX_UNPACKED = 256 * _MB  # bytes that any file may unpack to
MOST_TIMES = 20  # as large as it is that a larger one may: pictures hardly shrink
_BLOCK = _MB  # bytes that are unpacked at a time


class _Cap(NamedTuple):
    """The most bytes of a member, and how many bytes it may have in any case; above these it may be
    `times` as large as it is packed."""

    most: int
    free: int
    times: int


# JSON of many pages that are alike shrinks to a fiftieth, a blank drawing of black and white to
# less; both are far from what is made to burst (a thousandth).
_CAPS = {
    "mimetype": _Cap(200, 200, 1),
    "preview.png": _Cap(16 * _MB, 16 * _MB, 1),
    "publication.json": _Cap(512 * _MB, 32 * _MB, 200),
}
_PICTURE = _Cap(1024 * _MB, 64 * _MB, 100)


def members(archive: zipfile.ZipFile, name: str) -> set[str]:
    """What is in an archive; `name` is for messages.  Raises `Refusal` for too many members, for
    names that would escape it, and for one that would unpack to far more than it is."""
    infos = archive.infolist()
    if len(infos) > MAX_MEMBERS:
        raise Refusal(f"“{name}” holds {len(infos)} members; the limit is {MAX_MEMBERS}.")
    for info in infos:
        parts = info.filename.replace("\\", "/").split("/")
        if info.filename.startswith(("/", "\\")) or ".." in parts or ":" in parts[0]:
            raise Refusal(
                f"“{name}” holds a member that would escape it (“{info.filename}”); it is refused."
            )
    total, packed = sum(info.file_size for info in infos), archive.start_dir
    if total > MAX_UNPACKED and total > MOST_TIMES * packed:
        large = decimal(total / 1024**3, 1, trimmed=False)
        small = decimal(packed / _MB, 1, trimmed=False)
        raise Refusal(
            f"“{name}” would unpack to {large} GB from {small} MB, "
            "which no publication does; it was not opened."
        )
    return {info.filename for info in infos}


def unpacked(archive: zipfile.ZipFile, member: str, name: str) -> bytes:
    """The bytes of a member; `name` is that of the file.  Raises `Refusal` for one that is larger
    than any is, before it is unpacked, or when as much has come that it must be."""
    info, cap = archive.getinfo(member), _CAPS.get(member, _PICTURE)
    most = min(cap.most, max(cap.free, cap.times * info.compress_size))
    if info.file_size > most:
        raise _too_large(name, member, info.file_size)
    parts, count = [], 0
    with archive.open(info) as file:
        while part := file.read(_BLOCK):
            count += len(part)
            if count > most:
                raise _too_large(name, member, count)
            parts.append(part)
    return b"".join(parts)


def _too_large(name: str, member: str, size: int) -> Refusal:
    return Refusal(
        f"“{name}” holds “{member}” of {size / _MB:,.0f} MB, more than any publication has; it "
        "was not opened."
    )
