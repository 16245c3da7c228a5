"""Writing on the page and in the galley: every key of an editor, the mouse, input methods, undo."""

from __future__ import annotations

import lxml.html
import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QColor, QDropEvent, QInputMethodEvent, QMouseEvent, QTextCharFormat
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QFileDialog,
    QInputDialog,
    QPlainTextEdit,
)
from tests.desktop.on_pages import main_frame, text_of, write_on

from hidden_frame.demo.book import long_book
from hidden_frame.demo.driven import driven_book
from hidden_frame.desktop.dialogs.pasted_styles import PastedStyles
from hidden_frame.desktop.views.desk.edges import TURN
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.pages.order import delete_pages, move_pages
from hidden_frame.edit.stories import delete_story, set_story_text
from hidden_frame.edit.text.steps import length
from hidden_frame.edit.text.write import plain, set_paragraph_style
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.settle.settling import settled

Ctrl, Shift = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
None_ = Qt.KeyboardModifier.NoModifier
K = Qt.Key
# A window is slow: what fails is shown as it is, not looked for in its smallest form.
SLOW = [HealthCheck.function_scoped_fixture]
QUICK = (Phase.explicit, Phase.reuse, Phase.generate)
BOOK = settled(long_book(chapters=1))


def with_text(publication, *paragraphs):
    story = publication.stories[0]
    text = tuple(Paragraph("body", (Run(p),) if p else ()) for p in paragraphs)
    return settled(set_story_text(publication, story.id, text))


@pytest.fixture
def book(hands):
    """The first chapter of the long book, page 6 on the desk."""
    open_book(hands, BOOK, 6)
    return hands


def open_book(hands, publication, position):
    hands.open_story(publication, position)
    hands.desk.camera.fit_to("spread")
    hands.app.processEvents()


@pytest.fixture
def words(hands):
    """Three short paragraphs on the first page of a chapter; the caret before all of them."""
    return fresh(hands, "one two three", "four, five; six", "seven eight")


def fresh(hands, *paragraphs):
    open_book(hands, with_text(BOOK, *paragraphs), 5)
    hands.desk.text.write_at(hands.story, (0, 0))
    hands.desk.setFocus()
    return hands


def galley_of(hands):
    if not hands.window.galley_shown():
        hands.do("galley")
    galley = hands.window.galley.text
    galley.setFocus()
    hands.app.processEvents()
    return galley


def hand_of(hands, there):
    """The widget that one writes in."""
    if there == "galley":
        return galley_of(hands)
    if hands.window.galley_shown():
        hands.do("galley")
    hands.desk.setFocus()
    return hands.desk


def composed(widget, preedit, commit=""):
    """An input method's event, as dead keys and the compose key send it, too."""
    event = QInputMethodEvent(preedit, [])
    event.setCommitString(commit)
    QApplication.sendEvent(widget, event)


def test_accents_composed_in_the_galley_are_the_storys(book):
    write_on(book)
    book.do("galley")
    galley = book.window.galley.text
    galley.setFocus()
    QTest.keyClicks(galley, "caf")
    before = text_of(book)
    composed(galley, "´")
    assert text_of(book) == before and galley.textCursor().block().layout().preeditAreaText() == "´"
    composed(galley, "", "é")
    QTest.keyClicks(galley, " noir ")
    composed(galley, "", "夜")
    assert "café noir 夜" in plain(text_of(book))
    assert galley.toPlainText() == plain(text_of(book))
    book.do("undo")
    assert galley.toPlainText() == plain(text_of(book))


def test_the_keys_of_commands_are_the_commands_in_the_galley_too(book):
    write_on(book)
    book.do("galley")
    galley = book.window.galley.text
    galley.setFocus()
    whole = text_of(book)
    QTest.keyClicks(galley, "lantern")
    assert text_of(book) != whole
    QTest.keyClick(galley, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert text_of(book) == whole and galley.toPlainText() == plain(whole)
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(galley, Qt.Key.Key_Z, both)
    assert "lantern" in plain(text_of(book)) and galley.toPlainText() == plain(text_of(book))


@pytest.mark.parametrize("there", ["page", "galley"])
def test_after_undo_and_redo_the_caret_stands_where_the_step_began_or_ended(book, there):
    write_on(book)
    if there == "galley":
        book.do("galley")
    hand = book.window.galley.text if there == "galley" else book.desk
    hand.setFocus()
    writing = book.desk.text
    place = writing.caret
    QTest.keyClicks(hand, "never")
    after = writing.caret
    QTest.keyClick(hand, Qt.Key.Key_Return)
    ended = writing.caret
    assert ended == (after[0] + 1, 0)
    book.do("undo")
    assert writing.caret == writing.anchor == after
    QTest.keyClicks(hand, "Z")
    text = text_of(book)[after[0]]
    assert "neverZ" in plain((text,))
    book.do("undo")
    book.do("undo")
    assert writing.caret == place
    book.do("redo")
    assert writing.caret == after
    # What was selected when it was typed over is selected again.
    QTest.keyClick(hand, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(hand, Qt.Key.Key_Left, Qt.KeyboardModifier.ShiftModifier)
    chosen = writing.selection
    QTest.keyClicks(hand, "q")
    book.do("undo")
    assert writing.selection == chosen and chosen[0] != chosen[1]
    # Elsewhere, the caret goes back to where the step was.
    writing.write_at(book.story, (0, 0))
    book.do("redo")
    assert writing.caret == (chosen[0][0], chosen[0][1] + 1)


# -- every key --------------------------------------------------------------------------------

MOVES = [K.Key_Left, K.Key_Right, K.Key_Home, K.Key_End]
KEYS = (
    [(k, m) for k in (K.Key_Left, K.Key_Right) for m in (None_, Shift, Ctrl, Ctrl | Shift)]
    + [(k, m) for k in (K.Key_Home, K.Key_End) for m in (Ctrl, Ctrl | Shift)]
    + [(k, m) for k in (K.Key_Backspace, K.Key_Delete) for m in (None_, Ctrl)]
    + [(K.Key_Return, None_), (K.Key_A, Ctrl), (K.Key_C, Ctrl), (K.Key_X, Ctrl), (K.Key_V, Ctrl)]
    + [(K.Key_Insert, None_), (K.Key_Insert, Ctrl), (K.Key_Insert, Shift), (K.Key_Delete, Shift)]
)
# But for “.” and “’” between letters, which are no ends of words by Unicode.
TYPED = st.sampled_from([*"abc,; ", *KEYS])


def flat(text, place):
    return sum(length(p) + 1 for p in text[: place[0]]) + place[1]


@pytest.mark.parametrize("there", ["page", "galley"])
@given(st.lists(TYPED, min_size=1, max_size=30))
@settings(
    max_examples=40, phases=QUICK, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
def test_every_key_does_what_it_does_in_a_plain_field_of_qt(words, there, events):
    """Against QPlainTextEdit: the same keys, the same text, caret and selection."""
    fresh(words, "one two three", "four, five; six", "seven eight")
    words.app.clipboard().setText("pasted")
    hand, field, writing = hand_of(words, there), QPlainTextEdit(), words.desk.text
    field.setPlainText(plain(text_of(words)))
    for event in events:
        held = words.app.clipboard().text()
        for widget in (hand, field):
            words.app.clipboard().setText(held)
            if isinstance(event, str):
                QTest.keyClicks(widget, event)
            else:
                QTest.keyClick(widget, *event)
        text = text_of(words)
        assert plain(text) == field.toPlainText(), event
        found = (flat(text, writing.anchor), flat(text, writing.caret))
        cursor = field.textCursor()
        assert found == (cursor.anchor(), cursor.position()), event


@pytest.mark.parametrize("there", ["page", "galley"])
@given(st.lists(TYPED | st.sampled_from(["undo", "redo"]), min_size=1, max_size=30))
@settings(
    max_examples=40, phases=QUICK, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
def test_undo_goes_back_to_where_each_step_began(words, there, events):
    """Against a naive model: what was there, and where the caret stood, at each step."""
    fresh(words, "one two three", "four five")
    hand, writing = hand_of(words, there), words.desk.text
    began, ended = {}, {}

    def steps():
        return len(words.session.history.past)

    def state():
        return plain(text_of(words)), writing.anchor, writing.caret

    ended[steps()] = state()
    for event in events:
        before, was = state(), steps()
        if event in ("undo", "redo"):
            words.do(event)
            if steps() < was:
                assert state() == began[was], event
            elif steps() > was:
                assert state() == ended[steps()], event
            continue
        if isinstance(event, str):
            QTest.keyClicks(hand, event)
        else:
            QTest.keyClick(hand, *event)
        if steps() > was:
            began[steps()] = before
            ended = {n: s for n, s in ended.items() if n < steps()}
        if state()[0] != before[0]:
            ended[steps()] = state()


@pytest.mark.parametrize("there", ["page", "galley"])
@pytest.mark.parametrize(("key", "held", "place"), [
    (K.Key_Home, None_, (1, 0)), (K.Key_End, None_, (1, 15)), (K.Key_Up, Ctrl, (1, 0)),
    (K.Key_Down, Ctrl, (2, 0)), (K.Key_PageDown, None_, (2, 11)), (K.Key_PageUp, None_, (0, 0)),
    (K.Key_Up, None_, (0, 6)), (K.Key_Down, None_, (2, 6)),
])  # fmt: skip
def test_keys_by_line_and_page(words, there, key, held, place):
    hand, writing = hand_of(words, there), words.desk.text
    writing.write_at(words.story, (1, 6))
    QTest.keyClick(hand, key, held)
    by_x = there == "galley" and key in (K.Key_Up, K.Key_Down, K.Key_PageUp, K.Key_PageDown)
    near = 99 if by_x else 1  # in other letters
    assert writing.caret[0] == place[0] and abs(writing.caret[1] - place[1]) <= near
    assert writing.anchor == writing.caret
    writing.write_at(words.story, (1, 6))
    QTest.keyClick(hand, key, held | Shift)
    assert writing.caret[0] == place[0] and abs(writing.caret[1] - place[1]) <= near
    assert writing.anchor == (1, 6)
    assert words.session.editing is not None


def divided(hands):
    """A line of the story that ends in the midst of a word, and the one behind it."""
    flow = hands.session.composition.flow(hands.story)
    for at, part in enumerate(flow.parts):
        first = flow.starts[at].paragraph
        for line, after in zip(part.text.lines, part.text.lines[1:], strict=False):
            if line.end == after.start and line.paragraph == after.paragraph and at > 1:
                return at, first + line.paragraph, line, after
    raise AssertionError


def test_end_stays_on_a_line_that_ends_in_a_divided_word(book):
    _, paragraph, line, after = divided(book)
    writing = book.desk.text
    writing.write_at(book.story, (paragraph, line.start + 2))
    book.key(K.Key_End)
    frame, _ = book.desk.selected.placed(book.session.editing.item_id)
    caret = writing.marks(book.session.editing.holder_id, frame).caret
    assert writing.caret == (paragraph, line.end) and caret.top == line.top
    book.key(K.Key_Home)
    assert writing.caret == (paragraph, line.start)
    book.key(K.Key_End)
    book.key(K.Key_Down)
    caret = writing.marks(book.session.editing.holder_id, frame).caret
    assert caret.top == after.top


def test_up_and_down_keep_to_where_they_began(book):
    """Over a short last line the caret goes on at the x that it came from."""
    flow = book.session.composition.flow(book.story)
    lines = flow.parts[1].text.lines
    n = next(n for n in range(1, len(lines) - 1)
             if lines[n].right < lines[n - 1].right - 60 and lines[n + 1].end)  # fmt: skip
    writing, first = book.desk.text, flow.starts[1].paragraph
    writing.write_at(book.story, (first + lines[n - 1].paragraph, lines[n - 1].end - 3))
    x = book.desk.inputMethodQuery(Qt.InputMethodQuery.ImCursorRectangle).x()
    book.key(K.Key_Down)
    book.key(K.Key_Down)
    there = book.desk.inputMethodQuery(Qt.InputMethodQuery.ImCursorRectangle).x()
    assert abs(there - x) < 6
    assert writing.caret[0] == first + lines[n + 1].paragraph


def test_page_down_goes_to_the_same_point_of_the_next_page_and_back(book):
    write_on(book)
    place = book.desk.text.caret
    book.key(K.Key_PageDown)
    assert book.session.editing.holder_id == book.page(7)
    book.key(K.Key_PageDown, Shift)
    assert book.session.editing.holder_id == book.page(8)
    assert book.desk.text.anchor < book.desk.text.caret
    book.key(K.Key_PageUp)
    book.key(K.Key_PageUp)
    assert book.desk.text.caret == place


# -- the mouse ----------------------------------------------------------------------------------


def spot_of(hands, place):
    """Where a place of the story stands on the desk, in the midst of its line."""
    writing, session = hands.desk.text, hands.session
    flow = session.composition.flow(hands.story)
    at = flow.stop_of(*place)
    stop = flow.stops[at]
    face = next(f for f in session.faces() if f.holder_id == stop.page_id)
    scene = session.scene_of(face)
    placed = next(p for p in scene.placed if p.item_id == stop.room.item_id)
    from hidden_frame.typeset.caret import caret_at

    block = placed.drawing.text
    caret = caret_at(block.text, place[0] - flow.starts[at].paragraph, place[1])
    x, y = placed.matrix.apply(caret.x + block.x, (caret.top + caret.bottom) / 2 + block.y)
    assert writing is not None
    return hands.at(session.faces().index(face), x, y)


def press(hands, point, held=None_, kind="press", button=Qt.MouseButton.LeftButton):
    kinds = {
        "press": QEvent.Type.MouseButtonPress, "move": QEvent.Type.MouseMove,
        "release": QEvent.Type.MouseButtonRelease, "double": QEvent.Type.MouseButtonDblClick,
    }  # fmt: skip
    none = Qt.MouseButton.NoButton
    event = QMouseEvent(
        kinds[kind], QPointF(point), hands.desk.mapToGlobal(QPointF(point)),
        none if kind == "move" else button, none if kind == "release" else button, held,
    )  # fmt: skip
    hands.app.sendEvent(hands.desk, event)
    hands.app.processEvents()


def pull(hands, a, b, held=None_, kind="press"):
    press(hands, a, kind=kind)
    press(hands, a + (b - a) / 2, kind="move")
    press(hands, b, kind="move")
    press(hands, b, held, kind="release")


def test_a_double_click_takes_a_word_and_drags_by_words(words):
    writing = words.desk.text
    a, b = spot_of(words, (0, 5)), spot_of(words, (0, 10))
    pull(words, a, b, kind="double")
    assert writing.selection == ((0, 4), (0, 13))
    QTest.qWait(words.app.doubleClickInterval() + 50)
    a, b = spot_of(words, (0, 10)), spot_of(words, (0, 1))
    pull(words, a, b, kind="double")
    assert (writing.anchor, writing.caret) == ((0, 13), (0, 0))


def test_a_third_click_takes_the_paragraph_and_drags_by_paragraphs(words):
    writing, at = words.desk.text, spot_of(words, (1, 2))
    press(words, at)
    press(words, at, kind="release")
    press(words, at, kind="double")
    press(words, at, kind="release")
    press(words, at)
    assert writing.selection == ((1, 0), (2, 0))
    press(words, spot_of(words, (2, 3)), kind="move")
    press(words, spot_of(words, (2, 3)), kind="release")
    assert writing.selection == ((1, 0), (2, 11))
    words.type("new")
    assert plain(text_of(words)) == "one two three\nnew"


def test_selected_words_are_dragged_and_with_ctrl_copied(words):
    writing = words.desk.text
    writing.anchor, writing.caret = (0, 0), (0, 4)
    pull(words, spot_of(words, (0, 1)), spot_of(words, (0, 8)))
    assert plain(text_of(words)).startswith("two one three\n")
    assert writing.selection == ((0, 4), (0, 8))
    words.do("undo")
    assert plain(text_of(words)).startswith("one two three\n")
    assert writing.selection == ((0, 0), (0, 4))
    pull(words, spot_of(words, (0, 1)), spot_of(words, (2, 0)), Ctrl)
    assert plain(text_of(words)) == "one two three\nfour, five; six\none seven eight"
    before = len(words.session.history.past)
    pull(words, spot_of(words, (2, 1)), spot_of(words, (2, 3)))  # into themselves
    assert len(words.session.history.past) == before
    press(words, spot_of(words, (2, 1)))
    press(words, spot_of(words, (2, 1)), kind="release")
    assert writing.caret == writing.anchor == (2, 1)  # a mere click


def test_a_place_is_not_doubled_when_a_part_of_its_heading_is_dragged_away(words):
    """What refers to a heading goes on referring to what is left of it."""
    text = text_of(words)
    named = (replace(text[0], place="place-1"), *text[1:])
    words.session.edit("name", lambda p: set_story_text(
        replace(p, next_id=max(p.next_id, 2)), words.story, named))  # fmt: skip
    writing = words.desk.text
    writing.anchor, writing.caret = (0, 4), (1, 5)
    pull(words, spot_of(words, (0, 6)), spot_of(words, (2, 0)))
    made = text_of(words)
    assert plain(made) == "one  five; six\ntwo three\nfour,seven eight"
    assert [p.place for p in made].count("place-1") == 1 and made[0].place == "place-1"


def test_words_are_dragged_into_another_frame_and_come_back_by_one_undo(words):
    item = main_frame(words, 5)
    page = words.page(5)
    frame = TextFrame(id="", x=item.x, y=item.y + 200, width=120, height=60, name="Aside",
                      text=(Paragraph("body", (Run("beside"),)),))  # fmt: skip
    words.session.edit("draw", lambda p: add_item(p, page, frame)[0])
    words.session.show_page(page)
    writing = words.desk.text
    writing.write_at(words.story, (0, 0))
    writing.anchor, writing.caret = (0, 0), (0, 4)
    face = next(n for n, f in enumerate(words.session.faces()) if f.holder_id == page)
    made = words.own(5, "Aside")
    to = words.at(face, made.x + 1, made.y + 6)
    pull(words, spot_of(words, (0, 1)), to)
    assert plain(words.own(5, "Aside").text) == "one beside"
    assert plain(text_of(words)).startswith("two three\n")
    words.do("undo")
    assert plain(text_of(words)).startswith("one two three\n")
    assert plain(words.own(5, "Aside").text) == "beside"
    assert writing.selection == ((0, 0), (0, 4)) and writing.told() is not None


def test_shift_and_a_click_select_from_where_one_wrote_though_one_turned_pages(book):
    write_on(book)
    place = book.desk.text.caret
    book.session.show_page(book.page(12))
    book.app.processEvents()
    assert book.session.editing is None
    item = main_frame(book, 12)
    face = next(n for n, f in enumerate(book.session.faces()) if f.holder_id == book.page(12))
    side = book.session.faces()[face].side
    wide = book.publication.setup.trim.width
    left = wide - item.x - item.width if side == "verso" else item.x
    book.click(face, left + 50, item.y + 60, Shift)
    start, end = book.desk.text.selection
    flow = book.session.composition.flow(book.story)
    assert start == place and flow.stops[flow.stop_of(*end)].page_id == book.page(12)
    book.session.show_page(book.page(9))
    book.click(0, 1, 1)  # on nothing: Shift has nothing to come back to, nor to lose
    assert book.session.editing is None


def test_dragging_past_the_spreads_edge_turns_pages(book):
    write_on(book)
    book.desk.camera.fit_to("spread")
    place, edges = book.desk.text.caret, book.desk.edges
    press(book, spot_of(book, place))
    edge = book.desk.rect().bottomRight()
    press(book, edge, kind="move")

    def page():
        return book.session.editing.holder_id

    assert page() == book.page(7)  # the nearest frame, though the pointer is off the paper
    for wanted in (9, 11):
        for _ in range(TURN):
            edges.tick()
        assert page() == book.page(wanted) == book.session.page_id
    assert book.desk.text.anchor == place
    press(book, book.desk.rect().topLeft(), kind="move")
    for _ in range(TURN):
        edges.tick()
    assert page() == book.page(8)
    press(book, edge, kind="release")
    for _ in range(TURN):
        edges.tick()
    assert page() == book.page(8)  # the button is up


@pytest.mark.parametrize("fitted", [True, False])
def test_what_one_looks_at_stays_on_the_screen_when_a_text_is_entered_and_left(book, qtbot, fitted):
    """Though a bar comes above the desk, and goes again."""
    desk = book.desk
    if not fitted:
        desk.camera.zoom_by(2.0)
        desk.camera.scroll_by(-40, -60)

    def seen():
        x, y = desk.camera.view.to_widget(0.0, 0.0)
        corner = desk.mapToGlobal(QPoint(0, 0))
        return desk.camera.view.zoom, round(x + corner.x()), round(y + corner.y())

    before, height = seen(), desk.height()
    write_on(book)
    book.type("x")
    qtbot.waitUntil(lambda: desk.height() < height)
    assert book.session.editing is not None and seen() == before
    qtbot.wait(100)
    book.key(K.Key_Escape)
    qtbot.waitUntil(lambda: desk.height() == height)
    assert seen() == before
    qtbot.wait(100)
    book.window.resize(book.window.width() - 90, book.window.height())
    book.app.processEvents()
    assert (seen()[0] != before[0]) == fitted  # the window's own size fits it anew


def test_words_are_dragged_in_the_galley_and_its_menu_is_that_of_the_text(words, monkeypatch):
    galley, writing = galley_of(words), words.desk.text
    writing.write_at(words.story, (0, 4), (0, 0))

    def at(place):
        cursor = galley.textCursor()
        cursor.setPosition(galley.position_of(place))
        return galley.cursorRect(cursor).center()

    words.pull(galley.viewport(), at((0, 1)), at((1, 0)))
    assert plain(text_of(words)) == "two three\none four, five; six\nseven eight"
    assert galley.toPlainText() == plain(text_of(words))
    words.do("undo")
    assert (
        galley.toPlainText()
        == plain(text_of(words))
        == ("one two three\nfour, five; six\nseven eight")
    )
    shown = []
    monkeypatch.setattr(words.window.text_menu, "_open", shown.append)
    galley.menu_wanted.emit(galley.mapToGlobal(at((1, 2))))
    QTest.qWait(950)
    assert shown


def test_a_pictograph_is_one_character_in_the_galley_too(hands):
    fresh(hands, "a🌊🇩🇪b", "c")
    galley, writing = galley_of(hands), hands.desk.text
    for place in ((0, 1), (0, 2), (0, 4), (0, 5), (1, 0)):
        QTest.keyClick(galley, K.Key_Right)
        assert writing.caret == place
        assert galley.place_of(galley.textCursor().position()) == place
    QTest.keyClick(galley, K.Key_Left)
    QTest.keyClick(galley, K.Key_Left)
    QTest.keyClicks(galley, "x")
    assert plain(text_of(hands)) == "a🌊🇩🇪xb\nc" == galley.toPlainText()


def test_words_from_elsewhere_are_dropped_at_a_place_of_the_text(words):
    data = QMimeData()
    data.setText("quite ")
    at = QPointF(spot_of(words, (0, 4)))
    drop = QDropEvent(at, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, None_)
    words.desk.dropEvent(drop)
    assert plain(text_of(words)).startswith("one quite two three\n")


# -- input methods ------------------------------------------------------------------------------


def format_of(colour=None):
    made = QTextCharFormat()
    made.setFontUnderline(True)
    if colour is not None:
        made.setBackground(QColor(colour))
    return made


def test_what_is_being_made_is_shown_at_the_caret_and_is_no_part_of_the_story(words):
    writing, kinds = words.desk.text, QInputMethodEvent.AttributeType
    writing.write_at(words.story, (0, 4))
    before, steps = text_of(words), len(words.session.history.past)
    for making, caret in (("k", 1), ("か", 1), ("かんじ", 2)):
        attributes = [
            QInputMethodEvent.Attribute(kinds.Cursor, caret, 1, None),
            QInputMethodEvent.Attribute(kinds.TextFormat, 0, len(making), format_of("yellow")),
        ]
        words.app.sendEvent(words.desk, QInputMethodEvent(making, attributes))
        words.app.processEvents()
    frame, _ = words.desk.selected.placed(words.session.editing.item_id)
    marks = writing.marks(words.session.editing.holder_id, frame)
    assert "one かんじtwo" in words.session.composition.scene(words.page(5)).text_of()[0]
    assert text_of(words) is before and len(words.session.history.past) == steps
    assert len(marks.making) == len(marks.chosen) == 1 and not marks.selected
    assert marks.making[0].left < marks.caret.x < marks.making[0].right
    asked = words.desk.inputMethodQuery
    assert asked(Qt.InputMethodQuery.ImSurroundingText) == "one two three"
    assert asked(Qt.InputMethodQuery.ImCursorPosition) == 4
    composed(words.desk, "", "漢字")
    assert plain(text_of(words)).startswith("one 漢字two") and writing.caret == (0, 6)
    assert len(words.session.history.past) == steps + 1
    words.do("undo")
    assert text_of(words) == before and writing.caret == (0, 4)


@pytest.mark.parametrize("there", ["page", "galley"])
def test_undo_while_something_is_being_made_drops_it(words, there):
    hand = hand_of(words, there)
    QTest.keyClicks(hand, "new ")
    composed(hand, "ni")
    words.do("undo")
    assert words.session.draft is None and not words.desk.text.making.on
    assert plain(text_of(words)).startswith("one two")
    composed(hand, "", "你")
    assert plain(text_of(words)).startswith("你one two")


def test_a_click_or_another_edit_while_something_is_being_made_loses_no_word(words):
    composed(words.desk, "ni")
    press(words, spot_of(words, (1, 3)))
    press(words, spot_of(words, (1, 3)), kind="release")
    assert words.session.draft is None and words.desk.text.caret == (1, 3)
    composed(words.desk, "ni")
    words.do("bold")
    words.key(K.Key_Escape)
    assert words.session.draft is None and words.session.editing is None
    assert plain(text_of(words)) == "one two three\nfour, five; six\nseven eight"


@pytest.mark.parametrize("there", ["page", "galley"])
def test_an_input_method_takes_back_what_it_gave(words, there):
    """As one that makes a letter with its accent of a letter that is there already."""
    hand = hand_of(words, there)
    QTest.keyClicks(hand, "ca")
    event = QInputMethodEvent("", [])
    event.setCommitString("â", -1, 1)
    QApplication.sendEvent(hand, event)
    assert plain(text_of(words)).startswith("câone two")


def test_what_can_not_be_taken_is_told_and_is_not_seen_any_more(words, monkeypatch):
    composed(words.desk, "ni")
    monkeypatch.setattr(words.desk.text, "has_room", lambda more: False)
    composed(words.desk, "", "你")
    assert words.session.draft is None
    assert "one two three" in words.session.composition.scene(words.page(5)).text_of()[0]
    shown = [sheet.scene for sheet in words.desk.sheets()]
    assert all("ni" not in " ".join(scene.text_of()).split() for scene in shown)


# What an input method may send, a hundred thousand characters of it and halves of pairs too.
@pytest.mark.parametrize("there", ["page", "galley"])
@pytest.mark.parametrize(
    "sent", ["x " * 50_000, "a\x00b\x1bc", "\u2028", "e\u0301" * 9, "a\ud83db"]
)
def test_whatever_an_input_method_sends_stands_in_the_story(words, there, sent):
    hand = hand_of(words, there)
    composed(hand, "…")
    composed(hand, "", sent)
    kept = "".join(c for c in sent if c not in "\x00\x1b").replace("\ud83d", "")
    assert plain(text_of(words)) == kept + "one two three\nfour, five; six\nseven eight"
    words.do("undo")
    assert plain(text_of(words)) == "one two three\nfour, five; six\nseven eight"


def test_what_is_selected_stays_while_something_is_made_in_the_galley(words):
    galley, writing = galley_of(words), words.desk.text
    writing.write_at(words.story, (0, 7), (0, 4))
    composed(galley, "ni")
    assert galley.toPlainText() == plain(text_of(words)) and "two" in galley.toPlainText()
    composed(galley, "")  # given up: nothing is lost
    assert writing.selection == ((0, 4), (0, 7))
    cursor = galley.textCursor()
    assert (cursor.selectionStart(), cursor.selectionEnd()) == (4, 7)
    composed(galley, "ni")
    composed(galley, "", "你")
    assert (
        galley.toPlainText()
        == plain(text_of(words))
        == ("one 你 three\nfour, five; six\nseven eight")
    )


EVENTS = st.lists(
    st.tuples(st.just("key"), st.sampled_from("a -.")) |
    st.tuples(st.just("commit"), st.sampled_from(["é", "夜空", "", "e\u0301", "🌊", "x" * 40])) |
    st.tuples(st.just("preedit"), st.sampled_from(["´", "よる", ""])) |
    st.tuples(st.just("press"), st.sampled_from(
        ["Return", "Backspace", "Delete", "Left", "Right", "Up", "Down", "Home", "End"])) |
    st.tuples(st.just("select"), st.sampled_from(["Left", "Right", "Up", "Down"])) |
    st.tuples(st.just("do"), st.sampled_from(["undo", "redo"])) |
    st.tuples(st.just("click"), st.integers(0, 9)) |
    st.tuples(st.just("drop"), st.integers(0, 9)) |
    st.tuples(st.just("drag"), st.integers(0, 9)) |
    st.tuples(st.just("page"), st.sampled_from(["b", "c", "é"])) |
    st.tuples(st.just("page preedit"), st.sampled_from(["´", "よる"])),
    min_size=1, max_size=25,
)  # fmt: skip


@given(EVENTS)
@settings(
    max_examples=15, phases=QUICK, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
def test_the_galley_shows_what_the_story_holds_after_every_event(book, events):
    open_book(book, BOOK, 6)
    write_on(book)
    galley = galley_of(book)
    for kind, what in events:
        if kind == "key":
            QTest.keyClicks(galley, what)
        elif kind in ("press", "select"):
            QTest.keyClick(galley, getattr(K, f"Key_{what}"), Shift if kind == "select" else None_)
        elif kind == "commit":
            composed(galley, "", what)
        elif kind == "preedit":
            composed(galley, what)
        elif kind == "page":
            composed(book.desk, "", what)
        elif kind == "page preedit":
            composed(book.desk, what)
        elif kind in ("click", "drag", "drop"):
            by_mouse(book, galley, kind, what)
        else:
            book.do(what)
        assert galley.toPlainText() == plain(text_of(book)), (kind, what)
        writing = book.desk.text
        if not galley.making:
            assert galley.place_of(galley.textCursor().position()) == writing.caret


def by_mouse(book, galley, kind, n):
    room = galley.viewport().rect()
    point = room.center() + (room.bottomRight() - room.center()) * (n - 5) / 12
    if kind == "click":
        QTest.mouseClick(galley.viewport(), Qt.MouseButton.LeftButton, pos=point)
    elif kind == "drop":
        data = QMimeData()
        data.setText("dropped ")
        left = Qt.MouseButton.LeftButton
        drop = QDropEvent(QPointF(point), Qt.DropAction.CopyAction, data, left, None_)
        galley.dropEvent(drop)
    else:
        cursor = galley.textCursor()
        book.pull(galley.viewport(), galley.cursorRect(cursor).center(), point)


# -- paste --------------------------------------------------------------------------------------


def copied(hands, page, words=""):
    data = QMimeData()
    data.setHtml(page)
    if words:
        data.setText(words)
    hands.app.clipboard().setMimeData(data)


ARTICLE = "<h2>Of lamps</h2><p>Oil is <b>dear</b>.</p><ul><li>wick</li><li>glass</li></ul>"


def test_a_page_is_pasted_with_its_structure_and_asked_about_once(words, monkeypatch):
    asked = []

    def answer(dialog):
        asked.append(sorted(dialog.choices))
        dialog.choices["Heading 2"].setCurrentIndex(1)  # a new style of this name
        dialog._accept()
        return 1

    monkeypatch.setattr(PastedStyles, "exec", answer)
    writing = words.desk.text
    copied(words, ARTICLE)
    writing.write_at(words.story, (1, 5))
    words.key(K.Key_V, Ctrl)
    text, names = text_of(words), {s.id: s.name for s in words.publication.paragraph_styles}
    assert [plain((p,)) for p in text] == [
        "one two three", "four,", "Of lamps", "Oil is dear.", "wick", "glass", " five; six",
        "seven eight",
    ]  # fmt: skip
    assert [names[p.style] for p in text[2:6]] == [
        "Heading 2", names[text[0].style], "List bullet", "List bullet",
    ]  # fmt: skip
    assert writing.caret == (5, 5)
    assert asked == [["Heading 2", "List bullet"]]
    words.do("undo")
    assert plain(text_of(words)) == "one two three\nfour, five; six\nseven eight"
    assert writing.caret == (1, 5)
    words.do("redo")
    words.key(K.Key_V, Ctrl)
    assert len(asked) == 1  # it is known by now
    monkeypatch.setattr(PastedStyles, "exec", lambda dialog: dialog.reject() or 0)
    copied(words, "<h5>Other</h5>")
    before = words.session.history
    words.key(K.Key_V, Ctrl)
    assert words.session.history.now is before.now  # not pasted, since that was given up


def test_paste_without_looks_takes_the_words_alone(words):
    copied(words, ARTICLE, "Of lamps\nOil is dear.")
    words.desk.text.write_at(words.story, (0, 4))
    words.key(K.Key_V, Ctrl | Qt.KeyboardModifier.AltModifier)
    words.do("paste plain")
    assert plain(text_of(words)).startswith(
        "one Of lamps\nOil is dear.Of lamps\nOil is dear.two three"
    )
    assert {p.style for p in text_of(words)} == {text_of(words)[0].style}
    words.key(K.Key_Escape)
    words.do("paste plain")
    made = words.own(5, "Text")
    assert plain(made.text) == "Of lamps\nOil is dear."


@pytest.mark.parametrize(("page", "said"), [
    ("<p>" + "word " * 2_000_000, "longer than 8 million characters"),
    ("<div>" * 10_000 + "deep words" * 9 + "</div>" * 10_000, "can’t be read"),
])  # fmt: skip
def test_a_page_that_is_too_much_comes_as_plain_words_and_that_is_said(words, page, said):
    copied(words, page, "deep words" * 9)
    words.key(K.Key_V, Ctrl)
    assert plain(text_of(words)).startswith("deep words" * 9 + "one two")
    assert said in words.notices[-1]


def test_words_that_were_copied_go_to_others_as_html_and_plain(words):
    writing = words.desk.text
    writing.anchor, writing.caret = (0, 4), (0, 7)
    words.do("bold")
    writing.anchor, writing.caret = (0, 0), (1, 4)
    words.key(K.Key_C, Ctrl)
    data = words.app.clipboard().mimeData()
    assert data.text() == "one two three\nfour"
    page = lxml.html.fromstring(data.html())
    assert [p.text_content() for p in page.iter("p")] == ["one two three", "four"]
    assert [b.text_content() for b in page.iter("strong")] == ["two"]


# -- the caret is a place of its story ----------------------------------------------------------


DRIVEN = settled(driven_book())


def shorter(publication, story):
    """The story without its first twenty paragraphs."""
    return set_story_text(publication, story, find_story(publication, story).text[20:])


def ten_pages_moved(publication, story):
    pages = [p.id for p in all_pages(publication)[6:16]]
    section = next(s for s in publication.sections if any(p.id == pages[0] for p in s.pages))
    return move_pages(publication, pages, section.id, len(section.pages))


@pytest.mark.parametrize("what", ["longer", "shorter", "moved", "style", "gone"])
def test_one_goes_on_writing_where_one_was_whatever_is_done_elsewhere(hands, what):
    """Pages come, go and change places, and rules give them other masters: the next letter stands
    behind the last one, and the page that shows it is on the desk."""
    open_book(hands, DRIVEN, 12)
    hands.story = max(hands.publication.stories, key=lambda s: len(s.text)).id
    text = text_of(hands)
    number = next(n for n, p in enumerate(text) if n > 40 and length(p) > 40)
    hands.desk.text.write_at(hands.story, (number, 9))
    hands.desk.setFocus()
    hands.type("Q")
    begun = len(hands.session.history.past)
    edits = {
        "longer": lambda p: set_story_text(
            p, hands.story, (*[Paragraph(text[number].style, (Run("More words. " * 90),))] * 30,
                             *find_story(p, hands.story).text)),
        "shorter": lambda p: shorter(p, hands.story),
        "moved": lambda p: ten_pages_moved(p, hands.story),
        "style": lambda p: set_story_text(p, hands.story, set_paragraph_style(
            find_story(p, hands.story).text, number - 1, number - 1, text[0].style)),
        "gone": lambda p: delete_pages(p, [hands.session.page_id]),
    }  # fmt: skip
    hands.session.edit("elsewhere", edits[what])
    hands.app.processEvents()
    assert len(hands.session.history.past) == begun + 1
    hands.type("Z")
    made = plain(text_of(hands))
    assert "QZ" in made and made.count("Z") - plain(text).count("Z") == 1
    flow = hands.session.composition.flow(hands.story)
    stop = flow.stops[flow.stop_of(*hands.desk.text.caret)]
    assert stop.page_id == hands.session.page_id == hands.session.editing.holder_id
    hands.app.clipboard().setText("pasted words")
    items = sum(len(p.items) for p in all_pages(hands.publication))
    hands.do("paste")
    assert "QZpasted words" in plain(text_of(hands))
    assert sum(len(p.items) for p in all_pages(hands.publication)) == items
    for _ in range(3):
        hands.do("undo")
    assert hands.desk.text.caret == (number, 10)
    hands.type("Y")
    assert "QY" in plain(text_of(hands))


def test_go_to_and_find_keep_the_caret(words, monkeypatch):
    monkeypatch.setattr(QDialog, "exec", lambda dialog: dialog.reject() or 0)
    words.desk.text.write_at(words.story, (1, 3))
    for command in ("go to", "finder", "find text"):
        words.do(command)
        for widget in QApplication.topLevelWidgets():
            if isinstance(widget, QDialog) and widget.isVisible():
                QTest.keyClick(widget, K.Key_Escape)
        words.app.processEvents()
        assert words.desk.text.caret == (1, 3) and words.session.editing is not None, command
        words.type("x")
        words.do("undo")


# -- the list of steps ------------------------------------------------------------------------


def steps_of(hands):
    hands.window.show_shelf("Steps")
    hands.app.processEvents()
    rows = hands.window.steps.list
    return [rows.item(n) for n in range(rows.count())]


def test_the_list_of_steps_says_what_was_typed_where_and_what_came_of_it(book):
    write_on(book)
    folio = book.session.composition.facts[book.page(6)].folio
    book.type("The lantern was lit before anybody came. ")
    book.key(K.Key_Left, Shift | Ctrl)
    book.key(K.Key_Left, Shift | Ctrl)
    book.key(K.Key_Delete)
    book.app.clipboard().setText("A line of a long list of lamps.\n" * 600)
    count = sum(p.made for p in all_pages(book.publication))
    book.key(K.Key_V, Ctrl)
    more = sum(p.made for p in all_pages(book.publication)) - count
    rows = [r.text() for r in steps_of(book)]
    assert rows[0] == "As it was opened"
    assert rows[1] == f"Typing “The lantern was lit before …” · {folio}"
    assert rows[2] == f"Delete text “came.” · {folio}"
    assert rows[3].startswith("Paste text “A line of a long list of …” · ")
    assert rows[3].endswith(f" · {more} pages more") and more > 5
    assert "3 steps below it" in steps_of(book)[0].toolTip() and not steps_of(book)[3].toolTip()
    book.do("undo")
    book.do("undo")
    assert [r.text() for r in steps_of(book)] == rows
    assert "2 steps" in steps_of(book)[3].toolTip()


def test_a_cancelled_dialog_leaves_no_step_and_nothing_to_redo(words, monkeypatch):
    """Every command that asks something, while one writes and with an item selected."""
    for ask in ("getOpenFileName", "getSaveFileName", "getOpenFileNames", "getExistingDirectory"):
        monkeypatch.setattr(QFileDialog, ask, lambda *_, **__: ("", ""))
    monkeypatch.setattr(QInputDialog, "getInt", lambda *_, **__: (0, False))
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("", False))
    monkeypatch.setattr(QDialog, "exec", lambda dialog: dialog.reject() or 0)
    words.type("new")
    words.do("undo")
    history, asked = words.session.history, 0
    for command in words.window.commands.list:
        if "…" not in command.title:
            continue
        words.desk.text.write_at(words.story, (0, 0))
        if not command.enabled():
            continue
        words.do(command.id)
        asked += 1
        for widget in QApplication.topLevelWidgets():
            if isinstance(widget, QDialog) and widget.isVisible():
                QTest.keyClick(widget, K.Key_Escape)
        words.app.processEvents()
        now = words.session.history
        assert (now.now, now.past, now.future) == (history.now, history.past, history.future), (
            command.id
        )
        assert words.session.draft is None, command.id
    assert asked > 20


def test_a_story_that_is_deleted_while_the_galley_shows_it_leaves_it_empty_and_comes_back(words):
    galley = galley_of(words)
    composed(galley, "ni")
    words.session.edit("delete the story", lambda p: delete_story(p, words.story))
    words.app.processEvents()
    QTest.keyClicks(galley, "x")
    composed(galley, "", "y")
    assert galley.toPlainText() == "" and not words.publication.stories
    words.do("undo")
    assert "one two three" in plain(text_of(words))
    galley = galley_of(words)
    assert galley.toPlainText() == plain(text_of(words))
