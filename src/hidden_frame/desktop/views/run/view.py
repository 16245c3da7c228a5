"""The Run's widget: thumbnails to look at, select, drag about and drop masters on."""

from __future__ import annotations

import time

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QWheelEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea

from hidden_frame.compose.facts import describe
from hidden_frame.compose.followers import followers
from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.space import Gap, SectionHead
from hidden_frame.desktop.views.pages.view import PageView
from hidden_frame.desktop.views.run.layout import TOP, Cell, RunLayout, run_layout
from hidden_frame.desktop.views.run.paint import RunSeen, paint_run
from hidden_frame.desktop.views.run.thumbnails import BUSY, SLICE, Thumbnails
from hidden_frame.edit.pages.order import place_of
from hidden_frame.model.lookup import all_pages, find_page, masters_by_id, positions, stack_of

_STEPS = {
    Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_PageUp: -10, Qt.Key.Key_PageDown: 10,
    Qt.Key.Key_Home: -10**6, Qt.Key.Key_End: 10**6,
}  # fmt: skip


class RunView(PageView):
    """The spreads in a row; the page on the desk is kept in view."""

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.thumbnails = thumbnails
        self._ringed: str | None = None
        self.hand = PageHand(self, self)
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        # Always there: as it came, pages would shrink, and it would not be needed any more.
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)
        self.setMinimumHeight(120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)
        self.viewport().setMouseTracking(True)
        self.setAccessibleName("Run")
        self._scenes: dict[str, Scene] = {}  # what is painted while a hand is at work
        self._seen: tuple[object, ...] = ()
        self._behind: list[str] = []  # pages in sight that are still to be composed then
        thumbnails.arrived.connect(self._arrived)
        # The desk is painted first: thumbnails may come a moment later.
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(20)
        self._later.timeout.connect(self.refresh)
        self._more = QTimer(self)  # paints what a painting had no time for
        self._more.setSingleShot(True)
        self._more.setInterval(0)
        self._more.timeout.connect(self.viewport().update)
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

    def refresh(self) -> None:
        self.thumbnails.slice = BUSY if self.session.busy else SLICE
        bar = self.horizontalScrollBar()
        bar.setRange(0, max(round(self.layout_now().width) - self.viewport().width(), 0))
        bar.setPageStep(self.viewport().width())
        bar.setSingleStep(60)
        if self.session.busy:
            self._keep_up()
            self._follow()  # the caret may have gone on to another page
            return
        self._behind = []
        self._scenes.clear()
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
        """Brings the page on the desk into view; an item that is selected changes nothing here."""
        session = self.session
        seen = (session.page_id, session.pages, session.mode, session.master_id, session.pane)
        if self._later.isActive() or seen == self._seen:
            return
        self._seen = seen
        self._bring_into_view()

    def _bring_into_view(self) -> None:
        if self.session.mode == "pages" or self.session.pages:
            self.bring_into_view(self.session.page_id)
        self.viewport().update()

    def cell_of(self, page_id: str) -> Cell | None:
        position = positions(self.session.publication).get(page_id)
        return self.layout_now().cells[position - 1] if position is not None else None

    def rect_of(self, page_id: str) -> QRectF:
        """A page's thumbnail in viewport coordinates."""
        cell = self.cell_of(page_id)
        if cell is None:
            return QRectF()
        layout = self.layout_now()
        left = layout.left_of(cell) - self.horizontalScrollBar().value()
        return QRectF(left, TOP, cell.width, layout.height)

    def finish(self) -> None:
        """Paints all that is in sight at once, for a picture of it."""
        if self._later.isActive():
            self._later.stop()
            self.refresh()
        self.viewport().repaint()
        while self._more.isActive():
            self._more.stop()
            self.viewport().repaint()
        self.thumbnails.finish()

    # -- painting ----------------------------------------------------------------

    def paint(self, painter: QPainter, event: QPaintEvent) -> None:
        paint_run(painter, self._shown(), event.region())

    def _shown(self) -> RunSeen:
        session, layout = self.session, self.layout_now()
        ratio = self.devicePixelRatioF()
        width = round(layout.cells[0].width) if layout.cells else 1
        composer, until = session.composer, time.perf_counter() + SLICE
        composed = composer.composed

        def pixmap(page_id: str) -> QPixmap | None:
            """A page is composed for it, which takes a while where it never was: what there is no
            time for comes a moment later, and all when a change is still to be followed: the desk
            is painted first."""
            if self._later.isActive():
                return self.thumbnails.kept(page_id)
            if composer.composed > composed and time.perf_counter() > until:
                self._more.start()
                return self.thumbnails.kept(page_id)
            return self.thumbnails.pixmap(page_id, self.scene(page_id), width, ratio)

        return RunSeen(
            publication=session.publication,
            layout=layout,
            port=self.viewport().rect(),
            scrolled=self.horizontalScrollBar().value(),
            font=self.font(),
            pixmap=pixmap,
            chosen=session.pages,
            section_id=session.section_id,
            on_desk=session.page_id if session.mode == "pages" else "",
            ringed=self.ringed_pages(),
            hand=self.hand,
        )

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

    # -- the pages as a hand asks for them (`PageSpace`) ---------------------------------

    def to_plan(self, point: QPointF) -> QPointF:
        return point + QPointF(self.horizontalScrollBar().value(), 0)

    def _cell_at(self, point: QPointF) -> Cell | None:
        return self.layout_now().at(self.to_plan(point).x()) if point.y() >= TOP - 4 else None

    def page_at(self, point: QPointF) -> str | None:
        cell = self._cell_at(point)
        return cell.facts.page_id if cell is not None else None

    def head_at(self, point: QPointF) -> SectionHead | None:
        if point.y() >= TOP - 4:
            return None
        section = self.layout_now().section_at(self.to_plan(point).x())
        return SectionHead(section, False) if section is not None else None

    def within_at(self, point: QPointF) -> float:
        cell, layout = self._cell_at(point), self.layout_now()
        if cell is None:
            return 0.0
        across = self.to_plan(point).x() - layout.left_of(cell)
        return min(across, cell.width - across)

    def gap_at(self, point: QPointF) -> Gap | None:
        layout, pages = self.layout_now(), all_pages(self.session.publication)
        index, left = layout.gap_at(self.to_plan(point).x())
        # The page beside the gap whose section the gap belongs to (R20).
        before = index > 0 and (left or index == len(pages))
        section, place = place_of(
            self.session.publication, pages[index - 1 if before else index].id, after=before
        )
        return Gap(section, place, layout.gap_x(index, left), TOP, TOP + layout.height)

    def section_gap_at(self, point: QPointF) -> Gap | None:
        """The gap between two sections nearest to the pointer."""
        layout = self.layout_now()
        x, before = layout.section_gap(self.to_plan(point).x())
        return Gap(before, 0, x, TOP - 22, TOP + layout.height)

    def touched(self, box: QRectF) -> list[str]:
        return [c.facts.page_id for c in self.layout_now().within(box.left(), box.right())]

    def fold(self, section_id: str) -> None:
        """Nothing is folded here."""

    def bring_into_view(self, page_id: str) -> None:
        cell = self.cell_of(page_id)
        if cell is None:
            return
        bar = self.horizontalScrollBar()
        left, right = bar.value(), bar.value() + self.viewport().width()
        x = self.layout_now().left_of(cell)
        if x < left + 20:
            bar.setValue(round(x - 60))
        elif x + cell.width > right - 20:
            bar.setValue(round(x + cell.width + 60 - self.viewport().width()))

    def scroll_towards(self, point: QPointF) -> bool:
        bar, wide = self.horizontalScrollBar(), self.viewport().width()
        by = -24 if point.x() < 30 else 24 if point.x() > wide - 30 else 0
        bar.setValue(bar.value() + by)
        return bool(by)

    # -- mouse and keys ----------------------------------------------------------

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        page_id = self.page_at(event.position())
        if page_id is not None:
            self.hand.end()
            self.session.show_page(page_id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        session, key = self.session, event.key()
        order = [p.id for p in all_pages(session.publication)]
        if key == Qt.Key.Key_Escape:
            if not self.hand.cancel():
                session.select_pages(())
        elif key in _STEPS:
            at = order.index(session.page_id)
            step = _STEPS[Qt.Key(key)]
            if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and self.layout_now().leftward:
                step = -step
            to = max(0, min(at + step, len(order) - 1))
            self.hand.choose(order[to], event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            session.show_page(session.page_id)
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        delta = event.angleDelta()
        bar = self.horizontalScrollBar()
        bar.setValue(bar.value() - (delta.y() or delta.x()))

    def tip_at(self, point: QPointF) -> str:
        cell = self._cell_at(point)
        if cell is None:
            return ""
        publication = self.session.publication
        page = find_page(publication, cell.facts.page_id)
        names = [masters_by_id(publication)[m].name for m in stack_of(publication, page)]
        how = "follows" if page.masters is None else "by hand:"
        follows = " + ".join(names) or "no master"
        return f"{describe(cell.facts, page)}\n{how} {follows}"
