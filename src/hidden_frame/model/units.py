"""Lengths as people type them, to points and back.

>>> parse_length("12mm + 3pt", "mm")
37.01574803149607
>>> format_length(72, "in")
'1 in'
"""

from __future__ import annotations

import math
import re
from typing import Literal, get_args

from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import decimal, number_of

Unit = Literal["mm", "cm", "in", "pt", "p", "px"]
UNITS: tuple[Unit, ...] = get_args(Unit)

# Points per unit. The point is 1/72 inch (PostScript), the inch 25.4 mm
# (ISO 80000-3), the pica 12 points, the pixel 1/96 inch (CSS Values 4, 6.2).
POINTS: dict[str, float] = {
    "mm": 72 / 25.4,
    "cm": 720 / 25.4,
    "in": 72.0,
    "pt": 1.0,
    "p": 12.0,
    "px": 0.75,
}
DECIMALS: dict[str, int] = {"mm": 3, "cm": 4, "in": 4, "pt": 2, "p": 3, "px": 2}

# How far apart copies and guides are at first, about a centimetre.
_STEPS: dict[str, str] = {
    "mm": "10mm", "cm": "1cm", "in": "0.5in", "pt": "36pt", "p": "3p", "px": "48px",
}  # fmt: skip
# Of new frames, a gutter and the distance of text around an item: about a pica and half of one
# (common practice), round in the unit that they are shown in.
_GUTTERS: dict[str, str] = {
    "mm": "4mm", "cm": "0.4cm", "in": "0.125in", "pt": "12pt", "p": "1p", "px": "16px",
}  # fmt: skip
_DISTANCES: dict[str, str] = {
    "mm": "2mm", "cm": "0.2cm", "in": "0.0625in", "pt": "6pt", "p": "0.5p", "px": "8px",
}  # fmt: skip

_TERM = re.compile(
    r"\s*(?P<sign>[+\-−]?)\s*(?P<number>\d+(?:[.,]\d*)?|[.,]\d+)\s*(?P<unit>[a-zA-Z\"″]*)"
    r"(?P<factor>(?:\s*[*/×]\s*\d+(?:[.,]\d*)?)*)\s*"
)
_FACTOR = re.compile(r"([*/×])\s*(\d+(?:[.,]\d*)?)")
_LIMIT = 14_400 * 10  # points; far beyond any sheet, and keeps arithmetic sane


def parse_length(text: str, unit: Unit) -> float:
    """Points from a length or a simple sum of lengths; bare numbers are in `unit`.

    Raises `Refusal` with a sentence if any part can't be read.
    """
    source = text.strip()
    if not source:
        raise Refusal("A length is missing; write for example 12mm.")
    total, at, first = 0.0, 0, True
    while at < len(source):
        found = _TERM.match(source, at)
        if found is None or found.end() == at or not (first or found["sign"]):
            raise Refusal(f"“{source}” is not a length; write for example 12mm or 12mm + 3pt.")
        total += _term(found, source, unit)
        at, first = found.end(), False
    if not math.isfinite(total) or abs(total) > _LIMIT:
        raise Refusal(f"“{source}” is too long for any sheet; write a smaller length.")
    return total


def _term(found: re.Match[str], source: str, unit: Unit) -> float:
    name = found["unit"].lower() or unit
    name = "in" if name in ('"', "″") else name
    if name not in POINTS:
        known = ", ".join(UNITS)
        raise Refusal(f"“{found['unit']}” in “{source}” is not a unit; use one of {known}.")
    value = number_of(found["number"]) * POINTS[name]
    for operator, digits in _FACTOR.findall(found["factor"]):
        factor = number_of(digits)
        if operator == "/" and factor == 0:
            raise Refusal(f"“{source}” divides by zero; divide by another number.")
        value = value / factor if operator == "/" else value * factor
    return -value if found["sign"] in ("-", "−") else value


def format_length(points: float, unit: Unit, *, with_unit: bool = True) -> str:
    """The shortest text that names a length to a hundredth of a point."""
    number = decimal(points / POINTS[unit], DECIMALS[unit])
    return f"{number} {unit}" if with_unit else number


def short_length(points: float, unit: Unit, *, with_unit: bool = True) -> str:
    """A length as it is shown in passing, to a hundredth of a unit, of an inch to a thousandth:
    `"127.16 mm"`."""
    number = decimal(points / POINTS[unit], 3 if unit == "in" else 2)
    return f"{number} {unit}" if with_unit else number


def mm(value: float) -> float:
    """Points from millimetres: `mm(25.4) == 72`."""
    return value * 72 / 25.4


def round_gutter(unit: Unit) -> float:
    """The gutter of a new text frame in points, round in the publication's unit.

    >>> format_length(round_gutter("mm"), "mm"), format_length(round_gutter("pt"), "pt")
    ('4 mm', '12 pt')
    """
    return parse_length(_GUTTERS[unit], unit)


def round_distance(unit: Unit) -> float:
    """How far text keeps from an item at first, in points, round in the publication's unit.

    >>> format_length(round_distance("cm"), "cm")
    '0.2 cm'
    """
    return parse_length(_DISTANCES[unit], unit)


def round_step(unit: Unit) -> float:
    """How far apart copies and guides are at first, in points, round in the publication's unit.

    >>> format_length(round_step("in"), "in")
    '0.5 in'
    """
    return parse_length(_STEPS[unit], unit)
