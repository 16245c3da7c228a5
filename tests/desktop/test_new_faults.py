"""New and Start a section: what is wrong is said at once, at its field, and goes when mended."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.new import NewDialog
from hidden_frame.desktop.dialogs.order import SectionDialog
from hidden_frame.desktop.dialogs.pages import ApplyDialog, RangeDialog


@pytest.fixture
def dialog(dressed, qtbot):
    dialog = NewDialog()
    qtbot.addWidget(dialog)
    dialog.show()
    return dialog


def typed(field, text):
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, text)


def below(form, field):
    """Whether the sentence stands right under a field."""
    place = form.problem.mapTo(form, QPoint(0, 0)).y()
    return form.problem.isVisible() and 0 < place - field.mapTo(form, QPoint(0, 0)).y() < 90


CASES = [
    ("width_field", "0", "Width “0” is too small", "148mm"),
    ("height_field", "huge", "Height:", "210mm"),
    ("bleed", "-3mm", "Bleed", "3mm"),
    ("columns", "many", "number of columns", "2"),
    ("pages", "0", "number of pages", "12"),
    ("pages", "99999", "number of pages", "48"),
    ("width_field", "30m", "", "148mm"),
]


@pytest.mark.parametrize(("name", "wrong", "said", "right"), CASES)
def test_a_fault_stands_at_its_field_at_once_and_goes_when_mended(dialog, name, wrong, said, right):
    field = getattr(dialog, name)
    typed(field, wrong)
    assert said in dialog.form.problem.text() and below(dialog.form, field)
    QTest.keyClick(field, Qt.Key.Key_Tab)  # it stays when the field is left
    assert said in dialog.form.problem.text() and below(dialog.form, field)
    QTest.keyClick(dialog, Qt.Key.Key_Return)
    assert dialog.publication is None and dialog.isVisible() and field.hasFocus()
    typed(field, right)
    assert not dialog.form.problem.isVisible()
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert dialog.publication is not None


def test_the_first_wrong_field_is_named_first(dialog):
    typed(dialog.pages, "none")
    typed(dialog.margins["Inside"], "x")
    typed(dialog.width_field, "y")
    assert dialog.form.problem.text().startswith("Width")
    typed(dialog.width_field, "148mm")
    assert dialog.form.problem.text().startswith("Inside")


def test_margins_that_leave_no_room_are_said_at_a_margin(dialog):
    typed(dialog.margins["Inside"], "100mm")
    typed(dialog.margins["Outside"], "80mm")
    assert dialog.form.problem.isVisible() and dialog.form.problem.text()
    assert any(below(dialog.form, f) for f in dialog.margins.values())


def test_a_section_that_can_not_start_so_is_told_once(hands, qtbot):
    dialog = SectionDialog(hands.session, hands.page(9))
    qtbot.addWidget(dialog)
    dialog.show()
    typed(dialog.start, "soon")
    assert "soon" in dialog.form.problem.text() and below(dialog.form, dialog.start)
    assert not dialog.shown.text().strip()
    QTest.keyClick(dialog.start, Qt.Key.Key_Tab)
    assert "soon" in dialog.form.problem.text()
    typed(dialog.start, "7")
    assert not dialog.form.problem.isVisible() and "7" in dialog.shown.text()


@pytest.mark.parametrize("made", [ApplyDialog, RangeDialog])
def test_a_range_that_names_no_page_stays_told_when_the_field_is_left(hands, qtbot, made):
    dialog = made(hands.session)
    qtbot.addWidget(dialog)
    dialog.show()
    typed(dialog.range, "#99")
    assert "names no page" in dialog.form.problem.text()
    QTest.keyClick(dialog.range, Qt.Key.Key_Tab)
    assert "names no page" in dialog.form.problem.text() and below(dialog.form, dialog.range)
    typed(dialog.range, "#9")
    QTest.keyClick(dialog.range, Qt.Key.Key_Tab)
    assert not dialog.form.problem.isVisible()
