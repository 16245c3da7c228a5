"""The board, driven by mouse and key: what is seen on it, and what becomes of the publication."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QByteArray, QMimeData, QPoint, QPointF, Qt
from PySide6.QtGui import QDragMoveEvent, QDropEvent, QWheelEvent
from PySide6.QtTest import QTest

from hidden_frame.desktop.views.board.layout import board_layout
from hidden_frame.desktop.views.board.paint import fold_rect, matches
from hidden_frame.desktop.views.pages.drops import MASTER_MIME
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.interact.words.told import followers_in_words
from hidden_frame.model.items import Shape
from hidden_frame.model.lookup import find_master
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS


@pytest.fixture
def board(hands):
    hands.do("board")
    hands.view = hands.window.board.view
    hands.view.zoom_to(64)
    hands.app.processEvents()
    return hands


def middle(board, name) -> QPoint:
    return board.view.rect_of(board.master(name)).center().toPoint()


def click(board, name) -> None:
    view = board.view.viewport()
    none = Qt.KeyboardModifier.NoModifier
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, none, middle(board, name))
    board.app.processEvents()


def carried(board, name) -> QMimeData:
    data = QMimeData()
    data.setData(MASTER_MIME, QByteArray(board.master(name).encode()))
    return data


def drop(board, name, at: QPoint) -> str:
    """Carries a master over a point and drops it there; what was foretold."""
    data, copy, left = carried(board, name), Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    none = Qt.KeyboardModifier.NoModifier
    board.view.dragMoveEvent(QDragMoveEvent(at, copy, data, left, none))
    words = board.view.drop.words
    board.view.dropEvent(QDropEvent(QPointF(at), copy, data, left, none))
    board.app.processEvents()
    return words


def test_the_board_takes_the_desks_place_and_gives_it_back(board):
    assert board.view.isVisible() and not board.desk.isVisible()
    assert board.window.status.words() == f"{len(board.publication.masters)} masters"
    board.key(Qt.Key.Key_Escape, widget=board.view)
    assert board.desk.isVisible() and not board.view.isVisible()
    board.window.top.modes["board"].click()
    assert board.view.isVisible()
    board.do("tool rectangle")  # one draws on the desk
    assert board.desk.isVisible()


def test_every_master_stands_right_of_its_base(board):
    layout = board.view.layout_now()
    assert {c.master_id for c in layout.cards} == {m.id for m in board.publication.masters}
    for card in layout.cards:
        base = layout.of(card.base)
        assert base is None or card.x > base.x + layout.card[0]
    assert [side for side, _ in layout.faces] == ["verso", "recto"]


@pytest.mark.parametrize("count", [1, 12, 60])
def test_no_two_cards_overlap_in_families_of_any_shape(count):
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 1)
    made = [publication.masters[0].id]
    for n in range(1, count):
        base = made[(n * n + 3) % len(made)] if n % 5 else None
        publication, master = add_master(publication, f"M{n}", base)
        made.append(master)
    layout = board_layout(publication, 70, 760, frozenset())
    wide, high = layout.card
    assert len(layout.cards) == count
    for n, a in enumerate(layout.cards):
        for b in layout.cards[n + 1 :]:
            assert abs(a.x - b.x) >= wide or abs(a.y - b.y) >= high
        assert a.x + wide <= layout.width and a.y + high <= layout.height


def test_thumbnails_are_live(board, qtbot):
    """The card's picture changes with the base's item, also for what is built on it."""
    board.window.thumbnails.finish()

    def picture():
        rect = board.view.rect_of(board.master("Notes")).toAlignedRect()
        return board.view.viewport().grab(rect).toImage()

    before = picture()
    base = find_master(board.publication, board.master("Almanac base"))
    big = Shape(id="", x=40, y=60, width=400, height=500, fill=Fill("autumn"))
    board.session.edit("draw", lambda p: add_item(p, base.id, big)[0])
    qtbot.waitUntil(lambda: picture() != before, timeout=5000)


def test_a_click_chooses_and_a_double_click_opens_on_the_desk(board):
    click(board, "Season opener")
    assert (
        board.session.master_id == board.master("Season opener") and board.session.pane == "board"
    )
    assert board.window.properties.form.name.text() == "Season opener"
    QTest.mouseDClick(board.view.viewport(), Qt.MouseButton.LeftButton,
                      Qt.KeyboardModifier.NoModifier, middle(board, "Text"))  # fmt: skip
    board.app.processEvents()
    assert board.desk.isVisible() and board.session.master_id == board.master("Text")


def test_by_keys_alone(board):
    click(board, "Almanac base")
    board.key(Qt.Key.Key_Right, widget=board.view)
    chosen = find_master(board.publication, board.session.master_id)
    assert chosen.base == board.master("Almanac base")
    board.key(Qt.Key.Key_Left, widget=board.view)
    assert board.session.master_id == board.master("Almanac base")
    board.key(Qt.Key.Key_Space, widget=board.view)
    assert board.view.rect_of(board.master("Month table")).isNull()
    board.key(Qt.Key.Key_Space, widget=board.view)
    board.key(Qt.Key.Key_Return, widget=board.view)
    assert board.desk.isVisible() and board.session.mode == "masters"


def test_a_master_dropped_on_another_is_built_on_it(board):
    words = drop(board, "Notes", middle(board, "Text"))
    assert words == "Build “Notes” on “Text”"
    assert find_master(board.publication, board.master("Notes")).base == board.master("Text")
    board.do("undo")
    base = board.master("Almanac base")
    assert find_master(board.publication, board.master("Notes")).base == base


def test_a_loop_is_not_offered(board):
    before = board.publication
    words = drop(board, "Almanac base", middle(board, "Month table"))
    assert words == "“Month table” builds on “Almanac base” itself"
    assert board.publication is before


def test_dropped_beside_all_cards_a_master_has_no_base(board):
    view = board.view.viewport()
    assert drop(board, "Notes", QPoint(view.width() - 3, 3)) == "“Notes” without a base"
    assert find_master(board.publication, board.master("Notes")).base is None


def test_searching_fades_the_others_and_enter_takes_the_first(board):
    search = board.window.board.search
    search.setFocus()
    QTest.keyClicks(search, "winter")
    publication, wanted = board.session.publication, board.view.wanted
    assert matches(publication, board.master("Month table, winter"), wanted)
    assert not matches(publication, board.master("Cover"), wanted)
    board.key(Qt.Key.Key_Return, widget=search)
    assert board.session.master_id == board.master("Month table, winter")


def test_folding_hides_what_builds_on_a_base_and_says_how_many(board):
    card = board.view.layout_now().of(board.master("Almanac base"))
    box = fold_rect(board.view.layout_now(), card)
    at = box.translated(-board.view.offset()).center().toPoint()
    QTest.mouseClick(board.view.viewport(), Qt.MouseButton.LeftButton,
                     Qt.KeyboardModifier.NoModifier, at)  # fmt: skip
    folded = board.view.layout_now().of(board.master("Almanac base"))
    assert folded.folded == 5
    board.window.board.unfold.click()
    assert board.view.layout_now().of(board.master("Notes")) is not None
    board.window.board.fold.click()
    assert len(board.view.layout_now().cards) == 3


def test_zoom_by_slider_and_wheel(board):
    board.window.board.size_slider.setValue(150)
    assert board.view.layout_now().face[1] == 150
    at = QPointF(100, 100)
    turn = QWheelEvent(
        at, board.view.mapToGlobal(at), QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.ControlModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    board.view.wheelEvent(turn)
    assert board.view.face_height > 150
    assert board.window.board.size_slider.value() == board.view.face_height


def test_pointing_rings_the_pages_that_follow(board):
    board.again("move", board.view.viewport(), middle(board, "Season opener"))
    ringed = board.window.run.ringed_pages()
    assert ringed == set(board.session.composition.followers(board.master("Season opener")))
    assert (
        followers_in_words(board.session.publication, board.master("Almanac base"))
        == "28 pages, 1 directly"
    )
