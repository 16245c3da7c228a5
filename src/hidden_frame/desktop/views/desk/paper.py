"""The pages on the desk, painted into a pixmap that is renewed only where they changed."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPixmap

from hidden_frame.compose.scene import Scene
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Rendering, paint_placed
from hidden_frame.desktop.views.desk.view import View
from hidden_frame.interact.hands.difference import difference, reach
from hidden_frame.interact.hands.faces import Face
from hidden_frame.model.plane.box import Bounds

_SHADOW = 5


class ShownFace(NamedTuple):
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
    tinted: bool
    signs: bool
    doubts: object
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
        self._ground = _Ground()

    def forget(self) -> None:
        self._key = None

    def pixmap(
        self, sheets: tuple[ShownFace, ...], view: View, size: QSize, ratio: float,
        rendering: Rendering, desk: str, quick: bool = False,
    ) -> QPixmap:  # fmt: skip
        """What stands on the desk.  With `quick`, another view of the same pages is the old
        picture moved and scaled, to be painted sharp a moment later."""
        key = _Key(
            view,
            size,
            ratio,
            rendering.proof,
            rendering.tinted,
            rendering.signs,
            getattr(rendering.doubtful, "version", None),
            desk,
            tuple(s.face for s in sheets),
        )
        scenes = tuple(s.scene for s in sheets)
        if key == self._key and all(a is b for a, b in zip(scenes, self._scenes, strict=True)):
            return self._pixmap
        if key == self._key:
            self._renew(sheets, view, rendering)
        elif quick and self._like(key) and scenes == self._scenes:
            return self._shifted(view, size, ratio, desk)
        else:
            self._pixmap = self._ground.pixmap(sheets, view, size, ratio, desk).copy()
            painter = QPainter(self._pixmap)
            try:  # a painter left on its picture would take the program with it
                for sheet in sheets:
                    self._sheet(painter, sheet, view, rendering, None)
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

    def _renew(self, sheets: tuple[ShownFace, ...], view: View, rendering: Rendering) -> None:
        """Paints again only where a scene differs from the one painted before."""
        painter = QPainter(self._pixmap)
        try:
            for sheet, before in zip(sheets, self._scenes, strict=True):
                if sheet.scene is not before:
                    differs = difference(before, sheet.scene)
                    if differs is not None:
                        # Strokes and antialiasing reach a little over an item's edges.
                        slack = 3 / view.zoom + 12
                        dirty = QRectF(differs.left, differs.top, differs.width, differs.height)
                        self._sheet(painter, sheet, view, rendering, dirty.adjusted(
                            -slack, -slack, slack, slack))  # fmt: skip
        except Exception:
            self.forget()
            raise
        finally:
            painter.end()

    def _sheet(
        self,
        painter: QPainter,
        sheet: ShownFace,
        view: View,
        rendering: Rendering,
        dirty: QRectF | None,
    ) -> None:
        """A page's paper and all that lies on it, clipped to its bleed or, as proof, its trim."""
        scene = sheet.scene
        bleed = 0.0 if rendering.proof else scene.bleed
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
        within = Bounds(area.left(), area.top(), area.right(), area.bottom())
        painter.setClipRect(area)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(area, QColor("#FFFFFF"))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        for placed in scene.painted:
            seen = placed.printing or not rendering.proof
            if seen and (dirty is None or reach(placed).touches(within)):
                paint_placed(painter, placed, self.pictures, rendering, scene.is_master)
        painter.restore()


class _Ground:
    """The desk and the shadows of its sheets: the same for every spread."""

    def __init__(self) -> None:
        self._key: object = None
        self._pixmap = QPixmap()

    def pixmap(
        self, sheets: tuple[ShownFace, ...], view: View, size: QSize, ratio: float, desk: str
    ) -> QPixmap:
        places = [(s.face.x, s.scene.width, s.scene.height) for s in sheets]
        key = (places, view, size, ratio, desk)
        if key != self._key:
            self._key, self._pixmap = key, QPixmap(size * ratio)
            self._pixmap.setDevicePixelRatio(ratio)
            self._pixmap.fill(QColor(desk))
            painter = QPainter(self._pixmap)
            for x, width, height in places:
                _shadow(
                    painter, QRectF(*view.to_widget(x, 0.0), width * view.zoom, height * view.zoom)
                )
            painter.end()
        return self._pixmap


def _shadow(painter: QPainter, sheet: QRectF) -> None:
    paper = QRect(round(sheet.x()), round(sheet.y()), round(sheet.width()), round(sheet.height()))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(40, 34, 26, 9))
    for n in range(_SHADOW, 0, -1):
        painter.drawRoundedRect(paper.adjusted(-n, -n + 2, n, n + 2), n, n)
