"""Doubtful words marked, mended from their menu and from the list, in the real window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.spelling import Speller, speller
from hidden_frame.edit.text.write import plain
from hidden_frame.model.items import TextFrame
from hidden_frame.spelling.words import AskedWord


@pytest.fixture
def article(hands, qtbot):
    """Page 2’s article being written, with two words more that are wrong."""
    hands.session.show_page(hands.page(8))
    page = next(p for s in hands.publication.sections for p in s.pages if p.id == hands.page(8))
    frame = hands.item(page, "Article")
    hands.frame = frame.id
    hands.click(0, frame.x + 20, frame.y + 20)
    hands.key(Qt.Key.Key_Return)
    hands.key(Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    hands.type(" The skye was veyr clear")
    known(hands, qtbot, "veyr", "refractor")
    return hands


def known(hands, qtbot, *words):
    """Waits until the dictionary has told of words."""
    hands.desk.repaint()
    for word in words:
        qtbot.waitUntil(lambda w=word: speller().verdict("en_GB", w) is not None, timeout=8_000)


def said(hands):
    page = next(p for s in hands.publication.sections for p in s.pages if p.id == hands.page(8))
    text = next(i.text for i in page.items if isinstance(i, TextFrame) and i.id == hands.frame)
    return plain(text, (len(text) - 1, 0), (len(text) - 1, 9_999))


def menu_at_caret(hands, qtbot):
    """The text’s menu, opened by its key."""
    shown = []

    def there():
        shown[:] = [m for m in hands.window.findChildren(QMenu, "TextMenu") if m.isVisible()]
        return bool(shown)

    hands.window.text_menu.show(QPoint(300, 300))
    qtbot.waitUntil(there, timeout=5_000)
    return shown[0]


def entries(menu):
    return [a.text() for a in menu.actions() if not a.isSeparator()]


def red(image):
    """Pixels in the colour of marks."""
    return sum(
        image.pixelColor(x, y).red() > image.pixelColor(x, y).green() + 60
        for x in range(0, image.width(), 1)
        for y in range(0, image.height(), 1)
    )


def test_doubtful_words_are_marked_until_that_is_turned_off(article, qtbot):
    article.desk.camera.zoom_by(1.6)
    article.session.edit_text(None)
    article.session.select_items(None, ())
    article.desk.repaint()
    with_marks = red(article.desk.grab().toImage())
    article.do("spelling")
    without = red(article.desk.grab().toImage())
    assert not settings().now.spelling and with_marks > without + 10
    article.do("spelling")
    assert red(article.desk.grab().toImage()) == with_marks
    article.do("proof")
    assert red(article.desk.grab().toImage()) <= without


def test_the_menu_of_a_doubtful_word_offers_what_was_meant_and_puts_it_in(article, qtbot):
    for _ in range(6):
        article.key(Qt.Key.Key_Left)
    menu = menu_at_caret(article, qtbot)
    assert "very" in entries(menu) and "Accept “veyr” in this publication" in entries(menu)
    next(a for a in menu.actions() if a.text() == "very").trigger()
    assert said(article).endswith("The skye was very clear")
    article.do("undo")
    assert said(article).endswith("The skye was veyr clear")


def test_a_word_said_to_be_right_is_marked_no_more(article, qtbot):
    for _ in range(6):
        article.key(Qt.Key.Key_Left)
    menu = menu_at_caret(article, qtbot)
    next(a for a in menu.actions() if "Accept" in a.text()).trigger()
    assert article.publication.about.words == ("veyr",)
    menu.close()
    assert "very" not in entries(menu_at_caret(article, qtbot))


def test_a_right_press_opens_the_menu_there_and_keeps_what_is_selected(article, qtbot):
    text = article.desk.text
    text.anchor, text.caret = (0, 0), (0, 30)
    shown = []
    article.desk.text_menu_wanted.connect(shown.append)
    frame = article.desk.selected.edited()
    x, y = frame.matrix.apply(12, 8)
    QTest.mouseClick(article.desk, Qt.MouseButton.RightButton, pos=article.at(0, x, y))
    assert shown and text.selection == ((0, 0), (0, 30))
    QTest.mouseClick(article.desk, Qt.MouseButton.RightButton, pos=article.at(0, x, y + 60))
    assert text.anchor == text.caret and text.caret > (0, 30)
    assert article.session.editing is not None


def test_cut_copy_and_paste_of_the_menus_work_on_the_text_that_is_written(article):
    text = article.desk.text
    end = text.caret
    text.anchor, text.caret = (end[0], end[1] - 5), end
    article.window.commands.refresh()
    article.do("cut")
    assert said(article).endswith("The skye was veyr ")
    article.do("paste")
    assert said(article).endswith("The skye was veyr clear")
    article.window.commands.refresh()
    assert not article.window.commands["copy"].isEnabled()
    article.do("select all")
    article.window.commands.refresh()
    assert article.window.commands["copy"].isEnabled() and text.selection[0] == (0, 0)
    article.do("copy")
    assert QApplication.clipboard().text().endswith("veyr clear")


@pytest.fixture
def panel(article, qtbot):
    article.do("spelling list")
    panel = article.window.dialogs.spelling()
    article.panel = panel
    settled(article, qtbot)
    return article


def settled(hands, qtbot):
    panel = hands.panel
    qtbot.waitUntil(lambda: not panel.reading(), timeout=8_000)
    qtbot.waitUntil(
        lambda: all(
            speller().verdict(language, w) is not None for language, w in panel._asked
        ),
        timeout=8_000,
    )  # fmt: skip
    hands.app.processEvents()


def rows(panel):
    tree = panel.list
    found = [tree.topLevelItem(n) for n in range(tree.topLevelItemCount())]
    return {row.text(0): (row.text(1), row.text(2)) for row in found}


def choose(panel, word):
    tree = panel.list
    found = [tree.topLevelItem(n) for n in range(tree.topLevelItemCount())]
    tree.setCurrentItem(next(row for row in found if row.text(0) == word))


def test_the_list_tells_words_with_pages_goes_there_and_mends_all(panel, qtbot):
    assert rows(panel.panel)["skye"] == ("1", "2")
    choose(panel.panel, "defocused")
    panel.panel.next.click()
    facts = panel.session.composition.facts[panel.session.editing.holder_id]
    assert facts.folio == "17" == rows(panel.panel)["defocused"][1]
    text = panel.desk.text
    assert plain(text.text, *text.selection) == "defocused"
    choose(panel.panel, "skye")
    qtbot.waitUntil(lambda: panel.panel.by.count() > 0, timeout=8_000)
    panel.panel.by.setEditText("sky")
    panel.panel.all.click()
    assert said(panel).endswith("The sky was veyr clear")
    settled(panel, qtbot)
    assert "skye" not in rows(panel.panel)
    panel.do("undo")
    assert said(panel).endswith("The skye was veyr clear")


def test_one_place_is_mended_and_a_word_is_kept(panel, qtbot):
    choose(panel.panel, "veyr")
    panel.panel.by.setEditText("very")
    panel.panel.one.click()
    assert said(panel).endswith("The skye was very clear")
    settled(panel, qtbot)
    choose(panel.panel, "refractor")
    panel.panel.right.click()
    settled(panel, qtbot)
    assert "refractor" not in rows(panel.panel)
    own = panel.panel.own
    assert [own.list.item(n).text() for n in range(own.list.count())] == ["refractor"]
    own.word.setText("Deneb")
    own.add.click()
    assert panel.publication.about.words == ("Deneb", "refractor")
    own.list.selectAll()
    own.out.click()
    assert panel.publication.about.words == ()


def test_a_list_of_yesterday_mends_nothing(panel, qtbot):
    """Words are counted from a text’s beginning: after another edit they stand elsewhere."""
    choose(panel.panel, "skye")
    panel.panel.by.setEditText("sky")
    panel.desk.text.insert("x")
    before = panel.publication
    panel.panel.all.click()
    assert panel.publication == before and "try again" in panel.panel.told.text()


def test_a_dictionary_whose_process_dies_stops_nothing(hands, qtbot, monkeypatch):
    made = Speller()
    monkeypatch.setattr("hidden_frame.desktop.state.spelling.sys.executable", "/bin/false")
    assert made.verdict("en_GB", "nihgt") is None
    made.ask()
    qtbot.wait(300)
    for _ in range(5):
        made.verdict("en_GB", "nihgt")
        made.ask()
        qtbot.wait(60)
    assert made.verdict("en_GB", "nihgt") is None and made._starts == 3
    made.close()


def test_words_of_an_unknown_language_are_right(hands, qtbot):
    word = AskedWord(0, 5, "qqq", "nihgt")
    speller().verdict(word.language, word.letters)
    speller().ask()
    qtbot.waitUntil(lambda: speller().verdict("qqq", "nihgt") is False, timeout=8_000)
