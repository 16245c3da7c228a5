"""SVG drawings on the screen: the very PDF that is printed, painted by PDFium."""

from __future__ import annotations

from collections import OrderedDict
from typing import Any

from PySide6.QtCore import QRect
from PySide6.QtGui import QImage

_OPEN = 24  # documents kept open


class Drawings:
    """Paints parts of drawings at any size."""

    def __init__(self) -> None:
        self._pages: OrderedDict[str, Any] = OrderedDict()

    def image(
        self, digest: str, data: bytes, width: int, height: int, part: QRect
    ) -> QImage | None:
        """`part` of a drawing that is `width` × `height` pixels; None if it can't be drawn."""
        page = self._page(digest, data)
        if page is None:
            return None
        import pypdfium2 as pdfium
        import pypdfium2.raw as raw

        bitmap = pdfium.PdfBitmap.new_native(part.width(), part.height(), raw.FPDFBitmap_BGRA)
        bitmap.fill_rect((0, 0, 0, 0), 0, 0, part.width(), part.height())
        raw.FPDF_RenderPageBitmap(
            bitmap, page, -part.x(), -part.y(), width, height, 0, raw.FPDF_ANNOT
        )
        image = QImage(
            bytes(bitmap.buffer),
            part.width(), part.height(), bitmap.stride, QImage.Format.Format_ARGB32,
        ).convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)  # fmt: skip
        bitmap.close()
        return image

    def _page(self, digest: str, data: bytes) -> Any:
        if digest in self._pages:
            self._pages.move_to_end(digest)
            return self._pages[digest]
        page = self._pages[digest] = _opened(digest, data)
        while len(self._pages) > _OPEN:
            self._pages.popitem(last=False)
        return page


def _opened(digest: str, data: bytes) -> Any:
    import pypdfium2 as pdfium

    from hidden_frame.model.errors import Refusal
    from hidden_frame.storage.drawings import drawn

    try:
        return pdfium.PdfDocument(drawn(digest, data).pdf)[0]
    except (Refusal, pdfium.PdfiumError):
        return None
