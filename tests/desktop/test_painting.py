"""The screen's painting and the PDF's rasterisation by PDFium differ in few pixels only."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image
from PySide6.QtGui import QImage, QPainter

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Look, paint_scene
from hidden_frame.output.png import page_images

SCALE = 1.5
# A pixel differs if any channel is off by more than a quarter of full scale.  Photographs
# are resampled by other filters, which shows around single stars.
OFF, SHARE, SHARE_PICTURE = 64, 0.01, 0.025


def on_screen(scene, pictures):
    image = QImage(
        round(scene.width * SCALE), round(scene.height * SCALE), QImage.Format.Format_RGB888
    )
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.scale(SCALE, SCALE)
    paint_scene(painter, scene, pictures, Look(proof=True))
    painter.end()
    data = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), -1)
    return data[:, : image.width() * 3].reshape(image.height(), image.width(), 3).astype(int)


@pytest.mark.parametrize("position", [1, 3, 4, 5, 6, 7, 8, 9, 12, 13, 27, 28, 29, 32])
def test_screen_and_pdf_agree(demo, qapp, position):
    publication, blobs = demo
    composition = Composer().compose(publication)
    page = list(composition.facts)[position - 1]
    screen = on_screen(composition.scene(page), PictureShelf(blobs))
    png = next(page_images(composition, blobs, [page], 72 * SCALE))
    printed = np.array(Image.open(io.BytesIO(png)).convert("RGB")).astype(int)
    rows, columns = (min(a, b) for a, b in zip(screen.shape[:2], printed.shape[:2], strict=True))
    difference = np.abs(screen[:rows, :columns] - printed[:rows, :columns]).max(axis=2)
    pictured = any(
        type(p).__name__ == "PicturePrimitive" and p.kind == "jpg"
        for placed in composition.scene(page).placed
        for p in placed.drawing.primitives
    )
    assert (difference > OFF).mean() < (SHARE_PICTURE if pictured else SHARE)
