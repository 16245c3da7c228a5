"""The flatplan by mouse and key: what is seen, and what becomes of the publication."""

from __future__ import annotations

from itertools import pairwise

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QByteArray, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDragMoveEvent, QDropEvent, QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QMenu, QPushButton

from hidden_frame.desktop.commands.actions.page_clipboard import PAGES_MIME
from hidden_frame.desktop.dialogs.order import (
    AddDialog,
    DeleteRangeDialog,
    FillUpDialog,
    MoveDialog,
    SectionDialog,
)
from hidden_frame.desktop.views.flatplan.layout import flatplan_layout
from hidden_frame.desktop.views.flatplan.view import SMALL
from hidden_frame.desktop.views.pages.drops import MASTER_MIME
from hidden_frame.edit.masters.overrides import follow_all
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import change_numbering
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.interact.finds.plan import masters_in_words, numbering_in_words
from hidden_frame.model.lookup import all_pages, find_page, section_of, stack_of

Ctrl, Shift = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
NONE = Qt.KeyboardModifier.NoModifier
Left = Qt.MouseButton.LeftButton


@pytest.fixture
def plan(hands):
    hands.do("flatplan")
    hands.view = hands.window.flatplan.view
    hands.view.zoom_to(40)
    hands.app.processEvents()
    return hands


def middle(plan, position) -> QPoint:
    return plan.view.rect_of(plan.page(position)).center().toPoint()


def click(plan, position, held=NONE) -> None:
    QTest.mouseClick(plan.view.viewport(), Left, held, middle(plan, position))
    plan.app.processEvents()


def chosen(plan) -> list[int]:
    order = [p.id for p in all_pages(plan.publication)]
    return [order.index(p) + 1 for p in plan.session.pages]


def before(plan, position) -> QPoint:
    """A point in the gap before a page."""
    rect = plan.view.rect_of(plan.page(position))
    return QPoint(round(rect.left() + 2), round(rect.center().y()))


def drag(plan, position, to: QPoint, drop=True) -> str:
    """Pulls a page's thumbnail to a point; what was foretold there."""
    plan.pull(plan.view.viewport(), middle(plan, position), to, drop=False)
    words = plan.view.hand.words
    if drop:
        plan.again("drop", plan.view.viewport(), to)
    return words


# -- what is seen -------------------------------------------------------------------------


def test_nothing_is_selected_on_arrival_and_the_key_comes_back(plan):
    assert plan.session.pages == () and plan.view.isVisible() and not plan.desk.isVisible()
    assert not plan.window.run.isVisible()
    plan.do("flatplan")
    assert plan.desk.isVisible() and plan.window.run.isVisible()


def test_sections_have_bands_and_every_page_is_there_once(plan):
    layout = plan.view.layout_now()
    assert [t.facts.position for t in layout.tiles] == list(range(1, 33))
    assert [b.section_id for b in layout.bands] == [s.id for s in plan.publication.sections]
    assert numbering_in_words(plan.session.publication, 1) == "5 pages · ii, (iii), iv … vi"
    assert masters_in_words(plan.session.publication, 1) == "follows Text"
    cover, first, wide = layout.tiles[0], layout.tiles[1], layout.page[0]
    # A recto alone stands right of the spine of its section.
    assert cover.x - layout.bands[0].x == first.x - layout.bands[1].x + wide + 1


def test_short_sections_stand_side_by_side_and_no_width_is_lost(plan):
    layout = plan.view.layout_now()
    rows: dict[float, list] = {}
    for band in layout.bands:
        rows.setdefault(band.y, []).append(band)
    assert len(rows) < len(layout.bands)
    ordered = [rows[y] for y in sorted(rows)]
    for row, below in pairwise(ordered):
        used = row[-1].x + row[-1].width
        assert used + below[0].width > layout.width  # the next did not fit beside
        assert all(a.x + a.width <= b.x for a, b in pairwise(row))
        assert len({b.bottom for b in row}) == 1 and row[0].bottom <= below[0].y
    for tile in layout.tiles:
        band = layout.bands[tile.section]
        assert band.holds(tile.x, tile.y) and band.holds(tile.x + layout.page[0], tile.y)


@pytest.mark.parametrize("size", [(1000, 640), (1280, 800), (1900, 1000)])
def test_fit_all_shows_the_whole_publication_as_large_as_it_can(plan, qtbot, size):
    plan.window.resize(*size)
    qtbot.wait(40)
    plan.view.fit_all()
    layout, port = plan.view.layout_now(), plan.view.viewport()
    assert layout.height <= port.height() or plan.view.page_height == SMALL
    assert len(layout.tiles_within(0, port.height())) == 32
    higher = flatplan_layout(plan.publication, plan.view.page_height + 2, port.width(),
                             frozenset(), False)  # fmt: skip
    assert higher.height > port.height()


def test_the_legend_names_every_mark(plan):
    plan.window.flatplan.show_legend()
    legend = plan.window.flatplan.legend
    words = " ".join(label.text() for label in legend.findChildren(QLabel))
    for word in (
        "masters",
        "own",
        "overridden",
        "Blind",
        "Locked",
        "Kept with",
        "Checks",
        "Follows",
    ):
        assert word in words
    legend.grab()
    legend.close()


def test_marks_have_tooltips(plan):
    assert "items of its own" in plan.view.tip(plan.page(8))
    assert "Overrides" in plan.view.tip(plan.page(7))
    assert "Locked" in plan.view.tip(plan.page(1)) and "Kept with" in plan.view.tip(plan.page(2))


@pytest.mark.parametrize("height", [28, 120, 400])
@pytest.mark.parametrize("direction", ["left to right", "right to left"])
def test_no_two_pages_overlap_at_any_size_and_direction(plan, height, direction):
    plan.session.edit("direction", lambda p: change_setup(p, direction=direction))
    plan.view.zoom_to(height)
    layout = plan.view.layout_now()
    wide, high = layout.page
    for n, a in enumerate(layout.tiles):
        assert a.x >= 0 and a.x + wide <= layout.width
        for b in layout.tiles[n + 1 :]:
            assert abs(a.x - b.x) >= wide or abs(a.y - b.y) >= high
    pair = [t for t in layout.tiles if t.facts.spread == layout.tiles[1].facts.spread]
    assert (pair[0].x < pair[1].x) == (direction == "left to right")


def test_thumbnails_come_without_painting_waiting_for_them(plan, qtbot):
    plan.view.live.finish()
    assert plan.view.live.pixmap(plan.page(7)) is not None
    first = plan.view.live.pixmap(plan.page(7)).toImage()
    page = plan.page(7)
    plan.session.edit("follow", lambda p: follow_all(p, page))
    qtbot.waitUntil(lambda: plan.view.live.pixmap(page).toImage() != first, timeout=5000)


def test_pictures_come_while_others_are_still_being_composed(plan, monkeypatch):
    """One page is composed at a time here; each is to be seen before all are composed."""
    monkeypatch.setattr("hidden_frame.desktop.views.flatplan.live._SLICE", 0.0)
    live, thumbnails = plan.view.live, plan.window.thumbnails
    live.finish()
    thumbnails._kept.clear()
    live._done.clear()
    plan.view.zoom_to(41)
    plan.view.viewport().repaint()
    seen = len(live.missing)
    assert seen > 12
    while len(live.missing) > seen // 2:
        plan.app.processEvents()
    there = [page for page in live._seen if live.pixmap(page) is not None]
    assert len(there) >= seen // 2 - 3


def test_a_section_is_folded_and_unfolded_at_its_head(plan):
    band = plan.view.layout_now().bands[1]
    down = plan.view.verticalScrollBar().value()
    at = QPoint(round(band.x + 22), round(band.y + 10 - down))
    QTest.mouseClick(plan.view.viewport(), Left, NONE, at)
    assert plan.view.rect_of(plan.page(3)).isNull() and not plan.view.rect_of(plan.page(1)).isNull()
    QTest.mouseClick(plan.view.viewport(), Left, NONE, at)
    assert not plan.view.rect_of(plan.page(3)).isNull()


def test_tooltips_say_what_is_known_of_a_page(plan):
    _count_from_one(plan)
    plan.do("checks")
    plan.view._judge()
    tip = plan.view.tip(plan.page(3))
    assert "counts as ii, blind" in tip and "right pages have even folios" in tip


# -- selecting --------------------------------------------------------------------------------


def test_click_shift_and_ctrl(plan):
    click(plan, 3)
    click(plan, 6, Shift)
    assert chosen(plan) == [3, 4, 5, 6]
    click(plan, 4, Ctrl)
    click(plan, 9, Ctrl)
    assert chosen(plan) == [3, 5, 6, 9]
    click(plan, 5)  # a plain click on one of several
    assert chosen(plan) == [5]


def test_a_rubber_band_takes_what_it_touches(plan):
    layout = plan.view.layout_now()
    a = plan.view.rect_of(plan.page(2))
    b = plan.view.rect_of(plan.page(5))
    start = QPoint(round(a.left()) - 6, round(a.top()) - 4)
    end = QPoint(round(b.right()) - 4, round(b.bottom()) - 3)
    assert layout.at(start.x(), start.y()) is None
    plan.pull(plan.view.viewport(), start, end)
    assert chosen(plan) == [2, 3, 4, 5]


def test_a_head_selects_its_section_and_commands_select_by_rule(plan):
    band = plan.view.layout_now().bands[1]
    at = QPoint(round(band.x + 90), round(band.y + 10))
    QTest.mouseClick(plan.view.viewport(), Left, NONE, at)
    assert chosen(plan) == [2, 3, 4, 5, 6]
    plan.do("pages odd")
    assert all(p % 2 for p in chosen(plan) if p > 6 and p < 12)
    click(plan, 8)
    plan.do("select followers")
    assert 8 in chosen(plan) and 9 in chosen(plan) and 7 not in chosen(plan)
    plan.do("select all")
    assert len(chosen(plan)) == 32
    plan.do("select none")
    assert chosen(plan) == []


def test_by_keys_alone_one_moves_selects_opens_and_comes_back(plan):
    click(plan, 8)
    plan.key(Qt.Key.Key_Right, widget=plan.view)
    assert chosen(plan) == [9]
    plan.key(Qt.Key.Key_Right, Shift, widget=plan.view)
    assert chosen(plan) == [9, 10]
    plan.key(Qt.Key.Key_Right, Ctrl, widget=plan.view)
    plan.key(Qt.Key.Key_Space, widget=plan.view)
    assert chosen(plan) == [9, 10, 11]
    scrolled = plan.view.verticalScrollBar().value()
    plan.key(Qt.Key.Key_Return, widget=plan.view)
    assert plan.desk.isVisible() and plan.session.page_id == plan.page(11)
    plan.key(Qt.Key.Key_Escape)
    assert plan.view.isVisible() and plan.view.verticalScrollBar().value() == scrolled


def test_a_double_click_opens_a_page(plan):
    QTest.mouseDClick(plan.view.viewport(), Left, NONE, middle(plan, 4))
    plan.app.processEvents()
    assert plan.desk.isVisible() and plan.session.page_id == plan.page(4)


# -- finding ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("typed", "found"),
    [("iv", [4]), ("#17", [17]), ("Summer", [4, 12, 13, 14, 15, 16]),
     ("table, winter", [24, 25, 26]),
     ("Herdsman", [8]), ("2-4", [8, 9, 10]), ("zebra", [])],
)  # fmt: skip
def test_finding_by_folio_position_section_master_and_text(plan, typed, found):
    plan.window.flatplan.search.setText(typed)
    pages = [p.id for p in all_pages(plan.publication)]
    assert [n + 1 for n, p in enumerate(pages) if p in plan.view.matching] == found
    words = plan.window.flatplan.hits.text()
    assert words == ("nothing" if not found else f"{len(found)} page{'s' * (len(found) != 1)}")


def test_enter_goes_from_hit_to_hit(plan):
    search = plan.window.flatplan.search
    search.setText("Summer")
    assert plan.view.focus_page == plan.page(4)  # the contents name it
    search.returnPressed.emit()
    assert plan.view.focus_page == plan.page(12)
    search.clear()
    assert plan.view.matching is None  # none is faded


# -- moving -----------------------------------------------------------------------------------


def test_a_drag_says_beforehand_what_it_will_do(plan):
    click(plan, 9)
    words = drag(plan, 9, before(plan, 4), drop=False)
    assert words == "Move page before iv (#4), in Front matter\nPages iv–3 change sides"
    plan.key(Qt.Key.Key_Escape, widget=plan.view)
    assert plan.view.hand.words == "" and [p.id for p in all_pages(plan.publication)]
    moved = plan.page(9)
    drag(plan, 9, before(plan, 4))
    assert plan.page(4) == moved
    assert section_of(plan.publication, moved).name == "Front matter"
    plan.do("undo")
    assert plan.page(9) == moved


def test_pages_that_are_not_adjacent_move_together_in_order(plan):
    pages = [plan.page(n) for n in (4, 8, 10)]
    for n, held in ((4, NONE), (8, Ctrl), (10, Ctrl)):
        click(plan, n, held)
    words = drag(plan, 8, before(plan, 12))
    assert words.startswith("Move 3 pages before 6 (#12), in Summer")
    assert [plan.page(n) for n in (9, 10, 11)] == pages


def test_a_whole_section_is_dragged_by_its_head(plan):
    bands = plan.view.layout_now().bands
    down = plan.view.verticalScrollBar().value()
    spring, summer = bands[2], bands[3]
    start = QPoint(round(summer.x + 90), round(summer.y + 12 - down))
    end = QPoint(round(spring.x + 20), round(spring.y + 8 - down))
    plan.pull(plan.view.viewport(), start, end, drop=False)
    assert plan.view.hand.words.startswith("Move Summer before Spring")
    plan.again("drop", plan.view.viewport(), end)
    assert [s.name for s in plan.publication.sections][2:4] == ["Summer", "Spring"]


def test_a_move_by_dialog_with_the_same_foretelling(plan):
    click(plan, 9)
    dialog = MoveDialog(plan.session, plan.session.pages, plan.window)
    QTest.keyClicks(dialog.page, "iv")
    assert dialog.what.text() == "Pages iv–3 change sides. They will be in “Front matter”."
    moved = plan.page(9)
    dialog._accept()
    assert plan.page(4) == moved
    dialog = MoveDialog(plan.session, (moved,), plan.window)
    dialog.page.setText("#4")
    held = plan.publication
    dialog._accept()
    assert plan.publication is held and "one of themselves" in dialog.form.problem.text()
    dialog.page.setText("nowhere")
    assert "names no page" in dialog.what.text()


def test_a_tied_spread_is_not_parted_without_a_word(plan):
    click(plan, 14)
    click(plan, 15, Ctrl)
    plan.do("tie")
    assert find_page(plan.publication, plan.page(14)).tie
    click(plan, 10)
    order = [p.id for p in all_pages(plan.publication)]
    plan.do("delete pages")
    assert [p.id for p in all_pages(plan.publication)] == order  # asked first
    menu = plan.window.findChild(QMenu, "TieChoices")
    offers = [a.text() for a in menu.actions() if a.isEnabled() and a.text()]
    assert offers == ["Go on", "Go on, and add the page that keeps it together", "Leave it"]
    menu.actions()[3].trigger()
    facts = plan.session.composition.facts
    tied = [p.id for p in all_pages(plan.publication) if p.tie]
    assert facts[tied[0]].spread == facts[tied[1]].spread


def test_a_held_page_stays_and_others_flow_around_it(plan):
    click(plan, 10)
    plan.do("hold")
    held = plan.page(10)
    click(plan, 8)
    plan.do("delete pages")
    assert plan.page(10) == held
    click(plan, 10)
    words = drag(plan, 10, before(plan, 8))
    assert "stays there; unlock it to move it" in words and plan.page(10) == held
    plan.do("hold")
    assert find_page(plan.publication, held).held is None


# -- adding, deleting, copying ------------------------------------------------------------------


def test_deleting_says_what_went_with_undo_beside_it(plan):
    click(plan, 8)
    click(plan, 9, Shift)
    plan.do("delete pages")
    assert plan.notices[-1] == "Deleted 2 pages from Spring; it keeps the other 3."
    assert plan.window.notice.isVisible() and plan.window.notice.undo.isVisible()
    plan.window.notice.undo.click()
    assert len(all_pages(plan.publication)) == 32


def test_a_typed_range_is_deleted_with_its_echo(plan):
    dialog = DeleteRangeDialog(plan.session, plan.window)
    dialog.range.setText("2-4, V-B")
    assert "pages 2–4 and V-B: 4 pages" in dialog.echo.text()
    dialog.range.setText("x")
    assert "“x” names no page" in dialog.echo.text()
    dialog.range.setText("all")
    kept = plan.publication
    dialog._accept()
    assert plan.publication is kept and "at least one page" in dialog.form.problem.text()
    dialog.range.setText("2-4")
    dialog._accept()
    assert len(all_pages(plan.publication)) == 29


def test_pages_are_added_where_and_following_what_one_says(plan):
    dialog = AddDialog(plan.session, plan.page(9), plan.window)
    dialog.count.setText("20000")
    assert "from 1 to 5000" in dialog.what.text()
    dialog.count.setText("1")
    dialog.where.setCurrentIndex(2)
    names = [dialog.master.itemText(n) for n in range(dialog.master.count())]
    dialog.master.setCurrentIndex(names.index("Notes"))
    dialog._accept()
    spring = section_of(plan.publication, plan.page(9))
    added = spring.pages[-1]
    assert len(spring.pages) == 8 - 2 and stack_of(plan.publication, added) == (
        plan.master("Notes"),
    )
    dialog = AddDialog(plan.session, plan.page(9), plan.window)
    dialog.spread.setChecked(True)
    dialog._accept()
    pair = [find_page(plan.publication, plan.page(n)) for n in (10, 11)]
    assert pair[0].tie == pair[1].tie and pair[0].tie and pair[0].masters == ()


def test_filling_up_to_full_sheets(plan):
    plan.session.edit("sheets", lambda p: change_setup(p, sheet=16))
    click(plan, 3)
    plan.do("delete pages")
    assert plan.window.flatplan.count.text() == "31 pages, 1 missing to a multiple of 16"
    dialog = FillUpDialog(plan.session, plan.window)
    assert dialog.lacking == 1
    dialog._accept()
    assert len(all_pages(plan.publication)) == 32
    assert section_of(plan.publication, plan.page(31)).name == "Visitors"
    assert stack_of(plan.publication, find_page(plan.publication, plan.page(31))) == (
        plan.master("Notes"),
    )


def test_pages_are_cut_copied_and_pasted_also_elsewhere(plan):
    click(plan, 7)
    click(plan, 8, Shift)
    plan.do("copy")
    assert QGuiApplication.clipboard().mimeData().hasFormat(PAGES_MIME)
    click(plan, 3)
    plan.do("paste")
    assert len(all_pages(plan.publication)) == 34 and chosen(plan) == [4, 5]
    setup = plan.publication.setup
    plan.session.replace_all(new_publication("Other", setup, 4), {}, None)
    plan.session.show_flatplan()
    plan.do("paste")
    assert len(all_pages(plan.publication)) == 6
    assert "Season opener" in [m.name for m in plan.publication.masters]
    plan.do("cut")
    assert len(all_pages(plan.publication)) == 4
    QGuiApplication.clipboard().clear()


def test_pages_that_are_put_in_out_of_sight_are_shown(plan):
    setup = plan.publication.setup
    click(plan, 7)
    plan.do("copy")
    plan.session.replace_all(new_publication("Other", setup, 900), {}, None)
    plan.session.show_flatplan()
    plan.app.processEvents()
    view = plan.view
    plan.session.select_pages((plan.page(900),))
    view.verticalScrollBar().setValue(0)
    plan.do("paste")
    assert chosen(plan) == [901]
    tile, top = view.layout_now().of(plan.page(901)), view.verticalScrollBar().value()
    assert top <= tile.y < top + view.viewport().height()
    view.verticalScrollBar().setValue(0)
    plan.do("undo")
    click(plan, 3)  # what is in sight stays where it is
    assert view.verticalScrollBar().value() == 0
    QGuiApplication.clipboard().clear()


def test_a_new_publication_of_the_selected_pages(plan):
    made = []
    plan.window.files.opener = lambda *what: made.append(what)
    click(plan, 12)
    click(plan, 16, Shift)
    plan.do("new from pages")
    publication, blobs, path = made[0]
    assert [s.name for s in publication.sections] == ["Summer"] and path is None
    assert {p.hash for p in publication.pictures} <= set(blobs)


# -- sections -----------------------------------------------------------------------------------


def test_this_page_is_page_1_and_the_section_dialog_shows_what_will_be_printed(plan):
    click(plan, 9)
    plan.do("page one")
    assert plan.session.composition.facts[plan.page(9)].folio == "1"
    dialog = SectionDialog(plan.session, plan.page(14), plan.window)
    dialog.start.setText("40")
    assert dialog.shown.text() == "Its pages print 40, 41, 42"
    dialog.start.setText("zero")
    kept = plan.publication
    assert "can’t start at “zero”" in dialog.form.problem.text()
    dialog._accept()
    assert plan.publication is kept and "whole number" in dialog.form.problem.text()


def test_sections_are_ended_joined_duplicated_reordered_and_deleted(plan):
    click(plan, 9)
    plan.do("end section")
    assert [len(s.pages) for s in plan.publication.sections][2:4] == [3, 2]
    click(plan, 10)
    plan.do("join section")
    assert [len(s.pages) for s in plan.publication.sections][2] == 5
    plan.do("duplicate section")
    assert [s.name for s in plan.publication.sections][2:4] == ["Spring", "Spring"]
    plan.do("delete section pages")
    assert plan.notices[-1] == "Deleted Spring with its 5 pages."
    click(plan, 8)
    plan.do("section later")
    assert [s.name for s in plan.publication.sections][2:4] == ["Summer", "Spring"]
    plan.do("delete section")
    assert "its pages stay" in plan.notices[-1] and len(all_pages(plan.publication)) == 32


def test_blind_folios_by_rule_and_all_shown_again(plan):
    plan.do("blind first")
    assert find_page(plan.publication, plan.page(7)).blind
    plan.do("show folios")
    assert not any(p.blind for p in all_pages(plan.publication))


# -- checks ---------------------------------------------------------------------------------------


def _count_from_one(plan):
    """The front matter, which begins on a left page, counts from i."""
    front = plan.publication.sections[1]
    numbering = replace(front.numbering, start=1)
    plan.session.edit("numbering", lambda p: change_numbering(p, front.id, numbering))


def test_checks_are_counted_listed_jumped_to_and_fixed(plan, qtbot):
    panel, status = plan.window.checks, plan.window.status
    _count_from_one(plan)
    qtbot.waitUntil(lambda: status.checks.text() == "2 to check", timeout=8000)
    status.checks.click()
    assert panel.isVisible() and panel.list.topLevelItemCount() == 2
    row = panel.list.topLevelItem(0)
    assert row.text(0) == (
        "From Front matter on right pages have even folios, as on ii (#3), until 1 (#7)."
    )
    panel.list.itemClicked.emit(row, 0)
    assert chosen(plan) == [2, 3, 4, 5, 6]
    panel.list.itemWidget(row, 1).findChild(QPushButton).click()
    assert len(all_pages(plan.publication)) == 33
    panel.refresh()
    sentences = [panel.list.topLevelItem(n).text(0) for n in range(panel.list.topLevelItemCount())]
    assert any("missing to a multiple of 4" in s for s in sentences)


def test_right_to_left_the_first_page_of_a_spread_lies_right(plan):
    plan.session.edit("direction", lambda p: change_setup(p, direction="right to left"))
    plan.session.show_page(plan.page(8))
    faces = plan.session.faces()
    assert [f.holder_id for f in faces] == [plan.page(9), plan.page(8)]
    run = plan.window.run
    assert run.rect_of(plan.page(9)).left() < run.rect_of(plan.page(8)).left()
    QTest.mouseClick(run.viewport(), Left, NONE, run.rect_of(plan.page(9)).center().toPoint())
    assert plan.session.page_id == plan.page(9)


def carry(plan, master, at: QPoint, held=NONE) -> str:
    data = QMimeData()
    data.setData(MASTER_MIME, QByteArray(plan.master(master).encode()))
    copy = Qt.DropAction.CopyAction
    plan.view.dragMoveEvent(QDragMoveEvent(at, copy, data, Left, held))
    words = plan.view.hand.words
    plan.view.dropEvent(QDropEvent(QPointF(at), copy, data, Left, held))
    plan.app.processEvents()
    return words


def test_a_master_dropped_on_a_page_or_between_two(plan):
    assert carry(plan, "Notes", middle(plan, 9), Ctrl) == "Add “Notes” on top of page 3 (#9)"
    page = find_page(plan.publication, plan.page(9))
    assert len(stack_of(plan.publication, page)) == 2
    words = carry(plan, "Notes", before(plan, 9))
    assert words == "New page before 3 (#9), following “Notes”, in Spring"
    assert stack_of(plan.publication, find_page(plan.publication, plan.page(9))) == (
        plan.master("Notes"),
    )


def test_another_pairing_is_seen_on_the_flatplan_before_it_is_accepted(plan):
    kept = plan.publication
    dialog = plan.window.dialogs.pairing()
    assert dialog.what.text() == "Nothing changes."
    dialog.opening.setCurrentIndex(1)
    dialog.opening.activated.emit(1)
    assert dialog.what.text().startswith("Pages #1–#32 change sides; the spread ii–iii is")
    tiles = plan.view.layout_now().tiles
    assert tiles[0].facts.side == "verso" and plan.publication is kept
    dialog.reject()
    assert plan.view.layout_now().tiles[0].facts.side == "recto"
    dialog = plan.window.dialogs.pairing()
    dialog.facing.setChecked(False)
    dialog._accept()
    assert not plan.publication.setup.facing
    plan.do("undo")
    assert plan.publication == kept


def test_pointing_at_a_master_rings_its_pages_here_too(plan):
    plan.window.shelf.masters.pointed.emit(plan.master("Season opener"))
    ringed = [n for n in range(1, 33) if plan.page(n) in plan.view.ringed]
    assert ringed == [7, 12, 17, 22]
    plan.window.shelf.masters.pointed.emit(None)
    assert not plan.view.ringed


def test_adding_and_duplicating_stay_on_the_flatplan(plan):
    click(plan, 9)
    plan.do("add page")
    assert plan.view.isVisible() and chosen(plan) == [10]
    plan.do("duplicate pages")
    assert chosen(plan) == [11] and len(all_pages(plan.publication)) == 34


@pytest.mark.parametrize(("height", "least"), [(28, 200), (460, 8)])
def test_from_a_wall_of_200_pages_to_a_few_spreads(plan, height, least):
    """On a window of 1280 × 800: how many pages of one long section are in sight at once."""
    setup = plan.publication.setup
    plan.session.replace_all(new_publication("Long", setup, 400), {}, None)
    plan.session.show_flatplan()
    plan.view.zoom_to(height)
    plan.app.processEvents()
    layout, high = plan.view.layout_now(), plan.view.viewport().height()
    whole = [t for t in layout.tiles if t.y + layout.page[1] <= high]
    seen = layout.tiles_within(0, high)
    assert len(whole) >= least if height < 60 else len(seen) <= least
