"""Pictures brought into a publication: checked, measured, named by their content.

>>> picture, data = read_picture(Path("logo.svg"))
"""

from __future__ import annotations

import hashlib
import io
import re
import warnings
from pathlib import Path
from xml.etree.ElementTree import Element, ParseError

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Picture
from hidden_frame.model.units import POINTS

MAX_PIXELS = 200_000_000
MAX_BYTES = 256 * 1024 * 1024
EXTENSIONS = ("png", "jpg", "jpeg", "svg", "tif", "tiff")
_LENGTH = re.compile(r"\s*([\d.]+)\s*(px|pt|mm|cm|in|pc)?\s*$")
_SVG_POINTS = {**POINTS, "pc": 12.0, "": 0.75}


def read_picture(path: Path) -> tuple[Picture, bytes]:
    """A picture file's description and bytes; TIFF becomes PNG.

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
    head = data[:400].lstrip()
    if head.startswith((b"<", b"\xef\xbb\xbf<")):
        width, height = _svg_size(data, name)
        return _described(data, "svg", width, height, name), data
    return _raster(data, name)


def _described(
    data: bytes, kind: str, width: float, height: float, name: str, ppi: float = 72.0
) -> Picture:
    digest = hashlib.sha256(data).hexdigest()
    return Picture(hash=digest, kind=kind, width=width, height=height, name=name, ppi=ppi)  # type: ignore[arg-type]


def _resolution(asked: object) -> float:
    """Pixels to an inch as the file has it; 72 where it says nothing that can be meant."""
    ppi = float(asked[0]) if isinstance(asked, tuple) and asked else 72.0
    return round(ppi, 2) if 5 <= ppi <= 20_000 else 72.0


def _raster(data: bytes, name: str) -> tuple[Picture, bytes]:
    from PIL import Image

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data)) as image:
                kind = {"PNG": "png", "JPEG": "jpg"}.get(image.format or "")
                if image.width * image.height > MAX_PIXELS:
                    raise Refusal(
                        f"“{name}” has {image.width} × {image.height} pixels, more than can be "
                        f"placed; make it smaller."
                    )
                image.load()
                if kind is None:
                    buffer = io.BytesIO()
                    see_through = "A" in image.getbands() or "transparency" in image.info
                    image.convert("RGBA" if see_through else "RGB").save(buffer, "PNG")
                    kind, data = "png", buffer.getvalue()
                ppi = _resolution(image.info.get("dpi"))
                return _described(data, kind, image.width, image.height, name, ppi), data
    except Refusal:
        raise
    except Image.DecompressionBombError as error:
        raise Refusal(
            f"“{name}” has more than {MAX_PIXELS // 1_000_000} million pixels, more than can be "
            f"placed; make it smaller."
        ) from error
    except (OSError, ValueError, SyntaxError) as error:
        raise Refusal(
            f"“{name}” is not a picture that can be read; place a PNG, JPEG, TIFF or SVG."
        ) from error


def _svg_size(data: bytes, name: str) -> tuple[float, float]:
    """Natural width and height in points (CSS pixel = 1/96 in: SVG 2, 8.9)."""
    from defusedxml import ElementTree
    from defusedxml.common import DefusedXmlException

    try:
        root = ElementTree.fromstring(data, forbid_dtd=False)
    except DefusedXmlException as error:
        raise Refusal(
            f"“{name}” declares XML entities, which could hide anything; save it without them."
        ) from error
    except ParseError as error:
        raise Refusal(f"“{name}” is not a complete SVG ({error}).") from error
    if not str(root.tag).endswith("svg"):
        raise Refusal(f"“{name}” is not an SVG drawing; its outermost element is another.")
    _refuse_active(root, name)
    box = [float(v) for v in re.findall(r"-?[\d.]+", root.get("viewBox", ""))]
    width = _length(root.get("width")) or (box[2] * 0.75 if len(box) == 4 else 0.0)
    height = _length(root.get("height")) or (box[3] * 0.75 if len(box) == 4 else 0.0)
    if width <= 0 or height <= 0:
        raise Refusal(f"“{name}” does not say how large it is; give it a width and a height.")
    return width, height


def _refuse_active(root: Element, name: str) -> None:
    for element in root.iter():
        tag = str(element.tag).rpartition("}")[2].lower()
        if tag in ("script", "foreignobject"):
            raise Refusal(f"“{name}” holds a {tag}, which is never run; save it without.")
        for key, value in element.attrib.items():
            word = key.rpartition("}")[2].lower()
            if word.startswith("on"):
                raise Refusal(f"“{name}” holds a script ({word}); save it without.")
            outside = word == "href" and not value.startswith(("#", "data:"))
            if outside or re.search(r"url\(\s*['\"]?(?!#|['\"]?#)", value):
                raise Refusal(
                    f"“{name}” refers to another file, which is never fetched; embed it instead."
                )


def _length(text: str | None) -> float:
    found = _LENGTH.match(text or "")
    return float(found[1]) * _SVG_POINTS[found[2] or ""] if found else 0.0
