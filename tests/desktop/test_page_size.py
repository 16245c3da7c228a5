"""Another page size, from Properties and from the menu, tried on the desk before it is kept."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.size import SizeDialog
from hidden_frame.desktop.state import slices
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.size.resize import resize
from hidden_frame.model.geometry import Size
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.units import mm
from hidden_frame.settle.settling import settled


def type_into(field, text: str, end=Qt.Key.Key_Tab) -> None:
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)
    QTest.keyClick(field, end)


def publication_rows(hands, qtbot):
    """Properties, at what is said of the publication."""
    hands.settle(qtbot)
    form = hands.window.properties.form
    form.reveal(form.setup.wide)
    hands.app.processEvents()
    return form.setup


def the_dialog(hands) -> SizeDialog:
    (dialog,) = [d for d in hands.window.findChildren(SizeDialog) if d.isVisible()]
    return dialog


def test_a_width_typed_in_properties_is_asked_about_and_kept_as_one_step(hands, qtbot):
    before = hands.publication
    rows = publication_rows(hands, qtbot)
    type_into(rows.wide, "160 mm")
    dialog = the_dialog(hands)
    assert hands.publication is before
    seen = hands.session.publication
    assert seen.setup.trim == Size(mm(160), before.setup.trim.height)
    assert seen.masters == resize(before, Size(mm(160), before.setup.trim.height)).masters
    qtbot.waitUntil(lambda: dialog.trying.whole, timeout=20_000)
    assert dialog.told.text().startswith("160 mm × 240 mm. ")
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    now = hands.publication
    assert now == settled(resize(before, Size(mm(160), before.setup.trim.height)))
    assert [p.id for p in all_pages(now)] == [p.id for p in all_pages(before)]
    hands.do("undo")
    assert hands.publication is before


def test_the_desk_shows_each_way_and_escape_leaves_everything(hands, qtbot):
    before = hands.publication
    hands.session.edit("blind", lambda p: p)
    dialog = hands.window.dialogs.size()
    assert dialog.told.text() == "No changes yet." and hands.session.draft is None
    page = hands.session.page_id
    type_into(dialog.high, "200mm + 10mm")
    drawn = {}
    for row, name in enumerate(("follow", "scale", "stay")):
        dialog.items.setCurrentIndex(row)
        dialog.items.take(row)
        drawn[name] = hands.session.composition.scene(page)
        assert hands.session.publication.setup.trim.height == pytest.approx(mm(210), abs=0.01)
        assert dialog.factor.isHidden() == (name != "scale")
    assert len(set(map(id, drawn.values()))) == 3
    QTest.keyClick(dialog, Qt.Key.Key_Escape)
    assert hands.publication is before and hands.session.draft is None
    assert not dialog.isVisible()


@pytest.mark.parametrize(
    ("field", "typed", "said"),
    [
        ("wide", "0", "Width must be at least"),
        ("wide", "10 m", "“10 m”"),
        ("high", "10000 mm", "Height must be at most"),
        ("wide", "30 mm", "leave no room"),
        ("bleed", "-1", "Bleed must be at least"),
        ("bleed", "", "A length is missing"),
    ],
)
def test_what_can_not_be_is_said_and_nothing_changes(hands, qtbot, field, typed, said):
    before = hands.publication
    dialog = hands.window.dialogs.size()
    one = getattr(dialog, field)
    one.setFocus()
    one.selectAll()
    QTest.keyClick(one, Qt.Key.Key_Delete)
    QTest.keyClicks(one, typed)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert dialog.isVisible() and said in dialog.form.problem.text()
    assert dialog.form.problem.isVisible()
    assert hands.publication is before and hands.session.draft is None
    dialog.reject()


def test_scaled_by_a_factor_with_its_type(hands, qtbot):
    before = hands.publication
    dialog = hands.window.dialogs.size(Size(mm(85), mm(120)))
    dialog.items.setCurrentIndex(1)
    dialog.items.take(1)
    assert "50.0 %" in dialog.factor.placeholderText()
    type_into(dialog.factor, "40 %")
    QTest.mouseClick(dialog.type_too, Qt.MouseButton.LeftButton)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    wanted = resize(before, Size(mm(85), mm(120)), items="scale", factor=0.4, type_too=True)
    assert hands.publication == settled(wanted)


def test_margins_by_a_construction_for_the_new_size(hands, qtbot):
    dialog = hands.window.dialogs.size(Size(mm(150), mm(210)))
    field = dialog.margins[""]
    row = field.findText("Ninths")
    field.setCurrentIndex(row)
    field.take(row)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert hands.publication.setup.margins.top == pytest.approx(mm(210) / 9)


def test_bleed_and_unit_are_rows_of_properties(hands, qtbot):
    rows = publication_rows(hands, qtbot)
    type_into(rows.bleed, "5 mm")
    assert hands.publication.setup.bleed == pytest.approx(mm(5))
    row = rows.unit.findText("pt")
    rows.unit.setCurrentIndex(row)
    rows.unit.take(row)
    hands.settle(qtbot)
    rows = publication_rows(hands, qtbot)
    assert hands.publication.setup.unit == "pt" and rows.wide.text().endswith("pt")
    hands.do("undo")
    hands.do("undo")
    assert hands.publication.setup.bleed == pytest.approx(mm(3))


def test_a_unit_chosen_while_a_field_holds_a_sum_loses_nothing(hands, qtbot):
    rows = publication_rows(hands, qtbot)
    before = hands.publication
    rows.bleed.setFocus()
    rows.bleed.selectAll()
    QTest.keyClicks(rows.bleed, "3mm + 6pt")
    row = rows.unit.findText("in")
    rows.unit.setFocus()  # the field is left: it counts
    rows.unit.setCurrentIndex(row)
    rows.unit.take(row)
    assert hands.publication.setup.bleed == pytest.approx(before.setup.bleed + 6)
    assert hands.publication.setup.unit == "in"


def test_two_thousand_pages_are_left_half_way(hands, monkeypatch):
    monkeypatch.setattr(slices, "AT_ONCE", 0.0)
    big = new_publication("Big", hands.publication.setup, 2000)
    hands.session.replace_all(big, {}, None)
    dialog = hands.window.dialogs.size(Size(mm(150), mm(210)))
    assert not dialog.trying.whole
    dialog.reject()
    for _ in range(20):
        hands.app.processEvents()
    assert hands.publication is big and hands.session.draft is None


@pytest.mark.parametrize("words", ["page size", "format", "trim", "bleed", "unit"])
def test_find_leads_there(finder_of, words):
    finder = finder_of()
    finder.word.setText(words)
    first, *_ = [finder.list.topLevelItem(n) for n in range(finder.list.topLevelItemCount())]
    assert "Page size" in first.text(0) or first.text(2) == "Properties › publication"
