"""Members of font collections and instances of variable fonts as fonts of their own."""

from __future__ import annotations

import hashlib
import io
import os
import tempfile
from contextlib import suppress
from pathlib import Path

from fontTools.ttLib import TTFont
from platformdirs import user_cache_path


def single_font(path: Path, number: int, axes: tuple[tuple[str, float], ...]) -> bytes:
    """The bytes of one font; what takes seconds to make is kept in the user's cache."""
    status = path.stat()
    key = repr((str(path), status.st_mtime_ns, status.st_size, number, axes))
    kept = user_cache_path("hidden-frame") / "fonts" / hashlib.sha256(key.encode()).hexdigest()
    with suppress(OSError):
        return kept.read_bytes()
    data = _made(path, number, axes)
    with suppress(OSError):
        _keep(kept, data)
    return data


def _made(path: Path, number: int, axes: tuple[tuple[str, float], ...]) -> bytes:
    font = TTFont(path, fontNumber=number)
    if axes:
        from fontTools.varLib.instancer import instantiateVariableFont

        font = instantiateVariableFont(font, dict(axes), inplace=True)
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()


def _keep(path: Path, data: bytes) -> None:
    """Written beside and renamed, so that no other process reads half of it."""
    path.parent.mkdir(parents=True, exist_ok=True)
    handle, temporary = tempfile.mkstemp(dir=path.parent)
    with os.fdopen(handle, "wb") as file:
        file.write(data)
    os.replace(temporary, path)
