"""The Run's widget: thumbnails to look at, select, drag about and drop masters on."""

from __future__ import annotations

import time

from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QDragEnterEvent,
    QDragLeaveEvent,
    QDragMoveEvent,
    QDropEvent,
    QHelpEvent,
    QKeyEvent,
    QMouseEvent,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea, QApplication, QToolTip

from hidden_frame.compose.composer import followers
from hidden_frame.compose.facts import describe
from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.actions.order import order_pages
from hidden_frame.desktop.run.drops import (
    MASTER_MIME,
    MasterDrop,
    carried,
    carry_out,
    foretell,
)
from hidden_frame.desktop.run.layout import TOP, Cell, RunLayout, run_layout
from hidden_frame.desktop.run.paint import paint_run
from hidden_frame.desktop.run.thumbnails import BUSY, SLICE, Thumbnails
from hidden_frame.desktop.session import Session
from hidden_frame.edit.pages import move_pages
from hidden_frame.model.lookup import (
    all_pages,
    find_page,
    masters_by_id,
    section_of,
    stack_of,
)


class Run(QAbstractScrollArea):
    """`menu_wanted`: a page's menu at a global point."""

    menu_wanted = Signal(QPoint)

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.thumbnails = thumbnails
        self._pressed: QPointF | None = None
        self._press_cell: Cell | None = None
        self._dragging = False
        self.drop: tuple[int, bool] | None = None
        self._ringed: str | None = None
        self.master_drop: MasterDrop | None = None
        self.pointer = QPointF()
        self._anchor = ""
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMinimumHeight(120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)
        self.viewport().setMouseTracking(True)
        self.setAccessibleName("Run")
        self._scenes: dict[str, Scene] = {}  # what is painted while a hand is at work
        self._behind: list[str] = []  # pages in sight that are still to be composed then
        thumbnails.arrived.connect(self._arrived)
        # The desk is painted first: thumbnails may come a moment later.
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(20)
        self._later.timeout.connect(self._refresh)
        session.changed.connect(self._soon)
        session.looked.connect(self._follow)

    # -- layout ------------------------------------------------------------------

    def layout_now(self) -> RunLayout:
        return run_layout(self.session.publication, self.viewport().height())

    def _soon(self) -> None:
        """A little later; while a hand is at work, the pages in sight in turn; seldom while
        one writes, which changes one page with every key."""
        if not self._later.isActive():
            writing = self.session.editing is not None
            self._later.start(150 if writing else 30 if self.session.busy else 20)

    def _arrived(self, keys: list[str]) -> None:
        """Paints the pages again whose thumbnails have come."""
        for key in keys:
            self._repaint(key)

    def _repaint(self, page_id: str) -> None:
        rect = self.rect_of(page_id)
        if not rect.isNull():
            self.viewport().update(rect.adjusted(-4, -4, 4, 4).toAlignedRect())

    def _keep_up(self) -> None:
        """In the middle of a gesture or a text: the pages in sight that it has changed, a few
        at a time, so that the desk stays quick."""
        if not self._behind:
            layout = self.layout_now()
            left = self.horizontalScrollBar().value()
            seen = layout.within(left, left + self.viewport().width())
            self._behind = [c.facts.page_id for c in reversed(seen)]
        composition, until = self.session.composition, time.perf_counter() + BUSY
        width, ratio = round(self.layout_now().cells[0].width), self.devicePixelRatioF()
        while self._behind:
            page_id = self._behind.pop()
            now = composition.scene(page_id) if page_id in composition.facts else None
            if now is not None and self._scenes.get(page_id) is not now:
                self._scenes[page_id] = now
                # It is painted again once its thumbnail is there.
                self.thumbnails.pixmap(page_id, now, width, ratio)
            if time.perf_counter() > until:
                break
        if self._behind:
            self._later.start(0)

    def _refresh(self) -> None:
        self.thumbnails.slice = BUSY if self.session.busy else SLICE
        if self.session.busy:
            self._keep_up()
            return
        self._behind = []
        self._scenes.clear()
        layout = self.layout_now()
        bar = self.horizontalScrollBar()
        bar.setRange(0, max(round(layout.width) - self.viewport().width(), 0))
        bar.setPageStep(self.viewport().width())
        bar.setSingleStep(60)
        self._bring_into_view()

    def scene(self, page_id: str) -> Scene:
        """A page as the Run paints it: while a hand is at work, as it was a moment ago."""
        if not self.session.busy:
            return self.session.composition.scene(page_id)
        found = self._scenes.get(page_id)
        if found is None:
            found = self._scenes[page_id] = self.session.composition.scene(page_id)
        return found

    def _follow(self) -> None:
        """Brings the page on the desk into view."""
        if self._later.isActive():
            return
        self._bring_into_view()

    def _bring_into_view(self) -> None:
        if self.session.mode == "pages":
            cell = self.cell_of(self.session.page_id)
            if cell is not None:
                bar = self.horizontalScrollBar()
                left, right = bar.value(), bar.value() + self.viewport().width()
                x = self.layout_now().left_of(cell)
                if x < left + 20:
                    bar.setValue(round(x - 60))
                elif x + cell.width > right - 20:
                    bar.setValue(round(x + cell.width + 60 - self.viewport().width()))
        self.viewport().update()

    def cell_of(self, page_id: str) -> Cell | None:
        cells = self.layout_now().cells
        return next((c for c in cells if c.facts.page_id == page_id), None)

    def rect_of(self, page_id: str) -> QRectF:
        """A page's thumbnail in viewport coordinates."""
        cell = self.cell_of(page_id)
        if cell is None:
            return QRectF()
        return self.rect_of_cell(cell, self.layout_now())

    def rect_of_cell(self, cell: Cell, layout: RunLayout) -> QRectF:
        left = layout.left_of(cell) - self.horizontalScrollBar().value()
        return QRectF(left, TOP, cell.width, layout.height)

    # -- painting ----------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        paint_run(self, event.region())

    def ringed_pages(self) -> set[str]:
        """Pages that follow the master on the desk, or the one that is pointed at."""
        session = self.session
        wanted = self._ringed or (session.master_id if session.mode == "masters" else None)
        return set(followers(session.publication).get(wanted, [])) if wanted else set()

    def ring(self, master_id: str | None) -> None:
        """Rings the pages that follow a master."""
        if master_id != self._ringed:
            self._ringed = master_id
            self.viewport().update()

    def drop_words(self) -> str:
        """What the drop under the pointer would do: “Move 2 pages before 14, in Spring”."""
        if self.master_drop is not None:
            return self.master_drop.words
        if self.drop is None:
            return ""
        index, left_side = self.drop
        cells = self.layout_now().cells
        count = len(self.session.pages)
        what = "Move page" if count == 1 else f"Move {count} pages"
        if index < len(cells):
            facts = cells[index].facts
            where = f"before {facts.folio or f'#{facts.position}'}"
        else:
            where = "to the end"
        section = cells[index - 1 if left_side and index else min(index, len(cells) - 1)].facts
        return f"{what} {where}" + (f", in {section.section_name}" if section.section_name else "")

    # -- mouse and keys ----------------------------------------------------------

    def _cell_at(self, point: QPointF) -> Cell | None:
        return self.layout_now().at(point.x() + self.horizontalScrollBar().value())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        cell = self._cell_at(event.position())
        held = event.modifiers()
        if event.button() == Qt.MouseButton.RightButton:
            if cell is not None and cell.facts.page_id not in self.session.pages:
                self._choose(cell.facts.page_id, held)
            self.menu_wanted.emit(event.globalPosition().toPoint())
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._pressed, self._press_cell, self._dragging = event.position(), cell, False
        if cell is None:
            self.session.select_pages(())
        elif cell.facts.page_id not in self.session.pages or held:
            self._choose(cell.facts.page_id, held)

    def _choose(self, page_id: str, held: Qt.KeyboardModifier) -> None:
        """Selects a page: alone, added or taken away with Ctrl, up to it with Shift."""
        session = self.session
        order = [p.id for p in all_pages(session.publication)]
        if held & Qt.KeyboardModifier.ShiftModifier and self._anchor in order:
            a, b = sorted((order.index(self._anchor), order.index(page_id)))
            session.select_pages(tuple(order[a : b + 1]))
            return
        self._anchor = page_id
        if held & Qt.KeyboardModifier.ControlModifier:
            chosen = set(session.pages) ^ {page_id}
            session.select_pages(tuple(p for p in order if p in chosen))
            return
        session.pages = (page_id,)
        if session.mode == "pages":
            session.show_page(page_id)
        else:
            session.looked.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None or self._press_cell is None:
            return
        if not self._dragging:
            far = (event.position() - self._pressed).manhattanLength()
            if far < QApplication.startDragDistance() or not self.session.pages:
                return
            self._dragging = True
            self.setCursor(Qt.CursorShape.ClosedHandCursor)
        x = event.position().x()
        self._scroll_at(x)
        self.drop = self.layout_now().gap_at(x + self.horizontalScrollBar().value())
        self.viewport().update()

    def _scroll_at(self, x: float) -> None:
        """Scrolls while something is dragged near an end."""
        bar = self.horizontalScrollBar()
        if x < 30 or x > self.viewport().width() - 30:
            bar.setValue(bar.value() + (-24 if x < 30 else 24))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        cell, self._press_cell, self._pressed = self._press_cell, None, None
        drop, self.drop = self.drop, None
        self.unsetCursor()
        if self._dragging and drop is not None:
            self._dragging = False
            self._move_to(*drop)
        elif cell is not None and not event.modifiers() and len(self.session.pages) > 1:
            self._choose(cell.facts.page_id, event.modifiers())
        self.viewport().update()

    def _move_to(self, index: int, left_side: bool) -> None:
        session = self.session
        pages = all_pages(session.publication)
        joins_before = index > 0 and (left_side or index == len(pages))
        neighbour = pages[index - 1 if joins_before else index]
        section = section_of(session.publication, neighbour.id)
        at = next(n for n, p in enumerate(section.pages) if p.id == neighbour.id) + joins_before
        count = len(session.pages)
        name = "move page" if count == 1 else f"move {count} pages"
        moving = session.pages
        order_pages(session, name, lambda p: move_pages(p, moving, section.id, at), self)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        cell = self._cell_at(event.position())
        if cell is not None:
            self.session.show_page(cell.facts.page_id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        session = self.session
        key = event.key()
        if key == Qt.Key.Key_Escape:
            self.drop, self._pressed, self._press_cell = None, None, None
            self._dragging = False
            session.select_pages(())
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            order = [p.id for p in all_pages(session.publication)]
            forward = Qt.Key.Key_Left if self.layout_now().leftward else Qt.Key.Key_Right
            at = order.index(session.page_id) + (1 if key == forward else -1)
            if 0 <= at < len(order):
                held = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
                session.page_id = order[at]
                self._choose(order[at], held)
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        delta = event.angleDelta()
        bar = self.horizontalScrollBar()
        bar.setValue(bar.value() - (delta.y() or delta.x()))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._refresh()

    def viewportEvent(self, event: QEvent) -> bool:
        if isinstance(event, QHelpEvent):
            cell = self._cell_at(QPointF(event.pos()))
            if cell is not None:
                publication = self.session.publication
                page = find_page(publication, cell.facts.page_id)
                names = [masters_by_id(publication)[m].name for m in stack_of(publication, page)]
                how = "follows" if page.masters is None else "by hand:"
                follows = " + ".join(names) or "no master"
                text = f"{describe(cell.facts, page)}\n{how} {follows}"
                QToolTip.showText(event.globalPos(), text, self)
            return True
        return super().viewportEvent(event)

    # -- masters dropped on pages and between them -----------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasFormat(MASTER_MIME):
            event.acceptProposedAction()

    def dragMoveEvent(self, event: QDragMoveEvent) -> None:
        self._foretell(event)
        self._scroll_at(event.position().x())
        event.setAccepted(self.master_drop is not None)
        self.viewport().update()

    def _foretell(self, event: QDropEvent) -> None:
        master_id, adding = carried(event)
        x = event.position().x() + self.horizontalScrollBar().value()
        self.master_drop = foretell(self.session, self.layout_now(), master_id, x, adding)
        self.drop = None if self.master_drop is None else self.master_drop.gap
        self.pointer = event.position()

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.master_drop, self.drop = None, None
        self.viewport().update()

    def dropEvent(self, event: QDropEvent) -> None:
        self._foretell(event)
        drop, self.master_drop, self.drop = self.master_drop, None, None
        self.viewport().update()
        if drop is not None:
            carry_out(self.session, drop, self)
            event.acceptProposedAction()
