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

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.anchored import room_above, rows
from hidden_frame.typeset.line import TextLine
from hidden_frame.typeset.lines import LineSetter
from hidden_frame.typeset.measures import rise_of
from hidden_frame.typeset.paragraph import ParagraphSpec, Starts
from hidden_frame.typeset.paragraphs import SetLines, SetParagraph, lines_from, set_paragraph
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.segments import TextOffset
from hidden_frame.typeset.whole_words import with_whole_word

_HAIR = 0.001  # points
_TRIES = 4  # words kept whole, one after the other, so that a page ends with one
_MOST_PLACES = 300  # lines of a paragraph that are chosen together
_AMPLE, _FEW = 1.5, 6  # of the room that its lines take by themselves; lines at least


class Where(NamedTuple):
    """A place in a text: the number of a paragraph, and where in it."""

    paragraph: int = 0
    place: TextOffset = TextOffset()


class Block(NamedTuple):
    """Lines `first` to `last` (excluded) of a set paragraph, one below the other.

    `x` is the left edge of their measure and `top` the first one's, both from the frame's
    upper left corner; `pitch` is the step from line to line (points).
    """

    paragraph: int
    set: SetLines
    first: int
    last: int
    x: float
    top: float
    pitch: float

    @property
    def bottom(self) -> float:
        """Where the last line ends."""
        return self.top + self.pitch * (self.last - self.first - 1) + self.set.spec.leading

    @property
    def lines(self) -> tuple[TextLine, ...]:
        """The paragraph's lines, of which some stand here."""
        return self.set.lines


class Fragment(NamedTuple):
    """What stands in a region; `height` is how far down it reaches, spaces included; `seen` is
    the number behind the last paragraph that was looked at for it."""

    blocks: tuple[Block, ...]
    height: float
    rest: Where | None
    seen: int = 0

    def lowered(self, by: float) -> Fragment:
        """The same lines so many points further down."""
        moved = tuple([b._replace(top=b.top + by) for b in self.blocks]) if by else self.blocks
        return self._replace(blocks=moved, height=self.height + by)

    @property
    def bottom(self) -> float:
        """Where the last line ends; 0 if there is none."""
        return self.blocks[-1].bottom if self.blocks else 0.0


class Opening(NamedTuple):
    """What a region is to a text that asks for a place to start: the first of its frame, of its
    page, and on which side that is."""

    frame: bool = True
    page: bool = True
    side: str = ""

    def suits(self, starts: Starts) -> bool:
        """Whether a paragraph may start at its head."""
        if starts == "frame":
            return self.frame
        if starts == "anywhere":
            return True
        wanted = {"page": "", "right page": "recto", "left page": "verso"}[starts]
        return self.page and (not wanted or not self.side or self.side == wanted)


def fill(
    specs: Sequence[ParagraphSpec],
    region: Region,
    start: Where = Where(),
    *,
    spaced: bool = True,
    origin: int = 0,
    opening: Opening | None = None,
    closing: str = "",
) -> Fragment:
    """Fills a region with text from a place on; blocks count their paragraphs from `origin`.

    `spaced` says whether the space above a paragraph counts at the region's head; without an
    `opening` nothing is waited for.  `closing` is the side of the page that ends with the region,
    "" where it goes on: some styles don't end it with a divided word.  A region that has no room
    for a line, or whose `opening` does not suit the first paragraph, stays empty, and the text goes
    on where it was to begin.
    """
    filling = _Filling(region, origin, closing)
    if math.isinf(region.height) and not region.outlines:  # all of it will stand here
        filling.known = set_paragraph.each(specs, region.measure)
    put = filling.around if region.outlines else filling.freely
    begin = start.place
    for number in range(start.paragraph, len(specs)):
        spec = specs[number]
        if begin == TextOffset():
            starts = spec.keeps.starts
            waits = opening is not None and (filling.blocks or not opening.suits(starts))
            if starts != "anywhere" and waits:
                return filling.fragment(filling.parted(Where(number), specs), number + 1)
            if spec.before and (filling.y or spaced):
                filling.y += spec.before
        rest = put(number, spec, begin)
        if rest is not None:
            return filling.fragment(filling.parted(rest, specs), number + 1)
        filling.y += spec.after
        begin = TextOffset()
    return filling.fragment(None, len(specs))


@remembered(by_value=("place", "measures"), weigh=lambda lines: 100 + 900 * len(lines or ()))
def lines_together(
    spec: ParagraphSpec, widest: float, place: TextOffset, measures: tuple[float, ...]
) -> list[TextLine] | None:
    """The lines of a paragraph from a place on, chosen together (`LineSetter.through`)."""
    setter = LineSetter(spec, widest)
    setter.go_on_at(place)
    return setter.through(measures)


class _Filling:
    """A region while it is being filled, down to `y`."""

    def __init__(self, region: Region, origin: int, closing: str) -> None:
        self.region, self.origin, self.closing = region, origin, closing
        self.measure, self.limit = region.measure, region.limit
        self.blocks: list[Block] = []
        self.known: list[SetParagraph] = []  # every paragraph, where all are needed
        self.y = 0.0

    def fragment(self, rest: Where | None, seen: int) -> Fragment:
        return Fragment(tuple(self.blocks), self.y, rest, seen)

    def parted(self, rest: Where, specs: Sequence[ParagraphSpec]) -> Where:
        """Where the text goes on, if what comes before it is to stay with it."""
        kept = len(self.blocks)
        number = rest.paragraph
        if rest.place != TextOffset():
            return rest
        while kept and number > 0 and specs[number - 1].keeps.next:
            last = kept
            while kept and self.blocks[kept - 1].paragraph + self.origin == number - 1:
                kept -= 1
            block = self.blocks[min(kept, last - 1)]
            if kept == last or block.first or block.set.place(0) != TextOffset():
                kept = last
                break
            number -= 1
        if not kept or number == rest.paragraph:
            return rest  # all that stands here is to stay together: it can't go anywhere
        self.y = self.blocks[kept].top
        del self.blocks[kept:]
        return Where(number)

    def freely(self, number: int, spec: ParagraphSpec, begin: TextOffset) -> Where | None:
        """The usual case, nothing in the way: a paragraph's lines are known, and as many of
        them are taken as there is room for."""
        region = self.region
        known: SetLines = self.known[number] if self.known else set_paragraph(spec, self.measure)
        first = known.line_at(begin)
        if first is None:  # broken at another measure
            known, first = lines_from(spec, begin, self.measure), 0
        if spec.dress.anchored:
            return self._with_anchors(number, known, first)
        leading = spec.leading
        pitch = self._on_grid(spec) if spec.dress.on_grid else leading
        last = self._last(known, first, pitch)
        if first < last < known.count and known.divided(last - 1) and self._keeps_words(spec):
            known, first, last = self._undivided(known, first, last, pitch)
        if last > first:
            at = number - self.origin
            self.blocks.append(Block(at, known, first, last, region.left, self.y, pitch))
            self.y += pitch * (last - first - 1) + leading
        if last < known.count:
            return Where(number, known.place(last))
        drop = spec.dress.drop
        if drop is not None and first == 0:  # initials reach further down than a short paragraph
            self.y += max(drop.lines - last, 0) * pitch
        return None

    def _with_anchors(self, number: int, known: SetLines, first: int) -> Where | None:
        """A paragraph some of whose lines need more room above them than others."""
        spec, leading = known.spec, known.spec.leading
        pitch = self._on_grid(spec) if spec.dress.on_grid else leading
        found = rows(known, first, self.y, pitch, self.limit,
                     on_grid=spec.dress.on_grid, bare=not self.blocks)  # fmt: skip
        last = first + len(found)
        if last < known.count:
            last = self._cut(spec, first, last, known.count)
        at = begun = first
        for at in range(first, last):
            if at + 1 == last or found[at + 1 - first].above:
                top = found[begun - first].top
                block = Block(
                    number - self.origin, known, begun, at + 1, self.region.left, top, pitch
                )
                self.blocks.append(block)
                self.y, begun = block.bottom, at + 1
        return Where(number, known.place(last)) if last < known.count else None

    def _last(self, known: SetLines, first: int, pitch: float) -> int:
        """Behind which of a paragraph's lines it is parted, or ends."""
        last, leading = known.count, known.spec.leading
        if self.y + pitch * (last - first - 1) + leading > self.limit:
            room = int((self.limit - leading - self.y) // pitch) + 1
            last = self._cut(known.spec, first, first + max(room, 0), last)
        if first < last < known.count and known.place(last) == TextOffset():
            return first  # its number alone stands here, on a line of its own
        return last

    def _keeps_words(self, spec: ParagraphSpec) -> bool:
        """Whether a divided word may not end the page that ends with this region."""
        if spec.keeps.hyphen_ends == "not at rectos":
            return self.closing == "recto"
        return spec.keeps.hyphen_ends == "not at pages" and bool(self.closing)

    def _undivided(
        self, known: SetLines, first: int, last: int, pitch: float
    ) -> tuple[SetLines, int, int]:
        """The lines of a paragraph broken so that the page does not end with a divided word;
        as they are where that can't be."""
        tried, at, end = known, first, last
        for _ in range(_TRIES):
            begin = tried.place(at)
            spec = with_whole_word(tried.spec, tried.place(end).offset)
            if begin == TextOffset():
                tried, at = set_paragraph(spec, self.measure), 0
            else:
                tried, at = lines_from(spec, begin, self.measure), 0
            end = self._last(tried, at, pitch)
            if not at < end < tried.count or not tried.divided(end - 1):
                return tried, at, end
        return known, first, last

    def _cut(self, spec: ParagraphSpec, first: int, last: int, count: int) -> int:
        """Behind which line a paragraph is parted of whose lines those before `last` have room.

        What its style asks for is done where that leaves something here, or something stands
        above; in a region of its own a paragraph takes what room there is.
        """
        keeps, drop = spec.keeps, spec.dress.drop
        wanted = min(last, count - keeps.head)
        least = max(keeps.foot, drop.lines if drop is not None else 1)
        if not first and (keeps.together or wanted < min(least, count)):
            wanted = first
        if wanted > first or (self.blocks and not first):
            return max(wanted, first)
        return last

    def _on_grid(self, spec: ParagraphSpec) -> float:
        """Moves down until the next baseline is on the grid; gives the step from line to line."""
        if self.region.grid is None:
            return spec.leading
        first, step = self.region.grid
        lacking = (first - self.y - rise_of(spec)) % step
        if step - lacking > _HAIR:  # not already there
            self.y += lacking
        return math.ceil(spec.leading / step - 1e-6) * step

    def around(self, number: int, spec: ParagraphSpec, begin: TextOffset) -> Where | None:
        """Where measures depend on the height: each line is broken where it comes to stand."""
        region, top, before = self.region, self.y, len(self.blocks)
        if self._clear(spec, begin):
            return self.freely(number, spec, begin)
        setter = LineSetter(spec, region.measure)
        setter.go_on_at(begin)
        if self._planned(number, spec, setter):
            return None
        while not setter.done:
            pitch = self._on_grid(spec) if spec.dress.on_grid else spec.leading
            found = self._room(spec, setter)
            if found and spec.dress.anchored:
                found = self._below_anchors(spec, setter, found)
            if not found:
                few = len(self.blocks) - before < spec.keeps.foot or spec.keeps.together
                if few and before and begin == TextOffset():
                    del self.blocks[before:]
                    self.y = top
                    return Where(number)
                return Where(number, setter.place)
            # Where nothing is in the way there is no more room further down.
            whole = found == [(region.left, region.right)]
            for left, right in found:
                if setter.done or not (whole or right - left >= self._need(spec, setter)):
                    continue
                alone = SetLines(spec, (setter.line(right - left),), 1)
                block = Block(number - self.origin, alone, 0, 1, left, self.y, pitch)
                self.blocks.append(block)
            self.y += pitch
        return None

    def _below_anchors(
        self, spec: ParagraphSpec, setter: LineSetter, found: list[tuple[float, float]]
    ) -> list[tuple[float, float]]:
        """Moves down by what is anchored in the next line; gives where it has room there."""
        tried = LineSetter(spec, self.measure)
        tried.go_on_at(setter.place)
        above = room_above(tried.line(found[0][1] - found[0][0]))
        if not above:
            return found
        limit = self.limit - spec.leading
        if self.y + above > limit and (self.blocks or self.y >= limit):
            return []
        self.y = min(self.y + above, limit)
        return self._room(spec, setter)

    def _planned(self, number: int, spec: ParagraphSpec, setter: LineSetter) -> bool:
        """Sets what is left of a paragraph beside something in the way, its lines chosen
        together, if all of it has room here; or says that it is to be set line by line."""
        if spec.dress.on_grid or spec.dress.anchored or setter.done:
            return False
        place = setter.place
        places = self._places(spec, place)
        measures = tuple([right - left for _, left, right in places])
        lines = lines_together(spec, self.measure, place, measures)
        if lines is None or places[len(lines) - 1][0] + spec.leading > self.limit:
            return False
        for line, (y, left, _) in zip(lines, places, strict=False):
            alone = SetLines(spec, (line,), 1)
            self.blocks.append(Block(number - self.origin, alone, 0, 1, left, y, spec.leading))
            self.y = y + spec.leading
        return True

    def _places(self, spec: ParagraphSpec, place: TextOffset) -> list[tuple[float, float, float]]:
        """Where the next lines may stand, as many as a paragraph may need from a place on: the
        top of each, its left and right edge.  The region's foot does not count, so that the lines
        of a paragraph are the same in regions of any height."""
        region, y = self.region, self.y
        least = spec.left + max(spec.first, 0.0) + spec.right + spec.leading
        known = set_paragraph(spec, self.measure)
        wanted = (known.count - (known.line_at(place) or 0)) * self.measure * _AMPLE
        found: list[tuple[float, float, float]] = []
        while (wanted > 0 or len(found) < _FEW) and len(found) < _MOST_PLACES:
            stretches, below = region.stretches(y, spec.leading)
            whole = stretches == [(region.left, region.right)]
            wide = [(y, a, b) for a, b in stretches if whole or b - a >= least]
            found += wide
            wanted -= sum(b - a for _, a, b in wide)
            y = y + spec.leading if wide else below
            if math.isinf(y):
                break
        return found

    def _clear(self, spec: ParagraphSpec, begin: TextOffset) -> bool:
        """Whether nothing is in the way of a whole paragraph, as far down as it may reach."""
        known = set_paragraph(spec, self.measure)
        first = known.line_at(begin)
        if first is None or spec.dress.anchored:
            return False
        pitch = spec.leading
        if spec.dress.on_grid and self.region.grid is not None:
            pitch += 2 * self.region.grid[1]
        high = min(pitch * (known.count - first + 1), self.limit - self.y)
        left, right, _ = self.region.free(self.y, max(high, spec.leading))
        return (left, right) == (self.region.left, self.region.right)

    def _need(self, spec: ParagraphSpec, setter: LineSetter) -> float:
        """The least measure of the next line, where something is in its way."""
        return setter.indent + spec.right + max(setter.least, spec.leading)

    def _room(self, spec: ParagraphSpec, setter: LineSetter) -> list[tuple[float, float]]:
        """Moves down to where the next line has room behind its indents; nothing if nowhere."""
        region = self.region
        need = self._need(spec, setter)
        while self.y + spec.leading <= region.limit:
            stretches, below = region.stretches(self.y, spec.leading)
            if stretches == [(region.left, region.right)]:
                return stretches
            wide = [(left, right) for left, right in stretches if right - left >= need]
            if wide:
                return wide
            self.y = below
        return []
