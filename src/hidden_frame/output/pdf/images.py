"""Raster pictures as image XObjects (ISO 32000-1, 8.9.5): as they are where that can be."""

from __future__ import annotations

import zlib
from collections.abc import Callable
from typing import Any

import pikepdf
from pikepdf import Array, Dictionary, Name
from PIL import Image

from hidden_frame.output.pdf.jpeg import Jpeg, read_jpeg
from hidden_frame.output.pdf.png import Png, read_png
from hidden_frame.output.pdf.store import Store
from hidden_frame.storage.rasters import open_raster, samples

_DEVICE = {1: Name.DeviceGray, 3: Name.DeviceRGB, 4: Name.DeviceCMYK}
_SPACES = {1: b"GRAY", 3: b"RGB ", 4: b"CMYK"}
_STEP = 4 * 1024 * 1024  # bytes compressed between two looks at whether to go on


class Images:
    """Makes image XObjects; `alive` is called now and then and may raise to stop."""

    def __init__(self, store: Store, alive: Callable[[], None]) -> None:
        self.store = store
        self.alive = alive
        self._profiles: dict[bytes, Any] = {}

    def make(self, data: bytes, kind: str) -> Any:
        """The picture of a file's bytes; raises `OSError` or `ValueError` for a broken one."""
        if kind == "jpg":
            jpeg = read_jpeg(data)
            if jpeg is not None:
                return self._jpeg(jpeg, data)
        if kind == "png":
            png = read_png(data)
            if png is not None:
                return self._png(png)
        return self._decoded(open_raster(data))

    def _jpeg(self, jpeg: Jpeg, data: bytes) -> Any:
        image = pikepdf.Stream(
            self.store.pdf, data, Filter=Name.DCTDecode,
            **self._entries(jpeg.width, jpeg.height, 8, self._space(jpeg.colours, jpeg.profile)),
        )  # fmt: skip
        if jpeg.inverted:
            image.Decode = [1, 0] * 4
        return image

    def _png(self, png: Png) -> Any:
        space = self._space(3 if png.palette else png.colours, png.profile)
        if png.palette:
            highest = len(png.palette) // 3 - 1
            space = Array([Name.Indexed, space, highest, pikepdf.String(png.palette)])
        predictor = Dictionary(
            Predictor=15, Colors=png.colours, BitsPerComponent=png.bits, Columns=png.width
        )
        return pikepdf.Stream(
            self.store.pdf, png.rows, Filter=Name.FlateDecode, DecodeParms=predictor,
            **self._entries(png.width, png.height, png.bits, space),
        )  # fmt: skip

    def _decoded(self, image: Image.Image) -> Any:
        """Samples of what can't be passed through; its transparency becomes a soft mask."""
        mask = None
        profile = image.info.get("icc_profile") or b""
        if "A" in image.getbands():
            mask = image.getchannel("A")
            image = image.convert("L" if image.mode == "LA" else "RGB")
        rows, colours, bits = samples(image)
        made = self._flate(rows, image.size, bits, self._space(colours, profile))
        if mask is not None and mask.getextrema() != (255, 255):
            soft = self._flate(mask.tobytes(), mask.size, 8, Name.DeviceGray)
            made.SMask = self.store.pdf.make_indirect(soft)
        return made

    def _flate(self, rows: bytes, size: tuple[int, int], bits: int, space: Any) -> Any:
        packer = zlib.compressobj(4)
        parts = []
        for at in range(0, len(rows), _STEP):
            self.alive()
            parts.append(packer.compress(rows[at : at + _STEP]))
        parts.append(packer.flush())
        return pikepdf.Stream(
            self.store.pdf, b"".join(parts), Filter=Name.FlateDecode,
            **self._entries(*size, bits, space),
        )  # fmt: skip

    @staticmethod
    def _entries(width: int, height: int, bits: int, space: Any) -> dict[str, Any]:
        return {
            "Type": Name.XObject,
            "Subtype": Name.Image,
            "Width": width,
            "Height": height,
            "BitsPerComponent": bits,
            "ColorSpace": space,
        }

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
