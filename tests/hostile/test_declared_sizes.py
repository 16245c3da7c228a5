"""Pictures that declare a size that they can't have: told by name, and the export goes on."""

from __future__ import annotations

import hashlib
import io
import struct
import zlib

import pikepdf
import pytest
from PIL import Image

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Picture
from hidden_frame.output.pdf.export import export_pdf


def png(width: int, height: int) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        check = struct.pack(">I", zlib.crc32(kind + data))
        return struct.pack(">I", len(data)) + kind + data + check

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    rows = zlib.compress(bytes(100))
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def tiff(width: int, height: int) -> bytes:
    """An uncompressed TIFF whose width and height are rewritten (TIFF 6.0, tags 256 and 257)."""
    file = io.BytesIO()
    Image.new("RGB", (4, 4)).save(file, "TIFF")
    data = bytearray(file.getvalue())
    at = struct.unpack_from("<I", data, 4)[0]
    for n in range(struct.unpack_from("<H", data, at)[0]):
        entry = at + 2 + 12 * n
        tag = struct.unpack_from("<H", data, entry)[0]
        if tag in (256, 257):
            struct.pack_into("<HIi", data, entry + 2, 4, 1, width if tag == 256 else height)
    return bytes(data)


@pytest.mark.parametrize(("kind", "make"), [("png", png), ("tif", tiff)])
@pytest.mark.parametrize("side", [40_000, 10_000_000])
def test_the_export_goes_on_and_names_it(small, tmp_path, kind, make, side):
    data = make(side, side)
    digest = hashlib.sha256(data).hexdigest()
    bomb = Picture(hash=digest, kind=kind, width=side, height=side, name="bomb." + kind)
    file = io.BytesIO()
    Image.new("RGB", (20, 20), "#c02020").save(file, "PNG")
    good_hash = hashlib.sha256(file.getvalue()).hexdigest()
    good = Picture(hash=good_hash, kind="png", width=20, height=20, name="good.png")
    publication = put_picture(put_picture(small, bomb), good)
    page = all_pages(publication)[0].id
    for n, shown in enumerate((digest, good_hash)):
        frame = PictureFrame(id="", x=50 * n, y=9, width=40, height=40, picture=shown)
        publication, _ = add_item(publication, page, frame)
    target = tmp_path / "out.pdf"
    blobs = {digest: data, good_hash: file.getvalue()}
    report = export_pdf(Composer().compose(publication), blobs, target)
    assert any("bomb." + kind in sentence for sentence in report.sentences), report.sentences
    with pikepdf.open(target) as made:
        images = list(made.pages[0].images.values())
        assert len(images) == 1 and int(images[0].Width) == 20
