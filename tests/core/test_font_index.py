"""Fonts of the machine are read once, not in each run of the program."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.resources import FONTS
from hidden_frame.typeset.fonts.index import indexed
from hidden_frame.typeset.fonts.machine import fonts_in

NAMES = ["Spectral-Regular.ttf", "Spectral-Bold.ttf", "AlegreyaSans-Italic.ttf"]


@pytest.fixture
def machine(tmp_path):
    """Some files, where what is known of them is kept, and a reader that tells what it reads."""
    for name in NAMES:
        shutil.copy(FONTS / name, tmp_path / name)
    (tmp_path / "broken.ttf").write_bytes(b"no font")
    read = []

    def reader(path: Path):
        read.append(path.name)
        return fonts_in(path)

    def look():
        read.clear()
        files = sorted(tmp_path.glob("*.ttf"))
        found = indexed(files, tmp_path / "kept" / "index", reader)
        assert found == [font for path in files for font in fonts_in(path)]
        return list(read)

    return tmp_path, look


def test_only_what_is_new_or_has_changed_is_read(machine):
    folder, look = machine
    assert sorted(look()) == sorted([*NAMES, "broken.ttf"])
    assert look() == []
    shutil.copy(FONTS / NAMES[1], folder / NAMES[0])
    assert look() == [NAMES[0]]
    (folder / NAMES[2]).unlink()
    (folder / "new.ttf").write_bytes((FONTS / NAMES[2]).read_bytes())
    assert look() == ["new.ttf"] and look() == []


def test_a_place_that_takes_nothing_is_no_reason_to_stop(machine):
    folder, look = machine
    (folder / "kept").write_bytes(b"a file where a folder should be")
    assert len(look()) == 4 and len(look()) == 4


@given(st.binary(max_size=60))
def test_rubbish_in_its_place_is_read_over(tmp_path_factory, rubbish):
    folder = tmp_path_factory.mktemp("index")
    kept = folder / "index"
    kept.write_bytes(rubbish)
    path = FONTS / NAMES[0]
    assert indexed([path], kept) == fonts_in(path)
    assert msgspec.msgpack.decode(kept.read_bytes())["files"]
    assert [p.name for p in folder.iterdir()] == ["index"]


def test_what_another_form_kept_is_read_again(machine, monkeypatch):
    _, look = machine
    look()
    monkeypatch.setattr("hidden_frame.typeset.fonts.index._FORM", 2)
    assert len(look()) == 4 and look() == []


def test_a_file_that_goes_while_it_is_looked_for(tmp_path):
    assert indexed([tmp_path / "gone.ttf"], tmp_path / "index") == []
    assert os.listdir(tmp_path) == []
