"""Rulers with a movable zero, and guides pulled out of them, moved, typed and dragged away."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.views.desk.rulers import THICK, tick_step
from hidden_frame.edit.items.guides import own_guides
from hidden_frame.interact.hands.snap_to import SnapTo
from hidden_frame.model.lookup import find_page

Shift = Qt.KeyboardModifier.ShiftModifier
PAGE = 27  # a recto without masters, with one guide of its own


def pull(hands, ruler, face, x, y, held=Qt.KeyboardModifier.NoModifier):
    """From a ruler to a point of a page."""
    start = ruler.rect().center()
    there = hands.desk.mapTo(hands.window, hands.at(face, x, y))
    hands.pull(ruler, start, ruler.mapFrom(hands.window, there), held)


@pytest.fixture
def page(hands):
    hands.session.show_page(hands.page(PAGE))
    hands.own_guides = lambda n=PAGE: own_guides(hands.publication, hands.page(n))
    return hands


def test_guides_are_pulled_from_the_rulers_onto_the_page_under_the_pointer(page):
    ruled = page.window.ruled
    pull(page, ruled.above, 1, 100, 200)
    assert page.own_guides()[-1].axis == "horizontal"
    assert page.own_guides()[-1].position == pytest.approx(200, abs=2)
    pull(page, ruled.beside, 1, 150, 300)
    assert page.own_guides()[-1].axis == "vertical"
    assert page.own_guides()[-1].position == pytest.approx(150, abs=2)  # from the spine
    assert len(page.own_guides()) == 3 and page.own_guides(PAGE - 1) == ()
    assert page.session.guide == (page.page(PAGE), 2)
    width = page.publication.setup.trim.width
    pull(page, ruled.beside, 0, 100, 300)
    assert page.own_guides(PAGE - 1)[0].position == pytest.approx(width - 100, abs=2)


def test_with_shift_a_level_guide_goes_across_the_spread(page):
    pull(page, page.window.ruled.above, 1, 100, 250, Shift)
    for position in (PAGE - 1, PAGE):
        assert page.own_guides(position)[-1].position == pytest.approx(250, abs=2)
    page.do("undo")
    assert page.own_guides(PAGE - 1) == () and len(page.own_guides()) == 1


def test_a_guide_is_moved_dragged_away_nudged_and_deleted(page):
    y = page.own_guides()[0].position
    page.drag(1, (30, y), (30, y + 60))
    assert page.own_guides()[0].position == pytest.approx(y + 60, abs=2)
    page.key(Qt.Key.Key_Down)
    assert page.session.history.past[-1].name == "move a guide"
    at = page.own_guides()[0].position
    assert at == pytest.approx(y + 61, abs=2)
    page.drag(1, (30, at), (30, -60))  # back to the ruler
    assert page.own_guides() == () and page.session.guide is None
    page.do("undo")
    page.click(1, 30, at)
    assert page.session.guide is not None
    page.do("delete")
    assert page.own_guides() == ()


def test_a_guide_is_typed_and_locked_in_properties(page):
    page.click(1, 30, page.own_guides()[0].position)
    page.enter("Position", "100mm")
    assert page.own_guides()[0].position == pytest.approx(100 * 72 / 25.4)
    form = page.window.properties.form
    form.locked.click()
    assert page.own_guides()[0].locked
    y = page.own_guides()[0].position
    page.drag(1, (30, y), (30, y + 60))
    assert page.own_guides()[0].position == y  # a locked one is not picked up
    page.session.select_guide(page.page(PAGE), 0)
    page.window.properties.form.remove.click()
    assert page.own_guides() == ()


def test_guides_are_hidden_locked_and_removed_by_command(page):
    x, y = 30, page.own_guides()[0].position
    spot = page.at(1, x, y)

    def teal():
        image = page.desk.grab().toImage()
        colours = [QColor(image.pixel(spot.x(), spot.y() + n)) for n in (-1, 0, 1)]
        guide = QColor(theme.current().guide)
        return any(abs(c.hue() - guide.hue()) < 10 and c.saturation() > 60 for c in colours)

    assert teal()
    page.do("guides")
    assert not teal()
    page.click(1, x, y)
    assert page.session.guide is None
    page.do("guides")
    page.do("lock guides")
    assert all(g.locked for g in page.own_guides())
    page.do("remove guides")
    assert page.own_guides() == () and not teal()


def test_a_guide_of_a_master_shows_on_all_its_pages_mirrored(hands):
    master = hands.master("Text")
    hands.session.show_master(master)
    pull(hands, hands.window.ruled.beside, 1, 123, 300)
    position = own_guides(hands.publication, master)[-1].position
    assert position == pytest.approx(123, abs=2)
    width = hands.publication.setup.trim.width
    hands.session.show_page(hands.page(8))  # a verso that follows it
    image = hands.desk.grab().toImage()
    spot = hands.at(0, width - position, 640)
    guide = QColor(theme.current().guide)
    colours = [QColor(image.pixel(spot.x() + n, spot.y())) for n in (-1, 0, 1)]
    assert any(abs(c.hue() - guide.hue()) < 10 and c.saturation() > 60 for c in colours)
    before = hands.publication
    hands.drag(0, (width - position, 640), (60, 640))
    assert own_guides(hands.publication, master) == own_guides(before, master)


def test_guides_snap_and_items_snap_to_them(page, preferences):
    preferences.change(snapping=True, snap=SnapTo(items=False, gaps=False))
    pull(page, page.window.ruled.beside, 1, page.publication.setup.margins.inside + 3, 300)
    inside = page.publication.setup.margins.inside
    assert page.own_guides()[-1].position == pytest.approx(inside)


def test_the_rulers_shade_the_selection_and_follow_a_moved_zero(page):
    ruled, soft = page.window.ruled, QColor(theme.current().action_soft)
    item = page.own(PAGE, "Gate mark")
    page.session.select_items(page.session.faces()[1], (item.id,))
    at = page.at(1, item.x + item.width / 2, 0).x()
    image = ruled.above.grab().toImage()
    assert QColor(image.pixel(at, 3)) == soft
    far = page.at(1, item.x + 120, 0).x()
    assert QColor(image.pixel(far, 3)) != soft
    corner = ruled.corner
    there = page.desk.mapTo(page.window, page.at(1, 100, 150))
    page.pull(corner, QPoint(5, 5), corner.mapFrom(page.window, there))
    assert page.session.zero == pytest.approx((100, 150), abs=2)
    shown = page.field("X").text()
    unit = 72 / 25.4
    expected = (item.x - page.session.zero[0]) / unit
    assert float(shown.split()[0]) == pytest.approx(expected, abs=0.01)
    page.enter("X", "0")
    assert page.own(PAGE, "Gate mark").x == pytest.approx(page.session.zero[0])
    QTest.mouseDClick(corner, Qt.MouseButton.LeftButton)
    assert page.session.zero == (0.0, 0.0)


def test_rulers_can_be_hidden(page, preferences):
    assert page.window.ruled.above.height() == THICK
    page.do("rulers")
    assert not page.window.ruled.above.isVisible() and not preferences.now.rulers


@pytest.mark.parametrize("pixels", [0.2, 1.0, 2.83, 30.0, 170.0])
def test_figures_stand_at_ones_twos_or_fives_and_far_enough_apart(pixels):
    step = tick_step(pixels)
    assert step * pixels >= 52
    digits = f"{step:.6e}"[0]
    assert digits in "125" and (step * pixels <= 52 * 2.5 + 1e-6)


def test_a_page_keeps_its_own_guides_when_it_is_duplicated(page):
    page.session.select_pages((page.page(PAGE),))
    page.do("duplicate pages")
    copy = find_page(page.publication, page.session.pages[0])
    assert copy.guides == page.own_guides()
