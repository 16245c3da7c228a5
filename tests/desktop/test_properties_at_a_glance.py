"""Properties: groups that fold, levels, what depends on nothing, sentences at their field."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.panels.properties.item import ItemForm
from hidden_frame.desktop.panels.properties.page import PageForm
from hidden_frame.interact.hands.shown import change_shown
from hidden_frame.model.lookup import all_pages, find_master, find_page


def select(hands, kind: str) -> ItemForm:
    for page in all_pages(hands.publication):
        for item in page.items:
            if type(item).__name__ == kind:
                hands.session.show_page(page.id)
                face = next(f for f in hands.session.faces() if f.holder_id == page.id)
                hands.session.select_items(face, (item.id,))
                hands.app.processEvents()
                form = hands.window.properties.form
                assert isinstance(form, ItemForm)
                return form
    raise AssertionError(kind)


def seen(hands, field) -> bool:
    """Whether a field lies in the part of the panel that is in sight, unscrolled."""
    panel = hands.window.properties
    top = field.mapTo(panel.viewport(), QPoint()).y()
    return field.isVisible() and 0 <= top <= panel.viewport().height() - field.height()


@pytest.mark.parametrize(
    ("kind", "fields"),
    [
        ("TextFrame", ["X", "Y", "Width", "Height", "Style", "Vertical", "Columns", "Inset"]),
        ("PictureFrame", ["X", "Y", "Width", "Height", "Fit", "Scale"]),
        ("Shape", ["X", "Y", "Width", "Height", "Form", "Fill", "Stroke", "Opacity"]),
        ("Line", ["X", "Y", "Length", "Stroke", "Opacity", "Layer"]),
    ],
)
def test_the_common_properties_are_seen_without_scrolling(hands, kind, fields):
    hands.window.resize(1280, 800)
    form = select(hands, kind)
    for name in fields:
        field = next(f for f in form.findChildren(QWidget) if f.accessibleName() == name)
        assert seen(hands, field), name


def test_several_items_have_their_measures_in_pairs_too(hands):
    form = select(hands, "Shape")
    face = next(f for f in hands.session.faces() if f.holder_id == hands.session.page_id)
    page = find_page(hands.publication, hands.session.page_id)
    hands.session.select_items(face, tuple(i.id for i in page.items[:2]))
    hands.app.processEvents()
    several = hands.window.properties.form
    assert several is not form
    for left, right in (("x", "y"), ("width", "height")):
        assert several.fields[left].y() == several.fields[right].y()
        assert several.fields[left].geometry().right() < several.fields[right].x()


def test_the_digits_of_a_length_are_never_cut(hands):
    """Three decimals had room, but not their unit behind them: “109.199 mn”."""
    hands.window.resize(1000, 700)
    form = select(hands, "Shape")
    exact = 1109.199 * 72 / 25.4
    hands.session.edit("move", lambda p: change_shown(
        p, form.holder, form.side, {form.item_id: {"x": exact, "width": exact}}))  # fmt: skip
    hands.app.processEvents()
    for name in ("x", "width", "y", "height"):
        field = form.fields[name]
        wide = field.fontMetrics().horizontalAdvance(field.text())
        assert wide <= field.width() - 8, field.text()
    assert form.fields["width"].text().startswith("1109.2")
    hands.enter("Width", "30")
    assert form.fields["width"].text() == "30 mm"


def test_a_heading_folds_its_rows_and_remembers_it(hands):
    form = select(hands, "Shape")
    group = next(g for g in form.groups if g.text() == "LOOK")
    opacity = hands.field("Opacity")
    assert opacity.isVisible()
    QTest.mouseClick(group.head, Qt.MouseButton.LeftButton)
    assert not opacity.isVisible() and "ItemForm LOOK" in settings().now.folded
    assert "Show" in group.head.toolTip()
    other = select(hands, "Line")
    look = next(g for g in other.groups if g.text() == "LOOK")
    assert look.folded and not look.rows.isVisible()
    look.head.setFocus()
    QTest.keyClick(look.head, Qt.Key.Key_Space)
    assert look.rows.isVisible()
    again = select(hands, "Shape")
    assert next(g for g in again.groups if g.text() == "LOOK").rows.isVisible()


def test_what_depends_on_nothing_is_not_there(hands):
    form = select(hands, "Shape")
    hands.field("Stroke").committed.emit(None)
    for name in ("Stroke tint", "stroke width", "dash"):
        assert form.fields[name].isHidden(), name
    hands.field("Stroke").committed.emit("gold")
    for name in ("Stroke tint", "stroke width", "dash"):
        assert not form.fields[name].isHidden(), name
    hands.field("Wrap").committed.emit("box")
    assert not form.fields["distance"].isHidden()
    hands.field("Wrap").committed.emit(None)
    assert form.fields["distance"].isHidden()


def test_the_level_is_that_of_what_was_clicked(hands):
    first, second = hands.publication.sections[:2]
    hands.session.show_page(first.pages[0].id)
    form = hands.window.properties.form
    assert isinstance(form, PageForm) and form.levels.level == "Page"
    hands.session.select_section(second.id)
    assert form.levels.level == "Section"
    assert form.section.isVisible() and not form.blind.isVisible()
    hands.session.select_pages((second.pages[0].id,), second.pages[0].id)
    assert form.levels.level == "Page" and form.blind.isVisible()
    QTest.mouseClick(form.levels.buttons["Publication"], Qt.MouseButton.LeftButton)
    assert form.setup.title.isVisible()
    hands.session.select_pages((first.pages[0].id,), first.pages[0].id)
    assert form.levels.level == "Publication"  # chosen by hand, it stays


def test_a_sentence_stands_at_its_field_and_goes_when_it_is_mended(hands):
    form = select(hands, "Shape")
    width = hands.field("Width")
    hands.enter("Width", "nonsense")
    problem = form.problem
    assert problem.isVisible() and "nonsense" in problem.text()
    gap = problem.mapTo(form, QPoint()).y() - width.mapTo(form, QPoint()).y() - width.height()
    assert 0 <= gap <= 20
    hands.enter("Width", "40mm")
    assert not problem.isVisible()
    hands.enter("Opacity", "140")
    below = hands.field("Opacity")
    assert problem.mapTo(form, QPoint()).y() > below.mapTo(form, QPoint()).y()
    hands.enter("Opacity", "50")
    assert not problem.isVisible()
    shown = find_page(hands.publication, hands.session.page_id)
    assert any(i.opacity == 0.5 for i in shown.items)


def test_marks_of_overrides_never_push_a_field_out_of_sight(hands):
    """Fill and tint, x and y overridden: everything stays within the panel."""
    hands.window.resize(1280, 800)
    page = hands.page(9)
    hands.session.show_page(page)
    master = find_master(hands.publication, hands.master("Month table"))
    band = next(i for i in master.items if i.name == "Table head band")
    hands.session.unlock(page, band.id)
    hands.session.select_items(hands.session.faces()[1], (band.id,))
    for name, text in (("X", "30mm"), ("Y", "70mm"), ("Width", "60mm"), ("Height", "9mm")):
        hands.enter(name, text)
    hands.field("Fill").committed.emit("autumn")
    hands.app.processEvents()
    form = hands.window.properties.form
    shown = [b for b in form.follows.values() if b.isVisible()]
    assert len(shown) >= 4
    room = hands.window.properties.viewport().width()
    assert form.width() <= room
    for field in (*form.fields.values(), *shown):
        if field.isVisible():
            right = field.mapTo(form, QPoint(field.width(), 0)).x()
            assert right <= room, field.accessibleName()
