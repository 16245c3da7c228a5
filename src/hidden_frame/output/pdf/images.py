"""Raster pictures as image XObjects (ISO 32000-1, 8.9.5)."""

from __future__ import annotations

from typing import Any

from pikepdf import Array, Dictionary, Name, String

from hidden_frame.output.pdf.rasters import Raster
from hidden_frame.output.pdf.store import Store

_DEVICE = {1: Name.DeviceGray, 3: Name.DeviceRGB, 4: Name.DeviceCMYK}
_SPACES = {1: b"GRAY", 3: b"RGB ", 4: b"CMYK"}


class Images:
    """Says of the streams that were spooled what pictures they are."""

    def __init__(self, store: Store) -> None:
        self.store = store
        self._profiles: dict[bytes, Any] = {}

    def make(self, raster: Raster) -> Any:
        """The image of a picture, and of its soft mask."""
        image = self.store.pdf.get_object(raster.number, 0)
        image.Type, image.Subtype = Name.XObject, Name.Image
        image.Width, image.Height = raster.width, raster.height
        image.BitsPerComponent = raster.bits
        image.ColorSpace = self._colours(raster)
        image.Filter = Name.DCTDecode if raster.jpeg else Name.FlateDecode
        if raster.filtered:
            image.DecodeParms = Dictionary(
                Predictor=15, Colors=raster.colours, BitsPerComponent=raster.bits,
                Columns=raster.width,
            )  # fmt: skip
        if raster.inverted:
            image.Decode = [1, 0] * 4
        if raster.mask is not None:
            image.SMask = self.make(raster.mask)
        return image

    def _colours(self, raster: Raster) -> Any:
        if not raster.palette:
            return self._space(raster.colours, raster.profile)
        highest = len(raster.palette) // 3 - 1
        base = self._space(3, raster.profile)
        return Array([Name.Indexed, base, highest, String(raster.palette)])

    def _space(self, colours: int, profile: bytes) -> Any:
        """The picture's own colour space (ISO 32000-1, 8.6.5.5), or the device's where it
        has none that fits."""
        if len(profile) < 128 or profile[16:20] != _SPACES[colours]:
            return _DEVICE[colours]
        found = self._profiles.get(profile)
        if found is None:
            stream = self.store.stream(profile, N=colours, Alternate=_DEVICE[colours])
            space = Array([Name.ICCBased, self.store.pdf.make_indirect(stream)])
            found = self._profiles[profile] = self.store.pdf.make_indirect(space)
        return found
