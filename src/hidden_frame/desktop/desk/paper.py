"""The pages on the desk, painted into a pixmap that is renewed only where they changed."""

from __future__ import annotations

import operator
from typing import NamedTuple

from PySide6.QtCore import QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPixmap

from hidden_frame.compose.scene import PathPrimitive, Placed, Scene, TextPrimitive
from hidden_frame.desktop.desk.view import View
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Look, paint_placed, runs_of
from hidden_frame.interact.faces import Face
from hidden_frame.interact.hits import bounds
from hidden_frame.model.memory import remembered
from hidden_frame.typeset.text import PlacedLine

_SHADOW = 5


class Sheet(NamedTuple):
    """A face on the desk with its scene, and whether others lie at its left and right."""

    face: Face
    scene: Scene
    left: bool
    right: bool


class _Key(NamedTuple):
    view: View
    size: QSize
    ratio: float
    proof: bool
    desk: str
    faces: tuple[Face, ...]


class Paper:
    """`pixmap` gives the desk without selection and guides; unchanged parts are reused."""

    def __init__(self, pictures: PictureShelf) -> None:
        self.pictures = pictures
        self._key: _Key | None = None
        self._scenes: tuple[Scene, ...] = ()
        self._pixmap = QPixmap()
        self._quick = QPixmap()

    def forget(self) -> None:
        self._key = None

    def pixmap(
        self, sheets: tuple[Sheet, ...], view: View, size: QSize, ratio: float, look: Look,
        desk: str, quick: bool = False,
    ) -> QPixmap:  # fmt: skip
        """What stands on the desk.  With `quick`, another view of the same pages is the old
        picture moved and scaled, to be painted sharp a moment later."""
        key = _Key(view, size, ratio, look.proof, desk, tuple(s.face for s in sheets))
        scenes = tuple(s.scene for s in sheets)
        if key == self._key and all(a is b for a, b in zip(scenes, self._scenes, strict=True)):
            return self._pixmap
        if key == self._key:
            self._renew(sheets, view, look)
        elif quick and self._like(key) and scenes == self._scenes:
            return self._shifted(view, size, ratio, desk)
        else:
            self._pixmap = QPixmap(size * ratio)
            self._pixmap.setDevicePixelRatio(ratio)
            self._pixmap.fill(QColor(desk))
            painter = QPainter(self._pixmap)
            try:  # a painter left on its picture would take the program with it
                for sheet in sheets:
                    _shadow(painter, sheet, view)
                for sheet in sheets:
                    self._sheet(painter, sheet, view, look, None)
            finally:
                painter.end()
        self._key, self._scenes = key, scenes
        return self._pixmap

    def _like(self, key: _Key) -> bool:
        """Whether a key differs from the one painted in nothing but the view."""
        return self._key is not None and self._key._replace(view=key.view) == key

    def _shifted(self, view: View, size: QSize, ratio: float, desk: str) -> QPixmap:
        assert self._key is not None
        old = self._key.view
        scale = view.zoom / old.zoom
        if self._quick.size() != size * ratio:
            self._quick = QPixmap(size * ratio)
        self._quick.setDevicePixelRatio(ratio)
        self._quick.fill(QColor(desk))
        painter = QPainter(self._quick)
        painter.translate(view.dx - old.dx * scale, view.dy - old.dy * scale)
        painter.scale(scale, scale)
        painter.drawPixmap(0, 0, self._pixmap)
        painter.end()
        return self._quick

    def _renew(self, sheets: tuple[Sheet, ...], view: View, look: Look) -> None:
        """Paints again only where a scene differs from the one painted before."""
        painter = QPainter(self._pixmap)
        try:
            for sheet, before in zip(sheets, self._scenes, strict=True):
                if sheet.scene is not before:
                    dirty = _difference(before, sheet.scene)
                    if dirty is not None:
                        # Strokes and antialiasing reach a little over an item's edges.
                        slack = 3 / view.zoom + 12
                        self._sheet(painter, sheet, view, look, dirty.adjusted(
                            -slack, -slack, slack, slack))  # fmt: skip
        except Exception:
            self.forget()
            raise
        finally:
            painter.end()

    def _sheet(
        self, painter: QPainter, sheet: Sheet, view: View, look: Look, dirty: QRectF | None
    ) -> None:
        """A page's paper and all that lies on it, clipped to its bleed or, as proof, its trim."""
        scene = sheet.scene
        bleed = 0.0 if look.proof else scene.bleed
        area = QRectF(
            -bleed if not sheet.left else 0.0,
            -bleed,
            scene.width + bleed * ((not sheet.left) + (not sheet.right)),
            scene.height + 2 * bleed,
        )
        painter.save()
        painter.translate(view.dx + sheet.face.x * view.zoom, view.dy)
        painter.scale(view.zoom, view.zoom)
        if dirty is not None:
            # Whole pixels, so that the renewed part joins the old without a seam.
            exact = painter.transform().mapRect(dirty.intersected(area)).toAlignedRect()
            area = area.intersected(painter.transform().inverted()[0].mapRect(QRectF(exact)))
        painter.setClipRect(area)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(area, QColor("#FFFFFF"))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for placed in scene.placed:
            seen = placed.printing or not look.proof
            if seen and (dirty is None or _box(placed).intersects(area)):
                paint_placed(painter, placed, self.pictures, look, scene.is_master)
        painter.restore()


@remembered()
def _box(placed: Placed) -> QRectF:
    """Everything an item may paint: its box, half its stroke, and text that leans out."""
    left, top, right, bottom = bounds(placed)
    pens = [
        p.pen.width for p in placed.drawing.primitives if isinstance(p, PathPrimitive) and p.pen
    ]
    reach = 12 + max(pens, default=0.0)
    return QRectF(left, top, right - left, bottom - top).adjusted(-reach, -reach, reach, reach)


def _difference(before: Scene, after: Scene) -> QRectF | None:
    """The part of the page in which two scenes may differ; None if they look the same."""
    area: QRectF | None = None
    for a, b in _pairs(before.placed, after.placed):
        lines = _lines_changed(a, b) if a is not None and b is not None else None
        boxes = [lines] if lines is not None else [_box(p) for p in (a, b) if p is not None]
        for box in boxes:
            area = box if area is None else area.united(box)
    return area


def _lines_changed(a: Placed, b: Placed) -> QRectF | None:
    """The part of a text frame whose lines differ; None if more than its lines may differ."""
    one, other = a.drawing, b.drawing
    same = a.matrix == b.matrix and (one.width, one.height) == (other.width, other.height)
    if not same or a.matrix.b or a.printing != b.printing:
        return None
    texts = [p for p in one.primitives if isinstance(p, TextPrimitive)]
    if len(one.primitives) != len(other.primitives) or len(texts) != 1:
        return None
    for p, q in zip(one.primitives, other.primitives, strict=True):
        if isinstance(p, TextPrimitive) and isinstance(q, TextPrimitive):
            if (p.x, p.y, p.alpha) != (q.x, q.y, q.alpha):
                return None
            block, old = q, p
        elif p != q:
            return None
    before, after = old.text.lines[: old.shown], block.text.lines[: block.shown]
    first = 0
    while first < min(len(before), len(after)) and _alike(before[first], after[first]):
        first += 1
    last_old, last_new = len(before), len(after)
    while min(last_old, last_new) > first and _alike(before[last_old - 1], after[last_new - 1]):
        last_old, last_new = last_old - 1, last_new - 1
    rows = old.text.lines[first:last_old] + block.text.lines[first:last_new]
    left, top = a.matrix.e, a.matrix.f
    if not rows:
        return QRectF(left, top, 1, 1)
    y1, y2 = min(r.top for r in rows), max(r.bottom for r in rows)
    lean = max((run.setting.size for r in rows for run in r.runs), default=0.0) * 0.6 + 4
    return QRectF(left - 12, top + block.y + y1 - lean, one.width + 24, y2 - y1 + 2 * lean)


def _alike(a: PlacedLine, b: PlacedLine) -> bool:
    """Whether two lines look the same: most are the very same line at the same place."""
    if (a.x, a.baseline) != (b.x, b.baseline):
        return False
    if a.line is b.line:
        return True
    one, other = runs_of(a.line), runs_of(b.line)  # equal runs are the same
    return len(one) == len(other) and all(map(operator.is_, one, other))


def _pairs(
    before: tuple[Placed, ...], after: tuple[Placed, ...]
) -> list[tuple[Placed | None, Placed | None]]:
    """Items that differ between two scenes; order counts, so a new order is all different."""
    if [p.item_id for p in before] == [p.item_id for p in after]:
        return [
            (a, b)
            for a, b in zip(before, after, strict=True)
            if a.drawing is not b.drawing or a.matrix != b.matrix or a.printing != b.printing
        ]
    old = {p.item_id: p for p in before}
    new = {p.item_id: p for p in after}
    kept = [i for i in old if i in new]
    if kept == [i for i in new if i in old]:
        found: list[tuple[Placed | None, Placed | None]] = [
            (old[i], new[i])
            for i in kept
            if old[i].drawing is not new[i].drawing or old[i].matrix != new[i].matrix
        ]
        found += [(old[i], None) for i in old if i not in new]
        found += [(None, new[i]) for i in new if i not in old]
        return found
    return [(p, None) for p in before] + [(None, p) for p in after]


def _shadow(painter: QPainter, sheet: Sheet, view: View) -> None:
    scene = sheet.scene
    x, y = view.to_widget(sheet.face.x, 0.0)
    w, h = scene.width * view.zoom, scene.height * view.zoom
    painter.setPen(Qt.PenStyle.NoPen)
    for n in range(_SHADOW, 0, -1):
        painter.setBrush(QColor(40, 34, 26, 9))
        rect = QRect(round(x) - n, round(y) - n + 2, round(w) + 2 * n, round(h) + 2 * n)
        painter.drawRoundedRect(rect, n, n)
