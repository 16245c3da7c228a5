"""A folder that may only be read from some moment on, under an open window."""

from __future__ import annotations

import errno
import os
import tempfile

import pytest
from PySide6.QtWidgets import QFileDialog

from hidden_frame.edit.about import set_title
from hidden_frame.storage.format import load


@pytest.mark.parametrize("code", [errno.EACCES, errno.EROFS])
def test_it_is_told_nothing_is_lost_and_work_goes_on(hands, tmp_path, monkeypatch, code):
    folder = tmp_path / "shared"
    folder.mkdir()
    path = folder / "almanac.hframe"
    assert hands.window.files._save(path)
    before = path.read_bytes()
    make, take = tempfile.mkstemp, os.open

    def closed(file):
        if os.path.dirname(os.fspath(file)) == str(folder):
            raise OSError(code, os.strerror(code))

    def mkstemp(suffix=None, prefix=None, dir=None, text=False):
        closed(os.path.join(dir, "new"))
        return make(suffix, prefix, dir, text)

    def opened(file, flags, *rest, **named):
        if flags & (os.O_WRONLY | os.O_RDWR | os.O_CREAT):
            closed(file)
        return take(file, flags, *rest, **named)

    with monkeypatch.context() as patched:
        patched.setattr(tempfile, "mkstemp", mkstemp)
        patched.setattr(os, "open", opened)
        hands.session.edit("title", lambda p: set_title(p, "Mine"))
        hands.window.keeper.look()
        hands.do("save")
        hands.window.files.saver.finish()
        told = next(said for said in hands.notices if "could not be written" in said)
        assert os.strerror(code) in told and "choose another place" in told
        assert "make room" not in told and "Your work is kept for now" in told
        assert hands.session.unsaved and path.read_bytes() == before
        hands.session.edit("title", lambda p: set_title(p, "Mine, later"))
        other = tmp_path / "here.hframe"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(other), ""))
        hands.do("save as")
        assert load(other).publication.title == "Mine, later"
