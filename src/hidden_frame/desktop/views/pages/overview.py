"""What board, flatplan and Run share: painting, tips, masters that are dragged over, the wheel."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtGui import (
    QDragEnterEvent,
    QHelpEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea, QToolTip

from hidden_frame.desktop.views.pages.drops import MASTER_MIME

_STEP = 1.15  # by which one turn of the wheel with Ctrl makes pages larger or smaller


class Overview(QAbstractScrollArea):
    """A view of many pages or masters; `tip_at` says what is known of a place."""

    def tip_at(self, point: QPointF) -> str:
        """What is known of what lies under a point; "" where there is nothing."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Takes up what changed."""
        raise NotImplementedError

    def paint(self, painter: QPainter, event: QPaintEvent) -> None:
        """Paints what is seen of the part that an event asks for."""
        raise NotImplementedError

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self.viewport())
        try:
            self.paint(painter, event)
        finally:  # a painter that is left open ends the process
            painter.end()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.refresh()

    def viewportEvent(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            told = self.tip_at(QPointF(event.pos()))
            if told:
                QToolTip.showText(event.globalPos(), told, self)
            return True
        return super().viewportEvent(event)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(MASTER_MIME):
            event.acceptProposedAction()

    def turned(self, event: QWheelEvent, height: float) -> int | None:
        """What a turn of the wheel makes of a height in pixels, with Ctrl; without it the view is
        scrolled."""
        delta = event.angleDelta().y()
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return round(height * (_STEP if delta > 0 else 1 / _STEP))
        bar = self.verticalScrollBar()
        bar.setValue(bar.value() - delta)
        return None
