"""One selection: what the Run and the flatplan show selected, what Properties name, and what a
command changes are the same pages, after any clicks, drags and keys."""

from __future__ import annotations

import random

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.panels.properties.page import PageForm
from hidden_frame.edit.pages.order import delete_pages
from hidden_frame.model.lookup import all_pages, find_page, stack_of

Left, Ctrl, Shift = (Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier,
                     Qt.KeyboardModifier.ShiftModifier)  # fmt: skip
NONE = Qt.KeyboardModifier.NoModifier


def settle(hands):
    for _ in range(3):
        hands.app.processEvents()
    hands.window.run.refresh()


def in_run(hands, position, held=NONE):
    run = hands.window.run
    page = hands.page(position)
    run.bring_into_view(page)
    QTest.mouseClick(run.viewport(), Left, held, run.rect_of(page).center().toPoint())
    settle(hands)


def in_plan(hands, position, held=NONE):
    plan = hands.window.flatplan.view
    page = hands.page(position)
    plan.bring_into_view(page)
    QTest.mouseClick(plan.viewport(), Left, held, plan.rect_of(page).center().toPoint())
    settle(hands)


def positions(hands):
    order = [p.id for p in all_pages(hands.publication)]
    return [order.index(p) + 1 for p in hands.session.pages]


def form(hands) -> PageForm:
    hands.window.properties.refresh()
    found = hands.window.properties.form
    assert isinstance(found, PageForm)
    return found


def agree(hands):
    """What must hold at any time while pages are looked at."""
    session = hands.session
    if session.pages:
        assert session.page_id in session.pages
    if session.mode == "pages" and not session.items and session.editing is None:
        assert session.holder_id == session.page_id
        assert form(hands).pages() == hands.window.pages.chosen()


def test_a_command_changes_the_pages_that_properties_name(hands):
    in_run(hands, 8)
    in_run(hands, 10, Ctrl)
    assert positions(hands) == [8, 10]
    assert form(hands).name.text() == "2 pages: 2, 4"
    before = {p.id: p for p in all_pages(hands.publication)}
    hands.button("No master").click()
    changed = [n for n, p in enumerate(all_pages(hands.publication), 1) if before[p.id] is not p]
    assert changed == [8, 10]
    assert all(find_page(hands.publication, hands.page(n)).masters == () for n in (8, 10))


def test_the_desk_shows_a_page_of_the_selection(hands):
    in_run(hands, 8)
    hands.window.pages.select_followers()
    settle(hands)
    assert hands.session.page_id in hands.session.pages
    assert hands.session.page_id in {f.holder_id for f in hands.session.faces()}
    agree(hands)


def test_going_elsewhere_gives_up_a_selection_that_is_not_there(hands):
    in_run(hands, 8)
    in_run(hands, 10, Ctrl)
    hands.session.show_page(hands.page(20))
    assert hands.session.pages == ()
    assert form(hands).name.text() == "Page 14"
    agree(hands)


def test_an_item_on_another_page_gives_up_the_selection(hands):
    in_run(hands, 8)
    in_run(hands, 10, Ctrl)
    hands.session.show_page(hands.page(8))
    assert positions(hands) == [8, 10]
    hands.click(1, 200, 300)  # on page 9, beside it
    assert positions(hands) == []


@pytest.mark.parametrize("where", ["run", "flatplan"])
def test_a_sections_head_selects_the_section_and_properties_are_its(hands, where):
    hands.session.show_page(hands.page(27))
    if where == "flatplan":
        hands.do("flatplan")
        view = hands.window.flatplan.view
        band = next(b for b in view.layout_now().bands if b.number == 3)
        point = QPoint(200, round(band.y + 12) - view.verticalScrollBar().value())
    else:
        view = hands.window.run
        view.bring_into_view(hands.page(12))
        settle(hands)
        rect = view.rect_of(hands.page(13))
        point = QPoint(round(rect.center().x()), 10)
    QTest.mouseClick(view.viewport(), Left, NONE, point)
    settle(hands)
    section = hands.publication.sections[3]
    assert hands.session.pages == tuple(p.id for p in section.pages)
    assert hands.session.section_id == section.id
    found = form(hands)
    assert found.name.text() == f"Section {section.name}" and found.section.text() == section.name
    hands.enter("Name", "Long days")
    assert hands.publication.sections[3].name == "Long days"
    agree(hands)


def test_a_rubber_band_takes_properties_along(hands):
    hands.do("flatplan")
    plan = hands.window.flatplan.view
    settle(hands)
    first, last = plan.rect_of(hands.page(8)), plan.rect_of(hands.page(11))
    start = QPoint(round(first.left()) - 9, round(first.center().y()))
    hands.pull(plan.viewport(), start, last.center().toPoint())
    assert positions(hands)[0] == 8 and len(positions(hands)) >= 2
    assert form(hands).name.text().startswith(f"{len(positions(hands))} pages: 2, 3")
    agree(hands)


def test_pages_that_are_added_are_selected_and_shown(hands, monkeypatch):
    in_run(hands, 8)
    hands.do("add page")
    settle(hands)
    assert positions(hands) == [9] and hands.session.page_id == hands.page(9)
    agree(hands)
    from hidden_frame.desktop.dialogs.order import AddDialog

    monkeypatch.setattr(AddDialog, "exec", lambda dialog: (dialog.answer(), 1)[1])
    hands.do("add pages")
    settle(hands)
    assert hands.session.pages and hands.session.page_id == hands.session.pages[0]
    agree(hands)


def test_the_run_and_the_flatplan_foretell_a_move_in_the_same_words(hands):
    in_run(hands, 9)
    in_run(hands, 11, Ctrl)
    hands.session.show_page(hands.page(9))
    run = hands.window.run
    run.bring_into_view(hands.page(5))
    settle(hands)

    def told(view, viewport):
        start = view.rect_of(hands.page(9)).center().toPoint()
        to = view.rect_of(hands.page(4))
        end = QPoint(round(to.left()) + 2, round(to.center().y()))
        hands.pull(viewport, start, end, drop=False)
        words = view.hand.words
        view.hand.cancel()
        return words

    run.setMinimumWidth(1200)
    run.horizontalScrollBar().setValue(150)
    one = told(run, run.viewport())
    assert positions(hands) == [9, 11]
    hands.do("flatplan")
    plan = hands.window.flatplan.view
    plan.zoom_to(60)
    settle(hands)
    other = told(plan, plan.viewport())
    assert one == other and one.startswith("Move 2 pages before ")


@pytest.mark.parametrize("seed", range(6))
def test_after_any_clicks_and_commands_all_agree(hands, seed):
    """Random hands: clicks with and without keys, commands, undo, going about."""
    dice = random.Random(seed)
    for _ in range(40):
        count = len(all_pages(hands.publication))
        n = dice.randint(1, count)
        what = dice.choice(
            ["run", "run", "ctrl", "shift", "go", "desk", "section", "followers", "odd", "none",
             "add", "duplicate", "delete", "undo", "redo", "plan", "blind", "left", "escape"]
        )  # fmt: skip
        if what in ("run", "ctrl", "shift"):
            held = {"run": NONE, "ctrl": Ctrl, "shift": Shift}[what]
            if hands.session.pane == "flatplan":
                in_plan(hands, n, held)
            else:
                in_run(hands, n, held)
        elif what == "go":
            hands.session.show_page(hands.page(n))
        elif what == "desk" and hands.session.pane == "desk":
            hands.click(dice.randint(0, len(hands.session.faces()) - 1), 200, 300)
        elif what == "section":
            hands.session.select_section(dice.choice(hands.publication.sections).id)
        elif what == "followers":
            hands.window.pages.select_followers()
        elif what in ("odd", "none"):
            hands.window.pages.select(what)
        elif what == "add" and count < 60:
            hands.window.pages.add()
        elif what == "duplicate" and count + len(hands.session.pages) < 60:
            hands.window.pages.duplicate()
        elif what == "delete" and 0 < len(hands.session.pages) < 5 and count > 12:
            hands.window.pages.delete()
        elif what in ("undo", "redo"):
            hands.do(what)
        elif what == "plan":
            hands.do("flatplan")
        elif what == "blind":
            hands.window.pages.toggle_blind()
        elif what in ("left", "escape"):
            key = Qt.Key.Key_Left if what == "left" else Qt.Key.Key_Escape
            hands.key(key, widget=hands.window.run)
        settle(hands)
        agree(hands)


def test_shift_and_ctrl_extend_alike_in_the_run_and_on_the_flatplan(hands):
    def sequence(click):
        click(hands, 3)
        click(hands, 5, Shift)
        click(hands, 9, Ctrl)
        click(hands, 11, Ctrl | Shift)
        return positions(hands)

    one = sequence(in_run)
    hands.do("flatplan")
    assert one == sequence(in_plan) == [3, 4, 5, 9, 10, 11]


def test_different_stacks_are_said_and_a_change_reaches_all(hands):
    in_run(hands, 7)
    in_run(hands, 9, Shift)
    assert "different stacks" in form(hands).how.text()
    hands.button("Automatic").click()
    assert {find_page(hands.publication, hands.page(n)).masters for n in (7, 8, 9)} == {None}
    stacks = {stack_of(hands.publication, find_page(hands.publication, hands.page(n)))
              for n in (7, 8, 9)}  # fmt: skip
    assert len(stacks) == 1 and form(hands).how.text() == "Automatic"


def test_a_page_is_dragged_only_past_eight_pixels(hands):
    in_run(hands, 8)
    run = hands.window.run
    before = hands.publication
    start = run.rect_of(hands.page(8)).center().toPoint()
    hands.pull(run.viewport(), start, start + QPoint(7, 0))
    assert hands.publication is before
    hands.pull(run.viewport(), start, start + QPoint(120, 0), drop=False)
    assert run.hand.words.startswith("Move page")
    run.hand.cancel()
    assert run.hand.pointer != QPointF()


def test_a_section_is_copied_and_pasted_whole(hands):
    summer = hands.publication.sections[3]
    hands.do("flatplan")
    hands.session.select_section(summer.id)
    hands.do("copy")
    hands.session.select_pages((hands.page(30),))
    hands.do("paste")
    settle(hands)
    made = hands.session.section_id
    section = next(s for s in hands.publication.sections if s.id == made)
    assert section.name == "Summer 2" and section.numbering == summer.numbering
    assert form(hands).name.text() == "Section Summer 2"
    agree(hands)


def test_deleting_a_head_says_what_its_pages_print_then(hands):
    visitors = next(s for s in hands.publication.sections if s.name == "Visitors")
    hands.window.pages.delete_section(visitors.id, pages=False)
    assert (
        hands.notices[-1] == "Deleted the section Visitors; its pages stay and print 21 to 25 now."
    )
    hands.do("undo")
    summer = next(s for s in hands.publication.sections if s.name == "Summer")
    hands.window.pages.delete_section(summer.id, pages=False)
    assert "print what they did" in hands.notices[-1]


def test_filling_up_asks_for_the_multiple_and_says_the_total(hands):
    from hidden_frame.desktop.dialogs.order import FillUpDialog

    dialog = FillUpDialog(hands.session, hands.window)
    dialog.show()
    assert "already" in dialog.note.text() and not dialog.ok.isEnabled()
    hands.session.edit("less", lambda p: delete_pages(p, [hands.page(10)]))
    dialog = FillUpDialog(hands.session, hands.window)
    dialog.sheet.setCurrentIndex(dialog.sheet._values.index(16))
    dialog.sheet.activated.emit(dialog.sheet.currentIndex())
    assert "31 pages; 1 page will be added: 32 in all, 2 × 16." in dialog.note.text()
    dialog.answer()
    assert len(all_pages(hands.publication)) == 32
