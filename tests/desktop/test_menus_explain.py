"""Menus: what is grey says why, what turns says what it will do, what one looks for is there."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.windows import Windows
from hidden_frame.edit.about import set_title
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import plain
from hidden_frame.model.lookup import all_pages, find_page, positions, stack_of
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import load, save

BOOK = settled(long_book(chapters=1))


def states(hands):
    """Ways in which a window may be when a menu is opened."""
    yield "as opened"
    hands.do("board")
    yield "board"
    hands.do("flatplan")
    yield "flatplan"
    hands.session.show_master(hands.publication.masters[0].id)
    yield "a master"
    hands.session.replace_all(new_publication("Bare", Setup(trim=TRIMS["A5"]), 1), {}, None)
    hands.app.processEvents()
    yield "bare"
    hands.open_story(BOOK)
    hands.desk.text.write_at(hands.story, (0, 0))
    yield "writing"


def test_every_entry_that_is_grey_says_why(hands):
    grey = set()
    for state in states(hands):
        hands.window.commands.refresh()
        for command in hands.window.commands.list:
            action = hands.window.commands[command.id]
            if action.isEnabled():
                assert action.toolTip() in ("", action.text()), command.id
                continue
            grey.add(command.id)
            assert action.toolTip().endswith((".", "list.")), (state, command.id)
    assert len(grey) > 60


def test_the_reason_is_read_in_the_status_line_too(hands):
    menu = hands.window.commands.menus["Edit"]
    menu.aboutToShow.emit()
    before = hands.window.status.page.text()
    menu.hovered.emit(hands.window.commands["redo"])
    assert hands.window.status.page.text() == "Nothing was undone."
    menu.hovered.emit(hands.window.commands["steps"])
    assert hands.window.status.page.text() == before
    menu.hovered.emit(hands.window.commands["redo"])
    menu.aboutToHide.emit()
    assert hands.window.status.page.text() == before


def test_entries_that_are_on_or_off_have_a_tick(hands):
    commands = hands.window.commands
    pages = [hands.page(4), hands.page(5)]
    hands.session.select_pages(tuple(pages))
    commands.refresh()
    assert not commands["tie"].isChecked() and not commands["hold"].isChecked()
    hands.do("tie")
    hands.do("hold")
    commands.refresh()
    assert commands["tie"].isChecked() and commands["hold"].isChecked()
    hands.do("tie")
    commands.refresh()
    assert not commands["tie"].isChecked()


@pytest.mark.parametrize(("menu", "command"), [
    ("Text", "styles"), ("Text", "character styles"), ("View", "colours"), ("View", "new colour"),
    ("Publication", "revert"), ("Sections", "rename section"), ("Sections", "number section"),
    ("Edit", "paste plain"),
])  # fmt: skip
def test_what_one_looks_for_is_in_its_menu(hands, menu, command):
    assert hands.window.commands[command] in hands.window.commands.menus[menu].actions()


def test_recent_publications_are_opened_from_the_menu(hands, demo, tmp_path):
    menu = hands.window.commands.menus["Publication > Open recent"]
    menu.aboutToShow.emit()
    assert [a.text() for a in menu.actions()] == ["Nothing has been opened yet"]
    for name in ("one", "two & three"):
        path = tmp_path / f"{name}.hframe"
        save(path, set_title(demo[0], name), demo[1])
        settings().remember(path)
    settings().remember(tmp_path / "gone.hframe")
    menu.aboutToShow.emit()
    assert [a.text() for a in menu.actions()] == ["two && three.hframe", "one.hframe"]
    hands.window.files.may_leave = lambda: True
    menu.actions()[1].trigger()
    assert hands.publication.title == "one"


def test_what_was_saved_comes_back_as_one_step(hands, tmp_path):
    path = tmp_path / "a.hframe"
    assert hands.window.files._save(path)
    held = hands.publication
    for title in ("Other", "Another"):
        hands.session.edit("title", lambda p, title=title: set_title(p, title))
    now = hands.publication
    hands.do("revert")
    assert hands.publication == held == load(path).publication
    hands.do("undo")
    assert hands.publication is now


def test_the_list_of_windows_brings_one_forward(demo, dressed, qapp):
    windows = Windows(qapp)
    first, second = windows.open(*demo, None), windows.open(*demo, None)
    second.session.edit("title", lambda p: set_title(p, "Second"))
    qapp.processEvents()
    rows = first.windows()
    assert [ticked for _, _, ticked in rows] == [True, False] and "Second*" in rows[1][0]
    came = []
    second.raise_ = lambda: came.append("second")
    rows[1][1]()
    for window in (first, second):
        window.files.may_leave = lambda: True
        window.close()
    assert came == ["second"]


@pytest.mark.parametrize(("command", "field"), [
    ("rename section", "Name"), ("number section", "Numbering"),
])  # fmt: skip
def test_a_section_is_renamed_and_numbered_from_its_menu(hands, command, field):
    hands.session.show_page(hands.page(9))
    hands.do(command)
    focus = QApplication.focusWidget()
    assert focus is not None and focus.accessibleName() == field
    if field == "Name":
        focus.selectAll()
        QTest.keyClicks(focus, "Renamed")
        QTest.keyClick(focus, Qt.Key.Key_Return)
        assert "Renamed" in [s.name for s in hands.publication.sections]


def test_f3_goes_to_the_topmost_master_of_the_page_and_back(hands):
    for position in (2, 8, 12):
        page = find_page(hands.publication, hands.page(position))
        hands.session.show_page(page.id)
        hands.do("mode")
        stack = stack_of(hands.publication, page)
        assert hands.session.mode == "masters"
        assert not stack or hands.session.master_id == stack[-1]
        hands.do("mode")
        assert hands.session.page_id == page.id


@pytest.mark.parametrize("shows", ["linked", "same", "empty"])
def test_pages_of_a_story_that_are_duplicated_ask_what_they_show(hands, shows):
    hands.open_story(BOOK, 7)
    count, words = len(all_pages(hands.publication)), plain(hands.publication.stories[0].text)
    pages = (hands.page(7), hands.page(8))
    said = [" ".join(hands.session.composition.scene(p).text_of()) for p in pages]
    hands.session.select_pages(pages)
    hands.do("duplicate pages")
    made = hands.session.pages
    asked = hands.window.stories.asking
    assert [a.text() for a in asked.actions() if a.text()] == [
        "The new pages are to show", "What follows: the story goes on through them",
        "The same words again", "Nothing: their frames are empty",
    ]  # fmt: skip
    words_of = {"linked": "What follows", "same": "The same", "empty": "Nothing"}
    next(a for a in asked.actions() if a.text().startswith(words_of[shows])).trigger()
    asked.close()
    order = positions(hands.publication)
    assert [order[p] for p in made] == [9, 10]
    now = [" ".join(hands.session.composition.scene(p).text_of()) for p in made]
    flow = hands.session.composition.flow(hands.story)
    through = {s.page_id for s, part in zip(flow.stops, flow.parts, strict=True) if part.lines}
    assert plain(hands.publication.stories[0].text) == words  # never doubled
    if shows == "linked":
        assert set(made) <= through and now != said
    else:
        assert not set(made) & {s.page_id for s in flow.stops}
        assert len(all_pages(hands.publication)) == count + 2
        for old, new in zip(said, now, strict=True):
            long = [w for w in old.split() if len(w) > 8 and "-" not in w]
            there = [w in new for w in long]  # a head may say one of them
            assert all(there) if shows == "same" else sum(there) < len(long) / 2
