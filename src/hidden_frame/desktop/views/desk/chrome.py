"""What lies over the pages on the desk and is never printed: guides, edges, selection."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF, QTransform

from hidden_frame.compose.scene import PicturePrimitive, Placed, Scene
from hidden_frame.desktop.look.marks import paint_diamond
from hidden_frame.desktop.look.theme import Theme
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.views.desk.paper import ShownFace
from hidden_frame.desktop.views.desk.traced import Traced, edges
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.hits import turn_knob
from hidden_frame.model.geometry import Guide
from hidden_frame.model.layouts import PageLayout
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import HANDLES, Bounds, Box
from hidden_frame.model.plane.mirror import guide_x

HANDLE = 8.0  # pixels, a handle's side
KNOB = 26.0  # pixels from an item's edge to the knob that turns it
_NEAR = 6.0  # pixels to the point
_NO_BRUSH = Qt.BrushStyle.NoBrush


def _pen(colour: str, width: float = 1.0, style: Qt.PenStyle = Qt.PenStyle.SolidLine) -> QPen:
    pen = QPen(QColor(colour), width, style)
    pen.setCosmetic(True)
    return pen


def _broken(style: Qt.PenStyle, view: View) -> Qt.PenStyle:
    """A broken line's style; near by it is drawn whole, for its dashes would be counted far
    beyond the window."""
    return style if view.zoom < _NEAR else Qt.PenStyle.SolidLine


def _faint(colour: str, alpha: float) -> QColor:
    faint = QColor(colour)
    faint.setAlphaF(alpha)
    return faint


def draw_page_lines(
    lines: Traced, face: Face, scene: Scene, layout: PageLayout, view: View, theme: Theme
) -> None:
    """Margins, columns and baseline grid of one page."""
    x0, y0 = view.to_widget(face.x, 0.0)
    z = view.zoom

    def rect(x: float, y: float, w: float, h: float) -> QRectF:
        return QRectF(x0 + x * z, y0 + y * z, w * z, h * z)

    margins, columns = layout.margins, layout.columns
    left, top = margins.left(face.side), margins.top
    width = scene.width - left - margins.right(face.side)
    height = scene.height - top - margins.bottom
    if layout.grid is not None and layout.grid.step * z > 3:
        rows, y = [], layout.grid.start
        while y < scene.height:
            rows.append(QLineF(x0, y0 + y * z, x0 + scene.width * z, y0 + y * z))
            y += layout.grid.step
        lines.draw(QPen(_faint(theme.edge, 0.35), 0), rows)
    lines.draw(QPen(_faint(theme.margin, 0.55), 0), edges(rect(left, top, width, height)))
    step = (width + columns.gutter) / columns.count
    parts = [
        rect(left + n * step - before, top, 0, height)
        for n in range(1, columns.count) for before in (columns.gutter, 0.0)
    ]  # fmt: skip
    lines.draw(
        QPen(_faint(theme.column, 0.75), 0), [QLineF(p.topLeft(), p.bottomLeft()) for p in parts]
    )


def draw_guides(
    lines: Traced,
    face: Face,
    scene: Scene,
    guides: Sequence[Guide],
    view: View,
    theme: Theme,
    selected: int | None,
) -> None:
    """The guides of one page, those that are locked broken, the selected one strong."""
    x0, y0 = view.to_widget(face.x, 0.0)
    z = view.zoom
    for number, guide in enumerate(guides):
        chosen = number == selected
        style = _broken(Qt.PenStyle.DashLine, view) if guide.locked else Qt.PenStyle.SolidLine
        pen = QPen(_faint(theme.guide, 1.0 if chosen else 0.8), 2.4 if chosen else 0, style)
        if guide.axis == "vertical":
            x = x0 + guide_x(guide.position, face.side, scene.width) * z
            lines.draw(pen, [QLineF(x, y0, x, y0 + scene.height * z)])
        else:
            y = y0 + guide.position * z
            lines.draw(pen, [QLineF(x0, y, x0 + scene.width * z, y)])


def draw_bleed(lines: Traced, sheet: ShownFace, view: View, theme: Theme) -> None:
    """The trim's edge, and the bleed's on the sides where no other page lies."""
    scene = sheet.scene
    x0, y0 = view.to_widget(sheet.face.x, 0.0)
    z, b = view.zoom, scene.bleed
    trim = QRectF(x0, y0, scene.width * z, scene.height * z)
    lines.draw(QPen(_faint(theme.edge, 0.6), 0), edges(trim))
    if b * z > 1.5:
        pen = QPen(_faint(theme.bleed, 0.45), 0, _broken(Qt.PenStyle.DotLine, view))
        outer = trim.adjusted(-b * z * (not sheet.left), -b * z, b * z * (not sheet.right), b * z)
        head, right, foot, left = edges(outer)
        sides = [left] * (not sheet.left) + [right] * (not sheet.right)
        lines.draw(pen, [head, foot, *sides])


def outline(placed: Placed, face: Face, view: View) -> QPolygonF:
    """An item's box on the widget, turned as it is."""
    return part_outline(Bounds(0, 0, placed.drawing.width, placed.drawing.height),
                        placed, face, view)  # fmt: skip


def part_outline(part: Bounds, placed: Placed, face: Face, view: View) -> QPolygonF:
    """A part of an item, given in its own coordinates, on the widget, turned as the item is."""
    left, top, right, bottom = part
    corners = ((left, top), (right, top), (right, bottom), (left, bottom))
    points = [placed.matrix.apply(x, y) for x, y in corners]
    return QPolygonF([QPointF(*view.to_widget(x + face.x, y)) for x, y in points])


def paint_anchored(
    painter: QPainter, part: Bounds, placed: Placed, face: Face, view: View, colours: Theme
) -> None:
    """What is anchored in a text and selected: framed, with a mark at each corner."""
    shape = part_outline(part, placed, face, view)
    painter.setPen(QPen(QColor(colours.action), 2.0))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawPolygon(shape)
    painter.setBrush(QColor(colours.action))
    for corner in shape.toList():
        painter.drawRect(QRectF(corner.x() - 3, corner.y() - 3, 6, 6))


@remembered()
def _corners(placed: Placed) -> QPolygonF | QRectF:
    """An item's box in page coordinates: upright, or a turned polygon."""
    w, h = placed.drawing.width, placed.drawing.height
    if not placed.matrix.b and not placed.matrix.c:
        return QRectF(placed.matrix.e, placed.matrix.f, w, h)
    return QPolygonF(
        [QPointF(*placed.matrix.apply(x, y)) for x, y in ((0, 0), (w, 0), (w, h), (0, h))]
    )


def paint_frame_edges(
    painter: QPainter, face: Face, scene: Scene, holder: str, view: View, theme: Theme
) -> None:
    """Hairlines around frames of the page's own; ochre ticks at the corners of a master's."""
    own: list[QPolygonF | QRectF] = []
    ticks: list[QLineF] = []
    for placed in scene.placed:
        if placed.carrier not in (None, holder):
            ticks += _corner_ticks(placed, view.zoom)
        elif placed.drawing.text is not None:
            own.append(_corners(placed))
    painter.save()
    painter.setBrush(_NO_BRUSH)
    painter.translate(*view.to_widget(face.x, 0.0))
    painter.scale(view.zoom, view.zoom)
    painter.setPen(QPen(_faint(theme.edge, 0.55), 0))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.drawRects([b for b in own if isinstance(b, QRectF)])
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for box in own:
        if isinstance(box, QPolygonF):
            painter.drawPolygon(box)
    painter.setPen(QPen(_faint(theme.master, 0.8), 1.2 / view.zoom))
    painter.drawLines(ticks)
    painter.restore()


TICK = 5.0  # pixels, from a corner along each edge


@remembered()
def _corner_ticks(placed: Placed, zoom: float) -> list[QLineF]:
    """Two short lines at each corner of a master's item; they reach outward, over no word."""
    w, h = placed.drawing.width, placed.drawing.height
    long = min(TICK / zoom, max(w, 1) / 3)
    at = placed.matrix.apply
    lines = []
    for x, y in ((0.0, 0.0), (w, 0.0), (w, h), (0.0, h)):
        across, down = (-long if x == 0.0 else long), (-long if y == 0.0 else long)
        corner = QPointF(*at(x, y))
        lines.append(QLineF(corner, QPointF(*at(x + across, y))))
        lines.append(QLineF(corner, QPointF(*at(x, y + down))))
    return lines


def overflow_rect(placed: Placed, face: Face, view: View) -> QRectF:
    """Where the mark of text that does not fit stands: astride the frame's foot."""
    x, y = placed.matrix.apply(placed.drawing.width / 2, placed.drawing.height)
    cx, cy = view.to_widget(x + face.x, y)
    return QRectF(cx - 13, cy - 6, 26, 12)


def paint_overflow(painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme) -> None:
    """The mark of a frame whose text does not all fit: a tab at its foot with three dots."""
    tab = overflow_rect(placed, face, view)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.warning))
    painter.drawRoundedRect(tab, 6, 6)
    painter.setBrush(QColor(theme.panel))
    for n in (-1, 0, 1):
        painter.drawEllipse(QPointF(tab.center().x() + n * 6, tab.center().y()), 1.6, 1.6)


def paint_departing(
    painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme
) -> None:
    """The mark of an item that departs from its master here, at its left top corner."""
    x, y = placed.matrix.apply(0.0, 0.0)
    # What bleeds off the page is marked on the page.
    x, y = max(x, 0.0), max(y, 0.0)
    paint_diamond(painter, *view.to_widget(x + face.x, y), theme)


def paint_poor_contrast(
    painter: QPainter, placed: Placed, face: Face, view: View, theme: Theme
) -> None:
    """The mark of text that is hard to read where it stands: a disc half dark, half light."""
    x, y = placed.matrix.apply(placed.drawing.width, 0.0)
    cx, cy = view.to_widget(x + face.x, y)
    disc = QRectF(cx - 7, cy - 7, 14, 14)
    painter.setPen(_pen(theme.warning, 1.6))
    painter.setBrush(QColor(theme.panel))
    painter.drawEllipse(disc)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.warning))
    painter.drawPie(disc, 90 * 16, 180 * 16)


def paint_outlines(
    painter: QPainter, shown: Iterable[tuple[Placed, Face]], view: View, theme: Theme, movable: bool
) -> None:
    """The outline of each selected item."""
    colour = theme.action if movable else theme.master
    painter.setBrush(_NO_BRUSH)
    painter.setPen(_pen(colour, 1.6, Qt.PenStyle.SolidLine if movable else Qt.PenStyle.DashLine))
    for placed, face in shown:
        painter.drawPolygon(outline(placed, face, view))


def paint_whole_picture(
    painter: QPainter, placed: Placed, face: Face, view: View, pictures: PictureShelf
) -> None:
    """A picture that is being cropped: what its frame hides shows through, pale."""
    for primitive in placed.drawing.primitives:
        if not isinstance(primitive, PicturePrimitive):
            continue
        x, y, w, h = primitive.rect
        z = view.zoom
        # As a whole, and no larger than the desk may need.
        most = min(1.0, 3_000 / max(w * z, h * z, 1.0))
        part = pictures.image(
            primitive.hash, primitive.kind, w * z * most, h * z * most, primitive.orientation
        )
        if part is None:
            continue
        painter.save()
        painter.translate(*view.to_widget(face.x, 0.0))
        painter.scale(z, z)
        painter.setTransform(QTransform(*placed.matrix), True)
        painter.setOpacity(0.35)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        part_place = QRectF(x + part.x * w, y + part.y * h, part.width * w, part.height * h)
        painter.drawImage(part_place, part.image)
        painter.restore()


def paint_handles(
    painter: QPainter,
    box: Box,
    face: Face,
    view: View,
    theme: Theme,
    *,
    line: bool,
    several: bool,
    turns: bool = True,
) -> None:
    """The handles of a box, and the knob that turns it."""

    def at(x: float, y: float) -> QPointF:
        return QPointF(*view.to_widget(x + face.x, y))

    corners = [at(*box.point(x, y)) for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1))]
    painter.setBrush(_NO_BRUSH)
    if several:
        painter.setPen(_pen(theme.action, 1.0, Qt.PenStyle.DotLine))
        painter.drawPolygon(QPolygonF(corners))
    if turns and not line:
        edge, knob = at(*box.point(1, 0)), at(*turn_knob(box, KNOB / view.zoom))
        painter.setPen(_pen(theme.action, 1.2))
        painter.drawLine(edge, knob)
        painter.setBrush(QColor(theme.action))
        painter.setPen(_pen(theme.field, 1.4))
        painter.drawEllipse(knob, 5.5, 5.5)
    painter.setBrush(QColor(theme.field))
    for handle in ((-1, 0), (1, 0)) if line else HANDLES:
        side = box.width if handle[0] == 0 else box.height
        if not line and 0 in handle and side * view.zoom < 3 * HANDLE:
            continue  # it would crowd the corners
        p = at(*box.point(*handle))
        painter.setPen(_pen(theme.action, 1.4))
        knob_rect = QRectF(p.x() - HANDLE / 2, p.y() - HANDLE / 2, HANDLE, HANDLE)
        if handle[0] and handle[1]:
            painter.drawRoundedRect(knob_rect, 2, 2)
        else:
            painter.drawEllipse(knob_rect.adjusted(0.7, 0.7, -0.7, -0.7))
