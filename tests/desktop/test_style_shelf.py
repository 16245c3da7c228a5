"""Styles on the Shelf: seen with what they are, put on by a click, ordered by hand, changed."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.edit.looks.styles import style_uses, uses_of_styles
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page

ID = Qt.ItemDataRole.UserRole


@pytest.fixture
def shelf(hands):
    hands.window.show_shelf("Styles")
    hands.app.processEvents()
    hands.window.styles.refresh()
    return hands.window.styles


def row(rows, style):
    found = [rows.topLevelItem(n) for n in range(rows.topLevelItemCount())]
    return next(r for r in found if r.data(0, ID) == style)


def click(hands, rows, style, twice=False):
    rect = rows.visualItemRect(row(rows, style))
    rows.scrollToItem(row(rows, style))
    rect = rows.visualItemRect(row(rows, style))
    for act in (QTest.mouseClick, QTest.mouseDClick)[: 1 + twice]:
        act(
            rows.viewport(),
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            rect.center(),
        )
    hands.app.processEvents()


def own_text(hands):
    """A page's own frame with a text, selected."""
    for page in all_pages(hands.publication):
        for item in page.items:
            if isinstance(item, TextFrame) and len(plain(item.text)) > 20:
                hands.session.show_page(page.id)
                face = next(f for f in hands.session.faces() if f.holder_id == page.id)
                hands.session.select_items(face, (item.id,))
                return page.id, item
    raise AssertionError


def test_all_styles_stand_there_with_how_often_they_are_used(hands, shelf):
    publication = hands.publication
    uses = uses_of_styles(publication)
    shown = [shelf.paragraphs.topLevelItem(n).text(0) for n in range(shelf.paragraphs.topLevelItemCount())]  # noqa: E501  # fmt: skip
    assert shown == [s.name for s in publication.paragraph_styles]
    both = (*publication.paragraph_styles, *publication.character_styles)
    for style in both:
        assert uses[style.id] == style_uses(publication, style.id)
        rows = shelf.paragraphs if style in publication.paragraph_styles else shelf.characters
        assert row(rows, style.id).text(1) == f"{uses[style.id]:,}"
        assert not row(rows, style.id).icon(0).isNull()
    told = row(shelf.paragraphs, "body").toolTip(0)
    assert "based on" in told and "Ctrl+1" in told


def test_a_click_sets_the_selected_frame_and_one_step_takes_it_back(hands, shelf):
    page, item = own_text(hands)
    before, steps = hands.publication, len(hands.session.history.past)
    click(hands, shelf.paragraphs, "quotation")
    text = hands.item(find_page(hands.publication, page), item.name).text
    assert {p.style for p in text} == {"quotation"} and plain(text) == plain(item.text)
    assert shelf.paragraphs.currentItem().data(0, ID) == "quotation"
    assert len(hands.session.history.past) == steps + 1
    click(hands, shelf.paragraphs, "quotation")  # worn already: nothing is done
    assert len(hands.session.history.past) == steps + 1
    hands.do("undo")
    assert hands.publication == before


def test_words_of_a_master_wear_it_on_this_page_and_go_on_following(hands, shelf):
    session = hands.session
    page = hands.page(9)
    session.show_page(page)
    face = next(f for f in session.faces() if f.holder_id == page)
    from hidden_frame.interact.hands.shown import items_on

    frame = next(
        r.item for r in items_on(hands.publication, page, session.side)
        if isinstance(r.item, TextFrame) and r.carrier and r.item.text
    )  # fmt: skip
    session.select_items(face, (frame.id,))
    click(hands, shelf.paragraphs, "heading")
    (own,) = find_page(hands.publication, page).overrides
    assert own.text_style == "heading"
    shown = shown_item(hands.publication, page, frame.id, session.side)
    assert shown.text == frame.text


def test_at_the_caret_a_click_sets_the_paragraph_and_the_words(hands, shelf):
    page, item = own_text(hands)
    face = next(n for n, f in enumerate(hands.session.faces()) if f.holder_id == page)
    hands.double(face, item.x + 4, item.y + 6)
    dress = hands.desk.text.dress
    click(hands, shelf.paragraphs, "lead")
    assert dress.paragraph_style() == "lead"
    style = hands.publication.character_styles[0].id
    hands.do("select all")
    click(hands, shelf.characters, style)
    assert dress.now()["character"] == style
    shelf.refresh()
    assert shelf.characters.currentItem().data(0, ID) == style
    click(hands, shelf.characters, "none")
    assert dress.now()["character"] is None
    dress.set_alignment("right")
    shelf.refresh()
    assert "alignment" in shelf.told.text() and shelf.clear.isEnabled()
    QTest.mouseClick(shelf.clear, Qt.MouseButton.LeftButton)
    shelf.refresh()
    assert not dress.departures()


def test_without_a_text_a_click_does_nothing_and_says_what_to_do(hands, shelf):
    before = hands.publication
    hands.session.show_page(hands.page(2))
    click(hands, shelf.paragraphs, "lead")
    assert hands.publication is before and "Select a text" in shelf.told.text()


def test_styles_are_put_into_order_and_keys_follow(hands, shelf):
    names = [s.id for s in hands.publication.paragraph_styles]
    shelf.paragraphs.moved.emit(names[3], names[0])
    now = [s.id for s in hands.publication.paragraph_styles]
    assert now == [names[3], *names[:3], *names[4:]]
    shelf.paragraphs.moved.emit(names[3], None)
    assert [s.id for s in hands.publication.paragraph_styles] == [
        *names[:3], *names[4:], names[3]]  # fmt: skip
    assert hands.publication.character_styles
    hands.do("undo")
    hands.do("undo")
    assert [s.id for s in hands.publication.paragraph_styles] == names


def test_a_double_click_opens_the_form_of_the_style(hands, shelf, monkeypatch):
    opened = []
    monkeypatch.setattr(shelf, "_edit", opened.append)
    hands.session.show_page(hands.page(2))
    click(hands, shelf.paragraphs, "lead", twice=True)
    assert opened == ["lead"]


def test_a_double_click_to_edit_a_style_puts_it_on_nothing(hands, shelf, monkeypatch):
    """The first of the two clicks is no wish of its own: what it did is taken back, for good."""
    opened = []
    monkeypatch.setattr(shelf, "_edit", opened.append)
    own_text(hands)
    before, steps = hands.publication, len(hands.session.history.past)
    click(hands, shelf.paragraphs, "quotation", twice=True)
    assert opened == ["quotation"]
    assert hands.publication is before and len(hands.session.history.past) == steps
    assert not hands.session.history.future
    click(hands, shelf.paragraphs, "quotation")  # one alone is
    assert hands.publication is not before
