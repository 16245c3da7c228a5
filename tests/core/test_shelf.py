"""Pictures on disk: a mapping like any other, gone with its process."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tracemalloc
from hashlib import sha256
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Picture
from hidden_frame.storage.format import load, save
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.store import (
    hashes_in,
    keep_pictures,
    keeping,
    lean,
    pictures_of,
    sweep_pictures,
)

KEYS = st.sampled_from(["a" * 64, "b" * 64, "c" * 64])
STEPS = st.lists(st.tuples(st.sampled_from(["put", "take", "drop"]), KEYS, st.binary(max_size=40)))


@given(STEPS)
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_it_is_what_a_dict_is(tmp_path, steps):
    mine, plain = PicturesOnDisk(root=tmp_path), {}
    for what, key, data in steps:
        if what == "put":
            mine[key] = plain[key] = data
        elif what == "drop" and key in plain:
            del mine[key], plain[key]
        assert mine.get(key) == plain.get(key) and (key in mine) is (key in plain)
    assert dict(mine) == plain and len(mine) == len(plain) and mine == plain
    mine.close()
    assert list(tmp_path.iterdir()) == []


def test_a_disk_that_takes_nothing_keeps_pictures_in_memory(tmp_path, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    made = PicturesOnDisk(root=tmp_path)
    monkeypatch.setattr(Path, "write_bytes", full)
    made["a" * 64] = b"bytes"
    assert made["a" * 64] == b"bytes" and "a" * 64 in made
    del made["a" * 64]
    assert len(made) == 0


def test_a_folder_that_was_swept_away_is_a_missing_picture(tmp_path):
    made = PicturesOnDisk({"a" * 64: b"bytes"}, tmp_path)
    next(tmp_path.glob("*-*/a*")).unlink()
    with pytest.raises(KeyError):
        made["a" * 64]
    assert made.get("a" * 64) is None


CHILD = """
import sys, time
from pathlib import Path
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.store import (
    keep_pictures,
    keeping,
    lean,
    pictures_of,
    sweep_pictures,
)
made = PicturesOnDisk({"a" * 64: b"bytes"}, Path(sys.argv[1]))
print("there", flush=True)
time.sleep(60)
"""


def test_what_a_killed_process_left_goes_and_what_a_living_one_has_stays(tmp_path):
    children = [
        subprocess.Popen([sys.executable, "-c", CHILD, str(tmp_path)], stdout=subprocess.PIPE)
        for _ in range(2)
    ]
    for child in children:
        child.stdout.readline()
    os.kill(children[0].pid, signal.SIGKILL)
    children[0].wait()
    mine = PicturesOnDisk({"b" * 64: b"bytes"}, tmp_path)
    left = {int(f.name.split("-")[0]) for f in tmp_path.glob("*-*")}
    children[1].kill()
    children[1].wait()
    assert left == {children[1].pid, os.getpid()} and len(mine) == 1


def test_pictures_that_nothing_uses_are_left_out(demo):
    publication = demo[0]
    assert lean(publication) is publication  # all of the demo's are used
    more = Picture(hash="0" * 64, kind="png", width=9, height=9)
    assert lean(replace(publication, pictures=(*publication.pictures, more))) == publication
    page = all_pages(publication)[0].id
    frame = PictureFrame(id="", x=0, y=0, width=9, height=9, picture="0" * 64)
    used, _ = add_item(replace(publication, pictures=(*publication.pictures, more)), page, frame)
    assert lean(used) is used


def test_what_is_kept_of_a_session_is_the_same_file_twice_named(demo, tmp_path):
    """A journal or a version of large pictures costs no room and no time."""
    mine, root = PicturesOnDisk(demo[1], tmp_path / "work"), tmp_path / "pictures"
    with keeping(root):
        keep_pictures(root, demo[0], mine)
    for picture in demo[0].pictures:
        assert (root / picture.hash).samefile(mine.file_of(picture.hash))
        mine[picture.hash] = b"else"  # written anew, not into the file that has two names
    kept, warnings = pictures_of(root, demo[0])
    assert warnings == [] and dict(kept) == {p.hash: demo[1][p.hash] for p in demo[0].pictures}
    mine.close()
    assert pictures_of(root, demo[0])[1] == []


def test_nothing_is_swept_away_while_something_is_being_kept(demo, tmp_path):
    """Pictures are there before what names them is: nobody else may think them nobody's."""
    root = tmp_path / "pictures"
    with keeping(root):
        keep_pictures(root, *demo)
        sweep_pictures(root, list)
        assert len(list(root.iterdir())) == len(demo[0].pictures)
    sweep_pictures(root, list)
    assert list(root.iterdir()) == []


def test_a_picture_that_is_gone_from_the_disk_is_told_and_the_old_file_stays(demo, tmp_path):
    mine, path = PicturesOnDisk(demo[1], tmp_path / "work"), tmp_path / "a.hframe"
    save(path, demo[0], mine)
    before = path.read_bytes()
    mine.file_of(demo[0].pictures[0].hash).unlink()
    with pytest.raises(Refusal, match="is gone from this disk"):
        save(path, demo[0], mine)
    assert path.read_bytes() == before


def test_opening_and_saving_hold_one_picture_at_a_time(small, tmp_path):
    """Forty pictures of two megabytes pass through memory as one or two of them."""
    size, blobs, pictures = 2_000_000, PicturesOnDisk(root=tmp_path / "a"), []
    for n in range(40):
        data = bytes([n]) * size
        digest = sha256(data).hexdigest()
        blobs[digest] = data
        pictures.append(Picture(hash=digest, kind="jpg", width=10, height=10, name=f"{n}.jpg"))
    publication, path = replace(small, pictures=tuple(pictures)), tmp_path / "a.hframe"
    tracemalloc.start()
    save(path, publication, blobs)
    opened = load(path, PicturesOnDisk(root=tmp_path / "b"))
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert opened.publication == publication and dict(opened.blobs) == dict(blobs)
    assert peak < 8 * size


@given(st.lists(st.integers(0, 2**256 - 1), max_size=12), st.integers(1, 200))
def test_hashes_are_found_wherever_a_text_is_cut(numbers, size):
    """Looking through a whole one of 20 MB held up the desk for a quarter of a second."""
    hashes = [b"%064x" % number for number in numbers]
    text = b'{"hash":"' + b'","hash":"'.join(hashes) + b'"}'
    blocks = [text[at : at + size] for at in range(0, len(text), size)]
    assert hashes_in(blocks) == set(hashes)
