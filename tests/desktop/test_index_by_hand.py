"""Index marks and the panel of terms in the real window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.index import MarkDialog
from hidden_frame.desktop.dialogs.lists import IndexListDialog
from hidden_frame.interact.finds.indexing import marked_everywhere, places_of, terms
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_page, find_story
from hidden_frame.model.text import IndexMark
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=2))


@pytest.fixture
def book(hands):
    """The word “ferryman” selected in the long book's first paragraph."""
    hands.open_story(BOOK)
    words = find_story(hands.publication, hands.story).text[1].content[0].text
    hands.at = words.index("ferryman")
    hands.desk.text.write_at(hands.story, (1, hands.at + 8), (1, hands.at))
    return hands


def answering(monkeypatch, choose=lambda dialog: None, kind=MarkDialog):
    def execute(dialog):
        choose(dialog)
        dialog.ok.click()
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(kind, "exec", execute)


def marks(hands):
    text = find_story(hands.publication, hands.story).text
    return [c for p in text for c in p.content if isinstance(c, IndexMark)]


def test_what_is_selected_is_marked_by_a_key(book, monkeypatch):
    answering(monkeypatch, lambda dialog: dialog.sub.setText("and his boat"))
    book.do("index mark")
    assert marks(book) == [IndexMark("ferryman", "and his boat")]
    assert places_of(book.session.composition, "ferryman", "")[0].place == (1, book.at + 8)
    assert [t.told for t in terms(book.session.composition)][1] == "1"


def test_every_place_where_words_stand_is_marked_as_one_step(book, monkeypatch):
    answering(monkeypatch, lambda dialog: dialog.everywhere.setChecked(True))
    before = book.publication
    book.do("index mark")
    count = len(marks(book))
    assert count > 20 and book.notices[-1] == f"Inserted {count} marks."
    book.do("undo")
    assert book.publication == before


def test_an_empty_term_is_said_in_the_dialog(book, monkeypatch):
    seen = []

    def choose(dialog):
        dialog.term.setText("  ")
        dialog.ok.click()
        seen.append(dialog.result())
        dialog.term.setText("Boats")

    answering(monkeypatch, choose)
    book.do("index mark")
    assert seen == [0] and marks(book) == [IndexMark("Boats")]


def test_the_panel_lists_goes_to_renames_and_takes_out(book, monkeypatch):
    answering(monkeypatch, lambda dialog: dialog.everywhere.setChecked(True))
    book.do("index mark")
    panel = book.window.lists.index_panel()
    row = panel.list.topLevelItem(0)
    assert row.text(0) == "ferryman" and "–" in row.text(1)
    panel.list.setCurrentItem(row)
    QTest.mouseClick(panel.next, Qt.MouseButton.LeftButton)
    assert book.desk.text.selection[0] == (1, book.at + 8)
    QTest.mouseClick(panel.next, Qt.MouseButton.LeftButton)
    assert book.desk.text.selection[0] != (1, book.at + 8)
    book.session.edit_text(None)
    panel.rename_to("Ferrymen")
    assert {m.term for m in marks(book)} == {"Ferrymen"}
    panel.list.setCurrentItem(panel.list.topLevelItem(0))
    QTest.mouseClick(panel.out, Qt.MouseButton.LeftButton)
    assert not marks(book) and "deleted from the index" in book.notices[-1]
    panel.close()


def test_the_index_stands_on_a_page_and_follows(book, monkeypatch):
    answering(monkeypatch)
    answering(monkeypatch, kind=IndexListDialog)
    book.do("index mark")
    book.session.edit_text(None)
    book.session.show_page(book.page(3))
    book.window.lists.put_index()
    frame = next(i for i in find_page(book.publication, book.page(3)).items
                 if isinstance(i, TextFrame) and i.index is not None)  # fmt: skip
    assert ["".join(c.text for c in p.content) for p in frame.text] == ["F", "ferryman, 1"]
    book.session.show_page(book.page(5))
    book.desk.text.write_at(book.story, (1, 0))
    book.desk.text.insert("Night after night. " * 130)
    frame = next(i for i in find_page(book.publication, book.page(3)).items if i.id == frame.id)
    assert frame.text[1].content[0].text != "ferryman, 1"


def test_the_frame_of_a_list_can_be_made_another_list(book, monkeypatch):
    """A list's words are not its own: they are no reason to refuse the frame."""
    answering(monkeypatch, kind=IndexListDialog)
    book.session.show_page(book.page(3))
    book.session.edit_text(None)
    mark = IndexMark("ferryman")
    book.session.edit("mark", lambda p: marked_everywhere(p, "ferryman", mark)[0])
    book.window.lists.put_index()
    (frame,) = book.session.items
    book.window.lists.put_notes()
    made = next(i for i in find_page(book.publication, book.page(3)).items if i.id == frame)
    assert made.notes is not None and made.index is None
    assert not any("holds words" in notice for notice in book.notices)


def test_the_look_of_an_index_is_chosen_and_chosen_again_from_its_frame(book, monkeypatch):
    styles = [s.id for s in book.publication.paragraph_styles]

    def choose(dialog):
        dialog.title_field.setText("Index")
        dialog.subs.setCurrentIndex(dialog.subs._values.index("run in"))
        dialog.letters.setCurrentIndex(dialog.letters._values.index(""))

    answering(monkeypatch, choose, IndexListDialog)
    mark = IndexMark("ferryman", "and his boat")
    book.session.edit_text(None)
    book.session.edit("mark", lambda p: marked_everywhere(p, "ferryman", mark)[0])
    book.session.show_page(book.page(3))
    book.window.lists.put_index()
    (frame,) = book.session.items

    def shown():
        return next(i for i in find_page(book.publication, book.page(3)).items if i.id == frame)

    assert shown().name == "Index" and shown().index.title == "Index"
    words = ["".join(c.text for c in p.content) for p in shown().text]
    assert words[0] == "Index" and words[1].startswith("ferryman; and his boat, ")
    seen = []

    def again(dialog):
        seen.append((dialog.title_field.text(), dialog.subs.value(), dialog.letters.value()))
        dialog.letters.setCurrentIndex(dialog.letters._values.index(styles[1]))

    answering(monkeypatch, again, IndexListDialog)
    book.desk.begin_text()  # as a double click on the frame does
    assert seen == [("Index", "run in", "")] and shown().index.letters == styles[1]
    assert shown().index.title == "Index" and [p.style for p in shown().text][1] == styles[1]
