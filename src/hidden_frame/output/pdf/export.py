"""From a composition to the bytes of a PDF.

>>> export_pdf(composition, blobs, folder / "notes.pdf", [page]).sentences
()
"""

from __future__ import annotations

import os
from collections.abc import Iterator, Mapping, Sequence
from contextlib import ExitStack, contextmanager
from datetime import datetime
from pathlib import Path
from typing import Any, NamedTuple

import pikepdf
from pikepdf import Array, Dictionary, Name, OutlineItem

from hidden_frame.compose.batches import scenes_of
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.scene import Scene
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.invariants import MAX_BLEED
from hidden_frame.model.memory import MEMORY, settle_each
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.output.pdf.information import inform
from hidden_frame.output.pdf.labels import label_tree, page_labels
from hidden_frame.output.pdf.links import bookmarks, link
from hidden_frame.output.pdf.page import PageWriter
from hidden_frame.output.pdf.rasters import rasters_of
from hidden_frame.output.pdf.spool import Spool
from hidden_frame.output.pdf.writing import Cancelled, Progress, Work, to_file, to_memory
from hidden_frame.storage.files import way_out

_KIDS = 64  # of a node in the tree of pages

__all__ = ["Cancelled", "ExportReport", "Progress", "export_pdf", "pdf_bytes"]


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
    work = _work(composition, pages, progress, bleed)
    with ExitStack() as held, _room(Path(path)):
        spool = held.enter_context(Spool())
        pdf, report = _made(composition, blobs, pages, None, bleed, spool, work)
        to_file(pdf, Path(path), work, held.pop_all().close)
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
    work = _work(composition, pages, progress, bleed)
    with Spool() as spool:
        return to_memory(_made(composition, blobs, pages, when, bleed, spool, work)[0], work)


def _made(
    composition: Composition,
    blobs: Mapping[str, bytes],
    pages: Sequence[str] | None,
    when: datetime | None,
    bleed: float | None,
    spool: Spool,
    work: Work,
) -> tuple[Any, ExportReport]:
    """The document, whose pictures are still in the spool."""
    facts, publication = composition.facts, composition.publication
    chosen = list(facts) if pages is None else list(pages)
    scenes: list[Scene] = []
    coming = scenes_of(composition, chosen)
    for _ in chosen:
        with MEMORY.walk():
            scenes.append(next(coming))
        scenes[-1].rest()
        settle_each(len(scenes))
        work.more()
    rasters = rasters_of(scenes, blobs, spool, work.alive)
    pdf = spool.opened()
    writer = PageWriter(pdf, blobs, scenes, rasters, bleed)
    leaves = []
    for scene in scenes:
        leaves.append(pdf.make_indirect(writer.page(scene)))
        scene.rest()  # there may be thousands
        work.more()
    _bind(pdf, leaves)
    link(pdf, scenes, chosen, writer.bleed)
    writer.finish(work.alive)
    work.fonts()
    _catalogue(pdf, composition, [facts[i] for i in chosen])
    inform(pdf, publication, when or datetime.now())
    return pdf, ExportReport(tuple(_broken(publication, writer.pictures.broken)))


def _bind(pdf: pikepdf.Pdf, leaves: list[Any]) -> None:
    """The pages' tree, made at once and balanced (ISO 32000-1, 7.7.3.2): a page put behind the
    others costs as much as there are others."""
    root = pdf.Root.Pages
    nodes, counts = leaves, [1] * len(leaves)
    while len(nodes) > _KIDS:
        above, sums = [], []
        for at in range(0, len(nodes), _KIDS):
            some = nodes[at : at + _KIDS]
            sums.append(sum(counts[at : at + _KIDS]))
            node = pdf.make_indirect(Dictionary(Type=Name.Pages, Kids=Array(some), Count=sums[-1]))
            for kid in some:
                kid.Parent = node
            above.append(node)
        nodes, counts = above, sums
    root.Kids, root.Count = Array(nodes), len(leaves)
    for kid in nodes:
        kid.Parent = root


def _work(
    composition: Composition,
    pages: Sequence[str] | None,
    progress: Progress | None,
    bleed: float | None,
) -> Work:
    """What there is to do.  Raises `Refusal` where it can't be done."""
    if bleed is not None and not 0 <= bleed <= MAX_BLEED:
        raise Refusal(f"A bleed of {bleed:g} pt can't be exported; give 0 to {MAX_BLEED:g} pt.")
    count = len(composition.facts if pages is None else pages)
    if not count:
        raise Refusal("There is no page to export; choose at least one.")
    return Work(progress, count)


@contextmanager
def _room(path: Path) -> Iterator[None]:
    """A full disk under the spool is told as one under the file is."""
    try:
        yield
    except OSError as error:
        raise Refusal(
            f"“{path.name}” could not be written ({error.strerror or error}); "
            f"{way_out(error, 'look at your own folder')}, where pictures wait for the export."
        ) from error


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
