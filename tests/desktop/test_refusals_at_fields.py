"""What is refused is said under the field that is at fault: a refusal knows its field."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox
from tests.desktop.test_lists_and_words import DIALOGS

import hidden_frame
from hidden_frame.desktop.dialogs import masters, repeat
from hidden_frame.desktop.fields.fields import TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.model.errors import Refusal

MASTERS = {
    **DIALOGS,
    "rename master": lambda h: masters.RenameMasterDialog(
        h.session, h.publication.masters[0].id, h.window
    ),
    "repeat": lambda h: repeat.RepeatDialog(h.session, h.window),
}
# The dialog, its field, what is typed, and what is said of it.
WRONG = [
    ("add", "count", "many", "not a number of pages"),
    ("add", "count", "20000", "not a number of pages"),
    ("delete pages", "range", "zz", "names no page"),
    ("delete pages", "range", "all", "at least one page"),
    ("apply", "range", "9-3", "runs backwards"),
    ("apply", "range", "", "range is empty"),
    ("move", "page", "nowhere", "names no page"),
    ("section", "start", "-4", "can’t start at"),
    ("guides", "rows", "x", "not a number"),
    ("guides", "across", "90in", "leave no room"),
    ("settings", "nudge", "-1", "not a step for the arrow keys"),
    ("settings", "reach", "400", "not a distance for snapping"),
    ("new", "pages", "0", "not a number of pages"),
    ("new", "columns", "0", "not a number of columns"),
    ("new", "width_field", "1", "too small"),
    ("rename master", "name", "  ", "has no name"),
    ("paragraph", "name", "", "can't be named"),
]


def _shown(hands, qtbot, name):
    dialog = MASTERS[name](hands)
    qtbot.addWidget(dialog)
    dialog.show()
    hands.app.processEvents()
    return dialog


@pytest.mark.parametrize("name, attribute, typed, said", WRONG)
def test_it_is_said_under_its_field_which_gets_the_keyboard(
    hands, qtbot, name, attribute, typed, said
):
    dialog = _shown(hands, qtbot, name)
    before = hands.session.history
    field = getattr(dialog, attribute)
    field.setText(typed)
    (dialog.ok if hasattr(dialog, "ok") else dialog).setFocus()
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    hands.app.processEvents()
    form = next(f for f in dialog.findChildren(Form) if f.isAncestorOf(field))
    assert dialog.isVisible() and said in form.problem.text()
    below = form.problem.mapTo(dialog, QPoint()).y() - field.mapTo(dialog, QPoint()).y()
    assert 0 < below < 2.5 * field.height()
    assert field.hasFocus() or not dialog.isActiveWindow()
    assert hands.session.history == before
    dialog.reject()


def test_an_edit_of_a_dialog_is_run_once(hands, qtbot, monkeypatch):
    ran = []

    def noted(*arguments):
        ran.append(arguments)
        return add_master(*arguments)

    monkeypatch.setattr(masters, "add_master", noted)
    dialog = _shown(hands, qtbot, "new master")
    dialog.name.setText("Sheet")
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert len(ran) == 1 and hands.publication.masters[-1].name == "Sheet"


def test_a_field_that_is_hidden_or_unknown_is_not_told_of(dressed, qtbot):
    form = Form()
    qtbot.addWidget(form)
    field, other = TextField("Width"), TextField("Height")
    form.row("Width", field, known_as="wide measure")
    form.row("Height", other)
    form.end()
    form.show()
    assert form.field_of(Refusal("-", field="measure")) is field
    assert form.field_of(Refusal("-", field="Width")) is field
    assert form.field_of(Refusal("-", field="height")) is other
    assert form.field_of(Refusal("“Width” is in the sentence")) is None
    form.show_row(other, False)
    assert form.field_of(Refusal("-", field="height")) is None
    form.say(Refusal("Too high.", field="height"))
    assert form.problem.isVisible() and form.problem.text() == "Too high."


def test_a_ticked_box_is_no_field_with_words(dressed, qtbot):
    form = Form()
    qtbot.addWidget(form)
    box = QCheckBox("On")
    form.row("On", box, known_as="on")
    form.end()
    form.show()
    assert form.field_of(Refusal("-", field="on")) is box


def test_no_form_searches_a_sentence():
    """Words may be changed, and translated: what is at fault is said beside them."""
    found = []
    for path in (Path(hidden_frame.__file__).parent / "desktop").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Compare) and any(
                isinstance(op, ast.In | ast.NotIn) for op in node.ops
            ):
                said = ast.unparse(node.comparators[0])
                if said in ("str(refusal)", "sentence", "str(error)"):
                    found.append((path.name, node.lineno))
    assert found == []
