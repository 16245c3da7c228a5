"""Stacks, applying, overrides, faces and promotion through the real window."""

from __future__ import annotations

import pytest
from benchmarks.whole_file import to_bytes
from PySide6.QtCore import QByteArray, QMimeData, QPointF, Qt
from PySide6.QtGui import QDragMoveEvent, QDropEvent

from hidden_frame.compose.departures import departures
from hidden_frame.desktop.dialogs.guides import GuidesDialog
from hidden_frame.desktop.dialogs.masters import (
    BringMastersDialog,
    NewMasterDialog,
    PageMasterDialog,
    ToMasterDialog,
)
from hidden_frame.desktop.dialogs.pages import ApplyDialog
from hidden_frame.desktop.views.pages.drops import MASTER_MIME
from hidden_frame.edit.items.guides import own_guides
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.canons import by_ninths
from hidden_frame.model.lookup import all_pages, find_master, find_page, section_of, stack_of
from hidden_frame.storage.format import from_bytes

Ctrl = Qt.KeyboardModifier.ControlModifier
NONE = Qt.KeyboardModifier.NoModifier


def stack(hands, position):
    page = find_page(hands.publication, hands.page(position))
    known = {m.id: m.name for m in hands.publication.masters}
    return [known[m] for m in stack_of(hands.publication, page)]


def places(hands, position):
    """What is drawn on a page and where."""
    scene = hands.session.composition.scene(hands.page(position))
    return [(tuple(round(v, 6) for v in p.matrix), p.drawing.width, p.drawing.height)
            for p in scene.placed]  # fmt: skip


def carry(hands, master, x, held=NONE, drop=True):
    """A master carried over the Run at an x of its viewport; what was foretold."""
    run = hands.window.run
    data = QMimeData()
    data.setData(MASTER_MIME, QByteArray(hands.master(master).encode()))
    copy, left = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    at = QPointF(x, 60)
    run.dragMoveEvent(QDragMoveEvent(at.toPoint(), copy, data, left, held))
    words = run.hand.words
    if drop:
        run.dropEvent(QDropEvent(at, copy, data, left, held))
    hands.app.processEvents()
    return words


# -- dropping masters -------------------------------------------------------------------


def test_a_drop_says_beforehand_whether_it_replaces_or_adds(hands):
    x = hands.window.run.rect_of(hands.page(9)).center().x()
    plain = carry(hands, "Notes", x, drop=False)
    assert plain == "Apply “Notes” to page 3 (#9), in place of Month table"
    assert carry(hands, "Notes", x, Ctrl) == "Add “Notes” on top of page 3 (#9)"
    assert stack(hands, 9) == ["Month table", "Notes"]


def test_a_drop_on_one_of_several_selected_pages_reaches_all(hands):
    hands.session.select_pages(tuple(hands.page(n) for n in (7, 9, 11)))
    x = hands.window.run.rect_of(hands.page(9)).center().x()
    assert carry(hands, "Notes", x) == "Apply “Notes” to 3 pages"
    assert [stack(hands, n) for n in (7, 8, 9, 11)] == [["Notes"], ["Text"], ["Notes"], ["Notes"]]
    hands.do("undo")
    assert stack(hands, 9) == ["Month table"]


def test_a_drop_between_two_pages_makes_one_that_follows_the_master(hands):
    left = hands.window.run.rect_of(hands.page(8)).left()
    words = carry(hands, "Notes", left - 2)
    assert words == "New page before 2 (#8), following “Notes”, in Spring"
    assert len(all_pages(hands.publication)) == 33 and stack(hands, 8) == ["Notes"]
    assert section_of(hands.publication, hands.page(8)).name == "Spring"
    assert hands.session.pages == (hands.page(8),)


# -- applying and stacks ----------------------------------------------------------------


def test_apply_to_a_section_only_with_the_echo(hands):
    dialog = ApplyDialog(hands.session)
    names = [dialog.within.itemText(n) for n in range(dialog.within.count())]
    dialog.within.setCurrentIndex(names.index("Summer"))
    dialog.within.activated.emit(names.index("Summer"))
    assert dialog.echo.text() == "pages 6–10: 5 pages, 2 of them set by hand"
    dialog.range.setText("odd")
    assert dialog.echo.text() == "pages 7 and 9: 2 pages, 1 of them set by hand"
    dialog.range.setText("1")
    assert "None of these pages is in “Summer”" in dialog.form.problem.text()
    before = hands.publication
    dialog._accept()
    assert hands.publication is before and "None of these" in dialog.form.problem.text()
    dialog.range.setText("even")
    options = [dialog.master.itemText(n) for n in range(dialog.master.count())]
    dialog.master.setCurrentIndex(options.index("Notes"))
    dialog._accept()
    assert [stack(hands, n)[-1] for n in (12, 13, 14)] == ["Notes", "Text", "Notes"]


def test_the_stack_in_properties_is_reordered_added_to_and_taken_from(hands):
    hands.session.show_page(hands.page(29))
    form = hands.window.properties.form
    assert [form.stack.list.item(n).text() for n in range(2)] == ["Members’ seal", "Notes"]
    form.stack.list.setCurrentRow(1)
    form.stack.up.click()
    assert stack(hands, 29) == ["Members’ seal", "Notes"]
    form.stack.fill_menu()
    offered = [a.text() for a in form.stack.menu.actions()]
    assert "Cover" in offered and "Notes" not in offered
    next(a for a in form.stack.menu.actions() if a.text() == "Cover").trigger()
    assert stack(hands, 29) == ["Members’ seal", "Notes", "Cover"]
    form.stack.list.setCurrentRow(0)
    form.stack.remove.click()
    assert stack(hands, 29) == ["Members’ seal", "Notes"]
    hands.button("Automatic").click()
    assert find_page(hands.publication, hands.page(29)).masters is None


def test_defaults_of_the_section_and_of_the_publication(hands):
    hands.session.show_page(hands.page(9))
    form = hands.window.properties.form
    form.section_stack.changed.emit((hands.master("Notes"),))
    assert stack(hands, 9) == ["Notes"] and stack(hands, 8) == ["Text"]
    form.own_masters.click()
    assert stack(hands, 9) == ["Almanac base"]
    form.setup.stack.changed.emit((hands.master("Text"),))
    assert stack(hands, 9) == ["Text"]


def test_facing_and_opening_side_in_properties(hands):
    hands.session.show_page(hands.page(9))
    before = hands.publication
    form = hands.window.properties.form
    form.setup.facing.click()
    assert {f.side for f in hands.session.composition.facts.values()} == {"recto"}
    assert len(hands.session.faces()) == 1
    form.setup.facing.click()
    assert hands.publication == before
    form.setup.opening.committed.emit("verso")
    assert hands.session.composition.facts[hands.page(9)].side == "verso"


# -- overrides --------------------------------------------------------------------------


def test_items_from_masters_are_listed_and_a_click_selects_one(hands):
    hands.session.show_page(hands.page(7))
    inherited = hands.window.properties.form.inherited
    rows = {inherited.topLevelItem(n).text(0): n for n in range(inherited.topLevelItemCount())}
    assert "◆ Panel" in rows and "Sky" in rows
    inherited.itemClicked.emit(inherited.topLevelItem(rows["Sky"]), 0)
    master = find_master(hands.publication, hands.master("Season opener"))
    assert hands.session.items == (hands.item(master, "Sky").id,)


def test_everything_on_a_page_is_freed_and_follows_again(hands):
    hands.session.show_page(hands.page(9))
    hands.do("override all")
    master = find_master(hands.publication, hands.master("Month table"))
    band = hands.item(master, "Table head band")
    hands.drag(1, (band.x + 4, band.y + 4), (band.x + 64, band.y + 64))
    (override,) = find_page(hands.publication, hands.page(9)).overrides
    assert override.item == band.id
    hands.do("follow")
    assert find_page(hands.publication, hands.page(9)).overrides == ()


def test_several_items_are_hidden_made_local_and_follow_again(hands):
    hands.session.show_page(hands.page(9))
    face = hands.session.faces()[1]
    master = find_master(hands.publication, hands.master("Month table"))
    both = tuple(hands.item(master, n).id for n in ("Table head band", "Table head"))
    hands.session.select_items(face, both)
    hands.do("hide here")
    page = find_page(hands.publication, hands.page(9))
    assert [o.visible for o in page.overrides] == [False, False]
    hands.session.mark_pages((hands.page(9),))
    hands.do("follow pages")
    assert find_page(hands.publication, hands.page(9)).overrides == ()
    before = len(page.items)
    hands.session.select_items(face, both)
    hands.do("make local")
    page = find_page(hands.publication, hands.page(9))
    assert len(page.items) == before + 2 and len(hands.session.items) == 2
    assert set(hands.session.items) <= {i.id for i in page.items}


def test_a_derived_master_departs_from_its_base_with_the_same_marks(hands):
    winter = hands.master("Month table, winter")
    hands.session.show_master(winter)
    form = hands.window.properties.form
    assert form.departs.text() == "◆ 1 changed here; all else follows"
    band = hands.item(
        find_master(hands.publication, hands.master("Month table")), "Table head band"
    )
    hands.click(1, band.x + 4, band.y + 4)
    assert hands.session.items == (band.id,)
    assert hands.window.properties.form.follows["fill"].isVisible()
    hands.enter("Height", "30pt")
    page = hands.page(24)
    assert shown_item(hands.publication, page, band.id, "verso").height == 30
    assert shown_item(hands.publication, hands.page(9), band.id, "recto").height == 22
    assert hands.window.shelf.row_of(winter).text(0).endswith("◆")


def test_all_overrides_are_listed_with_jumps_and_the_way_back(hands):
    dialog = hands.window.dialogs.overrides()
    assert dialog.list.topLevelItemCount() == len(departures(hands.publication))
    rows = [dialog.list.topLevelItem(n) for n in range(dialog.list.topLevelItemCount())]
    asleep = next(r for r in rows if "asleep" in r.text(3))
    dialog.list.setCurrentItem(asleep)
    assert "doesn’t follow “Almanac base” now" in dialog.why.text()
    panel = next(r for r in rows if r.text(1) == "Panel" and "11 (#17)" in r.text(0))
    dialog.list.itemClicked.emit(panel, 0)
    assert hands.session.page_id == hands.page(17) and len(hands.session.items) == 1
    dialog.list.clearSelection()
    panel.setSelected(True)
    dialog.follow.click()
    assert find_page(hands.publication, hands.page(17)).overrides == ()
    dialog.asleep.click()
    assert dialog.list.topLevelItemCount() == 1
    dialog.close()


def test_a_text_override_keeps_its_markers_live(hands):
    texts = hands.session.composition.scene(hands.page(18)).text_of()
    assert any(t.startswith("Frost notes for Autumn") for t in texts)
    section = section_of(hands.publication, hands.page(18))
    hands.session.show_page(hands.page(18))
    hands.enter("Name", "Fall")
    texts = hands.session.composition.scene(hands.page(18)).text_of()
    assert any(t.startswith("Frost notes for Fall") for t in texts) and section.name == "Autumn"


# -- new masters ------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("kind", "base", "items"), [(0, None, 0), (1, "Text", 0), (2, "Almanac base", 2), (3, None, 2)]
)
def test_a_new_master_empty_based_or_a_copy(hands, kind, base, items):
    hands.session.show_master(hands.master("Text"))
    dialog = NewMasterDialog(hands.session)
    dialog.kind.setCurrentIndex(kind)
    dialog.kind.activated.emit(kind)
    dialog.name.setText("  Interview ")
    dialog._accept()
    made = find_master(hands.publication, hands.session.master_id)
    assert made.name == "Interview" and len(made.items) == items
    assert made.base == (hands.master(base) if base else None)


def test_a_master_without_a_name_is_refused_in_the_dialog(hands):
    dialog = NewMasterDialog(hands.session)
    dialog.name.setText("  ")
    before = hands.publication
    dialog._accept()
    assert hands.publication is before and "no name" in dialog.form.problem.text()


def test_masters_are_brought_in_from_another_publication(hands, demo):
    from hidden_frame.edit.new import new_publication

    opened = from_bytes(to_bytes(*demo), "almanac.hframe")
    hands.session.replace_all(new_publication("Other", demo[0].setup, 4), {}, None)
    dialog = BringMastersDialog(hands.session, opened, "almanac.hframe")
    dialog._accept()
    assert "No master is ticked" in dialog.form.problem.text()
    for n in range(dialog.list.count()):
        if dialog.list.item(n).text() == "Season opener":
            dialog.list.item(n).setCheckState(Qt.CheckState.Checked)
    dialog._accept()
    assert [m.name for m in hands.publication.masters] == ["Base", "Almanac base", "Season opener"]
    assert set(hands.session.blobs) == {
        p.hash for p in hands.publication.pictures
    }  # its pictures came along


def test_the_list_of_masters_is_reordered_and_regrouped_by_dragging(hands):
    hands.window.shelf._moved(hands.master("Notes"), hands.master("Text"), "above")
    names = [m.name for m in hands.publication.masters]
    assert names.index("Notes") == names.index("Text") - 1
    hands.window.shelf._moved(hands.master("Notes"), hands.master("Cover"), "on")
    assert find_master(hands.publication, hands.master("Notes")).base == hands.master("Cover")
    before = hands.publication
    hands.window.shelf._moved(hands.master("Almanac base"), hands.master("Month table"), "on")
    assert hands.publication is before and "can't build on itself" in hands.notices[-1]


# -- between pages and masters -------------------------------------------------------------


def test_items_are_moved_to_a_master_where_they_stand(hands):
    hands.session.show_page(hands.page(9))
    moon = hands.own(9, "Moon 3")
    hands.session.select_items(hands.session.faces()[1], (moon.id,))
    before = places(hands, 9)
    dialog = ToMasterDialog(hands.session, keep=False)
    assert dialog.master.currentText() == "Month table"
    assert dialog.what.text() == "12 pages follow “Month table” and will show it in the same place."
    dialog._accept()
    assert sorted(places(hands, 9)) == sorted(before)
    master = find_master(hands.publication, hands.master("Month table"))
    assert master.items[-1].id == moon.id


def test_items_are_copied_to_a_new_master_for_the_section(hands):
    hands.session.show_page(hands.page(9))
    moon = hands.own(9, "Moon 3")
    hands.session.select_items(hands.session.faces()[1], (moon.id,))
    dialog = ToMasterDialog(hands.session, keep=True)
    names = [dialog.master.itemText(n) for n in range(dialog.master.count())]
    at = names.index("a new master for Spring")
    dialog.master.setCurrentIndex(at)
    dialog.master.activated.emit(at)
    assert dialog.name.isEnabled()
    dialog._accept()
    assert [stack(hands, n) for n in (9, 10, 11, 14)] == [["Spring"]] * 3 + [["Month table"]]
    assert hands.own(9, "Moon 3").id == moon.id


def test_a_page_is_made_a_master_and_nothing_on_it_moves(hands):
    hands.session.show_page(hands.page(8))  # a verso
    before = places(hands, 8)
    dialog = PageMasterDialog(hands.session)
    dialog.name.setText("Article")
    dialog._accept()
    assert places(hands, 8) == before and stack(hands, 8) == ["Article"]
    assert find_page(hands.publication, hands.page(8)).items == ()
    hands.do("undo")
    assert find_page(hands.publication, hands.page(8)).items


def test_faces_are_split_and_joined_by_command(hands):
    master = hands.master("Almanac base")
    hands.session.show_master(master)
    rule = hands.item(find_master(hands.publication, master), "Foot rule")
    hands.session.select_items(hands.session.faces()[1], (rule.id,))
    before = [places(hands, n) for n in (8, 9)]
    hands.do("split faces")
    rules = [i for i in find_master(hands.publication, master).items if i.name == "Foot rule"]
    assert [i.face for i in rules] == ["recto", "verso"]
    assert [places(hands, n) for n in (8, 9)] == before
    hands.session.select_items(hands.session.faces()[1], tuple(i.id for i in rules))
    hands.do("join faces")
    assert [places(hands, n) for n in (8, 9)] == before
    assert len(find_master(hands.publication, master).items) == 3


# -- layers, guides, margins ---------------------------------------------------------------


def test_layers_are_made_moved_left_out_of_print_and_deleted(hands):
    hands.session.show_page(hands.page(9))
    hands.session.select_items(hands.session.faces()[1], ())
    hands.window.show_shelf("Items")
    hands.app.processEvents()
    panel = hands.window.item_list
    panel.tree.setCurrentItem(panel.tree.topLevelItem(2))  # Content
    panel.new_layer.click()
    names = [x.name for x in hands.publication.layers]
    assert names == ["Ground", "Content", "Layer", "Above", "Remarks"]
    panel.layer_up.click()
    assert [x.name for x in hands.publication.layers][3] == "Layer"
    row = panel.tree.currentItem()
    panel._clicked(row, 3)
    assert not next(x for x in hands.publication.layers if x.name == "Layer").printing
    panel.restack(hands.own(9, "Table").id, panel.tree.currentItem(), 0)
    made = next(x.id for x in hands.publication.layers if x.name == "Layer")
    assert hands.own(9, "Table").layer == made
    panel._choose_layer(made)
    panel.drop_layer.click()
    assert "its item is in the next one" in hands.notices[-1]
    assert hands.own(9, "Table").layer == "above"


def test_guides_in_rows_and_columns_and_margins_by_ninths(hands):
    master = hands.master("Text")
    hands.session.show_master(master)
    form = hands.window.properties.form
    form.canon.committed.emit(0)
    margins = find_master(hands.publication, master).margins
    assert margins == by_ninths(hands.publication.setup.trim)
    assert form.canon.currentText() == "Ninths"
    dialog = GuidesDialog(hands.session)
    dialog.rows.setText("4")
    dialog.columns.setText("3")
    dialog.instead.setChecked(True)
    dialog._accept()
    guides = own_guides(hands.publication, master)
    assert len(guides) == 8 + 6
    assert guides[0].position == pytest.approx(margins.top)
    dialog = GuidesDialog(hands.session)
    dialog.way.setCurrentIndex(2)
    dialog.way.activated.emit(2)
    dialog.count.setText("2.5")
    dialog.rows.setText("many")
    dialog.way.setCurrentIndex(0)
    dialog._accept()
    assert "“many” is not a number" in dialog.form.problem.text()


# -- pictures ----------------------------------------------------------------------------


def test_a_picture_is_cropped_by_hand_and_its_resolution_told(hands):
    hands.session.show_page(hands.page(5))
    frame = hands.own(5, "Dome")
    hands.double(1, frame.x + 30, frame.y + 30)
    assert hands.session.cropping and hands.session.items == (frame.id,)
    hands.drag(1, (frame.x + 30, frame.y + 30), (frame.x + 70, frame.y + 50))
    crop = hands.own(5, "Dome").crop
    assert (crop.x, crop.y) == pytest.approx((frame.crop.x + 40, frame.crop.y + 20), abs=1.5)
    assert crop.scale == frame.crop.scale and hands.own(5, "Dome").x == frame.x
    hands.key(Qt.Key.Key_Right)
    assert hands.own(5, "Dome").crop.x > crop.x
    hands.key(Qt.Key.Key_Escape)
    assert not hands.session.cropping
    hands.enter("Scale", "50 %")
    assert hands.own(5, "Dome").crop.scale == pytest.approx(0.5)
    assert hands.window.properties.form.resolution.text().startswith("144 ppi as placed")
    hands.field("Fit").committed.emit("fill")
    assert hands.own(5, "Dome").fit == "fill"


def test_columns_insets_corners_blending_and_text_around_are_typed(hands):
    hands.session.show_page(hands.page(8))
    article = hands.own(8, "Article")
    hands.session.select_items(hands.session.faces()[0], (article.id,))
    hands.enter("Columns", "3")
    hands.enter("Inset", "2mm / 0mm / 1mm / 3mm")
    hands.enter("Corner radius", "4pt")
    hands.field("Blending").committed.emit("multiply")
    now = hands.own(8, "Article")
    assert (now.columns, now.radius, now.blend) == (3, 4.0, "multiply")
    assert now.insets.left == pytest.approx(3 * 72 / 25.4)
    before = hands.publication
    hands.enter("Columns", "2.5")
    assert hands.publication is before
    assert "not a whole number" in hands.window.properties.form.problem.text()
    hands.enter("Inset", "1mm / 2mm")
    assert hands.publication is before
    assert "one inset for all sides, or four" in hands.window.properties.form.problem.text()
    chart = next(i for i in find_page(hands.publication, hands.page(8)).items if i.name == "Chart")
    hands.session.select_items(hands.session.faces()[0], (chart.id,))
    hands.field("Wrap").committed.emit(None)
    assert hands.own(8, "Chart").around is None
    hands.field("Wrap").committed.emit("box")
    hands.enter("Distance", "20pt")
    assert hands.own(8, "Chart").around.offset == 20.0
    hands.enter("Dash", "6 3")
    assert hands.own(8, "Chart").stroke.dash == (6.0, 3.0)
    hands.enter("Dash", "none")
    assert "is not a dash" in hands.window.properties.form.problem.text()


def test_every_icon_that_is_named_exists():
    import re
    from pathlib import Path

    import hidden_frame.desktop
    from hidden_frame.desktop.look.icons import _font

    folder = Path(hidden_frame.desktop.__file__).parent
    named = {n for f in folder.rglob("*.py") for n in re.findall(r'"ph\.([a-z-]+)"', f.read_text())}
    assert len(named) > 15 and named <= set(_font()[1])


def test_the_wheel_of_a_run_is_not_lost_while_a_master_is_carried(hands):
    """A drag near the Run's end scrolls it."""
    run = hands.window.run
    before = run.horizontalScrollBar().value()
    carry(hands, "Notes", run.viewport().width() - 4, drop=False)
    assert run.horizontalScrollBar().value() > before
