"""The watch over contents gives way to whatever moves, and goes on once it rests."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent

from hidden_frame.desktop.state.watch import PAUSE, ContentWatch
from hidden_frame.edit.pages.setup import change_setup


def test_nothing_is_looked_at_while_the_flatplan_scrolls(hands, qtbot):
    watch = ContentWatch(hands.session)
    watch._begin()
    hands.session.show_flatplan()
    view = hands.window.flatplan.view
    view.zoom_to(300)
    hands.app.processEvents()
    at = QPointF(view.viewport().width() / 2, view.viewport().height() / 2)
    turn = QWheelEvent(
        at, view.viewport().mapToGlobal(at), QPoint(), QPoint(0, -120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    before = view.verticalScrollBar().value()
    hands.app.sendEvent(view.viewport(), turn)
    assert view.verticalScrollBar().value() > before and hands.session.hurried
    seen = len(watch._places)
    left = watch._left
    watch._some()
    assert len(watch._places) == seen and watch._left is left and not watch.done
    assert watch._work.interval() == PAUSE
    qtbot.waitUntil(lambda: watch.done, timeout=20_000)
    assert not hands.session.hurried


def test_all_is_looked_at_at_once_even_while_something_moves(hands):
    hands.session.edit("limit", lambda p: change_setup(p, least_ppi=300))
    watch = ContentWatch(hands.session)
    hands.session.hurry()
    watch.finish()
    assert watch.done and watch.findings
