"""A contents list made, changed and followed in the real window."""

from __future__ import annotations

import json
import subprocess
import sys

import pytest
from benchmarks.whole_file import to_bytes
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.contents import ContentsDialog
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=3))


@pytest.fixture
def book(hands):
    """The long book, an empty page of its front matter on the desk."""
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(3))
    hands.desk.camera.fit_to("spread")
    hands.app.processEvents()
    return hands


def frame_on(publication, page):
    return next((i for i in find_page(publication, page).items
                 if isinstance(i, TextFrame) and i.contents is not None), None)  # fmt: skip


def told(publication, page):
    frame = frame_on(publication, page)
    return ["".join(c.text for c in p.content) for p in frame.text]


def pick(field, words):
    at = field.findText(words)
    assert at >= 0, words
    field.setCurrentIndex(at)
    field.take(at)


def opened(hands):
    hands.do("contents list")
    return seen(hands)


def seen(hands):
    """The dialog that is open."""
    widgets = hands.app.topLevelWidgets()
    (found,) = [w for w in widgets if isinstance(w, ContentsDialog) and w.isVisible()]
    return found


def kept(hands):
    dialog = opened(hands)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    hands.app.processEvents()


def test_a_list_is_proposed_shown_at_once_and_kept(book):
    page = book.page(3)
    dialog = opened(book)
    assert dialog.levels[0].style.currentText() == "Chapter title"
    shown = told(book.session.publication, page)
    assert [line.split("\t")[0] for line in shown] == [
        "1 The Breakwater", "2 A Ledger of Tides", "3 What the Ferryman Owed",
    ]  # fmt: skip
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert told(book.publication, page) == shown
    face = book.session.faces()[[f.holder_id for f in book.session.faces()].index(page)]
    assert "1 The Breakwater" in " ".join(book.session.scene_of(face).text_of())


def test_it_follows_headings_and_folios_while_one_types(book):
    kept(book)
    page, story = book.page(3), book.publication.stories[0].id
    book.session.show_page(book.page(5))
    book.desk.text.write_at(story, (0, 0))
    book.type("At ")
    assert told(book.publication, page)[0] == "1 At The Breakwater\t1"
    last = told(book.publication, page)[2]
    book.desk.text.write_at(story, (1, 0))
    book.desk.text.insert("Night after night the lamps were lit. " * 120)
    assert told(book.publication, page)[2] != last


def test_title_numbers_and_cancel(book):
    before = book.publication
    dialog = opened(book)
    dialog.title_field.setText("Contents")
    dialog.title_field.committed.emit("Contents")
    dialog.levels[0].number.click()
    shown = told(book.session.publication, book.page(3))
    assert shown[:2] == ["Contents", shown[1]] and shown[1].startswith("The Breakwater")
    dialog.reject()
    assert frame_on(book.publication, book.page(3)) is None
    assert book.publication == before


def test_what_can_not_be_listed_is_said_in_the_dialog(book):
    dialog = opened(book)
    pick(dialog.levels[0].shown, "Chapter title")
    labels = [w.text() for w in dialog.form.findChildren(QLabel) if not w.isHidden()]
    assert any("can't use the style" in text for text in labels)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert dialog.isVisible()
    dialog.reject()


def test_a_double_click_asks_what_it_lists_and_it_can_be_left_as_plain_text(book):
    kept(book)
    page = book.page(3)
    frame = frame_on(book.publication, page)
    face = [f.holder_id for f in book.session.faces()].index(page)
    book.double(face, frame.x + 30, frame.y + 10)
    dialog = seen(book)
    assert book.session.editing is None
    lines = told(book.publication, page)
    QTest.mouseClick(dialog.plain, Qt.MouseButton.LeftButton)
    item = next(i for i in find_page(book.publication, page).items if i.id == frame.id)
    assert item.contents is None
    assert ["".join(c.text for c in p.content) for p in item.text] == lines


def test_a_frame_with_words_is_not_overwritten(book):
    page = book.page(1)
    book.session.show_page(page)
    item = find_page(book.publication, page).items[0]
    book.session.select_items(book.session.faces()[0], (item.id,))
    before = book.publication
    book.do("contents list")
    assert book.publication is before and "words of its own" in book.notices[-1]


def test_the_command_line_tells_it(book, tmp_path):
    kept(book)
    path = tmp_path / "book.hframe"
    path.write_bytes(to_bytes(book.publication, {}))
    command = [sys.executable, "-m", "hidden_frame.cli", "contents", str(path), "--json"]
    done = subprocess.run(command, capture_output=True, text=True, timeout=120)
    rows = [json.loads(line) for line in done.stdout.splitlines()]
    assert done.returncode == 0, done.stderr
    assert rows[0] == {"list": 1, "level": 1, "number": "1", "text": "The Breakwater",
                       "folio": "1", "position": 5}  # fmt: skip
