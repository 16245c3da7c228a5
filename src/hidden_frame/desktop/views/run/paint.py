"""The Run painted: section brackets, thumbnails with their marks, ribbons and folios."""

from __future__ import annotations

from collections.abc import Callable, Collection
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QPixmap, QRegion

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.marks import paint_clasp, paint_foot, paint_page_marks, paint_parted
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.paint import paint_hand
from hidden_frame.desktop.views.run.layout import TOP, Cell, RunLayout
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
from hidden_frame.model.publication import Publication


class RunSeen(NamedTuple):
    """What the Run shows at a moment: `port` is its viewport, which shows the layout from
    `scrolled` pixels on; `pixmap` gives what there is of a page's thumbnail."""

    publication: Publication
    layout: RunLayout
    port: QRect
    scrolled: float
    font: QFont
    pixmap: Callable[[str], QPixmap | None]
    chosen: Collection[str]
    section_id: str
    on_desk: str
    ringed: Collection[str]
    hand: PageHand

    def rect_of(self, cell: Cell) -> QRectF:
        """A page's thumbnail in viewport coordinates."""
        left = self.layout.left_of(cell) - self.scrolled
        return QRectF(left, TOP, cell.width, self.layout.height)


def paint_run(painter: QPainter, run: RunSeen, area: QRegion) -> None:
    """Paints a part of what is seen of the Run."""
    colours = theme.current()
    painter.setClipRegion(area)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(run.port, QColor(colours.window))
    seen = run.layout.within(run.scrolled, run.scrolled + run.port.width())
    _paint_sections(run, painter, seen, colours)
    for cell in seen:
        # With a pixel's slack for rings, and the foot below.
        rect = run.rect_of(cell).adjusted(-6, -6, 6, 40)
        if area.intersects(rect.toAlignedRect()):
            _paint_cell(run, painter, cell, colours)
    _paint_ties(run, painter, seen, colours)
    paint_hand(painter, run.hand, QPointF(run.scrolled, 0), run.port, run.font, colours)


def _paint_sections(
    run: RunSeen, painter: QPainter, seen: tuple[Cell, ...], colours: theme.Theme
) -> None:
    font = QFont(run.font)
    font.setPixelSize(13)
    painter.setFont(font)
    layout, offset = run.layout, run.scrolled
    done: set[str] = set()
    for cell in seen:
        section = cell.facts.section_id
        if section in done:
            continue
        done.add(section)
        ends = [layout.left_of(c) for c in layout.bracket(section)]
        x1, x2 = min(ends) - offset, max(ends) + cell.width - offset
        chosen = run.section_id == section
        painter.setPen(
            QPen(QColor(colours.action if chosen else colours.edge), 2 if chosen else 1.2)
        )
        painter.drawPolyline([QPointF(x1, 21), QPointF(x1, 17), QPointF(x2, 17), QPointF(x2, 21)])
        name = cell.facts.section_name or "Section"
        shown = max(x1, 4.0)
        if x2 - shown < 24:
            continue  # scrolled out but for its edge
        box = QRectF(shown, 0, x2 - shown, 16)
        text = painter.fontMetrics().elidedText(
            name, Qt.TextElideMode.ElideRight, round(box.width())
        )
        painter.setPen(QColor(colours.action if chosen else colours.quiet))
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, text)


def _paint_ties(
    run: RunSeen, painter: QPainter, seen: tuple[Cell, ...], colours: theme.Theme
) -> None:
    """A clasp over the spine of two tied pages; each has a broken one where they don't face."""
    tied: dict[str, Cell] = {}
    for cell in seen:
        tie = find_page(run.publication, cell.facts.page_id).tie
        if tie is None:
            continue
        other = tied.pop(tie, None)
        if other is None:
            tied[tie] = cell
        elif other.facts.spread == cell.facts.spread:
            left, right = run.rect_of(other), run.rect_of(cell)
            paint_clasp(painter, (left.right() + right.left()) / 2, left.bottom(), left.width(),
                        colours)  # fmt: skip
        else:
            for each in (other, cell):
                paint_parted(painter, each.facts.side == "verso", run.rect_of(each), colours)


def _paint_cell(run: RunSeen, painter: QPainter, cell: Cell, colours: theme.Theme) -> None:
    facts, rect = cell.facts, run.rect_of(cell)
    pixmap = run.pixmap(facts.page_id)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.fillRect(rect, QColor("#FFFFFF"))
    if pixmap is not None:
        painter.drawPixmap(rect, pixmap, QRectF(pixmap.rect()))
    drop = run.hand.drop
    on_drop = drop is not None and facts.page_id in drop.pages
    on_desk = facts.page_id == run.on_desk
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(colours.line), 1))
    painter.drawRect(rect)
    if facts.page_id in run.ringed:
        painter.setPen(QPen(QColor(colours.master), 2))
        painter.drawRect(rect.adjusted(-2, -2, 2, 2))
    if facts.page_id in run.chosen or on_drop:
        painter.fillRect(rect, QColor(31, 111, 92, 38))
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.drawRect(rect.adjusted(-1, -1, 1, 1))
    page = find_page(run.publication, facts.page_id)
    paint_page_marks(painter, page, rect, colours)
    stack = stack_of(run.publication, page)
    if drop is not None and facts.page_id in drop.pages:  # as it will be
        kept = tuple(m for m in stack if m != drop.master_id) if drop.adding else ()
        stack = (*kept, drop.master_id)
    known = masters_by_id(run.publication)
    paint_foot(painter, run.font, rect, facts, [known[m].ribbon for m in stack], colours, on_desk)
