"""Windows that fit: bars fold, labels are cut, and nothing written in a bar widens the window."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import QEvent, QObject, QRect, QSize

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.screen_room import LEAST_SIZE, first_place, first_size, within
from hidden_frame.edit.masters.apply import rename_master
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.edit.pages.sections import rename_section

LONG = "The long nights of the northern winter, seen from the ridge above the tree line " * 4


def settled(hands, qtbot):
    qtbot.wait(30)
    hands.app.processEvents()


@pytest.mark.parametrize("size", [(1000, 640), (1024, 740), (1280, 760), (1920, 1040)])
@pytest.mark.parametrize("view", ["desk", "flatplan", "board", "master"])
def test_the_window_is_as_large_as_it_is_made(hands, qtbot, size, view):
    {"desk": lambda: None, "flatplan": lambda: hands.do("flatplan"),
     "board": lambda: hands.do("board"),
     "master": lambda: hands.session.show_master(hands.master("Text"))}[view]()  # fmt: skip
    hands.window.resize(*size)
    settled(hands, qtbot)
    assert (hands.window.width(), hands.window.height()) == size
    for bar in (hands.window.top, hands.window.status):
        inside = bar.rect()
        for part in bar.findChildren(type(hands.window.top.finder)):
            if part.isVisible():
                assert inside.contains(part.geometry()), part.text()
                assert part.width() >= part.sizeHint().width(), part.text()  # nothing is cut


def test_nothing_that_is_written_makes_the_window_wider(hands, qtbot):
    hands.window.resize(*LEAST_SIZE)
    settled(hands, qtbot)
    for number, section in enumerate(hands.publication.sections):
        hands.session.edit(
            "rename", lambda p, s=section, n=number: rename_section(p, s.id, LONG + str(n))
        )
    master = hands.master("Text")
    hands.session.edit("rename", lambda p: rename_master(p, master, LONG))
    section = hands.publication.sections[0].id
    hands.session.edit("pages", lambda p: add_pages(p, section, 1, 1)[0])
    hands.session.noticed.emit(LONG)
    for show in (lambda: hands.session.show_page(hands.page(9)),
                 lambda: hands.session.show_master(master), lambda: hands.do("flatplan"),
                 lambda: hands.do("board"), lambda: hands.window.checks.show()):  # fmt: skip
        show()
        settled(hands, qtbot)
        assert (hands.window.width(), hands.window.height()) == LEAST_SIZE
        assert hands.window.minimumSizeHint().width() <= LEAST_SIZE[0]


def test_a_long_label_is_cut_and_told_whole(hands, qtbot):
    hands.session.show_page(hands.page(9))
    section = hands.publication.sections[2].id
    hands.session.edit("rename", lambda p: rename_section(p, section, LONG.strip()))
    settled(hands, qtbot)
    label = hands.window.status.page
    label.grab()
    assert label.shown().endswith("…") and label.toolTip() == label.text()
    assert LONG.strip() in label.text()


def test_what_has_no_room_in_a_bar_is_in_the_menu_at_its_end(hands, qtbot):
    top = hands.window.top
    hands.window.resize(1920, 900)
    settled(hands, qtbot)
    assert top.folding.more.isHidden() and top.finder.isVisible()
    hands.window.resize(*LEAST_SIZE)
    settled(hands, qtbot)
    assert top.finder.isVisible() and top.folding.more.isHidden()  # without their words
    top.setFixedWidth(440)
    settled(hands, qtbot)
    assert top.finder.isHidden() and top.folding.more.isVisible()
    top.folding.menu.aboutToShow.emit()
    titles = [a.text() for a in top.folding.menu.actions()]
    assert "Find" in titles and "Proof" in titles
    proof = next(a for a in top.folding.menu.actions() if a.text() == "Proof")
    proof.trigger()
    assert hands.session.proof


def test_panels_are_hidden_singly_and_all_at_once(hands, qtbot):
    window = hands.window
    hands.do("shelf")
    assert not window.tabs.isVisible() and window.properties.isVisible()
    hands.do("properties")
    assert not window.properties.isVisible() and window.run.isVisible()
    hands.do("only desk")
    assert not window.run.isVisible()
    hands.do("only desk")
    assert window.tabs.isVisible() and window.properties.isVisible() and window.run.isVisible()
    assert settings().now.shelf_shown


def test_a_list_of_the_shelf_that_is_asked_for_is_shown(hands):
    hands.do("shelf")
    hands.do("colours")
    assert hands.window.tabs.isVisible()


rects = st.builds(QRect, st.integers(-500, 2500), st.integers(-500, 2500),
                  st.integers(800, 3000), st.integers(500, 2000))  # fmt: skip


@given(rects, st.integers(0, 12), st.integers(0, 40),
       st.builds(QRect, st.integers(0, 100), st.integers(0, 100), st.integers(1100, 2600),
                 st.integers(740, 1600)))  # fmt: skip
def test_a_window_opens_inside_the_free_part_of_the_screen(inner, border, title, free):
    frame = inner.adjusted(-border, -title, border, border)
    placed = within(inner, frame, free)
    around = placed.adjusted(-border, -title, border, border)
    assert free.contains(around)
    assert placed.width() >= LEAST_SIZE[0] and placed.height() >= LEAST_SIZE[1]
    if free.contains(frame) and inner.width() >= 1000 and inner.height() >= 640:
        assert placed == inner


@pytest.mark.parametrize("width", [380, 420, 446, 460, 520])
def test_a_narrow_bar_is_fitted_once_while_one_writes(hands, width):
    """At 1024 pixels the strip of the text asked itself to be fitted until the stack was full."""
    hands.session.show_page(hands.page(27))
    hands.app.processEvents()
    item = hands.own(27, "Visits")
    hands.session.select_items(hands.session.faces()[-1], (item.id,))
    hands.window.desk.begin_text()
    strip = hands.window.strip
    calls = []
    inner = strip.folding._needed
    strip.folding._needed = lambda *given: (calls.append(1), inner(*given))[1]
    strip.setFixedWidth(width)
    hands.app.processEvents()
    hands.window.show()
    hands.app.processEvents()
    assert 0 < len(calls) < 30


class Counted(QObject):
    """Counts what is painted and laid out."""

    def __init__(self):
        super().__init__()
        self.kinds = []

    def eventFilter(self, watched, event):
        if event.type() in (QEvent.Type.LayoutRequest, QEvent.Type.Paint):
            self.kinds.append((watched.objectName() or type(watched).__name__, event.type().name))
        return False


@pytest.mark.parametrize("width", [1000, 1100, 1280, 1500])
@pytest.mark.parametrize("view", ["desk", "flatplan", "board", "writing"])
def test_a_window_at_rest_does_nothing(hands, qtbot, width, view):
    """Bars with folded parts fitted themselves again and again: the processor was never idle."""
    hands.window.resize(width, 720)
    if view == "writing":
        hands.session.show_page(hands.page(27))
        item = hands.own(27, "Visits")
        hands.session.select_items(hands.session.faces()[-1], (item.id,))
        hands.window.desk.begin_text()
    elif view != "desk":
        hands.do(view)
    hands.window.checks.watch.finish()
    qtbot.wait(400)  # what may come a moment later has come
    counted = Counted()
    hands.app.installEventFilter(counted)
    for _ in range(50):
        hands.app.processEvents()
    hands.app.removeEventFilter(counted)
    assert len(counted.kinds) < 20, counted.kinds[:9]


def test_a_notice_keeps_within_the_desk_when_that_is_narrowed(hands, qtbot):
    """What was said while a window opened was cut at both ends."""
    window = hands.window
    window.resize(1900, 900)
    settled(hands, qtbot)
    hands.session.noticed.emit("A sentence that is long enough to need two lines. " * 3)
    window.resize(*LEAST_SIZE)
    settled(hands, qtbot)
    notice = window.notice
    assert notice.isVisible() and notice.parentWidget().rect().contains(notice.geometry())
    assert notice.label.heightForWidth(notice.label.width()) <= notice.label.height()


def test_the_slider_of_sizes_keeps_its_groove(hands, qtbot):
    """In a narrow window it was nothing but a handle."""
    hands.do("flatplan")
    hands.window.resize(*LEAST_SIZE)
    settled(hands, qtbot)
    slider = hands.window.flatplan.size_slider
    assert slider.isVisible() and slider.width() >= 60


@pytest.mark.parametrize(
    ("screen", "least", "most"),
    [((1280, 776), (1280, 776), (1280, 776)), ((1024, 740), (1024, 740), (1024, 740)),
     ((1920, 1050), (1600, 900), (1800, 1000)), ((3840, 2100), (3000, 1700), (3600, 2000))],
)  # fmt: skip
def test_the_first_window_takes_most_of_the_screen_and_all_of_a_small_one(screen, least, most):
    size = first_size(QSize(*screen))
    assert least[0] <= size.width() <= most[0] and least[1] <= size.height() <= most[1]


@given(st.integers(0, 12), st.integers(0, 40),
       st.builds(QRect, st.integers(0, 100), st.integers(0, 100), st.integers(1100, 3900),
                 st.integers(740, 2200)))  # fmt: skip
def test_the_first_window_lies_in_the_middle_of_what_is_free(border, title, free):
    inner = QRect(200, 100, 1280, 800)
    frame = inner.adjusted(-border, -title, border, border)
    placed = first_place(inner, frame, free)
    around = placed.adjusted(-border, -title, border, border)
    assert free.contains(around)
    middle = around.center() - free.center()
    assert abs(middle.x()) <= 1 and abs(middle.y()) <= 1


def test_a_window_that_was_sized_opens_as_it_was(hands, qtbot):
    hands.window.resize(1111, 777)
    hands.window.keep_settings()
    assert settings().now.size == (1111, 777)


@pytest.mark.parametrize("words", [3, 8, 20, 60])
@pytest.mark.parametrize("undo", [False, True])
def test_a_notice_is_as_high_as_its_lines(hands, words, undo):
    notice = hands.window.notice
    notice.say(" ".join(["observatory"] * words), (lambda: None) if undo else None)
    hands.app.processEvents()
    label = notice.label
    room = notice.contentsRect().height() - 18
    assert label.heightForWidth(label.width()) <= room <= max(
        label.heightForWidth(label.width()), notice.undo.sizeHint().height()
    ) + label.fontMetrics().lineSpacing() // 2  # fmt: skip


def test_the_hints_show_all_their_words(hands, preferences):
    preferences.change(hints=True)
    card = hands.window.hints
    for _ in range(3):
        hands.app.processEvents()
        assert card.words.height() >= card.words.heightForWidth(card.words.width())
        assert card.words.geometry().bottom() < card.next.geometry().top()
        card.next.click()
    preferences.change(hints=True)
    card.setStyleSheet("QLabel { font-size: 19px; }")  # as when a window is dressed later
    hands.app.processEvents()
    assert card.words.height() >= card.words.heightForWidth(card.words.width())
