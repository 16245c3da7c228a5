"""Archives that are made to burst: refused by their sizes, or while they unpack if these lie."""

from __future__ import annotations

import hashlib
import io
import json
import struct
import subprocess
import sys
import zipfile

import pytest
from benchmarks.whole_file import to_bytes
from msgspec.structs import replace

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Picture
from hidden_frame.storage.format import from_bytes

MB = 1024**2


def archive(publication, blobs, lies=(), **members):
    """A publication's file with members exchanged, deflated; of those in `lies` the archive says
    that they are small."""
    buffer, data = io.BytesIO(), to_bytes(publication, blobs)
    with (
        zipfile.ZipFile(io.BytesIO(data)) as old,
        zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as new,
    ):
        for name in old.namelist():
            if name not in members:
                new.writestr(name, old.read(name))
        for name, content in members.items():
            new.writestr(name, content)
    made = bytearray(buffer.getvalue())
    for name in lies:  # the size before packing, in the central directory (APPNOTE 4.3.12)
        at = made.rfind(b"PK\1\2", 0, made.rfind(name.encode()))
        struct.pack_into("<I", made, at + 24, 1000)
    return bytes(made)


def picture_of(small, data, kind="svg"):
    digest = hashlib.sha256(data).hexdigest()
    picture = Picture(hash=digest, kind=kind, width=9, height=9, name="b." + kind)
    return replace(small, pictures=(picture,)), f"pictures/{digest}.{kind}"


@pytest.mark.parametrize("lies", [False, True])
@pytest.mark.parametrize("member", ["mimetype", "preview.png", "publication.json"])
def test_no_member_is_larger_than_it_can_be(small, member, lies):
    size = {"mimetype": 1000, "preview.png": 40 * MB, "publication.json": 100 * MB}[member]
    filled = b" " * size
    if member == "publication.json":
        with zipfile.ZipFile(io.BytesIO(to_bytes(small, {}))) as made:
            filled = made.read(member) + filled
    data = archive(small, {}, lies=[member] if lies else [], **{member: filled})
    with pytest.raises(Refusal):
        from_bytes(data, "notes.hframe")


def test_a_picture_that_is_a_thousand_times_its_size(small):
    publication, member = picture_of(small, b"<svg>" + bytes(200 * MB))
    with pytest.raises(Refusal, match="more than any publication has"):
        from_bytes(archive(publication, {}, **{member: b"<svg>" + bytes(200 * MB)}), "n.hframe")


def test_what_shrinks_well_and_is_meant_opens(small):
    drawing = b"<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'>%s</svg>" % (
        b"<path d='M0 0h9v9z'/>" * 100_000
    )
    publication, member = picture_of(small, drawing)
    opened = from_bytes(archive(publication, {}, **{member: drawing}), "n.hframe")
    assert list(opened.blobs.values()) == [drawing]
    many = replace(small, title="x" * 20_000_000)
    assert from_bytes(to_bytes(many, {}), "n.hframe").publication == many


@pytest.mark.parametrize("member", ["preview.png", "publication.json", "pictures/"])
def test_memory_stays_within_bounds_whatever_the_archive_says(small, tmp_path, member):
    """A file of 0.9 MB, in a process of its own that may take 700 MB more than it has."""
    bomb = bytes(900 * MB) if member != "publication.json" else b'{"format":1,"publication":{' * MB
    publication = small
    if member == "pictures/":
        publication, member = picture_of(small, b"any")
    path = tmp_path / "bomb.hframe"
    path.write_bytes(archive(publication, {}, lies=[member], **{member: bomb}))
    del bomb
    told = subprocess.run(
        [sys.executable, "-c", _OPEN, str(path)], capture_output=True, text=True, check=True
    )
    peak, sentence = json.loads(told.stdout)
    assert "refused" in sentence or "damaged" in sentence or "valid" in sentence, sentence
    assert peak < 300 * MB


_OPEN = """
import json, resource, sys
from pathlib import Path
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import load
before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
told = "opened"
try:
    load(Path(sys.argv[1]))
except Refusal as refusal:
    told = str(refusal)
after = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
print(json.dumps([(after - before) * 1024, told]))
"""
