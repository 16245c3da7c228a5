"""What a line costs: how far its spaces are from their natural width, and what it ends with.

The formula is that of Knuth and Plass, “Breaking Paragraphs into Lines”, Software: Practice and
Experience 11 (1981), with the values of plain TeX (The TeXbook, appendix B; from memory):
line penalty 10, hyphen penalty 50, 10,000 for two hyphens in a row or for neighbours of unlike
tightness, 5,000 for a hyphen before the last line.

All widths are multiples of 2**-16 points (`shaping.exact`), so that sums are exact in whatever
order they are made, and the same paragraph is broken alike by itself and among thousands.
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.typeset.breaking.cut import TOLERANCE

LINE = 10.0
HYPHEN = 2_500.0
HYPHENS_IN_A_ROW = 10_000.0
HYPHEN_BEFORE_LAST = 5_000.0
UNLIKE = 10_000.0
SHORT_LAST = 3_000.0  # common practice of the trade: a last line is longer than an indent
FORBIDDEN = 1e13  # dearer than any line that may be
OVERFULL = 1e15  # dearer still: taken only where nothing else is left
CAP = 30.0  # the ratio beyond which a line is as bad as it can be
LONE = 0.25  # a single word has no space: it counts as this much of one

TIGHT, DECENT, LOOSE, VERY_LOOSE = range(4)


class Fit(NamedTuple):
    """What the lines of a segment are to fit.

    `measure` in points; `shrink` and `stretch` are how much narrower or wider a space may be
    and still be good, in points.  A line that is not justified does not shrink, and is good if
    it ends within `zone` points of the edge.  `short`: a last line below it is too short.
    """

    measure: float
    shrink: float
    stretch: float
    justified: bool
    zone: float
    short: float
    hyphens: int  # how many in a row


def ratio(fit: Fit, room: float, gaps: int) -> float:
    """How far the spaces of a line are stretched (1: as far as is good) or shrunk (-1) to take
    up `room` points; for a ragged line, how far it ends from the edge, in zones."""
    if not fit.justified:
        return min(room / fit.zone, CAP)
    if room < 0:
        give = gaps * fit.shrink
        return max(room / give, -CAP) if give else 0.0
    return min(room / ((gaps or LONE) * fit.stretch), CAP)


def fits(fit: Fit, room: float, gaps: int) -> bool:
    """Whether so many points too few can be had from the spaces."""
    return room + gaps * fit.shrink >= -TOLERANCE


def cost(by: float) -> float:
    """The demerits of a line, by its ratio."""
    bad = LINE + 100.0 * (abs(by) * by * by)
    return bad * bad


def tightness(by: float) -> int:
    """The class of a line by its ratio (The TeXbook, chapter 14)."""
    if by < -0.5:
        return TIGHT
    if by <= 0.5:
        return DECENT
    return LOOSE if by <= 1.0 else VERY_LOOSE
