"""Work that was not closed: kept beside the files while it is done, and found again after a crash.

Each running session has a folder of its own, locked as long as its process lives, with the
publication, its first page, and what to say of it.  Pictures stand in one store for all, by what
they hold.

>>> journal = Journal(folder)
>>> journal.write(publication, {}, AboutWork("Notes", "", 3))
>>> left_behind(folder)  # nothing: its process is alive
[]
>>> journal.abandon()  # as if it had been killed
>>> [(left.about.title, left.about.steps) for left in left_behind(folder)]
[('Notes', 3)]
>>> recovered(left_behind(folder)[0]).publication == publication
True
"""

from __future__ import annotations

import os
import shutil
import time
from collections.abc import Iterator, Mapping
from contextlib import suppress
from pathlib import Path
from typing import NamedTuple

import msgspec
from platformdirs import user_state_path

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.decoding import decoded
from hidden_frame.storage.door import door
from hidden_frame.storage.files import way_out, write_atomically
from hidden_frame.storage.format import Opened, digest_of, envelope
from hidden_frame.storage.locks import free, is_taken, let_go, take
from hidden_frame.storage.stamps import Stamp
from hidden_frame.storage.store import keep_pictures, keeping, pictures_of, sweep_pictures

_WORK, _ABOUT, _FIRST, _LOCK = "publication.json", "about.json", "first.png", "lock"
_SAVING = "saving.json"
_PICTURES = "pictures"
_STALE = 24 * 3600.0  # seconds after which a folder without work is nobody's
_BLOCK = 1 << 17  # bytes that are looked through at a time


class Whereabouts(msgspec.Struct, frozen=True):
    """Where somebody was: the page, and if they wrote, the frame, its story ("" for a text of its
    own), the caret and the other end of what was selected (paragraph, offset)."""

    page: str
    item: str = ""
    story: str = ""
    caret: tuple[int, int] = (0, 0)
    anchor: tuple[int, int] = (0, 0)


class AboutWork(msgspec.Struct, frozen=True):
    """What is said of work: its title, its file ("": none yet), how many steps it is ahead of
    that, when it was kept (seconds since 1970), the `stamp` of the file as it knew it, where one
    was in it, and its `number` among what this session kept."""

    title: str
    path: str
    steps: int
    when: float = 0.0
    stamp: Stamp | None = None
    at: Whereabouts | None = None
    number: int = 0


class Saving(msgspec.Struct, frozen=True):
    """A save that is about to be done: the file, the hash of what will stand in it, and the number
    of the latest work that was kept when it began, which holds nothing more."""

    path: str
    digest: str
    number: int


class Left(NamedTuple):
    """Work whose process is gone, in its folder."""

    folder: Path
    about: AboutWork

    @property
    def first(self) -> bytes | None:
        """Its first page as a PNG, if it was drawn."""
        with suppress(OSError):
            return (self.folder / _FIRST).read_bytes()
        return None


def recovery_folder() -> Path:
    """Where work is kept."""
    return user_state_path("hidden-frame") / "recovery"


class Journal:
    """The folder of one session.  What it writes replaces what was there, whole or not at all."""

    def __init__(self, root: Path | None = None) -> None:
        self.root = root or recovery_folder()
        self.folder = self.root / f"{os.getpid()}-{os.urandom(4).hex()}"
        self._lock = -1

    def write(
        self,
        publication: Publication,
        blobs: Mapping[str, bytes],
        about: AboutWork,
        first: bytes | None = None,
    ) -> None:
        """Keeps work as it is now.  Raises `Refusal` where the disk takes nothing."""
        try:
            self._open()
            with keeping(self.root / _PICTURES):
                keep_pictures(self.root / _PICTURES, publication, blobs)
                write_atomically(self.folder / _WORK, b"".join(envelope(publication)))
        except OSError as error:
            raise Refusal(
                f"Work can't be kept for a crash ({error.strerror or error}); "
                f"{way_out(error, 'save often')}."
            ) from error
        if first is not None:
            write_atomically(self.folder / _FIRST, first)
        now = msgspec.structs.replace(about, when=time.time())
        write_atomically(self.folder / _ABOUT, msgspec.json.encode(now))

    def saving(self, saving: Saving) -> None:
        """A save is about to be done: after a crash this tells whether the file holds the work.  A
        disk that takes nothing is no reason to stop."""
        if self._lock >= 0:
            with suppress(OSError, Refusal):
                write_atomically(self.folder / _SAVING, msgspec.json.encode(saving))

    def clear(self) -> None:
        """There is nothing to be recovered: all is saved."""
        for name in (_ABOUT, _WORK, _FIRST, _SAVING):
            (self.folder / name).unlink(missing_ok=True)

    def close(self) -> None:
        """The session is over as it should be."""
        if self._lock >= 0:
            shutil.rmtree(self.folder, ignore_errors=True)
            self.abandon()
            _sweep(self.root)

    def abandon(self) -> None:
        """Lets go of the folder, as a process does that is killed."""
        if self._lock >= 0:
            let_go(self._lock)
            self._lock = -1

    def _open(self) -> None:
        if self._lock < 0:
            self.folder.mkdir(parents=True, exist_ok=True)
            self._lock = take(self.folder / _LOCK)


def left_behind(root: Path | None = None) -> list[Left]:
    """The work of processes that are gone, the latest first."""
    root = root or recovery_folder()
    found = []
    for folder in sorted(root.glob("*-*")) if root.is_dir() else ():
        if folder.is_dir() and not is_taken(folder / _LOCK):
            with suppress(OSError, msgspec.MsgspecError):
                about = msgspec.json.decode((folder / _ABOUT).read_bytes(), type=AboutWork)
                if (folder / _WORK).is_file() and not _is_saved(folder, about):
                    found.append(Left(folder, about))
    return sorted(found, key=lambda left: -left.about.when)


def _is_saved(folder: Path, about: AboutWork) -> bool:
    """Whether the file holds this work, or later work of the same session: the save was done, and
    the journal was not told any more."""
    try:
        saving = msgspec.json.decode((folder / _SAVING).read_bytes(), type=Saving)
    except (OSError, msgspec.MsgspecError):
        return False
    return about.number <= saving.number and digest_of(Path(saving.path)) == saving.digest


def recovered(left: Left) -> Opened:
    """What was left behind, as an opened file.  Raises `Refusal` where it is damaged."""
    name = left.about.title or "The work"
    with door(name):
        publication = decoded((left.folder / _WORK).read_bytes(), name)
    return Opened(publication, *pictures_of(left.folder.parent / _PICTURES, publication))


def discard(left: Left) -> None:
    """Work that is not wanted, away for good."""
    shutil.rmtree(left.folder, ignore_errors=True)
    _sweep(left.folder.parent)


def _sweep(root: Path) -> None:
    """Takes away folders that never held any work, and pictures that no work names."""
    for folder in root.glob("*-*"):
        with suppress(OSError), free(folder / _LOCK) as nobodys:
            old = time.time() - folder.stat().st_mtime > _STALE
            if nobodys and old and not (folder / _WORK).exists():
                shutil.rmtree(folder, ignore_errors=True)
    sweep_pictures(root / _PICTURES, lambda: _works(root))


def _works(root: Path) -> Iterator[bytes]:
    for work in root.glob(f"*-*/{_WORK}"):
        with suppress(OSError), work.open("rb") as file:
            while block := file.read(_BLOCK):
                yield block
