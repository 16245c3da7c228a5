"""Many files by one command: in processes of this machine, or on the workers of a cluster."""

from __future__ import annotations

import json
import subprocess
import sys
from concurrent.futures import Future, ThreadPoolExecutor

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader

from hidden_frame.edit.new import new_publication
from hidden_frame.headless.each import Outcome, Task, checked, done, named, outcomes
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.format import load, save


@pytest.fixture
def issues(tmp_path):
    """Three publications of one to three pages, and a file that is none."""
    for number, name in enumerate(("may", "june", "july"), 1):
        made = new_publication(name.title(), Setup(trim=TRIMS["A6"]), number)
        save(tmp_path / f"{name}.hframe", made, {})
    (tmp_path / "torn.hframe").write_bytes(b"PK\x03\x04 torn")
    return tmp_path


def run(*arguments, folder):
    command = [sys.executable, "-m", "hidden_frame.cli", *arguments]
    return subprocess.run(command, capture_output=True, text=True, cwd=folder)


NAMES = ("may.hframe", "torn.hframe", "june.hframe", "july.hframe")


def test_every_file_is_exported_and_the_one_that_fails_costs_itself_alone(issues):
    ended = run("export", "--each", *NAMES, "--out", "out-{name}.pdf", "--jobs", "2", "--json",
                folder=issues)  # fmt: skip
    rows = {row["file"]: row for row in map(json.loads, ended.stdout.splitlines())}
    assert ended.returncode == 1 and set(rows) == set(NAMES)
    assert [rows[n]["ok"] for n in NAMES] == [True, False, True, True]
    assert "damaged" in rows["torn.hframe"]["said"][0] and not rows["torn.hframe"]["out"]
    for number, name in enumerate(("may", "june", "july"), 1):
        assert len(PdfReader(issues / f"out-{name}.pdf").pages) == number
    assert not (issues / "out-torn.pdf").exists()


def test_a_script_runs_on_every_file_and_one_that_kills_its_process_is_told(issues):
    script = issues / "rename.py"
    script.write_text(
        "import os, sys\n"
        "if 'june' in sys.argv[1]: os._exit(9)\n"
        "book.set_title(book.publication.title + ' issue')\n"
        "book.save(sys.argv[1])\n"
    )
    ended = run("run", "rename.py", "--each", "may.hframe", "june.hframe", "july.hframe",
                folder=issues)  # fmt: skip
    lines = ended.stdout.splitlines()
    assert ended.returncode == 1 and lines[-1] == "2 files done, 1 failed."
    (failed,) = [line for line in lines if "failed:" in line]
    assert failed.startswith("june.hframe failed: ") and "(9)" in failed
    titles = [load(issues / f"{n}.hframe").publication.title for n in ("may", "june", "july")]
    assert titles == ["May issue", "June", "July issue"]


def test_a_cluster_of_two_workers_does_the_same(issues):
    """Dask's own local cluster, with workers in processes of their own."""
    from distributed import Client, LocalCluster

    with LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None) as cluster:
        with Client(cluster) as client:
            assert len(client.scheduler_info()["workers"]) == 2
        files = [str(issues / name) for name in NAMES]
        ended = run("export", "--each", *files, "--scheduler", cluster.scheduler_address, "--json",
                    folder=issues)  # fmt: skip
    rows = [json.loads(line) for line in ended.stdout.splitlines()]
    assert sorted((row["file"], row["ok"]) for row in rows) == sorted(
        (file, "torn" not in file) for file in files
    ), ended.stderr
    assert len(PdfReader(issues / "july.pdf").pages) == 3


def test_a_scheduler_that_is_not_there_is_one_sentence(issues):
    ended = run("export", "--each", "may.hframe", "--scheduler", "tcp://127.0.0.1:9",
                folder=issues)  # fmt: skip
    assert ended.returncode == 1
    assert "There is no Dask scheduler at “tcp://127.0.0.1:9”" in ended.stderr
    assert len(ended.stderr.strip().splitlines()) == 1 and not (issues / "may.pdf").exists()


class _Losing(ThreadPoolExecutor):
    """An executor whose workers are lost now and then."""

    def submit(self, function, task):
        if "lost" in task.file:
            future = Future()
            future.set_exception(ConnectionError("the worker has gone"))
            return future
        return super().submit(lambda t: Outcome(t.file, True, t.out, 0.0, ()), task)


@given(st.lists(st.sampled_from(["a", "lost", "b"]), max_size=8))
def test_a_worker_that_is_lost_is_an_outcome_and_none_goes_missing(names):
    tasks = [Task(f"{name}-{n}", ()) for n, name in enumerate(names)]
    with _Losing(2) as pool:
        found = list(outcomes(tasks, pool))
    assert sorted(o.file for o in found) == sorted(t.file for t in tasks)
    assert all(o.ok == ("lost" not in o.file) for o in found)
    assert all("worker has gone" in o.said[0] for o in found if not o.ok)


def test_what_can_not_be_done_is_said_before_anything_is():
    with pytest.raises(Refusal, match="no file to go through"):
        checked([], [])
    with pytest.raises(Refusal, match="Several files would be written"):
        checked(["a", "b"], ["one.pdf", "one.pdf"])
    for pattern in ("{title}.pdf", "{}.pdf", "{name.pdf"):
        with pytest.raises(Refusal, match="not a pattern for names"):
            named(pattern, "may.hframe")


def test_one_that_does_not_say_why_it_ended_is_told_all_the_same(tmp_path):
    script = tmp_path / "silent.py"
    script.write_text("raise SystemExit(3)\n")
    outcome = done(Task("-", ("run", str(script))))
    assert not outcome.ok and "(3)" in outcome.said[-1] and not outcome.out
