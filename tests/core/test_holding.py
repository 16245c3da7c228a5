"""Who has a file open: told across processes, forgotten when they end."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time

import msgspec
import pytest

from hidden_frame.storage.holding import Holder, held_by, hold, release

CHILD = """
import sys, time
from pathlib import Path
from hidden_frame.storage.holding import hold
print(hold(Path(sys.argv[1])) is not None, flush=True)
time.sleep(60)
"""


@pytest.fixture
def other(tmp_path):
    """Another process that has a file open."""
    path = tmp_path / "a.hframe"
    path.write_bytes(b"")
    child = subprocess.Popen([sys.executable, "-c", CHILD, str(path)],
                             stdout=subprocess.PIPE, text=True)  # fmt: skip
    assert child.stdout.readline() == "True\n"
    yield path, child
    child.kill()
    child.wait()


def test_another_process_is_told_until_it_is_killed(other, tmp_path):
    path, child = other
    link = tmp_path / "link.hframe"
    link.symlink_to(path)
    for name in (path, link):
        holder = held_by(name)
        assert holder.process == child.pid and abs(holder.since - time.time()) < 60
        assert hold(name) is None
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    assert held_by(path) is None
    mine = hold(path)
    assert mine is not None and held_by(path) is None
    release(mine)
    assert {p.name for p in tmp_path.iterdir()} == {"a.hframe", "link.hframe"}


@pytest.mark.parametrize(("age", "held"), [(60.0, True), (30 * 24 * 3600.0, False)])
def test_another_machine_is_believed_for_a_week(tmp_path, age, held):
    path = tmp_path / "a.hframe"
    holder = Holder("mira", "another machine", 1, time.time() - age)
    (tmp_path / ".a.hframe.open").write_bytes(msgspec.json.encode(holder))
    assert (held_by(path) == holder) is held


@pytest.mark.parametrize("data", [b"", b"{", b"[]", b"\xff" * 40])
def test_what_is_no_holder_is_nobody(tmp_path, data):
    (tmp_path / ".a.hframe.open").write_bytes(data)
    assert held_by(tmp_path / "a.hframe") is None


def test_where_nothing_can_be_written_a_file_opens_all_the_same(tmp_path):
    assert hold(tmp_path / "gone" / "a.hframe") is None
    assert hold(tmp_path / ("x" * 250 + ".hframe")) is None
