"""The mean colours of a drawing in cells, as pictures of pixels have them."""

from __future__ import annotations

import numpy as np

from hidden_frame.model.publication import TONES

_FINE = 8  # pixels to a cell that are painted, in each direction


def tones_of_drawing(pdf: bytes) -> bytes:
    """A drawing's mean colours in `TONES` × `TONES` cells: sRGB and opacity, row by row from the
    upper left; empty where it can't be painted.  `pdf` is what the engine made of it."""
    import pypdfium2 as pdfium
    from PIL import Image

    side = TONES * _FINE
    try:
        document = pdfium.PdfDocument(pdf)
        try:
            page = document[0]
            width, height = page.get_size()
            scale = side / max(width, height, 1e-6)
            image = page.render(
                scale=scale, fill_color=(0, 0, 0, 0), rev_byteorder=True, maybe_alpha=True
            ).to_pil()
        finally:
            document.close()
    except pdfium.PdfiumError:
        return b""
    if image.mode != "RGBA":
        image = image.convert("RGBA")
    small = image.convert("RGBa").resize((TONES, TONES), Image.Resampling.BOX).convert("RGBA")
    return np.asarray(small).tobytes()
