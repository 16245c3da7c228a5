"""SVG drawings on the screen: the very PDF that is printed, painted by PDFium."""

from __future__ import annotations

from collections import OrderedDict
from typing import Any, NamedTuple
from weakref import finalize

from PySide6.QtCore import QRect
from PySide6.QtGui import QImage

_OPEN = 24  # documents kept open


class _Opened(NamedTuple):
    """A drawing's document and its only page, both of PDFium; None, None if it can't be drawn."""

    document: Any
    page: Any

    def close(self) -> None:
        """The page first: it lives in its document."""
        for each in (self.page, self.document):
            if each is not None:
                each.close()


class Drawings:
    """Paints parts of drawings at any size.  What it opened it closes: with `close`, or when it
    goes, at the latest before the program ends."""

    def __init__(self) -> None:
        self._open: OrderedDict[str, _Opened] = OrderedDict()
        self.close = finalize(self, _close, self._open)

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
        if digest in self._open:
            self._open.move_to_end(digest)
            return self._open[digest].page
        opened = self._open[digest] = _opened(digest, data)
        while len(self._open) > _OPEN:
            self._open.popitem(last=False)[1].close()
        return opened.page


def _close(opened: OrderedDict[str, _Opened]) -> None:
    while opened:
        opened.popitem()[1].close()


def _opened(digest: str, data: bytes) -> _Opened:
    import pypdfium2 as pdfium

    from hidden_frame.model.errors import Refusal
    from hidden_frame.storage.drawings import drawn

    try:
        document = pdfium.PdfDocument(drawn(digest, data).pdf)
        return _Opened(document, document[0])
    except (Refusal, pdfium.PdfiumError):
        return _Opened(None, None)
