"""A catalogue made by a script: 300 pages with five items each."""

from __future__ import annotations

import time
from collections.abc import Iterator

from benchmarks.measures import Row

_PAGES = 300


def catalogue() -> Iterator[Row]:
    """Each call is a step of its own, with its limits asked, as in any script."""
    import hidden_frame as hf

    start = time.perf_counter()
    book = hf.Document.new("Catalogue", trim="A5", pages=_PAGES)
    text = book.add_master("Text", margins="ninths")
    text.add_text_frame("20mm", "190mm", "100mm", "6mm", hf.marker.folio, align="outside")
    book.apply(text)
    book.section_at(3, name="Goods", start=1)
    for number, page in enumerate(book.pages, 1):
        page.add_shape(0, 0, "148mm", "30mm", fill=("Spruce", 0.3))
        page.add_text_frame("15mm", "10mm", "110mm", "12mm", f"Thing {number}", style="Heading")
        page.add_text_frame("15mm", "40mm", "55mm", "60mm", "What it is good for. " * 8)
        page.add_text_frame("75mm", "40mm", "55mm", "60mm", "What it costs, and when. " * 8)
        page.add_line("15mm", "120mm", "118mm", stroke=("Ochre", 1))
    yield Row(f"a script: {_PAGES} pages of five items", time.perf_counter() - start, "s", 2)
    assert sum(len(page.items) for page in book.pages) == 5 * _PAGES
