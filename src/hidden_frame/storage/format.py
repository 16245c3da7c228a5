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
from collections.abc import Mapping
from pathlib import Path
from typing import NamedTuple

import msgspec

from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import check
from hidden_frame.model.publication import Publication
from hidden_frame.storage.files import write_atomically

MIMETYPE = "application/vnd.hidden-frame+zip"
EXTENSION = ".hframe"
FORMAT = 1
MAX_UNPACKED = 2 * 1024**3  # bytes, of all members together
MAX_MEMBERS = 20_000
_EPOCH = (1980, 1, 1, 0, 0, 0)  # equal publications make equal files
_PICTURE = re.compile(r"^pictures/([0-9a-f]{64})\.(png|jpg|svg|tif)$")


class Envelope(msgspec.Struct, frozen=True):
    """What `publication.json` holds: the format's version, then the publication."""

    format: int
    publication: Publication


class Opened(NamedTuple):
    """A publication from a file, the bytes of its pictures by hash, and warnings."""

    publication: Publication
    blobs: dict[str, bytes]
    warnings: list[str]
    preview: bytes | None = None


def schema() -> bytes:
    """The JSON Schema of `publication.json`, generated from the model."""
    text = msgspec.json.encode(msgspec.json.schema(Envelope))
    return msgspec.json.format(text, indent=1) + b"\n"


def to_bytes(
    publication: Publication, blobs: Mapping[str, bytes], preview: bytes | None = None
) -> bytes:
    """The whole file in memory; pictures the publication does not know are left out."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        _member(archive, "mimetype", MIMETYPE.encode(), zipfile.ZIP_STORED)
        envelope = _encoded(publication)
        _member(archive, "publication.json", envelope, zipfile.ZIP_DEFLATED)
        for picture in publication.pictures:
            if picture.hash in blobs:
                how = zipfile.ZIP_DEFLATED if picture.kind in ("svg", "tif") else zipfile.ZIP_STORED
                name = f"pictures/{picture.hash}.{picture.kind}"
                _member(archive, name, blobs[picture.hash], how)
        if preview is not None:
            _member(archive, "preview.png", preview, zipfile.ZIP_STORED)
    return buffer.getvalue()


def _encoded(publication: Publication) -> bytes:
    try:
        return msgspec.json.encode(Envelope(FORMAT, publication))
    except UnicodeEncodeError as error:
        raise Refusal(
            "A text of this publication holds half a character, which no file can hold; it is "
            f"“{error.object[max(error.start - 20, 0) : error.start]}…”: delete what follows."
        ) from error


def _member(archive: zipfile.ZipFile, name: str, data: bytes, how: int) -> None:
    info = zipfile.ZipInfo(name, _EPOCH)
    info.compress_type = how
    archive.writestr(info, data, compresslevel=6)


def save(
    path: Path,
    publication: Publication,
    blobs: Mapping[str, bytes],
    preview: bytes | None = None,
) -> None:
    """Writes the file whole; a failed save raises `Refusal` and leaves the old one.

    What could not be opened again is not written: it goes through the check of opening first.
    """
    data = to_bytes(publication, blobs, preview)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        _decode(archive.read("publication.json"), path.name)
    write_atomically(path, data)


def load(path: Path) -> Opened:
    """Opens a file, or raises `Refusal` that says what is wrong with it and where."""
    try:
        data = path.read_bytes()
    except OSError as error:
        raise Refusal(f"“{path.name}” can't be read ({error.strerror}).") from error
    return from_bytes(data, path.name)


def from_bytes(data: bytes, name: str) -> Opened:
    """The publication in the bytes of a file; `name` is for messages."""
    if not data.startswith(b"PK"):
        what = "empty" if not data else "not a Hidden Frame publication (not a ZIP archive)"
        raise Refusal(f"“{name}” is {what}; choose another file.")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _read(archive, name)
    except (zipfile.BadZipFile, zlib.error, EOFError, NotImplementedError, RuntimeError) as error:
        raise Refusal(
            f"“{name}” is damaged or cut short ({error}); use a copy of it if there is one."
        ) from error


def _read(archive: zipfile.ZipFile, name: str) -> Opened:
    members = _members(archive, name)
    if "mimetype" not in members or archive.read("mimetype").strip() != MIMETYPE.encode():
        raise Refusal(f"“{name}” is a ZIP archive but not a Hidden Frame publication.")
    if "publication.json" not in members:
        raise Refusal(f"“{name}” holds no publication.json; use a copy of it if there is one.")
    publication = _decode(archive.read("publication.json"), name)
    blobs: dict[str, bytes] = {}
    warnings: list[str] = []
    for member in members:
        found = _PICTURE.match(member)
        if found:
            blob = archive.read(member)
            if hashlib.sha256(blob).hexdigest() == found[1]:
                blobs[found[1]] = blob
    for picture in publication.pictures:
        if picture.hash not in blobs:
            shown = picture.name or picture.hash[:12]
            warnings.append(
                f"The picture “{shown}” is missing from the file; its frames show a placeholder "
                "until it is placed again."
            )
    preview = archive.read("preview.png") if "preview.png" in members else None
    return Opened(publication, blobs, warnings, preview)


def _members(archive: zipfile.ZipFile, name: str) -> set[str]:
    infos = archive.infolist()
    if len(infos) > MAX_MEMBERS:
        raise Refusal(f"“{name}” holds {len(infos)} members; the limit is {MAX_MEMBERS}.")
    for info in infos:
        parts = info.filename.replace("\\", "/").split("/")
        if info.filename.startswith(("/", "\\")) or ".." in parts or ":" in parts[0]:
            raise Refusal(
                f"“{name}” holds a member that would escape it (“{info.filename}”); it is refused."
            )
    total = sum(info.file_size for info in infos)
    if total > MAX_UNPACKED:
        raise Refusal(
            f"“{name}” would unpack to {total / 1024**3:.1f} GB; the limit is "
            f"{MAX_UNPACKED / 1024**3:.0f} GB."
        )
    return {info.filename for info in infos}


class _Version(msgspec.Struct):
    format: int


def _decode(data: bytes, name: str) -> Publication:
    try:
        version = msgspec.json.decode(data, type=_Version).format
        if version > FORMAT:
            raise Refusal(
                f"“{name}” was made by a newer version (format {version}; this one reads up to "
                f"{FORMAT}); update Hidden Frame to open it."
            )
        publication = msgspec.json.decode(data, type=Envelope).publication
    except msgspec.ValidationError as error:
        raise Refusal(f"“{name}” is not valid: {_where(str(error))}") from error
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise Refusal(f"“{name}” holds broken JSON in publication.json: {error}.") from error
    try:
        return check(publication)
    except Refusal as error:
        raise Refusal(f"“{name}” is not valid. {error}") from error


def _where(message: str) -> str:
    """msgspec's message with the place first: “at sections[0].pages[3].blind: expected …”."""
    what, _, path = message.partition(" - at ")
    place = path.strip("`").removeprefix("$.publication.").removeprefix("$.") or "the top"
    return f"at {place}: {what[:1].lower()}{what[1:]}."
