"""Raster pictures taken apart for a PDF: their streams to the spool, what is said of them kept."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Mapping
from typing import NamedTuple

import pikepdf
from PIL import Image

from hidden_frame.compose.scene import PicturePrimitive, Scene
from hidden_frame.output.pdf.jpeg import read_jpeg
from hidden_frame.output.pdf.png import read_png
from hidden_frame.output.pdf.spool import Spool
from hidden_frame.storage.declared import MAX_PIXELS
from hidden_frame.storage.rasters import open_raster, samples

_STEP = 4 * 1024 * 1024  # bytes compressed between two looks at whether to go on
# What a picture that can't be read is told by.
UNREADABLE = (
    ValueError, SyntaxError, pikepdf.PdfError, MemoryError, Image.UnidentifiedImageError,
    Image.DecompressionBombError,
)  # fmt: skip


class Raster(NamedTuple):
    """A picture of `colours` samples a pixel, of `bits` each, in the stream of this `number`.

    `profile` and `palette` are empty where there is none; `jpeg` ones are as they came, others
    deflated, by PNG's predictors where `filtered`.
    """

    number: int
    width: int
    height: int
    colours: int
    bits: int = 8
    profile: bytes = b""
    palette: bytes = b""
    jpeg: bool = False
    inverted: bool = False
    filtered: bool = False
    mask: Raster | None = None


class Rasters(NamedTuple):
    """The pictures of a file by their hash, and why those that are missing can't be read."""

    made: dict[str, Raster]
    broken: dict[str, str]


def rasters_of(
    scenes: list[Scene], blobs: Mapping[str, bytes], spool: Spool, alive: Callable[[], None]
) -> Rasters:
    """All that scenes show, each once; `alive` is called now and then and may raise to stop.

    Raises `OSError` where the disk takes nothing.
    """
    found = Rasters({}, {})
    profiles: dict[bytes, bytes] = {}
    for digest, kind in _shown(scenes).items():
        alive()
        data = blobs.get(digest)
        if data is None:
            found.broken[digest] = "is missing from the file"
            continue
        try:
            made = _apart(data, kind, spool, alive)
        except UNREADABLE as error:
            found.broken[digest] = f"can't be read ({error})"
        else:
            # Hundreds of photographs have one profile between them.
            profile = profiles.setdefault(made.profile, made.profile)
            found.made[digest] = made._replace(profile=profile)
    return found


def _shown(scenes: list[Scene]) -> dict[str, str]:
    drawings = {id(p.drawing): p.drawing for s in scenes for p in s.painted if p.printing}
    return {
        primitive.hash: primitive.kind
        for drawing in drawings.values()
        for primitive in drawing.primitives
        if isinstance(primitive, PicturePrimitive) and primitive.kind != "svg"
    }


def _apart(data: bytes, kind: str, spool: Spool, alive: Callable[[], None]) -> Raster:
    """The picture of a file's bytes, as it is where that can be."""
    if kind == "jpg":
        jpeg = read_jpeg(data)
        if jpeg is not None:
            _no_larger(jpeg.width, jpeg.height)
            return Raster(spool.add(data), jpeg.width, jpeg.height, jpeg.colours,
                          profile=jpeg.profile, jpeg=True, inverted=jpeg.inverted)  # fmt: skip
    if kind == "png":
        png = read_png(data)
        if png is not None:
            _no_larger(png.width, png.height)
            return Raster(spool.add(png.rows), png.width, png.height, png.colours, png.bits,
                          png.profile, png.palette, filtered=True)  # fmt: skip
    try:
        image = open_raster(data)
    except OSError as error:  # of the picture; one of the disk is another matter
        raise ValueError(str(error)) from error
    return _decoded(image, spool, alive)


def _no_larger(width: int, height: int) -> None:
    """A file may declare any size, whatever it holds."""
    if width * height > MAX_PIXELS:
        raise ValueError(f"declares {width:,} × {height:,} pixels, more than can be printed")


def _decoded(image: Image.Image, spool: Spool, alive: Callable[[], None]) -> Raster:
    """Samples of what can't be passed through; its transparency becomes a soft mask."""
    mask = None
    profile = image.info.get("icc_profile") or b""
    if "A" in image.getbands():
        alpha = image.getchannel("A")
        image = image.convert("L" if image.mode == "LA" else "RGB")
        if alpha.getextrema() != (255, 255):
            mask = Raster(spool.add(_deflated(alpha.tobytes(), alive)), *alpha.size, 1)
    rows, colours, bits = samples(image)
    number = spool.add(_deflated(rows, alive))
    return Raster(number, *image.size, colours, bits, profile, mask=mask)


def _deflated(rows: bytes, alive: Callable[[], None]) -> bytes:
    packer = zlib.compressobj(4)
    parts = []
    for at in range(0, len(rows), _STEP):
        alive()
        parts.append(packer.compress(rows[at : at + _STEP]))
    return b"".join([*parts, packer.flush()])
