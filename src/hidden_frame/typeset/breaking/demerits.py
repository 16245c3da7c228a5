"""What a line costs: how far its spaces are from their natural width, and what it ends with.

The formula is that of Knuth and Plass, “Breaking Paragraphs into Lines”, Software: Practice and
Experience 11 (1981), with the values of plain TeX (The TeXbook, appendix B; from memory):
line penalty 10, hyphen penalty 50, 10,000 for two hyphens in a row or for neighbours of unlike
tightness, 5,000 for a hyphen before the last line.  Beyond what its style likes, a line is worse
by a step, and from there on by the square of its ratio instead of the cube: in narrow columns,
where many lines can't be good, more of them are, and the worst are no worse (`./bench lines`).

All widths are multiples of 2**-16 points (`shaping.exact`), so that sums are exact in whatever
order they are made, and the same paragraph is broken alike by itself and among thousands.
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.typeset.breaking.cut import TOLERANCE

LINE = 10.0
BEYOND = 500_000.0  # a line that is looser than its style likes, whatever it is by
HYPHEN = 2_500.0
HYPHENS_IN_A_ROW = 10_000.0
HYPHEN_BEFORE_LAST = 5_000.0
UNLIKE = 10_000.0
SHORT_LAST = 3_000.0  # a last line of a few letters
NO_INDENT = 1e9  # common practice of the trade: a last line is longer than an indent
FORBIDDEN = 1e13  # dearer than any line that may be
OVERFULL = 1e15  # dearer still: taken only where nothing else is left
LADDER = 3  # hyphens in a row in a style that divides no words
CAP = 30.0  # the ratio beyond which a line is as bad as it can be
LONE = 0.25  # a single word has no space: it counts as this much of one

TIGHT, DECENT, LOOSE, VERY_LOOSE = range(4)


class Fit(NamedTuple):
    """What the lines of a segment are to fit.

    `measure` in points; `shrink` and `stretch` are how much narrower or wider a space may be
    and still be good, in points.  A line that is not justified does not shrink, and is good if
    it ends within `zone` points of the edge.  `short`: a last line below it is too short; one
    below `indent` is not taken while there is any other.
    """

    measure: float
    shrink: float
    stretch: float
    justified: bool
    zone: float
    short: float
    hyphens: int  # how many in a row; 0: no words are divided
    indent: float = 0.0

    @property
    def ladder(self) -> int:
        """How many hyphens may stand one below the other, whether words are divided or have
        hyphens of their own."""
        return self.hyphens or LADDER


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
    size = abs(by)
    bad = LINE + 100.0 * (size * size * min(size, 1.0))
    return bad * bad + (BEYOND if by > 1.0 else 0.0)


def short_last(fit: Fit, width: float) -> float:
    """The demerits of a last line of a width (points) for being short."""
    return (SHORT_LAST if width < fit.short else 0.0) + (NO_INDENT if width < fit.indent else 0.0)


def tightness(by: float) -> int:
    """The class of a line by its ratio (The TeXbook, chapter 14)."""
    if by < -0.5:
        return TIGHT
    if by <= 0.5:
        return DECENT
    return LOOSE if by <= 1.0 else VERY_LOOSE
