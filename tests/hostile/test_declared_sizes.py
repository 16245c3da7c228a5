"""Pictures that declare a size that they can't have: told by name, and the export goes on."""

from __future__ import annotations

import hashlib
import io
import struct
import zlib

import pikepdf
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Picture
from hidden_frame.output.pdf.export import export_pdf
from hidden_frame.storage.declared import _SIZES, trouble
from hidden_frame.storage.format import from_bytes


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


def shown(small, kind, data, width=40, height=40):
    """A publication whose first page shows a file, as one that was not made here may say."""
    digest = hashlib.sha256(data).hexdigest()
    picture = Picture(hash=digest, kind=kind, width=width, height=height, name="bomb." + kind)
    publication = put_picture(small, picture)
    frame = PictureFrame(id="", x=60, y=60, width=10, height=10, picture=digest)
    publication, _ = add_item(publication, all_pages(publication)[0].id, frame)
    return publication, {digest: data}


def jpeg(**how):
    file = io.BytesIO()
    Image.effect_mandelbrot((48, 32), (-2, -1, 1, 1), 50).save(file, "JPEG", **how)
    return file.getvalue()


BROKEN = [
    ("png", png(10_000_000, 10_000_000), "declares 10,000,000 × 10,000,000 pixels"),
    ("png", png(40_000, 40_000)[:-6], "declares"),
    ("png", png(20, 20)[:-6], "is cut short"),
    ("png", png(20, 20).replace(b"IDAT", b"IDAT!")[:-1], "is"),
    ("png", jpeg(), "is no PNG"),
    ("jpg", jpeg()[:300], "is"),
    ("jpg", jpeg()[:-40], "is cut short"),
    ("jpg", b"\xff\xd8\xff\xc0\0\x11\x08" + b"\xff" * 4 + bytes(40), "declares 65,535 × 65,535"),
    ("jpg", png(20, 20), "is no JPEG"),
    ("tif", tiff(40_000, 40_000), "declares"),
    ("tif", tiff(20, 20)[:9], "is damaged"),
    ("tif", jpeg(), "is no TIFF"),
]  # fmt: skip


@pytest.mark.parametrize(("kind", "data", "says"), BROKEN)
def test_it_is_told_at_the_door_and_in_checks_by_name(small, kind, data, says):
    publication, blobs = shown(small, kind, data)
    opened = from_bytes(to_bytes(publication, blobs), "notes.hframe")
    assert dict(opened.blobs) == blobs  # nothing is lost
    (warning,) = opened.warnings
    assert f"“bomb.{kind}” {says}" in warning and "place it again" in warning
    findings = content_findings(Composer().compose(publication), blobs)
    (finding,) = [f for f in findings if f.kind == "unreadable picture"]
    assert f"“bomb.{kind}”, which {says}" in finding.sentence
    assert finding.fix is not None
    left = content_findings(Composer().compose(finding.fix(publication)), blobs)
    assert "unreadable picture" not in {f.kind for f in left}


@given(
    st.sampled_from([
        ("PNG", "png", m) for m in ("1", "L", "LA", "P", "RGB", "RGBA", "I;16")
    ] + [("JPEG", "jpg", m) for m in ("L", "RGB", "CMYK")]
      + [("TIFF", "tif", m) for m in ("1", "L", "RGB", "RGBA", "CMYK", "F")]),
    st.integers(1, 90), st.integers(1, 90), st.booleans(), st.binary(max_size=30),
)  # fmt: skip
def test_what_a_library_writes_is_whole(form, width, height, more, comment):
    """Against Pillow: every file that it writes has the size that it reads, and no fault."""
    name, kind, mode = form
    file = io.BytesIO()
    how = {"progressive": more, "comment": comment} if name == "JPEG" else {}
    if name == "TIFF" and more:
        how["compression"] = "tiff_lzw" if mode != "1" else "group4"
    if name == "TIFF" and not more:
        how["big_tiff"] = width % 2 == 0
    Image.new(mode, (width, height)).save(file, name, **how)
    assert trouble(file.getvalue(), kind) == ""
    assert _SIZES[kind][0](file.getvalue()) == (width, height)


@given(st.sampled_from(["png", "jpg", "tif"]), st.binary(max_size=200), st.integers(0, 400))
def test_any_bytes_are_told_in_words(kind, noise, cut):
    base = {"png": png(9, 9), "jpg": jpeg(), "tif": tiff(9, 9)}[kind]
    for data in (noise, base[:cut] + noise, base[:cut] + noise + base[cut + len(noise) :]):
        assert isinstance(trouble(data, kind), str)
