"""Pictures on disk by what they hold: equal ones are kept once, whoever keeps them.

>>> with keeping(folder):
...     keep_pictures(folder, publication, blobs)
>>> dict(pictures_of(folder, publication)[0])
{}
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager, suppress
from pathlib import Path

from msgspec.structs import replace

from hidden_frame.model.publication import Publication
from hidden_frame.storage.files import write_atomically
from hidden_frame.storage.pieces import pieces
from hidden_frame.storage.shelf import PicturesOnDisk

_HASH = re.compile(rb"[0-9a-f]{64}")


@contextmanager
def keeping(root: Path) -> Iterator[None]:
    """While pictures and what names them are written: nobody sweeps then.  Raises `OSError`."""
    root.mkdir(parents=True, exist_ok=True)
    with _lock(root).open("ab") as lock:
        fcntl.flock(lock, fcntl.LOCK_SH)
        yield


def _lock(root: Path) -> Path:
    return root.with_name(f"{root.name}.lock")


def keep_pictures(root: Path, publication: Publication, blobs: Mapping[str, bytes]) -> None:
    """Puts the pictures of a publication there that are not there yet: those that are files on
    the same disk as another name of these."""
    for picture in publication.pictures:
        path = root / picture.hash
        if picture.hash in blobs and not path.exists() and not _linked(path, picture.hash, blobs):
            write_atomically(path, blobs[picture.hash])


def _linked(path: Path, digest: str, blobs: Mapping[str, bytes]) -> bool:
    file = blobs.file_of(digest) if isinstance(blobs, PicturesOnDisk) else None
    if file is None:
        return False
    try:
        os.link(file, path)
    except FileExistsError:
        return True
    except OSError:  # another disk, or one without links
        return False
    return True


def pictures_of(root: Path, publication: Publication) -> tuple[PicturesOnDisk, list[str]]:
    """The pictures of a publication, and a sentence for each that is gone or broken."""
    pictures = PicturesOnDisk()
    warnings = []
    for picture in publication.pictures:
        with suppress(OSError):
            data = (root / picture.hash).read_bytes()
            if hashlib.sha256(data).hexdigest() == picture.hash:
                pictures[picture.hash] = data
        if picture.hash not in pictures:
            warnings.append(f"The picture “{picture.name}” was not kept; place it again.")
    return pictures, warnings


def lean(publication: Publication) -> Publication:
    """The publication without pictures that nothing in it uses any more; itself if all are used."""
    used: set[bytes] = set()
    for piece in pieces(replace(publication, pictures=())):
        used.update(_HASH.findall(piece))
    kept = tuple(p for p in publication.pictures if p.hash.encode() in used)
    if len(kept) == len(publication.pictures):
        return publication
    return replace(publication, pictures=kept)


def hashes_in(texts: Iterable[bytes]) -> set[bytes]:
    """Every hash in texts, or in blocks of a text: one may begin in a block and end in the next.

    To look through a block holds up everything else, so they are best not too large.
    """
    found: set[bytes] = set()
    rest = b""
    for text in texts:
        block = rest + text
        found.update(_HASH.findall(block))
        rest = block[-63:]
    return found


def sweep_pictures(root: Path, texts: Callable[[], Iterable[bytes]]) -> None:
    """Takes away the pictures that none of these publications, as JSON, names; another time, if
    something is being kept."""
    with suppress(OSError), _lock(root).open("ab") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        wanted = hashes_in(texts())
        for path in root.glob("*"):
            if path.name.encode() not in wanted:
                path.unlink(missing_ok=True)
