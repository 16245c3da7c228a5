"""The board's widgets: cards to look at, choose, open, drag onto each other and onto the Run."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QEvent, QMimeData, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QDrag,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QShowEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea, QApplication

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.board.layout import BoardLayout, Card, board_layout
from hidden_frame.desktop.views.board.paint import BoardSeen, fold_rect, matches, paint_board
from hidden_frame.desktop.views.pages.drops import MASTER_MIME, carried
from hidden_frame.desktop.views.pages.overview import Overview
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.edit.masters.apply import set_base
from hidden_frame.interact.words.drops import BaseDrop, on_board
from hidden_frame.interact.words.told import followers_in_words
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import masters_by_id

SMALL, LARGE = 56, 300  # heights of a thumbnail in pixels


class BoardView(Overview):
    """`pointed`: the pointer is over a master, or over none; `menu_wanted`: of a master;
    `delete_wanted`: by key."""

    pointed = Signal(object)
    menu_wanted = Signal(str, QPoint)
    delete_wanted = Signal(str)
    zoomed = Signal(int)

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.thumbnails = thumbnails
        self.face_height = 96
        self.folded: frozenset[str] = frozenset()
        self.wanted = ""  # what is searched for
        self.drop = BaseDrop()
        self.pointer = QPointF()
        self._pressed: QPointF | None = None
        self._known: tuple[object, BoardLayout] | None = None
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)
        self.viewport().setMouseTracking(True)
        self.setAccessibleName("Masters board")
        thumbnails.arrived.connect(self._arrived)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)

    # -- layout ------------------------------------------------------------------

    def layout_now(self) -> BoardLayout:
        publication = self.session.publication
        family = [(m.id, m.base) for m in publication.masters]
        wide = self.viewport().width()
        key = (family, publication.setup, self.face_height, wide, self.folded)
        if self._known is None or self._known[0] != key:
            layout = board_layout(publication, self.face_height, wide, self.folded)
            self._known = (key, layout)
        return self._known[1]

    def offset(self) -> QPointF:
        return QPointF(self.horizontalScrollBar().value(), self.verticalScrollBar().value())

    def refresh(self) -> None:
        """Takes up what changed; nothing while the board is not seen."""
        if not self.isVisible():
            return
        layout = self.layout_now()
        view = self.viewport().size()
        for bar, whole, seen in (
            (self.horizontalScrollBar(), layout.width, view.width()),
            (self.verticalScrollBar(), layout.height, view.height()),
        ):
            bar.setRange(0, max(round(whole) - seen, 0))
            bar.setPageStep(seen)
            bar.setSingleStep(40)
        self.viewport().update()

    def rect_of(self, master_id: str) -> QRectF:
        """A master's card in viewport coordinates."""
        card = self.layout_now().of(master_id)
        if card is None:
            return QRectF()
        return QRectF(card.x, card.y, *self.layout_now().card).translated(-self.offset())

    def _arrived(self, keys: list[str]) -> None:
        if not self.isVisible():
            return
        for key in keys:
            rect = self.rect_of(key.partition(" ")[0])
            if not rect.isNull():
                self.viewport().update(rect.toAlignedRect())

    # -- what is shown -----------------------------------------------------------

    def search(self, text: str) -> None:
        """Fades masters whose name does not hold a text; unfolds and shows the first that does."""
        self.wanted = text.strip()
        if self.wanted:
            found = [
                m
                for m in self.session.publication.masters
                if matches(self.session.publication, m.id, self.wanted)
            ]
            if found:
                self.folded = frozenset()
                self.bring_into_view(found[0].id)
        self.refresh()

    def first_match(self) -> str | None:
        masters = self.session.publication.masters
        return next(
            (
                m.id
                for m in masters
                if self.wanted and matches(self.session.publication, m.id, self.wanted)
            ),
            None,
        )

    def zoom_to(self, height: int) -> None:
        """Thumbnails of this height, in pixels."""
        height = max(SMALL, min(height, LARGE))
        if height != self.face_height:
            self.face_height = height
            self.refresh()
            self.zoomed.emit(height)

    def fold(self, master_id: str) -> None:
        """Hides what builds on a master, or shows it again."""
        self.folded ^= {master_id}
        self.refresh()

    def fold_all(self, folded: bool) -> None:
        """Every base folded, or none."""
        bases = {m.base for m in self.session.publication.masters if m.base is not None}
        self.folded = frozenset(bases) if folded else frozenset()
        self.refresh()

    def bring_into_view(self, master_id: str) -> None:
        rect = self.rect_of(master_id)
        view = self.viewport().rect()
        for bar, low, high, end in (
            (self.horizontalScrollBar(), rect.left(), rect.right(), view.width()),
            (self.verticalScrollBar(), rect.top(), rect.bottom(), view.height()),
        ):
            if low < 10:
                bar.setValue(round(bar.value() + low - 10))
            elif high > end - 10:
                bar.setValue(round(bar.value() + high - end + 10))

    # -- mouse and keys ----------------------------------------------------------

    def _card_at(self, point: QPointF) -> Card | None:
        at = point + self.offset()
        return self.layout_now().at(at.x(), at.y())

    def _fold_at(self, point: QPointF) -> Card | None:
        at = point + self.offset()
        layout = self.layout_now()
        for card in layout.cards:
            if card.foldable and fold_rect(layout, card).adjusted(-3, -3, 3, 3).contains(at):
                return card
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        folds = self._fold_at(event.position())
        if folds is not None and event.button() == Qt.MouseButton.LeftButton:
            self.fold(folds.master_id)
            return
        card = self._card_at(event.position())
        if card is None:
            return
        self.session.show_master(card.master_id)
        if event.button() == Qt.MouseButton.RightButton:
            self.menu_wanted.emit(card.master_id, event.globalPosition().toPoint())
        else:
            self._pressed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None:
            card = self._card_at(event.position())
            self.pointed.emit(card.master_id if card is not None else None)
            over = self._fold_at(event.position()) is not None
            self.setCursor(
                Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor
            )
            return
        far = (event.position() - self._pressed).manhattanLength()
        if far >= QApplication.startDragDistance():
            self._pressed = None
            self._drag(self.session.master_id)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._pressed = None

    def _drag(self, master_id: str) -> None:
        """Carries a master onto another, or out of the board onto the Run."""
        drag = QDrag(self)
        data = QMimeData()
        data.setData(MASTER_MIME, QByteArray(master_id.encode()))
        drag.setMimeData(data)
        drag.setPixmap(self._picture(master_id))
        drag.exec(Qt.DropAction.CopyAction | Qt.DropAction.MoveAction)

    def _picture(self, master_id: str) -> QPixmap:
        scene = self.session.composition.master_scene(master_id, "recto")
        return self.thumbnails.render(scene, 60, self.devicePixelRatioF())

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        card = self._card_at(event.position())
        if card is not None and self._fold_at(event.position()) is None:
            self._pressed = None
            self.open(card.master_id)

    def open(self, master_id: str) -> None:
        """Lays a master on the desk, which takes the board's place."""
        self.session.show_desk()
        self.session.show_master(master_id)

    def leaveEvent(self, event: QEvent) -> None:
        self.pointed.emit(None)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, master_id = event.key(), self.session.master_id
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.open(master_id)
        elif key == Qt.Key.Key_Escape:
            self.session.show_desk()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            self.delete_wanted.emit(master_id)
        elif key == Qt.Key.Key_Space:
            self.fold(master_id)
        elif key in _DIRECTIONS:
            self._step(*_DIRECTIONS[Qt.Key(key)])
        else:
            super().keyPressEvent(event)

    def _step(self, dx: int, dy: int) -> None:
        """Chooses the nearest card in a direction."""
        layout = self.layout_now()
        here = layout.of(self.session.master_id)
        if here is None:
            nearest = layout.cards[0] if layout.cards else None
        else:
            found = []
            for card in layout.cards:
                along = (card.x - here.x) * dx + (card.y - here.y) * dy
                across = abs((card.x - here.x) * dy) + abs((card.y - here.y) * dx)
                if along > 1:
                    found.append((along + 2 * across, card.y, card.x, card))
            nearest = min(found)[3] if found else None
        if nearest is not None:
            self.session.show_master(nearest.master_id)
            self.bring_into_view(nearest.master_id)

    def paint(self, painter: QPainter, event: QPaintEvent) -> None:
        paint_board(painter, self._shown(), event.rect())

    def _shown(self) -> BoardSeen:
        layout, ratio = self.layout_now(), self.devicePixelRatioF()
        composition = self.session.composition

        def pixmap(master_id: str, side: Side) -> QPixmap | None:
            scene = composition.master_scene(master_id, side)
            key = f"{master_id} {side}"
            return self.thumbnails.pixmap(key, scene, round(layout.face[0]), ratio)

        return BoardSeen(
            publication=self.session.publication,
            layout=layout,
            port=self.viewport().rect(),
            scrolled=self.offset(),
            font=self.font(),
            pixmap=pixmap,
            chosen=self.session.master_id,
            wanted=self.wanted,
            drop=self.drop,
            pointer=self.pointer,
        )

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.refresh()
        if self.session.master_id:
            self.bring_into_view(self.session.master_id)

    def wheelEvent(self, event: QWheelEvent) -> None:
        if (height := self.turned(event, self.face_height)) is not None:
            self.zoom_to(height)
            return
        side = self.horizontalScrollBar()
        side.setValue(side.value() - event.angleDelta().x())

    def tip_at(self, point: QPointF) -> str:
        card = self._card_at(point)
        if card is None:
            return ""
        publication = self.session.publication
        known = masters_by_id(publication)
        master = known[card.master_id]
        on = f", on {known[master.base].name}" if master.base is not None else ""
        departs = len(master.overrides)
        more = f"\nDiffers from its base in {departs} items" if departs else ""
        return f"{master.name}{on}\n{followers_in_words(publication, master.id)}{more}"

    # -- a master dropped on another ------------------------------------------------

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        master_id = carried(event)[0]
        card = self._card_at(event.position())
        target = card.master_id if card is not None else None
        self.pointer = event.position()
        self.drop = on_board(self.session.publication, master_id, target)
        event.setAccepted(self.drop.allowed and bool(self.drop.words))
        self.viewport().update()

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self._end_drop()

    def _end_drop(self) -> None:
        self.drop = BaseDrop()
        self.viewport().update()

    def dropEvent(self, event: QDropEvent) -> None:
        master_id = carried(event)[0]
        card = self._card_at(event.position())
        target = card.master_id if card is not None else None
        told = on_board(self.session.publication, master_id, target)
        self._end_drop()
        if told.words and told.allowed:
            self.session.edit("change base", lambda p: set_base(p, master_id, target))
            event.acceptProposedAction()


_DIRECTIONS = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
}  # fmt: skip
