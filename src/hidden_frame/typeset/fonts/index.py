"""What was found out about the files of fonts, kept from one run of the program to the next: to
read a file takes twenty milliseconds, and a designer's machine has thousands.

>>> [font.family for font in indexed([], folder / "index")]
[]
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from functools import cache
from pathlib import Path
from typing import NamedTuple

import msgspec
from platformdirs import user_cache_path

from hidden_frame.typeset.fonts.face import FontSource
from hidden_frame.typeset.fonts.machine import InstalledFont, font_files, fonts_in

_FORM = 1  # of what is kept; raised where a font's reasons or names are found in another way


class _Font(NamedTuple):
    """An `InstalledFont` of a file that is known."""

    family: str
    style: str
    number: int
    axes: tuple[tuple[str, float], ...]
    reason: str


class _File(NamedTuple):
    """A file as it was when it was read: its size, when it was changed, its fonts."""

    size: int
    changed: int
    fonts: tuple[_Font, ...]


class _Index(msgspec.Struct):
    form: int
    files: dict[str, _File]


def index_file() -> Path:
    """Where it is kept."""
    return user_cache_path("hidden-frame") / "fonts" / "index"


@cache
def machine_fonts() -> tuple[InstalledFont, ...]:
    """All fonts of the machine, looked for once in a process."""
    return tuple(indexed())


def indexed(
    files: Iterable[Path] | None = None,
    kept: Path | None = None,
    read: Callable[[Path], list[InstalledFont]] = fonts_in,
) -> list[InstalledFont]:
    """The fonts of files (None: of the machine); only those are read that are new or have changed
    since they were `kept`.  What can't be kept is read each time."""
    where = index_file() if kept is None else kept
    known, now = _known(where), dict[str, _File]()
    found: list[InstalledFont] = []
    for path in font_files() if files is None else files:
        with suppress(OSError):
            status = path.stat()
            entry = known.get(str(path))
            if entry is None or (entry.size, entry.changed) != (status.st_size, status.st_mtime_ns):
                fonts = tuple(_plain(font) for font in read(path))
                entry = _File(status.st_size, status.st_mtime_ns, fonts)
            now[str(path)] = entry
            found += _installed(path, entry)
    if now != known:
        _keep(where, now)
    return found


def _plain(font: InstalledFont) -> _Font:
    source = font.source
    return _Font(font.family, font.style, source.number, source.axes, font.reason)


def _installed(path: Path, entry: _File) -> Iterator[InstalledFont]:
    for font in entry.fonts:
        source = FontSource(path, font.number, font.axes)
        yield InstalledFont(font.family, font.style, source, font.reason)


def _known(where: Path) -> dict[str, _File]:
    try:
        index = msgspec.msgpack.decode(where.read_bytes(), type=_Index)
    except (OSError, msgspec.MsgspecError):
        return {}
    return index.files if index.form == _FORM else {}


def _keep(where: Path, files: dict[str, _File]) -> None:
    """Written beside and renamed, so that no other process reads half of it."""
    beside = where.with_name(f"{where.name}.{os.getpid()}")
    with suppress(OSError):
        where.parent.mkdir(parents=True, exist_ok=True)
        beside.write_bytes(msgspec.msgpack.encode(_Index(_FORM, files)))
        os.replace(beside, where)
