"""Drawing, selecting, moving and sizing on the desk, by mouse and key."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt

from hidden_frame.interact.hands.shown import items_on, shown_item
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page

Shift = Qt.KeyboardModifier.ShiftModifier


@pytest.mark.parametrize(
    ("tool", "kind"),
    [("text", TextFrame), ("picture", PictureFrame), ("rectangle", Shape), ("line", Line)],
)
def test_drawing_on_a_master_shows_on_every_page_that_follows(hands, tool, kind):
    master = hands.master("Month table")
    hands.session.show_master(master)
    pages = hands.session.composition.followers(master)
    before = [len(hands.session.composition.scene(p).placed) for p in pages]
    hands.window.top.tools[tool].click()
    hands.drag(1, (100, 400), (200, 460))
    made = find_master(hands.publication, master).items[-1]
    assert type(made) is kind
    if tool != "line":
        assert (made.x, made.y) == pytest.approx((100, 400), abs=2)
        assert (made.width, made.height) == pytest.approx((100, 60), abs=3)
    after = [len(hands.session.composition.scene(p).placed) for p in pages]
    assert [a - b for a, b in zip(after, before, strict=True)] == [1] * 12
    assert hands.session.items == (made.id,) and hands.session.tool == "select"


def test_drawing_on_the_verso_face_is_mirrored_on_the_recto(hands):
    master = hands.master("Text")
    hands.session.show_master(master)
    hands.do("tool rectangle")
    hands.drag(0, (60, 300), (160, 340))
    made = find_master(hands.publication, master).items[-1]
    width = hands.publication.setup.trim.width
    assert made.x == pytest.approx(width - 160, abs=2)
    assert shown_item(hands.publication, master, made.id, "verso").x == pytest.approx(60, abs=2)


def test_moving_sizing_nudging_and_deleting(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    hands.do("tool rectangle")
    hands.drag(1, (200, 500), (260, 540))
    made = all_pages(hands.publication)[8].items[-1]

    def now():
        return next(i for i in find_page(hands.publication, page).items if i.id == made.id)

    hands.drag(1, (230, 520), (280, 560))
    assert (now().x, now().y) == pytest.approx((made.x + 50, made.y + 40), abs=2)
    hands.drag(1, (280, 560), (330, 565), Shift)
    assert now().y == pytest.approx(made.y + 40, abs=2)  # Shift keeps to one axis
    assert now().x == pytest.approx(made.x + 100, abs=2)
    x, y, w, h = now().x, now().y, now().width, now().height
    hands.drag(1, (x + w, y + h), (x + w + 30, y + h + 20))
    assert (now().width, now().height) == pytest.approx((w + 30, h + 20), abs=2)
    assert (now().x, now().y) == pytest.approx((x, y))
    hands.key(Qt.Key.Key_Right)
    hands.key(Qt.Key.Key_Down, Shift)
    assert (now().x, now().y) == pytest.approx((x + 1, y + 10))
    names = [step.name for step in hands.session.history.past]
    assert names == ["draw shape", "move", "move", "resize", "nudge"]
    hands.do("delete")
    assert all(i.id != made.id for i in find_page(hands.publication, page).items)
    for _ in range(6):
        hands.do("undo")
    assert hands.publication is hands.session.saved or not hands.session.history.past


def test_escape_in_the_middle_of_a_drag_changes_nothing(hands):
    hands.session.show_page(hands.page(9))
    before = hands.publication
    item = hands.item(all_pages(before)[8], "Moon 4")
    hands.drag(1, (item.x + 10, item.y + 10), (200, 300), drop=False)
    assert hands.session.draft is not None
    hands.key(Qt.Key.Key_Escape)
    assert hands.session.draft is None and hands.publication is before


def test_a_master_item_is_not_moved_but_offers_four_choices(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    before = hands.publication
    pulled = []
    hands.desk.master_item_pulled.disconnect()
    hands.desk.master_item_pulled.connect(pulled.append)
    base = find_master(before, hands.master("Month table"))
    band = hands.item(base, "Table head band")
    start = (band.x + 4, band.y + band.height / 2)
    hands.drag(1, start, (start[0] + 40, start[1] + 40))
    assert hands.session.items == (band.id,)
    assert len(pulled) == 1 and hands.publication is before
    menu = hands.window.menus.choice()
    words = [a.text() for a in menu.actions()]
    assert words[1:] == ["Override here", "Hide here", "Make local", "Go to master"]
    menu.actions()[1].trigger()
    hands.drag(1, start, (start[0] + 40, start[1] + 40))
    (override,) = find_page(hands.publication, page).overrides
    assert override.x == pytest.approx(band.x + 40, abs=2)
    other = hands.page(11)
    assert shown_item(hands.publication, other, band.id, "recto").x == band.x


def test_go_to_master_opens_it_with_the_item_selected(hands):
    hands.session.show_page(hands.page(9))
    band = hands.item(
        find_master(hands.publication, hands.master("Month table")), "Table head band"
    )
    hands.click(1, band.x + 3, band.y + 3)
    hands.button("Go to master").click()
    assert hands.session.mode == "masters" and hands.session.items == (band.id,)
    assert "Month table" in hands.window.banner.words()
    assert "12 pages follow" in hands.window.banner.words()


def test_the_desk_takes_the_masters_tint_and_a_banner(hands):
    from hidden_frame.desktop.look import theme

    def corner():
        return hands.desk.grab().toImage().pixelColor(4, 4).name()

    assert corner() == theme.LIGHT.desk.lower()
    assert not hands.window.banner.isVisible()
    hands.window.top.modes["masters"].click()
    assert corner() == theme.LIGHT.desk_master.lower()
    assert hands.window.banner.isVisible()
    hands.do("mode")
    assert hands.session.mode == "pages" and not hands.window.banner.isVisible()


def test_proof_view_shows_the_page_as_printed(hands):
    hands.session.show_page(hands.page(27))
    spot = hands.at(1, 15, hands.publication.setup.trim.height * 0.62)  # a page guide runs here

    def around():
        image = hands.desk.grab().toImage()
        return [image.pixel(spot.x(), spot.y() + n) for n in range(-3, 4)]

    with_guide = around()
    hands.do("proof")
    assert len(set(with_guide)) > 1 and len(set(around())) == 1
    hands.click(1, 200, 200)
    assert hands.session.items == ()


def test_zoom_keeps_the_point_under_the_pointer_and_fits(hands):
    from PySide6.QtCore import QPointF

    hands.session.show_page(hands.page(9))
    before = hands.desk.camera.view.to_spread(300, 200)
    hands.desk.camera.zoom_by(2.0, QPointF(300, 200))
    assert hands.desk.camera.view.to_spread(300, 200) == pytest.approx(before)
    hands.do("fit spread")
    left, top = hands.desk.camera.view.to_widget(0, 0)
    trim = hands.publication.setup.trim
    right, bottom = hands.desk.camera.view.to_widget(2 * trim.width, trim.height)
    assert left >= 0 and right <= hands.desk.width()
    assert top >= 0 and bottom <= hands.desk.height()
    assert "%" in hands.window.status.zoom.text()


def test_what_is_renewed_in_part_looks_as_if_painted_anew(hands):
    """The desk repaints only where a scene changed; a fresh painting must agree."""
    hands.session.show_page(hands.page(9))
    hands.desk.grab()
    item = hands.item(all_pages(hands.publication)[8], "Moon 4")
    hands.drag(1, (item.x + 10, item.y + 10), (item.x + 60, item.y + 150))
    hands.do("undo")
    hands.do("redo")
    partly = hands.desk.grab().toImage()
    hands.desk.paper.forget()
    anew = hands.desk.grab().toImage()
    different = sum(
        partly.pixel(x, y) != anew.pixel(x, y)
        for x in range(0, partly.width(), 2)
        for y in range(0, partly.height(), 2)
    )
    assert different <= 12


def test_on_a_master_the_menu_speaks_of_masters(hands):
    session = hands.session
    master = next(m for m in hands.publication.masters if m.base)
    session.show_master(master.id)
    found = items_on(hands.publication, master.id, session.side)
    inherited = next(r for r in found if r.carrier not in (None, master.id))
    session.select_items(None, (inherited.item.id,))
    menu = hands.window.menus.choice()
    words = [a.text() for a in menu.actions()]
    base = find_master(hands.publication, inherited.carrier).name
    assert words == [
        f"It comes from the base “{base}”", "Override on this master", "Hide on this master",
        "Go to base",
    ]  # fmt: skip
    assert not any(a.isSeparator() for a in menu.actions())
    menu.actions()[2].trigger()
    assert (
        "Hidden on this master only; show it again in the list “From the base”" in hands.notices[-1]
    )
