"""The Run, the Shelf and Properties, by mouse and key."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QByteArray, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest

from hidden_frame.desktop.shell.window import Window
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.drops import MASTER_MIME
from hidden_frame.edit.pages.order import delete_pages
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.lookup import (
    all_pages,
    find_master,
    find_page,
    positions,
    section_of,
    stack_of,
)
from hidden_frame.model.paint import Fill

Ctrl = Qt.KeyboardModifier.ControlModifier
Shift = Qt.KeyboardModifier.ShiftModifier


def thumb(hands, position) -> QPoint:
    return hands.window.run.rect_of(hands.page(position)).center().toPoint()


def click(hands, position, held=Qt.KeyboardModifier.NoModifier):
    view = hands.window.run.viewport()
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, held, thumb(hands, position))
    hands.app.processEvents()


def test_a_click_lays_the_page_on_the_desk_and_the_status_names_it_twice(hands):
    assert hands.session.pages == ()  # nothing is selected on arrival
    click(hands, 9)
    assert hands.session.page_id == hands.page(9)
    words = "prints as 3 · 9th of 32 · recto · Spring"
    assert hands.window.status.words() == words == hands.window.status.page.text()


def test_selecting_several_and_dragging_them(hands):
    click(hands, 8)
    click(hands, 10, Ctrl)
    wanted = [hands.page(8), hands.page(10)]
    assert list(hands.session.pages) == wanted
    run = hands.window.run
    target = run.rect_of(hands.page(12)).topLeft().toPoint() + QPoint(-2, 30)
    hands.pull(run.viewport(), thumb(hands, 10), target, drop=False)
    assert run.hand.words.startswith("Move 2 pages before ")
    hands.pull(run.viewport(), thumb(hands, 10), target)
    order = positions(hands.publication)
    assert [order[w] for w in wanted] == [10, 11]
    assert hands.window.commands["undo"].text() == "Undo move 2 pages"
    hands.do("undo")
    assert [positions(hands.publication)[w] for w in wanted] == [8, 10]


def test_the_side_of_a_section_boundary_decides(hands):
    click(hands, 9)
    run = hands.window.run
    boundary = run.rect_of(hands.page(12))  # the first page of Summer
    page = hands.page(9)
    hands.pull(run.viewport(), thumb(hands, 9), QPoint(round(boundary.left()) - 14, 60))
    assert section_of(hands.publication, page).name == "Spring"
    assert positions(hands.publication)[page] == 11
    hands.do("undo")
    hands.pull(run.viewport(), thumb(hands, 9), QPoint(round(boundary.left()) + 2, 60))
    assert section_of(hands.publication, page).name == "Summer"


def test_add_duplicate_delete_and_undo(hands):
    click(hands, 9)
    hands.do("add page")
    assert len(all_pages(hands.publication)) == 33
    assert hands.session.page_id == hands.page(10)
    click(hands, 9)
    hands.do("duplicate pages")
    assert len(hands.session.pages) == 1 and hands.session.pages[0] == hands.page(10)
    copy = all_pages(hands.publication)[9]
    original = all_pages(hands.publication)[8]
    assert [i.name for i in copy.items] == [i.name for i in original.items]
    hands.do("delete pages")
    assert hands.notices[-1] == "Deleted 1 page from Spring; it keeps the other 6."
    for _ in range(3):
        hands.do("undo")
    assert len(all_pages(hands.publication)) == 32


def test_every_page_can_not_be_deleted(hands):
    click(hands, 1)
    click(hands, 32, Shift)
    assert len(hands.session.pages) == 32
    before = hands.publication
    hands.do("delete pages")
    assert hands.publication is before and "at least one page" in hands.notices[-1]


@pytest.mark.parametrize(("held", "expected"), [(Qt.KeyboardModifier.NoModifier, 1), (Ctrl, 2)])
def test_a_master_dropped_on_a_page_replaces_or_with_ctrl_adds(hands, held, expected):
    run = hands.window.run
    mime = QMimeData()
    seal = hands.master("Members’ seal")
    mime.setData(MASTER_MIME, QByteArray(seal.encode()))
    event = QDropEvent(
        QPointF(thumb(hands, 9)), Qt.DropAction.CopyAction, mime, Qt.MouseButton.LeftButton, held
    )
    run.dropEvent(event)
    page = find_page(hands.publication, hands.page(9))
    stack = stack_of(hands.publication, page)
    assert len(stack) == expected and stack[-1] == seal


def test_thumbnails_follow_a_master_while_it_is_drawn_on(hands, qtbot):
    page = hands.page(9)
    hands.window.thumbnails.finish()
    before = hands.window.run.viewport().grab().toImage()
    hands.session.show_master(hands.master("Month table"))
    hands.do("tool rectangle")
    hands.drag(1, (60, 300), (400, 600), drop=False)  # not dropped yet
    middle = hands.window.run.rect_of(page).center().toPoint() + QPoint(0, 20)

    def now():
        return hands.window.run.viewport().grab().toImage().pixelColor(middle)

    qtbot.waitUntil(lambda: now() != before.pixelColor(middle), timeout=5000)
    assert page in hands.window.run.ringed_pages()


def test_typed_values_with_units_and_bad_input_in_place(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    item = hands.item(find_page(hands.publication, page), "Moon 4")
    hands.click(1, item.x + 10, item.y + 10)
    hands.enter("X", "50mm + 3pt")

    def now():
        return next(i for i in find_page(hands.publication, page).items if i.id == item.id)

    assert now().x == pytest.approx(50 * 72 / 25.4 + 3)
    hands.enter("Rotation", "30")
    assert now().rotation == 30
    before = hands.publication
    hands.enter("Width", "12m + x")
    problem = hands.window.properties.form.problem
    assert hands.publication is before
    assert problem.isVisible() and "12m" in problem.text()
    hands.enter("Width", "-4")
    assert hands.publication is before and "more than 0" in problem.text()
    hands.field("Fill").committed.emit("winter")
    assert now().fill.colour == "winter" and now().fill.opacity == item.fill.opacity


def test_override_one_property_then_the_master_changes_and_the_rest_follows(hands):
    page = hands.page(9)
    master = hands.master("Month table")
    band = hands.item(find_master(hands.publication, master), "Table head band")
    hands.session.show_page(page)
    hands.click(1, band.x + 3, band.y + 3)
    assert hands.session.items == (band.id,)
    assert not hands.field("Fill").isEnabled()
    hands.button("Override here").click()
    hands.field("Fill").committed.emit("autumn")
    form = hands.window.properties.form
    assert form.follows["fill"].isVisible() and not form.follows["x"].isVisible()
    hands.session.show_master(master)
    hands.click(1, band.x + 3, band.y + 3)
    hands.enter("Height", "30pt")
    hands.field("Fill").committed.emit("gold")
    shown = shown_item(hands.publication, page, band.id, "recto")
    assert shown.height == 30 and shown.fill == Fill("autumn")
    hands.session.show_page(page)
    hands.click(1, band.x + 3, band.y + 3)
    hands.window.properties.form.follows["fill"].click()
    assert shown_item(hands.publication, page, band.id, "recto").fill == Fill("gold")
    assert find_page(hands.publication, page).overrides == ()


def test_a_second_master_based_on_the_first(hands):
    hands.session.show_master(hands.master("Text"))
    hands.do("new on")
    made = find_master(hands.publication, hands.session.master_id)
    assert made.base == hands.master("Text")
    row = hands.window.shelf.row_of(made.id)
    assert row.parent().text(0) == "Text"
    hands.enter("Name", "Interview")
    assert find_master(hands.publication, made.id).name == "Interview"
    hands.enter("Name", "Cover")
    assert "already a master" in hands.notices[-1]
    offered = [
        hands.field("Builds on").itemText(n) for n in range(hands.field("Builds on").count())
    ]
    assert "Interview" not in offered and "Text" in offered


def test_section_numbering_and_blind_folio_in_properties(hands):
    hands.session.show_page(hands.page(12))
    hands.field("Numbering").committed.emit("lower roman")
    hands.enter("Starts at", "3")
    assert hands.session.composition.facts[hands.page(12)].folio == "iii"
    before = hands.publication
    hands.enter("Starts at", "0")
    assert hands.publication is before
    assert "whole number from 1" in hands.window.properties.form.problem.text()
    hands.window.properties.form.blind.click()
    assert find_page(hands.publication, hands.page(12)).blind
    hands.enter("Name", "High summer")
    assert "High summer" in hands.window.status.words()


def test_details_on_the_shelf_change_every_page(hands):
    details = hands.window.shelf.details.tree
    details.topLevelItem(0).setText(1, "2032")
    scene = hands.session.composition.scene(hands.page(9))
    assert any("2032" in line for line in scene.text_of())
    details.topLevelItem(0).setText(0, "Year")
    assert [d.name for d in hands.publication.details] == ["Year", "Volume"]
    assert any("2032" in t for t in hands.session.composition.scene(hands.page(9)).text_of())


def test_a_detail_is_deleted_by_key_and_its_words_stay(hands):
    details = hands.window.shelf.details
    before = hands.session.composition.scene(hands.page(9)).text_of()
    assert not details.delete.isEnabled()
    row = details.tree.visualItemRect(details.tree.topLevelItem(0)).center()
    QTest.mouseClick(details.tree.viewport(), Qt.MouseButton.LeftButton, pos=row)
    hands.key(Qt.Key.Key_Delete, widget=details.tree)
    assert [d.name for d in hands.publication.details] == ["Volume"]
    assert hands.session.composition.scene(hands.page(9)).text_of() == before
    assert "stays there as plain text" in hands.notices[-1]
    hands.do("undo")
    assert len(hands.publication.details) == 2


def test_a_painting_composes_for_a_while_only_and_goes_on_by_itself(
    demo, dressed, qtbot, monkeypatch
):
    """Pages that were never looked at: what there is no time for comes a moment later."""
    window = Window(Session(*demo))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    window.resize(1280, 800)
    window.show()
    qtbot.wait(50)
    run, composer = window.run, window.session.composer
    monkeypatch.setattr("hidden_frame.desktop.views.run.view.SLICE", 0.0)
    run._more.stop()
    composer._pages.clear()
    run.viewport().repaint()
    seen = run.layout_now().within(0, run.viewport().width())
    assert run._more.isActive() and 0 < len(composer._pages) < len(seen)
    qtbot.waitUntil(lambda: len(composer._pages) >= len(seen), timeout=10_000)
    composer._pages.clear()
    run.finish()
    assert not run._more.isActive() and len(composer._pages) >= len(seen)
    assert all(window.thumbnails.kept(c.facts.page_id) is not None for c in seen)


def test_the_run_composes_nothing_before_the_desk_has_followed_an_edit(hands, qtbot):
    """A page that came into its sight was composed in the frame of the edit itself."""
    run, composer = hands.window.run, hands.session.composer
    run.finish()
    hands.session.edit("delete", lambda p: delete_pages(p, [hands.page(n) for n in range(2, 8)]))
    hands.window.desk.repaint()
    before = composer.composed
    run.viewport().repaint()
    assert composer.composed == before
    run.finish()
    assert composer.composed > before and run.thumbnails.kept(hands.page(12)) is not None
