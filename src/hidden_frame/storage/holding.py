"""Which process has a file open, told by a small hidden file beside it.

>>> path = folder / "notes.hframe"
>>> _ = path.write_bytes(b"")
>>> with_it = hold(path)
>>> held_by(path) is None  # this process itself
True
>>> release(with_it)
>>> [p.name for p in folder.iterdir()]
['notes.hframe']
"""

from __future__ import annotations

import getpass
import os
import socket
import time
from contextlib import suppress
from pathlib import Path
from typing import NamedTuple

import msgspec

from hidden_frame.storage.locks import is_taken, let_go, take

_FORGOTTEN = 7 * 24 * 3600.0  # seconds after which a file that another machine left is nobody's


class Holder(msgspec.Struct, frozen=True):
    """Who has a file open: the user, the machine, the process, and since when (seconds since
    1970)."""

    user: str
    machine: str
    process: int
    since: float


class Holding(NamedTuple):
    """The lock that a process has on a file: the hidden file, and its descriptor."""

    beside: Path
    lock: int


def hold(path: Path) -> Holding | None:
    """Says that this process has a file open; None where nothing can be written beside it, or
    another process says so."""
    beside = _beside(path)
    try:
        lock = take(beside, wait=False)
    except OSError:
        return None
    with suppress(OSError):
        me = Holder(_user(), socket.gethostname(), os.getpid(), time.time())
        os.ftruncate(lock, 0)
        os.pwrite(lock, msgspec.json.encode(me), 0)
    return Holding(beside, lock)


def release(holding: Holding) -> None:
    """The file is closed."""
    with suppress(OSError):
        holding.beside.unlink(missing_ok=True)
    let_go(holding.lock)


def held_by(path: Path) -> Holder | None:
    """Another process that has a file open; None where there is none."""
    beside = _beside(path)
    try:
        holder = msgspec.json.decode(beside.read_bytes(), type=Holder)
    except (OSError, msgspec.MsgspecError):
        return None
    if holder.machine != socket.gethostname():  # its lock can't be asked from here
        return holder if time.time() - holder.since < _FORGOTTEN else None
    return holder if holder.process != os.getpid() and is_taken(beside) else None


def _beside(path: Path) -> Path:
    there = Path(os.path.realpath(path))
    return there.with_name(f".{there.name}.open")


def _user() -> str:
    try:
        return getpass.getuser()
    except (KeyError, OSError):
        return "somebody"
