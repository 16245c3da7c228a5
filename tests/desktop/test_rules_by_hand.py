"""Masters by rule in the real window: made, ordered, shown live, kept or dropped."""

from __future__ import annotations

import json
import subprocess
import sys

import pytest
from benchmarks.whole_file import to_bytes
from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox

from hidden_frame.demo.book import long_book
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, paragraph_style, stack_of
from hidden_frame.settle.settling import settled


def made_book():
    """Three chapters, and an opener with less room."""
    publication = long_book(chapters=3)
    heading = paragraph_style(publication, "heading")
    publication = put_paragraph_style(publication, replace(heading, starts="page"))
    publication = settled(publication)
    publication, opener = add_master(publication, "Opener")
    frame = TextFrame(id="", name="Opening text", x=48, y=220, width=261, height=250, main=1)
    publication, _ = add_item(publication, opener, frame)
    return publication


BOOK = made_book()


@pytest.fixture
def book(hands):
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(5))
    hands.app.processEvents()
    return hands


def names_on(publication):
    known = {m.id: m.name for m in publication.masters}
    return [" + ".join(known[m] for m in stack_of(publication, p)) for p in all_pages(publication)]


def pick(field, words):
    at = field.findText(words)
    assert at >= 0, words
    field.setCurrentIndex(at)
    field.activated.emit(at)
    field.take(at)


def with_rule(hands):
    """The dialog with a rule: where a chapter begins, Opener."""
    dialog = hands.window.dialogs.rules()
    QTest.mouseClick(dialog.add, Qt.MouseButton.LeftButton)
    pick(dialog.style_field, "Chapter title")
    pick(dialog.master, "Opener")
    hands.app.processEvents()
    return dialog


def test_a_rule_is_made_seen_at_once_and_kept_as_one_step(book):
    dialog = with_rule(book)
    row = dialog.list.item(0).text()
    assert row.startswith("Chapter title begins → Opener, that page only")
    assert "3 pages: 1, " in row
    shown = names_on(book.session.publication)
    assert shown.count("Opener") == 3 and names_on(book.publication).count("Opener") == 0
    assert len(book.session.pages) == 3
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert names_on(book.publication).count("Opener") == 3
    book.do("undo")
    assert names_on(book.publication).count("Opener") == 0 and not book.publication.rules


def test_cancel_leaves_everything_as_it_was(book):
    before = book.publication
    dialog = with_rule(book)
    dialog.reject()
    assert book.publication is before and book.session.draft is None


def test_pages_follow_their_heading_while_one_types(book):
    QTest.mouseClick(with_rule(book).ok, Qt.MouseButton.LeftButton)
    story = book.publication.stories[0].id
    openers = [n for n, name in enumerate(names_on(book.publication)) if name == "Opener"]
    book.session.show_page(book.page(6))
    book.desk.text.write_at(story, (2, 0))
    book.desk.text.insert("Night after night the lamps were lit. " * 90)
    moved = [n for n, name in enumerate(names_on(book.publication)) if name == "Opener"]
    assert len(moved) == len(openers) and moved != openers
    for n in moved[1:]:
        shown = book.session.composition.scene(all_pages(book.publication)[n].id).text_of()
        assert any(line and line[0].isdigit() for line in shown)


def test_properties_say_by_which_rule_and_hand_set_pages_go_back(book, qtbot):
    QTest.mouseClick(with_rule(book).ok, Qt.MouseButton.LeftButton)
    book.session.show_page(book.page(5))
    book.settle(qtbot)
    assert book.window.properties.form.how.text() == "By rule: Chapter title begins"
    plain = book.master("Plain")
    page = book.page(5)
    book.session.edit("apply", lambda p: apply_masters(p, [page], (plain,)))
    assert names_on(book.publication)[4] == "Plain"
    book.settle(qtbot)
    book.button("Automatic").click()
    assert names_on(book.publication)[4] == "Opener"


def test_order_counts_and_rules_are_taken_away(book):
    dialog = with_rule(book)
    QTest.mouseClick(dialog.add, Qt.MouseButton.LeftButton)
    pick(dialog.when, "it is the first of its section")
    pick(dialog.master, "Plain")
    assert names_on(book.session.publication)[4] == "Opener"
    QTest.mouseClick(dialog.up, Qt.MouseButton.LeftButton)
    assert dialog.list.currentRow() == 0
    assert names_on(book.session.publication)[4] == "Plain"
    QTest.mouseClick(dialog.gone, Qt.MouseButton.LeftButton)
    assert names_on(book.session.publication)[4] == "Opener"
    assert dialog.list.count() == 1


def test_the_command_line_says_which_rule_chose(book, tmp_path):
    QTest.mouseClick(with_rule(book).ok, Qt.MouseButton.LeftButton)
    path = tmp_path / "book.hframe"
    path.write_bytes(to_bytes(book.publication, {}))
    command = [sys.executable, "-m", "hidden_frame.cli", "pages", str(path), "--json"]
    done = subprocess.run(command, capture_output=True, text=True, timeout=120)
    rows = [json.loads(line) for line in done.stdout.splitlines()]
    assert rows[4]["rule"] == "Chapter title begins → Opener, that page only"
    assert rows[5]["rule"] is None and rows[4]["masters"] == ["Opener"]
    assert find_page(book.publication, book.page(5)).ruled


def test_all_of_a_rule_can_be_read(book, monkeypatch):
    """No row of the list and no field is lower than its words."""
    dialog = with_rule(book)
    for field in dialog.findChildren(QComboBox):
        assert field.height() >= field.sizeHint().height(), field.currentText()
    words = dialog.list.fontMetrics()
    for n in range(dialog.list.count()):
        row = dialog.list.visualItemRect(dialog.list.item(n))
        room = row.adjusted(6, 0, -6, 1000)
        needed = words.boundingRect(room, Qt.TextFlag.TextWordWrap, dialog.list.item(n).text())
        assert row.height() >= needed.height()
    dialog.reject()
