"""References put in and followed in the real window."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QDialog

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.refer import PlaceDialog, ReferDialog
from hidden_frame.model.lookup import find_story
from hidden_frame.model.text import Marker
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=3))


@pytest.fixture
def book(hands):
    """The caret at the end of the second paragraph of the long book."""
    hands.open_story(BOOK)
    text = find_story(hands.publication, hands.story).text
    hands.desk.text.write_at(hands.story, (1, len(text[1].content[0].text)))
    return hands


def answering(monkeypatch, kind, choose):
    def execute(dialog):
        choose(dialog)
        dialog.ok.click()
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(kind, "exec", execute)


def words(hands, at=1):
    text = find_story(hands.publication, hands.story).text
    return "".join(c.refers.said if isinstance(c, Marker) else c.text for c in text[at].content)


def test_a_reference_is_found_by_some_of_its_words_and_put_in(book, monkeypatch):
    rows = []

    def choose(dialog):
        dialog.word.setText("ferryman owed")
        rows.extend(dialog.list.item(n).text() for n in range(dialog.list.count()))

    answering(monkeypatch, ReferDialog, choose)
    book.type(" See ")
    book.do("refer")
    assert len(rows) == 1 and rows[0].startswith("3 What the Ferryman Owed")
    folio = rows[0].split("·")[1].split("(")[0].strip()
    assert words(book).endswith(f" See “What the Ferryman Owed” on page {folio}")
    book.do("undo")
    assert not any(isinstance(c, Marker) for c in find_story(book.publication, book.story)
                   .text[1].content)  # fmt: skip


def test_it_follows_the_heading_while_one_types(book, monkeypatch):
    answering(monkeypatch, ReferDialog, lambda dialog: dialog.word.setText("Breakwater"))
    book.do("refer")
    book.desk.text.write_at(book.story, (0, 0))
    book.type("At ")
    assert "“At The Breakwater” on page 1" in words(book)


def test_a_place_is_named_and_listed_and_nothing_found_is_said(book, monkeypatch):
    answering(monkeypatch, PlaceDialog, lambda dialog: dialog.name.setText("The first lamp"))
    book.do("name place")
    assert find_story(book.publication, book.story).text[1].place_name == "The first lamp"
    found = []

    def choose(dialog):
        dialog.word.setText("first lamp")
        found.append(dialog.list.count())
        dialog.word.setText("no such words")
        dialog.ok.click()
        found.append(dialog.list.count())
        dialog.reject()

    answering(monkeypatch, ReferDialog, choose)
    before = book.publication
    book.do("refer")
    assert found == [1, 0] and book.publication == before
