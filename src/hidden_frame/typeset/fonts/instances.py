"""Members of font collections and instances of variable fonts as fonts of their own."""

from __future__ import annotations

import io
from pathlib import Path

from fontTools.ttLib import TTFont

from hidden_frame.kept import kept


def single_font(path: Path, number: int, axes: tuple[tuple[str, float], ...]) -> bytes:
    """The bytes of one font; what takes seconds to make is kept in the user's cache."""
    status = path.stat()
    key = repr((str(path), status.st_mtime_ns, status.st_size, number, axes))
    return kept("fonts", key.encode(), lambda: _made(path, number, axes))


def _made(path: Path, number: int, axes: tuple[tuple[str, float], ...]) -> bytes:
    font = TTFont(path, fontNumber=number)
    if axes:
        from fontTools.varLib.instancer import instantiateVariableFont

        font = instantiateVariableFont(font, dict(axes), inplace=True)
    buffer = io.BytesIO()
    font.save(buffer)
    return buffer.getvalue()
