"""A drawing from outside: what would reach beyond its file is refused, its size is read.

>>> guarded(b'<svg xmlns="http://www.w3.org/2000/svg" width="120" height="48"/>', "logo.svg").size
(90.0, 36.0)
"""

from __future__ import annotations

import re
from typing import Any, NamedTuple

from lxml import etree

from hidden_frame.model.errors import Refusal
from hidden_frame.model.units import POINTS
from hidden_frame.storage.drawings.spread import write_out_spreads

MAX_BYTES = 32 * 1024 * 1024
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?"
_LENGTH = re.compile(rf"\s*({_NUMBER})\s*(px|pt|mm|cm|in|pc|)\s*$")
_BOX = re.compile(rf"\s*({_NUMBER})(?:\s*,\s*|\s+)({_NUMBER})(?:\s*,\s*|\s+)({_NUMBER})"
                  rf"(?:\s*,\s*|\s+)({_NUMBER})\s*$")  # fmt: skip
_POINTS = {**POINTS, "pc": 12.0, "": 0.75, "px": 0.75}
_URL = re.compile(r"url\(\s*(['\"]?)(?!#)([^)]*)\)")
_EMBEDDED = re.compile(r"\s*data:image/(png|jpeg|jpg|gif|webp)[;,]")
_AT_RULES = re.compile(r"@(?:import[^;]*;?|font-face\s*\{[^}]*\})", re.IGNORECASE)
_FAMILY = re.compile(r"(font-family\s*:\s*)([^;}\"]+)")
_FONT = re.compile(r"(?<![-\w])(font\s*:\s*[^;}\"]*\d[a-z%]*(?:/\S+)?\s+)([^;}\"]+)")
_SERIF, _SANS = "Spectral", "Alegreya Sans"
_GENERIC = {"serif": _SERIF, "sans-serif": _SANS, "monospace": _SANS, "cursive": _SERIF,
            "fantasy": _SERIF, "system-ui": _SANS}  # fmt: skip
# What the engine leaves out, and what it is called in a sentence.
_LEFT_OUT = {
    "animate": "animation", "animatetransform": "animation", "animatemotion": "animation",
    "set": "animation", "video": "video", "audio": "sound", "mesh": "mesh gradient",
    "meshgradient": "mesh gradient", "hatch": "hatching",
}  # fmt: skip


class Guarded(NamedTuple):
    """A drawing that may be shown: its bytes as the engine gets them, its size in points,
    and by name what the engine leaves out of it."""

    data: bytes
    size: tuple[float, float]
    left_out: tuple[str, ...]


def guarded(data: bytes, name: str) -> Guarded:
    """Raises `Refusal` for what is no drawing, or may not be shown."""
    root = _parsed(data, name)
    _refuse_active(root, name)
    size = _size(root, name)
    left_out = list(dict.fromkeys(_left_out(root)))
    if not write_out_spreads(root, _extent(root, size)):
        left_out.append("the repeats of a radial gradient")
    _name_fonts(root)
    return Guarded(etree.tostring(root), size, tuple(left_out))


def _parsed(data: bytes, name: str) -> Any:
    if len(data) > MAX_BYTES:
        raise Refusal(f"“{name}” is over 32 MB; make it simpler, or place it as a picture.")
    if re.search(rb"<!\s*E\s*N\s*T", data.replace(b"\0", b"")):
        raise Refusal(
            f"“{name}” declares XML entities, which could hide anything; save it without them."
        )
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False,
        remove_comments=True, remove_pis=True,
    )  # fmt: skip
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError) as error:
        raise Refusal(f"“{name}” is not a complete SVG ({error}).") from error
    if etree.QName(root).localname != "svg":
        raise Refusal(f"“{name}” is not an SVG drawing; its outermost element is another.")
    return root


def _elements(root: Any) -> Any:
    return (e for e in root.iter() if isinstance(e.tag, str))


def _refuse_active(root: Any, name: str) -> None:
    for element in _elements(root):
        tag = etree.QName(element).localname.lower()
        if tag in ("script", "foreignobject"):
            raise Refusal(f"“{name}” holds a {tag}, which is never run; save it without it.")
        if tag == "style":
            element.text = _AT_RULES.sub("", "".join(element.itertext()))
            _refuse_outside(element.text, name)
        for key, value in element.attrib.items():
            word = etree.QName(key).localname.lower()
            if word.startswith("on"):
                raise Refusal(f"“{name}” holds a script ({word}); save it without.")
            if word == "href" and tag != "a":
                inside = value.strip().startswith("#") or _EMBEDDED.match(value)
                if not inside:
                    raise _outside(name)
            _refuse_outside(value, name)


def _refuse_outside(text: str, name: str) -> None:
    for found in _URL.finditer(text):
        if not _EMBEDDED.match(found[2]):
            raise _outside(name)


def _outside(name: str) -> Refusal:
    return Refusal(f"“{name}” refers to another file, which is never fetched; embed it instead.")


def _size(root: Any, name: str) -> tuple[float, float]:
    """Natural width and height in points (CSS pixel = 1/96 in: SVG 2, 8.9)."""
    box = _BOX.match(root.get("viewBox", ""))
    shown = [float(box[n]) * 0.75 for n in (3, 4)] if box else [0.0, 0.0]
    width, height = _length(root.get("width")), _length(root.get("height"))
    if width and not height and shown[0] > 0:
        height = width * shown[1] / shown[0]
    if height and not width and shown[1] > 0:
        width = height * shown[0] / shown[1]
    width, height = width or shown[0], height or shown[1]
    if not (0.01 <= width <= 100_000 and 0.01 <= height <= 100_000):
        raise Refusal(f"“{name}” does not say how large it is; give it a width and a height.")
    return width, height


def _extent(root: Any, size: tuple[float, float]) -> float:
    """How far the drawing reaches in its own units."""
    box = _BOX.match(root.get("viewBox", ""))
    if box:
        return max(float(box[3]), float(box[4])) + abs(float(box[1])) + abs(float(box[2]))
    return max(size) / _POINTS["px"]


def _length(text: str | None) -> float:
    """A length in points; 0 for one that says nothing, as percents do."""
    found = _LENGTH.match(text or "")
    return float(found[1]) * _POINTS[found[2]] if found else 0.0


def _left_out(root: Any) -> Any:
    for element in _elements(root):
        tag = etree.QName(element).localname
        if tag.lower() in _LEFT_OUT:
            yield f"its {_LEFT_OUT[tag.lower()]}"


def _name_fonts(root: Any) -> None:
    """Appends a family of ours to each list of fonts: text in a missing one would vanish."""
    for element in _elements(root):
        if etree.QName(element).localname == "style":
            element.text = _in_css(element.text or "")
        if "style" in element.attrib:
            element.set("style", _in_css(element.get("style")))
        if "font-family" in element.attrib:
            element.set("font-family", _with_ours(element.get("font-family")))
    if "font-family" not in root.attrib:
        root.set("font-family", f"'{_SERIF}'")


def _in_css(css: str) -> str:
    css = _FAMILY.sub(lambda m: m[1] + _with_ours(m[2]), css)
    return _FONT.sub(lambda m: m[1] + _with_ours(m[2]), css)


def _with_ours(families: str) -> str:
    important = " !important" if "!important" in families else ""
    names = [n.strip().strip("'\"") for n in families.replace("!important", "").split(",")]
    names = [_GENERIC.get(n.lower(), n) for n in names if n]
    sans = any(w in n.lower() for n in names for w in ("sans", "arial", "helvetica", "verdana"))
    names.append(_SANS if sans else _SERIF)
    return ", ".join(f"'{n}'" for n in dict.fromkeys(names)) + important
