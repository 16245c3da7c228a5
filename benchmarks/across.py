"""What pictures over the spine cost: painting a spread, and checking 800 pages of such spreads,
beside the same with as much picture on either page."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from statistics import median

from msgspec.structs import replace

from benchmarks.measures import Row, _application, _forget
from benchmarks.publication import large
from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication

_TURNS = 15


def across_rows() -> Iterator[Row]:
    """The painted spread, and the checks."""
    _application()
    publication, blobs = large(pages=800)
    digest = publication.pictures[0].hash
    pages = [p.id for p in all_pages(publication)]
    width = publication.setup.trim.width
    over = beside = publication
    for left, right in zip(pages[1::2], pages[2::2], strict=False):
        one = PictureFrame(
            id="", x=width - 150, y=80, width=300, height=150, picture=digest, fit="fill"
        )
        over, _ = add_item(over, left, one)
        beside, _ = add_item(beside, left, replace(one, width=150))
        beside, _ = add_item(beside, right, replace(one, x=0, width=150))
    paints = [_painting(p, blobs, pages[1:3]) for p in (over, beside)]
    yield Row("a spread painted, a picture over its spine / one on either page", _ratio(*paints),
              "ratio", 1.1)  # fmt: skip
    checks = [_checking(p, blobs) for p in (over, beside)]
    yield Row("800 pages checked, with them / with one on either page", _ratio(*checks, turns=5),
              "ratio", 1.1)  # fmt: skip


def _ratio(one: Callable[[], None], other: Callable[[], None], turns: int = _TURNS) -> float:
    """How much longer one takes than the other, in turns."""
    ratios = []
    for _ in range(turns):
        took = []
        for work in (one, other):
            begin = time.perf_counter()
            work()
            took.append(time.perf_counter() - begin)
        ratios.append(took[0] / took[1])
    return median(ratios)


def _painting(
    publication: Publication, blobs: dict[str, bytes], pages: list[str]
) -> Callable[[], None]:
    from PySide6.QtGui import QImage, QPainter

    from hidden_frame.desktop.painter.pictures import PictureShelf
    from hidden_frame.desktop.painter.scene import paint_scene

    composition, shelf = Composer().compose(publication), PictureShelf(blobs)
    scenes = [composition.scene(page) for page in pages]

    def paint() -> None:
        image = QImage(1280, 800, QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(0xFFFFFFFF)
        painter = QPainter(image)
        for n, scene in enumerate(scenes):
            painter.save()
            painter.translate(n * scene.width, 0)
            painter.setClipRect(0, 0, round(scene.width), round(scene.height))
            paint_scene(painter, scene, shelf)
            painter.restore()
        painter.end()

    paint()
    return paint


def _checking(publication: Publication, blobs: dict[str, bytes]) -> Callable[[], None]:
    def check() -> None:
        _forget()
        content_findings(Composer().compose(publication), blobs)

    return check
