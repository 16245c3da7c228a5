"""Whether a file is still the one that was read or written.

>>> path = folder / "a.txt"
>>> _ = path.write_text("mine")
>>> before = stamp_of(path)
>>> stamp_of(path) == before
True
>>> _ = path.write_text("theirs")
>>> stamp_of(path) == before, stamp_of(folder / "none")
(False, None)
"""

from __future__ import annotations

from pathlib import Path
from typing import NamedTuple


class Stamp(NamedTuple):
    """When a file was changed (nanoseconds), its size, and which file it is."""

    changed: int
    size: int
    node: int


def stamp_of(path: Path | None) -> Stamp | None:
    """The stamp of a file; None where there is none."""
    if path is None:
        return None
    try:
        found = path.stat()
    except OSError:
        return None
    return Stamp(found.st_mtime_ns, found.st_size, found.st_ino)
