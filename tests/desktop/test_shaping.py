"""Selecting, snapping, sizing, turning, copying, lining up: by mouse and key."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QColor

from hidden_frame.desktop.dialogs.repeat import RepeatDialog
from hidden_frame.desktop.look import theme
from hidden_frame.interact.hands.hits import turn_knob
from hidden_frame.interact.hands.snap_to import SnapTo
from hidden_frame.model.lookup import all_pages, find_master, find_page
from hidden_frame.model.plane.box import Box

Shift = Qt.KeyboardModifier.ShiftModifier
Ctrl = Qt.KeyboardModifier.ControlModifier
Alt = Qt.KeyboardModifier.AltModifier
PAGE = 9  # a recto with a table and eight moons


@pytest.fixture
def shapes(hands):
    """Three rectangles drawn on the lower, empty part of a page with nothing selected."""
    hands.session.show_page(hands.page(PAGE))
    # Near enough for a pixel to be less than a point.
    hands.desk.camera.zoom_by(2.4, QPointF(*hands.desk.camera.view.to_widget(700, 640)))
    for x, y, w, h in ((100, 575, 40, 30), (180, 590, 50, 20), (300, 580, 30, 40)):
        hands.do("tool rectangle")
        hands.drag(1, (x, y), (x + w, y + h))
    hands.key(Qt.Key.Key_Escape)
    made = find_page(hands.publication, hands.page(PAGE)).items[-3:]

    def now():
        items = {i.id: i for i in find_page(hands.publication, hands.page(PAGE)).items}
        return [items[m.id] for m in made]

    hands.now = now
    hands.ids = tuple(m.id for m in made)
    return hands


def box(item):
    return Box(item.x, item.y, item.width, item.height, item.rotation)


def middle(item):
    return item.x + item.width / 2, item.y + item.height / 2


# -- selecting -------------------------------------------------------------------------


def test_the_rubber_band_takes_what_it_touches_or_with_ctrl_what_it_encloses(shapes):
    a, b, c = shapes.now()
    # From above the first to the middle of the second.
    shapes.drag(1, (90, 572), (b.x + b.width / 2, 625))
    assert set(shapes.session.items) == {a.id, b.id}
    shapes.drag(1, (90, 572), (b.x + b.width / 2, 625), Ctrl)
    assert shapes.session.items == (a.id,)
    shapes.drag(1, (280, 572), (345, 628), Shift)
    assert set(shapes.session.items) == {a.id, c.id}
    before = shapes.publication
    shapes.drag(1, (150, 575), (170, 628))
    assert shapes.session.items == () and shapes.publication is before


def test_the_band_encloses_by_default_if_the_settings_say_so(shapes, preferences):
    preferences.change(enclosing=True)
    a, b, _ = shapes.now()
    shapes.drag(1, (90, 572), (b.x + b.width / 2, 625))
    assert shapes.session.items == (a.id,)
    shapes.drag(1, (90, 572), (b.x + b.width / 2, 625), Ctrl)
    assert set(shapes.session.items) == {a.id, b.id}


def test_the_band_never_takes_a_masters_item_or_a_locked_one(shapes):
    shapes.session.select_items(shapes.session.faces()[1], (shapes.ids[0],))
    shapes.do("lock")
    assert shapes.now()[0].locked and shapes.session.items == ()
    shapes.drag(1, (-30, 572), (470, 676))  # the foot with the folio too
    assert set(shapes.session.items) == {*shapes.ids[1:]}
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    assert a.id not in shapes.session.items
    shapes.do("unlock")
    shapes.click(1, *middle(a))
    assert shapes.session.items == (a.id,)


def test_ctrl_click_goes_down_through_overlapping_items(shapes):
    shapes.do("tool rectangle")
    shapes.drag(1, (95, 572), (150, 615))
    shapes.do("tool ellipse")
    shapes.drag(1, (98, 574), (140, 612))
    items = find_page(shapes.publication, shapes.page(PAGE)).items
    top, second, first = items[-1].id, items[-2].id, shapes.ids[0]
    shapes.key(Qt.Key.Key_Escape)
    seen = []
    for _ in range(4):
        shapes.click(1, 120, 590, Ctrl)
        seen.append(shapes.session.items)
    assert seen == [(top,), (second,), (first,), (top,)]


def test_everything_and_nothing(shapes):
    shapes.click(1, 160, 600)
    shapes.do("select all")
    page = find_page(shapes.publication, shapes.page(PAGE))
    assert set(shapes.session.items) == {i.id for i in page.items}
    assert "items" in shapes.window.properties.form.name.text()
    shapes.do("select none")
    assert shapes.session.items == ()


def test_a_group_is_picked_as_one_and_opened_by_a_double_click(shapes):
    face = shapes.session.faces()[1]
    shapes.session.select_items(face, shapes.ids[:2])
    shapes.do("group")
    a, b, c = shapes.now()
    shapes.key(Qt.Key.Key_Escape)
    shapes.click(1, *middle(b))
    assert set(shapes.session.items) == {a.id, b.id}
    shapes.drag(1, middle(b), (middle(b)[0], middle(b)[1] + 25))
    moved = shapes.now()
    assert [m.y - o.y for m, o in zip(moved, (a, b, c), strict=True)] == pytest.approx(
        [25, 25, 0], abs=1.5
    )
    shapes.double(1, *middle(moved[0]))
    assert shapes.session.items == (a.id,)
    shapes.do("ungroup")
    assert all(i.group is None for i in shapes.now())


# -- snapping --------------------------------------------------------------------------


def test_a_moved_item_snaps_to_a_margin_and_says_so(shapes, preferences):
    preferences.change(snapping=True, snap=SnapTo(items=False, gaps=False))
    a = shapes.now()[0]
    margins = shapes.publication.setup.margins
    target = margins.inside - a.x  # to the inside margin of a recto, but for three points
    shapes.drag(1, middle(a), (middle(a)[0] + target + 3, middle(a)[1] + 13), drop=False)
    (line,) = [x for x in shapes.desk.hand.gesture.lines if x.axis == "x"]
    assert line.word == "margin" and line.measure == pytest.approx(margins.inside)
    # The line is painted in the snap colour where the margin is.
    image = shapes.desk.grab().toImage()
    x, y = shapes.desk.camera.view.to_widget(line.at, 500)
    near = [QColor(image.pixel(round(x) + n, round(y))) for n in (-1, 0, 1)]
    snap = QColor(theme.current().snap)
    assert any(abs(c.hue() - snap.hue()) < 12 and c.saturation() > 90 for c in near)
    shapes.again("drop", shapes.desk, shapes.at(1, middle(a)[0] + target + 3, middle(a)[1] + 13))
    assert shapes.now()[0].x == pytest.approx(margins.inside, abs=1e-9)


def test_ctrl_suspends_snapping_and_f9_turns_it_off(shapes, preferences):
    preferences.change(snapping=True)
    a = shapes.now()[0]
    inside = shapes.publication.setup.margins.inside
    there = (middle(a)[0] + inside - a.x + 3, middle(a)[1])
    shapes.drag(1, middle(a), there, Ctrl)
    assert abs(shapes.now()[0].x - inside) > 1.5
    shapes.do("undo")
    shapes.do("snapping")
    assert not preferences.now.snapping and "off" in shapes.window.status.snap.text()
    shapes.drag(1, middle(a), there)
    assert abs(shapes.now()[0].x - inside) > 1.5


def test_sizing_and_drawing_snap_to_other_items(shapes, preferences):
    preferences.change(snapping=True, snap=SnapTo(False, False, False, False, False))
    a, b, _ = shapes.now()
    shapes.click(1, *middle(a))
    corner = (a.x + a.width, a.y + a.height)
    shapes.drag(1, corner, (corner[0] + 5, b.y + b.height + 2))
    assert shapes.now()[0].y + shapes.now()[0].height == pytest.approx(b.y + b.height)
    shapes.key(Qt.Key.Key_Escape)
    shapes.do("tool rectangle")
    shapes.drag(1, (b.x + 2, 618), (b.x + b.width + 2, 636))
    made = find_page(shapes.publication, shapes.page(PAGE)).items[-1]
    assert made.x == pytest.approx(b.x)


def test_what_one_snaps_to_is_chosen_in_one_place(hands, preferences):
    assert hands.window.status.snap.menu() is hands.window.commands.menus["View > Snap to"]
    assert preferences.now.snap.guides
    hands.do("snap guides")
    assert not preferences.now.snap.guides
    assert not hands.window.commands["snap guides"].isChecked()


# -- moving, copying, sizing, turning ------------------------------------------------------


def test_alt_drag_copies_and_only_while_it_is_held(shapes):
    a = shapes.now()[0]
    count = len(find_page(shapes.publication, shapes.page(PAGE)).items)
    end = (middle(a)[0] + 60, middle(a)[1] + 40)
    shapes.drag(1, middle(a), end, Alt, drop=False)
    shapes.again("move", shapes.desk, shapes.at(1, *end))  # the key let go: no copy
    assert len(find_page(shapes.session.publication, shapes.page(PAGE)).items) == count
    shapes.again("move", shapes.desk, shapes.at(1, *end), Alt)
    shapes.again("drop", shapes.desk, shapes.at(1, *end), Alt)
    items = find_page(shapes.publication, shapes.page(PAGE)).items
    assert len(items) == count + 1 and shapes.now()[0] == a
    copy = items[-1]
    assert (copy.x, copy.y) == pytest.approx((a.x + 60, a.y + 40), abs=1.5)
    assert shapes.session.items == (copy.id,)
    assert shapes.session.history.past[-1].name == "copy"
    shapes.drag(1, middle(copy), (middle(copy)[0] + 60, middle(copy)[1]), Alt)  # and again
    assert len(find_page(shapes.publication, shapes.page(PAGE)).items) == count + 2


def test_pressing_alt_in_the_middle_of_a_drag_copies_at_once(shapes):
    a = shapes.now()[0]
    count = len(find_page(shapes.publication, shapes.page(PAGE)).items)
    shapes.drag(1, middle(a), (middle(a)[0] + 60, middle(a)[1] + 40), drop=False)
    shapes.key(Qt.Key.Key_Alt)  # pressed and let go
    assert len(find_page(shapes.session.publication, shapes.page(PAGE)).items) == count
    from PySide6.QtCore import QEvent
    from PySide6.QtGui import QKeyEvent

    press = QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_Alt, Qt.KeyboardModifier.NoModifier)
    shapes.app.sendEvent(shapes.desk, press)
    assert len(find_page(shapes.session.publication, shapes.page(PAGE)).items) == count + 1
    shapes.key(Qt.Key.Key_Escape)
    assert shapes.session.draft is None
    assert len(find_page(shapes.publication, shapes.page(PAGE)).items) == count


def test_an_item_dragged_over_the_spine_goes_to_the_facing_page(shapes):
    a = shapes.now()[0]
    shapes.do("fit spread")
    shapes.drag(1, middle(a), (-120, middle(a)[1]))
    left = find_page(shapes.publication, shapes.page(PAGE - 1)).items[-1]
    width = shapes.publication.setup.trim.width
    assert left.id == a.id and left.x == pytest.approx(width - 120 - a.width / 2, abs=2.5)
    assert shapes.session.holder_id == shapes.page(PAGE - 1)
    assert shapes.session.items == (a.id,)
    shapes.do("undo")
    assert shapes.now()[0].x == a.x


def test_alt_sizes_about_the_middle_and_shift_keeps_the_proportions(shapes):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    corner = (a.x + a.width, a.y + a.height)
    shapes.drag(1, corner, (corner[0] + 20, corner[1] + 10), Alt)
    new = shapes.now()[0]
    assert middle(new) == pytest.approx(middle(a), abs=1e-6)
    assert new.width == pytest.approx(a.width + 40, abs=3)
    shapes.do("undo")
    shapes.drag(1, corner, (corner[0] + 20, corner[1] + 2), Shift)
    new = shapes.now()[0]
    assert new.width / new.height == pytest.approx(a.width / a.height)


def test_several_are_sized_together(shapes):
    face = shapes.session.faces()[1]
    shapes.session.select_items(face, shapes.ids)
    before = shapes.now()
    right = max(i.x + i.width for i in before)
    bottom = max(i.y + i.height for i in before)
    left, top = min(i.x for i in before), min(i.y for i in before)
    shapes.drag(1, (right, bottom), (right + (right - left) / 2, bottom + (bottom - top) / 2))
    for old, new in zip(before, shapes.now(), strict=True):
        assert new.width == pytest.approx(old.width * 1.5, rel=0.02)
        assert new.x - left == pytest.approx((old.x - left) * 1.5, abs=2)
        assert new.y - top == pytest.approx((old.y - top) * 1.5, abs=2)
    assert shapes.session.history.past[-1].name == "resize 3 items"


def test_the_knob_turns_and_shift_turns_by_fifteen_degrees(shapes):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    away = 26 / shapes.desk.camera.view.zoom
    knob = turn_knob(box(a), away)
    cx, cy = middle(a)
    far = knob[0] - cx
    shapes.drag(1, knob, (cx + far * 0.7, cy + far * 0.7))
    assert shapes.now()[0].rotation == pytest.approx(45, abs=2)
    assert middle(shapes.now()[0]) == pytest.approx((cx, cy))
    shapes.do("undo")
    shapes.drag(1, knob, (cx + far * 0.8, cy + far * 0.5), Shift)
    assert shapes.now()[0].rotation == pytest.approx(30)


def test_several_turn_about_their_common_middle(shapes):
    shapes.session.select_items(shapes.session.faces()[1], shapes.ids[:2])
    found = shapes.desk.selected.box()
    whole = found[0]
    knob = turn_knob(whole, 26 / shapes.desk.camera.view.zoom)
    cx, cy = whole.centre
    far = knob[0] - cx
    before = shapes.now()[:2]
    shapes.drag(1, knob, (cx, cy + far), Shift)
    for old, new in zip(before, shapes.now()[:2], strict=True):
        assert new.rotation == pytest.approx(90)
        ox, oy = middle(old)[0] - cx, middle(old)[1] - cy
        assert middle(new) == pytest.approx((cx - oy, cy + ox), abs=1e-6)


def test_arrow_keys_nudge_by_the_step_that_was_set(shapes, preferences):
    preferences.change(nudge=2.5)
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    shapes.key(Qt.Key.Key_Left)
    shapes.key(Qt.Key.Key_Up, Shift)
    new = shapes.now()[0]
    assert (new.x, new.y) == pytest.approx((a.x - 2.5, a.y - 25))


def test_step_and_repeat_shows_the_copies_while_one_types(shapes, qtbot):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    before = len(find_page(shapes.publication, shapes.page(PAGE)).items)
    dialog = RepeatDialog(shapes.session)
    qtbot.addWidget(dialog)
    dialog.count.setText("4")
    dialog.across.setText("20pt")
    dialog.down.setText("1p")
    shown = find_page(shapes.session.publication, shapes.page(PAGE)).items
    assert len(shown) == before + 4
    dialog.down.setText("nonsense")
    dialog.box.accepted.emit()
    assert "nonsense" in dialog.form.problem.text()
    assert len(find_page(shapes.session.publication, shapes.page(PAGE)).items) == before
    dialog.down.setText("12pt")
    dialog.box.accepted.emit()
    items = find_page(shapes.publication, shapes.page(PAGE)).items[-4:]
    assert [i.x - a.x for i in items] == pytest.approx([20, 40, 60, 80])
    assert [i.y - a.y for i in items] == pytest.approx([12, 24, 36, 48])
    shapes.do("undo")
    assert len(find_page(shapes.publication, shapes.page(PAGE)).items) == before


def test_a_drag_to_the_edge_scrolls_as_far_as_there_is_paper(shapes):
    a = shapes.now()[0]
    before = shapes.desk.camera.view
    start, edge = shapes.at(1, *middle(a)), QPoint(300, 5)
    shapes.pull(shapes.desk, start, edge, drop=False)
    for _ in range(6):
        shapes.desk.edges.tick()
    assert shapes.desk.camera.view.dy == before.dy + 6 * 14  # the paper comes down
    shapes.again("drop", shapes.desk, edge)
    # What is dragged stays under the pointer.
    _, y = shapes.desk.camera.view.to_spread(edge.x(), edge.y())
    moved = next(
        i for n in (PAGE - 1, PAGE)
        for i in find_page(shapes.publication, shapes.page(n)).items if i.id == a.id
    )  # fmt: skip
    assert middle(moved)[1] == pytest.approx(y, abs=1.5)
    shapes.do("fit spread")  # all of it in sight: nothing scrolls
    view = shapes.desk.camera.view
    shapes.pull(shapes.desk, shapes.at(1, *middle(shapes.own(9, "Month"))), edge, drop=False)
    shapes.desk.edges.tick()
    assert shapes.desk.camera.view == view
    shapes.key(Qt.Key.Key_Escape)


# -- Properties ------------------------------------------------------------------------------


def test_typed_values_go_by_the_reference_point(shapes):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    points = shapes.field("Reference point")
    place = points.place_of((1, 1)).toPoint()
    from PySide6.QtTest import QTest

    QTest.mouseClick(points, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, place)
    assert shapes.session.reference == (1, 1)
    shapes.enter("X", "400pt")
    new = shapes.now()[0]
    assert new.x + new.width == pytest.approx(400)
    shapes.enter("Width", "10mm + 2pt")
    new = shapes.now()[0]
    assert new.width == pytest.approx(10 * 72 / 25.4 + 2)
    assert new.x + new.width == pytest.approx(400)
    before = shapes.publication
    shapes.enter("Height", "0")
    assert shapes.publication is before
    assert "more than 0" in shapes.window.properties.form.problem.text()
    QTest.keyClick(points, Qt.Key.Key_Left)
    assert shapes.session.reference == (0, 1)


def test_a_typed_angle_turns_about_the_reference_point(shapes):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    shapes.session.set_reference((-1, -1))
    shapes.enter("Rotation", "90")
    new = shapes.now()[0]
    assert new.rotation == 90
    assert box(new).point(-1, -1) == pytest.approx((a.x, a.y))
    shapes.session.set_reference((0, 0))
    shapes.enter("Rotation", "0")
    assert middle(shapes.now()[0]) == pytest.approx(middle(new))


def test_several_are_turned_by_typing(shapes):
    shapes.session.select_items(shapes.session.faces()[1], shapes.ids)
    before = shapes.now()
    left, top = min(i.x for i in before), min(i.y for i in before)
    shapes.enter("Turn by", "90")
    for old, new in zip(before, shapes.now(), strict=True):
        x, y = middle(old)[0] - left, middle(old)[1] - top
        assert new.rotation == pytest.approx(90)
        assert middle(new) == pytest.approx((left - y, top + x))


def test_several_are_placed_and_sized_by_typing(shapes):
    shapes.session.select_items(shapes.session.faces()[1], shapes.ids)
    before = shapes.now()
    shapes.enter("X", "60pt")
    assert min(i.x for i in shapes.now()) == pytest.approx(60)
    shift = 60 - min(i.x for i in before)
    assert [n.x - o.x for o, n in zip(before, shapes.now(), strict=True)] == pytest.approx(
        [shift] * 3
    )
    shapes.enter("Height", "200pt")
    now = shapes.now()
    assert max(i.y + i.height for i in now) - min(i.y for i in now) == pytest.approx(200)


def test_lining_up_by_buttons(shapes):
    shapes.session.select_items(shapes.session.faces()[1], shapes.ids)
    block = shapes.window.properties.form.arrange
    block.buttons["align bottom"].click()
    bottoms = [i.y + i.height for i in shapes.now()]
    assert bottoms == pytest.approx([max(bottoms)] * 3)
    block.buttons["distribute across"].click()
    a, b, c = sorted(shapes.now(), key=lambda i: i.x)
    assert b.x - a.x - a.width == pytest.approx(c.x - b.x - b.width)
    block.to.committed.emit("page")
    block.buttons["align right"].click()
    width = shapes.publication.setup.trim.width
    assert max(i.x + i.width for i in shapes.now()) == pytest.approx(width)
    block.buttons["same width"].click()
    assert len({round(i.width, 6) for i in shapes.now()}) == 1
    names = [s.name for s in shapes.session.history.past[-4:]]
    assert names == ["align bottom", "distribute", "align right", "same width"]


def test_one_item_alone_lines_up_with_its_margins(shapes):
    a = shapes.now()[0]
    shapes.click(1, *middle(a))
    block = shapes.window.properties.form.arrange
    assert not block.buttons["distribute across"].isEnabled()
    block.buttons["align left"].click()
    assert shapes.now()[0].x == pytest.approx(shapes.publication.setup.margins.inside)


def test_stacking_by_key(shapes):
    shapes.session.select_items(shapes.session.faces()[1], shapes.ids[:1])

    def order():
        return [
            i.id for i in find_page(shapes.publication, shapes.page(PAGE)).items
            if i.id in shapes.ids
        ]  # fmt: skip

    a, b, c = shapes.ids
    shapes.do("forward")
    assert order() == [b, a, c]
    shapes.do("front")
    assert order() == [b, c, a]
    shapes.do("backward")
    assert order() == [b, a, c]
    shapes.do("back")
    assert order() == [a, b, c]
    keys = [shapes.window.commands.key(n) for n in ("front", "forward", "backward", "back")]
    assert keys == ["Ctrl+Shift+Up", "Ctrl+Up", "Ctrl+Down", "Ctrl+Shift+Down"]


def test_a_masters_item_is_sized_on_the_master_and_follows_on_pages(hands):
    master = hands.master("Month table")
    hands.session.show_master(master)
    band = hands.item(find_master(hands.publication, master), "Table head band")
    hands.session.select_items(hands.session.faces()[1], (band.id,))
    edge = (band.x + band.width / 2, band.y + band.height)
    hands.drag(1, edge, (edge[0], edge[1] + 40))
    after = hands.item(find_master(hands.publication, master), "Table head band")
    assert after.height == pytest.approx(band.height + 40, abs=2.5)
    page = all_pages(hands.publication)[8].id
    placed = next(p for p in hands.session.composition.scene(page).placed if p.item_id == band.id)
    assert placed.drawing.height == pytest.approx(after.height)


def test_right_click_offers_what_can_be_done(shapes, monkeypatch):
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QMenu

    seen = []
    monkeypatch.setattr(QMenu, "popup", lambda menu, *_: seen.append(menu))
    a = shapes.now()[0]
    point = shapes.at(1, *middle(a))
    QTest.mouseClick(shapes.desk, Qt.MouseButton.RightButton,
                     Qt.KeyboardModifier.NoModifier, QPoint(point))  # fmt: skip
    words = [x.text() for x in seen[-1].actions() if x.text()]
    assert shapes.session.items == (a.id,)
    assert {"Cut", "Copy", "Group", "Lock", "Bring to front", "Line up"} <= set(words)
