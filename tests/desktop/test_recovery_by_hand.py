"""Work is kept while one works, and offered after a crash, in the real windows."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog
from hidden_frame.desktop.dialogs.left import LeftDialog
from hidden_frame.desktop.start.left import LeftList, in_words
from hidden_frame.desktop.start.window import StartWindow
from hidden_frame.desktop.windows import Windows
from hidden_frame.edit.about import set_title
from hidden_frame.storage import recovery
from hidden_frame.storage.format import load, save
from hidden_frame.storage.recovery import About, Journal, left_behind
from hidden_frame.storage.stamps import stamp_of


@pytest.fixture(autouse=True)
def root(tmp_path, monkeypatch):
    """A recovery folder of each test’s own."""
    monkeypatch.setattr(recovery, "user_state_path", lambda _: tmp_path)
    return tmp_path / "recovery"


def retitle(hands, title):
    assert hands.session.edit("title", lambda p: set_title(p, title))


def look(hands):
    hands.window.keeper.look()
    hands.window.keeper.wait()


def test_each_change_is_kept_and_a_normal_end_leaves_nothing(hands, root):
    look(hands)
    assert not root.exists()  # nothing was done yet
    retitle(hands, "One")
    retitle(hands, "Two")
    look(hands)
    (folder,) = root.glob("*-*")
    assert b'"steps":2' in (folder / "about.json").read_bytes()
    assert (folder / "first.png").read_bytes().startswith(b"\x89PNG")
    hands.window.close()
    assert list(root.glob("*-*")) == []


def test_what_is_saved_is_kept_no_longer(hands, root, tmp_path):
    retitle(hands, "One")
    look(hands)
    assert hands.window.files._save(tmp_path / "a.hframe")
    look(hands)
    assert not list(root.glob("*-*/publication.json"))
    retitle(hands, "Two")
    look(hands)
    assert b'"steps":1' in next(root.glob("*-*/about.json")).read_bytes()
    assert list(root.glob("*-*/first.png"))  # it went with what was kept before


def test_a_disk_that_takes_nothing_is_told_once(hands, root, monkeypatch):
    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Journal, "_open", full)
    for title in ("One", "Two", "Three"):
        retitle(hands, title)
        look(hands)
    assert len([n for n in hands.notices if "No space left" in n]) == 1


def crashed(demo, root):
    journal = Journal(root)
    journal.write(set_title(demo[0], "Tide tables"), demo[1], About("Tide tables", "", 37))
    journal.abandon()


def test_the_start_window_tells_and_goes_on_with_it(demo, dressed, qapp, qtbot, root):
    crashed(demo, root)
    windows = Windows(qapp)
    start = windows.show_start()
    qtbot.addWidget(start)
    (row,) = start.left.rows
    words = [label.text() for label in row[1].findChildren(type(start.problem)) if label.text()]
    assert (
        words[0] == "“Tide tables” was not closed properly" and "37 steps, never saved" in words[1]
    )
    QTest.mouseClick(row[2], Qt.MouseButton.LeftButton)
    (window,) = windows.open_ones
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    assert window.session.publication.title == "Tide tables" and window.session.unsaved
    assert window.session.blobs == {p.hash: demo[1][p.hash] for p in demo[0].pictures}
    # What was left is now kept by this window, and by nobody else.
    assert left_behind() == [] and len(list(root.glob("*-*/publication.json"))) == 1


def test_work_goes_back_to_a_file_that_changed_since_only_when_asked(
    demo, dressed, qapp, qtbot, root, tmp_path, monkeypatch
):
    path = tmp_path / "a.hframe"
    save(path, *demo)
    journal = Journal(root)
    about = About("Mine", str(path), 3, stamp=stamp_of(path))
    journal.write(set_title(demo[0], "Mine"), demo[1], about)
    journal.abandon()
    window = Windows(qapp).open_left(left_behind()[0])
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    assert window.files.save() and load(path).publication.title == "Mine"
    window.session.edit("title", lambda p: set_title(p, "Mine again"))
    window.keeper.look()
    window.keeper.wait()
    window.keeper.journal.abandon()
    save(path, set_title(demo[0], "Theirs"), demo[1])
    other = Windows(qapp).open_left(left_behind()[0])
    qtbot.addWidget(other, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    asked = []

    monkeypatch.setattr(ChangedFileDialog, "exec", lambda dialog: asked.append(dialog.theirs))
    assert not other.files.save() and asked and load(path).publication.title == "Theirs"


def test_it_is_discarded_by_a_second_press(demo, dressed, qtbot, root):
    crashed(demo, root)
    shown = LeftList()
    qtbot.addWidget(shown)
    away = shown.rows[0][3]
    QTest.mouseClick(away, Qt.MouseButton.LeftButton)
    assert away.text() == "Discard for good" and len(left_behind()) == 1
    QTest.mouseClick(away, Qt.MouseButton.LeftButton)
    assert left_behind() == [] and shown.rows == []


def test_damaged_work_is_refused_in_the_start_window(demo, dressed, qapp, qtbot, root):
    crashed(demo, root)
    work = next(root.glob("*-*/publication.json"))
    work.write_bytes(work.read_bytes()[:1000])
    windows = Windows(qapp)
    start = windows.show_start()
    qtbot.addWidget(start)
    QTest.mouseClick(start.left.rows[0][2], Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert windows.open_ones == [] and "Tide tables" in start.problem.text()
    assert len(left_behind()) == 1


def test_words_of_what_was_left():
    assert in_words(About("T", "/a/notes.hframe", 1, 0.0)).endswith(
        "1 step after the last save of notes.hframe"
    )
    assert StartWindow(lambda *_: None).left.isHidden()


def test_work_left_behind_is_told_and_found_from_a_window_that_is_open(
    demo, dressed, qapp, qtbot, root, monkeypatch
):
    """Whoever opens a file by its icon never sees the start window."""
    crashed(demo, root)
    windows = Windows(qapp)
    window = windows.open(*demo, None)
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    told = []
    window.session.noticed.connect(told.append)
    windows.tell_left(window)
    assert told == [
        "“Tide tables” was not closed properly; Publication › Work left behind… goes on with it."
    ]
    shown = []

    def execute(dialog):
        shown.append(dialog.told.isVisibleTo(dialog))
        if dialog.left.rows:
            dialog.left.rows[0][2].click()
        return 0

    monkeypatch.setattr(LeftDialog, "exec", execute)
    window.commands["left behind"].trigger()
    other = windows.open_ones[1]
    qtbot.addWidget(other, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    assert other.session.publication.title == "Tide tables" and other.session.unsaved
    window.commands["left behind"].trigger()
    assert shown == [False, True]  # there is none any more, and it says so


def test_work_left_behind_never_takes_the_place_of_an_open_file(
    demo, dressed, qapp, qtbot, root, tmp_path
):
    path = tmp_path / "a.hframe"
    save(path, *demo)
    journal = Journal(root)
    journal.write(set_title(demo[0], "Mine"), demo[1], About("Mine", str(path), 3))
    journal.abandon()
    windows = Windows(qapp)
    first = windows.open(*demo, path)
    second = windows.open_left(left_behind()[0])
    for window in (first, second):
        window.files.may_leave = lambda: True
        qtbot.addWidget(window)
    assert first is not second and not first.session.recovered
    assert second.session.publication.title == "Mine" and second.session.recovered
