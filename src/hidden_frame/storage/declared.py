"""What a picture's file says of itself, read without decoding it: its size, and if it is whole.

>>> trouble(b"no picture", "png")
'is no PNG'
"""

from __future__ import annotations

import struct
import zlib
from collections.abc import Callable, Iterator

from hidden_frame.model.number_format import grouped

MAX_PIXELS = 200_000_000
MAX_REMEMBERED = 20_000

_PNG = b"\x89PNG\r\n\x1a\n"
# Frame headers of JPEG (ITU-T T.81, table B.1): all of C0 to CF but DHT, JPG and DAC.
_FRAMES = frozenset(range(0xC0, 0xD0)) - {0xC4, 0xC8, 0xCC}
_remembered: dict[tuple[str, str], str] = {}


def known_trouble(digest: str, data: Callable[[], bytes], kind: str) -> str:
    """The `trouble` of a picture by its hash, for which its bytes are read once."""
    if (digest, kind) not in _remembered:
        if len(_remembered) > MAX_REMEMBERED:
            _remembered.clear()
        _remembered[digest, kind] = trouble(data(), kind)
    return _remembered[digest, kind]


def trouble(data: bytes, kind: str) -> str:
    """Why a picture's file can't be shown, after its name; "" where it can, or is a drawing.

    `kind` is png, jpg, tif or svg.  It declares more than `MAX_PIXELS`, is cut short, is damaged,
    or is of another kind.
    """
    if kind not in _SIZES:
        return ""
    size, whole = _SIZES[kind]
    try:
        width, height = size(data)
    except (struct.error, IndexError, KeyError):
        return "is damaged"
    except ValueError as error:
        return str(error)
    if width * height > MAX_PIXELS:
        return f"declares {grouped(width)} × {grouped(height)} pixels, more than can be shown"
    if width <= 0 or height <= 0:
        return "declares no pixels"
    return whole(data)


def _png_size(data: bytes) -> tuple[int, int]:
    """PNG (third edition), 11.2.1: IHDR comes first."""
    if not data.startswith(_PNG):
        raise ValueError("is no PNG")
    width, height = struct.unpack_from(">II", data, 16)
    return width, height


def _png_whole(data: bytes) -> str:
    """Each chunk has its CRC (5.3); IEND is the last."""
    at = 8
    while at + 12 <= len(data):
        length = int.from_bytes(data[at : at + 4], "big")
        end = at + 12 + length
        if end > len(data):
            break
        kind = data[at + 4 : at + 8]
        told = int.from_bytes(data[end - 4 : end], "big")
        if kind[:1].isupper() and zlib.crc32(memoryview(data)[at + 4 : end - 4]) != told:
            return "is damaged"  # in a chunk that is needed (5.4)
        if kind == b"IEND":
            return ""
        at = end
    return "is cut short"


def _segments(data: bytes) -> Iterator[tuple[int, int]]:
    """The code and place of each segment before the scan (T.81, B.1.1.4)."""
    at = 2
    while True:
        while data[at] == 0xFF and data[at + 1] == 0xFF:
            at += 1
        if data[at] != 0xFF:
            raise IndexError
        code = data[at + 1]
        yield code, at + 2
        if code == 0xDA:
            return
        at += 2 + (0 if code in (0x01, *range(0xD0, 0xD9)) else _two(data, at + 2))


def _two(data: bytes, at: int) -> int:
    found: tuple[int] = struct.unpack_from(">H", data, at)
    return found[0]


def _jpg_size(data: bytes) -> tuple[int, int]:
    if not data.startswith(b"\xff\xd8"):
        raise ValueError("is no JPEG")
    for code, at in _segments(data):
        if code in _FRAMES:  # B.2.2: length, precision, lines, samples of a line
            return _two(data, at + 5), _two(data, at + 3)
    raise IndexError


def _jpg_whole(data: bytes) -> str:
    """EOI ends it; some writers put something behind."""
    return "" if data.rfind(b"\xff\xd9", len(data) // 2) >= 0 else "is cut short"


def _tif_size(data: bytes) -> tuple[int, int]:
    """TIFF 6.0, section 2: the first directory, tags 256 and 257; that of BigTIFF has eight bytes
    where that of TIFF has four."""
    order = {b"II": "<", b"MM": ">"}.get(data[:2])
    version = struct.unpack_from(f"{order}H", data, 2)[0] if order else 0
    if version not in (42, 43):
        raise ValueError("is no TIFF")
    big = version == 43
    at = struct.unpack_from(f"{order}{'Q' if big else 'I'}", data, 8 if big else 4)[0]
    count = struct.unpack_from(f"{order}{'Q' if big else 'H'}", data, at)[0]
    first, step, value = (at + 8, 20, 12) if big else (at + 2, 12, 8)
    found = {}
    for entry in range(first, first + step * min(count, 4096), step):
        tag, form = struct.unpack_from(f"{order}HH", data, entry)
        if tag in (256, 257):
            letter = {3: "H", 4: "I", 16: "Q"}[form]
            found[tag] = struct.unpack_from(f"{order}{letter}", data, entry + value)[0]
    return found[256], found[257]


_SIZES: dict[str, tuple[Callable[[bytes], tuple[int, int]], Callable[[bytes], str]]] = {
    "png": (_png_size, _png_whole),
    "jpg": (_jpg_size, _jpg_whole),
    "tif": (_tif_size, lambda _: ""),
}
