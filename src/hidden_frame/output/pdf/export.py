"""From a composition to the bytes of a PDF.

>>> export_pdf(composition, blobs, folder / "notes.pdf", [page]).sentences
()
"""

from __future__ import annotations

import io
import os
from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from pathlib import Path
from typing import Any, NamedTuple

import pikepdf
from pikepdf import Array, Dictionary, Name, OutlineItem

from hidden_frame.compose.composer import Composition
from hidden_frame.compose.facts import PageFacts
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.invariants import MAX_BLEED
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.output.pdf.information import inform
from hidden_frame.output.pdf.labels import label_tree, page_labels
from hidden_frame.output.pdf.links import bookmarks, link
from hidden_frame.output.pdf.page import PageWriter
from hidden_frame.storage.files import write_atomically

# Called with work done and work in all; False stops the export.
Progress = Callable[[int, int], bool]
_FONTS, _FILE = 5, 10  # shares of the work, in per cent of that on pages


class Cancelled(Exception):
    """The export was stopped by its progress function; nothing was written."""


class ExportReport(NamedTuple):
    """What could not be printed, a sentence each; empty where everything was."""

    sentences: tuple[str, ...] = ()


def export_pdf(
    composition: Composition,
    blobs: Mapping[str, bytes],
    path: str | os.PathLike[str],
    pages: Sequence[str] | None = None,
    progress: Progress | None = None,
    bleed: float | None = None,
) -> ExportReport:
    """Writes pages (ids; all if None) to a PDF file, which is replaced only when complete.

    `bleed` in points goes around every trim; None takes the publication's own.  Raises
    `Refusal` for one below 0 or above `MAX_BLEED`.
    """
    data, report = _made(composition, blobs, pages, progress, None, bleed)
    write_atomically(Path(path), data)
    return report


def pdf_bytes(
    composition: Composition,
    blobs: Mapping[str, bytes],
    pages: Sequence[str] | None = None,
    progress: Progress | None = None,
    when: datetime | None = None,
    bleed: float | None = None,
) -> bytes:
    """The PDF in memory, dated `when` (None: now); `bleed` as in `export_pdf`.

    Raises `Cancelled` if the progress function says so, `Refusal` where there is no page.
    """
    return _made(composition, blobs, pages, progress, when, bleed)[0]


class _Work:
    """How much is done, said to whoever wants to know; raises `Cancelled` when told to stop."""

    def __init__(self, progress: Progress | None, pages: int) -> None:
        self._progress = progress
        self._total = 2 * pages * (100 + _FONTS + _FILE) // 100 + 2
        self.done = 0

    def more(self, by: int = 1) -> None:
        self.done += by
        self.alive()

    def alive(self) -> None:
        """Asks whether to go on, where much is done for a single page."""
        if self._progress is not None and not self._progress(self.done, self._total):
            raise Cancelled

    def at(self, share: float, start: int) -> None:
        """A share (0 to 1) of what is left from `start` on is done."""
        self.done = start + int((self._total - start) * share)
        self.alive()


def _made(
    composition: Composition,
    blobs: Mapping[str, bytes],
    pages: Sequence[str] | None,
    progress: Progress | None,
    when: datetime | None,
    bleed: float | None,
) -> tuple[bytes, ExportReport]:
    if bleed is not None and not 0 <= bleed <= MAX_BLEED:
        raise Refusal(f"A bleed of {bleed:g} pt can't be exported; give 0 to {MAX_BLEED:g} pt.")
    facts = composition.facts
    chosen = list(facts) if pages is None else list(pages)
    if not chosen:
        raise Refusal("There is no page to export; choose at least one.")
    publication = composition.publication
    work = _Work(progress, len(chosen))
    scenes = []
    for page_id in chosen:
        scenes.append(composition.scene(page_id))
        work.more()
    pdf = pikepdf.Pdf.new()
    writer = PageWriter(pdf, blobs, scenes, work.alive, bleed)
    for scene in scenes:
        pdf.pages.append(pikepdf.Page(pdf.make_indirect(writer.page(scene))))
        work.more()
    link(pdf, scenes, chosen, writer.bleed)
    writer.finish()
    work.more(len(chosen) * _FONTS // 100)
    _catalogue(pdf, composition, [facts[i] for i in chosen])
    inform(pdf, publication, when or datetime.now())
    return _bytes(pdf, work), ExportReport(tuple(_broken(publication, writer.pictures.broken)))


def _bytes(pdf: pikepdf.Pdf, work: _Work) -> bytes:
    buffer = io.BytesIO()
    start = work.done
    stopped: list[Cancelled] = []

    def progress(percent: int) -> None:
        try:
            work.at(percent / 100, start)
        except Cancelled as cancelled:  # qpdf can't be stopped here, and is nearly done
            stopped.append(cancelled)

    pdf.save(
        buffer,
        object_stream_mode=pikepdf.ObjectStreamMode.generate,
        deterministic_id=True,
        min_version="1.7",
        progress=progress,
    )
    if stopped:
        raise stopped[0]
    return buffer.getvalue()


def _catalogue(pdf: pikepdf.Pdf, composition: Composition, facts: list[PageFacts]) -> None:
    """Labels, bookmarks, and how a reader opens the file."""
    publication = composition.publication
    _viewing(pdf.Root, publication.setup, facts[0].side)
    pdf.Root.PageLabels = label_tree(page_labels(publication, facts))
    numbers = {page.page_id: number for number, page in enumerate(facts)}
    with pdf.open_outline() as outline:
        line: list[tuple[int, OutlineItem]] = []
        for level, words, page_id in bookmarks(composition):
            if page_id not in numbers:
                continue
            # To the top of the page, at the zoom there is (ISO 32000-1, table 151).
            made = OutlineItem(words, Array([pdf.pages[numbers[page_id]].obj, Name.Fit]))
            while line and line[-1][0] >= level:
                line.pop()
            (line[-1][1].children if line else outline.root).append(made)
            line.append((level, made))


def _viewing(root: Any, setup: Setup, first: Side) -> None:
    """How a reader lays pages out: in pairs with the odd ones, counted in the file, on the
    side of the first (`/PageLayout`, ISO 32000-1, table 28), and the reading direction
    (`/Direction`, table 150)."""
    pairs = Name.TwoPageRight if first == "recto" else Name.TwoPageLeft
    root.PageLayout = pairs if setup.facing else Name.SinglePage
    root.ViewerPreferences = Dictionary(DisplayDocTitle=True)
    if setup.direction == "right to left":
        root.ViewerPreferences.Direction = Name.R2L


def _broken(publication: Publication, reasons: Mapping[str, str]) -> list[str]:
    names = {p.hash: p.name or p.hash[:12] for p in publication.pictures}
    return [
        f"The picture “{names.get(digest, digest[:12])}” {reason} and was left out; place it again."
        for digest, reason in reasons.items()
    ]
