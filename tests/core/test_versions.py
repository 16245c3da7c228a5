"""Earlier versions are kept by content, thinned by their age, and come back whole."""

from __future__ import annotations

import os
from datetime import datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.edit.about import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.versions import (
    Version,
    keep_version,
    opened_version,
    versions_of,
    wanted,
)


@pytest.fixture
def kept(tmp_path):
    """Keeps versions of a file, each with a title of its own."""
    root, path = tmp_path / "versions", tmp_path / "a.hframe"

    def keep(demo, title, steps=1, most=10**10, other=None):
        publication = set_title(demo[0], title)
        keep_version(other or path, publication, demo[1], steps, most, root)
        return root, other or path

    return keep


def titles(path, root):
    return [opened_version(v).publication.title for v in versions_of(path, root)]


def test_versions_come_back_whole_the_latest_first_and_equal_pictures_are_kept_once(demo, kept):
    kept(demo, "One", 3)
    root, path = kept(demo, "Two", 5)
    assert titles(path, root) == ["Two", "One"]
    assert [v.steps for v in versions_of(path, root)] == [5, 3]
    back = opened_version(versions_of(path, root)[1])
    assert back.publication == set_title(demo[0], "One") and back.warnings == []
    assert len(list((root / "pictures").iterdir())) == len(demo[0].pictures) == len(back.blobs)


def test_all_of_the_last_hour_stay(small, kept):
    for n in range(13):
        root, path = kept((small, {}), f"Save {n}")
    assert titles(path, root) == [f"Save {n}" for n in range(12, -1, -1)]


times = st.lists(st.integers(0, 60 * 24 * 50), unique=True, max_size=80)


@given(times, st.integers(-90, 60 * 24 * 3))
def test_by_hour_and_day_by_a_naive_reading(minutes, later):
    """Each version by itself: is it the last of its day, of its hour, or of the last hour?"""
    start = datetime(2031, 3, 1)
    whens = [(start + timedelta(minutes=m)).timestamp() for m in minutes]
    now = max(whens, default=start.timestamp()) + 60 * later
    versions = [Version(Path(f"{w}"), w, 1) for w in whens]
    days = sorted({datetime.fromtimestamp(w).date() for w in whens})[-30:]

    def stays(when: float) -> bool:
        at = datetime.fromtimestamp(when)
        others = [datetime.fromtimestamp(w) for w in whens if w > when]
        last_of_day = not any(o.date() == at.date() for o in others)
        last_of_hour = not any((o.date(), o.hour) == (at.date(), at.hour) for o in others)
        age = now - when
        return (age <= 3_600 or (age <= 86_400 and last_of_hour)
                or (last_of_day and at.date() in days))  # fmt: skip

    found = wanted(versions, now)
    assert [v.when for v in found] == sorted((w for w in whens if stays(w)), reverse=True)


def test_all_together_take_no_more_than_is_said(demo, kept, tmp_path):
    for n in range(6):
        root, path = kept(demo, f"Save {n}")
    whole = sum(p.stat().st_size for p in root.rglob("*") if p.is_file())
    one = next(root.glob("*/*.json.z")).stat().st_size
    root, other = kept(demo, "Other", most=whole - one, other=tmp_path / "b.hframe")
    assert sum(p.stat().st_size for p in root.rglob("*") if p.is_file()) <= whole - one
    assert titles(other, root) == ["Other"] and titles(path, root)[0] == "Save 5"
    assert "Save 0" not in titles(path, root)
    assert len(opened_version(versions_of(other, root)[0]).blobs) == len(demo[0].pictures)


def test_files_have_versions_of_their_own_and_links_those_of_their_file(small, kept, tmp_path):
    root, path = kept((small, {}), "Mine")
    kept((small, {}), "Other", other=tmp_path / "b.hframe")
    path.write_bytes(b"")
    link = tmp_path / "link.hframe"
    os.symlink(path, link)
    assert titles(path, root) == titles(link, root) == ["Mine"]


def test_a_damaged_version_is_refused_and_the_others_come(small, kept):
    kept((small, {}), "One")
    root, path = kept((small, {}), "Two")
    latest = versions_of(path, root)[0]
    latest.kept.write_bytes(latest.kept.read_bytes()[:40])
    with pytest.raises(Refusal, match="version of"):
        opened_version(latest)
    assert opened_version(versions_of(path, root)[1]).publication.title == "One"


def test_a_clock_that_went_back_takes_nothing_that_was_just_kept(small, kept, monkeypatch):
    import time

    real = time.time()
    for n in range(6):
        root, path = kept((small, {}), f"Save {n}")
    whole = sum(p.stat().st_size for p in root.rglob("*") if p.is_file())
    for back in (3_600.0, 86_400.0, real - 1.0):  # the last is 1970, as without a battery
        monkeypatch.setattr(time, "time", lambda back=back: real - back)
        kept((small, {}), f"Back {back:.0f}", most=whole)
        assert f"Back {back:.0f}" in titles(path, root)
        assert "Save 5" in titles(path, root)
        assert sum(p.stat().st_size for p in root.rglob("*") if p.is_file()) <= whole
