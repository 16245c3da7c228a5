"""A file that somebody else changed is not overwritten without a question."""

from __future__ import annotations

import os
import threading
import time
from datetime import datetime

import msgspec
import pytest
from msgspec.structs import replace
from PySide6.QtCore import QEvent, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel, QMessageBox, QPushButton

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.dialogs.changed_file import ChangedFileDialog
from hidden_frame.desktop.files import saving
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.edit.about import set_title
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.pages.order import add_pages, delete_pages
from hidden_frame.interact.words.compared import compared, differing_pages
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages
from hidden_frame.storage.format import load, save
from hidden_frame.storage.holding import Holder
from hidden_frame.storage.versions import opened_version, versions_of


@pytest.fixture
def saved(hands, tmp_path):
    """The demo, saved, then changed here."""
    hands.path = tmp_path / "almanac.hframe"
    assert hands.window.files._save(hands.path)
    hands.session.edit("title", lambda p: set_title(p, "Mine"))
    return hands


def theirs(hands, title="Theirs"):
    publication = set_title(hands.publication, title)
    save(hands.path, publication, hands.session.blobs)


def answering(monkeypatch, button, seen=None):
    """Presses a button of the question by its words."""

    def execute(box):
        if seen is not None:
            seen.append(f"{box.text()} {box.informativeText()}")
        chosen = next(b for b in box.buttons() if b.text().replace("&", "") == button)
        monkeypatch.setattr(QMessageBox, "clickedButton", lambda _: chosen)
        return 0

    monkeypatch.setattr(QMessageBox, "exec", execute)


def choosing(monkeypatch, button, seen=None, look=lambda dialog: None):
    """The same for the question about a file that has changed, pressed by the mouse."""

    def execute(dialog):
        dialog.show()
        if seen is not None:
            seen.append(" ".join(label.text() for label in dialog.findChildren(QLabel)))
        look(dialog)
        buttons = dialog.findChildren(QPushButton)
        QTest.mouseClick(next(b for b in buttons if b.text() == button), Qt.MouseButton.LeftButton)
        assert not dialog.isVisible()

    monkeypatch.setattr(ChangedFileDialog, "exec", execute)


def test_an_unchanged_file_is_saved_without_a_question(saved, monkeypatch):
    choosing(monkeypatch, "nothing of this name")
    saved.do("save")
    assert load(saved.path).publication.title == "Mine"
    saved.session.edit("title", lambda p: set_title(p, "Mine again"))
    saved.do("save")
    assert load(saved.path).publication.title == "Mine again"


def test_theirs_stays_until_it_is_said_otherwise(saved, monkeypatch):
    theirs(saved)
    seen = []
    choosing(monkeypatch, "Cancel", seen)
    saved.do("save")
    assert load(saved.path).publication.title == "Theirs" and saved.session.unsaved
    assert "almanac.hframe” was changed by somebody else" in seen[0]
    assert "Different in their version: its title." in seen[0]
    choosing(monkeypatch, "Overwrite theirs")
    saved.do("save")
    assert load(saved.path).publication.title == "Mine" and not saved.session.unsaved


def test_saved_under_another_name_both_are_there(saved, monkeypatch, tmp_path):
    theirs(saved)
    choosing(monkeypatch, "Save as…")
    other = tmp_path / "mine.hframe"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(other), ""))
    saved.do("save")
    assert load(saved.path).publication.title == "Theirs"
    assert load(other).publication.title == "Mine" and saved.session.path == other


def test_theirs_is_taken_and_mine_stays_as_a_version(saved, monkeypatch):
    theirs(saved)
    choosing(monkeypatch, "Take theirs")
    page = saved.page(9)
    saved.session.show_page(page)
    saved.do("save")
    saved.window.keeper.wait()
    assert saved.publication.title == "Theirs" and not saved.session.unsaved
    assert saved.session.page_id == page  # one goes on where one was
    assert kept(saved)[0] == "Mine"


def test_theirs_is_overwritten_and_stays_as_a_version(saved, monkeypatch):
    theirs(saved)
    choosing(monkeypatch, "Overwrite theirs")
    saved.do("save")
    saved.window.keeper.wait()
    assert load(saved.path).publication.title == "Mine" and kept(saved)[:2] == ["Mine", "Theirs"]


def kept(hands):
    return [opened_version(v).publication.title for v in versions_of(hands.path)]


def test_what_was_asked_about_is_let_go_of(saved, monkeypatch, qapp):
    """The dialog holds all that the other file does, its pictures on the disk as well."""
    theirs(saved)
    choosing(monkeypatch, "Cancel")
    saved.do("save")
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    assert saved.window.findChildren(ChangedFileDialog) == []


@pytest.mark.parametrize("button", ["Cancel", "Write it again", "Save as…"])
def test_a_file_that_is_gone_is_asked_about(saved, monkeypatch, tmp_path, button):
    os.unlink(saved.path)
    seen, other = [], tmp_path / "other.hframe"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(other), ""))
    choosing(monkeypatch, button, seen)
    saved.do("save")
    assert "no longer there: it was moved or deleted" in seen[0]
    assert "Take theirs" not in seen[0] and saved.session.unsaved is (button == "Cancel")
    there = {"Cancel": [], "Write it again": [saved.path], "Save as…": [other]}[button]
    assert list(tmp_path.glob("*.hframe")) == there


def test_a_file_that_is_broken_is_told(saved, monkeypatch):
    saved.path.write_bytes(b"something else")
    seen = []
    choosing(monkeypatch, "Cancel", seen)
    saved.session.edit("title", lambda p: set_title(p, "More"))
    saved.do("save")
    assert "not a Hidden Frame publication" in seen[0]
    assert saved.path.read_bytes() == b"something else"


def test_pages_that_differ_are_shown_above_each_other(saved, monkeypatch):
    """One that was added, one that is gone in theirs, and what looks different for it."""
    pages = all_pages(saved.publication)
    more, _ = add_pages(saved.publication, saved.publication.sections[1].id, 1, 1)
    save(saved.path, delete_pages(more, [pages[-1].id]), saved.session.blobs)
    looked = []

    def look(dialog):
        looked.extend(dialog.pages.shown)
        pixmaps = [label.pixmap() for label in dialog.pages.findChildren(QLabel)]
        assert sum(not p.isNull() for p in pixmaps) == len(looked) * 2 - 2

    choosing(monkeypatch, "Cancel", None, look)
    saved.do("save")
    hows = [d.how for d in looked]
    assert hows.count("added") == 1 and hows.count("gone") == 1 and len(looked) <= 4


def test_pages_that_look_different_are_found_through_their_master(demo):
    publication, _ = demo
    master = next(m for m in publication.masters if m.items)
    item = master.items[0]
    moved = change_items(publication, master.id, {item.id: {"x": item.x + 30}})
    mine, theirs = (Composer().compose(p) for p in (publication, moved))
    found = differing_pages(mine, theirs, lambda n: False)
    assert found and {d.how for d in found} == {"changed"}
    carry = [page.id for page in all_pages(publication)
             if any(p.item_id == item.id for p in mine.scene(page.id).placed)]  # fmt: skip
    assert {d.page_id for d in found} <= set(carry) and len(found) > len(carry) / 2
    assert differing_pages(mine, Composer().compose(publication), lambda n: False) == []
    assert len(differing_pages(mine, theirs, lambda n: n >= 1)) == 1


def test_a_file_that_is_open_comes_to_the_front(demo, dressed, qapp, qtbot, tmp_path):
    path, link = tmp_path / "a.hframe", tmp_path / "b.hframe"
    save(path, *demo)
    link.symlink_to(path)
    windows = Windows(qapp)
    first = windows.open(*demo, path)
    qtbot.addWidget(first, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    assert windows.open(*demo, link) is first and len(windows.open_ones) == 1


def test_what_differs_is_said_by_folios(demo):
    publication = demo[0]
    pages = all_pages(publication)
    assert compared(publication, publication) == "nothing"
    gone = delete_pages(publication, [pages[9].id, pages[10].id])
    assert compared(publication, gone).startswith("pages 4, 5 gone")
    assert compared(gone, publication).startswith("pages 4, 5 added")
    more = add_pages(publication, publication.sections[1].id, 1, 2)
    told = compared(publication, more[0])
    assert "pages" in told and "added" in told
    assert (
        compared(publication, replace(publication, colours=publication.colours[:-1])) == "colours"
    )


def test_work_goes_on_while_a_save_is_written(saved, monkeypatch, qtbot):
    """What is typed meanwhile is not in the file, and counts as not saved."""
    gate = threading.Event()
    real = saving.save

    def slow(*arguments):
        assert gate.wait(20)
        real(*arguments)

    monkeypatch.setattr(saving, "save", slow)
    saver = saved.window.files.saver
    saved.window.commands["save"].trigger()
    assert saver.busy
    saved.session.edit("title", lambda p: set_title(p, "Meanwhile"))
    qtbot.wait(400)  # nothing moves, and yet what can wait does: both share one lock
    assert not saved.session.rests
    gate.set()
    qtbot.waitUntil(lambda: not saver.busy, timeout=10_000)
    saved.window.keeper.wait()
    qtbot.waitUntil(lambda: saved.session.rests, timeout=10_000)
    assert load(saved.path).publication.title == "Mine"
    assert saved.session.unsaved and saved.session.ahead() == 1


def test_saved_again_meanwhile_the_last_value_is_in_the_file(saved, qtbot):
    saver = saved.window.files.saver
    saved.window.commands["save"].trigger()
    saved.session.edit("title", lambda p: set_title(p, "Last"))
    saved.window.commands["save"].trigger()
    qtbot.waitUntil(lambda: not saver.busy, timeout=10_000)
    assert load(saved.path).publication.title == "Last" and not saved.session.unsaved


def test_a_failed_save_leaves_the_work_unsaved(saved, monkeypatch, qtbot):
    def full(*_):
        raise Refusal("“almanac.hframe” could not be written (No space left on device).")

    monkeypatch.setattr(saving, "save", full)
    saved.do("save")
    assert "No space left" in saved.notices[-1] and saved.session.unsaved
    assert saved.notices[-1].endswith("Your work is kept for now.")
    kept = saved.window.keeper.journal.folder / "publication.json"
    assert "Mine" in kept.read_text(encoding="utf-8")
    assert not saved.window.files.save()


@pytest.mark.parametrize(("button", "copy"), [("Open a copy", True), ("Open it here too", False)])
def test_a_file_that_another_process_has_open_is_asked_about(
    demo, dressed, qapp, qtbot, tmp_path, monkeypatch, button, copy
):
    path, seen = tmp_path / "a.hframe", []
    save(path, *demo)
    holder = Holder("mira", "tern", 812, time.time())
    (tmp_path / ".a.hframe.open").write_bytes(msgspec.json.encode(holder))
    answering(monkeypatch, button, seen)
    window = Windows(qapp).open(*demo, path)
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    assert (window.session.path is None) is copy
    assert "by mira on tern (process 812)" in seen[0] and f"{datetime.now():%H:}" in seen[0]


def test_an_open_file_is_said_to_be_open_until_its_window_closes(saved):
    saved.window.keeper.look()
    beside = saved.path.with_name(f".{saved.path.name}.open")
    assert beside.exists()
    saved.window.files.may_leave = lambda: True
    saved.window.close()
    assert not beside.exists()
