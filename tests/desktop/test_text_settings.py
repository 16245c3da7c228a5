"""Character settings, style keys, two ends, steps of typing, frames that grow or overflow."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QColor, QGuiApplication, QKeyEvent
from PySide6.QtTest import QTest

from hidden_frame.desktop.views.desk.chrome import overflow_rect
from hidden_frame.edit.text.write import plain
from hidden_frame.model.lookup import find_page
from hidden_frame.model.text import Look, Marker, Run, TabStop
from hidden_frame.typeset.decoration import decorations

Ctrl = Qt.KeyboardModifier.ControlModifier
PAGE = 27


@pytest.fixture
def writing(hands):
    """An empty text frame on a page, being edited."""
    hands.session.show_page(hands.page(PAGE))
    hands.do("tool text")
    hands.drag(1, (100, 60), (360, 120))
    made = find_page(hands.publication, hands.page(PAGE)).items[-1]

    def now():
        items = find_page(hands.publication, hands.page(PAGE)).items
        return next(i for i in items if i.id == made.id)

    hands.now = now
    return hands


def test_bold_and_italic_by_key_change_the_selection_alone(writing):
    writing.type("plain bold")
    for _ in range(4):
        writing.key(Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    writing.do("bold")
    assert writing.now().text[0].content == (Run("plain "), Run("bold", look=Look(bold=True)))
    writing.do("italic")
    assert writing.now().text[0].content[1].look == Look(bold=True, italic=True)
    writing.do("bold")
    assert writing.now().text[0].content[1].look == Look(bold=False, italic=True)
    faces = {
        run.setting.face.style
        for placed in writing.session.composition.scene(writing.page(PAGE)).placed
        if placed.item_id == writing.now().id
        for line in placed.drawing.text.text.lines
        for run in line.runs
    }
    assert faces == {"Regular", "Italic"}


def test_character_settings_in_properties(writing, qtbot):
    writing.type("Words")
    writing.key(Qt.Key.Key_A, Ctrl)
    writing.settle(qtbot)
    form = writing.window.properties.form
    assert form.size_field.text() == "10.6 pt"
    writing.enter("Size", "18")
    writing.enter("Tracking", "40")
    form.colour.committed.emit("gold")
    form.family.committed.emit("Alegreya Sans")
    look = writing.now().text[0].content[0].look
    assert look == Look(family="Alegreya Sans", size=18.0, tracking=40.0, colour="gold")
    form.alignment.committed.emit("outside")
    assert writing.now().text[0].alignment == "outside"
    form.plain.click()
    assert writing.now().text[0].content == (Run("Words"),)
    before = writing.publication
    writing.enter("Size", "0")
    assert writing.publication is before and "0.5 to 2000" in form.problem.text()


def test_properties_follow_the_caret(writing, qtbot):
    writing.type("ab")
    writing.key(Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    writing.do("bold")
    writing.settle(qtbot)
    assert writing.window.properties.form.bold.isChecked()
    writing.key(Qt.Key.Key_Home)
    writing.settle(qtbot)
    assert not writing.window.properties.form.bold.isChecked()


def test_paragraph_styles_by_key_and_by_name(writing):
    styles = writing.publication.paragraph_styles
    writing.type("Title")
    writing.key(Qt.Key.Key_2, Ctrl)
    assert writing.now().text[0].style == styles[1].id
    writing.do("undo")
    assert writing.now().text[0].style == styles[0].id
    assert writing.window.commands["style 2"].text() == f"Paragraph style “{styles[1].name}”"
    writing.window.commands["style 2"].trigger()
    assert writing.now().text[0].style == styles[1].id


def test_a_line_with_two_ends(writing):
    writing.type("left")
    writing.do("two ends")
    writing.type("right")
    paragraph = writing.now().text[0]
    assert paragraph.tabs == (TabStop(None, "right"),)
    (placed,) = [
        p for p in writing.session.composition.scene(writing.page(PAGE)).placed
        if p.item_id == writing.now().id
    ]  # fmt: skip
    (line,) = placed.drawing.text.text.lines
    assert line.left == pytest.approx(0) and line.right == pytest.approx(writing.now().width)


def test_markers_by_command_show_chips_on_masters_and_values_on_pages(hands):
    master = hands.master("Text")
    hands.session.show_master(master)
    hands.do("tool text")
    hands.drag(1, (100, 300), (300, 340))
    hands.type("No. ")
    hands.do("marker folio")
    held = next(m for m in hands.publication.masters if m.id == master)
    assert held.items[-1].text[0].content == (Run("No. "), Marker("folio"))
    hands.key(Qt.Key.Key_Escape)
    (placed,) = [
        p for p in hands.session.composition.master_scene(master, "recto").placed
        if p.item_id == held.items[-1].id
    ]  # fmt: skip
    line = placed.drawing.text.text.lines[0]
    chip = line.runs[-1]
    x, y = placed.matrix.apply(chip.xs[0] + 3, line.top + line.height * 0.2)
    image = hands.desk.grab().toImage()
    px, py = hands.desk.camera.view.to_widget(x + hands.session.faces()[1].x, y)
    assert QColor(image.pixel(round(px), round(py))).name() != "#ffffff"
    assert "No. 3" in hands.session.composition.scene(hands.page(9)).text_of()


def test_typing_is_undone_in_steps_as_people_write(writing):
    writing.type("a first sentence of about fifty letters, and then ")
    writing.type("some more words")
    writing.do("undo")
    assert plain(writing.now().text) == "a first sentence of about fifty letters, and then "
    writing.do("redo")
    writing.desk.text._typed_at -= 5  # a rest of five seconds
    writing.type("!")
    writing.do("undo")
    assert plain(writing.now().text).endswith("some more words")
    writing.key(Qt.Key.Key_End, Ctrl)
    writing.key(Qt.Key.Key_Backspace)
    assert writing.window.commands["undo"].text() == "Undo delete text"


def overflowing(writing):
    QGuiApplication.clipboard().setText("word " * 90)
    writing.key(Qt.Key.Key_V, Ctrl)
    writing.key(Qt.Key.Key_Escape)
    placed, face = writing.desk.selected.placed(writing.now().id)
    assert placed.drawing.overflow is not None
    return placed, face


def test_the_mark_of_text_that_does_not_fit_explains_and_offers(writing, monkeypatch):
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QMenu

    placed, face = overflowing(writing)
    writing.session.select_items(face, ())
    rect = overflow_rect(placed, face, writing.desk.camera.view)
    image = writing.desk.grab().toImage()
    edge = QPointF(rect.left() + 4, rect.center().y()).toPoint()
    assert QColor(image.pixel(edge)).red() > 150
    shown = []
    monkeypatch.setattr(QMenu, "popup", lambda menu, *_: shown.append(menu))
    QTest.mouseClick(
        writing.desk, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
        rect.center().toPoint(),
    )  # fmt: skip
    words = [a.text() for a in shown[-1].actions() if a.text()]
    assert "not fit" in words[0] and words[1].startswith("Grow the frame to")
    assert words[-1] == "Use another style"
    shown[-1].actions()[2].trigger()
    assert writing.desk.selected.placed(writing.now().id)[0].drawing.overflow is None
    writing.do("undo")
    menu = writing.window.menus.overflow()
    styles = menu.findChild(QMenu)
    next(a for a in styles.actions() if a.text().startswith("Map label")).trigger()
    assert {p.style for p in writing.now().text} == {"label"}


def test_offers_in_properties_and_a_frame_that_grows(writing):
    placed, _ = overflowing(writing)
    form = writing.window.properties.form
    titles = [form.offers.itemAt(n).widget().text() for n in range(form.offers.count())]
    assert titles[-1] == "Let the frame grow with its text"
    writing.button(titles[-1]).click()
    grown, _ = writing.desk.selected.placed(writing.now().id)
    assert grown.drawing.overflow is None and grown.drawing.height > placed.drawing.height
    assert writing.now().grows and form.overflow.isHidden()
    form.fields["grows"].click()
    assert not writing.now().grows and not form.overflow.isHidden()


def test_poor_contrast_is_marked_and_told(writing, qtbot):
    writing.type("Pale words")
    writing.key(Qt.Key.Key_A, Ctrl)
    writing.desk.text.dress.set_look(colour="cream")
    writing.key(Qt.Key.Key_Escape)
    form = writing.window.properties.form
    assert "contrast" in form.poor.text() and form.poor.isVisible()
    writing.session.select_items(None, ())
    writing.desk.grab()
    qtbot.wait(300)  # it is found out once the desk rests
    item = writing.now()
    spot = writing.at(1, item.x + item.width, item.y)
    image = writing.desk.grab().toImage()
    colours = [
        QColor(image.pixel(spot.x() + dx, spot.y() + dy)) for dx in (-4, -3) for dy in (-1, 0, 1)
    ]
    assert any(c.red() > 140 and c.green() < 110 for c in colours)


@pytest.mark.parametrize(
    ("held", "sign", "typed"),
    [(Qt.KeyboardModifier.AltModifier, "j", False), (Qt.KeyboardModifier.MetaModifier, "j", False),
     (Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.ControlModifier, "€", True),
     (Qt.KeyboardModifier.AltModifier | Qt.KeyboardModifier.ControlModifier, "j", False),
     (Qt.KeyboardModifier.ShiftModifier, "j", True),
     (Qt.KeyboardModifier.GroupSwitchModifier, "j", True)],
)  # fmt: skip
def test_a_letter_with_alt_is_the_menus_and_one_with_both_is_a_sign(writing, held, sign, typed):
    """Alt and a letter open a menu while one writes; AltGr, by either of its names, writes; both
    with the key's own letter are a command's."""
    before = writing.now().text
    over = QKeyEvent(QEvent.Type.ShortcutOverride, Qt.Key.Key_J, held, sign)
    over.ignore()
    writing.app.sendEvent(writing.desk, over)
    assert over.isAccepted() == typed
    press = QKeyEvent(QEvent.Type.KeyPress, Qt.Key.Key_J, held, sign)
    writing.app.sendEvent(writing.desk, press)
    assert (writing.now().text != before) == typed


def test_letters_in_full_by_the_form(writing, qtbot):
    writing.type("Plate 12 of 1/2")
    writing.key(Qt.Key.Key_A, Ctrl)
    writing.settle(qtbot)
    form = writing.window.properties.form
    form.chosen["case"].committed.emit("small capitals")
    form.chosen["figures"].committed.emit("old style")
    for name in ("underline", "strike", "fractions"):
        form.chosen[name].click()
    writing.enter("Baseline shift", "2")
    look = writing.now().text[0].content[0].look
    assert look == Look(
        case="small capitals", figures="old style", underline=True, strike=True, fractions=True,
        shift=2.0,
    )  # fmt: skip
    (block,) = [
        placed.drawing.text.text
        for placed in writing.session.composition.scene(writing.page(PAGE)).placed
        if placed.item_id == writing.now().id
    ]
    setting = block.lines[0].runs[0].setting
    assert set(setting.manner.features) == {"smcp", "onum", "frac"} and setting.shift == 2.0
    lines = decorations(block.lines[0].line)
    assert len(lines) == 2 and lines[0].y > lines[1].y  # one under the words, one through them
    form.plain.click()
    assert writing.now().text[0].content == (Run("Plate 12 of 1/2"),)


def test_lines_are_tinted_where_that_is_asked_for(writing):
    def desk():
        writing.app.processEvents()
        return writing.window.desk.grab().toImage()

    writing.type("a considerable observation of the quiet constellation under the autumn night ")
    writing.window.desk.text.dress.set_alignment("justified")
    writing.session.edit_text(None)
    plain = desk()
    writing.do("tint lines")
    assert writing.session.tinted and desk() != plain
    writing.do("tint lines")
    assert not writing.session.tinted and desk() == plain


def test_signs_are_shown_for_what_prints_nothing(writing):
    """On the desk, not in proof view; and nothing of them is left behind."""

    def desk():
        writing.app.processEvents()
        return writing.window.desk.grab().toImage()

    writing.type("one two three")
    writing.session.edit_text(None)
    writing.session.set_proof(True)  # nothing is selected any more
    writing.session.set_proof(False)
    plain = desk()
    writing.do("signs")
    signed = desk()
    assert signed != plain
    writing.session.set_proof(True)
    proof = desk()
    writing.do("signs")
    assert desk() == proof
    writing.session.set_proof(False)
    assert desk() == plain


def test_departures_are_shown_cleared_and_made_a_style(writing, qtbot):
    writing.type("Zenith")
    writing.key(Qt.Key.Key_A, Ctrl)
    writing.settle(qtbot)
    form = writing.window.properties.form
    assert form.departs.text() == "No local formatting" and not form.styled.isEnabled()
    writing.enter("Size", "18")
    form.alignment.committed.emit("right")
    writing.settle(qtbot)
    assert form.departs.text() == "Local formatting: alignment, size"
    QTest.mouseClick(form.made, Qt.MouseButton.LeftButton)
    (paragraph,) = writing.now().text
    style = next(s for s in writing.publication.paragraph_styles if s.id == paragraph.style)
    assert (style.size, style.alignment) == (18.0, "right")
    assert paragraph.content == (Run("Zenith"),) and paragraph.alignment is None
    steps = len(writing.session.history.past)
    writing.do("undo")
    assert len(writing.session.history.past) == steps - 1
    assert style.id not in {s.id for s in writing.publication.paragraph_styles}
    writing.settle(qtbot)
    form = writing.window.properties.form
    QTest.mouseClick(form.styled, Qt.MouseButton.LeftButton)
    assert writing.now().text[0].content == (Run("Zenith"),)
    assert writing.now().text[0].alignment is None


def test_tab_stops_are_set_moved_turned_and_taken_off_by_hand(writing):
    writing.type("Name\tPrice")
    ruler = writing.window.desk.tabs
    writing.app.processEvents()
    assert ruler.isVisible() and ruler.stops == ()
    left = ruler.width() - 2 * 8 - 1
    assert left == pytest.approx(260 * ruler.ruled.zoom, abs=2)  # as wide as the frame

    def at(points, y=8):
        return QPoint(round(points * ruler.ruled.zoom) + 8, y)

    none = Qt.KeyboardModifier.NoModifier
    QTest.mouseClick(ruler, Qt.MouseButton.LeftButton, none, at(100))
    (stop,) = writing.now().text[0].tabs
    assert stop.align == "left" and stop.position == pytest.approx(100, abs=2)
    QTest.mousePress(ruler, Qt.MouseButton.LeftButton, none, at(stop.position))
    QTest.mouseMove(ruler, at(150))
    QTest.mouseRelease(ruler, Qt.MouseButton.LeftButton, none, at(150))
    (stop,) = writing.now().text[0].tabs
    assert stop.position == pytest.approx(150, abs=2)
    QTest.mouseDClick(ruler, Qt.MouseButton.LeftButton, none, at(stop.position))
    assert writing.now().text[0].tabs[0].align == "centre"
    QTest.mousePress(ruler, Qt.MouseButton.LeftButton, none, at(stop.position))
    QTest.mouseMove(ruler, at(150, 90))
    QTest.mouseRelease(ruler, Qt.MouseButton.LeftButton, none, at(150, 90))
    assert writing.now().text[0].tabs == ()
    writing.do("undo")
    writing.app.processEvents()
    assert ruler.stops[0].align == "centre"
    writing.session.edit_text(None)
    writing.app.processEvents()
    assert not ruler.isVisible()


def test_arrows_point_where_the_caret_goes_also_in_hebrew(writing):
    writing.window.desk.text.insert("ab אבגד ef")  # Qt’s keys of tests know only Latin
    writing.app.processEvents()

    def x():
        editing = writing.session.editing
        (placed,) = [
            p
            for p in writing.session.composition.scene(writing.page(PAGE)).placed
            if p.item_id == editing.item_id
        ]
        return writing.window.desk.text.marks(editing.holder_id, placed)[0].x

    writing.window.desk.text.caret = writing.window.desk.text.anchor = (0, 4)
    before = x()
    writing.key(Qt.Key.Key_Left)
    assert writing.window.desk.text.caret == (0, 5) and x() < before
    writing.key(Qt.Key.Key_Right)
    assert writing.window.desk.text.caret == (0, 4) and x() == before
    writing.window.desk.text.caret = writing.window.desk.text.anchor = (0, 1)
    before = x()
    writing.key(Qt.Key.Key_Left)
    assert writing.window.desk.text.caret == (0, 0) and x() < before


def test_a_break_is_put_in_and_taken_back_by_the_menu(hands):
    """The story goes on on the next page from the caret, and again where its style says."""
    from hidden_frame.demo.book import long_book
    from hidden_frame.model.lookup import find_story
    from hidden_frame.settle.settling import settled

    hands.session.replace_all(settled(long_book(chapters=1)), {}, None)
    story = hands.publication.stories[0].id
    hands.session.show_page(hands.page(5))
    hands.desk.text.write_at(story, (1, 30))
    hands.do("break page")
    text = find_story(hands.publication, story).text
    assert text[2].starts == "page" and len(text[1].content[0].text) == 30
    flow = hands.session.composition.flow(story)
    assert flow.starts[1].paragraph == 2 and flow.stop_of(1, 29) == 0
    assert hands.desk.text.dress.departures() == ("starts",)
    hands.do("no break")
    assert hands.session.composition.flow(story).starts[1].paragraph > 2


def test_quotes_are_those_of_the_language_while_one_types_unless_off_or_in_code(hands):
    from hidden_frame.demo.book import long_book
    from hidden_frame.edit.looks.styles import put_paragraph_style
    from hidden_frame.model.lookup import find_story
    from hidden_frame.model.styles import ParagraphStyle
    from hidden_frame.settle.settling import settled

    publication = put_paragraph_style(long_book(chapters=1),
                                      ParagraphStyle(id="code", name="Code"))  # fmt: skip
    hands.session.replace_all(settled(publication), {}, None)
    story = hands.publication.stories[0].id
    hands.session.show_page(hands.page(5))

    def written():
        return find_story(hands.publication, story).text[1].content[0].text

    hands.desk.text.write_at(story, (1, 0))
    hands.type('"It\'s--" ')
    assert written().startswith("“It’s–” ")
    hands.do("typographic")
    hands.type('"a" ')
    assert '"a" ' in written()
    hands.do("typographic")
    hands.desk.text.dress.set_paragraph_style("code")
    hands.type("'b' ")
    assert "'b' " in written()
