"""An export in little memory, that stops when it is told to and never lies about it."""

from __future__ import annotations

import io
import threading
import tracemalloc

import numpy as np
import pikepdf
import pypdf
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

import hidden_frame.output.pdf.spool as spool_module
import hidden_frame.output.pdf.writing as writing
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.new import new_publication
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import Cancelled, export_pdf
from hidden_frame.output.pdf.spool import Spool
from hidden_frame.storage.pictures import picture_from_bytes
from hidden_frame.storage.shelf import PicturesOnDisk


@given(st.lists(st.binary(max_size=90) | st.just(b"\nendstream\nendobj\nxref\n"), max_size=8))
def test_a_spool_gives_back_what_it_was_given(streams):
    with Spool() as spool:
        numbers = [spool.add(data) for data in streams]
        with spool.opened() as pdf:
            found = [pdf.get_object(n, 0).read_raw_bytes() for n in numbers]
            assert found == streams and len(pdf.pages) == 0


def photographs(count, folder):
    """As many pages, each with a picture of noise of its own: nothing makes it smaller."""
    publication = new_publication("Pictures", Setup(trim=TRIMS["A6"]), count)
    blobs = PicturesOnDisk(None, folder)
    pixels = np.random.default_rng(7)
    for page in all_pages(publication):
        out = io.BytesIO()
        noise = pixels.integers(0, 255, (600, 600, 3), np.uint8)
        Image.fromarray(noise).save(out, "PNG", compress_level=0)
        picture, data = picture_from_bytes(out.getvalue(), "noise.png")
        blobs[picture.hash] = data
        frame = PictureFrame(id="", x=0, y=0, width=90, height=90, picture=picture.hash)
        publication, _ = add_item(put_picture(publication, picture), page.id, frame)
    return publication, blobs


def test_an_export_holds_a_picture_at_a_time(tmp_path, monkeypatch):
    """24 pictures of 1 MB take no more memory than a few of them."""
    monkeypatch.setattr(spool_module, "_IN_MEMORY", 100_000)
    publication, blobs = photographs(24, tmp_path / "work")
    composition = Composer().compose(publication)
    tracemalloc.start()
    export_pdf(composition, blobs, tmp_path / "a.pdf")
    most = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert most < 8_000_000 < 24_000_000 < (tmp_path / "a.pdf").stat().st_size
    shown = [page.images[0].image for page in pypdf.PdfReader(tmp_path / "a.pdf").pages[::9]]
    for page, image in zip(all_pages(publication)[::9], shown, strict=True):
        wanted = np.asarray(Image.open(io.BytesIO(blobs[page.items[0].picture])))
        assert np.array_equal(np.asarray(image.convert("RGB")), wanted)


def stopping(at):
    """A progress function that says stop when it is asked for the `at`th time."""
    asked = []

    def progress(done, total):
        asked.append(done)
        return len(asked) <= at

    return progress, asked


def test_stopped_at_any_moment_leaves_the_old_file_and_nothing_else(demo, tmp_path):
    publication, blobs = demo
    composition = Composer().compose(publication)
    path = tmp_path / "a.pdf"
    everything, asked = stopping(10**9)
    export_pdf(composition, blobs, path, None, everything)
    for at in range(0, len(asked) - 2, 7):
        path.write_bytes(b"old")
        progress, _ = stopping(at)
        try:
            export_pdf(composition, blobs, path, None, progress)
        except Cancelled:
            for thread in threading.enumerate():
                if thread.name.startswith("export"):
                    thread.join(10)
            assert path.read_bytes() == b"old"
        else:  # it was faster this time: then it is whole
            assert path.read_bytes().startswith(b"%PDF")
        assert [p.name for p in tmp_path.iterdir()] == ["a.pdf"]


def test_stopped_while_the_disk_takes_long_one_does_not_wait_for_it(demo, tmp_path, monkeypatch):
    publication, blobs = demo
    composition = Composer().compose(publication)
    reached, goes_on = threading.Event(), threading.Event()

    def slow(handle):
        reached.set()
        assert goes_on.wait(20)

    monkeypatch.setattr("hidden_frame.storage.files.os.fsync", slow)
    monkeypatch.setattr(writing, "_PATIENCE", 0.01)
    with pytest.raises(Cancelled):
        export_pdf(composition, blobs, tmp_path / "a.pdf", None, lambda *_: not reached.is_set())
    goes_on.set()
    for thread in threading.enumerate():
        if thread.name.startswith("export"):
            thread.join(10)
    assert not list(tmp_path.iterdir())


def test_stopped_when_it_stands_there_is_no_longer_stopped(demo, tmp_path, monkeypatch):
    publication, blobs = demo
    composition = Composer().compose(publication)
    moved = threading.Event()
    replaced = writing.replace_file

    def after(*arguments):
        replaced(*arguments)
        moved.set()
        threading.Event().wait(0.1)

    monkeypatch.setattr(writing, "replace_file", after)
    export_pdf(composition, blobs, tmp_path / "a.pdf", None, lambda *_: not moved.is_set())
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert len(pdf.pages) == len(all_pages(publication))


def test_a_disk_that_gives_back_something_else_is_told(demo, tmp_path, monkeypatch):
    publication, blobs = demo
    (tmp_path / "a.pdf").write_bytes(b"old")
    monkeypatch.setattr(writing._File, "_wrote", lambda self, data: None)
    with pytest.raises(Refusal, match="does not give back"):
        export_pdf(Composer().compose(publication), blobs, tmp_path / "a.pdf")
    assert (tmp_path / "a.pdf").read_bytes() == b"old"
