"""The Run painted: section brackets, thumbnails with their marks, ribbons and folios."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QRegion

from hidden_frame.desktop import theme
from hidden_frame.desktop.marks import paint_foot, paint_page_marks
from hidden_frame.desktop.pages.paint import paint_hand
from hidden_frame.desktop.run.layout import Cell, RunLayout
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of

if TYPE_CHECKING:
    from hidden_frame.desktop.run.view import Run


def paint_run(run: Run, area: QRegion) -> None:
    """Paints a part of what is seen of the Run in its viewport."""
    colours = theme.current()
    painter = QPainter(run.viewport())
    painter.setClipRegion(area)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(run.viewport().rect(), QColor(colours.window))
    layout = run.layout_now()
    left = run.horizontalScrollBar().value()
    seen = layout.within(left, left + run.viewport().width())
    ringed = run.ringed_pages()
    _paint_sections(run, painter, layout, seen, colours)
    for cell in seen:
        # With a pixel's slack for rings, and the foot below.
        rect = run.rect_of_cell(cell, layout).adjusted(-6, -6, 6, 40)
        if area.intersects(rect.toAlignedRect()):
            _paint_cell(run, painter, cell, layout, colours, ringed)
    at = QPointF(left, 0)
    paint_hand(painter, run.hand, at, run.viewport().rect(), run.font(), colours)


def _paint_sections(
    run: Run, painter: QPainter, layout: RunLayout, seen: tuple[Cell, ...], colours: theme.Theme
) -> None:
    font = QFont(run.font())
    font.setPixelSize(13)
    painter.setFont(font)
    offset = run.horizontalScrollBar().value()
    done: set[str] = set()
    for cell in seen:
        section = cell.facts.section_id
        if section in done:
            continue
        done.add(section)
        cells = [c for c in layout.cells if c.facts.section_id == section]
        ends = [layout.left_of(c) for c in (cells[0], cells[-1])]
        x1, x2 = min(ends) - offset, max(ends) + cells[0].width - offset
        chosen = run.session.section_id == section
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


def _paint_cell(
    run: Run,
    painter: QPainter,
    cell: Cell,
    layout: RunLayout,
    colours: theme.Theme,
    ringed: set[str],
) -> None:
    session, facts = run.session, cell.facts
    rect = run.rect_of_cell(cell, layout)
    scene = run.scene(facts.page_id)
    ratio = run.devicePixelRatioF()
    pixmap = run.thumbnails.pixmap(facts.page_id, scene, round(cell.width), ratio)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.fillRect(rect, QColor("#FFFFFF"))
    if pixmap is not None:
        painter.drawPixmap(rect, pixmap, QRectF(pixmap.rect()))
    drop = run.hand.drop
    on_drop = drop is not None and facts.page_id in drop.pages
    on_desk = session.mode == "pages" and facts.page_id == session.page_id
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(colours.line), 1))
    painter.drawRect(rect)
    if facts.page_id in ringed:
        painter.setPen(QPen(QColor(colours.master), 2))
        painter.drawRect(rect.adjusted(-2, -2, 2, 2))
    if facts.page_id in session.pages or on_drop:
        painter.fillRect(rect, QColor(31, 111, 92, 38))
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.drawRect(rect.adjusted(-1, -1, 1, 1))
    page = find_page(session.publication, facts.page_id)
    paint_page_marks(painter, page, rect, colours)
    stack = stack_of(session.publication, page)
    if drop is not None and facts.page_id in drop.pages:  # as it will be
        kept = tuple(m for m in stack if m != drop.master_id) if drop.adding else ()
        stack = (*kept, drop.master_id)
    known = masters_by_id(session.publication)
    paint_foot(painter, run.font(), rect, facts, [known[m].ribbon for m in stack], colours, on_desk)
