"""The screen's painting and the PDF's rasterisation by PDFium differ in few pixels only."""

from __future__ import annotations

import io

import numpy as np
import pypdfium2 as pdfium
import pytest
from msgspec.structs import replace
from PIL import Image
from PySide6.QtCore import QRectF
from PySide6.QtGui import QImage, QPainter

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.painter.pictures import PictureShelf
from hidden_frame.desktop.painter.scene import Rendering, paint_scene
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Colour
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Look as CharacterLook
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.output.png import page_images

SCALE = 1.5
# A pixel differs if any channel is off by more than a quarter of full scale.  Photographs
# are resampled by other filters, which shows around single stars.  Letters differ along their
# edges: a page of two full columns, an eighth of it inked, in 12 pixels of a thousand.
OFF, SHARE, SHARE_PICTURE = 64, 0.014, 0.025


def on_screen(scene, pictures):
    image = QImage(
        round(scene.width * SCALE), round(scene.height * SCALE), QImage.Format.Format_RGB888
    )
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.scale(SCALE, SCALE)
    paint_scene(painter, scene, pictures, Rendering(proof=True))
    painter.end()
    data = np.frombuffer(image.constBits(), np.uint8).reshape(image.height(), -1)
    return data[:, : image.width() * 3].reshape(image.height(), image.width(), 3).astype(int)


def in_rgb_black(publication):
    """Ink in RGB: black ink alone is not quite black to PDFium, by a table of its own."""
    ink = Colour(id="ink", name="Ink")
    return replace(
        publication, colours=tuple(ink if c.id == "ink" else c for c in publication.colours)
    )


@pytest.mark.parametrize("position", [1, 3, 4, 5, 6, 7, 8, 9, 12, 13, 27, 28, 29, 32])
def test_screen_and_pdf_agree(demo, qapp, position):
    publication, blobs = demo
    publication = in_rgb_black(publication)
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


def inked(scene, data, zoom, area, clipped=True):
    """The same part of a page by both painters, as darkness from 0 to 1, at a zoom."""
    x, y, w, h = area
    size = round(w * zoom), round(h * zoom)
    image = QImage(*size, QImage.Format.Format_RGB888)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    painter.translate(-x * zoom, -y * zoom)
    painter.scale(zoom, zoom)
    if clipped:
        painter.setClipRect(QRectF(x, y, w, h))
    paint_scene(painter, scene, PictureShelf({}), Rendering(proof=True))
    painter.end()
    rows = np.frombuffer(image.constBits(), np.uint8).reshape(size[1], -1)
    screen = 1 - rows[:, : size[0] * 3].reshape(size[1], size[0], 3).mean(axis=2) / 255
    page = pdfium.PdfDocument(data)[0]
    crop = (x, scene.height - y - h, scene.width - x - w, y)
    paper = page.render(scale=zoom, crop=crop).to_pil().convert("L").resize(size)
    return screen, 1 - np.asarray(paper) / 255


@pytest.mark.parametrize("zoom", [0.5, 1, 4, 16])
@pytest.mark.parametrize("size", [7, 10, 24, 62, 150])
@pytest.mark.parametrize("family", ["Spectral", "Alegreya Sans"])
def test_type_of_every_size_is_painted_at_every_zoom(qapp, zoom, size, family):
    """The ink of a line against PDFium's, on the whole and place by place."""
    publication = in_rgb_black(new_publication("T", Setup(trim=Size(700, 400)), 1))
    page = all_pages(publication)[0].id
    rendering = CharacterLook(size=float(size), family=family)
    text = (Paragraph("body", (Run("Haze X\u0301q\u0323 & dusk é, 62 fi", None, rendering),)),)
    styles = (replace(publication.paragraph_styles[0], leading=1.3 * size),)
    publication = replace(
        publication, paragraph_styles=(*styles, *publication.paragraph_styles[1:])
    )
    frame = TextFrame(id="", x=10, y=10, width=680, height=380, text=text)
    publication, _ = add_item(publication, page, frame)
    composition = Composer().compose(publication)
    scene, data = composition.scene(page), pdf_bytes(composition, {})
    area = (10, 10, min(680, 12 * size), min(380, 1.6 * size))
    if zoom == 16:
        area = (10, 10, min(area[2], 100), min(area[3], 90))
    screen, paper = inked(scene, data, zoom, area)
    assert paper.sum() > 3
    # PDFium darkens small type a little; above some 40 pixels the two agree.
    pixels = size * zoom
    near = 0.6 if pixels < 5 else 0.2 if pixels < 13 else 0.1 if pixels < 40 else 0.04
    assert screen.sum() == pytest.approx(paper.sum(), rel=near)
    assert np.abs(screen - paper).mean() < (0.08 if pixels < 5 else 0.05)
