"""Another page size for 500 pages: the spread in sight, and everything that comes of it."""

from __future__ import annotations

import time
from collections.abc import Iterator

from benchmarks.measures import Row
from benchmarks.publication import large


def resizing_rows() -> Iterator[Row]:
    """In milliseconds, hot: the pages have been seen in the size that they have."""
    from hidden_frame.checks.resized import telling
    from hidden_frame.compose.composer import Composer
    from hidden_frame.edit.size.resize import NewSize, resize_pages, resizing
    from hidden_frame.model.geometry import Size
    from hidden_frame.model.lookup import all_pages
    from hidden_frame.model.slices import at_once
    from hidden_frame.settle.settling import settled

    publication, blobs = large()
    composer = Composer()
    publication = settled(publication, composer)
    composer.compose(publication).scenes()
    pages = [p.id for p in all_pages(publication)]
    trim = publication.setup.trim
    seen = pages[200:202]
    first, moved, whole = [], [], []
    for n in range(1, 6):
        size = Size(trim.width - 3 * n, trim.height - 5 * n)
        start = time.perf_counter()
        draft = resize_pages(publication, NewSize(size), seen)
        composition = composer.compose(draft)
        for page in seen:
            composition.scene(page)
        first.append(time.perf_counter() - start)
        start = time.perf_counter()
        made = at_once(resizing(publication, NewSize(size)))
        moved.append(time.perf_counter() - start)
        made = settled(made, composer)
        at_once(telling(publication, made, composer, blobs))
        whole.append(time.perf_counter() - start)
    yield Row("the spread in sight, in another size", 1000 * sorted(first)[2], "ms", 50)
    yield Row(f"{len(pages)} pages moved", 1000 * sorted(moved)[2], "ms", None)
    yield Row(f"{len(pages)} pages: all known", 1000 * sorted(whole)[2], "ms", 1000)
    items = sum(len(p.items) for s in publication.sections for p in s.pages)
    yield Row("items on them", items, "", None)
