"""What takes long to make, kept in the user's cache from one run of the program to the next.

>>> kept("drawings", b"what it is made of", lambda: b"converted")
b'converted'
"""

from __future__ import annotations

import hashlib
import os
import tempfile
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path

from platformdirs import user_cache_path

MOST = 400  # files of a kind; the oldest go first


def kept(
    kind: str,
    key: bytes,
    make: Callable[[], bytes],
    whole: Callable[[bytes], bool] = bool,
) -> bytes:
    """The bytes that `make` makes of what `key` stands for, made once.

    `whole` tells whether what is found on disk is complete.  Without a place to keep it, it
    is made each time; what `make` raises is passed on, and nothing is kept then.
    """
    path = user_cache_path("hidden-frame") / kind / hashlib.sha256(key).hexdigest()
    with suppress(OSError):
        data = path.read_bytes()
        if whole(data):
            return data
    data = make()
    with suppress(OSError):
        _write(path, data)
    return data


def _write(path: Path, data: bytes) -> None:
    """Written beside and renamed, so that no other process reads half of it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent)
    with os.fdopen(handle, "wb") as file:
        file.write(data)
    os.replace(temporary, path)
    there = sorted(path.parent.iterdir(), key=lambda p: p.stat().st_mtime)
    for old in there[:-MOST]:
        old.unlink(missing_ok=True)
