"""A region filled with text: which lines stand where, and where the text goes on.

>>> specs = composition.scene(page).placed[1].drawing.text.text.specs
>>> fragment = fill(specs, Region(0.0, 60.0, 15.0))
>>> fragment.rest  # the place from which the next region goes on; None: all of it stands
Where(paragraph=0, place=TextOffset(offset=15, words=0))
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.typeset.line import TextLine
from hidden_frame.typeset.lines import LineSetter
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.paragraphs import SetLines, SetParagraph, lines_from, set_paragraph
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.segments import TextOffset


class Where(NamedTuple):
    """A place in a text: the number of a paragraph, and where in it."""

    paragraph: int = 0
    place: TextOffset = TextOffset()


class Block(NamedTuple):
    """Lines `first` to `last` (excluded) of a set paragraph, one below the other.

    `x` is the left edge of their measure and `top` the first one's, both from the frame's
    upper left corner.
    """

    paragraph: int
    set: SetLines
    first: int
    last: int
    x: float
    top: float

    @property
    def lines(self) -> tuple[TextLine, ...]:
        """The paragraph's lines, of which some stand here."""
        return self.set.lines


class Fragment(NamedTuple):
    """What stands in a region; `height` is how far down it reaches, spaces included."""

    blocks: tuple[Block, ...]
    height: float
    rest: Where | None

    def lowered(self, by: float) -> Fragment:
        """The same lines so many points further down."""
        moved = tuple([b._replace(top=b.top + by) for b in self.blocks]) if by else self.blocks
        return self._replace(blocks=moved, height=self.height + by)

    @property
    def bottom(self) -> float:
        """Where the last line ends; 0 if there is none."""
        if not self.blocks:
            return 0.0
        last = self.blocks[-1]
        return last.top + last.set.spec.leading * (last.last - last.first)


def fill(
    specs: Sequence[ParagraphSpec],
    region: Region,
    start: Where = Where(),
    *,
    spaced: bool = True,
    origin: int = 0,
) -> Fragment:
    """Fills a region with text from a place on; blocks count their paragraphs from `origin`.

    `spaced` says whether the space above a paragraph counts at the region's head.  A region
    that has no room for a line stays empty, and the text goes on where it was to begin.
    """
    filling = _Filling(region, origin)
    if math.isinf(region.height) and not region.outlines:  # all of it will stand here
        filling.known = set_paragraph.each(specs, region.measure)
    put = filling.around if region.outlines else filling.freely
    begin = start.place
    for number in range(start.paragraph, len(specs)):
        spec = specs[number]
        if begin == TextOffset() and spec.before and (filling.y or spaced):
            filling.y += spec.before
        rest = put(number, spec, begin)
        if rest is not None:
            return Fragment(tuple(filling.blocks), filling.y, rest)
        filling.y += spec.after
        begin = TextOffset()
    return Fragment(tuple(filling.blocks), filling.y, None)


class _Filling:
    """A region while it is being filled, down to `y`."""

    def __init__(self, region: Region, origin: int) -> None:
        self.region, self.origin = region, origin
        self.measure, self.limit = region.measure, region.limit
        self.blocks: list[Block] = []
        self.known: list[SetParagraph] = []  # every paragraph, where all are needed
        self.y = 0.0

    def freely(self, number: int, spec: ParagraphSpec, begin: TextOffset) -> Where | None:
        """The usual case, nothing in the way: a paragraph's lines are known, and as many of
        them are taken as there is room for."""
        region = self.region
        known: SetLines = self.known[number] if self.known else set_paragraph(spec, self.measure)
        first = known.line_at(begin)
        if first is None:  # broken at another measure
            known, first = lines_from(spec, begin, self.measure), 0
        last, leading = known.count, spec.leading
        if self.y + leading * (last - first) > self.limit:
            last = first + max(int((self.limit - self.y) // leading), 0)
        if last > first:
            at = number - self.origin
            self.blocks.append(Block(at, known, first, last, region.left, self.y))
            self.y += leading * (last - first)
        return Where(number, known.place(last)) if last < known.count else None

    def around(self, number: int, spec: ParagraphSpec, begin: TextOffset) -> Where | None:
        """Where measures depend on the height: each line is broken where it comes to stand."""
        region = self.region
        setter = LineSetter(spec, region.measure)
        setter.go_on_at(begin)
        while not setter.done:
            found = self._room(spec, setter)
            if found is None:
                return Where(number, setter.place)
            left, right = found
            line = setter.line(right - left)
            alone = SetLines(spec, (line,), 1)
            self.blocks.append(Block(number - self.origin, alone, 0, 1, left, self.y))
            self.y += spec.leading
        return None

    def _room(self, spec: ParagraphSpec, setter: LineSetter) -> tuple[float, float] | None:
        """Moves down to where the next line has room behind its indents; None if nowhere."""
        region = self.region
        indent, need = setter.indent, max(setter.least, spec.leading)
        while self.y + spec.leading <= region.limit:
            left, right, below = region.free(self.y, spec.leading)
            whole = (left, right) == (region.left, region.right)
            if whole or right - left - indent - spec.right >= need:
                return left, right
            self.y = below
        return None
