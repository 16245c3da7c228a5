"""What the desk shows of stories: where a frame's text goes on, and a story's path on demand."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPen, QPolygonF

from hidden_frame.compose.composition import StoryOnPages
from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.look.marks import STORY as _PATH
from hidden_frame.desktop.look.theme import Theme
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.paper import ShownFace
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.edit.stories import is_empty
from hidden_frame.interact.hands.faces import Face
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_master

SIZE = 15.0  # pixels


def out_mark(placed: Placed, face: Face, view: View) -> QRectF:
    """Where a frame says that its text goes on: below its right foot, beside the handle there."""
    x, y = placed.matrix.apply(placed.drawing.width, placed.drawing.height)
    cx, cy = view.to_widget(x + face.x, y)
    return QRectF(cx - SIZE - 9, cy + 3, SIZE, SIZE)


def marked(
    session: Session, faces: tuple[ShownFace, ...]
) -> Iterator[tuple[Placed, Face, StoryOnPages | None]]:
    """The frames whose out-marks are shown: the selected one, all of its story while one writes
    or sees paths, and the last one of any story that does not fit."""
    if session.mode != "pages":
        yield from _marked_main(session, faces)
        return
    composition = session.composition
    chosen = session.items[0] if len(session.items) == 1 else ""
    mine = composition.told(session.holder_id, chosen) if chosen else None
    for shown in faces:
        for placed in shown.scene.placed:
            if placed.drawing.text is None:
                continue
            here = (shown.face.holder_id, placed.item_id)
            told = composition.told(*here)
            selected = here == (session.holder_id, chosen)
            if told is None:
                if selected and placed.carrier is None:
                    yield placed, shown.face, None
                continue
            same = mine is not None and mine.story.id == told.story.id
            last = told.flow.stops[-1].key == here and told.flow.rest is not None
            if selected or last or (same and (session.paths or session.editing is not None)):
                yield placed, shown.face, told


def _marked_main(
    session: Session, faces: tuple[ShownFace, ...]
) -> Iterator[tuple[Placed, Face, StoryOnPages | None]]:
    """The selected text frame of a master, if it is the master's own and has no words."""
    if session.mode != "masters" or len(session.items) != 1:
        return
    own = {i.id: i for i in find_master(session.publication, session.holder_id).items}
    frame = own.get(session.items[0])
    if not isinstance(frame, TextFrame) or not (frame.main or is_empty(frame.text)):
        return
    for shown in faces:
        for placed in shown.scene.placed:
            mine = placed.item_id == session.items[0] and shown.face.side == session.side
            if mine and placed.drawing.text is not None:
                yield placed, shown.face, None


def paint_stations(
    painter: QPainter, session: Session, faces: tuple[ShownFace, ...], view: View, theme: Theme
) -> None:
    """Paths if they are asked for, and the out-marks."""
    if session.paths:
        _paint_paths(painter, session, faces, view, theme)
    for placed, face, told in marked(session, faces):
        _paint_mark(painter, out_mark(placed, face, view), placed, face, told, theme)


def _paint_mark(
    painter: QPainter,
    box: QRectF,
    placed: Placed,
    face: Face,
    told: StoryOnPages | None,
    theme: Theme,
) -> None:
    """An arrow where the text goes on, lines that wait where it has no room; hollow where a link
    begins."""
    ink = QColor(_PATH)
    last = told is None or told.flow.stops[-1].key == (face.holder_id, placed.item_id)
    over = told is not None and last and told.flow.rest is not None
    if over:
        ink = QColor(theme.warning)
    filled = over or (told is not None and not last)
    painter.setPen(QPen(ink, 1.6))
    painter.setBrush(ink if filled else QColor(theme.panel))
    painter.drawEllipse(box.adjusted(1, 1, -1, -1))
    c = box.center()
    painter.setPen(QPen(QColor(theme.panel) if filled else ink, 1.8))
    if over:
        for dy, wide in ((-3.0, 3.5), (0.0, 3.5), (3.0, 0.5)):  # the last one ends early
            painter.drawLine(QPointF(c.x() - 3.5, c.y() + dy), QPointF(c.x() + wide, c.y() + dy))
        return
    painter.drawLine(QPointF(c.x() - 3.5, c.y()), QPointF(c.x() + 3, c.y()))
    painter.drawLine(QPointF(c.x() + 0.5, c.y() - 3), QPointF(c.x() + 3.5, c.y()))
    painter.drawLine(QPointF(c.x() + 0.5, c.y() + 3), QPointF(c.x() + 3.5, c.y()))


def _paint_paths(
    painter: QPainter, session: Session, faces: tuple[ShownFace, ...], view: View, theme: Theme
) -> None:
    """Each stop of a story numbered, and a line from one to the next where both are in sight."""
    places: dict[tuple[str, int], QRectF] = {}
    for shown in faces:
        for placed in shown.scene.placed:
            told = session.composition.told(shown.face.holder_id, placed.item_id)
            if placed.drawing.text is None or told is None:
                continue
            number = told.flow.index[shown.face.holder_id, placed.item_id]
            places[told.story.id, number] = _on_widget(placed, shown.face, view)
    pen = QPen(QColor(_PATH), 1.6, Qt.PenStyle.DashLine)
    for (story, number), box in places.items():
        after = places.get((story, number + 1))
        if after is not None:
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            _arrow(painter, box.bottomRight(), after.topLeft())
    font = QFont(painter.font())
    font.setPixelSize(12)
    font.setBold(True)
    painter.setFont(font)
    for (_, number), box in places.items():
        words = str(number + 1)
        wide = max(painter.fontMetrics().horizontalAdvance(words) + 10, 20)
        badge = QRectF(box.left() - wide - 3, box.top(), wide, 18)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(_PATH))
        painter.drawRoundedRect(badge, 9, 9)
        painter.setPen(QColor("#FFFFFF"))
        painter.drawText(badge, Qt.AlignmentFlag.AlignCenter, words)


def _on_widget(placed: Placed, face: Face, view: View) -> QRectF:
    bounds = placed.bounds
    left, top = view.to_widget(bounds.left + face.x, bounds.top)
    right, bottom = view.to_widget(bounds.right + face.x, bounds.bottom)
    return QRectF(QPointF(left, top), QPointF(right, bottom))


def _arrow(painter: QPainter, start: QPointF, end: QPointF) -> None:
    painter.drawLine(start, end)
    way = end - start
    long = (way.x() ** 2 + way.y() ** 2) ** 0.5
    if long < 12:
        return
    along = way / long * 8
    across = QPointF(-along.y(), along.x()) * 0.5
    painter.setBrush(QColor(_PATH))
    painter.drawPolygon(QPolygonF([end, end - along + across, end - along - across]))
