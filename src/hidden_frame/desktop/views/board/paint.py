"""The board painted: cards with two faces, ribbon, name and followers, joined to their bases."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QPixmap

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.marks import paint_diamond
from hidden_frame.desktop.views.board.layout import EDGE, GAP, STEP, BoardLayout, Card
from hidden_frame.interact.words.drops import BaseDrop
from hidden_frame.interact.words.told import followers_in_words
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.publication import Publication

_FADED = 0.28


class BoardSeen(NamedTuple):
    """What the board shows at a moment: `port` is its viewport, which shows the layout from
    `scrolled` on; `pixmap` gives what there is of a face's thumbnail; masters whose name holds
    `wanted` stand out."""

    publication: Publication
    layout: BoardLayout
    port: QRect
    scrolled: QPointF
    font: QFont
    pixmap: Callable[[str, Side], QPixmap | None]
    chosen: str
    wanted: str
    drop: BaseDrop
    pointer: QPointF


def matches(publication: Publication, master_id: str, wanted: str) -> bool:
    """Whether a master's name holds what is searched for."""
    return wanted.casefold() in masters_by_id(publication)[master_id].name.casefold()


def fold_rect(layout: BoardLayout, card: Card) -> QRectF:
    """The button that folds what builds on a card, in the board's coordinates."""
    wide, _ = layout.card
    width = 30.0 if card.folded else 20.0
    middle = card.y + 8 + layout.face[1] / 2
    return QRectF(card.x + wide - width / 2, middle - 9, width, 18)


def paint_board(painter: QPainter, board: BoardSeen, area: QRect) -> None:
    """Paints a part of what is seen of the board."""
    colours = theme.current()
    painter.setClipRect(area)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.fillRect(board.port, QColor(colours.desk_master))
    layout = board.layout
    painter.translate(-board.scrolled)
    seen = QRectF(area).translated(board.scrolled)
    _paint_lines(painter, layout, colours)
    for card in layout.cards:
        rect = QRectF(card.x, card.y, *layout.card)
        if rect.adjusted(-6, -6, 20, 6).intersects(seen):
            painter.setOpacity(
                1.0 if matches(board.publication, card.master_id, board.wanted) else _FADED
            )
            _paint_card(board, painter, card, rect, layout, colours)
    painter.setOpacity(1.0)
    painter.resetTransform()
    if board.drop.words:
        _paint_words(board, painter, colours)


def _paint_lines(painter: QPainter, layout: BoardLayout, colours: theme.Theme) -> None:
    """From each base to what builds on it: along a trunk, and through each row of cards."""
    wide, _ = layout.card
    painter.setPen(QPen(QColor(colours.master), 1.6))
    middle = EDGE + layout.face[1] / 2
    for card in layout.cards:
        base = layout.of(card.base)
        if base is None:
            continue
        trunk = base.x + wide + STEP / 2
        y = card.y + middle
        if card.x > base.x + wide + STEP + 1:  # further along a row
            painter.drawLine(QPointF(card.x - GAP, y), QPointF(card.x, y))
            continue
        painter.drawLine(QPointF(base.x + wide, base.y + middle), QPointF(trunk, base.y + middle))
        painter.drawLine(QPointF(trunk, base.y + middle), QPointF(trunk, y))
        painter.drawLine(QPointF(trunk, y), QPointF(card.x, y))


def _paint_card(
    board: BoardSeen,
    painter: QPainter,
    card: Card,
    rect: QRectF,
    layout: BoardLayout,
    colours: theme.Theme,
) -> None:
    master = masters_by_id(board.publication)[card.master_id]
    chosen = board.chosen == card.master_id
    painter.setPen(QPen(QColor(colours.line), 1))
    painter.setBrush(QColor(colours.panel))
    if card.master_id == board.drop.target:
        painter.setPen(QPen(QColor(colours.action), 3))
        painter.setBrush(QColor(colours.action_soft))
    elif chosen:
        painter.setPen(QPen(QColor(colours.master), 2.4))
        painter.setBrush(QColor(colours.master_soft))
    painter.drawRoundedRect(rect, 7, 7)
    for side, x in layout.faces:
        _paint_face(board, painter, card, side, QRectF(rect.left() + x, rect.top() + EDGE,
                                                       *layout.face), colours)  # fmt: skip
    top = rect.top() + EDGE + layout.face[1]
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(theme.RIBBONS[master.ribbon]))
    painter.drawRoundedRect(QRectF(rect.left() + EDGE, top + 5, rect.width() - 2 * EDGE, 4), 2, 2)
    if master.overrides:
        paint_diamond(painter, rect.right() - EDGE - 7, rect.top() + EDGE + 8, colours)
    _paint_words_of(board, painter, card, rect, top + 10, colours)
    if card.foldable:
        _paint_fold(painter, fold_rect(layout, card), card, colours)


def _paint_face(
    board: BoardSeen,
    painter: QPainter,
    card: Card,
    side: Side,
    rect: QRectF,
    colours: theme.Theme,
) -> None:
    pixmap = board.pixmap(card.master_id, side)
    painter.fillRect(rect, QColor("#FFFFFF"))
    if pixmap is not None:
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawPixmap(rect, pixmap, QRectF(pixmap.rect()))
    painter.setPen(QPen(QColor(colours.line), 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(rect)


def _paint_words_of(
    board: BoardSeen,
    painter: QPainter,
    card: Card,
    rect: QRectF,
    top: float,
    colours: theme.Theme,
) -> None:
    """A master's name, and how many pages follow it: in all, and directly."""
    font = QFont(board.font)
    font.setPixelSize(14)
    font.setBold(True)
    painter.setFont(font)
    painter.setPen(QColor(colours.text))
    room = QRectF(rect.left() + EDGE, top, rect.width() - 2 * EDGE, 17)
    name = masters_by_id(board.publication)[card.master_id].name
    flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
    elide = Qt.TextElideMode.ElideRight
    painter.drawText(room, flags, painter.fontMetrics().elidedText(name, elide, int(room.width())))
    font.setPixelSize(12)
    font.setBold(False)
    painter.setFont(font)
    painter.setPen(QColor(colours.quiet))
    words = followers_in_words(board.publication, card.master_id)
    room.translate(0, 15)
    painter.drawText(room, flags, painter.fontMetrics().elidedText(words, elide, int(room.width())))


def _paint_fold(painter: QPainter, rect: QRectF, card: Card, colours: theme.Theme) -> None:
    """The button that hides what builds on a master, or says how many are hidden."""
    painter.setPen(QPen(QColor(colours.master), 1.4))
    painter.setBrush(QColor(colours.panel))
    painter.drawRoundedRect(rect, rect.height() / 2, rect.height() / 2)
    font = QFont(painter.font())
    font.setPixelSize(12)
    font.setBold(True)
    painter.setFont(font)
    painter.setPen(QColor(colours.master))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, f"+{card.folded}" if card.folded else "–")


def _paint_words(board: BoardSeen, painter: QPainter, colours: theme.Theme) -> None:
    """What a drop here would do."""
    font = QFont(board.font)
    font.setPixelSize(13)
    painter.setFont(font)
    wide = painter.fontMetrics().horizontalAdvance(board.drop.words) + 20
    view = board.port
    x = min(max(board.pointer.x() - wide / 2, 6), view.width() - wide - 6)
    y = board.pointer.y() + 22 if board.pointer.y() < view.height() - 60 else board.pointer.y() - 46
    box = QRectF(x, y, wide, 26)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(colours.action if board.drop.allowed else colours.warning))
    painter.drawRoundedRect(box, 6, 6)
    painter.setPen(QColor(colours.action_text))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, board.drop.words)
