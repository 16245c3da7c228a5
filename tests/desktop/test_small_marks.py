"""What is seen in lists and thumbnails: groups, names of copies, pins, ties, two equal folios."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.desktop.dialogs.goto import GoToDialog
from hidden_frame.desktop.dialogs.order import MoveDialog
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.icons import bracketed, plain_icon
from hidden_frame.edit.items.draw import copy_name, duplicate_items, repeat_items
from hidden_frame.edit.pages.held import hold_pages
from hidden_frame.edit.pages.ties import tie
from hidden_frame.interact.finds.goto import find_place, places
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Shape
from hidden_frame.model.lookup import all_pages, find_page, section_of


def box(name: str) -> Shape:
    return Shape(id=name, x=0, y=0, width=9, height=9, name=name)


@settings(max_examples=200)
@given(st.lists(st.sampled_from(["Sky", "Sky 2", "Sky 3", "Text", "", "7", "A 9 B 1"])))
def test_a_copy_has_a_name_of_its_own(names):
    items = [box(n) for n in names]
    for name in set(names):
        made = copy_name(name, items)
        assert made not in names or made == ""
        assert copy_name(made, [*items, box(made)]) != made or made == ""


def test_copies_are_named_apart_wherever_they_come_from(hands):
    page = next(p for p in all_pages(hands.publication) if p.items)
    item = page.items[0]
    publication, _ = duplicate_items(hands.publication, page.id, [item.id])
    publication, _ = repeat_items(publication, page.id, [item.id], 4, 3, 3)
    names = [i.name for i in find_page(publication, page.id).items]
    assert len(set(names)) == len(names)
    hands.session.show_page(page.id)
    face = next(f for f in hands.session.faces() if f.holder_id == page.id)
    hands.session.select_items(face, (item.id,))
    hands.do("copy")
    hands.do("paste")
    names = [i.name for i in find_page(hands.publication, page.id).items]
    assert len(set(names)) == len(names)


def test_groups_are_seen_in_the_list_of_items(hands):
    page = next(p for p in all_pages(hands.publication) if len(p.items) > 2)
    hands.session.show_page(page.id)
    face = next(f for f in hands.session.faces() if f.holder_id == page.id)
    two = tuple(i.id for i in page.items[:2])
    hands.session.select_items(face, two)
    hands.do("group")
    hands.window.show_shelf("Items")
    hands.app.processEvents()
    hands.window.item_list.refresh()
    rows = hands.window.item_list.rows()
    for item_id, row in rows.items():
        assert ("In a group of 2" in row.toolTip(0)) == (item_id in two)
    name = "ph.image"
    plain, marked = (i.pixmap(16, 16).toImage() for i in (plain_icon(name), bracketed(name)))
    line = theme.current().action.lower()
    assert marked.pixelColor(0, 0).name() == marked.pixelColor(0, 15).name() == line
    assert plain.pixelColor(0, 0).name() != line


def test_both_pages_of_one_folio_are_shown_and_a_move_asks_which(hands, qtbot):
    hands.session.show_page(hands.page(20))
    hands.do("page one")
    facts = hands.session.composition.facts
    twice = [f for f in facts.values() if f.folio == "2"]
    assert len(twice) == 2
    dialog = GoToDialog(hands.session)
    qtbot.addWidget(dialog)
    dialog.word.setText("2")
    shown = [dialog.found.item(n).text() for n in range(dialog.found.count())]
    for each in twice:
        assert any(f"#{each.position}" in s and each.section_name in s for s in shown)
    dialog.found.setCurrentRow(1)
    dialog._accept()
    assert hands.session.page_id == twice[1].page_id
    with pytest.raises(Refusal, match="2 pages"):
        find_place(hands.publication, "2")
    assert len([p for p in places(hands.publication, "2") if p.kind == "page"]) == 2


def test_a_move_says_in_which_section_the_pages_will_stand(hands, qtbot):
    page = hands.page(9)
    dialog = MoveDialog(hands.session, (page,), None)
    qtbot.addWidget(dialog)
    dialog.page.setText("#14")
    name = section_of(hands.publication, hands.page(14)).name
    assert f"“{name}”" in dialog.what.text()
    dialog._accept()
    assert section_of(hands.publication, page).name == name


def colour_at(image, x, y):
    ratio = image.devicePixelRatio()
    return image.pixelColor(round(x * ratio), round(y * ratio)).name()


def test_ties_are_seen_in_the_run_and_pins_at_the_smallest_size(hands, qtbot):
    pages = [p.id for p in all_pages(hands.publication)]
    facts = hands.session.composition.facts
    left = next(p for p in pages if facts[p].side == "verso" and facts[p].position > 3)
    right = pages[pages.index(left) + 1]
    hands.session.edit("tie", lambda p: tie(p, left, right))
    hands.session.show_page(left)
    hands.settle(qtbot)
    run = hands.window.run
    seen = run._shown()
    cell = next(c for c in seen.layout.within(seen.scrolled, seen.scrolled + run.width())
                if c.facts.page_id == left)  # fmt: skip
    rect = seen.rect_of(cell)
    image = run.viewport().grab().toImage()
    action = theme.current().action.lower()
    assert colour_at(image, rect.right(), rect.bottom() - 8) == action

    hands.session.edit("hold", lambda p: hold_pages(p, (left,), True))
    hands.do("flatplan")
    plan = hands.window.flatplan
    plan.size_slider.setValue(plan.size_slider.minimum())
    hands.settle(qtbot)
    view = plan.view
    tile = next(t for t in view.layout_now().tiles_within(0, 9_999) if t.facts.page_id == left)
    wide, _ = view.layout_now().page
    assert wide < 40
    scrolled = view._shown().scrolled
    x, y = tile.x + wide / 2 - scrolled.x(), tile.y - scrolled.y()
    image = view.viewport().grab().toImage()
    near = {colour_at(image, x + a, y + b) for a in (-1, 0, 1) for b in (0, 1, 2)}
    assert action in near


def test_pages_in_the_run_keep_their_size_whether_they_just_fit_or_not(hands, qtbot):
    """With a bar that comes and goes the pages shrink as it comes, and it is not needed any more:
    two layouts for one window."""
    from hidden_frame.edit.pages.order import delete_pages

    run, widths = hands.window.run, set()
    for count in (30, 18, 17, 16, 15, 9):
        rest = [p.id for p in all_pages(hands.publication)][count:]
        hands.session.edit("fewer", lambda p, rest=rest: delete_pages(p, rest))
        hands.settle(qtbot)
        widths.add(round(run.layout_now().cells[0].width, 3))
    assert len(widths) == 1
