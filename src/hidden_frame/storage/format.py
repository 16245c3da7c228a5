"""The file format `.hframe`: a ZIP with a publication, its pictures and a preview.

>>> save(folder / "notes.hframe", publication, blobs)
>>> opened = load(folder / "notes.hframe")
>>> opened.publication == publication
True
"""

from __future__ import annotations

import hashlib
import io
import re
import zipfile
import zlib
from collections.abc import Callable, Iterator, Mapping, MutableMapping
from functools import partial
from pathlib import Path
from typing import BinaryIO, NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import check
from hidden_frame.model.publication import Publication
from hidden_frame.storage.declared import known_trouble
from hidden_frame.storage.decoding import seen
from hidden_frame.storage.door import door, is_drawing, short
from hidden_frame.storage.files import replace_file
from hidden_frame.storage.numbers import FORMAT
from hidden_frame.storage.pieces import Unlike, pieces
from hidden_frame.storage.unpacking import members, unpacked

MIMETYPE = "application/vnd.hidden-frame+zip"
EXTENSION = ".hframe"
_EPOCH = (1980, 1, 1, 0, 0, 0)  # equal publications make equal files
_PICTURE = re.compile(r"^pictures/([0-9a-f]{64})\.(png|jpg|svg|tif)$")


class Opened(NamedTuple):
    """A publication from a file, the bytes of its pictures by hash, warnings, and whether the file
    says `more` than this version knows: it is opened to look at, and never written over."""

    publication: Publication
    blobs: MutableMapping[str, bytes]
    warnings: list[str]
    preview: bytes | None = None
    more: bool = False


def write_to(
    file: BinaryIO,
    publication: Publication,
    blobs: Mapping[str, bytes],
    preview: bytes | None = None,
) -> str:
    """The whole file, a picture at a time; pictures the publication does not know are left out.

    The hash of its `publication.json`, which was proved to be read as it is here."""
    with zipfile.ZipFile(file, "w") as archive:
        _member(archive, "mimetype", MIMETYPE.encode(), zipfile.ZIP_STORED)
        digest = _publication(archive, publication)
        for picture in publication.pictures:
            data = blobs.get(picture.hash)
            if data is None and picture.hash in blobs:
                raise Refusal(
                    f"The picture “{picture.name}” is gone from this disk; place it again."
                )
            if data is not None:
                how = zipfile.ZIP_DEFLATED if picture.kind in ("svg", "tif") else zipfile.ZIP_STORED
                name = f"pictures/{picture.hash}.{picture.kind}"
                _member(archive, name, data, how)
        if preview is not None:
            _member(archive, "preview.png", preview, zipfile.ZIP_STORED)
    return digest


def envelope(publication: Publication, proved: bool = False) -> Iterator[bytes]:
    """The bytes of a `publication.json`, in pieces none of which takes long to make; `proved` as
    in `pieces`."""
    yield b'{"format":%d,"publication":' % FORMAT
    yield from pieces(publication, proved)
    yield b"}"


def _publication(archive: zipfile.ZipFile, publication: Publication) -> str:
    """Writes it; the hash of what was written."""
    digest = hashlib.sha256()
    try:
        check(publication)
        with archive.open(_info("publication.json", zipfile.ZIP_DEFLATED), "w") as member:
            for piece in envelope(publication, proved=True):
                digest.update(piece)
                member.write(piece)
    except UnicodeEncodeError as error:
        raise Refusal(
            "A text of this publication contains a broken character after "
            f"“{error.object[max(error.start - 20, 0) : error.start]}…”; delete what follows."
        ) from error
    except Unlike as error:
        raise Refusal(
            "Not saved: the file could not be opened again as it is now "
            f"({short(str(error), 100)}). Undo the last step, then save."
        ) from error
    return digest.hexdigest()


def _member(archive: zipfile.ZipFile, name: str, data: bytes, how: int) -> None:
    archive.writestr(_info(name, how), data, compresslevel=6)


def _info(name: str, how: int) -> zipfile.ZipInfo:
    info = zipfile.ZipInfo(name, _EPOCH)
    info.compress_type = how
    return info


def save(
    path: Path,
    publication: Publication,
    blobs: Mapping[str, bytes],
    preview: bytes | None = None,
    about_to: Callable[[str], object] = lambda _: None,
    own: bool = False,
) -> None:
    """Writes the file whole; a failed save raises `Refusal` and leaves the old one.

    What could not be opened again is not written: it goes through the check of opening first.  A
    file that says more than this version knows is not written over; it is looked at for that,
    unless it is one's `own`, as it was read or written last.
    `about_to` is told the hash of what will stand in the file (`digest_of`), right before it does.
    """

    if not own and says_more(path):
        raise Refusal(
            f"“{path.name}” contains data from a newer version that would be lost; save under "
            "another name."
        )
    digest: list[str] = []

    def write(file: BinaryIO) -> None:
        digest.append(write_to(file, publication, blobs, preview))

    def prove(written: Path) -> None:
        with zipfile.ZipFile(written) as archive:
            _prove(archive, publication, digest[-1], path.name)
        about_to(digest[-1])

    replace_file(path, write, prove)


def _prove(archive: zipfile.ZipFile, publication: Publication, digest: str, name: str) -> None:
    """Raises `Refusal` for a file that does not give back what was written."""
    try:
        whole = _hash(archive, "publication.json") == digest
        for picture in publication.pictures:
            member = f"pictures/{picture.hash}.{picture.kind}"
            if member in archive.NameToInfo and _hash(archive, member) != picture.hash:
                raise Refusal(f"The picture “{picture.name}” is incomplete; place it again.")
    except (zipfile.BadZipFile, zlib.error, EOFError, KeyError) as error:
        raise _not_given_back(name) from error
    if not whole:
        raise _not_given_back(name)


def _not_given_back(name: str) -> Refusal:
    return Refusal(
        f"“{name}” could not be read back after writing; the old file is untouched. Save to "
        "another disk."
    )


def says_more(path: Path) -> bool:
    """Whether a publication's file says more than this version knows, so that writing over it
    would lose that."""
    try:
        with zipfile.ZipFile(path) as archive:
            return bool(seen(unpacked(archive, "publication.json", path.name), path.name).more)
    except (OSError, zipfile.BadZipFile, zlib.error, EOFError, KeyError, NotImplementedError):
        return False
    except Refusal as refusal:
        return "newer version" in str(refusal)


def digest_of(path: Path) -> str | None:
    """The hash of what stands in a file; None where that can't be read."""
    try:
        with zipfile.ZipFile(path) as archive:
            return _hash(archive, "publication.json")
    except (OSError, zipfile.BadZipFile, zlib.error, EOFError, KeyError):
        return None


def _hash(archive: zipfile.ZipFile, member: str) -> str:
    with archive.open(member) as file:
        return hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]


def load(path: Path, into: MutableMapping[str, bytes] | None = None) -> Opened:
    """Opens a file, or raises `Refusal` that says what is wrong with it and where.  Its pictures
    go `into` a mapping, a dict by default."""
    try:
        with path.open("rb") as file, door(path.name):
            return _from_file(file, path.name, {} if into is None else into)
    except OSError as error:
        raise Refusal(f"“{path.name}” can't be read ({error.strerror}).") from error


def from_bytes(data: bytes, name: str) -> Opened:
    """The publication in the bytes of a file; `name` is for messages.  Raises `Refusal`, and
    nothing else, for bytes that are no publication."""
    with door(name):
        return _from_file(io.BytesIO(data), name, {})


def _from_file(file: BinaryIO, name: str, into: MutableMapping[str, bytes]) -> Opened:
    head = file.read(2)
    if head != b"PK":
        what = "empty" if not head else "not a Hidden Frame publication (not a ZIP archive)"
        raise Refusal(f"“{name}” is {what}; choose another file.")
    try:
        with zipfile.ZipFile(file) as archive:
            return _read(archive, name, into)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise Refusal(
            f"“{name}” is damaged or cut short ({error}); use a copy of it if there is one."
        ) from error


def _read(archive: zipfile.ZipFile, name: str, blobs: MutableMapping[str, bytes]) -> Opened:
    there = members(archive, name)
    kind = unpacked(archive, "mimetype", name) if "mimetype" in there else b""
    if kind.strip() != MIMETYPE.encode():
        raise Refusal(f"“{name}” is a ZIP archive but not a Hidden Frame publication.")
    if "publication.json" not in there:
        raise Refusal(f"“{name}” holds no publication.json; use a copy of it if there is one.")
    publication, more = seen(unpacked(archive, "publication.json", name), name)
    warnings = [more] if more else []
    known = {picture.hash for picture in publication.pictures}
    for member in there:
        found = _PICTURE.match(member)
        if found and found[1] in known:
            blob = unpacked(archive, member, name)
            if hashlib.sha256(blob).hexdigest() == found[1]:
                blobs[found[1]] = blob
    for picture in publication.pictures:
        if picture.hash not in blobs:
            shown = picture.name or picture.hash[:12]
            warnings.append(
                f"The picture “{shown}” is missing from the file; its frames show a placeholder "
                "until it is placed again."
            )
    warnings += [*_unsafe(publication, blobs), *_troubled(publication, blobs)]
    preview = unpacked(archive, "preview.png", name) if "preview.png" in there else None
    return Opened(publication, blobs, warnings, preview, bool(more))


def _unsafe(publication: Publication, blobs: Mapping[str, bytes]) -> Iterator[str]:
    """What is wrong with drawings that are never shown because of it; they are kept as they are."""
    for picture in publication.pictures:
        data = blobs.get(picture.hash)
        if data is None or not (picture.kind == "svg" or is_drawing(data)):
            continue
        from hidden_frame.storage.drawings import guarded  # loads lxml

        name = picture.name or "drawing.svg"
        try:
            with door(name, "place another one"):
                guarded(data, name)
        except Refusal as refusal:
            yield f"A drawing is not shown. {refusal}"


def _troubled(publication: Publication, blobs: Mapping[str, bytes]) -> Iterator[str]:
    """What is wrong with the files of pictures; they are kept as they are."""
    for picture in publication.pictures:
        if picture.hash in blobs:
            why = known_trouble(
                picture.hash, partial(blobs.__getitem__, picture.hash), picture.kind
            )
            if why:
                yield f"The picture “{picture.name or picture.hash[:12]}” {why}; place it again."
