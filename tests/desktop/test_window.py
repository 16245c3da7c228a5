"""The rest of the window: choices, panels, pictures, getting about, the application."""

from __future__ import annotations

import io
import os
import subprocess
import sys

import pytest
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest

from hidden_frame.desktop.state.choices import place_picture
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page

Ctrl = Qt.KeyboardModifier.ControlModifier
Shift = Qt.KeyboardModifier.ShiftModifier


def band_on_page(hands):
    """The month table's band, selected on page 9."""
    hands.session.show_page(hands.page(9))
    master = find_master(hands.publication, hands.master("Month table"))
    band = hands.item(master, "Table head band")
    hands.click(1, band.x + 4, band.y + 11)
    assert hands.session.items == (band.id,)
    return band


def test_hide_here_and_follow_again(hands):
    band = band_on_page(hands)
    page = hands.page(9)
    scene = hands.session.composition.scene(page)
    hands.button("Hide here").click()
    hidden = hands.session.composition.scene(page)
    assert len(hidden.placed) == len(scene.placed) - 1
    assert hands.session.items == ()
    hands.session.select_items(hands.session.faces()[1], (band.id,))
    form = hands.window.properties.form
    form.all_follow.click()
    assert find_page(hands.publication, page).overrides == ()
    assert band.id in [p.item_id for p in hands.session.composition.scene(page).placed]


def test_make_local(hands):
    band = band_on_page(hands)
    hands.button("Make local").click()
    page = find_page(hands.publication, hands.page(9))
    local = page.items[-1]
    assert hands.session.items == (local.id,) and local.x == band.x
    assert hands.session.may_change(page.id, local.id)


def test_nudging_a_master_item_says_why_not(hands):
    band_on_page(hands)
    before = hands.publication
    hands.key(Qt.Key.Key_Right)
    assert hands.publication is before and "Override here" in hands.notices[-1]


def test_shift_click_selects_several_and_moves_them_together(hands):
    page = find_page(hands.publication, hands.page(9))
    hands.session.show_page(page.id)
    moons = [hands.item(page, f"Moon {n}") for n in (2, 5)]
    hands.click(1, moons[0].x + 10, moons[0].y + 10)
    hands.click(1, moons[1].x + 10, moons[1].y + 10, Shift)
    assert hands.session.items == tuple(m.id for m in moons)
    hands.key(Qt.Key.Key_Down, Shift)
    after = find_page(hands.publication, page.id)
    assert [hands.item(after, m.name).y for m in moons] == [m.y + 10 for m in moons]
    hands.click(1, moons[0].x + 10, moons[0].y + 20, Shift)
    assert hands.session.items == (moons[1].id,)
    hands.do("duplicate")
    copy = find_page(hands.publication, page.id).items[-1]
    assert hands.session.items == (copy.id,)
    hands.do("back")
    assert find_page(hands.publication, page.id).items[0].id == copy.id


def test_the_masters_panel_sets_margins_columns_and_guides(hands):
    hands.session.show_master(hands.master("Text"))
    hands.enter("Top", "30mm")
    hands.enter("Columns", "3")
    hands.enter("Add vertical guide", "40mm")
    master = find_master(hands.publication, hands.master("Text"))
    assert master.margins.top == pytest.approx(30 * 72 / 25.4)
    assert master.columns.count == 3 and master.guides[-1].axis == "vertical"
    before = hands.publication
    hands.enter("Inside", "500mm")
    assert hands.publication is before and "leave no room" in hands.notices[-1]
    hands.button("Margins from the base").click()
    assert find_master(hands.publication, master.id).margins is None


def test_faces_are_chosen_in_properties(hands):
    master = hands.master("Almanac base")
    hands.session.show_master(master)
    folio = hands.item(find_master(hands.publication, master), "Folio")
    hands.session.select_items(hands.session.faces()[1], (folio.id,))
    hands.field("Stands on").committed.emit(("recto", "mirrored"))
    assert shown_item(hands.publication, hands.page(8), folio.id, "verso") is None
    assert shown_item(hands.publication, hands.page(9), folio.id, "recto") is not None


def test_pictures_are_placed_and_bad_ones_refused(hands, tmp_path):
    page = hands.page(9)
    hands.session.show_page(page)
    hands.do("tool picture")
    hands.drag(1, (100, 500), (220, 580))
    frame = find_page(hands.publication, page).items[-1]
    assert isinstance(frame, PictureFrame) and frame.picture is None
    bad = tmp_path / "bad.png"
    bad.write_bytes(b"\x89PNG nonsense")
    before = hands.publication
    place_picture(hands.session, bad)
    assert hands.publication is before and "bad.png" in hands.notices[-1]
    good = tmp_path / "good.tif"
    buffer = io.BytesIO()
    Image.new("RGB", (60, 40), (250, 10, 10)).save(buffer, "TIFF")
    good.write_bytes(buffer.getvalue())
    place_picture(hands.session, good)
    frame = find_page(hands.publication, page).items[-1]
    assert frame.picture in hands.session.blobs
    hands.session.select_items(None, ())
    middle = hands.at(1, 160, 540)
    red = hands.desk.grab().toImage().pixelColor(middle)
    assert red.red() > 200 and red.green() < 60


def test_spreads_are_turned_and_the_wheel_scrolls_and_zooms(hands):
    hands.session.show_page(hands.page(9))
    hands.do("next spread")
    assert [f.holder_id for f in hands.session.faces()] == [hands.page(10), hands.page(11)]
    hands.do("previous spread")
    hands.do("previous spread")
    assert hands.page(7) in [f.holder_id for f in hands.session.faces()]
    view = hands.desk.camera.view

    def wheel(held):
        at = QPointF(200, 150)
        event = QWheelEvent(
            at, hands.desk.mapToGlobal(at), QPoint(), QPoint(0, 120),
            Qt.MouseButton.NoButton, held, Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        hands.app.sendEvent(hands.desk, event)

    wheel(Qt.KeyboardModifier.NoModifier)
    assert hands.desk.camera.view.dy == view.dy + 120 and hands.desk.camera.view.zoom == view.zoom
    place = hands.desk.camera.view.to_spread(200, 150)
    wheel(Ctrl)
    assert hands.desk.camera.view.zoom > view.zoom
    assert hands.desk.camera.view.to_spread(200, 150) == pytest.approx(place)


def test_arrow_keys_in_the_run_go_from_page_to_page(hands):
    run = hands.window.run
    hands.session.show_page(hands.page(3))
    QTest.keyClick(run, Qt.Key.Key_Right)
    QTest.keyClick(run, Qt.Key.Key_Right)
    assert hands.session.page_id == hands.page(5)
    QTest.keyClick(run, Qt.Key.Key_Escape)
    assert hands.session.pages == ()


def test_the_shelf_opens_masters_and_rings_their_pages(hands):
    tree = hands.window.shelf.masters
    row = hands.window.shelf.row_of(hands.master("Notes"))
    tree.itemClicked.emit(row, 0)
    assert hands.session.master_id == hands.master("Notes") and hands.session.mode == "masters"
    tree.pointed.emit(hands.master("Cover"))
    assert hands.window.run.ringed_pages() == {hands.page(1), hands.page(32)}
    tree.pointed.emit(None)
    assert hands.page(29) in hands.window.run.ringed_pages()
    data = tree.mimeData([row])
    assert bytes(data.data(data.formats()[0]).data()).decode() == hands.master("Notes")


def test_masters_are_taken_away_and_given_back_in_properties(hands):
    hands.session.show_page(hands.page(9))
    hands.button("No master").click()
    assert find_page(hands.publication, hands.page(9)).masters == ()
    hands.button("Automatic").click()
    assert find_page(hands.publication, hands.page(9)).masters is None
    hands.session.show_page(hands.page(7))
    hands.button("Follow the masters again").click()
    assert find_page(hands.publication, hands.page(7)).overrides == ()


def test_undo_brings_back_what_was_on_the_desk(hands):
    hands.session.show_page(hands.page(9))
    hands.session.select_pages((hands.page(9),))
    gone = hands.page(9)
    hands.do("delete pages")
    assert hands.session.page_id in [p.id for p in all_pages(hands.publication)]
    hands.do("undo")
    assert hands.page(9) == gone


def test_start_from_the_command_line_saves_a_picture(tmp_path):
    picture = tmp_path / "window.png"
    command = [sys.executable, "-m", "hidden_frame.cli", "--demo", "--offscreen"]
    own = os.environ | {"XDG_CONFIG_HOME": str(tmp_path)}
    done = subprocess.run(
        [*command, "--picture", str(picture)],
        timeout=600, check=False, env=own, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 0 and Image.open(picture).size == (1280, 800)
    assert "still running" not in done.stderr  # what ran beside it was ended


def test_without_a_display_it_says_so_in_one_sentence():
    hidden = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    env = {k: v for k, v in os.environ.items() if k not in hidden}
    done = subprocess.run(
        [sys.executable, "-m", "hidden_frame.cli", "--demo"],
        capture_output=True, text=True, env=env, timeout=60, check=False,
    )  # fmt: skip
    assert done.returncode == 1
    assert len(done.stderr.strip().splitlines()) == 1 and "--offscreen" in done.stderr


def test_a_value_typed_and_left_is_kept_for_the_item_it_was_typed_for(hands):
    """Clicking another item commits the field, to the item that it showed."""
    page = find_page(hands.publication, hands.page(9))
    hands.session.show_page(page.id)
    first, second = (hands.item(page, f"Moon {n}") for n in (2, 5))
    hands.click(1, first.x + 10, first.y + 10)
    field = hands.field("Rotation")
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "15")
    hands.click(1, second.x + 10, second.y + 10)
    after = find_page(hands.publication, page.id)
    assert hands.item(after, "Moon 2").rotation == 15
    assert hands.item(after, "Moon 5").rotation == 0
    assert hands.session.items == (second.id,)


def test_escape_in_a_field_takes_back_what_was_typed(hands):
    page = find_page(hands.publication, hands.page(9))
    hands.session.show_page(page.id)
    moon = hands.item(page, "Moon 2")
    hands.click(1, moon.x + 10, moon.y + 10)
    before = hands.publication
    field = hands.field("Width")
    shown = field.text()
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, "nonsense")
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == shown and hands.publication is before


def test_the_layer_and_the_stroke_are_changed_by_choice(hands):
    page = find_page(hands.publication, hands.page(9))
    hands.session.show_page(page.id)
    moon = hands.item(page, "Moon 2")
    hands.click(1, moon.x + 10, moon.y + 10)
    hands.field("Layer").committed.emit("above")
    hands.enter("Stroke width", "2.5")
    hands.enter("Opacity", "40")
    hands.field("Stroke").committed.emit("gold")
    now = hands.item(find_page(hands.publication, page.id), "Moon 2")
    assert (now.layer, now.opacity) == ("above", 0.4)
    assert (now.stroke.colour, now.stroke.width) == ("gold", 2.5)
    hands.field("Stroke").committed.emit(None)
    assert hands.item(find_page(hands.publication, page.id), "Moon 2").stroke is None
    assert hands.field("Stroke width").isHidden()
    before = hands.publication
    hands.enter("Opacity", "140")
    assert hands.publication is before and "0 to 100" in hands.window.properties.form.problem.text()


def test_text_settings_of_a_frame(hands):
    page = find_page(hands.publication, hands.page(8))
    hands.session.show_page(page.id)
    heading = hands.item(page, "Heading")
    hands.click(0, heading.x + 5, heading.y + 15)
    assert hands.session.items == (heading.id,)
    hands.field("Style").committed.emit("month")
    hands.field("Vertical").committed.emit("bottom")
    hands.enter("Inset", "2pt")
    now = hands.item(find_page(hands.publication, page.id), "Heading")
    assert {p.style for p in now.text} == {"month"}
    assert (now.vertical, now.inset) == ("bottom", 2.0)


def test_every_kind_of_shape_can_be_drawn_and_changed(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    for tool in ("rounded", "ellipse"):
        hands.do(f"tool {tool}")
        hands.drag(1, (100, 500), (160, 540), Shift)
        made = find_page(hands.publication, page).items[-1]
        assert made.form == tool and made.width == pytest.approx(made.height)
    hands.field("Form").committed.emit("rectangle")
    assert find_page(hands.publication, page).items[-1].form == "rectangle"


def test_a_line_is_drawn_between_two_points_and_pulled_by_its_ends(hands):
    page = hands.page(9)
    hands.session.show_page(page)
    hands.do("tool line")
    hands.drag(1, (100, 500), (160, 580))
    line = find_page(hands.publication, page).items[-1]
    assert (line.width, line.height) == (pytest.approx(100, abs=2), 0)
    assert line.rotation == pytest.approx(53.13, abs=1.5)  # a triangle of 3, 4 and 5
    hands.drag(1, (160, 580), (200, 500))
    line = find_page(hands.publication, page).items[-1]
    assert line.width == pytest.approx(100, abs=2) and line.rotation == pytest.approx(0, abs=1.5)


def test_blind_folio_from_the_menu_hides_the_folio_and_marks_the_page(hands):
    hands.session.show_page(hands.page(9))
    page = hands.page(9)
    assert "3" in hands.session.composition.scene(page).text_of()
    hands.do("blind")
    assert "3" not in hands.session.composition.scene(page).text_of()
    assert "blind" in hands.window.status.words()
    hands.do("blind")
    assert "3" in hands.session.composition.scene(page).text_of()


def test_the_theme_follows_and_every_text_is_readable(dressed):
    """WCAG 2.2, 1.4.3: at least 4.5 to 1, by its formula of relative luminance."""
    from PySide6.QtGui import QColor

    from hidden_frame.desktop.look.theme import DARK, LIGHT

    def luminance(name):
        colour = QColor(name)
        parts = [colour.redF(), colour.greenF(), colour.blueF()]
        linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    def contrast(a, b):
        high, low = sorted((luminance(a), luminance(b)), reverse=True)
        return (high + 0.05) / (low + 0.05)

    assert contrast("#000000", "#ffffff") == pytest.approx(21)  # the standard's own example
    for theme in (LIGHT, DARK):
        for ground in (theme.window, theme.panel, theme.field):
            for text in (theme.text, theme.quiet, theme.warning):
                assert contrast(text, ground) >= 4.5, (theme.dark, text, ground)
        assert contrast(theme.action_text, theme.action) >= 4.5
        assert contrast(theme.text, theme.master_soft) >= 4.5
        assert contrast(theme.text, theme.action_soft) >= 4.5
