"""Pictures by content hash, decoded once and kept at the sizes they are shown at."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Mapping
from typing import NamedTuple

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QRect, QSize, Qt
from PySide6.QtGui import QColorSpace, QImage, QImageReader, QTransform

from hidden_frame.desktop.painter.drawings import Drawings
from hidden_frame.storage.declared import MAX_PIXELS

_BUDGET = 96 * 1024 * 1024  # bytes of scaled pictures kept
_WHOLE = 3_000_000  # pixels; of a larger drawing only the part in sight is painted
_TILE = 512  # pixels; parts begin and end at these, so that scrolling finds them again
# By orientation: whether the pixels are mirrored, then degrees of a turn clockwise.
_TURNED = {1: (False, 0), 2: (True, 0), 3: (False, 180), 4: (True, 180),
           5: (True, 270), 6: (False, 90), 7: (True, 90), 8: (False, 270)}  # fmt: skip


class PicturePart(NamedTuple):
    """An image and the part of the picture that it shows, in shares of the whole: x, y,
    width, height."""

    image: QImage
    x: float = 0.0
    y: float = 0.0
    width: float = 1.0
    height: float = 1.0


class PictureShelf:
    """Decoded pictures; `image` gives one at about the pixel size it is needed at."""

    def __init__(self, blobs: Mapping[str, bytes]) -> None:
        self.blobs = blobs
        self.drawings = Drawings()
        self._scaled: OrderedDict[tuple[object, ...], QImage] = OrderedDict()
        self._used = 0

    def image(
        self,
        digest: str,
        kind: str,
        width: float,
        height: float,
        orientation: int = 1,
        sight: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0),
    ) -> PicturePart | None:
        """The picture at a size in pixels, at least the part of it `in sight` (shares of the
        whole: left, top, right, bottom); None if its bytes are missing or unreadable."""
        if digest not in self.blobs:
            return None
        if kind == "svg":
            return self._drawing(digest, max(round(width), 1), max(round(height), 1), sight)
        # Steps of a quarter keep a zoom from decoding at every size on its way.
        size = QSize(*(_step(max(1, min(round(v), 6000))) for v in (width, height)))
        key = (digest, size.width(), size.height(), orientation)
        image = self._known(key)
        if image is None:
            data = self.blobs.get(digest)
            found = None if data is None else _raster(data, kind, size, orientation)
            image = self._keep(key, found)
        return None if image is None else PicturePart(image)

    def _drawing(
        self, digest: str, width: int, height: int, sight: tuple[float, ...]
    ) -> PicturePart | None:
        part = QRect(0, 0, width, height)
        if width * height > _WHOLE:
            left, top = (
                int(s * v // _TILE) for s, v in zip(sight[:2], (width, height), strict=True)
            )
            right, bottom = (
                -int(-s * v // _TILE) for s, v in zip(sight[2:], (width, height), strict=True)
            )
            seen = (left * _TILE, top * _TILE, (right - left) * _TILE, (bottom - top) * _TILE)
            part = part.intersected(QRect(*seen))
        if part.isEmpty():
            return None
        key = (digest, width, height, part.x(), part.y(), part.width(), part.height())
        image = self._known(key)
        if image is None:
            data = self.blobs.get(digest, b"")
            image = self._keep(key, self.drawings.image(digest, data, width, height, part))
        if image is None:
            return None
        return PicturePart(
            image,
            part.x() / width, part.y() / height, part.width() / width, part.height() / height,
        )  # fmt: skip

    def _known(self, key: tuple[object, ...]) -> QImage | None:
        found = self._scaled.get(key)
        if found is not None:
            self._scaled.move_to_end(key)
        return found

    def _keep(self, key: tuple[object, ...], image: QImage | None) -> QImage | None:
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


def _raster(data: bytes, kind: str, size: QSize, orientation: int) -> QImage | None:
    """The picture at a size, no larger than it is, turned as one looks at it, in sRGB."""
    mirrored, degrees = _TURNED[orientation]
    wanted = size.transposed() if degrees % 180 else size
    image = _read(data, wanted) if kind != "tif" else QImage()
    if image.isNull() or image.format() == QImage.Format.Format_CMYK8888:
        decoded = _by_pillow(data)
        if decoded is None:
            return None
        image = decoded
    if wanted.width() < image.width() and wanted.height() < image.height():
        image = image.scaled(
            wanted,
            Qt.AspectRatioMode.IgnoreAspectRatio,
            Qt.TransformationMode.SmoothTransformation,
        )
    space = image.colorSpace()
    if space.isValid() and space != QColorSpace(QColorSpace.NamedColorSpace.SRgb):
        image = image.convertedToColorSpace(QColorSpace(QColorSpace.NamedColorSpace.SRgb))
    if mirrored:
        image = image.mirrored(True, False)
    if degrees:
        image = image.transformed(QTransform().rotate(degrees))
    return image.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)


def _read(data: bytes, wanted: QSize) -> QImage:
    """What Qt reads; a large JPEG is decoded at a fraction of its size, which is far quicker."""
    buffer = QBuffer()
    buffer.setData(QByteArray(data))
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer)
    reader.setAutoTransform(False)
    reader.setAllocationLimit(0)
    full = reader.size()
    if full.width() * full.height() > MAX_PIXELS:  # as a file may say, whatever it holds
        return QImage()
    twice = wanted * 2
    if bytes(reader.format().data()) == b"jpeg" and full.isValid():
        fits = twice.width() < full.width() and twice.height() < full.height()
        if fits:
            reader.setScaledSize(twice)
    return reader.read()


def _by_pillow(data: bytes) -> QImage | None:
    """What Qt does not read as it is meant: TIFF, CMYK, samples that are no bytes."""
    from hidden_frame.storage.rasters import for_screen  # loads Pillow

    try:
        pixels = for_screen(data)
    except Exception:  # a damaged picture costs itself alone
        return None
    raw = pixels.tobytes()
    image = QImage(
        raw, pixels.width, pixels.height, pixels.width * 4, QImage.Format.Format_RGBA8888
    )
    return image.copy()
