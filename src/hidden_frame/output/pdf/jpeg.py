"""What a PDF must know of a JPEG to hold it as it is, read from its markers alone.

Markers by ITU-T T.81, B.1; the colour profile by ICC.1:2010, B.4; Adobe's by its technical
note 5116.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

_PLAIN = (0xC0, 0xC1, 0xC2)  # Huffman coded, baseline to progressive: what DCTDecode takes
_OTHERS = (0xC3, 0xC5, 0xC6, 0xC7, 0xC9, 0xCA, 0xCB, 0xCD, 0xCE, 0xCF)


class Jpeg(NamedTuple):
    """Size in pixels, number of colours, and the profile's bytes (b"" where there is none).

    `inverted`: Adobe's programs store CMYK as its complement.
    """

    width: int
    height: int
    colours: int
    inverted: bool
    profile: bytes


def read_jpeg(data: bytes) -> Jpeg | None:
    """The facts, or None for a JPEG that must be decoded to be printed."""
    size: tuple[int, int, int] | None = None
    adobe = False
    chunks: dict[int, bytes] = {}
    for marker, start, end in _segments(data):
        if marker in _OTHERS:
            return None
        if marker in _PLAIN:
            if data[start] != 8:
                return None
            height, width = (int.from_bytes(data[start + n : start + n + 2]) for n in (1, 3))
            size = (width, height, data[start + 5])
        elif marker == 0xEE and data[start : start + 5] == b"Adobe":
            adobe = True
        elif marker == 0xE2 and data[start : start + 12] == b"ICC_PROFILE\0":
            chunks[data[start + 12]] = data[start + 14 : end]
    if size is None or 0 in size or size[2] not in (1, 3, 4):
        return None
    profile = b"".join(chunks[n] for n in sorted(chunks))
    return Jpeg(*size, inverted=adobe and size[2] == 4, profile=profile)


def _segments(data: bytes) -> Iterator[tuple[int, int, int]]:
    """Marker, and where its contents start and end, up to the first scan."""
    at = 2
    while at + 4 <= len(data) and data[at] == 0xFF:
        marker = data[at + 1]
        if marker == 0xFF:  # a fill byte
            at += 1
            continue
        if marker == 0xDA:
            return
        length = int.from_bytes(data[at + 2 : at + 4])
        yield marker, at + 4, at + 2 + length
        at += 2 + length
