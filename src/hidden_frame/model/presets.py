"""Publications as the trade makes them: a setup to begin from for each kind.

>>> PRESETS[0].name
'Pocket book'
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.model.geometry import Columns, Margins, Size
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.units import mm


class Preset(NamedTuple):
    """A kind of publication, what it is for, its setup and its number of pages.

    Trims and margins are common practice of the trade, without a source; page counts are
    whole multiples of a folded sheet of sixteen or four.
    """

    name: str
    about: str
    setup: Setup
    pages: int


def _margins(top: float, bottom: float, inside: float, outside: float) -> Margins:
    return Margins(top=mm(top), bottom=mm(bottom), inside=mm(inside), outside=mm(outside))


PRESETS = (
    Preset(
        "Pocket book", "110 × 178 mm, facing, no bleed",
        Setup(trim=Size(mm(110), mm(178)), margins=_margins(14, 18, 15, 12)), 128,
    ),
    Preset(
        "Yearbook", "170 × 240 mm, facing, two columns",
        Setup(trim=Size(mm(170), mm(240)), bleed=mm(3), margins=_margins(22, 24, 20, 17),
              columns=Columns(2, mm(6))), 64,
    ),
    Preset(
        "Magazine", "210 × 280 mm, facing, three columns",
        Setup(trim=Size(mm(210), mm(280)), bleed=mm(3), margins=_margins(15, 18, 18, 14),
              columns=Columns(3, mm(5))), 48,
    ),
    Preset(
        "Booklet", "A5, saddle stitched",
        Setup(trim=TRIMS["A5"], bleed=mm(3), margins=_margins(14, 17, 15, 13)), 16,
    ),
    Preset(
        "Screen pages", "1280 × 720 px, single pages",
        Setup(trim=Size(960.0, 540.0), facing=False,
              margins=Margins(top=48, bottom=48, inside=60, outside=60), unit="px"), 12,
    ),
)  # fmt: skip
