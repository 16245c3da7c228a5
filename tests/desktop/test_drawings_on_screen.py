"""SVG drawings on the screen against resvg, as a whole and in the parts that are in sight."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from hidden_frame.compose.scene import Drawing, PicturePrimitive, Placed, Scene
from hidden_frame.desktop.painter import pictures
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import paint_scene
from hidden_frame.model.plane.matrix import Matrix
from hidden_frame.storage.pictures import picture_from_bytes
from svg_samples import SCALE, WHOLE, by_resvg, differing, near, svg


def painted(data, scale=SCALE / 0.75, part=None, shelf=None):
    """The drawing on a page of its own, as the desk paints it at a scale; or a part of it."""
    picture, blob = picture_from_bytes(data, "a.svg")
    w, h = picture.width, picture.height
    clip = (("M", 0.0, 0.0), ("L", w, 0.0), ("L", w, h), ("L", 0.0, h), ("Z",))
    primitive = PicturePrimitive(picture.hash, "svg", (0.0, 0.0, w, h), clip)
    placed = Placed(Drawing((primitive,), w, h), Matrix(), "a", None, (), True, False)
    left, top, width, height = part or (0.0, 0.0, w, h)
    image = QImage(round(width * scale), round(height * scale), QImage.Format.Format_RGB888)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.scale(scale, scale)
    painter.translate(-left, -top)
    painter.setClipRect(QRectF(left, top, width, height))
    scene = Scene("p", "recto", (w, h), 0.0, (placed,))
    paint_scene(painter, scene, shelf or PictureShelf({picture.hash: blob}))
    painter.end()
    rows = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), -1)
    rows = rows[:, : image.width() * 3]
    return rows.reshape(image.height(), image.width(), 3).astype(int)


@pytest.mark.parametrize("name", WHOLE)
def test_a_drawing_on_the_screen_is_as_an_independent_renderer_draws_it(qapp, name):
    data = svg(name)
    assert differing(painted(data), by_resvg(data)) < near(name)


def test_a_part_in_sight_is_the_same_as_that_part_of_the_whole(qapp, monkeypatch):
    data = svg("arcs and curves")
    whole = painted(data, 8)
    monkeypatch.setattr(pictures, "_WHOLE", 1_000)
    monkeypatch.setattr(pictures, "_TILE", 64)
    part = painted(data, 8, (20.0, 30.0, 15.0, 12.0))
    assert part.std() > 10
    assert differing(part, whole[240:336, 160:280]) < 0.005


def test_near_by_only_the_part_in_sight_is_painted(qapp):
    """At 3,200 % a drawing would be larger than the budget for pictures as a whole."""
    data = svg("mask")
    picture, blob = picture_from_bytes(data, "a.svg")
    shelf = PictureShelf({picture.hash: blob})
    image = painted(data, 128, (10.0, 10.0, 6.0, 4.0), shelf)
    assert (image.max(axis=2) < 200).any()
    assert 0 < shelf._used < 16_000_000
