"""The desk painted: the pages, and over them what is never printed."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.compose.cascade import master_layout, page_layout
from hidden_frame.compose.scene import Placed
from hidden_frame.compose.shown import shown_item
from hidden_frame.desktop import theme
from hidden_frame.desktop.desk import chrome
from hidden_frame.desktop.desk.paper import Sheet
from hidden_frame.desktop.desk.tools import box_of
from hidden_frame.desktop.painter.scene import Look
from hidden_frame.desktop.session import Face
from hidden_frame.model.items import Line
from hidden_frame.model.lookup import find_page
from hidden_frame.typeset.caret import caret_at, spans_of

if TYPE_CHECKING:
    from hidden_frame.desktop.desk.canvas import Desk


def paint_desk(desk: Desk) -> None:
    """Paints pages, lines, marks and selection; the pages alone in proof view."""
    colours = theme.current()
    session = desk.session
    on_master = session.mode == "masters"
    sheets = desk.sheets()
    look = Look(proof=session.proof)
    ground = colours.desk_master if on_master and not session.proof else colours.desk
    painter = QPainter(desk)
    pixmap = desk.paper.pixmap(
        sheets, desk.view, desk.size(), desk.devicePixelRatioF(), look, ground
    )
    painter.drawPixmap(0, 0, pixmap)
    if session.proof:
        return
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for sheet in sheets:
        _paint_lines(desk, painter, sheet, colours)
    _paint_spine(desk, painter, sheets, colours)
    for sheet in sheets:
        for placed in sheet.scene.placed:
            if placed.drawing.overflow is not None:
                chrome.paint_overflow(painter, placed, sheet.face, desk.view, colours)
    _paint_selected(desk, painter, colours)


def _paint_lines(desk: Desk, painter: QPainter, sheet: Sheet, colours: theme.Theme) -> None:
    publication = desk.session.publication
    face, scene = sheet.face, sheet.scene
    if scene.is_master:
        layout = master_layout(publication, face.holder_id)
    else:
        layout = page_layout(publication, find_page(publication, face.holder_id))
    chrome.paint_bleed(painter, sheet, desk.view, colours)
    chrome.paint_page_lines(painter, face, scene, layout, desk.view, colours)
    chrome.paint_frame_edges(painter, face, scene, face.holder_id, desk.view, colours)


def _paint_spine(
    desk: Desk, painter: QPainter, sheets: tuple[Sheet, ...], colours: theme.Theme
) -> None:
    """A soft fold between two facing pages."""
    for sheet in sheets:
        if sheet.left:
            x, y = desk.view.to_widget(sheet.face.x, 0)
            painter.setPen(QPen(QColor(0, 0, 0, 46), 1))
            painter.drawLine(QPointF(x, y), QPointF(x, y + sheet.scene.height * desk.view.zoom))


def _paint_selected(desk: Desk, painter: QPainter, colours: theme.Theme) -> None:
    session = desk.session
    for item_id in session.items:
        found = desk.placed(item_id)
        item = shown_item(session.publication, session.holder_id, item_id, session.side)
        if found is None or item is None:
            continue
        placed, face = found
        if session.editing is not None:
            _paint_editing(desk, painter, placed, face, colours)
            continue
        movable = session.may_change(session.holder_id, item_id)
        chrome.paint_selection(
            painter, placed, box_of(item), face, desk.view, colours,
            movable=movable, line=isinstance(item, Line),
        )  # fmt: skip


def _paint_editing(
    desk: Desk, painter: QPainter, placed: Placed, face: Face, colours: theme.Theme
) -> None:
    block = placed.drawing.text
    painter.setPen(QPen(QColor(colours.action), 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolygon(chrome.outline(placed, face, desk.view))
    if block is None or not block.text.lines:
        return
    start, end = desk.text.selection
    spans = spans_of(block.text, start, end) if start != end else []
    caret = caret_at(block.text, *desk.text.caret) if desk.caret_on else None
    chrome.paint_text_selection(painter, placed, face, desk.view, colours, caret, spans)
