"""Pictures by content hash, decoded once and kept at the sizes they are shown at."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping

from PySide6.QtCore import QByteArray, QRectF, QSize, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtSvg import QSvgRenderer

_BUDGET = 96 * 1024 * 1024  # bytes of scaled pictures kept


class PictureShelf:
    """Decoded pictures; `image` gives one at about the pixel size it is needed at."""

    def __init__(self, blobs: Mapping[str, bytes]) -> None:
        self.blobs = blobs
        self._scaled: OrderedDict[tuple[str, int, int], QImage] = OrderedDict()
        self._used = 0

    def image(self, digest: str, kind: str, width: int, height: int) -> QImage | None:
        """The picture at a size in pixels; None if its bytes are missing or unreadable."""
        width, height = max(1, min(width, 6000)), max(1, min(height, 6000))
        # Steps of a quarter keep a zoom from decoding at every size on its way.
        width, height = _step(width), _step(height)
        key = (digest, width, height)
        found = self._scaled.get(key)
        if found is not None:
            self._scaled.move_to_end(key)
            return found
        data = self.blobs.get(digest)
        if data is None:
            return None
        image = _svg(data, width, height) if kind == "svg" else _raster(data, width, height)
        if image is None or image.isNull():
            return None
        self._scaled[key] = image
        self._used += image.sizeInBytes()
        while self._used > _BUDGET and len(self._scaled) > 1:
            self._used -= self._scaled.popitem(last=False)[1].sizeInBytes()
        return image


def _step(size: int) -> int:
    step = 16
    while step < size:
        step = step * 5 // 4
    return step


def _svg(data: bytes, width: int, height: int) -> QImage | None:
    renderer = QSvgRenderer(QByteArray(data))
    if not renderer.isValid():
        return None
    image = QImage(QSize(width, height), QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(Qt.GlobalColor.transparent)
    painter = QPainter(image)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    renderer.render(painter, QRectF(0, 0, width, height))
    painter.end()
    return image


def _raster(data: bytes, width: int, height: int) -> QImage | None:
    image = QImage.fromData(data)
    if image.isNull():
        return None
    if width < image.width() and height < image.height():
        image = image.scaled(
            width,
            height,
            Qt.AspectRatioMode.IgnoreAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
    return image.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)
