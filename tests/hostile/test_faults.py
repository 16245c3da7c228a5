"""The measures can be run at all: they are not part of the program, and nothing else loads them."""

from __future__ import annotations

import importlib
import time
from pathlib import Path

import benchmarks
import pytest
from benchmarks import faults
from benchmarks.hostile.overfull import overfull

from hidden_frame.model.errors import Refusal

MODULES = sorted(p.stem for p in Path(benchmarks.__file__).parent.glob("[a-z]*.py"))


@pytest.mark.parametrize("name", MODULES)
def test_every_measure_loads(name):
    assert importlib.import_module(f"benchmarks.{name}").__doc__


def test_faults_are_counted_and_there_are_none():
    """A little of `./bench faults`; its drawings are tests of their own."""
    rows = [*faults._kills(4, 2), *faults._files(12), *faults._edits(150), *faults._disk()]
    assert len(rows) == 12 and all(row.target == 0 for row in rows)
    assert [row.name for row in rows if not row.met] == []


def test_what_is_more_than_it_says_is_counted():
    rows = [*overfull(3)]
    assert len(rows) == 4 and [row.name for row in rows if not row.met] == []


def test_a_window_that_is_killed_loses_five_seconds_at_most():
    assert [row.name for row in faults._windows(1, 2.0) if not row.met] == []


def test_what_a_window_loses_is_counted(tmp_path, monkeypatch):
    """Without its journal, all that was typed since the file was made."""
    monkeypatch.setattr(faults, "left_behind", lambda root: [])
    monkeypatch.setattr(faults, "EDITING", faults.EDITING.replace("draw.random() < 0.02", "False"))
    typist = faults._Typist(tmp_path / "home", 1)
    typist.first()
    time.sleep(1.0)
    assert 0.9 < typist.kill() < 60


def test_what_goes_wrong_is_counted():
    """The counting itself: a door that raises, one that hangs, one that tells too much."""
    counted = faults._Count()

    def raises():
        raise KeyError("nobody foresaw it")

    def tells():
        raise Refusal("x" * 900)

    counted.call(raises)
    counted.call(tells)
    assert (counted.tracebacks, counted.long, counted.hangs) == (1, 1, 0)
