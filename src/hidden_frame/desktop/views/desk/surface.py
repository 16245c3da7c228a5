"""The desk painted: the pages, and over them what is never printed."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

from PySide6.QtCore import QLineF, QPointF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPen

from hidden_frame.compose.scene import Placed, Scene
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Rendering
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.spelling import doubts
from hidden_frame.desktop.views.desk import chrome
from hidden_frame.desktop.views.desk.gestures.band import BandGesture
from hidden_frame.desktop.views.desk.gestures.base import Gesture
from hidden_frame.desktop.views.desk.paper import Paper, ShownFace
from hidden_frame.desktop.views.desk.selected import Selected
from hidden_frame.desktop.views.desk.snaplines import (
    paint_band,
    paint_snap_lines,
    paint_words,
    words_rect,
)
from hidden_frame.desktop.views.desk.snapper import layout_of
from hidden_frame.desktop.views.desk.stations import paint_stations
from hidden_frame.desktop.views.desk.traced import Traced
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.desktop.views.writing.drops import DropTarget
from hidden_frame.desktop.views.writing.paint import paint_marks, paint_target
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.edit.items.guides import own_guides
from hidden_frame.interact.hands.faces import Face
from hidden_frame.model.layouts import PageLayout


class DeskSeen(NamedTuple):
    """What the desk shows at a moment; `poor` tells which texts of a scene are hard to read."""

    session: Session
    sheets: tuple[ShownFace, ...]
    view: View
    size: QSize
    ratio: float
    moving: bool
    selected: Selected
    gesture: Gesture | None
    words: str
    pointer: QPointF
    writing: TextEdit
    target: DropTarget | None
    caret_on: bool
    poor: Callable[[Scene], Mapping[str, object]]


def paint_desk(painter: QPainter, desk: DeskSeen, paper: Paper, lines: LinesLayer) -> None:
    """Paints pages, lines, marks and selection; the pages alone in proof view."""
    colours = theme.current()
    session = desk.session
    on_master = session.mode == "masters"
    rendering = Rendering(
        proof=session.proof, tinted=session.tinted and not session.proof,
        signs=session.signs and not session.proof,
        doubtful=None if session.proof else doubts(session.publication.about.words),
    )  # fmt: skip
    ground = colours.desk_master if on_master and not session.proof else colours.desk
    pixmap = paper.pixmap(
        desk.sheets, desk.view, desk.size, desk.ratio, rendering, ground, desk.moving
    )
    painter.drawPixmap(0, 0, pixmap)
    if session.proof:
        return
    # Lines that lie beneath darken the paper, and leave what is darker as it is.
    modes = QPainter.CompositionMode
    above = settings().now.lines_above
    lines.of(desk, colours).lay(
        painter, modes.CompositionMode_SourceOver if above else modes.CompositionMode_Multiply
    )
    for sheet in desk.sheets:
        face, scene = sheet.face, sheet.scene
        chrome.paint_frame_edges(painter, face, scene, face.holder_id, desk.view, colours)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for sheet in desk.sheets:
        _paint_marks(desk, painter, sheet, colours)
    paint_stations(painter, session, desk.sheets, desk.view, colours)
    _paint_selected(desk, painter, paper.pictures, colours)
    _paint_gesture(desk, painter, colours)


class LinesLayer:
    """Bleed, margins, columns, grid, guides and fold, painted again only when they change."""

    def __init__(self) -> None:
        self._key: object = None
        self._lines: Traced | None = None

    def of(self, desk: DeskSeen, colours: theme.Theme) -> Traced:
        """The lines of what is seen now."""
        session, sheets = desk.session, desk.sheets
        layouts = [layout_of(session, sheet.face) for sheet in sheets]
        chosen = [_chosen_guide(desk, s, lay) for s, lay in zip(sheets, layouts, strict=True)]
        key = (
            desk.view, desk.size, desk.ratio, colours.dark, settings().now.guides,
            [(s.face.side, s.face.x, s.left, s.right, s.scene.height) for s in sheets],
            layouts, chosen, session.publication.setup,
        )  # fmt: skip
        if key == self._key and self._lines is not None:
            return self._lines
        self._key, self._lines = key, Traced(desk.size, desk.ratio)
        for sheet, layout, guide in zip(sheets, layouts, chosen, strict=True):
            face, scene = sheet.face, sheet.scene
            chrome.draw_bleed(self._lines, sheet, desk.view, colours)
            chrome.draw_page_lines(self._lines, face, scene, layout, desk.view, colours)
            if settings().now.guides:
                chrome.draw_guides(
                    self._lines, face, scene, layout.guides, desk.view, colours, guide
                )
        _draw_fold(desk, self._lines, sheets)
        return self._lines


def _chosen_guide(desk: DeskSeen, sheet: ShownFace, layout: PageLayout) -> int | None:
    """The place of the selected guide among all that a page shows."""
    session = desk.session
    if session.guide is None or session.guide.holder_id != sheet.face.holder_id:
        return None
    own = own_guides(session.publication, sheet.face.holder_id)
    return session.guide.number + len(layout.guides) - len(own)


def _draw_fold(desk: DeskSeen, lines: Traced, sheets: tuple[ShownFace, ...]) -> None:
    """A soft fold between two facing pages."""
    for sheet in sheets:
        if sheet.left:
            x, y = desk.view.to_widget(sheet.face.x, 0)
            lines.draw(
                QPen(QColor(0, 0, 0, 46), 1),
                [QLineF(x, y, x, y + sheet.scene.height * desk.view.zoom)],
            )


def _paint_marks(desk: DeskSeen, painter: QPainter, sheet: ShownFace, colours: theme.Theme) -> None:
    """Items that depart from their master here; text that does not fit; and, while nothing
    moves, text that is hard to read."""
    for placed in sheet.scene.placed:
        if placed.overridden:
            chrome.paint_departing(painter, placed, sheet.face, desk.view, colours)
        if placed.drawing.overflow is not None:
            chrome.paint_overflow(painter, placed, sheet.face, desk.view, colours)
    poor = desk.poor(sheet.scene)
    if not poor:
        return
    for placed in sheet.scene.placed:
        if placed.item_id in poor:
            chrome.paint_poor_contrast(painter, placed, sheet.face, desk.view, colours)


def overflow_tab(
    session: Session, sheets: tuple[ShownFace, ...], view: View, point: QPointF
) -> str | None:
    """The item whose mark of text that does not fit lies under a point, if it may be changed."""
    for sheet in sheets:
        for placed in sheet.scene.placed:
            if placed.drawing.overflow is None:
                continue
            rect = chrome.overflow_rect(placed, sheet.face, view)
            if rect.adjusted(-2, -2, 2, 2).contains(point) and session.may_change(
                sheet.face.holder_id, placed.item_id
            ):
                return placed.item_id
    return None


def _paint_selected(
    desk: DeskSeen, painter: QPainter, pictures: PictureShelf, colours: theme.Theme
) -> None:
    session = desk.session
    if not session.items:
        return
    if session.editing is not None:
        alone = desk.writing.told() is None  # no other frame shows the same text
        for sheet in desk.sheets:
            for placed in sheet.scene.placed:
                if not alone or placed.item_id == session.editing.item_id:
                    _paint_editing(desk, painter, placed, sheet.face, colours)
                if desk.target is not None:
                    paint_target(painter, placed, sheet.face, desk.view, colours, desk.target)
        return
    shown = desk.selected.placed_all()
    movable = session.may_change_all(session.holder_id, session.items)
    if session.cropping:
        for placed, face in shown.values():
            chrome.paint_whole_picture(painter, placed, face, desk.view, pictures)
    chrome.paint_outlines(painter, shown.values(), desk.view, colours, movable)
    handles = desk.selected.box() if movable else None
    if handles is not None:
        box, line = handles
        several = len(session.items) > 1
        chrome.paint_handles(
            painter, box, desk.selected.face(), desk.view, colours,
            line=line, several=several, turns=not session.cropping,
        )  # fmt: skip


def _paint_gesture(desk: DeskSeen, painter: QPainter, colours: theme.Theme) -> None:
    """Snap lines, the rubber band with what it takes, and the words at the pointer."""
    gesture = desk.gesture
    if gesture is None:
        return
    unit = desk.session.publication.setup.unit
    if isinstance(gesture, BandGesture) and gesture.band is not None:
        face, items = gesture.found
        taken = [(p, face) for p in desk.session.scene_of(face).placed if p.item_id in set(items)]
        chrome.paint_outlines(painter, taken, desk.view, colours, movable=True)
        paint_band(painter, gesture.band, gesture.enclosing, desk.view, colours)
    words = desk.words
    rect = words_rect(painter, words, desk.pointer, desk.size)
    paint_snap_lines(painter, gesture.lines, desk.view, desk.size, unit, colours, rect)
    if words:
        paint_words(painter, words, rect, colours)


def _paint_editing(
    desk: DeskSeen, painter: QPainter, placed: Placed, face: Face, colours: theme.Theme
) -> None:
    """The frame that one writes in, and what is selected there or in its story's other frames."""
    editing = desk.session.editing
    if editing is None:
        return
    if (face.holder_id, face.side, placed.item_id) == (
        editing.holder_id, editing.side, editing.item_id):  # fmt: skip
        painter.setPen(QPen(QColor(colours.action), 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(chrome.outline(placed, face, desk.view))
        anchored = desk.writing.anchors.seen()
        if anchored is not None:
            chrome.paint_anchored(painter, anchored.box, placed, face, desk.view, colours)
            return
    elif desk.writing.told() is None:
        return
    marks = desk.writing.marks(face.holder_id, placed)
    if not desk.caret_on:
        marks = marks._replace(caret=None)
    paint_marks(painter, placed, face, desk.view, colours, marks)
