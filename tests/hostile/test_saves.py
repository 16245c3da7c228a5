"""Saving: the old file or the new one, whole, whatever happens meanwhile."""

from __future__ import annotations

import errno
import os
import signal
import stat
import subprocess
import sys
import time
from types import SimpleNamespace

import msgspec
import pytest
from benchmarks.hostile.killed import SAVING

from hidden_frame.edit.about import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.storage import files
from hidden_frame.storage import format as storage_format
from hidden_frame.storage.files import write_atomically
from hidden_frame.storage.format import load, save


@pytest.fixture
def old(tmp_path):
    path = tmp_path / "a.hframe"
    path.write_bytes(b"old")
    return path


def test_a_link_stays_a_link_and_another_name_keeps_the_old_work(old, tmp_path):
    link, second = tmp_path / "link.hframe", tmp_path / "second.hframe"
    link.symlink_to(old)
    os.link(old, second)
    assert files.other_names(link) == files.other_names(second) == 1
    write_atomically(link, b"new")
    assert link.is_symlink() and old.read_bytes() == b"new" and second.read_bytes() == b"old"
    assert files.other_names(old) == 0 and files.other_names(tmp_path / "none") == 0


@pytest.mark.parametrize("broken", ["write", "replace"])
def test_a_full_disk_takes_neither_name_of_a_file(old, tmp_path, monkeypatch, broken):
    second = tmp_path / "second.hframe"
    os.link(old, second)

    def full(*_):
        raise OSError(errno.ENOSPC, "No space left on device")

    if broken == "replace":
        monkeypatch.setattr(files.os, "replace", full)
    with pytest.raises(Refusal, match="make room on the disk"):
        files.replace_file(
            old, full if broken == "write" else lambda f: f.write(b"n"), lambda _: None
        )
    assert old.read_bytes() == second.read_bytes() == b"old"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.hframe", "second.hframe"]


def test_room_is_asked_for_only_where_the_disk_is_full(old, monkeypatch):
    def stale(*_):
        raise OSError(errno.ESTALE, "Stale file handle")

    monkeypatch.setattr(files.os, "replace", stale)
    with pytest.raises(Refusal) as refused:
        write_atomically(old, b"new")
    assert "room" not in str(refused.value) and "choose another place" in str(refused.value)


def test_permissions_and_attributes_stay(old):
    os.chmod(old, 0o640)
    attributes = True
    try:
        os.setxattr(old, "user.note", b"kept")
    except OSError:
        attributes = False  # this file system has none
    write_atomically(old, b"new")
    assert stat.S_IMODE(old.stat().st_mode) == 0o640
    assert not attributes or os.getxattr(old, "user.note") == b"kept"


def test_what_may_only_be_read_is_not_overwritten(old):
    os.chmod(old, 0o444)
    with pytest.raises(Refusal, match="read-only"):
        write_atomically(old, b"new")
    assert old.read_bytes() == b"old"


def test_names_of_255_bytes_work(tmp_path):
    path = tmp_path / ("ä" * 124 + ".hframe")
    assert len(path.name.encode()) == 255
    write_atomically(path, b"new")
    assert path.read_bytes() == b"new" and len(list(tmp_path.iterdir())) == 1


@pytest.mark.parametrize("step", ["fsync", "replace", "chmod"])
@pytest.mark.parametrize("code", [errno.ENOSPC, errno.EIO, errno.ESTALE])
def test_a_full_disk_or_a_folder_that_is_gone_leaves_the_old_file(old, monkeypatch, step, code):
    def fail(*_):
        raise OSError(code, os.strerror(code))

    monkeypatch.setattr(files.os, step, fail)
    with pytest.raises(Refusal, match="could not be written"):
        write_atomically(old, b"new")
    monkeypatch.undo()
    assert old.read_bytes() == b"old" and [p.name for p in old.parent.iterdir()] == [old.name]


def test_a_disk_that_gives_back_something_else_is_told(old, monkeypatch):
    """A disk that lies: what is read back is not what was written."""
    real = files._read_back

    def lying(written, data, name):
        with written.open("r+b") as file:
            file.seek(1)
            file.write(b"X")
        real(written, data, name)

    monkeypatch.setattr(files, "_read_back", lying)
    with pytest.raises(Refusal, match="could not be read back"):
        write_atomically(old, b"new")
    assert old.read_bytes() == b"old" and len(list(old.parent.iterdir())) == 1


@pytest.mark.parametrize("lie", [(b"Other", b"Older"), (b"Other", b"\\ud800")])
def test_a_value_that_would_come_back_otherwise_is_not_saved(small, tmp_path, monkeypatch, lie):
    path = tmp_path / "a.hframe"
    save(path, small, {})

    class Lying:
        def __getattr__(self, name):
            return getattr(msgspec.json, name)

        def encode(self, value):
            return msgspec.json.encode(value).replace(*lie)

    lying = SimpleNamespace(json=Lying(), DecodeError=msgspec.DecodeError)
    monkeypatch.setattr("hidden_frame.storage.pieces.msgspec", lying)
    with pytest.raises(Refusal, match="could not be opened again"):
        save(path, set_title(small, "Other"), {})
    monkeypatch.undo()
    assert load(path).publication == small


@pytest.mark.parametrize("at", [0.02, 0.2, 0.5, 0.8, 0.99])
def test_a_publication_that_the_disk_does_not_give_back_is_not_saved(
    demo, tmp_path, monkeypatch, at
):
    """A bit that is turned over anywhere between the write and the proof."""
    publication, blobs = demo
    path = tmp_path / "a.hframe"
    path.write_bytes(b"old")
    proved = storage_format._prove

    def lying(archive, *rest):
        info = archive.getinfo("publication.json")
        with open(archive.filename, "r+b") as file:
            file.seek(info.header_offset + 60 + int(at * (info.compress_size - 30)))
            byte = file.read(1)[0]
            file.seek(-1, 1)
            file.write(bytes([byte ^ 4]))
        proved(archive, *rest)

    monkeypatch.setattr(storage_format, "_prove", lying)
    with pytest.raises(Refusal, match="could not be read back"):
        save(path, publication, blobs)
    assert path.read_bytes() == b"old" and len(list(tmp_path.iterdir())) == 1


def test_strays_of_killed_saves_are_swept_and_those_of_living_ones_stay(old):
    here = files._HOST
    dead, mine = (old.parent / f".hframe-{here}-{n}-abc.part" for n in (999999999, os.getpid()))
    far, gone = (old.parent / f".hframe-elsewhere-{n}-abc.part" for n in (7, 8))
    older = old.parent / ".hframe-999999999-abc.part"  # as earlier versions named them
    for path in (dead, mine, far, gone, older):
        path.write_bytes(b"half")
    for path in (gone, older):
        os.utime(path, (time.time() - 9_000,) * 2)
    write_atomically(old, b"new")
    assert not dead.exists() and mine.exists() and far.exists()
    assert not gone.exists() and not older.exists()


def test_killed_while_saving_the_file_is_the_last_or_the_one_before(tmp_path):
    path = tmp_path / "a.hframe"
    for turn in range(8):
        child = subprocess.Popen(
            [sys.executable, "-c", SAVING, str(path)], stdout=subprocess.PIPE, text=True
        )
        child.stdout.readline()
        time.sleep(0.004 * turn)
        os.kill(child.pid, signal.SIGKILL)
        said = [int(line) for line in child.stdout.read().split()] or [1]
        child.wait()
        opened = load(path)
        number = int(opened.publication.title.removeprefix("Save "))
        assert said[-1] <= number <= said[-1] + 1
        assert opened.warnings == [] and len(opened.blobs) == len(opened.publication.pictures)
