"""What lies over the pages on the desk and is never printed: guides, edges, selection."""

from __future__ import annotations

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF

from hidden_frame.compose.cascade import PageLayout
from hidden_frame.compose.placing import guide_x
from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.desktop.desk.paper import Sheet
from hidden_frame.desktop.desk.view import View
from hidden_frame.desktop.session import Face
from hidden_frame.desktop.theme import Theme
from hidden_frame.edit.boxes import HANDLES, Box
from hidden_frame.typeset.caret import Caret

HANDLE = 8.0  # pixels
_NO_BRUSH = Qt.BrushStyle.NoBrush


def _pen(colour: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine) -> QPen:
    pen = QPen(QColor(colour), width, style)
    pen.setCosmetic(True)
    return pen


def _faint(colour: str, alpha: float) -> QColor:
    faint = QColor(colour)
    faint.setAlphaF(alpha)
    return faint


def paint_page_lines(
    painter: QPainter, face: Face, scene: Scene, layout: PageLayout, view: View, theme: Theme
) -> None:
    """Margins, columns, guides, grid and bleed of one page."""
    x0, y0 = view.to_widget(face.x, 0.0)
    z = view.zoom

    def rect(x: float, y: float, w: float, h: float) -> QRectF:
        return QRectF(x0 + x * z, y0 + y * z, w * z, h * z)

    margins, columns = layout.margins, layout.columns
    left, top = margins.left(face.side), margins.top
    width = scene.width - left - margins.right(face.side)
    height = scene.height - top - margins.bottom
    painter.setBrush(_NO_BRUSH)
    if layout.grid is not None and layout.grid.step * z > 3:
        painter.setPen(QPen(_faint(theme.edge, 0.35), 0))
        y = layout.grid.start
        while y < scene.height:
            painter.drawLine(QLineF(x0, y0 + y * z, x0 + scene.width * z, y0 + y * z))
            y += layout.grid.step
    painter.setPen(QPen(_faint(theme.margin, 0.55), 0))
    painter.drawRect(rect(left, top, width, height))
    if columns.count > 1:
        painter.setPen(QPen(_faint(theme.column, 0.75), 0))
        step = (width + columns.gutter) / columns.count
        for n in range(1, columns.count):
            x = left + n * step
            for edge in (x - columns.gutter, x):
                painter.drawLine(rect(edge, top, 0, height).topLeft(),
                                 rect(edge, top, 0, height).bottomLeft())  # fmt: skip
    painter.setPen(QPen(_faint(theme.guide, 0.8), 0))
    for guide in layout.guides:
        if guide.axis == "vertical":
            x = guide_x(guide.position, face.side, scene.width)
            line = QLineF(x0 + x * z, y0, x0 + x * z, y0 + scene.height * z)
        else:
            y = guide.position
            line = QLineF(x0, y0 + y * z, x0 + scene.width * z, y0 + y * z)
        painter.drawLine(line)


def paint_bleed(painter: QPainter, sheet: Sheet, view: View, theme: Theme) -> None:
    """The trim's edge, and the bleed's on the sides where no other page lies."""
    scene = sheet.scene
    x0, y0 = view.to_widget(sheet.face.x, 0.0)
    z, b = view.zoom, scene.bleed
    trim = QRectF(x0, y0, scene.width * z, scene.height * z)
    painter.setBrush(_NO_BRUSH)
    painter.setPen(QPen(_faint(theme.edge, 0.6), 0))
    painter.drawRect(trim)
    if b * z > 1.5:
        painter.setPen(QPen(_faint(theme.bleed, 0.45), 0, Qt.PenStyle.DotLine))
        outer = trim.adjusted(-b * z * (not sheet.left), -b * z, b * z * (not sheet.right), b * z)
        edges = [QLineF(outer.topLeft(), outer.topRight()),
                 QLineF(outer.bottomLeft(), outer.bottomRight())]  # fmt: skip
        if not sheet.left:
            edges.append(QLineF(outer.topLeft(), outer.bottomLeft()))
        if not sheet.right:
            edges.append(QLineF(outer.topRight(), outer.bottomRight()))
        painter.drawLines(edges)


def outline(placed: Placed, face: Face, view: View) -> QPolygonF:
    """An item's box on the widget, turned as it is."""
    w, h = placed.drawing.width, placed.drawing.height
    points = [placed.matrix.apply(x, y) for x, y in ((0, 0), (w, 0), (w, h), (0, h))]
    return QPolygonF([QPointF(*view.to_widget(x + face.x, y)) for x, y in points])


def paint_frame_edges(
    painter: QPainter, face: Face, scene: Scene, holder: str, view: View, theme: Theme
) -> None:
    """Hairlines around frames: grey for the page's own, ochre for a master's."""
    painter.setBrush(_NO_BRUSH)
    for placed in scene.placed:
        own = placed.carrier in (None, holder)
        if placed.drawing.text is None and own:
            continue
        colour = _faint(theme.edge, 0.55) if own else _faint(theme.master, 0.45)
        style = Qt.PenStyle.SolidLine if own else Qt.PenStyle.DotLine
        painter.setPen(QPen(colour, 0, style))
        painter.drawPolygon(outline(placed, face, view))


def paint_overflow(painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme) -> None:
    """The mark of a frame whose text does not all fit: a tab at its foot with three dots."""
    w, h = placed.drawing.width, placed.drawing.height
    x, y = placed.matrix.apply(w / 2, h)
    cx, cy = view.to_widget(x + face.x, y)
    tab = QRectF(cx - 13, cy - 5, 26, 10)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.warning))
    painter.drawRoundedRect(tab, 5, 5)
    painter.setBrush(QColor(theme.panel))
    for n in (-1, 0, 1):
        painter.drawEllipse(QPointF(cx + n * 6, cy), 1.6, 1.6)


def paint_selection(
    painter: QPainter,
    placed: Placed,
    box: Box,
    face: Face,
    view: View,
    theme: Theme,
    *,
    movable: bool,
    line: bool,
) -> None:
    """The selected item's outline, with handles where it may be changed."""
    colour = theme.action if movable else theme.master
    painter.setBrush(_NO_BRUSH)
    painter.setPen(_pen(colour, 1.6, Qt.PenStyle.SolidLine if movable else Qt.PenStyle.DashLine))
    painter.drawPolygon(outline(placed, face, view))
    if not movable:
        return
    for handle in ((-1, 0), (1, 0)) if line else HANDLES:
        side = box.width if handle[0] == 0 else box.height
        if not line and 0 in handle and side * view.zoom < 3 * HANDLE:
            continue  # it would crowd the corners
        x, y = box.point(*handle)
        px, py = view.to_widget(x + face.x, y)
        painter.setPen(_pen(colour, 1.4))
        painter.setBrush(QColor(theme.field))
        knob = QRectF(px - HANDLE / 2, py - HANDLE / 2, HANDLE, HANDLE)
        if handle[0] and handle[1]:
            painter.drawRoundedRect(knob, 2, 2)
        else:
            painter.drawEllipse(knob.adjusted(0.7, 0.7, -0.7, -0.7))


def paint_text_selection(
    painter: QPainter,
    placed: Placed,
    face: Face,
    view: View,
    theme: Theme,
    caret: Caret | None,
    spans: list[tuple[float, float, float, float]],
) -> None:
    """The caret and the selected stretch of the text being edited."""
    block = placed.drawing.text
    if block is None:
        return

    def at(x: float, y: float) -> QPointF:
        px, py = placed.matrix.apply(x + block.x, y + block.y)
        return QPointF(*view.to_widget(px + face.x, py))

    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_faint(theme.action, 0.28))
    for x, y, w, h in spans:
        painter.drawPolygon(QPolygonF([at(x, y), at(x + w, y), at(x + w, y + h), at(x, y + h)]))
    if caret is not None:
        painter.setPen(_pen(theme.action, 2.0))
        painter.drawLine(at(caret.x, caret.top + 1), at(caret.x, caret.bottom - 1))
