"""PNGs whose compressed rows a PDF can hold as they are.

PNG's own filters are the PDF's predictors (ISO 32000-1, 7.4.4.4; PNG, third edition, 9), so
that nothing is decoded.  Interlaced and transparent ones must be.
"""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from contextlib import suppress
from typing import NamedTuple


class Png(NamedTuple):
    """Size, bits of a sample, colours (1 or 3), the palette, the profile, and the rows as
    one zlib stream."""

    width: int
    height: int
    bits: int
    colours: int
    palette: bytes
    profile: bytes
    rows: bytes


def read_png(data: bytes) -> Png | None:
    """The picture as it is, or None for one that must be decoded to be printed."""
    rows, palette, profile = [], b"", b""
    header: bytes = b""
    for kind, body in _chunks(data):
        if kind == b"IHDR":
            header = body
        elif kind == b"PLTE":
            palette = body
        elif kind == b"tRNS":
            return None
        elif kind == b"iCCP":
            with suppress(zlib.error, ValueError):
                profile = zlib.decompress(body[body.index(b"\0") + 2 :])
        elif kind == b"IDAT":
            rows.append(body)
    if len(header) != 13 or not rows:
        return None
    width, height = int.from_bytes(header[:4]), int.from_bytes(header[4:8])
    bits, colour, interlaced = header[8], header[9], header[12]
    if interlaced or colour not in (0, 2, 3) or (colour == 3) != bool(palette and colour == 3):
        return None
    return Png(width, height, bits, 3 if colour == 2 else 1, palette if colour == 3 else b"",
               profile, b"".join(rows))  # fmt: skip


def _chunks(data: bytes) -> Iterator[tuple[bytes, bytes]]:
    at = 8
    while at + 12 <= len(data):
        length = int.from_bytes(data[at : at + 4])
        yield data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
        at += 12 + length
