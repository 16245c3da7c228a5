"""Two thousand pages in forty sections on the flatplan of the real window."""

from __future__ import annotations

import resource
import time
from collections.abc import Iterator
from statistics import median, quantiles

from benchmarks.measures import Row, _timed, _window
from benchmarks.publication import large
from hidden_frame.compose.facts import page_facts
from hidden_frame.edit.pages.order import move_pages
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Numbering, Publication

PAGES, SECTIONS, MOVED = 2000, 40, 500


def sectioned() -> tuple[Publication, dict[str, bytes]]:
    """The large publication with 2,000 pages, cut into 40 sections of differing lengths."""
    publication, blobs = large(PAGES)
    pages = [p.id for p in all_pages(publication)]
    step = PAGES // SECTIONS
    for n in range(1, SECTIONS):
        at = n * step + n * 7 % 11
        numbering = Numbering(style="lower roman" if n % 9 == 0 else "decimal")
        publication, _ = start_section(publication, pages[at], f"Section {n + 1}", numbering)
    return publication, blobs


def flatplan_frames() -> Iterator[Row]:
    """Opening, scrolling with thumbnails coming in, and thumbnails by the second."""
    publication, blobs = sectioned()
    app, window = _window(publication, blobs)
    app.processEvents()
    session, view = window.session, window.flatplan.view
    start = time.perf_counter()
    session.show_flatplan()
    view.viewport().repaint()
    yield Row("flatplan of 2,000 pages to first paint", (time.perf_counter() - start) * 1000,
              "ms", 200)  # fmt: skip
    yield from _fit_all(app, window)
    view.zoom_to(90)
    for _ in range(20):
        app.processEvents()
    bar, frames = view.verticalScrollBar(), []
    for _ in range(240):
        start = time.perf_counter()
        bar.setValue(bar.value() + 40)
        app.processEvents()  # paints what the scroll has brought into sight
        frames.append((time.perf_counter() - start) * 1000)
    yield Row("scroll the flatplan, median frame", median(frames), "ms", 16)
    yield Row("scroll the flatplan, 95th percentile", quantiles(frames, n=20)[-1], "ms")
    yield from _thumbnails(window, session)
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    yield Row("peak memory with the flatplan", peak, "MB", 400)
    yield Row("thumbnails kept", window.thumbnails.used / 1024**2, "MB", 80)
    window.close()


def _fit_all(app, window) -> Iterator[Row]:  # type: ignore[no-untyped-def]
    """As small as pages are shown: to the first paint, and until all in sight have a picture."""
    view = window.flatplan.view
    start = time.perf_counter()
    view.fit_all()
    view.viewport().repaint()
    yield Row("Fit all of 2,000 pages to first paint", (time.perf_counter() - start) * 1000,
              "ms", 200)  # fmt: skip
    frames = []
    assert view.live.missing, "nothing was left to be waited for"
    while (view.live.missing or window.thumbnails.waiting) and time.perf_counter() - start < 60:
        before = time.perf_counter()
        app.processEvents()
        frames.append((time.perf_counter() - before) * 1000)
    assert not view.live.missing, f"{len(view.live.missing)} pages have no picture after a minute"
    yield Row("Fit all, every thumbnail in sight", time.perf_counter() - start, "s", 3)
    yield Row("Fit all, longest frame meanwhile", max(frames), "ms", 16)


def _thumbnails(window, session) -> Iterator[Row]:  # type: ignore[no-untyped-def]
    """How many pages are rendered in a second, composed beforehand."""
    pages = [p.id for p in all_pages(session.publication)][1000:1300]
    scenes = [session.composition.scene(p) for p in pages]
    seconds = _timed(lambda: [window.thumbnails.render(s, 64) for s in scenes])
    yield Row("thumbnails a second", len(scenes) / seconds, "pages/s")


def move_many() -> Iterator[Row]:
    """500 pages, no two adjacent, moved to another section, their new folios known."""
    publication, _ = sectioned()
    page_facts(publication)
    pages = [p.id for p in all_pages(publication)]
    chosen = pages[200 : 200 + 3 * MOVED : 3]
    times = []
    for n in range(5):
        section = publication.sections[2 + n]
        times.append(_timed(lambda s=section: page_facts(move_pages(publication, chosen, s.id, 3))))
    yield Row("move 500 pages apart, folios known", median(times) * 1000, "ms", 100)
