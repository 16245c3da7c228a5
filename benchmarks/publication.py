"""A large publication from a seeded generator: the same for the same seed."""

from __future__ import annotations

import io
import random
from collections.abc import Sequence

import numpy as np
from msgspec.structs import replace
from PIL import Image

from benchmarks.natural import english
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.masters.apply import add_master, set_default_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Page, Publication, Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.pictures import picture_from_bytes

PAGES, WORDS, PICTURES = 500, 300, 20


def page_texts(seed: int = 7, pages: int = PAGES, words: Sequence[str] | None = None) -> list[str]:
    """The text of each page: 300 words in sentences, English ones or those given, the commonest
    first."""
    rng = random.Random(seed)
    chosen_from = english() if words is None else list(words)
    # A few words are common and most are rare, as in any language.
    weights = [1 / (n + 3) for n in range(len(chosen_from))]
    texts = []
    for _ in range(pages):
        chosen = rng.choices(chosen_from, weights, k=WORDS)
        for n in range(11, WORDS, 12):
            chosen[n] += "."
        texts.append(" ".join(chosen))
    return texts


def _picture(rng: np.random.Generator) -> bytes:
    base = np.linspace(0, 255, 640)[None, :, None] * rng.random((1, 1, 3))
    wave = 60 * np.sin(np.arange(480)[:, None, None] / rng.integers(9, 60))
    image = Image.fromarray(np.clip(base + wave, 0, 255).astype(np.uint8))
    buffer = io.BytesIO()
    image.save(buffer, "JPEG", quality=80)
    return buffer.getvalue()


def large(
    pages: int = PAGES, seed: int = 7, words: Sequence[str] | None = None
) -> tuple[Publication, dict[str, bytes]]:
    """Three masters in a chain with four items each; on each page 300 words and a picture."""
    publication = new_publication("Large", Setup(trim=TRIMS["A5"], bleed=9), 1)
    blobs: dict[str, bytes] = {}
    rng = np.random.default_rng(seed)
    for number in range(PICTURES):
        picture, data = picture_from_bytes(_picture(rng), f"picture-{number}.jpg")
        publication = put_picture(publication, picture)
        blobs[picture.hash] = data
    hashes = list(blobs)
    master = publication.masters[0].id
    for level in range(3):
        if level:
            publication, master = add_master(publication, f"Level {level}", master)
        for item in _master_items(level):
            publication, _ = add_item(publication, master, item)
    publication = set_default_masters(publication, (master,))
    made = []
    next_id = publication.next_id
    for number, text in enumerate(page_texts(seed, pages, words)):
        frame = TextFrame(
            id=f"item-{next_id}", name="Text", x=42, y=60, width=340, height=420,
            text=(Paragraph("body", (Run(text),)),),
        )  # fmt: skip
        picture = PictureFrame(
            id=f"item-{next_id + 1}", name="Picture", x=42, y=490, width=90, height=60,
            picture=hashes[number % PICTURES],
        )  # fmt: skip
        made.append(Page(id=f"page-{next_id + 2}", items=(frame, picture)))
        next_id += 3
    section = replace(publication.sections[0], pages=tuple(made))
    return replace(publication, sections=(section,), next_id=next_id), blobs


def _master_items(level: int) -> list:  # type: ignore[type-arg]
    y = 20.0 + level * 8
    folio = (Paragraph("folio", (Run(f"L{level} "), Marker("folio"))),)
    plain = (Paragraph("folio", (Run(f"Running title of level {level}"),)),)
    return [
        Shape(id="", x=30 + level * 40, y=y, width=30, height=6, fill=Fill("spruce")),
        Line(id="", x=42, y=y + 9, width=340, height=0, stroke=Stroke(colour="ochre")),
        TextFrame(id="", x=300, y=555 + level * 11, width=80, height=13, text=folio),
        TextFrame(id="", x=42, y=555 + level * 11, width=200, height=13, text=plain),
    ]
