"""What stopped a designer, by hand: names, carets, heads."""

from __future__ import annotations

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel, QLineEdit, QPushButton

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.desktop.dialogs.pages import ApplyDialog, DeleteMasterDialog, RangeDialog
from hidden_frame.desktop.dialogs.running_head import RunningHeadDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.desktop.fields.fields import LengthField
from hidden_frame.desktop.files.file_names import FileNames
from hidden_frame.desktop.shell.bars import TopBar
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.likely import first_heading
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, stack_of
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.units import mm


def test_a_name_typed_with_return_is_taken_though_completions_are_shown(qapp, qtbot, tmp_path):
    for name in ("year.pdf", "yearly.pdf", "years.pdf"):
        (tmp_path / name).write_bytes(b"x")
    watch = FileNames(qapp)
    dialog = QFileDialog(None, "Save", str(tmp_path))
    dialog.setOption(QFileDialog.Option.DontUseNativeDialog)
    dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
    dialog.setOption(QFileDialog.Option.DontConfirmOverwrite)
    qtbot.addWidget(dialog)
    dialog.open()
    qtbot.waitUntil(dialog.isVisible)
    field = dialog.findChild(QLineEdit)
    field.setFocus()
    qapp.processEvents()
    watch._look(None, field)  # offscreen there may be no focus to change
    QTest.keyClicks(field, "year")
    completer = field.completer()
    completer.complete()
    qapp.processEvents()
    popup = completer.popup()
    qtbot.waitUntil(popup.isVisible)
    QTest.keyClicks(popup, "ling.pdf")
    completer.popup().show()
    QTest.keyClick(popup, Qt.Key.Key_Return)
    qapp.processEvents()
    assert not dialog.isVisible()
    assert dialog.selectedFiles() == [str(tmp_path / "yearling.pdf")]


def test_double_click_puts_the_caret_where_it_was(hands):
    words = "one two three four five six seven eight nine ten"
    frame = TextFrame(id="", x=60, y=100, width=300, height=40,
                      text=(Paragraph("body", (Run(words),)),))  # fmt: skip
    page = hands.page(9)
    hands.session.show_page(page)
    hands.session.edit("text", lambda p: add_item(p, page, frame)[0])
    face = next(n for n, f in enumerate(hands.session.faces()) if f.holder_id == page)
    hands.click(face, 75, 107)
    hands.double(face, 75, 107)
    text = hands.desk.text
    assert plain(text.text) == words
    assert text.caret[1] <= 7 and text.anchor[1] <= 7
    hands.type("X", hands.desk)
    said = plain(find_page(hands.session.publication, page).items[-1].text)
    assert said.index("X") <= 7


def test_the_first_heading_in_use_is_chosen_and_never_the_body(hands, qtbot):
    bare = new_publication("Bare", hands.publication.setup, 2)
    assert first_heading(bare) == ""
    page = bare.sections[0].pages[0].id
    body = TextFrame(id="", x=60, y=60, width=200, height=90,
                     text=(Paragraph("body", (Run("text"),)),) * 3)  # fmt: skip
    bare, _ = add_item(bare, page, body)
    assert first_heading(bare) == ""
    # Many small captions do not make a heading of the text.
    small = replace(bare.paragraph_styles[0], id="caption", name="Caption", size=7.0)
    many = put_paragraph_style(bare, small)
    notes = TextFrame(id="", x=60, y=300, width=200, height=200,
                      text=(Paragraph("caption", (Run("a"),)),) * 9)  # fmt: skip
    many, _ = add_item(many, page, notes)
    assert first_heading(many) == ""
    hands.session.replace_all(bare, {}, None)
    put: list[object] = []
    dialog = RunningHeadDialog(hands.session, hands.window, put.append)
    qtbot.addWidget(dialog)
    assert (
        dialog.style_field.value() is None and "No page has a heading yet" in dialog.sample.text()
    )
    dialog._accept()
    assert not put and "No page has a heading yet" in dialog.form.problem.text()
    head = TextFrame(id="", x=60, y=10, width=200, height=40,
                     text=(Paragraph("heading", (Run("One"),)),))  # fmt: skip
    hands.session.edit("head", lambda p: add_item(p, page, head)[0])
    dialog = RunningHeadDialog(hands.session, hands.window, put.append)
    qtbot.addWidget(dialog)
    assert dialog.style_field.value() == "heading"


def test_lengths_show_two_decimals_and_keep_what_is_behind_them(qtbot):
    field = LengthField("Gutter", "mm")
    qtbot.addWidget(field)
    field.resize(200, 30)
    field.show_value(12.0)
    assert field.text() == "4.23 mm" and field.length() == 12.0
    field.setText("4.23")
    assert field.length() == pytest.approx(mm(4.23))
    field.unit = "in"
    field.show_value(9.0)
    assert field.text() == "0.125 in" and field.length() == 9.0


def test_a_style_that_is_only_looked_at_is_not_changed(hands, qtbot):
    style = replace(hands.publication.paragraph_styles[0], indent_left=11.3386)
    hands.session.edit("indent", lambda p: put_paragraph_style(p, style))
    before = hands.publication
    dialog = StyleDialog(hands.session, style.id, hands.window)
    qtbot.addWidget(dialog)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert hands.publication is before


def test_escape_in_a_field_goes_back_to_what_stood_there_and_then_closes(hands, qtbot):
    dialog = RangeDialog(hands.session, hands.window)
    qtbot.addWidget(dialog)
    dialog.show()
    dialog.range.setFocus()
    hands.app.processEvents()
    QTest.keyClick(dialog.range, Qt.Key.Key_Escape)
    assert not dialog.isVisible()  # nothing was typed
    dialog.show()
    dialog.range.clearFocus()
    dialog.range.setFocus()
    hands.app.processEvents()
    dialog.range.selectAll()
    QTest.keyClicks(dialog.range, "3-5")
    QTest.keyClick(dialog.range, Qt.Key.Key_Escape)
    assert dialog.range.text() == "all" and dialog.isVisible()
    QTest.keyClick(dialog.range, Qt.Key.Key_Escape)
    assert not dialog.isVisible()


def test_pages_by_what_they_are(hands, qtbot):
    publication = hands.publication
    facts = list(page_facts(publication).values())
    pages = {p.id: p for p in all_pages(publication)}
    rectos, versos = (pages_in_range(publication, w) for w in ("rectos", "versos"))
    assert rectos == [f.page_id for f in facts if f.side == "recto"]
    assert sorted(rectos + versos) == sorted(pages)
    assert pages_in_range(publication, "First  pages") == [
        s.pages[0].id for s in publication.sections
    ]
    assert pages_in_range(publication, "without items") == [
        f.page_id for f in facts if not pages[f.page_id].items
    ]
    dialog = ApplyDialog(hands.session, hands.window)
    qtbot.addWidget(dialog)
    for name in ("Rectos", "First pages", "Without items"):
        next(b for b in dialog.findChildren(QPushButton) if b.text() == name).click()
        assert dialog.pages() == pages_in_range(publication, name)


def test_a_master_that_goes_leaves_its_pages_to_its_base(hands, qtbot):
    text = hands.master("Text")
    dialog = DeleteMasterDialog(hands.session, text, hands.window)
    qtbot.addWidget(dialog)
    assert dialog.instead.currentText() == "Almanac base"
    said = " ".join(label.text() for label in dialog.findChildren(QLabel))
    assert "“Month table” builds on it, and will build on “Almanac base”." in said
    followed = hands.session.composition.followers(text)
    dialog._accept()
    assert all(stack_of(hands.publication, find_page(hands.publication, p)) for p in followed)


def test_a_fault_is_told_once_at_its_field_and_goes_when_it_is_mended(hands, qtbot):
    for dialog in (RangeDialog(hands.session, hands.window),
                   ApplyDialog(hands.session, hands.window)):  # fmt: skip
        qtbot.addWidget(dialog)
        dialog.show()
        dialog.range.setText("nowhere")

        def told(dialog=dialog) -> int:
            labels = [w.text() for w in dialog.findChildren(QLabel) if w.isVisibleTo(dialog)]
            return sum("“nowhere”" in text for text in labels)

        assert told() == 1
        dialog._accept()
        assert told() == 1 and dialog.isVisible()
        dialog.range.setText("3")
        assert told() == 0 and not dialog.form.problem.text()


def test_bars_lose_their_words_before_their_buttons(hands):
    bar = hands.window.findChild(TopBar)
    wide = bar.folding._needed(0, [])
    bar.folding._bar.resize(wide - 30, bar.height())
    bar.folding.fit()
    assert bar.folding.more.isHidden()
    buttons = (bar.finder, bar.proof, bar.folios, *bar.tools.values())
    assert all(b.isVisibleTo(bar) and b.toolTip() for b in buttons)
    bare = [b for b in buttons if b.toolButtonStyle() == Qt.ToolButtonStyle.ToolButtonIconOnly]
    assert bare and len(bare) < len(buttons)
    bar.folding._bar.resize(wide + 20, bar.height())
    bar.folding.fit()
    assert all(b.toolButtonStyle() != Qt.ToolButtonStyle.ToolButtonIconOnly for b in buttons)


def test_no_page_stays_selected_behind_the_dialog_of_rules(hands, qtbot):
    before = hands.session.pages
    dialog = hands.window.dialogs.rules()
    QTest.mouseClick(dialog.add, Qt.MouseButton.LeftButton)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert hands.session.pages == before


def test_save_as_and_export_propose_the_name_that_the_file_has(hands, monkeypatch, tmp_path):
    asked = []

    def ask(parent, title, start, kinds):
        asked.append(start)
        return "", ""

    monkeypatch.setattr(QFileDialog, "getSaveFileName", ask)
    hands.window.files.save_as()
    assert asked[-1] == "Night Sky Almanac.hframe"
    hands.session.path = tmp_path / "night-2.hframe"
    hands.window.files.save_as()
    assert asked[-1] == str(tmp_path / "night-2.hframe")


def test_most_of_a_page_means_the_page(hands, qtbot):
    hands.settle(qtbot)
    run, text = hands.window.run, hands.master("Text")
    layout = run.layout_now()
    cell = layout.cells[2]
    left, middle = layout.left_of(cell), QPointF(0, run.viewport().height() / 2)
    said = []
    for across in (2, 5, 8, cell.width / 2, cell.width - 8, cell.width - 2):
        x = left + across - run.horizontalScrollBar().value()
        said.append(run.hand.carry(text, QPointF(x, middle.y()), False))
    on_page = [drop is not None and drop.pages == (hands.page(3),) for drop in said]
    assert on_page == [False, False, True, True, True, False]


def test_a_running_head_is_given_its_colour_for_dark_ground(hands, qtbot):
    session = hands.session
    master = next(m for m in hands.publication.masters
                  for i in m.items if isinstance(i, TextFrame) and i.text)  # fmt: skip
    frame = next(i for i in master.items if isinstance(i, TextFrame) and i.text)
    session.show_master(master.id)
    session.select_items(None, (frame.id,))
    hands.key(Qt.Key.Key_Return)
    assert session.editing is not None
    dialog = RunningHeadDialog(session, hands.window, hands.desk.text.insert_marker)
    qtbot.addWidget(dialog)
    chosen = next(c.id for c in hands.publication.colours if c.id not in (frame.on_dark, "ink"))
    dialog.on_dark.show_colours(chosen, "the same")
    if not dialog.head().style:
        dialog.style_field.show_choice(
            [(s.name, s.id) for s in hands.publication.paragraph_styles], "heading"
        )
    dialog._accept()
    now = next(i for m in hands.publication.masters for i in m.items if i.id == frame.id)
    assert now.on_dark == chosen
    assert any(isinstance(c, Marker) and c.head is not None
               for p in now.text for c in p.content)  # fmt: skip
