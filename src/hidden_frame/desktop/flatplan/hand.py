"""The hand on the flatplan: selecting, the rubber band, dragging pages and whole sections."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication

from hidden_frame.compose.foretold import Foretold, foretell, gap_in_words
from hidden_frame.desktop.actions.order import order_pages
from hidden_frame.desktop.flatplan.layout import Band, Gap, Tile
from hidden_frame.desktop.run.drops import EDGE as EDGE_SHARE
from hidden_frame.desktop.run.drops import MasterDrop, between, on_page
from hidden_frame.edit.pages import move_pages
from hidden_frame.edit.sections import move_section
from hidden_frame.model.lookup import positions
from hidden_frame.model.publication import Publication

if TYPE_CHECKING:
    from hidden_frame.desktop.flatplan.view import FlatplanView

EDGE = 34  # pixels at head and foot in which a drag scrolls
Held = Qt.KeyboardModifier


class FlatplanHand:
    """Told of press, move and release by the view; the rest is what is going on."""

    def __init__(self, view: FlatplanView) -> None:
        self.view = view
        self.session = view.session
        self.band: QRectF | None = None
        self.gap: Gap | None = None
        self.words = ""
        self.drop: MasterDrop | None = None
        self.refused = False
        self.section: str | None = None
        self.pointer = QPointF()
        self._pressed: QPointF | None = None
        self._tile: Tile | None = None
        self._dragging = False
        self._before: tuple[str, ...] = ()
        self._to_choose = ""
        self._anchor = ""
        self._foretold: tuple[object, Foretold] | None = None
        self._edges = QTimer(view)
        self._edges.setInterval(30)
        self._edges.timeout.connect(self._scroll)

    # -- selecting -----------------------------------------------------------------

    def choose(self, page_id: str, held: Held) -> None:
        """Selects a page: alone, with Ctrl more or less, with Shift the run up to it."""
        session = self.session
        order = list(positions(session.publication))
        self.view.focus_page = page_id
        session.point_to_page(page_id)
        if held & Held.ShiftModifier and self._anchor in order:
            a, b = sorted((order.index(self._anchor), order.index(page_id)))
            chosen = set(order[a : b + 1])
            if held & Held.ControlModifier:
                chosen |= set(session.pages)
            session.select_pages(tuple(p for p in order if p in chosen))
            return
        self._anchor = page_id
        if held & Held.ControlModifier:
            chosen = set(session.pages) ^ {page_id}
            session.select_pages(tuple(p for p in order if p in chosen))
        else:
            session.select_pages((page_id,))

    # -- press, move, release --------------------------------------------------------

    def press(self, event: QMouseEvent) -> None:
        at = self.view.to_plan(event.position())
        layout, held = self.view.layout_now(), event.modifiers()
        self._pressed, self._dragging = event.position(), False
        self._tile, self.section, self._to_choose = None, None, ""
        band = layout.band_at(at.y())
        if band is not None:
            self._press_band(band, at)
            return
        tile = layout.at(at.x(), at.y())
        self._tile = tile
        if tile is None:
            self._before = self.session.pages if held else ()
            if not held:
                self.session.select_pages(())
        elif tile.facts.page_id in self.session.pages and not held:
            self._to_choose = tile.facts.page_id  # unless a drag follows
        else:
            self.choose(tile.facts.page_id, held)

    def _press_band(self, band: Band, at: QPointF) -> None:
        if at.x() < 36:
            self._pressed = None
            self.view.fold(band.section_id)
        else:
            self.section = band.section_id

    def move(self, event: QMouseEvent) -> None:
        self.pointer = event.position()
        if self._pressed is None:
            return
        if not self._dragging:
            far = (event.position() - self._pressed).manhattanLength()
            if far < QApplication.startDragDistance():
                return
            self._dragging = True
            self._edges.start()
            if self._tile is not None or self.section is not None:
                self.view.setCursor(Qt.CursorShape.ClosedHandCursor)
        self._drag(event.modifiers())

    def _drag(self, held: Held) -> None:
        at = self.view.to_plan(self.pointer)
        if self._tile is None and self.section is None:
            self._rubber(at, held)
        elif self.section is not None:
            self._drag_section(at)
        else:
            self._drag_pages(at)
        self.view.viewport().update()

    def _rubber(self, at: QPointF, held: Held) -> None:
        assert self._pressed is not None
        start = self.view.to_plan(self._pressed)
        self.band = QRectF(start, at).normalized()
        box = self.band
        found = self.view.layout_now().fitting(box.left(), box.top(), box.right(), box.bottom())
        chosen = {t.facts.page_id for t in found} | set(self._before)
        order = positions(self.session.publication)
        self.session.select_pages(tuple(p for p in order if p in chosen))

    def _drag_pages(self, at: QPointF) -> None:
        self.gap = self.view.layout_now().gap_at(at.x(), at.y())
        if self.gap is None:
            return
        pages, gap = self.session.pages, self.gap
        foretold = self._foretell(
            (pages, gap.section_id, gap.place),
            lambda p: move_pages(p, pages, gap.section_id, gap.place),
        )
        count = "page" if len(pages) == 1 else f"{len(pages)} pages"
        where = gap_in_words(self.session.publication, gap.section_id, gap.place)
        self._say(f"Move {count} {where}", foretold)

    def _drag_section(self, at: QPointF) -> None:
        """The gap between two sections nearest to the pointer."""
        layout, section = self.view.layout_now(), self.section
        assert section is not None
        edges = [(b.y, b.section_id) for b in layout.bands] + [(layout.bands[-1].bottom, "")]
        y, before = min(edges, key=lambda e: abs(e[0] - at.y()))
        self.gap = Gap(before, 0, 0.0, y, y)
        foretold = self._foretell(
            (section, before), lambda p: move_section(p, section, before or None)
        )
        sections = {s.id: s.name or "the next section" for s in self.session.publication.sections}
        where = f"before {sections[before]}" if before else "to the end"
        self._say(f"Move {sections[section]} {where}", foretold)

    def _foretell(self, key: object, change) -> Foretold:  # type: ignore[no-untyped-def]
        """What the drop would do; found out once for each place."""
        whole = (key, id(self.session.publication))
        if self._foretold is None or self._foretold[0] != whole:
            self._foretold = (whole, foretell(self.session.publication, change))
        return self._foretold[1]

    def _say(self, what: str, foretold: Foretold) -> None:
        self.refused = bool(foretold.refused)
        more = foretold.words
        if self.refused:
            self.words = more
        elif more == "nothing changes":
            self.words = f"{what}: {more}"
        else:
            self.words = what + (f"\n{more[:1].upper()}{more[1:]}" if more else "")

    def release(self, event: QMouseEvent) -> None:
        gap, section, dragged = self.gap, self.section, self._dragging
        to_choose = self._to_choose
        pages, point = self.session.pages, event.globalPosition().toPoint()
        self.end()
        if dragged and gap is not None and section is not None:
            before = gap.section_id or None
            order_pages(
                self.session, "move section",
                lambda p: move_section(p, section, before), self.view, point,
            )  # fmt: skip
        elif dragged and gap is not None:
            count = "page" if len(pages) == 1 else f"{len(pages)} pages"

            def change(p: Publication) -> Publication:
                return move_pages(p, pages, gap.section_id, gap.place)

            order_pages(self.session, f"move {count}", change, self.view, point)
        elif not dragged and to_choose:
            self.choose(to_choose, Held.NoModifier)
        elif not dragged and section is not None:
            self.view.choose_section(section, event.modifiers())

    def end(self) -> None:
        """Nothing is going on any more."""
        self.band = self.gap = self.section = self._tile = self._pressed = None
        self._dragging, self.refused, self.words, self.drop = False, False, "", None
        self._edges.stop()
        self.view.unsetCursor()
        self.view.viewport().update()

    def cancel(self) -> bool:
        """Gives up a drag; False if none is going on."""
        going = self._dragging
        self.end()
        return going

    # -- a master carried over the pages -------------------------------------------------

    def carry(self, master_id: str, at: QPointF, adding: bool) -> MasterDrop | None:
        """What dropping a master here would do; shown until it is dropped or leaves."""
        self.pointer = at
        plan, layout = self.view.to_plan(at), self.view.layout_now()
        tile, wide = layout.at(plan.x(), plan.y()), layout.page[0]
        if tile is not None and EDGE_SHARE < (plan.x() - tile.x) / wide < 1 - EDGE_SHARE:
            self.gap = None
            self.drop = on_page(self.session, master_id, tile.facts.page_id, adding)
        else:
            self.gap = layout.gap_at(plan.x(), plan.y())
            gap = self.gap
            self.drop = None
            if gap is not None:
                self.drop = between(self.session, master_id, (gap.section_id, gap.place))
        self.words = self.drop.words if self.drop is not None else ""
        self.view.viewport().update()
        return self.drop

    def _scroll(self) -> None:
        """Scrolls while something is dragged near the head or the foot."""
        y, high = self.pointer.y(), self.view.viewport().height()
        bar = self.view.verticalScrollBar()
        by = -24 if y < EDGE else 24 if y > high - EDGE else 0
        if by and self._dragging:
            bar.setValue(bar.value() + by)
            self._drag(QApplication.keyboardModifiers())
