"""What every view of pages does with presses and menus; where pages lie is said by each."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QMouseEvent,
)

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.drops import carried, carry_out
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.overview import Overview
from hidden_frame.desktop.views.pages.space import SectionHead
from hidden_frame.interact.words.drops import MasterDrop
from hidden_frame.model.lookup import masters_by_id


class PageView(Overview):
    """`menu_wanted`: the menu of the selected pages; `section_menu_wanted`: of a section."""

    menu_wanted = Signal(QPoint)
    section_menu_wanted = Signal(str, QPoint)
    session: Session
    hand: PageHand

    def page_at(self, point: QPointF) -> str | None:
        raise NotImplementedError

    def head_at(self, point: QPointF) -> SectionHead | None:
        raise NotImplementedError

    def rect_of(self, page_id: str) -> QRectF:
        raise NotImplementedError

    def scroll_towards(self, point: QPointF) -> bool:
        raise NotImplementedError

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.RightButton:
            self._menu(event)
        elif event.button() == Qt.MouseButton.LeftButton:
            self.hand.press(event)

    def _menu(self, event: QMouseEvent) -> None:
        """The menu of what is under the pointer: a section by its head, else of pages."""
        where = event.globalPosition().toPoint()
        head, page_id = self.head_at(event.position()), self.page_at(event.position())
        if head is not None:
            self.section_menu_wanted.emit(head.section_id, where)
            return
        if page_id is not None and page_id not in self.session.pages:
            self.hand.choose(page_id)
        if page_id is not None or self.session.pages:
            self.menu_wanted.emit(where)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The menu by its key, on the page that is led with."""
        if event.reason() == QContextMenuEvent.Reason.Keyboard:
            if not self.session.pages:
                self.hand.choose(self.session.page_id)
            at = self.rect_of(self.session.page_id).center().toPoint()
            self.menu_wanted.emit(self.viewport().mapToGlobal(at))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self.hand.move(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.hand.release(event)

    # -- masters dropped on pages and between them -----------------------------------

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        event.setAccepted(self._carried(event) is not None)
        self.scroll_towards(event.position())

    def _carried(self, event: QDropEvent) -> MasterDrop | None:
        master_id, adding = carried(event)
        if master_id not in masters_by_id(self.session.publication):
            return None
        return self.hand.carry(master_id, event.position(), adding)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.hand.end()

    def dropEvent(self, event: QDropEvent) -> None:
        drop = self._carried(event)
        self.hand.end()
        if drop is not None:
            carry_out(self.session, drop, self)
            event.acceptProposedAction()
