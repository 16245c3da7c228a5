"""The Run painted: section brackets, thumbnails with their marks, ribbons and folios."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QRegion

from hidden_frame.desktop import theme
from hidden_frame.desktop.marks import paint_diamond
from hidden_frame.desktop.run.layout import TOP, Cell, RunLayout
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
    if run.drop is not None:
        _paint_drop(run, painter, layout, colours)
    elif run.master_drop is not None:
        _paint_drop_words(run, painter, layout, run.pointer.x(), colours)


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
        x1, x2 = cells[0].x - offset, cells[-1].right - offset
        painter.setPen(QPen(QColor(colours.edge), 1.2))
        painter.drawPolyline([QPointF(x1, 21), QPointF(x1, 17), QPointF(x2, 17), QPointF(x2, 21)])
        name = cell.facts.section_name or "Section"
        shown = max(x1, 4.0)
        if x2 - shown < 24:
            continue  # scrolled out but for its edge
        box = QRectF(shown, 0, x2 - shown, 16)
        text = painter.fontMetrics().elidedText(
            name, Qt.TextElideMode.ElideRight, round(box.width())
        )
        painter.setPen(QColor(colours.quiet))
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
    on_drop = run.master_drop is not None and facts.page_id in run.master_drop.pages
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
    _paint_marks(run, painter, cell, rect, colours)
    _paint_foot(run, painter, cell, rect, colours, on_desk)


def _paint_marks(
    run: Run, painter: QPainter, cell: Cell, rect: QRectF, colours: theme.Theme
) -> None:
    """Overrides: a small ochre diamond; a blind folio: a ring crossed out."""
    page = find_page(run.session.publication, cell.facts.page_id)
    x = rect.right() - 8
    if page.overrides:
        paint_diamond(painter, x, rect.top() + 9, colours)
    if page.blind:
        y = rect.bottom() - 9
        painter.setBrush(QColor("#FFFFFF"))
        painter.setPen(QPen(QColor(colours.warning), 1.6))
        painter.drawEllipse(QPointF(x, y), 5, 5)
        painter.drawLine(QPointF(x - 4, y + 4), QPointF(x + 4, y - 4))


def _paint_foot(
    run: Run, painter: QPainter, cell: Cell, rect: QRectF, colours: theme.Theme, on_desk: bool
) -> None:
    """The ribbons of the page's masters, its folio large, its position small."""
    publication = run.session.publication
    masters = masters_by_id(publication)
    stack = stack_of(publication, find_page(publication, cell.facts.page_id))
    drop = run.master_drop
    if drop is not None and cell.facts.page_id in drop.pages:  # as it will be
        kept = tuple(m for m in stack if m != drop.master_id) if drop.adding else ()
        stack = (*kept, drop.master_id)
    painter.setPen(Qt.PenStyle.NoPen)
    width = rect.width() / max(len(stack), 1)
    for n, master_id in enumerate(stack):
        painter.setBrush(QColor(theme.RIBBONS[masters[master_id].ribbon]))
        ribbon = QRectF(rect.left() + n * width, rect.bottom() + 3, width - 1, 4)
        painter.drawRoundedRect(ribbon, 2, 2)
    foot = QRectF(rect.left(), rect.bottom() + 9, rect.width(), 20)
    if on_desk:
        painter.setBrush(QColor(colours.action_soft))
        painter.drawRoundedRect(foot, 5, 5)
    font = QFont(run.font())
    font.setPixelSize(16)
    font.setBold(True)
    painter.setFont(font)
    painter.setPen(QColor(colours.action if on_desk else colours.text))
    folio = cell.facts.folio or "–"
    painter.drawText(
        foot.adjusted(5, 0, 0, 0),
        Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
        folio,
    )
    font.setPixelSize(12)
    font.setBold(False)
    painter.setFont(font)
    painter.setPen(QColor(colours.quiet))
    painter.drawText(
        foot.adjusted(0, 2, -4, 0),
        Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
        f"#{cell.facts.position}",
    )


def _paint_drop(run: Run, painter: QPainter, layout: RunLayout, colours: theme.Theme) -> None:
    index, left_side = run.drop or (0, False)
    cells = layout.cells
    offset = run.horizontalScrollBar().value()
    if index == 0:
        x = cells[0].x - 7
    elif index == len(cells):
        x = cells[-1].right + 7
    else:
        x = (cells[index - 1].right + cells[index].x) / 2
        if cells[index - 1].facts.section_id != cells[index].facts.section_id:
            x = cells[index - 1].right + 4 if left_side else cells[index].x - 4
    x -= offset
    painter.setPen(QPen(QColor(colours.action), 3))
    painter.drawLine(QPointF(x, TOP - 4), QPointF(x, TOP + layout.height + 4))
    _paint_drop_words(run, painter, layout, x, colours)


def _paint_drop_words(
    run: Run, painter: QPainter, layout: RunLayout, x: float, colours: theme.Theme
) -> None:
    """What the drop under the pointer would do."""
    words = run.drop_words()
    font = QFont(run.font())
    font.setPixelSize(13)
    painter.setFont(font)
    wide = painter.fontMetrics().horizontalAdvance(words) + 18
    at = min(max(x - wide / 2, 4), run.viewport().width() - wide - 4)
    box = QRectF(at, TOP + layout.height / 2 - 13, wide, 26)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.action))
    painter.drawRoundedRect(box, 6, 6)
    painter.setPen(QColor(colours.action_text))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)
