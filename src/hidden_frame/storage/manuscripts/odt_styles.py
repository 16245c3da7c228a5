"""Styles of an .odt (ODF 1.2, 16): what they say of characters and of lines."""

from __future__ import annotations

import re
from typing import Any

_NS = "urn:oasis:names:tc:opendocument:xmlns:"
_S, _FO = f"{{{_NS}style:1.0}}", f"{{{_NS}xsl-fo-compatible:1.0}}"
OURS = "urn:hidden-frame:manuscript"  # what ODF has no name for
QUOTED = 14.0  # points from either edge that a quotation stands in
_LENGTH = re.compile(r"(-?\d+(?:\.\d+)?)(cm|mm|in|pt|pc|px)")
_POINTS = {"cm": 72 / 2.54, "mm": 72 / 25.4, "in": 72.0, "pt": 1.0, "pc": 12.0, "px": 0.75}
_ALIGNED = {"justify": "justified", "center": "centre", "right": "right", "end": "right",
            "left": "left", "start": "left"}  # fmt: skip


def points(length: str | None) -> float | None:
    """A length in points; None for what is none.

    >>> points("2.54cm")
    72.0
    """
    found = _LENGTH.fullmatch(length or "")
    if found is None:
        return None
    value = float(found[1]) * _POINTS[found[2]]
    return value if abs(value) < 5000 else None


def said_of_letters(text: Any | None) -> dict[str, Any]:
    """What a style says of its characters, by the names of `Manner`."""
    if text is None:
        return {}
    said: dict[str, Any] = {}
    weight, slant = text.get(_FO + "font-weight"), text.get(_FO + "font-style")
    if weight is not None:
        said["bold"] = weight == "bold" or weight in ("700", "800", "900")
    if slant is not None:
        said["italic"] = slant in ("italic", "oblique")
    language, country = text.get(_FO + "language"), text.get(_FO + "country")
    if language and language != "none":
        said["language"] = f"{language}_{country}" if country not in (None, "none") else language
    if text.get(_FO + "font-variant") is not None:
        said["small_capitals"] = text.get(_FO + "font-variant") == "small-caps"
    position = text.get(_S + "text-position", "").split(" ")[0]
    if position:
        low = position == "sub" or position.startswith("-")
        said["raised"] = "inferior" if low else "" if position in ("0%", "0") else "superior"
    for name, key in (("strike", "text-line-through-style"), ("underline", "text-underline-style")):
        if text.get(_S + key) is not None:
            said[name] = text.get(_S + key) != "none"
    return said


def look_of(style: Any) -> dict[str, Any]:
    """What a style says of how it looks, by the names of `SourceLook`."""
    text, lines = style.find(_S + "text-properties"), style.find(_S + "paragraph-properties")
    said = {k: v for k, v in said_of_letters(text).items() if k != "language"}
    if text is not None:
        family = text.get(_S + "font-name") or text.get(_FO + "font-family")
        said |= {"family": family.strip("'")} if family else {}
        size = points(text.get(_FO + "font-size"))
        said |= {"size": size} if size else {}
    if lines is not None:
        aligned = _ALIGNED.get(lines.get(_FO + "text-align", ""))
        said |= {"alignment": aligned} if aligned else {}
        for name, key in (
            ("space_before", "margin-top"), ("space_after", "margin-bottom"),
            ("indent_left", "margin-left"), ("indent_right", "margin-right"),
            ("indent_first", "text-indent"), ("leading", "line-height"),
        ):  # fmt: skip
            length = points(lines.get(_FO + key))
            said |= {name: length} if length is not None else {}
        keeps = lines.get(_FO + "keep-with-next")
        said |= {"keep_next": keeps == "always"} if keeps is not None else {}
    return said


def breaks_before(lines: Any | None) -> str:
    """Where paragraphs of a style start: “page”, or "" for anywhere."""
    if lines is None or lines.get(_FO + "break-before") != "page":
        return ""
    side = lines.get(f"{{{OURS}}}side", "page")
    return side if side in ("right page", "left page") else "page"
