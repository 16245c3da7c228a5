"""A line, relative to the left edge of its measure and to its own top: what stands on it.

A line is never changed once it is made: where it stands is the fragment's to say (`fill`), so
the same line serves a frame, another frame, and the text after an edit elsewhere.
"""

from __future__ import annotations

import math
from array import array
from collections.abc import Iterator

from hidden_frame.typeset.bidi.order import visual
from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.segments import Segment, TextOffset
from hidden_frame.typeset.shaping import Setting, Word


class GlyphRun:
    """Words in one look on one line; their places are worked out when asked for.

    Most lines of a long publication are never looked at, so a run only remembers
    which part of which line it is.
    """

    __slots__ = ("_begin", "_end", "_laid", "span")

    def __init__(self, span: Span, laid: Laid, begin: int, end: int) -> None:
        self.span = span
        self._laid = laid
        self._begin = begin
        self._end = end

    @property
    def setting(self) -> Setting:
        """How its words are set: as the span says, or with letters spaced or scaled here."""
        spread = self._laid.segment.spread
        return self.words[0].setting if spread and self.words else self.span.setting

    @property
    def words(self) -> list[Word]:
        return self._laid.words()[self._begin : self._end]

    @property
    def xs(self) -> list[float]:
        """Where each word starts, in points from the left edge of the line's measure."""
        return self._laid.xs()[self._begin : self._end]

    @property
    def x(self) -> float:
        """Where the first word starts."""
        plain = self._begin == 0 and self._laid.segment.levels is None
        return self._laid.left if plain else self.xs[0]

    @property
    def extra(self) -> float:
        """What each space of the line is wider, or narrower, than it is by itself, in points."""
        return self._laid.extra

    @property
    def spaced(self) -> list[bool]:
        """Whether a space stands before each word; False for the first on the line."""
        return self._laid.spaced()[self._begin : self._end]

    @property
    def both_ways(self) -> bool:
        """Whether some of its words are read from right to left."""
        return self._laid.segment.levels is not None

    @property
    def evenly(self) -> bool:
        """Whether a space is known to stand between any two words, and none before the first."""
        segment = self._laid.segment
        return self._begin == 0 and segment.all_spaced and segment.levels is None

    @property
    def text(self) -> str:
        if self.span.anchored is not None:  # it says nothing, but may stand behind a space
            return " " * sum(self.spaced)
        parts = zip(self.words, self.spaced, strict=True)
        return "".join((" " if gap else "") + word.text for word, gap in parts)

    def levels(self) -> list[int]:
        """The bidirectional level of each word (UAX #9)."""
        levels = self._laid.segment.levels
        first = self._laid.cut.first
        words = range(first + self._begin, first + self._end)
        return [0 if levels is None else levels[n] for n in words]

    def sources(self) -> list[tuple[int, int]]:
        """Where each word starts in its paragraph, and how many characters it covers."""
        segment, cut = self._laid.segment, self._laid.cut
        found = []
        for n, word in enumerate(self.words, self._begin):
            index = cut.first + n
            skip = cut.skip if n == 0 else 0
            length = segment.marked.get(index, len(word.text))
            found.append((segment.sources[index] + skip, length))
        return found


class Laid:
    """The words of a cut, set out from `left` with `extra` points at each space."""

    __slots__ = ("_xs", "cut", "extra", "left", "segment")

    def __init__(self, segment: Segment, cut: Cut, left: float, extra: float) -> None:
        self.segment = segment
        self.cut = cut
        self.left = left
        self.extra = extra
        self._xs: list[float] | None = None  # of words that are read both ways

    def words(self) -> list[Word]:
        cut = self.cut
        words = self.segment.words[cut.first : cut.last + 1]
        if cut.head is not None:
            words[0] = cut.head
        if cut.tail is not None:
            words.append(cut.tail)
        return words

    def xs(self) -> list[float]:
        segment, cut, extra = self.segment, self.cut, self.extra
        if segment.levels is not None and not self.is_empty:
            if self._xs is None:
                self._xs = self._both_ways(segment.levels)
            return self._xs
        shift = self.left - _base(segment, cut)
        end = cut.last + 1 + (cut.tail is not None)
        places = zip(segment.ends[cut.first : end], segment.words[cut.first : end], strict=True)
        xs, gone = [], 0
        for n, (right, word) in enumerate(places):
            gone += n > 0 and (segment.all_spaced or segment.spaced[cut.first + n])
            xs.append(right - word.width + shift + gone * extra)
        if cut.head is not None:
            xs[0] = self.left
        return xs

    def _both_ways(self, levels: list[int]) -> list[float]:
        """The places of words of which some are read from right to left (UAX #9, L2)."""
        segment, first, words = self.segment, self.cut.first, self.words()
        things: list[tuple[int, float, int]] = []  # level, width, the word's number or -1
        for n, (word, gap) in enumerate(zip(words, self.spaced(), strict=True)):
            if gap:
                start = segment.start(first + n) - segment.ends[first + n - 1]
                things.append((segment.gap_levels[first + n], start + self.extra, -1))
            things.append((levels[first + n], word.width, n))
        xs, x = [0.0] * len(words), self.left
        for at in visual([level for level, _, _ in things]):
            _, width, number = things[at]
            if number >= 0:
                xs[number] = x
            x += width
        return xs

    def spaced(self) -> list[bool]:
        first, count = self.cut.first, self.count()
        if self.segment.all_spaced:
            return [n > 0 for n in range(count)]
        return [False, *self.segment.spaced[first + 1 : first + count]]

    @property
    def is_empty(self) -> bool:
        return self.cut.last < self.cut.first and self.cut.tail is None

    def count(self) -> int:
        return self.cut.last + 1 - self.cut.first + (self.cut.tail is not None)


class TextLine:
    """A line: its height (the leading), the rise of its baseline, and glyph runs left to right.

    `rise` is from the line's top to its baseline; `left` and `right` are where its words begin
    and end, from the left edge of the measure; `start` and `end` are places in the paragraph's
    text.  `leaders` fill the way to a tab stop and are nobody's text.
    """

    __slots__ = (
        "_cells", "_initials", "_place", "_runs", "_spec", "leaders", "left", "right", "rise",
    )  # fmt: skip

    def __init__(
        self,
        spec: ParagraphSpec,
        rise: float,
        cells: tuple[Laid, ...],
        right: float,
        leaders: tuple[GlyphRun, ...] = (),
    ) -> None:
        self._spec = spec
        self._cells = cells
        self._runs: tuple[GlyphRun, ...] | None = None
        self._initials: GlyphRun | None = None
        self._place: TextOffset | None = None  # asked for again whenever text flows anew
        self.rise = rise
        self.left = cells[0].left if len(cells) == 1 else _begins(cells)
        self.right = right
        self.leaders = leaders

    def behind(self, span: Span, initials: Laid) -> TextLine:
        """The line with initials in front of it."""
        made = TextLine(self._spec, self.rise, self._cells, self.right, self.leaders)
        made._initials = GlyphRun(span, initials, 0, initials.count())
        made.left = initials.left
        made._place = TextOffset()
        return made

    @property
    def cell(self) -> Laid | None:
        """What stands on it, if that is one stretch of words and nothing else."""
        alone = len(self._cells) == 1 and self._initials is None and not self.leaders
        return self._cells[0] if alone else None

    @property
    def height(self) -> float:
        return self._spec.leading

    @property
    def runs(self) -> tuple[GlyphRun, ...]:
        """A run for each stretch of one look."""
        if self._runs is None:
            self._runs = self._made_runs()
        return self._runs

    def _made_runs(self) -> tuple[GlyphRun, ...]:
        cell = self._cells[0]
        spans = cell.segment.spans
        if len(self._cells) == 1 and isinstance(spans, int) and self._initials is None:
            if cell.is_empty:
                return ()
            return (GlyphRun(self._spec.spans[spans], cell, 0, cell.count()),)  # most lines
        runs = [run for each in self._cells for run in _runs(self._spec, each)]
        return tuple(runs if self._initials is None else [self._initials, *runs])

    @property
    def place(self) -> TextOffset:
        """Where it begins in the paragraph's text."""
        found = self._place
        if found is None:
            segment, cut = self._cells[0].segment, self._cells[0].cut
            if cut.first or cut.skip:
                found = segment.place(cut.first, cut.skip)
            else:
                found = TextOffset(segment.origin)
            self._place = found
        return found

    @property
    def both_ways(self) -> bool:
        """Whether some of it is read from right to left."""
        return any(cell.segment.levels is not None for cell in self._cells)

    @property
    def divided(self) -> bool:
        """Whether it ends with a part of a word."""
        return self._cells[-1].cut.used > 0

    @property
    def rest(self) -> str:
        """What stands on the next line of the word at its end, with the hyphen that is the word's
        own; empty where it ends with a whole word."""
        segment, cut = self._cells[-1].segment, self._cells[-1].cut
        if cut.used:
            return segment.words[cut.last + 1].text[cut.used :].replace(SOFT_HYPHEN, "")
        follows = cut.last + 1
        if follows < len(segment.words) and segment.hyphened(follows):
            return segment.words[cut.last].text[-1] + segment.words[follows].text
        return ""

    @property
    def goes_on(self) -> bool:
        """Whether it begins with the rest of a word."""
        segment, cut = self._cells[0].segment, self._cells[0].cut
        filled = cut.last >= cut.first or cut.tail is not None
        return cut.skip > 0 or (filled and segment.hyphened(cut.first))

    @property
    def has_initials(self) -> bool:
        """Whether its first run are initials."""
        return self._initials is not None

    @property
    def start(self) -> int:
        return self.place.offset

    @property
    def end(self) -> int:
        segment, cut = self._cells[-1].segment, self._cells[-1].cut
        if cut.used:
            return segment.sources[cut.last + 1] + cut.used
        if cut.last >= len(segment.words) - 1:
            return segment.end
        return segment.sources[cut.last] + segment.length(cut.last)

    @property
    def text(self) -> str:
        return "".join(run.text for run in self.runs)


def _begins(cells: tuple[Laid, ...]) -> float:
    """Where the words of several cells begin."""
    return min((cell.left for cell in cells if not cell.is_empty), default=cells[-1].left)


class OpenLine:
    """A line on which cells divided by tabs are still being put."""

    __slots__ = ("cells", "leaders", "right", "spec")

    def __init__(self, spec: ParagraphSpec) -> None:
        self.spec = spec
        self.cells: list[Laid] = []
        self.leaders: list[GlyphRun] = []
        self.right = 0.0

    def put(self, laid: Laid, width: float) -> None:
        """Puts a cut's words on the line; `width` is theirs as they are spaced there."""
        self.cells.append(laid)
        self.right = max(self.right, laid.left + (0.0 if laid.is_empty else width))

    def line(self, rise: float) -> TextLine:
        """The line as it is now."""
        return TextLine(self.spec, rise, tuple(self.cells), self.right, tuple(self.leaders))

    def lead(self, leader: str, start: float, end: float) -> None:
        """Fills the way to a tab stop, in steps counted from the measure's edge, so that the
        leaders of several lines stand under each other."""
        if not leader:
            return
        word, space = self.spec.base.word(leader), self.spec.base.space
        step = word.width
        if step <= 0:
            return
        first = math.ceil((start + space / 2) / step)
        count = math.floor((end - space / 2) / step) - first
        if count < 1:
            return
        segment = Segment(0, (None,))
        segment.words = [word] * count
        segment.ends = array("d", [(n + 1) * step for n in range(count)])
        segment.all_spaced, segment.spaced = False, [False] * count
        laid = Laid(segment, Cut(0, count - 1), first * step, 0.0)
        span = Span(leader, self.spec.base, self.spec.ink)
        self.leaders.append(GlyphRun(span, laid, 0, count))


def whole(segment: Segment) -> float:
    """The width of a segment on one line."""
    return segment.ends[-1] if segment.words else 0.0


def _base(segment: Segment, cut: Cut) -> float:
    if cut.head is not None:
        return segment.ends[cut.first] - cut.head.width
    return segment.start(cut.first)


def natural(segment: Segment, cut: Cut) -> float:
    """A line's width before its spaces are stretched."""
    if cut.tail is not None:
        return segment.start(cut.last + 1) + cut.tail.width - _base(segment, cut)
    return segment.ends[cut.last] - _base(segment, cut)


def gaps(segment: Segment, cut: Cut) -> int:
    last = cut.last + (cut.tail is not None)
    if segment.all_spaced:
        return last - cut.first
    return sum(segment.spaced[cut.first + 1 : last + 1])


def _runs(spec: ParagraphSpec, laid: Laid) -> Iterator[GlyphRun]:
    """A cell's words, a run for each stretch of one look."""
    if laid.is_empty:
        return
    spans = laid.segment.spans
    if isinstance(spans, int):
        yield GlyphRun(spec.spans[spans], laid, 0, laid.count())
        return
    first, count = laid.cut.first, laid.count()
    kinds = spans[first : first + count]
    begin = 0
    for n in range(1, count + 1):
        if n == count or kinds[n] != kinds[begin]:
            span = spec.spans[kinds[begin]] if spec.spans else Span("", spec.base, spec.ink)
            yield GlyphRun(span, laid, begin, n)
            begin = n
