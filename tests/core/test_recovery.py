"""Work that is kept for a crash comes back whole, and nobody else's is touched."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import msgspec
import pytest
from benchmarks.hostile.killed import KEEPING
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.demo.book import long_book
from hidden_frame.edit.about import set_title
from hidden_frame.edit.new import new_publication
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.publication import Setup
from hidden_frame.storage import recovery
from hidden_frame.storage.format import load, save
from hidden_frame.storage.pieces import pieces
from hidden_frame.storage.recovery import (
    AboutWork,
    Journal,
    Saving,
    discard,
    left_behind,
    recovered,
)

ABOUT = AboutWork("Notes", "/home/somebody/notes.hframe", 3)


@pytest.fixture
def root(tmp_path):
    return tmp_path / "recovery"


def test_pieces_are_the_value_and_none_of_them_is_long(demo):
    for publication in (demo[0], long_book(chapters=3)):
        made = list(pieces(publication))
        assert msgspec.json.decode(b"".join(made), type=type(publication)) == publication
        whole = len(msgspec.json.encode(publication))
        assert max(map(len, made)) < max(whole / 4, 40_000)


@given(st.sets(st.sampled_from(["stories", "masters", "sections", "pictures", "rules"])))
@settings(suppress_health_check=[HealthCheck.function_scoped_fixture], max_examples=20)
def test_pieces_of_publications_that_lack_parts(demo, without):
    publication = replace(demo[0], **dict.fromkeys(without, ()))
    made = msgspec.json.decode(b"".join(pieces(publication)), type=type(publication))
    assert made == publication


def test_what_is_kept_comes_back_with_its_pictures_once_its_process_is_gone(demo, root):
    journal = Journal(root)
    journal.write(*demo, ABOUT, b"png")
    assert left_behind(root) == []
    journal.abandon()
    (left,) = left_behind(root)
    assert (left.about.title, left.about.steps, left.first) == ("Notes", 3, b"png")
    assert abs(left.about.when - time.time()) < 60
    back = recovered(left)
    assert back.publication == demo[0] and back.warnings == []
    assert back.blobs == {p.hash: demo[1][p.hash] for p in demo[0].pictures}


def test_a_picture_that_is_gone_or_broken_is_told_and_the_rest_comes(demo, root):
    journal = Journal(root)
    journal.write(*demo, ABOUT)
    journal.abandon()
    first, second = sorted((root / "pictures").iterdir())[:2]
    first.unlink()
    second.write_bytes(b"else")
    back = recovered(left_behind(root)[0])
    assert back.publication == demo[0] and len(back.warnings) == 2


def test_a_journal_cut_short_is_refused_in_a_sentence_and_stays(small, root):
    journal = Journal(root)
    journal.write(small, {}, ABOUT)
    journal.abandon()
    work = next(root.glob("*-*")) / "publication.json"
    work.write_bytes(work.read_bytes()[:-200])
    with pytest.raises(Refusal, match="Notes"):
        recovered(left_behind(root)[0])
    assert len(left_behind(root)) == 1


def test_a_normal_end_and_discarding_leave_nothing(demo, root):
    one, other = Journal(root), Journal(root)
    one.write(*demo, ABOUT)
    other.write(*demo, AboutWork("Other", "", 1))
    one.close()
    assert len(list((root / "pictures").iterdir())) == len(demo[0].pictures)  # the other’s too
    other.abandon()
    discard(left_behind(root)[0])
    assert left_behind(root) == [] and list((root / "pictures").iterdir()) == []


def test_what_was_saved_is_not_offered(small, root):
    journal = Journal(root)
    journal.write(small, {}, ABOUT)
    journal.clear()
    journal.abandon()
    assert left_behind(root) == []


def test_a_disk_that_takes_nothing_is_told(small, root, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(recovery.Journal, "_open", full)
    with pytest.raises(Refusal, match="No space left"):
        Journal(root).write(small, {}, ABOUT)


def test_killed_at_any_moment_the_last_step_that_was_kept_comes_back(root):
    for turn in range(6):
        child = subprocess.Popen([sys.executable, "-c", KEEPING, str(root)],
                                 stdout=subprocess.PIPE, text=True)  # fmt: skip
        for _ in range(2 + turn):
            child.stdout.readline()
        time.sleep(0.003 * turn)
        os.kill(child.pid, signal.SIGKILL)
        said = [int(line) for line in child.stdout.read().split()] or [2 + turn]
        child.wait()
        (left,) = left_behind(root)
        back = recovered(left)
        kept = int(back.publication.title.removeprefix("Step "))
        assert max(said[-1], 2 + turn) <= kept <= said[-1] + 1
        assert back.warnings == []
        discard(left)


def test_the_title_of_the_work_is_that_of_the_publication(small, root):
    journal = Journal(root)
    journal.write(set_title(small, "Tide tables"), {}, AboutWork("Tide tables", "", 1))
    journal.abandon()
    assert recovered(left_behind(root)[0]).publication.title == "Tide tables"


def session_of(tmp_path):
    """What a window does for its work, by hand: a journal, its numbers, and its file."""
    journal, path, count = Journal(tmp_path / "recovery"), tmp_path / "a.hframe", [0]

    def keep(publication):
        count[0] += 1
        journal.write(publication, {}, AboutWork(publication.title, str(path), 1, number=count[0]))

    def store(publication, before_rename=None, number=None):
        number = count[0] if number is None else number

        def about_to(digest):
            journal.saving(Saving(str(path), digest, number))
            if before_rename is not None:
                before_rename()

        save(path, publication, {}, None, about_to)

    return journal, path, keep, store, count


@given(st.lists(st.sampled_from(["edit", "keep", "save", "save while kept", "clear"]), max_size=12))
@settings(deadline=None, max_examples=60)
def test_only_work_that_is_newer_than_the_file_is_offered(acts):
    """A model of a session that is killed after any of its acts: what is offered is what the file
    does not have, and nothing that it has."""
    with tempfile.TemporaryDirectory() as folder:
        journal, path, keep, store, count = session_of(Path(folder))
        now = new_publication("T0", Setup(trim=Size(200, 200)), 1)
        store(now)
        filed, kept, edits = now, None, 0
        for act in acts:
            if act == "edit":
                edits += 1
                now = set_title(now, f"T{edits}")
            elif act == "keep" and now is not filed and now is not kept:
                keep(now)
                kept = now
            elif act == "save":
                store(now)
                filed = now
            elif act == "save while kept":
                # Work goes on while it is written: the later work is kept before the rename.
                begun = now
                edits += 1
                now = set_title(now, f"T{edits}")

                def later(newer=now):
                    keep(newer)

                store(begun, later, number=count[0])
                filed, kept = begun, now
            elif act == "clear" and now is filed and kept is not None:
                journal.clear()
                kept = None
        journal.abandon()
        offered = left_behind(journal.root)
        newer = kept is not None and int(kept.title[1:]) > int(filed.title[1:])
        assert bool(offered) == newer
        assert load(path).publication.title == filed.title
        if offered:
            assert recovered(offered[0]).publication.title == kept.title


def test_work_is_offered_where_somebody_else_wrote_the_file_since(small, tmp_path):
    journal, path, keep, store, _ = session_of(tmp_path)
    store(small)
    keep(set_title(small, "Mine"))
    save(path, set_title(small, "Theirs"), {})
    journal.abandon()
    (left,) = left_behind(journal.root)
    assert recovered(left).publication.title == "Mine"


def test_a_clock_that_went_back_hides_no_work(small, tmp_path, monkeypatch):
    import time

    real = time.time()
    journal, path = Journal(tmp_path / "kept"), tmp_path / "a.hframe"
    save(path, small, {})
    monkeypatch.setattr(time, "time", lambda: real - 10 * 86_400)
    later = set_title(small, "Later")
    journal.write(later, {}, AboutWork("Later", str(path), 1, number=1))
    journal.abandon()
    (left,) = left_behind(tmp_path / "kept")
    assert recovered(left).publication == later
    monkeypatch.setattr(time, "time", lambda: real + 400 * 86_400)
    assert [one.about.title for one in left_behind(tmp_path / "kept")] == ["Later"]
