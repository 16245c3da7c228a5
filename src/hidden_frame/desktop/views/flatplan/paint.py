"""The flatplan painted: bands, tints, pages with their marks, ties, and where a drop goes."""

from __future__ import annotations

from collections.abc import Callable, Collection
from typing import NamedTuple

from PySide6.QtCore import QPoint, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QPixmap, QRegion

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.marks import (
    paint_clasp,
    paint_foot,
    paint_own_items,
    paint_page_marks,
    paint_parted,
    paint_pin,
    paint_warning,
)
from hidden_frame.desktop.views.flatplan.layout import READ, Band, FlatplanLayout, Tile
from hidden_frame.desktop.views.pages.hand import PageHand
from hidden_frame.desktop.views.pages.paint import paint_hand
from hidden_frame.interact.finds.plan import masters_in_words, numbering_in_words
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
from hidden_frame.model.publication import Publication

# Tints of sections, in turn: hues far enough apart that neighbours differ at a glance.
TINTS = ("#1F6F5C", "#B7791F", "#2F6DB5", "#8C3B7A", "#6C8E23", "#D1495B", "#17A2A2", "#5B5F97")
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_CUT = Qt.TextElideMode.ElideRight
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter


class FlatplanSeen(NamedTuple):
    """What the flatplan shows at a moment: `port` is its viewport, which shows the layout from
    `scrolled` on; `pixmap` gives what there is of a page's thumbnail; `matching` are the pages
    that are searched for (None: none is); `focus` has the keyboard."""

    publication: Publication
    layout: FlatplanLayout
    port: QRect
    scrolled: QPoint
    font: QFont
    pixmap: Callable[[str], QPixmap | None]
    chosen: Collection[str]
    section_id: str
    on_desk: str
    focus: str
    ringed: Collection[str]
    matching: Collection[str] | None
    doubtful: Collection[str]
    hand: PageHand


def tint(number: int, share: float, colours: theme.Theme) -> QColor:
    """A section's tint, so much of it mixed into the window's ground."""
    ground, hue = QColor(colours.window), QColor(TINTS[number % len(TINTS)])
    return QColor(
        round(ground.red() + (hue.red() - ground.red()) * share),
        round(ground.green() + (hue.green() - ground.green()) * share),
        round(ground.blue() + (hue.blue() - ground.blue()) * share),
    )


def paint_flatplan(painter: QPainter, view: FlatplanSeen, region: QRegion) -> None:
    """Paints a part of what is seen of the flatplan."""
    colours = theme.current()
    painter.setClipRegion(region)
    area = region.boundingRect()
    painter.fillRect(area, QColor(colours.window))
    layout, left, down = view.layout, view.scrolled.x(), view.scrolled.y()
    painter.translate(-left, -down)
    top, bottom = area.top() + down, area.bottom() + down
    seen = region.translated(left, down)
    wide, high = layout.page
    for band in layout.bands:
        if band.bottom >= top and band.y <= bottom:
            _paint_band(view, painter, band, layout, colours)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    for tile in layout.tiles_within(top, bottom):
        # With the marks and the folio around it.
        if seen.intersects(QRect(int(tile.x) - 7, int(tile.y) - 7, int(wide) + 14,
                                 int(high) + round(layout.foot) + 10)):  # fmt: skip
            _paint_tile(view, painter, tile, layout, colours)
    _paint_ties(view, painter, layout, top, bottom, colours)
    painter.resetTransform()
    paint_hand(painter, view.hand, QPointF(view.scrolled), view.port, view.font, colours)


def _paint_band(
    view: FlatplanSeen,
    painter: QPainter,
    band: Band,
    layout: FlatplanLayout,
    colours: theme.Theme,
) -> None:
    """A section's head: fold, name, numbering, pages, default masters."""
    publication = view.publication
    section = publication.sections[band.number]
    wide = band.width
    if band.x == 0.0 and band.width >= layout.width - 1:
        wide = max(wide, view.port.width())
    area = QRectF(band.x, band.y, wide, band.bottom - band.y)
    painter.fillRect(area, tint(band.number, 0.07, colours))
    head = QRectF(band.x, band.y, wide, layout.head)
    chosen = view.section_id == section.id
    painter.fillRect(head, tint(band.number, 0.45 if chosen else 0.2, colours))
    painter.fillRect(QRectF(band.x, band.y, 5, area.height()), QColor(TINTS[band.number % 8]))
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.text))
    pad, small = layout.pad, layout.page[1] < READ
    x, y = band.x + pad + 4.0, band.y + layout.head / 2
    if band.folded:
        painter.drawPolygon([QPointF(x - 3, y - 5), QPointF(x + 4, y), QPointF(x - 3, y + 5)])
    else:
        painter.drawPolygon([QPointF(x - 5, y - 3), QPointF(x + 5, y - 3), QPointF(x, y + 4)])
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    font = QFont(view.font)
    font.setPixelSize(11 if small else 16)
    font.setBold(True)
    painter.setFont(font)
    painter.setPen(QColor(colours.text))
    name = section.name or "Section without a name"
    room = head.adjusted(pad + (12 if small else 18), 0, -8, 0)
    metrics = painter.fontMetrics()
    painter.drawText(room, _LEFT, metrics.elidedText(name, _CUT, round(room.width())))
    room = room.adjusted(metrics.horizontalAdvance(name) + 14, 1, 0, 0)
    font.setPixelSize(10 if small else 13)
    font.setBold(False)
    painter.setFont(font)
    painter.setPen(QColor(colours.quiet))
    metrics, numbering = painter.fontMetrics(), numbering_in_words(publication, band.number)
    if room.width() < 40:
        return  # the tooltip has the rest
    painter.drawText(room, _LEFT, metrics.elidedText(numbering, _CUT, round(room.width())))
    left = room.width() - metrics.horizontalAdvance(numbering) - 24
    masters = masters_in_words(publication, band.number)
    if left >= metrics.horizontalAdvance(masters):
        painter.drawText(room, _RIGHT, masters)


def _paint_tile(
    view: FlatplanSeen,
    painter: QPainter,
    tile: Tile,
    layout: FlatplanLayout,
    colours: theme.Theme,
) -> None:
    facts, publication = tile.facts, view.publication
    page = find_page(publication, facts.page_id)
    rect = QRectF(tile.x, tile.y, *layout.page)
    drop = view.hand.drop
    chosen = facts.page_id in (view.chosen if drop is None else drop.pages)
    if view.matching is not None and facts.page_id not in view.matching:
        painter.setOpacity(0.25)
    if chosen:
        painter.fillRect(rect.adjusted(-5, -5, 5, layout.foot - 4), QColor(colours.action_soft))
    pixmap = view.pixmap(facts.page_id)
    if pixmap is None:
        painter.fillRect(rect, QColor("#FFFFFF"))
    else:
        painter.drawPixmap(rect.toRect(), pixmap)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(colours.edge), 1))
    painter.drawRect(rect)
    if facts.page_id in view.ringed:
        painter.setPen(QPen(QColor(colours.master), 2))
        painter.drawRect(rect.adjusted(-2, -2, 2, 2))
    if chosen:
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.drawRect(rect.adjusted(-1, -1, 1, 1))
    if facts.page_id == view.focus:
        painter.setPen(QPen(QColor(colours.action), 1, Qt.PenStyle.DashLine))
        painter.drawRect(rect.adjusted(-4, -4, 4, layout.foot - 5))
    if layout.page[0] >= 40:
        if page.items:
            paint_own_items(painter, rect, colours)
        paint_page_marks(painter, page, rect, colours)
        if facts.page_id in view.doubtful:
            paint_warning(painter, rect, colours)
    else:
        paint_pin(painter, page, rect, colours)
    if layout.page[1] < READ:
        painter.setOpacity(1.0)
        return
    known = masters_by_id(publication)
    ribbons = [known[m].ribbon for m in stack_of(publication, page)]
    on_desk = facts.page_id == view.on_desk and not chosen
    paint_foot(painter, view.font, rect, facts, ribbons, colours, on_desk)
    painter.setOpacity(1.0)


def _paint_ties(
    view: FlatplanSeen,
    painter: QPainter,
    layout: FlatplanLayout,
    top: float,
    bottom: float,
    colours: theme.Theme,
) -> None:
    """A clasp over the spine of two tied pages that face each other; broken if they don't."""
    wide, high = layout.page
    tied: dict[str, Tile] = {}
    for tile in layout.tiles_within(top, bottom):
        page = find_page(view.publication, tile.facts.page_id)
        if page.tie is None:
            continue
        other = tied.pop(page.tie, None)
        if other is None:
            tied[page.tie] = tile
        elif other.facts.spread == tile.facts.spread and other.y == tile.y:
            paint_clasp(painter, min(other.x, tile.x) + wide, tile.y + high, wide, colours)
        else:
            for each in (other, tile):
                verso = each.facts.side == "verso"
                paint_parted(painter, verso, QRectF(each.x, each.y, wide, high), colours)
