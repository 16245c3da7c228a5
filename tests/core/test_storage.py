"""The file format: identical after a round trip, and every damaged file refused in a sentence."""

from __future__ import annotations

import hashlib
import io
import json
import os
import struct
import zipfile
import zlib
from pathlib import Path

import pytest
from benchmarks.whole_file import to_bytes
from msgspec.structs import replace

from hidden_frame.compose.pictures import effective_resolution
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame
from hidden_frame.storage import files
from hidden_frame.storage.decoding import schema
from hidden_frame.storage.format import MIMETYPE, from_bytes, load, save
from hidden_frame.storage.pictures import picture_from_bytes

FORMAT = Path(__file__).parents[2] / "docs" / "format" / "publication.schema.json"


def rebuilt(data, **members):
    """The archive with members exchanged; None leaves one out."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(buffer, "w") as new:
        for name in old.namelist():
            key = name.replace(".", "_")
            if key not in members:
                new.writestr(name, old.read(name))
            elif members[key] is not None:
                new.writestr(name, members[key])
        for name, content in members.items():
            if "/" in name:
                new.writestr(name, content)
    return buffer.getvalue()


def edited_json(data, change):
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        tree = json.loads(archive.read("publication.json"))
    change(tree)
    return rebuilt(data, publication_json=json.dumps(tree))


def test_identical_after_saving_and_opening(demo, tmp_path):
    publication, blobs = demo
    path = tmp_path / "almanac.hframe"
    save(path, publication, blobs, b"preview")
    opened = load(path)
    assert opened.publication == publication
    assert opened.blobs == blobs
    assert opened.warnings == [] and opened.preview == b"preview"
    again = to_bytes(opened.publication, opened.blobs, b"preview")
    twice = from_bytes(again, path.name)
    assert to_bytes(twice.publication, twice.blobs, b"preview") == again


def test_the_archive_opens_with_an_uncompressed_mimetype(demo):
    data = to_bytes(*demo)
    # The place of the type in the first bytes is what OCF 3.3, section 4.3, asks of its archives.
    assert data[30:38] == b"mimetype" and data[38 : 38 + len(MIMETYPE)] == MIMETYPE.encode()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert archive.testzip() is None
        assert archive.infolist()[0].compress_type == zipfile.ZIP_STORED


def test_the_schema_in_the_docs_is_the_models():
    assert FORMAT.read_bytes() == schema(), "run scripts/make_schema.py"


def test_a_failed_save_leaves_the_old_file(demo, tmp_path, monkeypatch):
    path = tmp_path / "almanac.hframe"
    save(path, *demo)
    before = path.read_bytes()
    monkeypatch.setattr(files.os, "replace", lambda *_: (_ for _ in ()).throw(OSError(28, "full")))
    with pytest.raises(Refusal, match="could not be written"):
        save(path, *demo)
    assert path.read_bytes() == before
    assert os.listdir(tmp_path) == ["almanac.hframe"]


@pytest.mark.parametrize(
    ("damage", "says"),
    [
        (lambda d: b"", "empty"),
        (lambda d: b"%PDF-1.7", "not a ZIP"),
        (lambda d: d[: len(d) // 2], "damaged"),
        (lambda d: rebuilt(d, mimetype="application/epub+zip"), "not a Hidden Frame"),
        (lambda d: rebuilt(d, publication_json=None), "no publication.json"),
        (lambda d: rebuilt(d, publication_json="{"), "broken JSON"),
        (lambda d: rebuilt(d, **{"../../evil.txt": "x"}), "escape"),
        (lambda d: edited_json(d, lambda t: t.update(format=0)), "no format 0"),
        (
            lambda d: edited_json(
                d, lambda t: t["publication"]["sections"][1]["pages"][0].update(blind="yes")
            ),
            r"sections\[1\]\.pages\[0\]\.blind",
        ),
        (
            lambda d: edited_json(
                d, lambda t: t["publication"]["masters"][1].update(base="master-999")
            ),
            "“Text” builds on “master-999”",
        ),
    ],
)
def test_damaged_files_are_refused_with_what_and_where(demo, damage, says):
    with pytest.raises(Refusal, match=says):
        from_bytes(damage(to_bytes(*demo)), "almanac.hframe")


def test_a_file_that_would_unpack_to_many_times_its_size(demo, monkeypatch):
    monkeypatch.setattr("hidden_frame.storage.unpacking.MAX_UNPACKED", 1000)
    file = to_bytes(*demo)
    assert from_bytes(file, "almanac.hframe").publication == demo[0]  # pictures hardly shrink
    buffer = io.BytesIO(file)
    with zipfile.ZipFile(buffer, "a", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("pictures/bomb", bytes(60 * len(file)))
    with pytest.raises(Refusal, match="unpack"):
        from_bytes(buffer.getvalue(), "almanac.hframe")


def test_what_no_picture_names_is_not_unpacked(demo):
    buffer = io.BytesIO(to_bytes(*demo))
    data = b"nobody's"
    with zipfile.ZipFile(buffer, "a") as archive:
        archive.writestr(f"pictures/{hashlib.sha256(data).hexdigest()}.png", data)
    assert dict(from_bytes(buffer.getvalue(), "a").blobs) == {
        p.hash: demo[1][p.hash] for p in demo[0].pictures
    }


def test_a_missing_picture_opens_with_a_warning(demo):
    publication, blobs = demo
    fewer = dict(list(blobs.items())[1:])
    opened = from_bytes(to_bytes(publication, fewer), "almanac.hframe")
    assert opened.publication == publication
    assert len(opened.warnings) == 1 and "logo.svg" in opened.warnings[0]


SVG = b'<svg xmlns="http://www.w3.org/2000/svg" width="96" height="48">%s</svg>'


def test_svg_sizes_are_css_pixels():
    picture, _ = picture_from_bytes(SVG % b"<rect width='9' height='9'/>", "a.svg")
    assert (picture.width, picture.height) == (72, 36)  # 1 px = 1/96 in: SVG 2, section 8.9


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (SVG % b"<script>1</script>", "script"),
        (SVG % b"<rect onclick='x()'/>", "script"),
        (SVG % b"<image href='https://example.org/x.png'/>", "never fetched"),
        (b'<!DOCTYPE a [<!ENTITY x "y">]>' + SVG % b"&x;", "entities"),
        ((SVG % b"")[:-5], "complete"),
        (b"GIF89a nonsense", "can be read"),
        (b"\x89PNG\r\n\x1a\n truncated", "can be read"),
    ],
)
def test_pictures_that_can_not_be_trusted_or_read(data, says):
    with pytest.raises(Refusal, match=says):
        picture_from_bytes(data, "bad.svg")


def png(size, mode="RGB", **saved):
    from PIL import Image

    buffer = io.BytesIO()
    Image.new(mode, size).save(buffer, saved.pop("kind", "PNG"), **saved)
    return buffer.getvalue()


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "TIFF"])
@pytest.mark.parametrize("ppi", [72, 96, 300])
def test_resolution_is_what_pillow_reads(kind, ppi):
    from PIL import Image

    data = png((600, 300), kind=kind, dpi=(ppi, ppi))
    picture, kept = picture_from_bytes(data, "a")
    with Image.open(io.BytesIO(data)) as image:
        read = float(image.info["dpi"][0])
        assert picture.ppi == pytest.approx(read, abs=0.02)
        assert picture.size == pytest.approx((image.width * 72 / read, image.height * 72 / read),
                                             rel=1e-3)  # fmt: skip
    with Image.open(io.BytesIO(kept)) as image:
        assert image.format == kind and image.size == (600, 300)
    frame = PictureFrame(id="i", x=0, y=0, width=144, height=144, picture=picture.hash)
    # As placed: 600 pixels on 144 points, which are two inches.
    assert effective_resolution(picture, frame) == pytest.approx((300.0, 300.0))
    actual = replace(frame, fit="actual")
    assert effective_resolution(picture, actual) == pytest.approx((picture.ppi, picture.ppi))


def test_a_picture_that_says_nothing_of_its_resolution_counts_72_to_the_inch():
    assert picture_from_bytes(png((10, 20)), "a.png")[0].size == (10.0, 20.0)


def test_a_tiff_keeps_what_is_transparent():
    from PIL import Image

    _, kept = picture_from_bytes(png((4, 4), "RGBA", kind="TIFF"), "a.tif")
    with Image.open(io.BytesIO(kept)) as image:
        assert image.mode == "RGBA" and image.getpixel((1, 1))[3] == 0


def test_a_picture_of_30000_by_30000_pixels_is_refused_before_it_is_unpacked():
    header = struct.pack(">IIBBBBB", 30_000, 30_000, 8, 2, 0, 0, 0)
    chunk = b"IHDR" + header
    data = b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + chunk
    data += struct.pack(">I", zlib.crc32(chunk)) + struct.pack(">I", 40) + b"IDAT" + b"\0" * 44
    with pytest.raises(Refusal, match="million pixels"):
        picture_from_bytes(data, "huge.png")


def test_a_truncated_picture_is_refused_and_named():
    data = png((300, 300))
    with pytest.raises(Refusal, match=r"“cut\.png” is not a picture that can be read"):
        picture_from_bytes(data[: len(data) // 2], "cut.png")


def test_a_face_that_does_not_exist_is_named_with_its_place(demo):
    def turn(tree):
        tree["publication"]["masters"][1]["items"][0]["face"] = "left"

    with pytest.raises(Refusal, match=r"masters\[\d\]\.items\[\d\].*: invalid enum value 'left'"):
        from_bytes(edited_json(to_bytes(*demo), turn), "almanac.hframe")
