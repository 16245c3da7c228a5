"""The desk shows no picture whose file declares a size that no memory holds."""

from __future__ import annotations

import struct
import zlib

import pytest
from PySide6.QtCore import QSize

from hidden_frame.desktop.painter import pictures


def png(width, height):
    def chunk(kind, data):
        return (
            struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))
        )

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    rows = chunk(b"IDAT", zlib.compress(bytes(100)))
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + rows + chunk(b"IEND", b"")


@pytest.mark.parametrize("side", [40_000, 10_000_000])
def test_it_is_not_decoded(side, monkeypatch, qapp):
    read = pictures.QImageReader.read
    # What Qt knows to be no size, it does not decode either.
    monkeypatch.setattr(
        pictures.QImageReader, "read", lambda r: 1 / 0 if r.size().isValid() else read(r)
    )
    assert pictures._raster(png(side, side), "png", QSize(40, 40), 1) is None
