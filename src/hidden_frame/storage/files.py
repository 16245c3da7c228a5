"""Files that are replaced whole, or not at all."""

from __future__ import annotations

import os
import tempfile
from contextlib import suppress
from pathlib import Path

from hidden_frame.model.errors import Refusal


def write_atomically(path: Path, data: bytes) -> None:
    """Writes a temporary file beside `path`, flushes it to disk, and renames it.

    Raises `Refusal` if that fails; the old file is then untouched.
    """
    temporary = ""
    try:
        handle, temporary = tempfile.mkstemp(dir=path.parent or Path("."), prefix=f".{path.name}-")
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, path)
    except OSError as error:
        with suppress(OSError):
            if temporary:
                os.unlink(temporary)
        reason = error.strerror or str(error)
        raise Refusal(
            f"“{path.name}” could not be written ({reason}); choose another place or make room."
        ) from error


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask
