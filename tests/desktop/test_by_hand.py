"""Small things that a hand meets all day: the wheel over panels, drags of master items, short
drags, notices, keys, names for those who listen."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QContextMenuEvent, QWheelEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractSlider,
    QAbstractSpinBox,
    QComboBox,
    QMenu,
    QScrollBar,
    QWidget,
)

from hidden_frame.compose.ground import contrast, luminance
from hidden_frame.desktop.dialogs.about import AboutDialog
from hidden_frame.desktop.dialogs.colour import ColourDialog
from hidden_frame.desktop.dialogs.folios import FoliosDialog
from hidden_frame.desktop.dialogs.pages import ApplyDialog
from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.desktop.look.settings import settings
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import find_master, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.model.text import Paragraph, Run

NONE = Qt.KeyboardModifier.NoModifier
Left = Qt.MouseButton.LeftButton


def turn(app, widget, by):
    at = QPointF(widget.rect().center())
    none, phase = Qt.MouseButton.NoButton, Qt.ScrollPhase.NoScrollPhase
    there = widget.mapToGlobal(at)
    event = QWheelEvent(at, there, QPoint(), QPoint(0, by), none, NONE, phase, False)
    app.sendEvent(widget, event)
    app.processEvents()


def values(root: QWidget):
    found = []
    for widget in root.findChildren(QWidget):
        if isinstance(widget, QScrollBar):
            continue
        if isinstance(widget, QComboBox):
            found.append((widget, widget.currentIndex))
        elif isinstance(widget, QAbstractSlider):
            found.append((widget, widget.value))
        elif isinstance(widget, QAbstractSpinBox):
            found.append((widget, widget.text))
    return found


@pytest.mark.parametrize("what", ["page", "item", "text", "master", "flatplan", "board"])
def test_the_wheel_over_a_panel_changes_nothing(hands, what):
    if what == "item":
        hands.session.show_page(hands.page(8))
        own = hands.own(8, "Chart")
        hands.session.select_items(hands.session.faces()[0], (own.id,))
    elif what == "text":
        hands.session.show_page(hands.page(4))
        own = next(i for i in find_page(hands.publication, hands.page(4)).items
                   if isinstance(i, TextFrame))  # fmt: skip
        hands.session.select_items(hands.session.faces()[-1], (own.id,))
        hands.desk.begin_text()
    elif what == "master":
        hands.session.show_master(hands.master("Text"))
    elif what in ("flatplan", "board"):
        hands.do(what)
    before = hands.publication
    hands.desk.setFocus()
    found = values(hands.window)
    assert len(found) >= 1
    for widget, value in found:
        was = value()
        turn(hands.app, widget, -120)
        turn(hands.app, widget, 240)
        assert value() == was, widget.accessibleName()
    assert hands.publication is before


@pytest.mark.parametrize(
    "dialog",
    [AboutDialog, StyleDialog, ApplyDialog, lambda session, parent: FoliosDialog(
        session, parent.desk, parent)],
)  # fmt: skip
def test_the_wheel_over_a_dialog_changes_nothing(hands, dialog):
    opened = dialog(hands.session, parent=hands.window)
    opened.show()
    opened.box.setFocus()
    for widget, value in values(opened):
        if widget.hasFocus():
            continue
        was = value()
        turn(hands.app, widget, -120)
        assert value() == was, widget.accessibleName()
    opened.reject()


def test_the_wheel_is_left_to_the_panel_to_scroll(hands):
    hands.desk.setFocus()
    field = hands.field("Numbering")
    at, phase = QPointF(field.rect().center()), Qt.ScrollPhase.NoScrollPhase
    none, down = Qt.MouseButton.NoButton, QPoint(0, -120)
    event = QWheelEvent(at, field.mapToGlobal(at), QPoint(), down, none, NONE, phase, False)
    field.wheelEvent(event)
    assert not event.isAccepted()


def test_the_wheel_changes_a_value_that_has_the_focus(hands):
    field = hands.field("Numbering")
    field.setFocus()
    if not field.hasFocus():
        pytest.skip("this platform gives no focus to a window that is not active")
    was = field.currentIndex()
    turn(hands.app, field, 120)
    assert field.currentIndex() != was


# -- a master's item pulled ---------------------------------------------------------------------


def master_item(hands):
    """A place on page 9's own face where the head of a master stands alone."""
    hands.session.show_page(hands.page(9))
    hands.app.processEvents()
    scene = hands.session.composition.scene(hands.page(9))
    placed = next(p for p in scene.placed if p.carrier and p.drawing.text and p.printing)
    x, y = placed.matrix.apply(placed.drawing.width / 2, placed.drawing.height / 2)
    return placed.item_id, x, y


def test_a_pulled_master_item_moves_nothing_and_offers_a_card_after_the_release(hands):
    item_id, x, y = master_item(hands)
    before = hands.publication
    asked = []
    hands.desk.master_item_pulled.connect(asked.append)
    face = len(hands.session.faces()) - 1
    hands.drag(face, (x, y), (x + 60, y + 40), drop=False)
    assert asked == [] and hands.publication is before  # nothing opens under a pressed button
    end = hands.at(face, x + 60, y + 40)
    hands.again("drop", hands.desk, end)
    assert len(asked) == 1 and hands.publication is before
    menu = next(m for m in hands.window.findChildren(QMenu) if m.objectName() == "Choices")
    titles = [a.text() for a in menu.actions() if not a.isSeparator()]
    assert "comes from the master “" in titles[0]
    assert titles[1:] == ["Override here", "Hide here", "Make local", "Go to master"]
    assert not menu.geometry().contains(hands.desk.mapToGlobal(end))
    assert hands.session.items == (item_id,)
    menu.close()


def test_a_click_on_a_master_item_opens_nothing(hands):
    item_id, x, y = master_item(hands)
    asked = []
    hands.desk.master_item_pulled.connect(asked.append)
    hands.click(len(hands.session.faces()) - 1, x, y)
    assert asked == [] and hands.session.items == (item_id,)


def test_what_is_hidden_here_keeps_no_handles_and_can_be_shown_again(hands):
    item_id, _, _ = master_item(hands)
    face = hands.session.faces()[-1]
    hands.session.select_items(face, (item_id,))
    hands.button("Hide here").click()
    hands.app.processEvents()
    assert hands.session.items == ()
    hands.session.select_items(face, (item_id,))
    assert hands.desk.selected.box() is None
    hands.button("Show again").click()
    hands.app.processEvents()
    assert find_page(hands.publication, face.holder_id).overrides == ()
    assert hands.button("Hide here")


# -- short drags --------------------------------------------------------------------------------


@pytest.mark.parametrize(("pixels", "moves"), [(2, False), (4, True), (6, True), (8, True)])
def test_a_drag_starts_at_three_pixels(hands, pixels, moves):
    hands.session.show_page(hands.page(8))
    shape = Shape(id="", name="Tile", x=300, y=500, width=60, height=60, fill=Fill("ink"))
    hands.session.edit("draw", lambda p: add_item(p, hands.page(8), shape)[0])
    hands.app.processEvents()
    before = hands.own(8, "Tile").x
    start = hands.at(0, 330, 530)
    hands.pull(hands.desk, start, start + QPoint(pixels, 0))
    assert (hands.own(8, "Tile").x != before) == moves


# -- paste at the same spot ---------------------------------------------------------------------


def test_paste_at_the_same_spot_goes_to_the_face_it_came_from(hands):
    hands.session.show_page(hands.page(8))
    assert hands.session.side_of(hands.page(8)) == "verso"
    shape = Shape(id="", name="Tile", x=30, y=500, width=60, height=60, fill=Fill("ink"))
    hands.session.edit("draw", lambda p: add_item(p, hands.page(8), shape)[0])
    hands.session.select_items(hands.session.faces()[0], (hands.own(8, "Tile").id,))
    hands.do("copy")
    hands.session.show_master(hands.master("Notes"))
    assert hands.session.side == "recto"
    hands.do("paste same")
    assert hands.session.side == "verso"
    scene = hands.session.composition.master_scene(hands.master("Notes"), "verso")
    placed = next(p for p in scene.placed if p.item_id == hands.session.items[0])
    assert (placed.matrix.e, placed.matrix.f) == pytest.approx((30, 500))


@pytest.mark.parametrize("position", [8, 9])
@pytest.mark.parametrize("face", ["both", "own"])
def test_what_is_moved_to_a_master_stands_where_it_stood(hands, position, face):
    from hidden_frame.edit.masters.promote import to_master

    page, side = hands.page(position), hands.session.side_of(hands.page(position))
    shape = Shape(id="", name="Tile", x=30, y=500, width=60, height=60, fill=Fill("ink"))
    publication, item = add_item(hands.publication, page, shape)
    master = hands.master("Text" if position == 8 else "Month table")
    where = "both" if face == "both" else side
    publication, made = to_master(publication, page, [item], master, side, face=where)
    hands.session.edit("to a master", lambda _: publication)
    scene = hands.session.composition.scene(page)
    placed = next(p for p in scene.placed if p.item_id == made[0])
    assert (placed.matrix.e, placed.matrix.f) == pytest.approx((30, 500))
    assert find_master(publication, master).items[-1].face == where


# -- notices ------------------------------------------------------------------------------------


def test_a_notice_about_a_step_goes_when_the_step_is_undone(hands):
    hands.session.select_pages((hands.page(10),))
    hands.do("delete pages")
    notice = hands.window.notice
    assert notice.isVisible() and "Deleted" in notice.label.text()
    hands.do("undo")
    assert not notice.isVisible()


def test_a_notice_stays_while_its_step_stands(hands):
    hands.session.select_pages((hands.page(10),))
    hands.do("delete pages")
    hands.session.edit("title", lambda p: p.__class__(**{f: getattr(p, f) for f in
                       p.__struct_fields__} | {"title": "Other"}))  # fmt: skip
    assert hands.window.notice.isVisible()
    hands.do("undo")
    assert hands.window.notice.isVisible()
    hands.do("undo")
    assert not hands.window.notice.isVisible()


# -- keys ---------------------------------------------------------------------------------------


def test_every_menu_opens_by_alt_and_a_letter_of_its_own(hands):
    letters = []
    for action in hands.window.menuBar().actions():
        text = action.text()
        assert "&" in text, text
        letters.append(text[text.index("&") + 1].lower())
    assert len(letters) == len(set(letters))


def test_f10_goes_to_the_menus_and_escape_to_the_pages(hands):
    hands.window.activateWindow()
    hands.key(Qt.Key.Key_F10, widget=hands.window)
    assert hands.window.menuBar().activeAction() is hands.window.menuBar().actions()[0]
    hands.window.menuBar().setActiveAction(None)
    hands.field("Name").setFocus()
    hands.key(Qt.Key.Key_Escape, widget=hands.field("Name"))
    assert hands.window.focusWidget() is hands.desk


def by_menu_key(app, widget):
    at = widget.rect().center()
    event = QContextMenuEvent(QContextMenuEvent.Reason.Keyboard, at, widget.mapToGlobal(at))
    app.sendEvent(widget, event)
    app.processEvents()


def test_the_menu_key_opens_the_menu_where_the_focus_is(hands):
    hands.session.show_page(hands.page(8))
    hands.session.select_items(hands.session.faces()[0], (hands.own(8, "Chart").id,))
    by_menu_key(hands.app, hands.desk)
    menu = next(m for m in hands.window.findChildren(QMenu) if m.objectName() == "ItemMenu")
    menu.close()
    by_menu_key(hands.app, hands.window.run)
    menu = next(m for m in hands.window.findChildren(QMenu) if m.objectName() == "PageMenu")
    menu.close()


def test_home_end_and_page_keys_in_the_run_and_on_the_flatplan(hands):
    for where in ("run", "flatplan"):
        if where == "flatplan":
            hands.do("flatplan")
        view = hands.window.run if where == "run" else hands.window.flatplan.view
        hands.key(Qt.Key.Key_End, widget=view)
        assert hands.session.page_id == hands.page(32), where
        hands.key(Qt.Key.Key_PageUp, widget=view)
        assert hands.session.page_id != hands.page(32)
        hands.key(Qt.Key.Key_Home, widget=view)
        assert hands.session.page_id == hands.page(1)
        hands.key(Qt.Key.Key_PageDown, widget=view)
        assert hands.session.page_id != hands.page(1)


def test_every_item_of_a_page_is_reached_by_keys_in_stacking_order(hands):
    hands.session.show_page(hands.page(8))
    face = hands.session.faces()[0]
    order = [p.item_id for p in hands.session.scene_of(face).placed]
    hands.session.select_items(face, ())
    seen = []
    for _ in order:
        hands.do("item above")
        seen += hands.session.items
    assert seen == order
    hands.do("item below")
    assert hands.session.items == (order[-2],)


def test_whatever_takes_the_focus_has_a_name(hands):
    nameless = []
    for show in (lambda: None, lambda: hands.do("flatplan"), lambda: hands.do("board"),
                 lambda: hands.session.show_master(hands.master("Text")),
                 lambda: hands.window.checks.show()):  # fmt: skip
        show()
        hands.app.processEvents()
        for widget in hands.window.findChildren(QWidget):
            takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus
            if not takes or isinstance(widget, QScrollBar) or not widget.isVisible():
                continue
            if widget.objectName().startswith("qt_"):
                continue  # a part of another widget
            text = widget.text() if isinstance(widget, QAbstractButton) else ""
            if not (widget.accessibleName() or text):
                nameless.append(f"{type(widget).__name__} in {type(widget.parent()).__name__}")
    assert sorted(set(nameless)) == []


# -- lines and marks ----------------------------------------------------------------------------


def darkness(image, x, y):
    return 255 - image.pixelColor(x, y).lightness()


def test_a_guide_leaves_the_letters_under_it_as_dark_as_they_are(hands):
    """Black type under a margin's line stays black, unless lines are wanted above."""
    hands.session.show_page(hands.page(2))
    margin = hands.publication.setup.margins
    words = (Paragraph("heading", (Run("IIIIIIIII"),)),)
    frame = TextFrame(id="", name="Bars", x=margin.outside - 40, y=margin.top - 15, width=200,
                      height=40, text=words, fill=Fill("ink"))  # fmt: skip
    hands.session.edit("draw", lambda p: add_item(p, hands.page(2), frame)[0])
    hands.session.select_items(None, ())
    hands.desk.camera.zoom_by(3, QPointF(hands.at(0, margin.outside, margin.top)))
    hands.app.processEvents()

    def seen():
        image = hands.desk.grab().toImage()
        at = hands.at(0, margin.outside + 60, margin.top)
        return [darkness(image, at.x(), at.y() + d) for d in (-1, 0, 1)]

    assert min(seen()) > 225
    settings().change(lines_above=True)
    hands.desk.update()
    assert min(seen()) < 225


def test_master_items_on_a_page_have_ticks_and_no_dotted_edges(hands):
    item_id, _, _ = master_item(hands)
    hands.session.select_items(None, ())
    hands.desk.camera.zoom_by(4, QPointF(hands.desk.rect().center()))
    face = hands.session.faces()[-1]
    scene = hands.session.composition.scene(hands.page(9))
    placed = next(p for p in scene.placed if p.item_id == item_id)
    x, y = placed.matrix.e, placed.matrix.f
    vx, vy = hands.desk.camera.view.to_widget(x + face.x, y)
    hands.desk.camera.look(hands.desk.camera.view.moved(200 - vx, 200 - vy))
    hands.app.processEvents()
    image = hands.desk.grab().toImage()
    ochre = [image.pixelColor(200 - n, 200 + d) for n in (2, 3, 4) for d in (-1, 0, 1)]
    assert any(c.red() > c.blue() + 40 for c in ochre)  # a tick reaches outward
    middle = [image.pixelColor(200 + n, 200) for n in range(40, 90)]
    assert not any(c.red() > c.blue() + 60 for c in middle)  # no edge along the frame


def test_colour_sliders_keep_their_value_under_the_wheel(hands):
    dialog = hands.window.colours.open_change()
    assert isinstance(dialog, ColourDialog)
    for widget, value in values(dialog):
        was = value()
        turn(hands.app, widget, -120)
        assert value() == was or widget.hasFocus()
    dialog.reject()


def test_the_way_back_in_a_notice_can_be_read(hands):
    """Its word was as dark as what it stood on."""
    hands.session.select_pages((hands.page(10),))
    hands.do("delete pages")
    button = hands.window.notice.undo
    assert button.isVisible()
    within = button.geometry().adjusted(5, 5, -5, -5)
    image = hands.window.notice.grab(within).toImage()
    seen = {image.pixelColor(x, y).getRgbF()[:3]
            for x in range(image.width()) for y in range(image.height())}  # fmt: skip
    dark, light = min(seen, key=luminance), max(seen, key=luminance)
    assert contrast(dark, light) > 4.5  # WCAG 2.1, 1.4.3
