"""The desk keeps its scale and place: when one writes, and after flatplan, board and Run."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt

from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages

FITS = ("spread", "page", "width", "by hand")


@pytest.fixture
def text(hands, qtbot):
    """A page with a text of its own, its face and the frame."""
    hands.window.resize(1280, 800)
    for page in all_pages(hands.publication):
        for item in page.items:
            if isinstance(item, TextFrame) and item.text:
                hands.session.show_page(page.id)
                hands.settle(qtbot)
                return page.id, item
    raise AssertionError


def look(hands, qtbot, fit):
    if fit == "by hand":
        hands.desk.camera.zoom_by(1.4)
        hands.desk.camera.scroll_by(37, -21)
    else:
        hands.desk.camera.fit_to(fit)
    hands.settle(qtbot)
    return hands.desk.camera.view


@pytest.mark.parametrize("fit", FITS)
def test_the_text_bar_changes_neither_scale_nor_place(hands, qtbot, text, fit):
    page, item = text
    before = look(hands, qtbot, fit)
    face = next(f for f in hands.session.faces() if f.holder_id == page)
    hands.session.select_items(face, (item.id,))
    top = hands.desk.mapToGlobal(hands.desk.rect().topLeft()).y()
    hands.key(Qt.Key.Key_Return)
    hands.settle(qtbot)
    assert hands.session.editing is not None and hands.window.strip.isVisible()
    now = hands.desk.camera.view
    moved = hands.desk.mapToGlobal(hands.desk.rect().topLeft()).y() - top
    assert (now.zoom, now.dx, now.dy + moved) == (before.zoom, before.dx, before.dy)
    hands.type("Snow ")
    hands.key(Qt.Key.Key_Escape)
    hands.settle(qtbot)
    assert not hands.window.strip.isVisible() and hands.desk.camera.view == before


@pytest.mark.parametrize("fit", FITS)
@pytest.mark.parametrize("way", ["flatplan", "board"])
def test_a_page_comes_back_to_the_desk_as_it_lay_there(hands, qtbot, text, fit, way):
    page, _ = text
    before = look(hands, qtbot, fit)
    hands.do(way)
    hands.settle(qtbot)
    assert hands.session.pane == way
    if way == "flatplan":
        hands.session.open_from_flatplan(page)
    else:
        hands.session.show_page(page)
    hands.settle(qtbot)
    assert hands.session.pane == "desk" and hands.desk.camera.view == before


def test_the_other_page_of_the_spread_is_chosen_without_the_desk_moving(hands, qtbot, text):
    before = look(hands, qtbot, "spread")
    for face in hands.session.faces():
        hands.session.show_page(face.holder_id)
        hands.settle(qtbot)
        assert hands.desk.camera.view == before


def test_another_page_is_in_sight_however_near_one_had_looked(hands, qtbot, text):
    """Chosen in the Run or the flatplan, the page that lies aside is brought into sight."""
    two = next(p.id for n, p in enumerate(all_pages(hands.publication)) if n == 5)
    hands.session.show_page(two)
    hands.settle(qtbot)
    first, second = hands.session.faces()
    hands.session.show_page(second.holder_id)
    hands.desk.camera.fit_to("page")
    hands.desk.camera.zoom_by(4.0)
    for face in (first, second):
        hands.session.show_page(face.holder_id)
        hands.settle(qtbot)
        view, trim = hands.desk.camera.view, hands.publication.setup.trim
        left, _ = view.to_widget(face.x, 0)
        right, _ = view.to_widget(face.x + trim.width, 0)
        assert min(right, hands.desk.width()) - max(left, 0) > 60
