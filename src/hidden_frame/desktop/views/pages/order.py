"""Changes of the order of pages: done at once, unless a tied spread would be parted, or what lies
across a spine cut."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QCursor
from PySide6.QtWidgets import QMenu, QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.words.foretold import (
    Change,
    Foretold,
    foretell,
    gone_on,
    halved,
    kept_together,
)


def order_pages(
    session: Session,
    name: str,
    change: Change,
    parent: QWidget,
    point: QPoint | None = None,
    told: str = "",
) -> bool:
    """One undo step; where a tied spread would be parted, the choices are shown at a point.

    `told` is said afterwards, with Undo beside it.  True if it was done at once.
    """
    foretold = foretell(session.publication, change)
    return order_foretold(session, name, foretold, change, parent, point, told)


def order_foretold(
    session: Session,
    name: str,
    foretold: Foretold,
    change: Change,
    parent: QWidget,
    point: QPoint | None = None,
    told: str = "",
) -> bool:
    """The same, where what the change will do was asked already."""
    if foretold.refused:
        session.noticed.emit(foretold.refused)
        return False
    if foretold.parted or foretold.cut:
        _choices(session, name, foretold, change, parent, told).popup(point or QCursor.pos())
        return False
    return _do(session, name, foretold, told)


def _do(session: Session, name: str, foretold: Foretold, told: str) -> bool:
    done = session.edit(name, lambda _: foretold.result)
    if done and told:
        session.undoable.emit(told)
    return done


def _choices(
    session: Session, name: str, foretold: Foretold, change: Change, parent: QWidget, told: str
) -> QMenu:
    """Go on, go on with the one page that keeps the spread together, or with what reaches over the
    spine in two halves, or leave it."""
    menu = QMenu(parent)
    menu.setObjectName("TieChoices")
    menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    said = foretold.words[:1].upper() + foretold.words[1:]
    menu.addAction(said).setEnabled(False)
    menu.addSeparator()
    anyway = foretold._replace(result=gone_on(foretold))
    menu.addAction("Go on", lambda: _do(session, name, anyway, told))
    together = kept_together(session.publication, foretold)
    if together is not None:
        menu.addAction(
            "Go on, and add the page that keeps it together",
            lambda: _do(session, name, foretold._replace(result=together), told),
        )
    halves = halved(session.publication, foretold, change)
    if halves is not None:
        menu.addAction(
            "Go on, and put the other half on the page it leaves",
            lambda: _do(session, name, foretold._replace(result=halves), told),
        )
    menu.addAction("Leave it")
    return menu
