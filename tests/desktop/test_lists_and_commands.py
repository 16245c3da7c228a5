"""The lists of items and steps, the finder, Go to, settings: everything has a name and a key."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt
from PySide6.QtGui import QDropEvent, QKeySequence
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.desk_settings import DeskSettings
from hidden_frame.desktop.dialogs.goto import GoToDialog
from hidden_frame.desktop.find.hints import HINTS
from hidden_frame.desktop.panels.shelf.items import EYE, LOCK
from hidden_frame.model.lookup import find_master, find_page


@pytest.fixture
def listed(hands):
    hands.session.show_page(hands.page(9))
    hands.session.select_items(hands.session.faces()[1], ())
    hands.window.show_shelf("Items")
    hands.tree = hands.window.item_list.tree
    hands.app.processEvents()

    def row(name):
        found = [r for r in hands.window.item_list.rows().values() if r.text(0) == name]
        return found[0]

    def layer(name):
        tops = [hands.tree.topLevelItem(n) for n in range(hands.tree.topLevelItemCount())]
        return next(r for r in tops if r.text(0) == name)

    hands.row, hands.layer = row, layer
    return hands


def test_items_are_listed_by_layer_topmost_first(listed):
    layers = [listed.tree.topLevelItem(n).text(0) for n in range(listed.tree.topLevelItemCount())]
    assert layers == ["Remarks", "Above", "Content", "Ground"]
    scene = listed.session.composition.scene(listed.page(9))
    shown = list(listed.window.item_list.rows())
    assert shown == [p.item_id for p in reversed(scene.placed)]
    assert "From the master" in listed.row("Table head band").toolTip(0)


def test_selecting_by_name_and_from_the_desk(listed):
    listed.tree.setCurrentItem(listed.row("Moon 3"))
    assert listed.session.items == (listed.own(9, "Moon 3").id,)
    moon = listed.own(9, "Moon 5")
    listed.click(1, moon.x + 10, moon.y + 10)
    assert listed.row("Moon 5").isSelected() and not listed.row("Moon 3").isSelected()


def test_eye_and_lock_of_an_item(listed):
    listed.tree.itemClicked.emit(listed.row("Moon 3"), EYE)
    assert not listed.own(9, "Moon 3").visible
    listed.tree.itemClicked.emit(listed.row("Moon 3"), EYE)
    assert listed.own(9, "Moon 3").visible
    listed.tree.itemClicked.emit(listed.row("Moon 3"), LOCK)
    moon = listed.own(9, "Moon 3")
    assert moon.locked
    listed.click(1, moon.x + 10, moon.y + 10)
    assert moon.id not in listed.session.items
    listed.tree.itemClicked.emit(listed.row("Moon 3"), LOCK)
    assert not listed.own(9, "Moon 3").locked


def test_hiding_a_masters_item_in_the_list_is_an_override_here(listed):
    listed.tree.itemClicked.emit(listed.row("Table head band"), EYE)
    (override,) = find_page(listed.publication, listed.page(9)).overrides
    assert override.visible is False
    master = find_master(listed.publication, listed.master("Month table"))
    assert listed.item(master, "Table head band").visible


def test_eye_and_lock_of_a_layer(listed):
    listed.tree.itemClicked.emit(listed.layer("Content"), EYE)
    assert not next(x for x in listed.publication.layers if x.id == "content").visible
    assert listed.own(9, "Table").id not in [
        p.item_id for p in listed.session.composition.scene(listed.page(9)).placed
    ]
    listed.do("undo")
    listed.tree.itemClicked.emit(listed.layer("Content"), LOCK)
    moon = listed.own(9, "Moon 3")
    listed.click(1, moon.x + 10, moon.y + 10)
    assert listed.session.items == ()


def test_renaming_an_item_and_a_layer(listed):
    row = listed.row("Moon 3")
    row.setText(0, "Third moon")
    assert listed.own(9, "Third moon").name == "Third moon"
    listed.layer("Content").setText(0, "Above")
    assert "not in use" in listed.notices[-1]
    assert listed.layer("Content")


def test_restacking_by_the_list(listed):
    panel = listed.window.item_list
    content = listed.layer("Content")
    panel.restack(listed.own(9, "Table").id, content, 0)
    scene = listed.session.composition.scene(listed.page(9))
    in_content = [p.item_id for p in scene.placed if p.carrier is None]
    assert in_content[-1] == listed.own(9, "Table").id
    panel.restack(listed.own(9, "Table").id, listed.layer("Above"), 0)
    assert listed.own(9, "Table").layer == "above"


def test_dropping_a_row_on_another_puts_the_item_above_it(listed):
    tree, moved = listed.tree, listed.row("Moon 1")
    tree.setCurrentItem(moved)
    at = QPointF(tree.visualItemRect(listed.row("Moon 6")).center())
    event = QDropEvent(
        at, Qt.DropAction.MoveAction, QMimeData(), Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    tree.dropEvent(event)
    names = [i.name for i in find_page(listed.publication, listed.page(9)).items]
    assert names.index("Moon 1") == names.index("Moon 6") + 1


def test_the_list_shows_the_master_on_the_desk(listed):
    listed.session.show_master(listed.master("Text"))
    assert "MASTER" in listed.window.item_list.title.text()
    assert listed.row("Running head") is not None


def test_steps_are_listed_and_jumped_to(hands):
    hands.session.show_page(hands.page(9))
    hands.window.show_shelf("Steps")
    first = hands.publication
    for name in ("tool rectangle", "tool ellipse"):
        hands.do(name)
        hands.drag(1, (100, 575), (180, 640))
    last = hands.publication
    steps = hands.window.steps.list
    assert [steps.item(n).text() for n in range(steps.count())] == [
        "As it was opened", "Draw shape", "Draw shape",
    ]  # fmt: skip
    assert steps.item(2).font().bold()
    steps.itemClicked.emit(steps.item(0))
    assert hands.publication is first and steps.item(0).font().bold()
    steps.itemClicked.emit(steps.item(2))
    assert hands.publication is last
    hands.do("undo")
    assert steps.item(1).font().bold() and not steps.item(2).font().bold()


# -- commands ------------------------------------------------------------------------------


def test_the_list_of_commands_is_complete(hands):
    """Every action that a menu or a button offers is a command with a name and a place."""
    window = hands.window
    commands = {c.id: c for c in window.commands.list}
    assert len(commands) == len(window.commands.list)
    for command in commands.values():
        assert command.title and command.menu, command.id
        assert window.commands[command.id].text(), command.id
    in_menus = {
        a.objectName()
        for menu in window.commands.menus.values()
        for a in menu.actions()
        if not a.isSeparator() and a.objectName()
    }
    assert in_menus == set(commands)
    for button in (window.top.folios, window.top.finder, window.top.proof, window.status.snap):
        assert button.toolTip()


def test_no_two_keys_clash_and_none_is_the_desks_own(hands):
    keys = [
        a.shortcut().toString() for a in hands.window.commands.actions.values()
        if not a.shortcut().isEmpty()
    ]  # fmt: skip
    assert len(keys) == len(set(keys)) > 40
    own = {"Space", "Esc", "Return", "Enter", "Tab", "Left", "Right", "Up", "Down",
           "Shift+Left", "Shift+Right", "Shift+Up", "Shift+Down"}  # fmt: skip
    assert not own & set(keys)
    assert all(QKeySequence(k).count() == 1 for k in keys)


def test_every_key_in_the_readme_is_the_one_that_works(hands):
    """The README's table of keys, cell by cell: key, what it does."""
    readme = (Path(__file__).parents[2] / "docs" / "keys.md").read_text()
    shown = {c.title: hands.window.commands.key(c.id) for c in hands.window.commands.list}
    table = readme.split("| key | command |")[1].split("\n\n")[0]
    rows = [row.split("|") for row in table.splitlines() if row.startswith("| ")]
    pairs = [(r[n].strip(), r[n + 1].strip()) for r in rows for n in (1, 3) if r[n].strip()]
    assert len(pairs) > 40
    for key, title in pairs:
        assert shown[title] == key, title
    assert {t for _, t in pairs} >= {t for t, k in shown.items() if k and "style" not in t}


def test_the_finder_narrows_and_runs(hands, finder_of):
    finder = finder_of()
    everything = finder.list.topLevelItemCount()
    styles = [c for c in hands.window.commands.list if c.id.startswith("style ")]
    assert everything == len(hands.window.commands.list) - len(styles) + len(HINTS)
    QTest.keyClicks(finder.word, "next spread")
    assert finder.list.topLevelItem(0).text(0) == "Next spread"
    assert finder.list.topLevelItem(0).text(1) == "PgDown"
    before = hands.session.page_id
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert hands.session.page_id != before and not finder.isVisible()


def test_what_can_not_be_done_now_is_listed_grey_and_not_run(hands, finder_of):
    finder = finder_of()
    finder.word.setText("ungroup")
    before = hands.publication
    finder._run()
    assert hands.publication is before
    finder.word.setText("copy")
    rows = [finder.list.topLevelItem(n).text(0) for n in range(finder.list.topLevelItemCount())]
    assert any("Move a copy" in r for r in rows)  # what the hand does is listed too
    finder.word.setText("")
    QTest.keyClick(finder.word, Qt.Key.Key_Down)
    assert finder.list.indexOfTopLevelItem(finder.list.currentItem()) == 0


@pytest.mark.parametrize(
    ("typed", "position"), [("iv", 4), ("#17", 17), ("summer", 12), ("V-B", 28)]
)
def test_go_to_a_page(hands, qtbot, typed, position):
    dialog = GoToDialog(hands.session)
    qtbot.addWidget(dialog)
    QTest.keyClicks(dialog.word, typed)
    QTest.keyClick(dialog.word, Qt.Key.Key_Return)
    dialog.box.accepted.emit()
    assert hands.session.page_id == hands.page(position)


def test_go_to_a_master_and_nowhere(hands, qtbot):
    dialog = GoToDialog(hands.session)
    qtbot.addWidget(dialog)
    dialog.word.setText("month")
    dialog.box.accepted.emit()
    assert hands.session.mode == "masters"
    assert hands.session.master_id == hands.master("Month table")
    dialog.word.setText("nowhere at all")
    dialog.box.accepted.emit()
    assert "names no page" in dialog.form.problem.text()


def test_zooming_by_command(hands):
    hands.session.show_page(hands.page(9))
    moon = hands.own(9, "Moon 3")
    hands.session.select_items(hands.session.faces()[1], (moon.id,))
    hands.do("fit selection")
    x, y = hands.desk.camera.view.to_widget(
        moon.x + moon.width / 2 + hands.session.faces()[1].x, moon.y + moon.height / 2
    )
    assert (x, y) == pytest.approx((hands.desk.width() / 2, hands.desk.height() / 2), abs=1)
    hands.do("fit width")
    left, _ = hands.desk.camera.view.to_widget(0, 0)
    right, _ = hands.desk.camera.view.to_widget(2 * hands.publication.setup.trim.width, 0)
    assert left == pytest.approx(34, abs=1) and right == pytest.approx(
        hands.desk.width() - 34, abs=1
    )
    hands.do("actual size")
    dots = hands.desk.screen().physicalDotsPerInch()
    believed = dots if 40 <= dots <= 800 else hands.desk.logicalDpiX()
    assert hands.desk.camera.view.zoom == pytest.approx(believed / 72)


def test_the_desk_is_dragged_by_the_middle_button_and_by_space(hands):
    from PySide6.QtCore import QEvent
    from PySide6.QtGui import QMouseEvent

    def drag(button):
        for kind, x in ((QEvent.Type.MouseButtonPress, 200), (QEvent.Type.MouseMove, 240),
                        (QEvent.Type.MouseButtonRelease, 240)):  # fmt: skip
            at = QPointF(x, 150 + (x - 200) / 2)
            event = QMouseEvent(kind, at, hands.desk.mapToGlobal(at), button, button,
                                Qt.KeyboardModifier.NoModifier)  # fmt: skip
            hands.app.sendEvent(hands.desk, event)

    before, items = hands.desk.camera.view, hands.session.items
    drag(Qt.MouseButton.MiddleButton)
    view = hands.desk.camera.view
    assert (view.dx, view.dy) == (before.dx + 40, before.dy + 20)
    QTest.keyPress(hands.desk, Qt.Key.Key_Space)
    drag(Qt.MouseButton.LeftButton)
    QTest.keyRelease(hands.desk, Qt.Key.Key_Space)
    assert hands.desk.camera.view.dx == before.dx + 80 and hands.session.items == items
    assert hands.session.draft is None


def test_desk_settings_are_kept_and_bad_ones_refused(hands, qtbot, preferences):
    dialog = DeskSettings(hands.session)
    qtbot.addWidget(dialog)
    dialog.nudge.setText("0")
    dialog.box.accepted.emit()
    assert "not a step" in dialog.form.problem.text()
    dialog.nudge.setText("0.5mm")
    dialog.reach.setText("far")
    dialog.box.accepted.emit()
    assert "not a distance" in dialog.form.problem.text() and preferences.now.nudge == 1.0
    dialog.reach.setText("9 px")
    dialog.band.setCurrentIndex(1)
    dialog.box.accepted.emit()
    now = preferences.now
    assert now.nudge == pytest.approx(0.5 * 72 / 25.4) and now.reach == 9
    assert now.enclosing
