"""A report tells of faults and of nothing that somebody wrote."""

from __future__ import annotations

import logging
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtWidgets import QApplication

from hidden_frame import faultlog
from hidden_frame.desktop.dialogs.report import ReportDialog
from hidden_frame.desktop.state import mishaps


@pytest.fixture
def log(tmp_path, monkeypatch):
    """A log of a test’s own, with the faults that it has written."""
    path = tmp_path / "log" / "hidden-frame.log"
    for module in (faultlog, mishaps):
        monkeypatch.setattr(module, "log_file", lambda: path)
    monkeypatch.setattr(mishaps, "_log", logging.Logger("alone"))  # no other test's handlers
    return path


def fail(words):
    try:
        raise KeyError(words)
    except KeyError as error:
        mishaps.write_down(f"Opening {words}.hframe", error)


@given(st.text(alphabet="qzxj \n:’\"'/.", min_size=6, max_size=40).filter(lambda w: "q" in w))
def test_nothing_of_the_words_is_in_it(words):
    text = (f"2031-05-01 10:00:00,000 ERROR Opening {words}\nTraceback (most recent call last):\n"
            f'  File "/home/q/hidden_frame/storage/format.py", line 10, in load\n    f({words})\n'
            f"KeyError: {words}\n")  # fmt: skip
    told = faultlog.without_content(text)
    where = "  hidden_frame/storage/format.py, line 10, in load"
    assert told.splitlines() == ["2031-05-01 10:00:00,000", where, "  KeyError"]


def test_it_is_shown_and_copied(log, dressed, qtbot):
    for n in range(8):
        fail(f"Dear diary {n}")
    dialog = ReportDialog()
    qtbot.addWidget(dialog)
    dialog.copy.click()
    told = QApplication.clipboard().text()
    assert "diary" not in told and "Hidden Frame" in told and "in fail" in told
    assert told.count("KeyError") == faultlog.LAST and "Dear diary 7" in log.read_text()


def test_without_faults_it_says_so(log):
    assert "No fault was logged." in faultlog.report()


def test_the_path_of_the_log_is_printed():
    code = (
        "import sys; sys.argv=['hidden-frame','--log']; from hidden_frame.cli import main; main()"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.returncode == 0 and done.stdout.strip() == str(faultlog.log_file())
