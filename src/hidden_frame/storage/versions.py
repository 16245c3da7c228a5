"""Earlier versions: what each save of a file held, kept beside and thinned by time.

>>> path = folder / "notes.hframe"
>>> keep_version(path, publication, {}, 3, root=folder / "kept")
>>> [version.steps for version in versions_of(path, root=folder / "kept")]
[3]
>>> opened_version(versions_of(path, root=folder / "kept")[0]).publication == publication
True
"""

from __future__ import annotations

import hashlib
import os
import time
import zlib
from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from datetime import datetime
from functools import partial
from pathlib import Path
from typing import NamedTuple

from platformdirs import user_data_path

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.decoding import decoded
from hidden_frame.storage.door import door
from hidden_frame.storage.files import way_out, write_atomically
from hidden_frame.storage.format import Opened, envelope
from hidden_frame.storage.store import keep_pictures, keeping, pictures_of, sweep_pictures

HOUR, DAY, DAYS = 3_600.0, 86_400.0, 30  # seconds, seconds, days
_SUFFIX, _PICTURES = ".json.z", "pictures"
_BLOCK = 1 << 14  # packed bytes that are looked through at a time


class Version(NamedTuple):
    """What a save held: where that is kept, when it was (seconds since 1970), and by how many
    steps it was ahead of the save before."""

    kept: Path
    when: float
    steps: int


def versions_folder() -> Path:
    """Where versions of all files are kept."""
    return user_data_path("hidden-frame") / "versions"


def keep_version(
    path: Path,
    publication: Publication,
    blobs: Mapping[str, bytes],
    steps: int,
    most: int = 2_000_000_000,
    root: Path | None = None,
) -> None:
    """Keeps what a file holds now; the oldest versions of any file go where all together take
    more than `most` bytes.  Raises `Refusal` where the disk takes nothing."""
    root = root or versions_folder()
    folder = root / _named(path)
    packer = zlib.compressobj(6)
    parts = [packer.compress(part) for part in envelope(publication)]
    name = f"{round(time.time() * 1000)}-{steps}{_SUFFIX}"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with keeping(root / _PICTURES):
            keep_pictures(root / _PICTURES, publication, blobs)
            write_atomically(folder / name, b"".join([*parts, packer.flush()]))
        _limit(root, most, _thin(versions_of(path, root)), folder / name)
    except OSError as error:
        raise Refusal(
            f"No version of “{path.name}” could be kept ({error.strerror or error}); "
            f"{way_out(error, 'allow versions less of it')}."
        ) from error


def versions_of(path: Path, root: Path | None = None) -> list[Version]:
    """The versions of a file, the latest first."""
    folder = (root or versions_folder()) / _named(path)
    return sorted(_versions(folder), key=lambda v: -v.when)


def opened_version(version: Version) -> Opened:
    """A version as an opened file.  Raises `Refusal` where it is damaged."""
    name = f"version of {datetime.fromtimestamp(version.when):%d.%m.%Y, %H:%M}"
    with door(name):
        publication = decoded(zlib.decompress(version.kept.read_bytes()), name)
    return Opened(publication, *pictures_of(version.kept.parent.parent / _PICTURES, publication))


def wanted(versions: Sequence[Version], now: float) -> list[Version]:
    """Those that stay at a time (seconds since 1970): all of the last hour, the last one of each
    hour of the last day, and the last one of each of the last thirty days on which there were any.

    Days and hours are those of the clock here.  What is of later than now, since the clock went
    back, is of the last hour.
    """
    latest = sorted(versions, key=lambda v: -v.when)
    hours: dict[str, Version] = {}
    days: dict[str, Version] = {}
    for version in latest:
        moment = datetime.fromtimestamp(version.when)
        days.setdefault(f"{moment:%Y-%m-%d}", version)
        if now - version.when <= DAY:
            hours.setdefault(f"{moment:%Y-%m-%d %H}", version)
    stay = {v.kept for v in (*hours.values(), *list(days.values())[:DAYS])}
    return [v for v in latest if now - v.when <= HOUR or v.kept in stay]


def _named(path: Path) -> str:
    """The folder of a file: links lead to the same."""
    real = os.path.realpath(path).encode("utf-8", "surrogateescape")
    return hashlib.sha256(real).hexdigest()[:24]


def _versions(folder: Path) -> list[Version]:
    found = []
    for kept in folder.glob(f"*{_SUFFIX}"):
        with suppress(ValueError):
            when, steps = kept.name.removesuffix(_SUFFIX).split("-")
            found.append(Version(kept, int(when) / 1000, int(steps)))
    return found


def _thin(versions: list[Version]) -> bool:
    """Takes away what does not stay; whether there was anything."""
    stay = {v.kept for v in wanted(versions, time.time())}
    gone = [v for v in versions if v.kept not in stay]
    for version in gone:
        version.kept.unlink(missing_ok=True)
    return bool(gone)


def _limit(root: Path, most: int, thinned: bool, kept: Path) -> None:
    """Takes away pictures that no version has, and the oldest versions while all take too much:
    not the one that was `kept` just now, which is the oldest where the clock went back."""
    every = [v for f in root.glob("*") if f.name != _PICTURES for v in _versions(f)]
    every.sort(key=lambda v: (v.kept != kept, -v.when))
    while thinned or _size(root) > most:
        thinned = False
        sweep_pictures(root / _PICTURES, partial(_works, every))
        if _size(root) <= most or len(every) < 2:
            return
        stay = max(len(every) * 3 // 4, 1)
        for version in every[stay:]:
            version.kept.unlink(missing_ok=True)
        del every[stay:]


def _works(versions: list[Version]) -> Iterator[bytes]:
    """What versions hold, in blocks."""
    for version in versions:
        unpacker = zlib.decompressobj()
        with suppress(OSError, zlib.error), version.kept.open("rb") as file:
            while packed := file.read(_BLOCK):  # a damaged one names nothing from there on
                yield unpacker.decompress(packed)


def _size(root: Path) -> int:
    return sum(p.stat().st_size for p in root.rglob("*") if p.is_file())
