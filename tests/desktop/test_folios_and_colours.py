"""Folios… and the colours of the publication, through the window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.colour import DeleteColourDialog
from hidden_frame.edit.pages.folios import folio_of, masters_with_folio
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.text import Marker, Run


def words(hands, position):
    return hands.session.composition.scene(hands.page(position)).text_of()


def pick(dialog, label):
    """A form from the list, by how it prints."""
    number = dialog.form_field.findText(label)
    dialog.form_field.setCurrentIndex(number)
    dialog.form_field.take(number)


@pytest.fixture
def folios(hands, qtbot):
    """The dialog on the demo, whose base master carries a folio already."""
    hands.session.show_page(hands.page(9))
    dialog = hands.window.dialogs.folios()
    hands.dialog = dialog
    yield hands
    dialog.close()


def test_what_is_chosen_shows_on_the_desk_at_once_and_is_one_step(folios):
    dialog = folios.dialog
    assert dialog.ok.text() == "Change"
    pick(dialog, "Page 3 of 32")
    assert "Page 3 of 32" in words(folios, 9)  # the draft is what the desk shows
    kept = folios.session.composer.compose(folios.publication)
    assert "Page 3 of 32" not in kept.scene(folios.page(9)).text_of()
    steps = len(folios.session.history.past)
    dialog.box.accepted.emit()
    assert "Page 3 of 32" in words(folios, 9) and "Page 2 of 32" in words(folios, 8)
    assert len(folios.session.history.past) == steps + 1
    folios.do("undo")
    assert "3" in words(folios, 9)


def test_markers_are_put_in_by_a_click_between_typed_words(folios):
    dialog = folios.dialog
    QTest.keyClick(dialog.written, Qt.Key.Key_End)
    QTest.keyClicks(dialog.written, " # of ")  # a number sign is a number sign
    menu = {a.text(): a for a in dialog.marker.menu().actions()}
    menu["Page count"].trigger()
    assert dialog.form_field.currentText() == "⟨Folio⟩ # of ⟨Page count⟩"
    assert "3 # of 32" in words(folios, 9)
    menu["Volume: 12"].trigger()
    QTest.keyClick(dialog.written, Qt.Key.Key_Backspace)
    QTest.keyClick(dialog.written, Qt.Key.Key_Backspace)
    assert dialog.written.content() == (Marker("folio"), Run(" # of "))
    steps = len(folios.session.history.past)
    QTest.keyClick(dialog.written, Qt.Key.Key_Return)  # gives the answer
    assert len(folios.session.history.past) == steps + 1
    assert "3 # of " in words(folios, 9) or "3 # of" in words(folios, 9)


def test_running_it_again_changes_the_same_item(folios):
    (master,) = masters_with_folio(folios.publication)[:1]
    before = folio_of(folios.publication, master)[1]
    count = sum(len(m.items) for m in folios.publication.masters)
    dialog = folios.dialog
    dialog.place.setCurrentIndex([n for n, _ in dialog._places].index("head, centre"))
    dialog.box.accepted.emit()
    again = folios.window.dialogs.folios()
    assert again.place.currentText() == "head, centre"
    assert again.form_field.currentText() == "3"
    assert again.written.content() == (Marker("folio"),)
    again.place.setCurrentIndex([n for n, _ in again._places].index("foot, outside"))
    again.box.accepted.emit()
    after = folio_of(folios.publication, master)[1]
    assert after.id == before.id and after.y > folios.publication.setup.trim.height / 2
    assert sum(len(m.items) for m in folios.publication.masters) == count


def test_the_place_is_taken_from_a_click_on_either_page(folios):
    dialog = folios.dialog
    dialog.by_click.click()
    assert not dialog.isVisible()
    width = folios.publication.setup.trim.width
    folios.click(0, 60, 200)  # on the verso, 60 pt from the outside
    assert dialog.isVisible() and dialog.place.currentText() == "where you clicked"
    dialog.box.accepted.emit()
    (master,) = masters_with_folio(folios.publication)[:1]
    item = folio_of(folios.publication, master)[1]
    assert item.x + item.width / 2 == pytest.approx(width - 60, abs=2)
    assert item.y + item.height / 2 == pytest.approx(200, abs=2)


def test_escape_instead_of_the_click_brings_the_dialog_back(folios):
    folios.dialog.by_click.click()
    folios.key(Qt.Key.Key_Escape)
    assert folios.dialog.isVisible() and folios.desk._asked is None


def test_pages_left_out_and_bad_input(folios):
    dialog = folios.dialog
    before = folios.publication
    dialog.out.setText("3, nowhere")
    assert "nowhere" in dialog.form.problem.text() and folios.session.draft is None
    dialog.box.accepted.emit()
    assert folios.publication is before and dialog.isVisible()
    dialog.out.setText("3")
    dialog.first.click()
    dialog.box.accepted.emit()
    assert find_page(folios.publication, folios.page(9)).blind
    firsts = [s.pages[0].blind for s in folios.publication.sections]
    assert all(firsts) and not find_page(folios.publication, folios.page(10)).blind
    assert "3" not in words(folios, 9)


def test_a_form_without_a_folio_is_refused_in_place(folios):
    folios.dialog.written.selectAll()
    QTest.keyClicks(folios.dialog.written, "Page")
    assert "shows no folio" in folios.dialog.form.problem.text()
    before = folios.publication
    folios.dialog.box.accepted.emit()
    assert folios.publication is before


def test_cancelling_leaves_nothing_behind(folios):
    before = folios.publication
    pick(folios.dialog, "– 3 –")
    folios.dialog.reject()
    assert folios.publication is before and folios.session.draft is None


def test_folios_of_one_section_alone(folios):
    dialog = folios.dialog
    dialog.where.setCurrentIndex(1)
    QTest.keyClick(dialog.written, Qt.Key.Key_Home)
    QTest.keyClicks(dialog.written, "Sp ")
    dialog._preview()
    dialog.box.accepted.emit()
    assert "Sp 3" in words(folios, 9)
    assert not any(w.startswith("Sp ") for w in words(folios, 13))


def test_all_folios_are_removed_by_one_command(hands):
    hands.do("no folios")
    assert masters_with_folio(hands.publication) == []
    assert "3" not in words(hands, 9) and "Undo" in hands.notices[-1]
    hands.do("no folios")
    assert "No master" in hands.notices[-1]
    hands.do("undo")
    assert "3" in words(hands, 9)
    dialog = hands.window.dialogs.folios()
    dialog.remove.click()
    assert masters_with_folio(hands.publication) == [] and not dialog.isVisible()


def test_folios_are_placed_where_there_are_none(hands):
    hands.do("no folios")
    dialog = hands.window.dialogs.folios()
    assert dialog.ok.text() == "Place" and dialog.chosen_masters()
    dialog.box.accepted.emit()
    (master,) = masters_with_folio(hands.publication)[:1]
    assert folio_of(hands.publication, master)[1].text[0].content == (Marker("folio"),)
    assert "3" in words(hands, 9)


# -- colours ---------------------------------------------------------------------------


@pytest.fixture
def colours(hands):
    hands.window.show_shelf("Colours")
    hands.panel = hands.window.colours
    hands.row = lambda name: next(
        n for n in range(hands.panel.list.count()) if hands.panel.list.item(n).text() == name
    )
    return hands


def test_a_colour_changed_is_changed_everywhere_and_seen_while_one_chooses(colours):
    colours.session.show_page(colours.page(7))
    colours.panel.list.setCurrentRow(colours.row("Spring"))
    dialog = colours.panel.open_change()
    dialog.rows[0].slider.setValue(200)
    dialog.rows[1].field.setText("10")
    dialog.rows[1].field._commit()
    shown = next(c for c in colours.session.publication.colours if c.id == "spring")
    assert shown.values[:2] == pytest.approx((200 / 255, 10 / 255))
    spot = colours.at(len(colours.session.faces()) - 1, 300, 560)
    assert QColor(colours.desk.grab().toImage().pixel(spot)).red() == pytest.approx(200, abs=2)
    dialog.name.setText("Rose")
    dialog.box.accepted.emit()
    now = next(c for c in colours.publication.colours if c.id == "spring")
    assert now.name == "Rose" and now.values[0] == pytest.approx(200 / 255)
    assert colours.row("Rose") >= 0
    colours.do("undo")
    assert next(c for c in colours.publication.colours if c.id == "spring").name == "Spring"


def test_a_new_colour_by_web_name_by_mixing_and_as_a_spot(colours):
    dialog = colours.panel.open_new()
    dialog.web.setText("#ff8000")
    dialog.web._commit()
    assert dialog.values() == pytest.approx((1, 128 / 255, 0))
    dialog.web.setText("no colour")
    dialog.web._commit()
    assert "no colour" in dialog.form.problem.text()
    dialog.one.setCurrentIndex(dialog.one.findText("Night"))
    dialog.other.setCurrentIndex(dialog.other.findText("Cream"))
    dialog.share.setText("25")
    dialog.mix.click()
    ids = {c.name: c for c in colours.publication.colours}
    wanted = [a * 0.75 + b * 0.25 for a, b in zip(ids["Night"].values, ids["Cream"].values,
                                                  strict=True)]  # fmt: skip
    assert dialog.values() == pytest.approx(wanted, abs=0.003)
    dialog.space.committed.emit("spot")
    assert len(dialog.values()) == 4 and dialog.rows[3].isVisibleTo(dialog)
    dialog.name.setText("Harbour")
    dialog.box.accepted.emit()
    made = colours.publication.colours[-1]
    assert (made.name, made.space) == ("Harbour", "spot")


def test_a_colour_is_picked_from_the_desk(colours):
    colours.session.show_page(colours.page(7))
    dialog = colours.panel.open_new()
    dialog.pick.click()
    face = len(colours.session.faces()) - 1
    colours.click(face, 300, 560)  # the opener's panel, in the season's colour
    spring = next(c for c in colours.publication.colours if c.id == "spring")
    assert dialog.isVisible()
    assert dialog.values() == pytest.approx(spring.values, abs=0.006)
    dialog.reject()


def test_the_selection_is_filled_and_stroked_and_tinted(colours):
    colours.session.show_page(colours.page(9))
    moon = colours.own(9, "Moon 2")
    colours.session.select_items(colours.session.faces()[1], (moon.id,))
    colours.panel.list.setCurrentRow(colours.row("Winter"))
    QTest.mouseClick(colours.panel.fill, Qt.MouseButton.LeftButton)
    QTest.mouseClick(colours.panel.stroke, Qt.MouseButton.LeftButton)
    now = colours.own(9, "Moon 2")
    assert now.fill.colour == now.stroke.colour == "winter"
    assert now.fill.opacity == moon.fill.opacity and now.stroke.width == moon.stroke.width
    colours.enter("Fill tint", "30")
    assert colours.own(9, "Moon 2").fill.tint == pytest.approx(0.3)


def test_deleting_a_used_colour_asks_for_another(colours, monkeypatch):
    opened = []
    monkeypatch.setattr(DeleteColourDialog, "open", lambda dialog: opened.append(dialog))
    colours.panel.list.setCurrentRow(colours.row("Star gold"))
    colours.panel.delete.click()
    (dialog,) = opened
    dialog.instead.setCurrentIndex(dialog.instead.findText("Slate"))
    dialog.box.accepted.emit()
    assert "gold" not in [c.id for c in colours.publication.colours]
    assert colours.own(9, "Moon 1").fill.colour == "slate"
    colours.panel.list.setCurrentRow(colours.row("Ochre"))  # not in use
    colours.panel.delete.click()
    assert "ochre" not in [c.id for c in colours.publication.colours] and len(opened) == 1
    assert len(all_pages(colours.publication)) == 32


def test_an_empty_or_taken_name_is_refused(colours):
    dialog = colours.panel.open_new()
    before = colours.publication
    dialog.name.setText("  ")
    dialog.box.accepted.emit()
    assert "no name" in dialog.form.problem.text() and colours.publication is before
    dialog.reject()
    colours.panel.list.setCurrentRow(colours.row("Night"))
    dialog = colours.panel.open_change()
    dialog.name.setText("Dusk")
    dialog.box.accepted.emit()
    assert "already a colour" in dialog.form.problem.text()
    dialog.reject()
    assert colours.publication is before and colours.session.draft is None


def test_the_sample_shows_the_colour(colours):
    dialog = colours.panel.open_new()
    dialog.web.setText("#336699")
    dialog.web._commit()
    image = dialog.sample.grab().toImage()
    assert QColor(image.pixel(QPointF(6, image.height() / 2).toPoint())).name() == "#336699"
    dialog.reject()
