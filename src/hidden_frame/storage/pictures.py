"""Pictures brought into a publication: checked, measured, named by their content.

>>> rule = '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="2"><path d="M0 1h40"/></svg>'
>>> picture, data = picture_from_bytes(rule.encode(), "rule.svg")
>>> picture.kind, picture.size
('svg', (30.0, 1.5))
"""

from __future__ import annotations

import hashlib
import io
import warnings
from pathlib import Path

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Picture, PictureKind
from hidden_frame.storage.declared import MAX_PIXELS
from hidden_frame.storage.door import door, is_drawing

MAX_BYTES = 256 * 1024 * 1024
EXTENSIONS = ("png", "jpg", "jpeg", "svg", "tif", "tiff")
_KINDS: dict[str, PictureKind] = {"PNG": "png", "JPEG": "jpg", "MPO": "jpg", "TIFF": "tif"}


def read_picture(path: Path) -> tuple[Picture, bytes]:
    """A picture file's description and bytes, which stay as they are.

    Raises `Refusal` naming the file and what is wrong with it.
    """
    try:
        if path.stat().st_size > MAX_BYTES:
            raise Refusal(f"“{path.name}” is over 256 MB; save it smaller and place it again.")
        data = path.read_bytes()
    except OSError as error:
        raise Refusal(f"“{path.name}” can't be read ({error.strerror}).") from error
    return picture_from_bytes(data, path.name)


def picture_from_bytes(data: bytes, name: str) -> tuple[Picture, bytes]:
    """The same for bytes from elsewhere, for example the clipboard."""
    with door(name, "place another one"):
        return _from_bytes(data, name)


def _from_bytes(data: bytes, name: str) -> tuple[Picture, bytes]:
    from hidden_frame.storage.drawings import drawn, guarded  # loads lxml
    from hidden_frame.storage.drawings.tones import tones_of_drawing

    if is_drawing(data):
        width, height = guarded(data, name).size
        made = drawn(
            hashlib.sha256(data).hexdigest(), data, name
        )  # what can't be drawn is told now
        tones = tones_of_drawing(made.pdf)
        return _described(data, "svg", width, height, name, tones=tones), data
    return _raster(data, name)


def left_out(data: bytes, name: str) -> str:
    """A sentence about what is left out of a drawing; "" where all of it is shown."""
    from hidden_frame.storage.drawings import guarded

    parts = guarded(data, name).left_out
    if not parts:
        return ""
    verb = "is" if len(parts) == 1 else "are"
    return f"“{name}”: {' and '.join(parts)} {verb} left out."


def _described(
    data: bytes,
    kind: PictureKind,
    width: float,
    height: float,
    name: str,
    ppi: float = 72.0,
    orientation: int = 1,
    bilevel: bool = False,
    contour: tuple[tuple[float, float, float, float], ...] = (),
    tones: bytes = b"",
) -> Picture:
    return Picture(
        hash=hashlib.sha256(data).hexdigest(), kind=kind, width=width, height=height, name=name,
        ppi=ppi, orientation=orientation, bilevel=bilevel, contour=contour,
        tones=tones,
    )  # fmt: skip


def _resolution(asked: object) -> float:
    """Pixels to an inch as the file has it; 72 where it says nothing that can be meant."""
    try:
        ppi = float(asked[0]) if isinstance(asked, tuple) and asked else 72.0
    except (TypeError, ValueError, ZeroDivisionError):
        return 72.0
    return round(ppi, 2) if 5 <= ppi <= 20_000 else 72.0


def _raster(data: bytes, name: str) -> tuple[Picture, bytes]:
    from PIL import Image

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data)) as image:
                if image.width * image.height > MAX_PIXELS:
                    raise Refusal(
                        f"“{name}” has {image.width} × {image.height} pixels, more than can be "
                        f"placed; make it smaller."
                    )
                return _as_placed(image, data, name)
    except Refusal:
        raise
    except Image.DecompressionBombError as error:
        raise Refusal(
            f"“{name}” has more than {MAX_PIXELS // 1_000_000} million pixels, more than can be "
            f"placed; make it smaller."
        ) from error
    except Exception as error:  # a damaged file can make Pillow raise anything
        raise Refusal(
            f"“{name}” is not a picture that can be read; place a PNG, JPEG, TIFF or SVG."
        ) from error


def _as_placed(image, data: bytes, name: str) -> tuple[Picture, bytes]:  # type: ignore[no-untyped-def]
    from hidden_frame.storage.rasters import (  # loads NumPy
        contour_of,
        open_raster,
        orientation_of,
        tones_of,
    )

    kind = _KINDS.get(image.format or "")
    ppi, turned = _resolution(image.info.get("dpi")), orientation_of(image)
    image.load()
    width, height = image.size
    bilevel = image.mode == "1"
    if kind is None:
        buffer = io.BytesIO()
        open_raster(data).save(buffer, "PNG", icc_profile=image.info.get("icc_profile"))
        kind, data = "png", buffer.getvalue()
    elif kind == "tif":  # Pillow turns these itself
        open_raster(data)
        turned = 1
    if turned >= 5:
        width, height = height, width
    seen = contour_of(open_raster(data), turned)
    tones = tones_of(data, turned)
    return _described(data, kind, width, height, name, ppi, turned, bilevel, seen, tones), data
