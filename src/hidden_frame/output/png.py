"""Pages as PNG, rasterised from the very PDF that would be printed.

>>> [path.name for path in export_png(composition, blobs, "page-%d.png", [page], dpi=72)]
['page-3.png']
"""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

import pypdfium2 as pdfium

from hidden_frame.compose.composition import Composition
from hidden_frame.model.errors import Refusal
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.storage.files import write_atomically

MAX_PIXELS = 120_000_000  # of one page; a bigger one would not fit many machines' memory


def export_png(
    composition: Composition,
    blobs: Mapping[str, bytes],
    pattern: str,
    pages: Sequence[str] | None = None,
    dpi: float = 144,
) -> list[Path]:
    """Writes a PNG of each page's trim; `%d` in the name becomes the page's position."""
    chosen = list(composition.facts) if pages is None else list(pages)
    if pattern.count("%d") != 1 and len(chosen) > 1:
        raise Refusal(f"“{pattern}” names one file for {len(chosen)} pages; put %d in it once.")
    trim = composition.publication.setup.trim
    if not dpi >= 1 or trim.width * trim.height * (dpi / 72) ** 2 > MAX_PIXELS:
        raise Refusal(f"{dpi:g} dpi is not possible for this trim size; choose a lower number.")
    written = []
    images = page_images(composition, blobs, chosen, dpi)
    for page_id, data in zip(chosen, images, strict=True):
        position = composition.facts[page_id].position
        path = Path(pattern.replace("%d", str(position)))
        write_atomically(path, data)
        written.append(path)
    return written


def page_images(
    composition: Composition, blobs: Mapping[str, bytes], pages: Sequence[str], dpi: float
) -> Iterator[bytes]:
    """PNG bytes of each page's trim, without bleed."""
    setup = composition.publication.setup
    left, bottom = setup.bleed, setup.bleed
    document = pdfium.PdfDocument(pdf_bytes(composition, blobs, pages))
    try:
        for number in range(len(document)):
            page = document[number]
            page.set_cropbox(left, bottom, left + setup.trim.width, bottom + setup.trim.height)
            image = page.render(scale=dpi / 72).to_pil()
            buffer = io.BytesIO()
            image.save(buffer, "PNG", dpi=(dpi, dpi))
            yield buffer.getvalue()
    finally:
        document.close()
