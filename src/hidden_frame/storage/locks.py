"""Locks that end with the process that has them, however that ends (flock(2)).

>>> mine = take(folder / "lock")
>>> is_taken(folder / "lock")  # also by this process itself
True
>>> let_go(mine)
>>> is_taken(folder / "lock"), is_taken(folder / "none")
(False, False)
"""

from __future__ import annotations

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path


def take(path: Path, *, wait: bool = True) -> int:
    """Locks a file, made if it is not there; the descriptor.  Raises `OSError` where that is not
    possible, or, unless it shall `wait`, where somebody else has it."""
    while True:
        lock = os.open(path, os.O_RDWR | os.O_CREAT, 0o644)
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
            if _is_there(lock, path):
                return lock
        except OSError:
            os.close(lock)
            raise
        os.close(lock)  # it was taken away meanwhile, with the lock on it


def let_go(lock: int) -> None:
    """Ends a lock."""
    with suppress(OSError):
        os.close(lock)


def is_taken(path: Path) -> bool:
    """Whether a process has a lock on a file."""
    with free(path) as mine:
        return path.exists() and not mine


@contextmanager
def free(path: Path) -> Iterator[bool]:
    """Whether a file is there and nobody's, which holds as long as this lasts."""
    try:
        lock = os.open(path, os.O_RDWR)
    except OSError:
        yield False
        return
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        mine = True
    except OSError:
        mine = False
    try:
        yield mine
    finally:
        os.close(lock)


def _is_there(lock: int, path: Path) -> bool:
    try:
        return os.path.samestat(os.fstat(lock), os.stat(path))
    except OSError:
        return False
