"""Undo goes back to the beginning, however many steps there were, as long as memory lasts."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.desktop.state import session as session_module
from hidden_frame.desktop.state.memory_left import memory_is_short
from hidden_frame.edit.about import set_title
from hidden_frame.edit.history import History, record, redo, shortened, undo


def test_thousands_of_steps_are_taken_back(small):
    history = History.of(small)
    for n in range(5_000):
        history = record(history, set_title(history.now, f"Title {n}"), "title")
    for _ in range(5_000):
        history = undo(history)
    assert history.now is small and not history.past
    for _ in range(5_000):
        history = redo(history)
    assert history.now.title == "Title 4999"


def test_what_is_left_of_a_shortened_history_are_its_latest_steps(small):
    history = History.of(small)
    for n in range(10):
        history = record(history, replace(history.now, title=f"T{n}"), "title")
    short = shortened(history, 3)
    assert [s.publication.title for s in short.past] == ["T6", "T7", "T8"]
    assert short.now is history.now and shortened(history, 99) is history
    assert not shortened(history, 0).past


def test_where_memory_is_short_half_the_steps_are_left_and_it_is_told(hands, monkeypatch):
    monkeypatch.setattr(session_module, "_LOOK", 5)
    for n in range(9):
        hands.session.edit("title", lambda p, n=n: set_title(p, f"T{n}"))
    assert len(hands.session.history.past) == 9
    monkeypatch.setattr(session_module, "memory_is_short", lambda: True)
    hands.session.edit("title", lambda p: set_title(p, "T9"))
    assert len(hands.session.history.past) == 5
    assert "undo now goes back 5 steps" in hands.notices[-1]
    assert hands.publication.title == "T9"


def test_memory_is_read_as_the_system_tells_it(tmp_path):
    told = tmp_path / "meminfo"
    for left, short in ((50, True), (900, False)):
        told.write_text(f"MemTotal:  1000 kB\nMemFree: 1 kB\nMemAvailable:  {left} kB\n")
        assert memory_is_short(told) == short
    told.write_text("nothing of the kind")
    assert not memory_is_short(told) and not memory_is_short(tmp_path / "none")
