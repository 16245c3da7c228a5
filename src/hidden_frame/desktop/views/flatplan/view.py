"""The flatplan's widget: pages to look at, select, open, drag about and find."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QShowEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QAbstractScrollArea

from hidden_frame.checks.findings import findings_by_page
from hidden_frame.compose.facts import describe
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.flatplan.layout import (
    FlatplanLayout,
    Tile,
    fitting_height,
    flatplan_layout,
)
from hidden_frame.desktop.views.flatplan.live import LivePages
from hidden_frame.desktop.views.flatplan.paint import FlatplanSeen, paint_flatplan
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.space import Gap, SectionHead
from hidden_frame.desktop.views.pages.view import PageView
from hidden_frame.desktop.views.run.thumbnails import Thumbnails
from hidden_frame.interact.finds.plan import masters_in_words, matching, numbering_in_words
from hidden_frame.model.lookup import all_pages, find_page, masters_by_id, stack_of

SMALL, LARGE = 10, 460  # heights of a thumbnail in pixels
FIRST = (72, 140)  # of what is seen first
PREFIX = "flatplan "
EDGE = 34  # pixels at head and foot in which a drag scrolls
FOLD = 36  # pixels of a head in which its mark stands


class FlatplanView(PageView):
    """All pages by section; `zoomed` tells their height, `found` how many a word means."""

    zoomed = Signal(int)
    found = Signal(int)

    def __init__(self, session: Session, thumbnails: Thumbnails) -> None:
        super().__init__()
        self.session = session
        self.live = LivePages(session, thumbnails, PREFIX)
        self.page_height = 120
        self._sized = False
        self.single = False
        self.folded: frozenset[str] = frozenset()
        self.wanted = ""
        self.focus_page = ""
        self.ringed: frozenset[str] = frozenset()
        self.doubtful: dict[str, list[str]] = {}
        self.matching: frozenset[str] | None = None
        self._chosen: tuple[tuple[str, ...], frozenset[str]] = ((), frozenset())
        self.hand = PageHand(self, self)
        self.setFrameShape(QAbstractScrollArea.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.viewport().setMouseTracking(True)
        self.setAcceptDrops(True)
        self.setAccessibleName("Flatplan")
        thumbnails.arrived.connect(self._arrived)
        self._later = QTimer(self)  # what is doubtful is found out once nothing moves
        self._later.setSingleShot(True)
        self._later.setInterval(250)
        self._later.timeout.connect(self._judge)
        session.changed.connect(self._changed)
        session.looked.connect(self._looked)

    # -- layout ------------------------------------------------------------------

    def layout_now(self) -> FlatplanLayout:
        return flatplan_layout(
            self.session.publication, self.page_height, self.viewport().width(), self.folded,
            self.single,
        )  # fmt: skip

    def to_plan(self, point: QPointF) -> QPointF:
        """A viewport's point on the flatplan."""
        return point + QPointF(self.horizontalScrollBar().value(), self.verticalScrollBar().value())

    def rect_of(self, page_id: str) -> QRectF:
        """A page's thumbnail in viewport coordinates."""
        tile = self.layout_now().of(page_id)
        if tile is None:
            return QRectF()
        at = QPointF(tile.x, tile.y) - self.to_plan(QPointF())
        return QRectF(at.x(), at.y(), *self.layout_now().page)

    def chosen(self) -> frozenset[str]:
        """The selected pages, quick to ask."""
        if self._chosen[0] is not self.session.pages:
            self._chosen = (self.session.pages, frozenset(self.session.pages))
        return self._chosen[1]

    def _changed(self) -> None:
        if self.isVisible():
            self.refresh()
            self._later.start()

    def _looked(self) -> None:
        """The focus goes with the page that the selection leads with; it is brought into view
        where pages were put in, or were selected from elsewhere, out of sight."""
        if self.isVisible():
            lead = self.session.page_id
            if self.session.pages and lead != self.focus_page:
                self.focus_page = lead
                if not self._in_sight(lead):
                    self.bring_into_view(lead)
            self.viewport().update()

    def _in_sight(self, page_id: str) -> bool:
        """Whether any of a page can be seen."""
        tile, top = self.layout_now().of(page_id), self.verticalScrollBar().value()
        seen = top + self.viewport().height()
        return tile is None or (top < tile.y + self.layout_now().page[1] and tile.y < seen)

    def refresh(self) -> None:
        """Takes up what changed."""
        layout, view = self.layout_now(), self.viewport().size()
        for bar, whole, seen in (
            (self.horizontalScrollBar(), layout.width, view.width()),
            (self.verticalScrollBar(), layout.height, view.height()),
        ):
            bar.setRange(0, max(round(whole) - seen, 0))
            bar.setPageStep(seen)
            bar.setSingleStep(40)
        if self.wanted:
            self._match()
        self._look()
        self.viewport().update()

    def _look(self) -> None:
        """Asks for the pages in sight."""
        layout, top = self.layout_now(), self.verticalScrollBar().value()
        seen = layout.tiles_within(top, top + self.viewport().height())
        self.live.look_at(
            [t.facts.page_id for t in seen], round(layout.page[0]), self.devicePixelRatioF()
        )

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        self.live.hurry()
        if self.hand.words or self.hand.band is not None:
            self.viewport().update()
        else:
            self.viewport().scroll(dx, dy)
        self._look()

    def _arrived(self, keys: list[str]) -> None:
        if not self.isVisible():
            return
        mine = {k.removeprefix(PREFIX) for k in keys if k.startswith(PREFIX)}
        if not mine:
            return
        layout, top = self.layout_now(), self.verticalScrollBar().value()
        left = self.horizontalScrollBar().value()
        for tile in layout.tiles_within(top, top + self.viewport().height()):
            if tile.facts.page_id in mine:
                rect = QRectF(tile.x - left, tile.y - top, *layout.page)
                self.viewport().update(rect.adjusted(-4, -4, 4, 4).toAlignedRect())

    def _judge(self) -> None:
        if self.isVisible() and not self.session.busy:
            self.doubtful = findings_by_page(self.session.publication)
            self.viewport().update()

    # -- words and marks -----------------------------------------------------------

    def ring(self, master_id: str | None) -> None:
        """Rings the pages that follow a master."""
        found = self.session.composition.followers(master_id) if master_id else []
        ringed = frozenset(found)
        if ringed != self.ringed:
            self.ringed = ringed
            self.viewport().update()

    def search(self, text: str) -> None:
        """Fades the pages that a word does not mean, and shows the first that it does."""
        self.wanted = text.strip()
        self._match()
        self.next_match(first=True)
        self.refresh()

    def _match(self) -> None:
        self.matching = None
        if self.wanted:
            self.matching = frozenset(matching(self.session.publication, self.wanted))
        self.found.emit(-1 if self.matching is None else len(self.matching))

    def next_match(self, first: bool = False) -> None:
        """Goes to the next page that is searched for."""
        order = [p.id for p in all_pages(self.session.publication) if p.id in
                 (self.matching or ())]  # fmt: skip
        if not order:
            return
        at = order.index(self.focus_page) + 1 if self.focus_page in order and not first else 0
        self.focus_page = order[at % len(order)]
        self.bring_into_view(self.focus_page)

    # -- what is done -----------------------------------------------------------------

    def zoom_to(self, height: int) -> None:
        """Thumbnails of this height in pixels; the same page stays at the head."""
        height = max(SMALL, min(height, LARGE))
        if height == self.page_height:
            return
        top = self.verticalScrollBar().value()
        seen = self.layout_now().tiles_within(top, top + self.viewport().height())
        self.page_height = height
        self.refresh()
        if seen and top:
            tile = self.layout_now().of(seen[0].facts.page_id)
            if tile is not None:
                self.verticalScrollBar().setValue(round(tile.y - 50))
        self.zoomed.emit(height)

    def fit_all(self, bounds: tuple[int, int] = (SMALL, LARGE)) -> None:
        """The whole publication in sight, as large as that can be within bounds (pixels)."""
        port = self.viewport().size()
        self.zoom_to(
            fitting_height(
                self.session.publication,
                port.width(),
                port.height(),
                self.folded,
                self.single,
                *bounds,
            )
        )
        self.verticalScrollBar().setValue(0)

    def set_single(self, single: bool) -> None:
        """Pages one by one, or as spreads."""
        self.single = single
        self.refresh()

    def fold(self, section_id: str) -> None:
        """Hides a section's pages, or shows them again."""
        self.folded ^= {section_id}
        self.refresh()

    # -- the pages as a hand asks for them (`PageSpace`) ---------------------------------

    def _tile_at(self, point: QPointF) -> Tile | None:
        at = self.to_plan(point)
        return self.layout_now().at(at.x(), at.y())

    def page_at(self, point: QPointF) -> str | None:
        tile = self._tile_at(point)
        return tile.facts.page_id if tile is not None else None

    def head_at(self, point: QPointF) -> SectionHead | None:
        at = self.to_plan(point)
        band = self.layout_now().band_at(at.x(), at.y())
        return SectionHead(band.section_id, at.x() - band.x < FOLD) if band is not None else None

    def within_at(self, point: QPointF) -> float:
        tile = self._tile_at(point)
        if tile is None:
            return 0.0
        across = self.to_plan(point).x() - tile.x
        return min(across, self.layout_now().page[0] - across)

    def gap_at(self, point: QPointF) -> Gap | None:
        at = self.to_plan(point)
        return self.layout_now().gap_at(at.x(), at.y())

    def section_gap_at(self, point: QPointF) -> Gap | None:
        at = self.to_plan(point)
        return self.layout_now().section_gap(at.x(), at.y())

    def touched(self, box: QRectF) -> list[str]:
        found = self.layout_now().fitting(box.left(), box.top(), box.right(), box.bottom())
        return [t.facts.page_id for t in found]

    def scroll_towards(self, point: QPointF) -> bool:
        high, bar = self.viewport().height(), self.verticalScrollBar()
        by = -24 if point.y() < EDGE else 24 if point.y() > high - EDGE else 0
        bar.setValue(bar.value() + by)
        return bool(by)

    def bring_into_view(self, page_id: str) -> None:
        tile = self.layout_now().of(page_id)
        if tile is None:
            return
        bar, high = self.verticalScrollBar(), self.viewport().height()
        if tile.y - 44 < bar.value():
            bar.setValue(round(tile.y - 44))
            return
        foot = tile.y + self.layout_now().page[1] + self.layout_now().foot
        if foot > bar.value() + high:
            bar.setValue(round(foot + 10 - high))

    def open(self, page_id: str) -> None:
        """Lays a page on the desk, from which Escape comes back here."""
        self.session.open_from_flatplan(page_id)

    # -- events -----------------------------------------------------------------------

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        page_id = self.page_at(event.position())
        if page_id is not None:
            self.hand.end()
            self.open(page_id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if key == Qt.Key.Key_Escape:
            if not self.hand.cancel() and self.session.pages:
                self.session.select_pages(())
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            page = self.focus_page or (self.session.pages or (self.session.page_id,))[0]
            if page in self.session.composition.facts:
                self.open(page)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._step(Qt.Key(key), event.modifiers())
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self._leap(Qt.Key(key), event.modifiers())
        elif key == Qt.Key.Key_Space and self.focus_page:
            self.hand.choose(self.focus_page, Qt.KeyboardModifier.ControlModifier)
        else:
            super().keyPressEvent(event)

    def _leap(self, key: Qt.Key, keys: Qt.KeyboardModifier) -> None:
        """To the first or the last page, or as many rows on as are seen at once."""
        layout = self.layout_now()
        here = layout.of(self.focus_page) or layout.of(self.session.page_id)
        if not layout.tiles or here is None:
            return
        if key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            new = layout.tiles[0 if key == Qt.Key.Key_Home else -1]
        else:
            down = key == Qt.Key.Key_PageDown
            y = here.y + self.viewport().height() * (0.9 if down else -0.9)
            near = min((t.y for t in layout.tiles), key=lambda each: abs(each - y))
            new = min((t for t in layout.tiles if t.y == near), key=lambda t: abs(t.x - here.x))
        self.hand.choose(new.facts.page_id, keys & Qt.KeyboardModifier.ShiftModifier)
        self.bring_into_view(new.facts.page_id)

    def _step(self, key: Qt.Key, keys: Qt.KeyboardModifier) -> None:
        """The page beside, above or below; with Shift the selection goes along."""
        layout = self.layout_now()
        here = layout.of(self.focus_page) or layout.of(self.session.page_id)
        if here is None or not layout.tiles:
            return
        at = layout.tiles.index(here)
        forward = Qt.Key.Key_Right if layout.rightward else Qt.Key.Key_Left
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            new = layout.tiles[max(0, min(at + (1 if key == forward else -1),
                                          len(layout.tiles) - 1))]  # fmt: skip
        else:
            down = key == Qt.Key.Key_Down
            heights = sorted({t.y for t in layout.tiles})
            row = heights.index(here.y) + (1 if down else -1)
            y = heights[max(0, min(row, len(heights) - 1))]
            new = min((t for t in layout.tiles if t.y == y), key=lambda t: abs(t.x - here.x))
        if keys & Qt.KeyboardModifier.ControlModifier:
            self.focus_page = new.facts.page_id  # Space then takes it in
            self.viewport().update()
        else:
            self.focus_page = new.facts.page_id
            self.hand.choose(new.facts.page_id, keys)
        self.bring_into_view(new.facts.page_id)

    def paint(self, painter: QPainter, event: QPaintEvent) -> None:
        paint_flatplan(painter, self._shown(), event.region())

    def _shown(self) -> FlatplanSeen:
        return FlatplanSeen(
            publication=self.session.publication,
            layout=self.layout_now(),
            port=self.viewport().rect(),
            scrolled=self.to_plan(QPointF()).toPoint(),
            font=self.font(),
            pixmap=self.live.pixmap,
            chosen=self.chosen(),
            section_id=self.session.section_id,
            on_desk=self.session.page_id,
            focus=self.focus_page if self.hasFocus() else "",
            ringed=self.ringed,
            matching=self.matching,
            doubtful=self.doubtful,
            hand=self.hand,
        )

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not self._sized:  # what one sees first: as much as can be made out
            self._sized = True
            self.fit_all(FIRST)
        self.refresh()
        self._later.start()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if (height := self.turned(event, self.page_height)) is not None:
            self.zoom_to(height)

    def tip_at(self, point: QPointF) -> str:
        page_id, head = self.page_at(point), self.head_at(point)
        if head is None:
            return self.tip(page_id) if page_id is not None else ""
        publication = self.session.publication
        number = [s.id for s in publication.sections].index(head.section_id)
        return "\n".join((
            publication.sections[number].name or "Without a name",
            numbering_in_words(publication, number),
            masters_in_words(publication, number),
        ))  # fmt: skip

    def tip(self, page_id: str) -> str:
        """What is known of a page, in words."""
        publication = self.session.publication
        page = find_page(publication, page_id)
        names = [masters_by_id(publication)[m].name for m in stack_of(publication, page)]
        lines = [describe(self.session.composition.facts[page_id], page),
                 "Follows " + (" + ".join(names) or "no master")]  # fmt: skip
        if page.held is not None:
            lines.append(f"Locked at position {page.held}")
        if page.tie is not None:
            lines.append("Kept with the page that faces it")
        if page.overrides:
            lines.append(f"Overrides {len(page.overrides)} of its masters' items (ochre diamond)")
        if page.items:
            lines.append(f"{len(page.items)} items of its own (green corner)")
        if page.blind:
            lines.append("Blind folio (ring crossed out)")
        return "\n".join(lines + self.doubtful.get(page_id, []))
