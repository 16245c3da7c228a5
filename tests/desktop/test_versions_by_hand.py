"""Earlier versions in the real window: kept by saving, told, shown, opened beside."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QLabel

from hidden_frame.desktop.dialogs.desk_settings import DeskSettings
from hidden_frame.desktop.dialogs.versions import VersionsDialog
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.edit.about import set_title
from hidden_frame.edit.pages.order import delete_pages
from hidden_frame.storage import versions
from hidden_frame.storage.format import save


@pytest.fixture
def saved(hands, demo, tmp_path, monkeypatch):
    """Saved twice: as the demo is, and with another title and a page less."""
    monkeypatch.setattr(versions, "user_data_path", lambda _: tmp_path / "data")
    hands.demo = demo
    hands.path = tmp_path / "almanac.hframe"
    assert hands.window.files._save(hands.path)
    page = hands.page(10)
    hands.session.edit("title", lambda p: set_title(p, "Second"))
    hands.session.edit("delete", lambda p: delete_pages(p, [page]))
    hands.window.keeper.wait()
    assert hands.window.files._save(hands.path)
    hands.window.keeper.wait()
    return hands


def dialog(hands, qtbot):
    opened = []
    made = VersionsDialog(hands.session, hands.path, lambda *o: opened.append(o), hands.window)
    qtbot.addWidget(made)
    return made, opened


def test_each_save_is_a_version_that_says_what_differs_and_opens_beside(saved, qtbot):
    shown, opened = dialog(saved, qtbot)
    rows = [shown.list.topLevelItem(n).text(1) for n in range(shown.list.topLevelItemCount())]
    assert rows == ["2", "0"] and "Nothing has changed since" in shown.told.text()
    shown.list.setCurrentItem(shown.list.topLevelItem(1))
    assert "page 4 gone" in shown.told.text() and "its title" in shown.told.text()
    assert "gone" in {d.how for d in shown.pages.shown}
    assert any(not label.pixmap().isNull() for label in shown.pages.findChildren(QLabel))
    shown.beside.click()
    ((publication, blobs, called),) = opened
    assert called.startswith("almanac.hframe as of ")
    assert publication.title == "Night Sky Almanac" and len(blobs) == len(publication.pictures)
    assert saved.publication.title == "Second"


def test_a_version_is_taken_back_as_one_step(saved, qtbot):
    shown, _ = dialog(saved, qtbot)
    assert not shown.back.isEnabled()  # it is what there is
    shown.list.setCurrentItem(shown.list.topLevelItem(1))
    now = saved.publication
    shown.back.click()
    assert (
        saved.publication.title == "Night Sky Almanac" and "Undo brings back" in saved.notices[-1]
    )
    assert saved.publication.next_id >= now.next_id
    saved.do("undo")
    assert saved.publication is now


def test_the_window_of_a_version_says_which_it_is(saved, qapp, qtbot):
    windows = Windows(qapp)
    window = windows.open(*saved.demo, saved.path)
    window.files.show_new(*saved.demo, "almanac.hframe as of Monday")
    beside = windows.open_ones[1]
    assert "almanac.hframe as of Monday" in beside.windowTitle()
    for each in (window, beside):
        each.files.may_leave = lambda: True
        each.close()


def test_a_version_that_was_looked_at_is_let_go_of(saved, monkeypatch, qapp):
    monkeypatch.setattr(VersionsDialog, "exec", lambda dialog: 0)
    saved.do("versions")
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
    assert saved.window.findChildren(VersionsDialog) == []


def test_what_a_file_held_before_its_first_save_here_is_a_version_too(saved, demo, qtbot):
    other = saved.path.with_name("other.hframe")
    save(other, *demo)
    saved.session.replace_all(*demo, other)
    saved.session.edit("title", lambda p: set_title(p, "Third"))
    assert saved.window.files._save(other)
    saved.window.keeper.wait()
    found = [versions.opened_version(v).publication.title for v in versions.versions_of(other)]
    assert found == ["Third", "Night Sky Almanac"]


def test_a_damaged_version_is_told(saved, qtbot):
    for version in versions.versions_of(saved.path):
        version.kept.write_bytes(b"broken")
    shown, _ = dialog(saved, qtbot)
    assert "damaged" in shown.told.text() and not shown.beside.isEnabled()


def test_before_the_first_save_there_are_none(hands, qtbot):
    hands.do("versions")
    assert "Save first" in hands.notices[-1]


def test_the_room_for_versions_is_set(hands, qtbot):
    asked = DeskSettings(hands.session)
    qtbot.addWidget(asked)
    asked.versions.setText("50 MB")
    asked.ok.click()
    assert settings().now.versions_mb == 50
