"""The finder of characters, in the core and in the real window."""

from __future__ import annotations

import unicodedata

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.demo.book import long_book
from hidden_frame.desktop.look.settings import settings
from hidden_frame.interact.finds.characters import BLOCKS, found, has
from hidden_frame.model.lookup import find_story
from hidden_frame.settle.settling import settled
from hidden_frame.typeset.fonts import font_book

BOOK = settled(long_book(chapters=1))


@pytest.mark.parametrize(
    ("query", "expected"),
    [("em dash", "—"), ("2014", "—"), ("U+00e9", "é"), ("nbsp", "\u00a0"), ("dagger", "†"),
     ("greek small omega", "ω"), ("rightwards arrow", "→"), ("half", "½"), ("apostrophe", "’")],
)  # fmt: skip
def test_characters_are_found_by_what_people_call_them(query, expected):
    assert expected in found(query, "", None)[:40]


def test_letters_like_one_are_it_with_marks_first():
    like = found("e", "", None)
    assert like[:4] == ["è", "é", "ê", "ë"] or set(like[:30]) >= set("èéêëēėę")
    assert all(unicodedata.normalize("NFKD", c)[0].lower() == "e" for c in like)


@given(st.text(max_size=12), st.sampled_from(["", *BLOCKS]))
def test_any_query_gives_characters_of_the_block_that_the_font_has(query, block):
    face = font_book().face("Spectral")
    for character in found(query, block, face):
        assert len(character) == 1 and has(face, character)


@pytest.fixture
def book(hands):
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(5))
    hands.story = hands.publication.stories[0].id
    hands.desk.text.write_at(hands.story, (1, 0))
    settings().change(characters="", favourites="—")
    yield hands
    settings().change(characters="", favourites="—–…†§•°×")


def test_one_is_found_put_in_remembered_and_favoured(book):
    finder = book.window.at_caret.characters()
    finder.word.setText("dagger")
    assert finder.chosen() == "†" and "U+2020" in finder.told.text()
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert find_story(book.publication, book.story).text[1].content[0].text.startswith("†")
    QTest.mouseClick(finder.like, Qt.MouseButton.LeftButton)
    assert settings().now.favourites == "—†" and settings().now.characters == "†"
    finder.word.clear()
    finder.block.setCurrentIndex(finder.block.findText("Favourites"))
    finder.block.take(finder.block.currentIndex())
    assert [finder.list.item(n).text() for n in range(finder.list.count())] == ["—", "†"]
    finder.word.setText("no such thing at all")
    assert finder.list.count() == 0 and not finder.insert.isEnabled()
    finder.grab()
    finder.close()


def test_what_the_font_lacks_is_told_or_left_out(book):
    finder = book.window.at_caret.characters()
    finder.word.setText("hebrew letter alef")
    assert finder.chosen() == "א" and "not in Spectral" in finder.told.text()
    finder.only.click()
    assert finder.list.count() == 0
    finder.only.click()
    book.session.edit_text(None)
    finder.put()
    assert "No text is being edited" in book.notices[-1]
    finder.close()


def test_another_form_of_a_letter_is_put_in_and_what_follows_is_plain(hands, qtbot):
    hands.session.show_page(hands.page(8))
    page = next(p for s in hands.publication.sections for p in s.pages if p.id == hands.page(8))
    frame = hands.item(page, "Article")
    hands.click(0, frame.x + 20, frame.y + 20)
    hands.key(Qt.Key.Key_Return)
    hands.key(Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    finder = hands.window.at_caret.characters()
    finder.word.setText("Q")
    assert finder.chosen() == "Q" and finder.forms.isVisible()
    tags = [
        finder.forms.item(n).data(Qt.ItemDataRole.UserRole) for n in range(finder.forms.count())
    ]
    assert tags[0] == "" and len(tags) > 1
    finder.forms.setCurrentRow(1)
    assert finder.told.text().startswith("Latin capital letter q · U+0051 · ")
    finder.insert.click()
    hands.type("ed")
    paragraph = hands.desk.text.text[-1]
    last, before = paragraph.content[-1], paragraph.content[-2]
    assert (before.text, before.look.alternate) == ("Q", tags[1])
    assert last.text == "ed" and last.look is None
    finder.word.setText("\u2060")  # a joiner, of which no font has another form
    assert finder.chosen() == "\u2060" and not finder.forms.isVisible()
    finder.close()
