"""Paragraph styles seen on the desk while they are changed; colours chosen by their squares."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from hidden_frame.desktop.dialogs.colour import ColourDialog
from hidden_frame.desktop.dialogs.colour_choice import ColourChoice
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.edit.looks.colours import in_rgb
from hidden_frame.model.lookup import paragraph_style


def opened(hands, qtbot, style: str) -> StyleDialog:
    dialog = StyleDialog(hands.session, style)
    qtbot.addWidget(dialog)
    dialog.show()
    return dialog


def typed(field, text: str) -> None:
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)


def test_the_desk_shows_a_style_while_it_is_typed(hands, qtbot):
    kept = hands.session.history.now
    dialog = opened(hands, qtbot, "table-row")
    typed(dialog.lengths["size"], "13")
    assert hands.session.history.now is kept
    assert paragraph_style(hands.session.publication, "table-row").size == 13
    scene = hands.session.composition.scene(hands.page(9))
    sizes = {
        run.setting.size
        for placed in scene.placed
        if (block := placed.drawing.text) is not None
        for line in block.text.lines
        for run in line.runs
        if block.text.specs[line.paragraph].style_name == "Table row"
    }
    assert sizes == {13}
    dialog.reject()
    assert hands.session.publication is kept


def test_what_was_typed_of_one_style_stays_while_another_is_looked_at(hands, qtbot):
    dialog = opened(hands, qtbot, "table-row")
    typed(dialog.lengths["size"], "13")
    dialog._choose("body")
    assert dialog.ok.text() == "Change" and "Table row" in dialog.waiting.text()
    typed(dialog.lengths["leading"], "19")
    assert dialog.ok.text() == "Change 2 styles"
    dialog._choose("table-row")
    assert dialog.lengths["size"].text().startswith("13")
    steps = len(hands.session.history.past)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    now = hands.session.history.now
    assert paragraph_style(now, "table-row").size == 13
    assert paragraph_style(now, "body").leading == 19
    assert len(hands.session.history.past) == steps + 1  # one step takes both back


def test_what_makes_no_sense_is_not_left_behind(hands, qtbot):
    dialog = opened(hands, qtbot, "table-row")
    typed(dialog.lengths["size"], "huge")
    dialog._choose("body")
    assert dialog.style_id == "table-row" and "huge" in dialog.form.problem.text()
    assert dialog.chosen.currentItem().text() == "Table row"
    assert dialog.lengths["size"].text() == "huge"


def test_typed_back_is_no_change(hands, qtbot):
    dialog = opened(hands, qtbot, "table-row")
    before = dialog.lengths["size"].text()
    typed(dialog.lengths["size"], "13")
    typed(dialog.lengths["size"], before)
    assert dialog.changed == {} and hands.session.draft is None


def test_a_new_style_waits_for_its_name(hands, qtbot):
    dialog = opened(hands, qtbot, "body")
    typed(dialog.lengths["size"], "11.5")
    QTest.mouseClick(dialog.new, Qt.MouseButton.LeftButton)
    assert dialog.name.selectedText() == dialog.name.text() != ""
    assert "Body" in dialog.waiting.text()


def test_colours_stand_behind_their_squares(hands):
    field = ColourChoice("Fill", hands.session)
    colours = hands.publication.colours
    field.show_colours(colours[1].id, "none")
    assert field.currentText() == colours[1].name
    assert field.itemText(field.count() - 1) == "New colour…"
    for number, colour in enumerate(colours, 1):
        middle = field.itemIcon(number).pixmap(14, 14).toImage()
        seen = middle.pixelColor(middle.width() // 2, middle.height() // 2).getRgbF()[:3]
        assert max(abs(a - b) for a, b in zip(seen, in_rgb(colour), strict=True)) < 0.02


def test_squares_stay_when_another_entry_is_renamed(hands):
    field = ColourChoice("Fill", hands.session)
    field.show_colours(hands.publication.colours[1].id, "none")
    field.show_colours(hands.publication.colours[1].id, "as Strong")
    assert field.itemText(0) == "as Strong" and not field.itemIcon(2).isNull()


def test_a_new_colour_is_made_where_it_is_needed(hands, monkeypatch):
    def make(dialog: ColourDialog) -> int:
        assert not dialog.pick.isVisibleTo(dialog)
        dialog.name.setText("Heather")
        dialog.answer()
        return 1

    field = ColourChoice("Fill", hands.session)
    chosen = []
    field.committed.connect(chosen.append)
    field.show_colours(None, "none")
    monkeypatch.setattr(ColourDialog, "exec", make)
    field.take(field.count() - 1)
    made = next(c for c in hands.publication.colours if c.name == "Heather")
    assert chosen == [made.id] and field.currentText() == "Heather"
    monkeypatch.setattr(ColourDialog, "exec", lambda _: 0)
    field.take(field.count() - 1)
    assert chosen == [made.id] and field.currentText() == "Heather"


def test_a_dialog_that_shows_its_work_on_the_desk_stands_aside(hands, qtbot):
    hands.window.resize(1280, 800)
    dialog = StyleDialog(hands.session, "body", hands.window)
    qtbot.addWidget(dialog)
    dialog.show()
    hands.app.processEvents()
    assert dialog.width() < 560
    free = hands.window.screen().availableGeometry().right()
    edge = min(hands.window.frameGeometry().right(), free)
    assert 0 <= edge - dialog.frameGeometry().right() <= 12


def test_the_list_stays_in_sight_and_shows_names_as_they_are_now(hands, qtbot):
    dialog = opened(hands, qtbot, "body")
    typed(dialog.name, "Running text")
    rows = [dialog.chosen.item(n).text() for n in range(dialog.chosen.count())]
    assert "Running text" in rows and "Body" not in rows
    row = rows.index("Heading")
    dialog.chosen.setCurrentRow(row)
    assert dialog.style_id == hands.publication.paragraph_styles[row].id
    assert dialog.name.text() == "Heading"
    rows = [dialog.chosen.item(n).text() for n in range(dialog.chosen.count())]
    assert "Running text" in rows  # not kept yet, and shown
    dialog.reject()
    again = opened(hands, qtbot, "body")
    assert "Body" in [again.chosen.item(n).text() for n in range(again.chosen.count())]


def test_parts_of_the_form_are_jumped_to_and_marked_where_the_style_departs(hands, qtbot):
    dialog = opened(hands, qtbot, "body-next")
    qtbot.wait(30)
    parts = [dialog.jumps.item(n).text() for n in range(dialog.jumps.count())]
    assert len(parts) == 10 and any(p.startswith("◆") for p in parts)
    says = [p.name for p in dialog.parts if not p.follow.isHidden()]
    assert says and not all(p.startswith("◆") for p in parts)
    row = next(n for n, p in enumerate(parts) if "Keep together" in p)
    rect = dialog.jumps.visualItemRect(dialog.jumps.item(row))
    QTest.mouseClick(dialog.jumps.viewport(), Qt.MouseButton.LeftButton, pos=rect.center())
    heading = next(h for h in dialog.form.findChildren(QLabel) if h.text() == "KEEP TOGETHER")
    assert not heading.visibleRegion().isEmpty()


def test_tab_goes_through_the_form_before_the_buttons(hands, qtbot):
    dialog = opened(hands, qtbot, "body")
    dialog.chosen.setFocus()
    passed = []
    for _ in range(6):
        QTest.keyClick(dialog.focusWidget(), Qt.Key.Key_Tab)
        passed.append(dialog.focusWidget().accessibleName() or dialog.focusWidget().text())
    assert passed == ["New, like this", "New, based on this", "Delete…", "Name", "Based on", "Font"]
    assert dialog.ok.isDefault()
