"""Files that are replaced whole, or not at all, and keep what belongs to them."""

from __future__ import annotations

import errno
import os
import socket
import stat
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import BinaryIO

from hidden_frame.model.errors import Refusal

_PREFIX, _SUFFIX = ".hframe-", ".part"
_HOST = "".join(c for c in socket.gethostname() if c.isalnum())[:32] or "here"
_STRAY = 600.0  # seconds after which the temporary file of another machine is swept away
_FULL = {errno.ENOSPC, errno.EDQUOT}
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

    Symbolic links stay links; permissions, owner, group and extended attributes stay as they are.
    Where the file has other names (hard links), these keep the old one: written into, a full disk
    or a kill would take both (`other_names` tells beforehand).  Raises `Refusal` if that fails; the
    old file is then untouched.
    """
    with _told(path):
        there = Path(os.path.realpath(path))
        old = there.stat() if there.exists() else None
        if old is not None and not old.st_mode & 0o222:
            raise Refusal(
                f"“{path.name}” is read-only; save under another name, or allow writing to it."
            )
        mark = f"{_PREFIX}{_HOST}-{os.getpid()}-"
        handle, name = tempfile.mkstemp(_SUFFIX, mark, there.parent)
        try:
            with os.fdopen(handle, "w+b") as file:
                write(file)
                file.flush()
                os.fsync(file.fileno())
                if hasattr(os, "posix_fadvise"):  # read back from the disk, not from memory
                    os.posix_fadvise(file.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
            prove(Path(name))
            _take_over(Path(name), there, old)
            os.replace(name, there)
            _flush_folder(there.parent)
        finally:
            with suppress(OSError):
                os.unlink(name)
    sweep(there.parent)


def other_names(path: Path) -> int:
    """How many other names a file has (hard links); 0 where there is none."""
    try:
        return max(os.stat(path).st_nlink - 1, 0)
    except OSError:
        return 0


def way_out(error: OSError, elsewhere: str = "choose another place") -> str:
    """What to do where something can't be written: room is made only on a disk that is full.

    >>> way_out(OSError(errno.ENOSPC, "No space left"))
    'make room on the disk, or choose another place'
    """
    return f"make room on the disk, or {elsewhere}" if error.errno in _FULL else elsewhere


@contextmanager
def _told(path: Path) -> Iterator[None]:
    try:
        yield
    except OSError as error:
        reason = error.strerror or str(error)
        raise Refusal(
            f"“{path.name}” could not be written ({reason}); {way_out(error)}."
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
            f"“{name}” could not be read back after writing; the old file is untouched. Save to "
            "another disk."
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


def _flush_folder(folder: Path) -> None:
    """The new name too is on the disk: without it a loss of power brings back the old file."""
    with suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def sweep(folder: Path) -> None:
    """Takes away the temporary files of saves that were killed: of this machine at once, of
    another, which can't be asked, when they are old."""
    with suppress(OSError):
        for entry in os.scandir(folder):
            if entry.name.startswith(_PREFIX) and entry.name.endswith(_SUFFIX):
                with suppress(OSError, ValueError):
                    *host, process, _ = entry.name[len(_PREFIX) :].split("-")
                    if host == [_HOST]:
                        stray = not Path(f"/proc/{int(process)}").exists()
                    else:
                        stray = time.time() - entry.stat().st_mtime > _STRAY
                    if stray:
                        os.unlink(entry.path)


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask
