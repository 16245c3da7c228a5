"""Standard trim sizes, in points.

>>> round(TRIMS["A5"].width, 2), round(TRIMS["A5"].height, 2)
(419.53, 595.28)
"""

from __future__ import annotations

import math

from hidden_frame.model.geometry import Size
from hidden_frame.model.units import mm


def iso_216(series: str, number: int) -> tuple[int, int]:
    """Width and height in mm of a size of the A or B series.

    ISO 216: A0 is one square metre in the proportion 1 : √2; B0 is 1 m wide in
    the same proportion; each next size halves the longer side, rounded down to
    the millimetre.
    """
    long_side = 1000 * math.sqrt(2) if series == "B" else 1000 * 2**0.25
    short_side = 1000.0 if series == "B" else 1000 / 2**0.25
    # The standard's own table starts from the rounded size 0 (A0 841 × 1189,
    # B0 1000 × 1414) and halves whole millimetres.
    short, long = round(short_side), round(long_side)
    for _ in range(number):
        short, long = long // 2, short
    return short, long


def _iso(series: str, number: int) -> Size:
    width, height = iso_216(series, number)
    return Size(mm(width), mm(height))


# US book sizes are common practice of the trade (no standard); Letter, Legal
# and Tabloid are ANSI/ASME Y14.1 A and B, and US common practice for Legal.
TRIMS: dict[str, Size] = {
    "A3": _iso("A", 3),
    "A4": _iso("A", 4),
    "A5": _iso("A", 5),
    "A6": _iso("A", 6),
    "B4": _iso("B", 4),
    "B5": _iso("B", 5),
    "B6": _iso("B", 6),
    "US Letter": Size(612.0, 792.0),
    "US Legal": Size(612.0, 1008.0),
    "US Tabloid": Size(792.0, 1224.0),
    "US Half Letter": Size(396.0, 612.0),
    "US Trade 6 × 9 in": Size(432.0, 648.0),
    "US Digest 5.5 × 8.5 in": Size(396.0, 612.0),
    "Pocket 4.25 × 7 in": Size(306.0, 504.0),
    "Square 210 mm": Size(mm(210), mm(210)),
    "Screen 1280 × 720 px": Size(960.0, 540.0),
}
