"""A picture dragged beneath forty heads that have a colour for dark ground, and the same heads
without one: frames of the real window."""

from __future__ import annotations

import io
import time
from collections.abc import Iterator
from statistics import median

import numpy as np
from msgspec.structs import replace
from PIL import Image

from benchmarks.measures import Row, _window
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.pictures import picture_from_bytes

_HEADS, _FRAMES = 40, 60


def heads(on_dark: str | None) -> tuple[Publication, dict[str, bytes], str, str]:
    """A page with forty heads above a picture that is dark on one side; it and the picture."""
    shade = np.linspace(0, 255, 600).astype(np.uint8)
    data = io.BytesIO()
    Image.fromarray(np.repeat(shade[None, :], 400, axis=0)).convert("RGB").save(data, "PNG")
    picture, blob = picture_from_bytes(data.getvalue(), "night.png")
    made = new_publication("Heads", Setup(trim=TRIMS["A4"], bleed=9), 2)
    made = replace(made, pictures=(picture,))
    page = all_pages(made)[0].id
    for n in range(_HEADS):
        row, column = divmod(n, 4)
        words = (Paragraph("heading", (Run(f"Head {n}"),)),)
        frame = TextFrame(id="", x=20 + column * 140, y=30 + row * 78, width=130, height=30,
                          text=words, layer="above", on_dark=on_dark)  # fmt: skip
        made, _ = add_item(made, page, frame)
    ground = PictureFrame(id="", x=0, y=0, width=420, height=400, picture=picture.hash,
                          fit="fill", layer="ground")  # fmt: skip
    made, item = add_item(made, page, ground)
    return made, {picture.hash: blob}, page, item


def lit_rows() -> Iterator[Row]:
    """Milliseconds a frame, and how much slower the two colours make it."""
    times = {}
    for name, colour in (("one colour", None), ("two colours", "paper")):
        publication, blobs, page, item = heads(colour)
        app, window = _window(publication, blobs)
        session, desk = window.session, window.desk
        session.show_page(page)
        app.processEvents()
        now = session.history.now
        frames = []
        for n in range(_FRAMES):
            start = time.perf_counter()
            at = {"x": float(n * 3), "y": float(n * 5)}
            session.set_draft(change_items(now, page, {item: at}))
            desk.repaint()
            app.processEvents()
            frames.append(1000 * (time.perf_counter() - start))
        session.set_draft(None)
        times[name] = median(frames[5:])
        yield Row(f"a picture dragged beneath {_HEADS} heads of {name}", times[name], "ms", None)
        window.close()
    yield Row("two colours / one", times["two colours"] / times["one colour"], "ratio", 2)
