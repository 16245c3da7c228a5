"""Work is kept while one works, and offered after a crash, in the real windows."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog
from hidden_frame.desktop.dialogs.left import LeftDialog
from hidden_frame.desktop.dialogs.left_cards import LeftList, in_words
from hidden_frame.desktop.dialogs.left_compared import LeftCompared
from hidden_frame.desktop.shell.start.window import StartWindow
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.edit.about import set_title
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.storage import recovery
from hidden_frame.storage.format import load, save
from hidden_frame.storage.recovery import AboutWork, Journal, left_behind
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
    journal.write(set_title(demo[0], "Tide tables"), demo[1], AboutWork("Tide tables", "", 37))
    journal.abandon()


def test_the_start_window_tells_and_goes_on_with_it(demo, dressed, qapp, qtbot, root):
    crashed(demo, root)
    windows = Windows(qapp)
    start = windows.show_start()
    qtbot.addWidget(start)
    (row,) = start.left.rows
    words = [label.text() for label in row[1].findChildren(type(start.problem)) if label.text()]
    assert (
        words[0] == "“Tide tables” was not closed normally" and "37 steps, never saved" in words[1]
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
    about = AboutWork("Mine", str(path), 3, stamp=stamp_of(path))
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
    assert in_words(AboutWork("T", "/a/notes.hframe", 1, 0.0)).endswith(
        "1 step after the last save of notes.hframe"
    )
    assert StartWindow(lambda *_: None).left.isHidden()


def told_at_opening(demo, qapp, qtbot):
    """The demo opened by its icon, and what its window says."""
    windows = Windows(qapp)
    window = windows.open(*demo, None)
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    told = []
    window.session.noticed.connect(told.append)
    windows.tell_left(window)
    return windows, window, told


def test_two_that_were_left_behind_are_told_in_one_sentence(demo, dressed, qapp, qtbot, root):
    crashed(demo, root)
    crashed(demo, root)
    _, _, told = told_at_opening(demo, qapp, qtbot)
    assert told == [
        "2 publications were not closed normally, “Tide tables” among them; Publication › Recover "
        "unsaved work… brings them back."
    ]


def test_work_left_behind_is_told_and_found_from_a_window_that_is_open(
    demo, dressed, qapp, qtbot, root, monkeypatch
):
    """Whoever opens a file by its icon never sees the start window."""
    crashed(demo, root)
    windows, window, told = told_at_opening(demo, qapp, qtbot)
    assert told == [
        "“Tide tables” was not closed normally; Publication › Recover unsaved work… brings it back."
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


def killed_while_writing(demo, root, path, hands_of):
    """A file, and a window in which one wrote a word and was killed."""
    save(path, *demo)
    window = hands_of(path)
    session = window.session
    page = all_pages(session.publication)[7].id
    session.show_page(page)
    view = session.composition.view(find_page(session.publication, page))
    frame = next(r.item.id for r in view.items if isinstance(r.item, TextFrame) and r.item.text)
    session.unlock(page, frame)
    session.edit_text(Editing(page, frame, session.side_of(page)))
    window.desk.text.caret = window.desk.text.anchor = (0, 1)
    QTest.keyClicks(window.desk, "Zz")
    window.keeper.look()
    window.keeper.wait()
    window.keeper.journal.abandon()
    return page, frame, window.session.publication


@pytest.fixture
def windows(dressed, qapp, qtbot):
    """All windows of a program, which close without a question."""
    made = Windows(qapp)
    yield made
    for window in [*made.open_ones]:
        window.files.may_leave = lambda: True
        window.close()


def opened(windows, path):
    found = load(path)
    return windows.open(found.publication, found.blobs, path)


def test_going_on_is_one_step_in_the_window_of_the_file_where_one_was(
    demo, windows, root, tmp_path, qtbot
):
    path = tmp_path / "a.hframe"
    page, frame, left = killed_while_writing(demo, root, path, lambda p: opened(windows, p))
    again = Windows(windows.app)
    other = again.open(*demo, None)
    window = opened(again, path)
    assert window.left_bar.isVisible() and not other.left_bar.isVisible()
    assert "1 step more" in window.left_bar.label.text()
    held = window.session.history.now
    QTest.mouseClick(window.left_bar.buttons["Recover it"], Qt.MouseButton.LeftButton)
    session = window.session
    assert session.history.now == left and session.unsaved and not window.left_bar.isVisible()
    assert session.page_id == page and session.editing.item_id == frame
    assert window.desk.text.caret == (0, 3) and len(again.open_ones) == 2
    QTest.keyClicks(window.desk, "y")
    window.commands["undo"].trigger()
    window.commands["undo"].trigger()
    assert session.history.now is held and not session.modified
    window.commands["redo"].trigger()
    assert window.files.save() and load(path).publication == left
    assert len(left_behind()) == 0
    for each in (window, other):
        each.files.may_leave = lambda: True
        each.close()


def test_work_is_compared_with_its_file_and_can_be_left(demo, windows, root, tmp_path, monkeypatch):
    path = tmp_path / "a.hframe"
    killed_while_writing(demo, root, path, lambda p: opened(windows, p))
    again = Windows(windows.app)
    window, seen = opened(again, path), []

    def execute(shown):
        seen.append((shown.told.text(), len(shown.pages.shown)))
        return shown.reject() or 0

    monkeypatch.setattr(LeftCompared, "exec", execute)
    held = window.session.history.now
    window.left_bar.buttons["Compare…"].click()
    assert seen[0][0].startswith("It differs from the file: ") and seen[0][1] == 1
    assert window.left_bar.isVisible() and window.session.history.now is held
    window.left_bar.buttons["Not now"].click()
    assert not window.left_bar.isVisible() and len(left_behind()) == 1  # nothing is thrown away
    monkeypatch.setattr(LeftCompared, "exec", lambda shown: shown.accept() or 1)
    window.left_bar.offer(left_behind()[0])
    window.left_bar.buttons["Compare…"].click()
    assert window.session.history.now != held and len(window.session.history.past) == 1
    assert left_behind() == []
    window.files.may_leave = lambda: True
    window.close()


def test_work_on_an_open_file_goes_into_its_window_and_work_on_none_has_its_own(
    demo, windows, root, tmp_path
):
    path = tmp_path / "a.hframe"
    save(path, *demo)
    for title, file in (("Mine", str(path)), ("Gone", str(tmp_path / "gone.hframe"))):
        journal = Journal(root)
        journal.write(set_title(demo[0], title), demo[1], AboutWork(title, file, 3))
        journal.abandon()
    first = windows.open(*demo, path)
    lefts = {left.about.title: left for left in left_behind()}
    assert windows.open_left(lefts["Mine"]) is first
    assert first.session.publication.title == "Mine" and len(first.session.history.past) == 1
    second = windows.open_left(lefts["Gone"])
    assert second is not first and second.session.recovered
    assert second.session.publication.title == "Gone"


def test_what_was_saved_a_moment_ago_is_not_offered_after_a_crash(hands, tmp_path):
    from hidden_frame.edit.about import set_title
    from hidden_frame.storage.recovery import left_behind

    keeper, saver, path = hands.window.keeper, hands.window.files.saver, tmp_path / "a.hframe"
    hands.session.edit("title", lambda p: set_title(p, "One"))
    keeper.look()
    keeper.wait()
    assert (keeper.journal.folder / "publication.json").is_file()
    saver.begin(path)
    saver.finish()
    keeper.wait()
    assert not (keeper.journal.folder / "publication.json").exists()
    keeper.journal.abandon()
    assert all(left.folder != keeper.journal.folder for left in left_behind())
