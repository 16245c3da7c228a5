"""Text edited in place: typing, markers, keys, styles, text that does not fit."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication

from hidden_frame.edit.text.write import plain
from hidden_frame.model.lookup import all_pages, find_master, find_page
from hidden_frame.model.text import Marker, Run

Ctrl = Qt.KeyboardModifier.ControlModifier
Shift = Qt.KeyboardModifier.ShiftModifier


def new_frame(hands, master="Text"):
    """An empty text frame drawn on a master's recto face, being edited."""
    hands.session.show_master(hands.master(master))
    hands.do("tool text")
    hands.drag(1, (60, 300), (300, 380))
    return find_master(hands.publication, hands.master(master)).items[-1].id


def content(hands, master="Text"):
    return find_master(hands.publication, hands.master(master)).items[-1].text


def marker(hands, label):
    strip = hands.window.strip
    strip.fill_markers()
    next(a for a in strip.menu.actions() if a.text().startswith(label)).trigger()


def test_typing_and_markers_show_at_once_on_every_page(hands):
    new_frame(hands)
    assert hands.session.editing is not None and hands.window.strip.isVisible()
    hands.type("Page ")
    marker(hands, "Folio")
    hands.type(" of ")
    marker(hands, "Page count")
    hands.type(", ")
    marker(hands, "Edition year")
    (paragraph,) = content(hands)
    assert paragraph.content == (
        Run("Page "), Marker("folio"), Run(" of "), Marker("page count"), Run(", "),
        Marker("detail", "Edition year"),
    )  # fmt: skip
    scene = hands.session.composition.scene(hands.page(9))
    assert "Page 3 of 32, 2031" in scene.text_of()
    hands.key(Qt.Key.Key_Escape)
    assert hands.session.editing is None and not hands.window.strip.isVisible()


def test_typing_is_undone_in_stretches_with_names(hands):
    new_frame(hands)
    hands.type("one two")
    assert hands.window.commands["undo"].text() == "Undo typing"
    hands.key(Qt.Key.Key_Left)
    hands.type("X")
    assert plain(content(hands)) == "one twXo"
    hands.do("undo")
    assert plain(content(hands)) == "one two"
    hands.do("undo")
    assert plain(content(hands)) == ""


def test_keys_move_select_cut_and_paste(hands):
    new_frame(hands)
    hands.type("alpha beta")
    hands.key(Qt.Key.Key_Return)
    hands.type("gamma")
    hands.key(Qt.Key.Key_Home)
    hands.key(Qt.Key.Key_Backspace)
    assert plain(content(hands)) == "alpha betagamma"
    hands.key(Qt.Key.Key_End, Shift)
    hands.key(Qt.Key.Key_X, Ctrl)
    assert plain(content(hands)) == "alpha beta"
    assert QGuiApplication.clipboard().text() == "gamma"
    hands.key(Qt.Key.Key_Home, Ctrl)
    hands.key(Qt.Key.Key_V, Ctrl)
    assert plain(content(hands)) == "gammaalpha beta"
    hands.key(Qt.Key.Key_A, Ctrl)
    hands.type("z")
    assert plain(content(hands)) == "z"


def test_the_tool_keys_are_letters_while_a_text_is_edited(hands):
    new_frame(hands)
    hands.type("1 2 3")
    assert plain(content(hands)) == "1 2 3" and hands.session.tool == "select"


def test_double_click_edits_and_a_click_places_the_caret(hands):
    page = all_pages(hands.publication)[8]
    hands.session.show_page(page.id)
    item = hands.item(page, "Month")
    hands.double(1, item.x + 20, item.y + 20)
    assert hands.session.editing.item_id == item.id
    hands.click(1, item.x + 1, item.y + 20)
    hands.type("In ")
    text = hands.item(find_page(hands.publication, page.id), "Month").text
    assert plain(text) == "In March"
    hands.click(1, 300, 640)  # outside: leaves the text
    assert hands.session.editing is None


def test_styles_from_the_strip(hands):
    new_frame(hands)
    hands.type("Season")
    hands.window.strip.style_field.committed.emit("heading")
    assert content(hands)[0].style == "heading"
    hands.key(Qt.Key.Key_A, Ctrl)
    hands.window.strip.look.committed.emit("emphasis")
    assert content(hands)[0].content == (Run("Season", "emphasis"),)


def test_text_that_does_not_fit_is_explained(hands):
    new_frame(hands)
    hands.type("word " * 120)
    hands.key(Qt.Key.Key_Escape)
    sentence = hands.window.properties.form.overflow.text()
    assert "not fit" in sentence and "pt high" in sentence


def test_a_huge_paste_is_refused_and_changes_nothing(hands):
    new_frame(hands)
    hands.type("kept")
    QGuiApplication.clipboard().setText("x" * 1_000_000)
    hands.key(Qt.Key.Key_V, Ctrl)
    assert plain(content(hands)) == "kept"
    assert "can hold" in hands.notices[-1]


def test_a_masters_text_on_a_page_asks_first_and_then_is_an_override(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    head = hands.item(find_master(hands.publication, hands.master("Text")), "Running head")
    pulled = []
    hands.desk.master_item_pulled.disconnect()
    hands.desk.master_item_pulled.connect(pulled.append)
    hands.double(1, head.x + 20, head.y + 5)
    assert hands.session.editing is None and len(pulled) == 1
    hands.session.unlock(page, head.id)
    hands.double(1, head.x + 20, head.y + 5)
    hands.type("!")
    (override,) = find_page(hands.publication, page).overrides
    assert plain(override.text).startswith("!")  # where it was clicked
    master = find_master(hands.publication, hands.master("Text"))
    assert hands.item(master, "Running head").text == head.text


def test_delete_belongs_to_the_text_even_with_a_page_selected(hands):
    hands.session.select_pages((hands.page(9),))
    new_frame(hands)
    hands.type("abc")
    hands.key(Qt.Key.Key_Home)
    hands.key(Qt.Key.Key_Delete)
    assert plain(content(hands)) == "bc"
    assert len(all_pages(hands.publication)) == 32


def test_a_page_clicked_in_the_run_is_not_deleted_by_a_key_on_the_desk(hands):
    hands.session.select_pages((hands.page(9),))
    hands.session.show_page(hands.page(9))
    hands.desk.setFocus()
    hands.do("delete")
    assert len(all_pages(hands.publication)) == 32
    hands.window.run.setFocus()
    hands.do("delete")
    assert len(all_pages(hands.publication)) == 31
