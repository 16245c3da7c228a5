"""Raster files as Pillow reads them, in the few kinds of pixels that screen and print know."""

from __future__ import annotations

import io
import warnings
from collections.abc import Callable
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from PIL import Image, ImageOps

from hidden_frame.model.publication import TONES

_KNOWN = ("1", "L", "LA", "RGB", "RGBA", "CMYK")


def open_raster(data: bytes) -> Image.Image:
    """The picture of a file's bytes: 1, L, LA, RGB, RGBA, CMYK, or 16-bit grey (I;16).

    Numbers that are no plain bytes are brought to their range: whole ones of 16 bits stay as
    they are, fractions from 0 (black) to 1 (white) become bytes, and so do larger numbers by
    their highest.  Raises `OSError` or `ValueError` for what can't be read.
    """
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        image: Image.Image = Image.open(io.BytesIO(data))
        image.load()
    info = image.info
    made = _known(image)
    made.info = info
    return made


def _known(image: Image.Image) -> Image.Image:
    if image.mode in ("F", "I"):
        return _brought_to_range(np.asarray(image, dtype=np.float64), image.mode)
    if image.mode.startswith("I;16"):
        grey = np.asarray(image).astype(np.uint16)
        return Image.fromarray(grey)
    if "transparency" in image.info and image.mode in ("P", "L", "RGB", "1"):
        return image.convert("RGBA")
    if image.mode in _KNOWN:
        return image
    return image.convert("RGBA" if image.mode in ("PA", "La", "RGBa") else "RGB")


def _brought_to_range(values: np.ndarray, mode: str) -> Image.Image:
    values = np.nan_to_num(values, nan=0.0, posinf=1.0, neginf=0.0)
    top = float(values.max(initial=0.0))
    if mode == "I" and top > 255:
        return Image.fromarray(np.clip(values, 0, 65535).astype(np.uint16))
    scale = 255.0 if mode == "F" and top <= 1 else (1.0 if top <= 255 else 255.0 / top)
    return Image.fromarray(np.clip(values * scale + 0.5, 0, 255).astype(np.uint8))


_BANDS = 120
_OPAQUE = 24  # of 255: fainter shadows don't push text away


def contour_of(
    image: Image.Image, orientation: int
) -> tuple[tuple[float, float, float, float], ...]:
    """What can be seen of a picture with transparent parts, in bands from the top down: top,
    bottom, left and right as shares of height and width, as it is looked at; () if all of it is."""
    if image.mode not in ("LA", "RGBA"):
        return ()
    alpha = np.asarray(image.getchannel("A")) >= _OPAQUE
    alpha = _TURNS.get(orientation, lambda a: a)(alpha)
    if alpha.all() or not alpha.any():
        return ()
    high, wide = alpha.shape
    edges = np.unique(np.linspace(0, high, min(_BANDS, high) + 1).astype(int)).tolist()
    found = []
    for top, bottom in pairwise(edges):
        columns = np.flatnonzero(alpha[top:bottom].any(axis=0))
        if len(columns):
            left, right = int(columns[0]), int(columns[-1]) + 1
            found.append((top / high, bottom / high, left / wide, right / wide))
    return tuple(found)


def tones_of(data: bytes, orientation: int) -> bytes:
    """A picture's mean colours in `TONES` × `TONES` cells, as one looks at it: sRGB and opacity,
    row by row from the upper left."""
    small = for_screen(data).convert("RGBa").resize((TONES, TONES), Image.Resampling.BOX)
    seen = np.asarray(small.convert("RGBA"))
    return np.ascontiguousarray(_TURNS.get(orientation, lambda a: a)(seen)).tobytes()


# How pixels are turned for each orientation (Exif 2.32, tag 0x0112).
_TURNS: dict[int, Callable[[np.ndarray], np.ndarray]] = {
    2: np.fliplr,
    3: lambda a: np.rot90(a, 2),
    4: np.flipud,
    5: lambda a: np.swapaxes(a, 0, 1),
    6: lambda a: np.rot90(a, -1),
    7: lambda a: np.rot90(np.swapaxes(a, 0, 1), 2),
    8: np.rot90,
}


class Samples(NamedTuple):
    """Rows of samples, colours to a pixel, bits to a sample (ISO 32000-1, 8.9.5.2)."""

    rows: bytes
    colours: int
    bits: int


def samples(image: Image.Image) -> Samples:
    """A picture as PDF holds it."""
    if image.mode == "1":
        return Samples(image.tobytes(), 1, 1)
    if image.mode.startswith("I;16"):
        return Samples(np.asarray(image).astype(">u2").tobytes(), 1, 16)
    return Samples(image.tobytes(), len(image.getbands()), 8)


def orientation_of(image: Image.Image) -> int:
    """How the stored pixels are turned (Exif 2.32, tag 0x0112), 1 where nothing is said."""
    try:
        found = int(image.getexif().get(0x0112, 1))
    except Exception:  # notes beside a picture may be damaged; the picture is not
        return 1
    return found if 1 <= found <= 8 else 1


def upright(image: Image.Image) -> Image.Image:
    """The picture as one looks at it."""
    return ImageOps.exif_transpose(image) or image


def for_screen(data: bytes) -> Image.Image:
    """The picture in sRGB with opacity, by its own colour profile where it has one."""
    image = open_raster(data)
    if image.mode.startswith("I;16"):
        image = Image.fromarray((np.asarray(image) >> 8).astype(np.uint8))
    if image.mode == "CMYK":
        image = _in_rgb(image)
    return image.convert("RGBA")


def _in_rgb(image: Image.Image) -> Image.Image:
    profile = image.info.get("icc_profile")
    if profile:
        from PIL import ImageCms

        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            srgb = ImageCms.createProfile("sRGB")
            made = ImageCms.profileToProfile(image, source, srgb, outputMode="RGB")
            if made is not None:
                return made
        except (ImageCms.PyCMSError, OSError):  # a profile of something else
            pass
    # As for inks: red is what cyan and black leave of it.
    cmyk = np.asarray(image).astype(np.uint16)
    rgb = (255 - cmyk[:, :, :3]) * (255 - cmyk[:, :, 3:]) // 255
    return Image.fromarray(rgb.astype(np.uint8))
