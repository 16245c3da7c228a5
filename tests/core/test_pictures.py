"""Raster pictures of every kind: what is placed is what is printed, and quickly."""

from __future__ import annotations

import io
import zlib

import numpy as np
import pikepdf
import pypdfium2 as pdfium
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageCms, ImageOps

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.output.pdf import Cancelled, export_pdf, pdf_bytes
from hidden_frame.output.pdf import rasters as rasters_module
from hidden_frame.storage.pictures import picture_from_bytes
from hidden_frame.storage.rasters import for_screen

SRGB = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
SIZE = (24, 16)


def gradient(mode="RGB"):
    """A ramp from dark at the left to light at the right, red at the top, in any mode."""
    grey = np.tile(np.linspace(20, 235, SIZE[0]), (SIZE[1], 1)).astype(np.uint8)
    if mode == "L":
        return Image.fromarray(grey)
    red = grey.copy()
    red[: SIZE[1] // 2] = 230
    rgb = Image.fromarray(np.dstack([red, grey, grey]))
    return rgb if mode == "RGB" else rgb.convert(mode)


def bytes_of(image, kind, **more):
    buffer = io.BytesIO()
    image.save(buffer, kind, **more)
    return buffer.getvalue()


def placed(data, name="a", box=(240, 160)):
    picture, blob = picture_from_bytes(data, name)
    publication = put_picture(new_publication("P", Setup(trim=Size(*box)), 1), picture)
    page = all_pages(publication)[0].id
    frame = PictureFrame(id="", x=0, y=0, width=box[0], height=box[1], fit="stretch",
                         picture=picture.hash)  # fmt: skip
    publication, _ = add_item(publication, page, frame)
    return publication, {picture.hash: blob}, picture


def printed(data, box=(240, 160)):
    publication, blobs, _ = placed(data, box=box)
    pdf = pdf_bytes(Composer().compose(publication), blobs)
    image = pdfium.PdfDocument(pdf)[0].render(scale=1).to_pil().convert("RGB")
    return np.asarray(image).astype(int), pdf


def image_of(pdf):
    with pikepdf.Pdf.open(io.BytesIO(pdf)) as file:
        found = [o for o in file.objects if isinstance(o, pikepdf.Stream)
                 and o.get("/Subtype") == "/Image"]  # fmt: skip
        keys = ("/Width", "/Height", "/BitsPerComponent", "/ColorSpace", "/Filter", "/SMask")
        return [{k: repr(o.get(k)) for k in keys} | {"raw": o.read_raw_bytes()} for o in found]


def grey16(kind):
    values = np.tile(np.linspace(20 * 257, 235 * 257, SIZE[0]), (SIZE[1], 1)).astype(np.uint16)
    return bytes_of(Image.fromarray(values), kind)


def floats():
    values = np.tile(np.linspace(20 / 255, 235 / 255, SIZE[0]), (SIZE[1], 1)).astype(np.float32)
    return bytes_of(Image.fromarray(values), "TIFF")


KINDS = {
    "RGB PNG": lambda: bytes_of(gradient(), "PNG"),
    "grey PNG": lambda: bytes_of(gradient("L"), "PNG"),
    "palette PNG": lambda: bytes_of(gradient().quantize(64), "PNG"),
    "interlaced PNG": lambda: interlaced(),
    "PNG with alpha": lambda: bytes_of(gradient("RGBA"), "PNG"),
    "grey PNG with alpha": lambda: bytes_of(gradient("L").convert("LA"), "PNG"),
    "palette PNG with a clear colour": lambda: bytes_of(
        gradient().quantize(64), "PNG", transparency=255
    ),
    "16-bit grey PNG": lambda: grey16("PNG"),
    "16-bit grey TIFF": lambda: grey16("TIFF"),
    "float TIFF": floats,
    "RGB TIFF": lambda: bytes_of(gradient(), "TIFF"),
    "LZW TIFF": lambda: bytes_of(gradient(), "TIFF", compression="tiff_lzw"),
    "CMYK TIFF": lambda: bytes_of(gradient("CMYK"), "TIFF"),
    "JPEG": lambda: bytes_of(gradient(), "JPEG", quality=95, subsampling=0),
    "progressive JPEG": lambda: bytes_of(gradient(), "JPEG", quality=95, progressive=True,
                                         subsampling=0),
    "grey JPEG": lambda: bytes_of(gradient("L"), "JPEG", quality=95),
    "CMYK JPEG": lambda: bytes_of(gradient("CMYK"), "JPEG", quality=95, subsampling=0),
    "WebP": lambda: bytes_of(gradient(), "WEBP", lossless=True),
    "GIF": lambda: bytes_of(gradient().quantize(64), "GIF"),
}  # fmt: skip


def interlaced():
    """A PNG marked as interlaced by Adam7; Pillow can't write one, so this is made by hand."""
    image = np.asarray(gradient())
    passes = [(0, 0, 8, 8), (4, 0, 8, 8), (0, 4, 4, 8), (2, 0, 4, 4), (0, 2, 2, 4), (1, 0, 2, 2),
              (0, 1, 1, 2)]  # fmt: skip
    rows = b""
    for x, y, dx, dy in passes:
        part = image[y::dy, x::dx]
        for row in part if part.size else ():
            rows += b"\0" + row.tobytes()

    def chunk(kind, body):
        return len(body).to_bytes(4) + kind + body + zlib.crc32(kind + body).to_bytes(4)

    header = SIZE[0].to_bytes(4) + SIZE[1].to_bytes(4) + bytes([8, 2, 0, 0, 1])
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(rows))
            + chunk(b"IEND", b""))  # fmt: skip


@pytest.mark.parametrize("name", KINDS)
def test_every_kind_is_printed_and_shown_as_pillow_reads_it(name):
    data = KINDS[name]()
    grey = any(w in name for w in ("grey", "float"))
    expected = np.asarray(gradient("L" if grey else "RGB").convert("RGB")).astype(int)
    if name == "palette PNG with a clear colour":
        expected = np.asarray(gradient().quantize(64).convert("RGB")).astype(int)
    if "CMYK" in name:
        expected = np.asarray(gradient("CMYK").convert("RGB")).astype(int)
    image, _ = printed(data)
    middles = image[5::10, 5::10][: SIZE[1], : SIZE[0]]
    near = 40 if "CMYK" in name else 12  # PDFium has its own formula for CMYK
    assert np.abs(middles - expected).mean() < near
    assert np.abs(middles - expected).max() < 5 * near
    screen = np.asarray(for_screen(data).convert("RGB")).astype(int)
    assert np.abs(screen - expected).mean() < 6


@pytest.mark.parametrize(
    ("name", "space", "bits", "how"),
    [
        ("JPEG", "DeviceRGB", "8", "DCTDecode"),
        ("progressive JPEG", "DeviceRGB", "8", "DCTDecode"),
        ("grey JPEG", "DeviceGray", "8", "DCTDecode"),
        ("CMYK JPEG", "DeviceCMYK", "8", "DCTDecode"),
        ("RGB PNG", "DeviceRGB", "8", "FlateDecode"),
        ("grey PNG", "DeviceGray", "8", "FlateDecode"),
        ("palette PNG", "Indexed", "8", "FlateDecode"),
        ("16-bit grey PNG", "DeviceGray", "16", "FlateDecode"),
        ("16-bit grey TIFF", "DeviceGray", "16", "FlateDecode"),
        ("CMYK TIFF", "DeviceCMYK", "8", "FlateDecode"),
    ],
)
def test_pictures_keep_their_colours_and_bits(name, space, bits, how):
    data = KINDS[name]()
    _, pdf = printed(data)
    (image,) = image_of(pdf)
    assert space in image["/ColorSpace"] and bits in image["/BitsPerComponent"]
    assert how in image["/Filter"] and image["/SMask"] == "None"
    if how == "DCTDecode":
        assert image["raw"] == data  # the file as it is
    elif "PNG" in name:
        assert image["raw"] in data.replace(b"\0", b"\0") or image["raw"][:64] in data


def test_one_bit_stays_one_bit():
    image = gradient("L").convert("1")
    for kind in ("PNG", "TIFF"):
        data = bytes_of(image, kind)
        _, pdf = printed(data)
        (made,) = image_of(pdf)
        assert made["/BitsPerComponent"] == "1" or "1" in made["/BitsPerComponent"].split()
        shown, _ = printed(data)
        expected = np.asarray(image.convert("RGB")).astype(int)
        assert np.abs(shown[5::10, 5::10] - expected).mean() < 25


def test_no_opaque_picture_is_a_transparency_group():
    for name in ("RGB PNG", "JPEG", "CMYK TIFF"):
        _, pdf = printed(KINDS[name]())
        with pikepdf.Pdf.open(io.BytesIO(pdf)) as file:
            assert not any("/Group" in o for o in file.objects
                           if isinstance(o, pikepdf.Dictionary | pikepdf.Stream))  # fmt: skip


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF"])
def test_a_profile_stays_with_its_picture(kind):
    data = bytes_of(gradient(), kind, icc_profile=SRGB)
    _, pdf = printed(data)
    with pikepdf.Pdf.open(io.BytesIO(pdf)) as file:
        streams = [o for o in file.objects if isinstance(o, pikepdf.Stream)]
        profiles = [o.read_bytes() for o in streams if "/N" in o and "/Alternate" in o]
    assert profiles == [SRGB]


def test_a_profile_of_another_kind_of_colour_is_left_out():
    _, pdf = printed(bytes_of(gradient("L"), "PNG", icc_profile=SRGB))
    assert "DeviceGray" in image_of(pdf)[0]["/ColorSpace"]


@pytest.mark.parametrize("orientation", range(1, 9))
@pytest.mark.parametrize("kind", ["JPEG", "PNG", "TIFF"])
def test_a_picture_lies_as_its_orientation_says(kind, orientation):
    """Against Pillow's own turning (Exif tag 0x0112)."""
    exif = Image.Exif()
    exif[0x0112] = orientation
    image = gradient()
    image.paste((0, 0, 200), (0, 0, 6, 4))
    more = {"quality": 98, "subsampling": 0} if kind == "JPEG" else {}
    data = bytes_of(image, kind, exif=exif, **more)
    with Image.open(io.BytesIO(data)) as kept:
        expected = ImageOps.exif_transpose(kept).convert("RGB")
    picture, _ = picture_from_bytes(data, "a")
    assert (picture.width, picture.height) == expected.size
    box = (expected.width * 10, expected.height * 10)
    shown, _ = printed(data, box)
    middles = shown[5::10, 5::10]
    assert np.abs(middles - np.asarray(expected).astype(int)).mean() < 10


def test_an_export_can_be_stopped_within_a_picture(monkeypatch, tmp_path):
    noise = np.random.default_rng(1).integers(0, 255, (600, 600, 4), np.uint8)
    publication, blobs, _ = placed(bytes_of(Image.fromarray(noise), "PNG"))
    monkeypatch.setattr(rasters_module, "_STEP", 50_000)
    asked = []

    def progress(done, total):
        asked.append(done)
        return len(asked) < 6

    with pytest.raises(Cancelled):
        export_pdf(Composer().compose(publication), blobs, tmp_path / "a.pdf", None, progress)
    assert asked.count(asked[-1]) >= 4 and not (tmp_path / "a.pdf").exists()


@pytest.mark.parametrize(
    "damage", [b"", b"\x89PNG\r\n\x1a\nnothing", b"\xff\xd8\xff\xe0", b"II*\0"]
)
@pytest.mark.parametrize("kind", ["png", "jpg", "svg", "tif"])
def test_one_broken_picture_costs_that_picture_alone(damage, kind, tmp_path):
    publication, blobs, picture = placed(bytes_of(gradient(), "PNG"), "whole.png")
    broken = picture.__class__(hash="0" * 64, kind=kind, width=9, height=9, name="broken.file")
    publication = put_picture(publication, broken)
    page = all_pages(publication)[0].id
    frame = PictureFrame(id="", x=0, y=0, width=40, height=40, picture=broken.hash)
    publication, _ = add_item(publication, page, frame)
    report = export_pdf(
        Composer().compose(publication), {**blobs, broken.hash: damage}, tmp_path / "a.pdf"
    )
    (sentence,) = report.sentences
    assert "broken.file" in sentence and "left out" in sentence
    assert len(image_of((tmp_path / "a.pdf").read_bytes())) >= 1


@settings(max_examples=120)
@given(st.data())
def test_damaged_files_are_refused_or_printed_but_never_crash(data):
    name = data.draw(st.sampled_from(sorted(KINDS)))
    whole = bytearray(KINDS[name]())
    for _ in range(data.draw(st.integers(1, 6))):
        whole[data.draw(st.integers(0, len(whole) - 1))] = data.draw(st.integers(0, 255))
    cut = bytes(whole[: data.draw(st.integers(8, len(whole)))])
    from hidden_frame.model.errors import Refusal

    try:
        publication, blobs, _ = placed(cut)
    except Refusal:
        return
    assert pdf_bytes(Composer().compose(publication), blobs).startswith(b"%PDF")
