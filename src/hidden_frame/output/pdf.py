"""A publication as PDF: pages with their boxes, labels, title and bookmarks.

>>> export_pdf(Composer().compose(publication), blobs, "almanac.pdf")
"""

from __future__ import annotations

import io
import os
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from reportlab.pdfgen.canvas import Canvas

from hidden_frame.compose.composer import Composition
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.folios import in_range
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.output.pdf_page import PageWriter
from hidden_frame.storage.files import write_atomically

# Called after each page with pages done and pages in all; False stops the export.
Progress = Callable[[int, int], bool]

_STYLES = {
    "decimal": "ARABIC",
    "lower roman": "ROMAN_LOWER",
    "upper roman": "ROMAN_UPPER",
    "lower letters": "LETTERS_LOWER",
    "upper letters": "LETTERS_UPPER",
    "none": None,
}


class Cancelled(Exception):
    """The export was stopped by its progress function; nothing was written."""


def export_pdf(
    composition: Composition,
    blobs: Mapping[str, bytes],
    path: str | os.PathLike[str],
    pages: Sequence[str] | None = None,
    progress: Progress | None = None,
) -> None:
    """Writes pages (ids; all if None) to a PDF file, which is replaced only when complete."""
    write_atomically(Path(path), pdf_bytes(composition, blobs, pages, progress))


def pdf_bytes(
    composition: Composition,
    blobs: Mapping[str, bytes],
    pages: Sequence[str] | None = None,
    progress: Progress | None = None,
) -> bytes:
    """The PDF in memory; raises `Cancelled` if the progress function says so."""
    facts = composition.facts
    chosen = list(facts) if pages is None else list(pages)
    if not chosen:
        raise Refusal("There is no page to export; choose at least one.")
    setup = composition.publication.setup
    bleed, trim = setup.bleed, setup.trim
    size = (trim.width + 2 * bleed, trim.height + 2 * bleed)
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=size, pageCompression=1, invariant=1, pdfVersion=(1, 7))
    canvas.setTitle(composition.publication.title)
    canvas.setCreator("Hidden Frame")
    canvas.setProducer("Hidden Frame")
    # ISO 32000-1, 14.11.2: the trim box within the bleed box within the media box.
    canvas.setBleedBox((0, 0, *size))
    canvas.setTrimBox((bleed, bleed, bleed + trim.width, bleed + trim.height))
    _viewing(canvas, setup, facts[chosen[0]].side)
    for label in page_labels(composition.publication, [facts[i] for i in chosen]):
        canvas.addPageLabel(label.first, _STYLES[label.style], label.start, label.prefix or None)
    writer = PageWriter(canvas, blobs)
    section = ""
    for number, page_id in enumerate(chosen, 1):
        if facts[page_id].section_id != section:
            section = facts[page_id].section_id
            _bookmark(canvas, facts[page_id])
        writer.page(composition.scene(page_id))
        canvas.showPage()
        if progress is not None and not progress(number, len(chosen)):
            raise Cancelled
    writer.finish()
    canvas.save()
    return buffer.getvalue()


def _viewing(canvas: Canvas, setup: Setup, first: Side) -> None:
    """How a reader lays pages out: in pairs with the odd ones, counted in the file, on the
    side of the first (`/PageLayout`, ISO 32000-1, table 28), and the reading direction
    (`/Direction`, table 150)."""
    pairs = "TwoPageRight" if first == "recto" else "TwoPageLeft"
    canvas._doc.Catalog.setPageLayout(pairs if setup.facing else "SinglePage")
    if setup.direction == "right to left":
        canvas.setViewerPreference("Direction", "R2L")


def _bookmark(canvas: Canvas, facts: PageFacts) -> None:
    if facts.section_name:
        canvas.bookmarkPage(facts.section_id)
        canvas.addOutlineEntry(facts.section_name, facts.section_id, level=0)


class Label(NamedTuple):
    """A page label range from page `first` (counted from 0) on: ISO 32000-1, 12.4.2."""

    first: int
    style: str
    start: int | None
    prefix: str


def page_labels(publication: Publication, facts: Sequence[PageFacts]) -> list[Label]:
    """The label ranges that make a reader show the folios of these pages.

    A range starts with each section, where pages were left out, and where a style
    that can't write a number gives way to decimal.
    """
    numbering = {section.id: section.numbering for section in publication.sections}
    labels: list[Label] = []
    before: tuple[object, ...] = ()
    for index, page in enumerate(facts):
        style = numbering[page.section_id].style
        if page.number is not None and style != "none" and not in_range(page.number, style):
            style = "decimal"
        start = page.number if style != "none" else None
        expected = (page.section_id, style, start)
        if expected != before:
            prefix = numbering[page.section_id].prefix if style != "none" else ""
            labels.append(Label(index, style, start, prefix))
        before = (page.section_id, style, None if start is None else start + 1)
    return labels
