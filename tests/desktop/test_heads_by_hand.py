"""Running heads chosen in the real window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.running_head import DateDialog, RunningHeadDialog
from hidden_frame.edit.text.steps import end_of
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.lookup import find_master, find_story
from hidden_frame.model.text import Head, Marker
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=2))


@pytest.fixture
def book(hands):
    """The long book, its text page on the desk, the caret in its page head."""
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(9))
    master = hands.master("Text page")
    head = hands.item(find_master(hands.publication, master), "Page head")
    hands.session.show_master(master)
    hands.app.processEvents()
    hands.desk.text.begin(Editing(master, head.id, "recto"))
    hands.head = head.id
    return hands


def markers(hands):
    master = find_master(hands.publication, hands.master("Text page"))
    text = next(i for i in master.items if i.id == hands.head).text
    return [c for p in text for c in p.content if isinstance(c, Marker)]


def answering(monkeypatch, choose):
    """The next dialog is answered by a function instead of by hand."""

    def execute(dialog):
        choose(dialog)
        dialog.ok.click()
        return QDialog.DialogCode.Accepted

    for kind in (RunningHeadDialog, DateDialog):
        monkeypatch.setattr(kind, "exec", execute)


def pick(field, words):
    at = field.findText(words)
    assert at >= 0, words
    field.setCurrentIndex(at)
    field.activated.emit(at)


def test_a_running_head_is_chosen_from_a_list_and_says_beforehand_what_pages_show(
    book, monkeypatch
):
    said = []

    def choose(dialog):
        pick(dialog.style_field, "Chapter title")
        pick(dialog.part, "its number and text")
        dialog.between.setText(" · ")
        said.append(dialog.sample.text())

    answering(monkeypatch, choose)
    book.do("running head")
    assert markers(book)[-1].head == Head("heading", part="number and text", between=" · ")
    assert "“1 · The Breakwater”" in said[0]
    shown = book.session.composition.scene(book.page(9)).text_of()
    assert any("1 · The Breakwater" in line for line in shown)


def test_it_follows_the_heading_while_one_types(book, monkeypatch):
    answering(monkeypatch, lambda dialog: pick(dialog.style_field, "Chapter title"))
    book.do("running head")
    book.session.edit_text(None)
    story = book.publication.stories[0].id
    book.session.show_page(book.page(5))
    book.desk.text.write_at(story, (0, len("The Breakwater")))
    book.type(" at night")
    for page in (5, 9):  # beside section and title there is not room for all of it
        shown = book.session.composition.scene(book.page(page)).text_of()
        assert any("The Breakwater at…" in line for line in shown[-4:])
    assert find_story(book.publication, story).text[0].content[0].text.endswith("at night")


def test_the_one_at_the_caret_is_changed(book, monkeypatch):
    answering(monkeypatch, lambda dialog: pick(dialog.style_field, "Chapter title"))
    book.do("running head")
    count = len(markers(book))
    answering(monkeypatch, lambda dialog: pick(dialog.which, "the latest before the page"))
    book.do("running head")
    assert len(markers(book)) == count
    assert markers(book)[-1].head == Head("heading", which="before")


def test_a_date_is_put_in_by_its_form(book, monkeypatch):
    answering(monkeypatch, lambda dialog: dialog.how.setCurrentIndex(4))
    book.do("marker date")
    assert markers(book)[-1] == Marker("date", form="year")


def test_a_heading_has_a_short_title_where_heads_show_its_style(book, monkeypatch, qtbot):
    answering(monkeypatch, lambda dialog: pick(dialog.style_field, "Chapter title"))
    book.do("running head")
    book.session.edit_text(None)
    story = book.publication.stories[0].id
    book.session.show_page(book.page(5))
    book.desk.text.write_at(story, (0, 3))
    book.settle(qtbot)
    book.enter("Short title", "Breakwater")
    assert find_story(book.publication, story).text[0].short == "Breakwater"
    book.desk.text.write_at(story, (1, 3))
    book.settle(qtbot)
    assert book.field("Short title").isHidden()


def test_a_story_says_why_it_can_not_show_one(book, monkeypatch):
    book.session.edit_text(None)
    story = book.publication.stories[0].id
    book.session.show_page(book.page(5))
    book.desk.text.write_at(story, end_of(find_story(book.publication, story).text))
    answering(monkeypatch, lambda dialog: None)
    book.do("running head")
    assert "can’t show" in book.notices[-1]
    assert not any(isinstance(c, Marker) for p in find_story(book.publication, story).text
                   for c in p.content)  # fmt: skip


def test_a_double_click_selects_a_marker(book):
    placed, face = book.desk.selected.placed(book.head)
    book.double(1, placed.matrix.e + 8, placed.matrix.f + 6)
    assert book.desk.text.marker() == Marker("section name")
    book.key(Qt.Key.Key_Delete)
    assert Marker("section name") not in markers(book)
    assert face is not None
