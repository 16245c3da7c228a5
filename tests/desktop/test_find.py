"""Find: pages, words, masters, styles and commands, by the words that people use."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.masters import RenameMasterDialog
from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.find.finder import Finder
from hidden_frame.interact.finds.plan import own_text
from hidden_frame.interact.finds.search import words_on_pages
from hidden_frame.model.lookup import all_pages, find_master


@pytest.fixture
def finder(finder_of):
    opened = []
    finder = finder_of(opened.append, lambda topic: opened.append(f"guide {topic}"))
    finder.opened = opened
    return finder


def rows(finder: Finder) -> list[str]:
    return [finder.list.topLevelItem(n).text(0) for n in range(finder.list.topLevelItemCount())]


@pytest.mark.parametrize(
    ("typed", "command"),
    [
        ("image", "Place pictures…"),
        ("picture", "Place pictures…"),
        ("page number", "Folios…"),
        ("quit", "Quit"),
        ("exit", "Quit"),
        ("rename", "Rename this master…"),
        ("swatch", "New colour…"),
        ("preferences", "Desk settings…"),
        ("chapter", "Start a section here…"),
        ("template", "New master…"),
        ("clone", "Duplicate items"),
        ("preflight", "Checks: possible problems"),
    ],
)
def test_a_command_is_found_by_a_word_that_means_the_same(finder, typed, command):
    finder.word.setText(typed)
    assert command in rows(finder)


def test_a_near_miss_is_listed_and_not_done_by_enter(finder, hands):
    before, seen = hands.publication, hands.window.commands["guides"].isChecked()
    for typed, near in (("hide guides", "Show guides"), ("add pagse", "Add a page")):
        finder.word.setText(typed)  # means it, and is not its name
        assert near in rows(finder)
        QTest.keyClick(finder.word, Qt.Key.Key_Return)
        assert finder.result() == 0
        assert finder.list.currentItem() is None and "Choose" in finder.where.text()
    assert hands.publication is before
    assert hands.window.commands["guides"].isChecked() == seen
    finder.word.setText("age")  # ends “page”, begins nothing
    assert not any(r.startswith(("Add a page", "Delete pages")) for r in rows(finder))


def test_what_the_publication_holds_comes_first(finder, hands):
    finder.word.setText("Month table")
    assert rows(finder)[0] == "Master Month table"
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert hands.session.mode == "masters"
    assert hands.session.master_id == hands.master("Month table")


def test_a_style_is_found_and_opened(finder, hands):
    style = hands.publication.paragraph_styles[2]
    finder.word.setText(style.name)
    found = rows(finder)
    row = found.index(f"Paragraph style {style.name}")
    for _ in range(row):
        QTest.keyClick(finder.word, Qt.Key.Key_Down)
    assert finder.where.text() == "Enter goes there."
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert finder.opened == [style.id]


def test_a_word_on_a_page_leads_there(finder, hands):
    page = next(p for p in all_pages(hands.publication) if len(own_text(p)) > 60)
    word = max(own_text(page).split(), key=len)
    finder.word.setText(word)
    found = words_on_pages(hands.publication, word)
    assert page.id in {f.id for f in found}
    assert all(word.casefold() in f.name.casefold() for f in found)
    assert {f.name[1:] for f in found} <= {r[1:] for r in rows(finder)}


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.text(max_size=20))
def test_anything_can_be_looked_for(finder, typed):
    finder.word.setText(typed)
    assert finder.where.text()


def test_nothing_of_that_name_is_said(finder):
    finder.word.setText("zzqx")
    assert rows(finder) == [] and finder.where.text().startswith("Nothing found")


def test_pictures_are_placed_from_the_menu(hands, monkeypatch, tmp_path):
    from PIL import Image

    paths = [tmp_path / f"{n}.png" for n in range(3)]
    for path in paths:
        Image.new("RGB", (60, 40), "#336").save(path)
    monkeypatch.setattr(PictureDialog, "ask", lambda *_, **__: paths)
    hands.session.show_page(hands.page(12))
    hands.window.commands["place pictures"].trigger()
    assert len(hands.session.items) == 3
    monkeypatch.setattr(PictureDialog, "ask", lambda *_, **__: [])
    before = hands.publication
    hands.window.commands["place pictures"].trigger()
    assert hands.publication is before


def test_a_master_is_renamed_and_duplicated_where_it_stands(hands, qtbot):
    master = hands.master("Month table")
    dialog = RenameMasterDialog(hands.session, master)
    qtbot.addWidget(dialog)
    dialog.show()
    assert dialog.name.selectedText() == "Month table"
    QTest.keyClicks(dialog.name, "Table of months")
    QTest.keyClick(dialog.name, Qt.Key.Key_Return)
    assert find_master(hands.publication, master).name == "Table of months"
    before = len(hands.publication.masters)
    hands.session.show_master(master)
    hands.window.commands["duplicate master"].trigger()
    assert len(hands.publication.masters) == before + 1
    copy = find_master(hands.publication, hands.session.master_id)
    assert copy.base == find_master(hands.publication, master).base and copy.id != master
    assert copy.items


def test_escape_closes_and_enter_with_nothing_typed_does_nothing(finder, hands):
    finder.show()
    before = hands.publication
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert finder.isVisible() and hands.publication is before
    QTest.keyClicks(finder.word, "winter")
    QTest.keyClick(finder.word, Qt.Key.Key_Escape)
    assert not finder.isVisible()


def test_what_cannot_be_done_now_is_not_replaced_by_its_neighbour(finder, hands):
    finder.show()
    before = hands.publication
    finder.word.setText("override")  # “Override here” needs an item; its neighbour does not
    assert "Override here" in rows(finder)
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert hands.publication is before and not hands.session.unlocked and finder.isVisible()
