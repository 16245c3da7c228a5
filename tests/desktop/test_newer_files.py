"""A file of a newer version in the window: opened to look at, and never written over."""

from __future__ import annotations

import json
import zipfile

import pytest
from PySide6.QtWidgets import QFileDialog, QPushButton

from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog
from hidden_frame.edit.about import set_title
from hidden_frame.storage.format import load, save
from hidden_frame.storage.numbers import FORMAT


def make_newer(path):
    """The file as a version would write it that knows one field more."""
    with zipfile.ZipFile(path) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    tree = json.loads(members["publication.json"])
    tree["format"] = FORMAT + 1
    tree["publication"]["smell"] = "of rain"
    members["publication.json"] = json.dumps(tree).encode()
    with zipfile.ZipFile(path, "w") as archive:
        for name, content in members.items():
            archive.writestr(name, content)
    return path.read_bytes()


@pytest.fixture
def newer(demo, tmp_path):
    path = tmp_path / "almanac.hframe"
    save(path, *demo)
    return path, make_newer(path)


def test_it_is_opened_to_look_at_and_saved_only_elsewhere(hands, newer, tmp_path, monkeypatch):
    path, before = newer
    hands.window.files.open_path(path)
    told = next(said for said in hands.notices if "newer version" in said)
    assert "“smell”" in told and "opened to look at" in told
    assert "almanac.hframe, to look at" in hands.window.windowTitle()
    assert hands.session.path is None
    chosen = [path]
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(chosen[-1]), ""))
    hands.do("save")
    assert path.read_bytes() == before
    assert any("save under another name" in said for said in hands.notices)
    chosen.append(tmp_path / "copy.hframe")
    hands.do("save")
    assert hands.session.path == chosen[-1] and not load(chosen[-1]).more
    assert "to look at" not in hands.window.windowTitle()
    assert path.read_bytes() == before


def test_one_that_becomes_newer_under_an_open_window(hands, tmp_path, monkeypatch):
    path = tmp_path / "almanac.hframe"
    assert hands.window.files._save(path)
    hands.session.edit("title", lambda p: set_title(p, "Mine"))
    before = make_newer(path)
    offered = []

    def execute(dialog):
        offered.append([button.text() for button in dialog.findChildren(QPushButton)])
        assert "newer version" in dialog.told.text()

    monkeypatch.setattr(ChangedFileDialog, "exec", execute)
    hands.do("save")
    assert offered == [["Cancel", "Save as…"]]
    assert path.read_bytes() == before and hands.session.unsaved
