"""The hand on a view of pages: selecting, the rubber band, dragging pages and whole sections,
and masters carried over them.  Every view of pages has one, and differs in its layout alone.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QWidget

from hidden_frame.desktop.views.pages.order import order_pages
from hidden_frame.desktop.views.pages.space import Gap, PageSpace
from hidden_frame.edit.pages.order import move_pages
from hidden_frame.edit.pages.sections import move_section
from hidden_frame.interact.hands.filling import fillable
from hidden_frame.interact.words.drops import EDGE, MasterDrop, between, on_page
from hidden_frame.interact.words.foretold import Foretold, foretell, gap_in_words
from hidden_frame.model.lookup import positions
from hidden_frame.model.publication import Publication

FAR = 8  # pixels that a page is pulled before it is dragged
Keys = Qt.KeyboardModifier


class PageHand:
    """Told of press, move and release by its view; the rest is what is going on."""

    def __init__(self, view: PageSpace, parent: QWidget) -> None:
        self.view = view
        self.parent = parent
        self.session = view.session
        self.band: QRectF | None = None
        self.gap: Gap | None = None
        self.words = ""
        self.drop: MasterDrop | None = None
        self.refused = False
        self.section: str | None = None
        self.pointer = QPointF()
        self._pressed: QPointF | None = None
        self._page: str | None = None
        self._dragging = False
        self._before: tuple[str, ...] = ()
        self._to_choose = ""
        self._across: tuple[str, ...] = ()
        self._anchor = ""
        self._foretold: tuple[object, Foretold] | None = None
        self._edges = QTimer(parent)
        self._edges.setInterval(30)
        self._edges.timeout.connect(self._scroll)

    # -- selecting -----------------------------------------------------------------

    def choose(self, page_id: str, keys: Keys = Keys.NoModifier) -> None:
        """Selects a page: alone, with Ctrl more or less, with Shift the run up to it."""
        session = self.session
        order = list(positions(session.publication))
        chosen = {page_id}
        if keys & Keys.ShiftModifier:
            anchor = self._anchor if self._anchor in order else session.page_id
            a, b = sorted((order.index(anchor), order.index(page_id)))
            chosen = set(order[a : b + 1])
            if keys & Keys.ControlModifier:
                chosen |= set(session.pages)
        else:
            self._anchor = page_id
            if keys & Keys.ControlModifier:
                chosen = set(session.pages) ^ {page_id}
        session.select_pages(tuple(p for p in order if p in chosen), page_id)

    def choose_section(self, section_id: str, keys: Keys = Keys.NoModifier) -> None:
        """A section, that is all its pages; with Ctrl besides what is selected."""
        before = self.session.pages if keys & Keys.ControlModifier else ()
        self.session.select_section(section_id, before)

    # -- press, move, release --------------------------------------------------------

    def press(self, event: QMouseEvent) -> None:
        point, keys = event.position(), event.modifiers()
        self._pressed, self._dragging = point, False
        self._page, self.section, self._to_choose = None, None, ""
        head = self.view.head_at(point)
        if head is not None and head.folds:
            self._pressed = None
            self.view.fold(head.section_id)
            return
        if head is not None:
            self.section = head.section_id
            return
        self._page = self.view.page_at(point)
        if self._page is not None and self.session.linking is not None:
            self._to_choose = self._page  # unless a drag fills pages
        elif self._page is None:
            self._before = self.session.pages if keys else ()
            if not keys:
                self.session.select_pages(())
        elif self._page in self.session.pages and not keys:
            self._to_choose = self._page  # unless a drag follows
        else:
            self.choose(self._page, keys)

    def move(self, event: QMouseEvent) -> None:
        self.pointer = event.position()
        if self._pressed is None:
            return
        if not self._dragging:
            if (event.position() - self._pressed).manhattanLength() < FAR:
                return
            self._dragging = True
            self._edges.start()
            if self._filling():
                self.view.setCursor(Qt.CursorShape.CrossCursor)
            elif self._page is not None or self.section is not None:
                self.view.setCursor(Qt.CursorShape.ClosedHandCursor)
        self._drag(event.modifiers())

    def _drag(self, keys: Keys) -> None:
        if self.section is not None:
            self._drag_section()
        elif self._filling():
            self._drag_across()
        elif self._page is None:
            self._rubber(keys)
        else:
            self._drag_pages()
        self.view.viewport().update()

    def _rubber(self, keys: Keys) -> None:
        assert self._pressed is not None
        start, at = self.view.to_plan(self._pressed), self.view.to_plan(self.pointer)
        self.band = QRectF(start, at).normalized()
        chosen = set(self.view.touched(self.band)) | set(self._before)
        order = positions(self.session.publication)
        self.session.select_pages(tuple(p for p in order if p in chosen))

    def _filling(self) -> bool:
        """Whether pages are dragged across to be filled with the text of a frame."""
        return self.session.linking is not None and self._page is not None

    def _drag_across(self) -> None:
        """The pages from where the drag began to the one under the pointer are to be filled."""
        order, to = list(positions(self.session.publication)), self.view.page_at(self.pointer)
        if self._page is None or to is None:
            return
        a, b = sorted((order.index(self._page), order.index(to)))
        self._across = tuple(order[a : b + 1])
        found = fillable(self.session.composition, self._across)
        self.words, self.refused = found.words, not found.empty
        self.session.mark_pages(self._across)

    def _drag_pages(self) -> None:
        self.gap = self.view.gap_at(self.pointer)
        if self.gap is None:
            return
        pages, gap = self.session.pages, self.gap
        foretold = self._foretell(
            (pages, gap.section_id, gap.place),
            lambda p: move_pages(p, pages, gap.section_id, gap.place),
        )
        where = gap_in_words(self.session.publication, gap.section_id, gap.place)
        self._say(f"Move {_count(pages)} {where}", foretold)

    def _drag_section(self) -> None:
        section = self.section
        assert section is not None
        self.gap = self.view.section_gap_at(self.pointer)
        if self.gap is None:
            return
        before = self.gap.section_id
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
        to_choose, across = self._to_choose, self._across
        pages, point = self.session.pages, event.globalPosition().toPoint()
        self.end()
        if dragged and across and self.session.linking is not None:
            self.session.fill_wanted.emit(across)
        elif dragged and gap is not None and section is not None:
            before = gap.section_id or None
            order_pages(
                self.session, "move section",
                lambda p: move_section(p, section, before), self.parent, point,
            )  # fmt: skip
        elif dragged and gap is not None:

            def change(p: Publication) -> Publication:
                return move_pages(p, pages, gap.section_id, gap.place)

            order_pages(self.session, f"move {_count(pages)}", change, self.parent, point)
        elif not dragged and to_choose:
            self.choose(to_choose)
        elif not dragged and section is not None:
            self.choose_section(section, event.modifiers())

    def end(self) -> None:
        """Nothing is going on any more."""
        self.band = self.gap = self.section = self._page = self._pressed = None
        self._dragging, self.refused, self.words, self.drop = False, False, "", None
        self._across = ()
        self._edges.stop()
        self.view.unsetCursor()
        self.view.viewport().update()

    def cancel(self) -> bool:
        """Gives up a drag; False if none is going on."""
        going = self._dragging
        if going and self._across:
            self.session.mark_pages(())
        self.end()
        return going

    # -- a master carried over the pages -------------------------------------------------

    def carry(self, master_id: str, point: QPointF, adding: bool) -> MasterDrop | None:
        """What dropping a master here would do; shown until it is dropped or leaves."""
        self.pointer = point
        page_id = self.view.page_at(point)
        if page_id is not None and self.view.within_at(point) > EDGE:
            self.gap = None
            self.drop = on_page(
                self.session.publication, self.session.pages, master_id, page_id, adding
            )
        else:
            self.gap = gap = self.view.gap_at(point)
            self.drop = None
            if gap is not None:
                self.drop = between(
                    self.session.publication, master_id, (gap.section_id, gap.place)
                )
        self.words = self.drop.words if self.drop is not None else ""
        self.view.viewport().update()
        return self.drop

    def _scroll(self) -> None:
        """Scrolls while something is dragged near an edge."""
        if self._dragging and self.view.scroll_towards(self.pointer):
            self._drag(QApplication.keyboardModifiers())


def _count(pages: tuple[str, ...]) -> str:
    return "page" if len(pages) == 1 else f"{len(pages)} pages"
