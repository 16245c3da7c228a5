"""The pictures of a session: files on disk while one works, not memory.

>>> pictures = PicturesOnDisk({"a" * 64: b"bytes"}, folder)
>>> pictures["a" * 64], len(pictures), "b" * 64 in pictures
(b'bytes', 1, False)
>>> pictures.close()
>>> list(folder.iterdir())
[]
"""

from __future__ import annotations

import os
import shutil
import tempfile
import weakref
from collections.abc import Callable, Iterator, Mapping, MutableMapping
from pathlib import Path

from platformdirs import user_state_path

from hidden_frame.storage.locks import free, let_go, take

_LOCK = "lock"


def pictures_folder() -> Path:
    """Where the pictures of running programs are: not in the cache, which anybody may empty."""
    return user_state_path("hidden-frame") / "work"


class PicturesOnDisk(MutableMapping[str, bytes]):
    """Bytes by hash, each in a file of a folder that goes with its process.

    What can't be written stays in memory: a full disk is told when one saves.
    """

    def __init__(
        self, pictures: Mapping[str, bytes] | None = None, root: Path | None = None
    ) -> None:
        self._root = root or pictures_folder()
        self._folder: Path | None = None
        self._names: dict[str, None] = {}
        self._kept: dict[str, bytes] = {}  # what the disk did not take
        self._end: Callable[[], object] = lambda: None
        self.update(pictures or {})

    def __getitem__(self, digest: str) -> bytes:
        if digest in self._kept:
            return self._kept[digest]
        if digest not in self._names or self._folder is None:
            raise KeyError(digest)
        try:
            return (self._folder / digest).read_bytes()
        except OSError as error:  # somebody swept the folder away
            raise KeyError(digest) from error

    def __contains__(self, digest: object) -> bool:
        return digest in self._names

    def __setitem__(self, digest: str, data: bytes) -> None:
        self._kept.pop(digest, None)
        try:
            part = self._made() / f"{digest}.part"
            part.write_bytes(data)
            part.replace(part.with_suffix(""))
        except OSError:
            self._kept[digest] = data
        self._names[digest] = None

    def __delitem__(self, digest: str) -> None:
        del self._names[digest]
        if self._kept.pop(digest, None) is None and self._folder is not None:
            (self._folder / digest).unlink(missing_ok=True)

    def __iter__(self) -> Iterator[str]:
        return iter(tuple(self._names))

    def __len__(self) -> int:
        return len(self._names)

    def file_of(self, digest: str) -> Path | None:
        """The file that holds a picture, which nobody changes; None if it is in memory."""
        if self._folder is None or digest not in self._names or digest in self._kept:
            return None
        return self._folder / digest

    def close(self) -> None:
        """The session is over."""
        self._names.clear()
        self._kept.clear()
        self._end()
        self._folder = None

    def _made(self) -> Path:
        """The folder, made and locked when the first picture comes; those of processes that are
        gone go."""
        if self._folder is None:
            self._root.mkdir(parents=True, exist_ok=True)
            _sweep(self._root)
            self._folder = Path(tempfile.mkdtemp(prefix=f"{os.getpid()}-", dir=self._root))
            lock = take(self._folder / _LOCK)
            self._end = weakref.finalize(self, _gone, self._folder, lock)
        return self._folder


def _gone(folder: Path, lock: int) -> None:
    shutil.rmtree(folder, ignore_errors=True)
    let_go(lock)


def _sweep(root: Path) -> None:
    for folder in root.glob("*-*"):
        with free(folder / _LOCK) as nobodys:
            if nobodys:
                shutil.rmtree(folder, ignore_errors=True)
