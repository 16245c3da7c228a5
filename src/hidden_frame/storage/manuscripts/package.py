"""A ZIP of XML parts from outside, read with limits: no bombs, no entities, nothing fetched."""

from __future__ import annotations

import io
import zipfile
import zlib
from typing import Any

from lxml import etree

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts.manuscript import MAX_BYTES

_TOO_LARGE = 400_000_000  # bytes of all parts together, unpacked
_OLD = bytes.fromhex("D0CF11E0A1B11AE1")  # a compound file: an old .doc, or an encrypted .docx


class Package:
    """The parts of an office document, by name."""

    def __init__(self, data: bytes, name: str) -> None:
        self.name = name
        if data.startswith(_OLD):
            raise Refusal(
                f"“{name}” is protected by a password, or in an older form; save it as .docx "
                "without a password and open that."
            )
        try:
            self._zip = zipfile.ZipFile(io.BytesIO(data))
            infos = self._zip.infolist()
        except (zipfile.BadZipFile, ValueError, NotImplementedError, OSError) as error:
            raise damaged(name) from error
        if sum(i.file_size for i in infos) > _TOO_LARGE or len(infos) > 20_000:
            raise Refusal(f"“{name}” unpacks to more than a manuscript can hold; it is not opened.")
        self.parts = {i.filename for i in infos}

    def bytes(self, part: str) -> bytes:
        """A part as it is; b"" if there is none."""
        if part not in self.parts:
            return b""
        try:
            if self._zip.getinfo(part).file_size > MAX_BYTES:
                raise Refusal(f"A part of “{self.name}” is too large; it is not opened.")
            with self._zip.open(part) as file:
                data = file.read(MAX_BYTES + 1)
        except (zipfile.BadZipFile, zlib.error, RuntimeError, NotImplementedError, OSError,
                EOFError) as error:  # fmt: skip
            raise damaged(self.name) from error
        if len(data) > MAX_BYTES:
            raise Refusal(f"A part of “{self.name}” is too large; it is not opened.")
        return data

    def xml(self, part: str) -> Any | None:
        """A part's root; None if there is no such part."""
        data = self.bytes(part)
        return parsed(data, self.name) if data else None


def parsed(data: bytes, name: str) -> Any:
    """The root of an XML document without a type definition of its own."""
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False, remove_pis=True
    )
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise damaged(name) from error
    if root.getroottree().docinfo.internalDTD is not None:
        raise Refusal(f"“{name}” defines entities, which no office program writes; not opened.")
    return root


def damaged(name: str) -> Refusal:
    return Refusal(
        f"“{name}” is damaged or not an office document; open it where it was written, save it "
        "again, and import that."
    )
