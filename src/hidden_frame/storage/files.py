"""Files that are replaced whole, or not at all, and keep what belongs to them."""

from __future__ import annotations

import os
import shutil
import stat
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import BinaryIO

from hidden_frame.model.errors import Refusal

_PREFIX, _SUFFIX = ".hframe-", ".part"
_STRAY = 600.0  # seconds after which the temporary file of a dead process is swept away
_BLOCK = 1 << 20


def write_atomically(path: Path, data: bytes) -> None:
    """Writes bytes to a file as `replace_file` does."""

    def write(file: BinaryIO) -> None:
        file.write(data)

    def prove(written: Path) -> None:
        _read_back(written, data, path.name)

    replace_file(path, write, prove)


def replace_file(
    path: Path, write: Callable[[BinaryIO], None], prove: Callable[[Path], None]
) -> None:
    """Has a temporary file written beside `path`, flushes it to disk, has it proved as it was read
    back, and renames it.

    Links stay links; permissions, owner, group and extended attributes stay as they are.  Raises
    `Refusal` if that fails; the old file is then untouched.
    """
    with _told(path):
        there = Path(os.path.realpath(path))
        old = there.stat() if there.exists() else None
        if old is not None and not old.st_mode & 0o222:
            raise Refusal(
                f"“{path.name}” may only be read; save under another name, or allow writing to it."
            )
        handle, name = tempfile.mkstemp(_SUFFIX, f"{_PREFIX}{os.getpid()}-", there.parent)
        try:
            with os.fdopen(handle, "w+b") as file:
                write(file)
                file.flush()
                os.fsync(file.fileno())
                if hasattr(os, "posix_fadvise"):  # read back from the disk, not from memory
                    os.posix_fadvise(file.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
            prove(Path(name))
            _take_over(Path(name), there, old)
            if old is not None and old.st_nlink > 1:
                _into(there, Path(name))
            else:
                os.replace(name, there)
                _flush_folder(there.parent)
        finally:
            with suppress(OSError):
                os.unlink(name)
    _sweep(there.parent)


@contextmanager
def _told(path: Path) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        reason = error.strerror or str(error)
        raise Refusal(
            f"“{path.name}” could not be written ({reason}); choose another place or make room."
        ) from error


def _read_back(written: Path, data: bytes, name: str) -> None:
    """Raises `Refusal` where the disk gives back something else than was written."""
    with written.open("rb") as file:
        at = 0
        while block := file.read(_BLOCK):
            if block != data[at : at + len(block)]:
                at = -1
                break
            at += len(block)
    if at != len(data):
        raise Refusal(
            f"The disk does not give back what was written for “{name}”; the old file is "
            "untouched. Save to another disk."
        )


def _take_over(written: Path, there: Path, old: os.stat_result | None) -> None:
    """Gives the new file what belongs to the old one."""
    if old is None:
        os.chmod(written, 0o666 & ~_umask())
        return
    with suppress(OSError):  # only root may give files away
        os.chown(written, old.st_uid, old.st_gid)
    os.chmod(written, stat.S_IMODE(old.st_mode))
    with suppress(OSError):  # not every file system has them
        for name in os.listxattr(there):
            with suppress(OSError):
                os.setxattr(written, name, os.getxattr(there, name))


def _into(there: Path, written: Path) -> None:
    """Into the file itself, since it has several names."""
    with there.open("r+b") as file, written.open("rb") as source:
        shutil.copyfileobj(source, file, _BLOCK)
        file.truncate()
        file.flush()
        os.fsync(file.fileno())


def _flush_folder(folder: Path) -> None:
    """The new name too is on the disk: without it a loss of power brings back the old file."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _sweep(folder: Path) -> None:
    """Takes away the temporary files of saves that were killed."""
    with suppress(OSError):
        for entry in os.scandir(folder):
            if entry.name.startswith(_PREFIX) and entry.name.endswith(_SUFFIX):
                with suppress(OSError, ValueError):
                    process = int(entry.name[len(_PREFIX) :].partition("-")[0])
                    old = time.time() - entry.stat().st_mtime > _STRAY
                    if old and not Path(f"/proc/{process}").exists():
                        os.unlink(entry.path)


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask
