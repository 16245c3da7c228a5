"""Notes written in the real window."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QDialog

from hidden_frame.compose.notes import notes_in
from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.note import NoteDialog
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, find_story
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=1))


@pytest.fixture
def book(hands):
    hands.open_story(BOOK)
    hands.desk.text.write_at(hands.story, (1, 20))
    return hands


def answering(monkeypatch, words, seen=None):
    def execute(dialog):
        if seen is not None:
            seen.append(dialog.words.toPlainText())
        dialog.words.setPlainText(words)
        dialog.ok.click()
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(NoteDialog, "exec", execute)


def notes(hands):
    found = notes_in(find_story(hands.publication, hands.story).text)
    return [(n.number, "".join(r.text for r in n.content)) for _, n in found]


def test_a_note_is_put_in_numbered_and_changed(book, monkeypatch):
    answering(monkeypatch, "A tarn is a small lake.")
    book.do("note")
    book.desk.text.write_at(book.story, (1, 5))
    answering(monkeypatch, "An earlier one.")
    book.do("note")
    assert notes(book) == [("1", "An earlier one."), ("2", "A tarn is a small lake.")]
    seen = []
    answering(monkeypatch, "Changed.", seen)
    book.do("note")
    assert seen == ["An earlier one."] and notes(book)[0] == ("1", "Changed.")
    assert any("1" in line for line in book.session.composition.scene(book.page(5)).text_of())


def test_an_empty_note_is_not_taken(book, monkeypatch):
    answering(monkeypatch, "   ")
    book.do("note")
    assert notes(book) == []


def test_all_notes_are_listed_on_a_page(book, monkeypatch):
    answering(monkeypatch, "A tarn is a small lake.")
    book.do("note")
    book.session.edit_text(None)
    book.session.show_page(book.page(3))
    book.do("note list")
    frame = next(i for i in find_page(book.publication, book.page(3)).items
                 if isinstance(i, TextFrame) and i.notes is not None)  # fmt: skip
    assert ["".join(c.text for c in p.content) for p in frame.text] == [
        "1\tA tarn is a small lake."
    ]
