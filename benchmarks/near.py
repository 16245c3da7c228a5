"""Near by and in print: large type at 600 %, large pictures and a large drawing exported."""

from __future__ import annotations

import hashlib
import io
import time
from collections.abc import Iterator
from statistics import median

import numpy as np
from PIL import Image

from benchmarks.desk import _frames, _rows, wheel_of
from benchmarks.measures import Row, _timed, _window
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.storage.drawings import convert
from hidden_frame.storage.pictures import picture_from_bytes

WORDS = "An evening with clear skies and no moon is worth more than a good book. " * 22


def _titled() -> Publication:
    """A page with a title of 64 pt above 300 words."""
    publication = new_publication("Near", Setup(trim=TRIMS["A4"]), 2)
    page = all_pages(publication)[0].id
    title = (Paragraph("heading", (Run("Night sky", None, Look(size=64.0)),)),)
    frame = TextFrame(id="", x=40, y=20, width=500, height=90, text=title)
    publication, _ = add_item(publication, page, frame)
    text = (Paragraph("body", (Run(WORDS),)),)
    frame = TextFrame(id="", x=40, y=110, width=500, height=700, text=text)
    return add_item(publication, page, frame)[0]


def _look(app, window, zoom: float, x: float, y: float) -> None:  # type: ignore[no-untyped-def]
    """A place of the first page at the desk's corner; what is measured must be in sight."""
    desk = window.desk
    left = window.session.faces()[0].x + x
    desk.camera.view = desk.camera.view._replace(zoom=zoom, dx=-left * zoom, dy=-y * zoom)
    desk.repaint()
    app.processEvents()
    image = desk.paper._pixmap.toImage()
    places = ((x, y) for x in range(0, image.width(), 7) for y in range(0, image.height(), 9))
    assert len({image.pixel(*place) for place in places}) > 3, "nothing is in sight"


def near_by() -> Iterator[Row]:
    """At 600 % with a title and words in sight: painted anew, and scrolled."""
    from PySide6.QtCore import Qt

    app, window = _window(_titled(), {})
    desk = window.desk
    window.thumbnails.finish()
    _look(app, window, 6.0, 40.0, 55.0)

    def paint() -> None:
        desk.paper.forget()

    times = _frames(app, desk, [paint] * 30)
    yield Row("painted anew at 600 %, median", median(times), "ms", 33)
    wheel, none = wheel_of(app, desk), Qt.KeyboardModifier.NoModifier
    turns = [lambda n=n: wheel(n, none) for n in range(80)]
    yield from _rows("scroll at 600 %", _frames(app, desk, turns))
    _look(app, window, 16.0, 40.0, 20.0)
    times = _frames(app, desk, [paint] * 20)
    yield Row("painted anew at 1,600 %, median", median(times), "ms", 33)
    window.close()


def _photograph(width: int, height: int, kind: str) -> bytes:
    """A picture with the grain of a photograph, which no compression makes small."""
    rng = np.random.default_rng(7)
    small = rng.integers(0, 255, (height // 16, width // 16, 3), np.uint8)
    image = Image.fromarray(small).resize((width, height), Image.Resampling.BICUBIC)
    grain = rng.integers(-9, 9, (height, width, 1), np.int16)
    pixels = np.clip(np.asarray(image).astype(np.int16) + grain, 0, 255).astype(np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, kind, **({"quality": 90} if kind == "JPEG" else {}))
    return buffer.getvalue()


def _with_picture(data: bytes, name: str) -> tuple[Publication, dict[str, bytes]]:
    picture, blob = picture_from_bytes(data, name)
    publication = put_picture(new_publication("P", Setup(trim=TRIMS["A4"]), 1), picture)
    frame = PictureFrame(id="", x=30, y=30, width=500, height=400, picture=picture.hash)
    publication, _ = add_item(publication, all_pages(publication)[0].id, frame)
    return publication, {picture.hash: blob}


def _exported(publication: Publication, blobs: dict[str, bytes]) -> tuple[float, int]:
    """Seconds, without composing, and bytes."""
    composition = Composer().compose(publication)
    composition.scenes()
    made: list[bytes] = []
    times = [_timed(lambda: made.append(pdf_bytes(composition, blobs))) for _ in range(3)]
    return min(times), len(made[-1])


def pictures() -> Iterator[Row]:
    """A JPEG of 24 megapixels and a PNG of 16: passed through, not decoded."""
    for kind, size, target in (("JPEG", (6000, 4000), 100), ("PNG", (4900, 3266), 500)):
        data = _photograph(*size, kind)
        seconds, length = _exported(*_with_picture(data, f"a.{kind.lower()}"))
        pixels = round(size[0] * size[1] / 1e6)
        yield Row(f"export a {kind} of {pixels} MP", seconds * 1000, "ms", target)
        yield Row(f"its bytes in the PDF / in the file ({kind})", length / len(data), "ratio", 1.02)


def _large_drawing() -> bytes:
    """About 200 kB of curves and gradients, each in its place as in a map."""
    rng = np.random.default_rng(3)
    shapes = []
    for n in range(1_250):
        x, y = rng.uniform(0, 950, 2)
        points = " ".join(f"{v:.2f}" for v in np.add(rng.uniform(0, 70, (9, 2)), (x, y)).flat)
        fill = f"url(#g{n % 8})" if n % 10 == 0 else f"#{n % 9}{n % 7}c"
        shapes.append(f'<path d="M{x:.2f} {y:.2f}C{points}Z" fill="{fill}" stroke="#123"/>')
    stops = "".join(
        f'<linearGradient id="g{n}"><stop stop-color="#{n}6{n}"/><stop offset="1" '
        f'stop-color="#f{n}c"/></linearGradient>' for n in range(8)
    )  # fmt: skip
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="1000">'
    return f"{head}<defs>{stops}</defs>{''.join(shapes)}</svg>".encode()


def drawing() -> Iterator[Row]:
    """An SVG of 200 kB: placed, painted at three zooms, exported."""
    data = _large_drawing()
    yield Row("size of the drawing", len(data) / 1000, "kB")
    # As on a machine that has never seen it.
    kept = convert._pdf
    convert._pdf = lambda d, n: convert._convert(d, n)  # type: ignore[assignment]
    start = time.perf_counter()
    publication, blobs = _with_picture(data, "large.svg")
    yield Row("drawing placed, made into PDF", (time.perf_counter() - start) * 1000, "ms", 1000)
    convert._pdf = kept
    app, window = _window(publication, blobs)
    desk = window.desk
    for percent in (100, 400, 1600):
        _look(app, window, percent / 100, 150.0, 150.0)

        def paint() -> None:
            desk.paper.forget()
            window.pictures._scaled.clear()

        times = _frames(app, desk, [paint] * 5)
        yield Row(f"drawing painted anew at {percent} %, median", median(times), "ms", 250)
    window.close()
    seconds, length = _exported(publication, blobs)
    yield Row("drawing exported", seconds * 1000, "ms", 250)
    yield Row("its bytes in the PDF", length / 1000, "kB")
    assert hashlib.sha256(data).hexdigest() in blobs
