"""Paragraphs set to a width: lines of glyph runs with their places.

>>> text = set_text([spec], width=200.0)
>>> [line.baseline for line in text.lines]
[9.9, 23.9, …]
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from hidden_frame.typeset.breaking import Breaker, Cut
from hidden_frame.typeset.paragraph import ParagraphSpec, Span, Tab
from hidden_frame.typeset.room import Room
from hidden_frame.typeset.shaping import Setting, Word
from hidden_frame.typeset.tokens import Tokens, segments

DEFAULT_TAB = 36.0  # points between stops where a style sets none


class GlyphRun:
    """Words in one look on one baseline; their places are worked out when asked for.

    Most lines of a long publication are never looked at, so a run only remembers
    which part of which line it is.
    """

    __slots__ = ("_begin", "_end", "_placed", "baseline", "span")

    def __init__(self, span: Span, baseline: float, placed: Placed, begin: int, end: int) -> None:
        self.span = span
        self.baseline = baseline
        self._placed = placed
        self._begin = begin
        self._end = end

    @property
    def setting(self) -> Setting:
        return self.span.setting

    @property
    def words(self) -> list[Word]:
        return self._placed.words()[self._begin : self._end]

    @property
    def xs(self) -> list[float]:
        """Where each word starts, in points from the frame's left inner edge."""
        return self._placed.xs()[self._begin : self._end]

    @property
    def x(self) -> float:
        """Where the first word starts."""
        return self._placed.left if self._begin == 0 else self.xs[0]

    @property
    def extra(self) -> float:
        """What each space of the line is wider, or narrower, than it is by itself, in points."""
        return self._placed.extra

    @property
    def spaced(self) -> list[bool]:
        """Whether a space stands before each word; False for the first on the line."""
        return self._placed.spaced()[self._begin : self._end]

    @property
    def text(self) -> str:
        parts = zip(self.words, self.spaced, strict=True)
        return "".join((" " if gap else "") + word.text for word, gap in parts)

    def sources(self) -> list[tuple[int, int]]:
        """Where each word starts in its paragraph, and how many characters it covers."""
        tokens, cut = self._placed.tokens, self._placed.cut
        found = []
        for n, word in enumerate(self.words, self._begin):
            index = cut.first + n
            skip = cut.skip if n == 0 else 0
            length = tokens.marked.get(index, len(word.text))
            found.append((tokens.sources[index] + skip, length))
        return found


class Placed:
    """The tokens of a cut, set out from `left` with `extra` points at each space."""

    __slots__ = ("cut", "extra", "left", "tokens")

    def __init__(self, tokens: Tokens, cut: Cut, left: float, extra: float) -> None:
        self.tokens = tokens
        self.cut = cut
        self.left = left
        self.extra = extra

    def words(self) -> list[Word]:
        cut = self.cut
        words = self.tokens.words[cut.first : cut.last + 1]
        if cut.head is not None:
            words[0] = cut.head
        if cut.tail is not None:
            words.append(cut.tail)
        return words

    def xs(self) -> list[float]:
        tokens, cut, extra = self.tokens, self.cut, self.extra
        shift = self.left - _base(tokens, cut)
        starts = tokens.starts[cut.first : cut.last + 1 + (cut.tail is not None)]
        xs, gone = [], 0
        for n, x in enumerate(starts):
            gone += n > 0 and (tokens.all_spaced or tokens.spaced[cut.first + n])
            xs.append(x + shift + gone * extra)
        if cut.head is not None:
            xs[0] = self.left
        return xs

    def spaced(self) -> list[bool]:
        first, count = self.cut.first, self.count()
        if self.tokens.all_spaced:
            return [n > 0 for n in range(count)]
        return [False, *self.tokens.spaced[first + 1 : first + count]]

    def count(self) -> int:
        return self.cut.last + 1 - self.cut.first + (self.cut.tail is not None)


class Line:
    """A line: its top and height (the leading), baseline, and glyph runs from left to right.

    `start` and `end` are places in the text of paragraph number `paragraph`; `column`
    counts the columns from 0.
    """

    __slots__ = (
        "_first", "_last", "baseline", "column", "height", "leaders", "left", "paragraph", "right",
        "runs", "top",
    )  # fmt: skip

    def __init__(
        self, paragraph: int, top: float, height: float, baseline: float, column: int = 0
    ) -> None:
        self.paragraph = paragraph
        self.column = column
        self.top = top
        self.height = height
        self.baseline = baseline
        self.runs: list[GlyphRun] = []
        self.leaders: list[GlyphRun] = []  # what fills the way to a tab stop; nobody's text
        self.left = self.right = 0.0
        self._first: tuple[Tokens, Cut] | None = None
        self._last: tuple[Tokens, Cut] | None = None

    def holds(self, tokens: Tokens, cut: Cut) -> None:
        """What stands on the line from `start` on, or after what it already holds."""
        self._first = self._first or (tokens, cut)
        self._last = (tokens, cut)

    @property
    def start(self) -> int:
        if self._first is None:
            return 0
        tokens, cut = self._first
        return tokens.sources[cut.first] + cut.skip if cut.first or cut.skip else tokens.origin

    @property
    def end(self) -> int:
        if self._last is None:
            return 0
        tokens, cut = self._last
        if cut.used:
            return tokens.sources[cut.last + 1] + cut.used
        if cut.last >= len(tokens.words) - 1:
            return tokens.end
        return tokens.sources[cut.last] + tokens.length(cut.last)

    @property
    def bottom(self) -> float:
        return self.top + self.height

    @property
    def text(self) -> str:
        return "".join(run.text for run in self.runs)


class SetText:
    """Lines from the top down, column after column, and the height that the text takes.

    `columns` are their left and right edges.
    """

    __slots__ = ("columns", "height", "lines", "specs", "width")

    def __init__(
        self,
        lines: list[Line],
        height: float,
        width: float,
        specs: tuple,
        columns: tuple[tuple[float, float], ...] = (),
    ) -> None:
        self.lines = lines
        self.height = height
        self.width = width
        self.specs = specs
        self.columns = columns or ((0.0, width),)

    def lower(self, column: int, by: float) -> None:
        """Moves a column's lines down, before the text is shown to anyone."""
        for line in self.lines:
            if line.column == column:
                line.top += by
                line.baseline += by
                for run in (*line.runs, *line.leaders):
                    run.baseline += by


def set_text(specs: Sequence[ParagraphSpec], width: float, room: Room | None = None) -> SetText:
    """All lines of the paragraphs at a width (points), whether or not they fit a frame.

    The space above the first paragraph counts, as does the space below the last.  With
    `room`, text goes from column to column and around what stands in its way; what the
    last column can't hold goes on below it.
    """
    setter = _Setter(width, room)
    for number, spec in enumerate(specs):
        setter.paragraph(number, spec)
    height = max(setter.y, setter.deepest)
    return SetText(setter.lines, height, width, tuple(specs), setter.columns)


class _Setter:
    """Sets paragraph after paragraph; a line goes from `left` to `right`, the edges of the
    column or of what is free of it at this height."""

    def __init__(self, width: float, room: Room | None) -> None:
        self.room = room
        self.columns = ((0.0, width),) if room is None else room.edges(width)
        self.column = 0
        self.left, self.right = self.columns[0]
        self.y = self.deepest = 0.0
        self.rise = 0.0  # from a line's top to its baseline
        self.lines: list[Line] = []

    def paragraph(self, number: int, spec: ParagraphSpec) -> None:
        if self.y or not self.column:  # no space at the head of a later column
            self.y += spec.before
        face, size = spec.base.face, spec.base.size
        # Half of what the leading adds stands above a line (CSS Inline 3, 4.1).
        above = (spec.leading - (face.ascent + face.descent) * size) / 2
        self.rise = above + face.ascent * size
        row: list[Tokens] = []
        first = True
        for tokens in segments(spec):
            row.append(tokens)
            if tokens.ends_with != "\t":
                self._row(number, spec, row, first)
                row, first = [], False
        self.y += spec.after

    def _find_room(self, spec: ParagraphSpec, indent: float, need: float) -> None:
        """Moves on to where the next line has room for `need` points behind its indents."""
        room = self.room
        if room is None:
            return
        while True:
            if self.column < len(self.columns) - 1 and self.y + spec.leading > room.limit:
                self.deepest = max(self.deepest, self.y)
                self.column, self.y = self.column + 1, 0.0
                continue
            edges = self.columns[self.column]
            self.left, self.right, below = room.free(edges, self.y, spec.leading)
            whole = (self.left, self.right) == edges
            if whole or self.right - self.left - indent - spec.right >= max(need, spec.leading):
                return
            self.y = below

    def _row(self, number: int, spec: ParagraphSpec, row: list[Tokens], first: bool) -> None:
        """What stands between two line breaks: cells divided by tabs, the last may wrap."""
        indent = spec.left + (spec.first if first else 0.0)
        if len(row) == 1:
            self._wrap(number, spec, row[0], indent)
            return
        self._find_room(spec, indent, 0.0)
        line = self._line(number, spec)
        x = self._cells(spec, line, row, self.left + indent)
        last = row[-1]
        stop, align, leader = self._stop(spec, x)
        if align == "left" and last.words and stop + last.ends[-1] > self.right - spec.right:
            self.lines.pop()
            self.y = line.top
            _lead(spec, line, leader, x, stop)
            self._wrap(number, spec, last, stop - self.left, line)
            return
        left = self._cell_left(stop, align, last, x)
        _lead(spec, line, leader, x, left)
        self._place(spec, line, last, Cut(0, len(last.words) - 1), left, _whole(last))

    def _cells(self, spec: ParagraphSpec, line: Line, row: list[Tokens], x: float) -> float:
        """Every cell but the last, each at its stop; where the next may start."""
        for n, cell in enumerate(row[:-1]):
            stop, align, leader = (x, "left", "") if n == 0 else self._stop(spec, x)
            left = self._cell_left(stop, align, cell, x)
            _lead(spec, line, leader, x, left)
            self._place(spec, line, cell, Cut(0, len(cell.words) - 1), left, _whole(cell))
            x = left + _whole(cell)
        return x

    def _stop(self, spec: ParagraphSpec, x: float) -> tuple[float, str, str]:
        """The next tab stop to the right of x, its alignment and leader; stops count from the
        line's left edge."""
        right = self.right - spec.right - self.left
        x -= self.left
        for tab in sorted(spec.tabs, key=lambda t: _position(t, right)):
            if _position(tab, right) > x + 0.01:
                return self.left + _position(tab, right), tab.align, tab.leader
        return self.left + (x // DEFAULT_TAB + 1) * DEFAULT_TAB, "left", ""

    @staticmethod
    def _cell_left(stop: float, align: str, cell: Tokens, x: float) -> float:
        width = _whole(cell)
        if align == "right":
            return max(stop - width, x)
        return max(stop - width / 2, x) if align == "centre" else stop

    def _wrap(
        self,
        number: int,
        spec: ParagraphSpec,
        tokens: Tokens,
        indent: float,
        started: Line | None = None,
    ) -> None:
        """A segment broken into lines; `started` already holds what stands before it."""
        justified = spec.align == "justified"
        left, right = self.columns[self.column]
        whole = right - left - spec.right
        breaker = Breaker(tokens, whole - max(indent, spec.left), justified)
        if self.room is None:
            self._wrap_freely(number, spec, breaker, indent, whole, started)
            return
        tokens = breaker.tokens
        first = True
        while first or not breaker.done:
            if not (first and started):
                self._find_room(spec, indent if first else spec.left, breaker.least)
            line = self._line(number, spec, started if first else None)
            left = self.left + (indent if first else spec.left)
            room = self.right - spec.right - left
            cut = Cut(0, -1) if breaker.done else breaker.line(room)
            width = _natural(tokens, cut) if tokens.words else 0.0
            extra = 0.0
            if justified and not breaker.done:
                extra = _extra(tokens, cut, room - width)
            elif started is None or not first:
                left = self._aligned(spec, left, room, width)
            self._place(spec, line, tokens, cut, left, width, extra)
            first = False

    def _wrap_freely(
        self,
        number: int,
        spec: ParagraphSpec,
        breaker: Breaker,
        indent: float,
        whole: float,
        started: Line | None,
    ) -> None:
        """The usual case, one column with nothing in the way: all lines are broken at once."""
        justified, tokens = spec.align == "justified", breaker.tokens
        first, measure = whole - indent, whole - spec.left
        cuts = breaker.lines(first, measure) or [Cut(0, -1)]
        for n, cut in enumerate(cuts):
            line = self._line(number, spec, started if n == 0 else None)
            left, room = (indent, first) if n == 0 else (spec.left, measure)
            width = _natural(tokens, cut) if tokens.words else 0.0
            extra = 0.0
            if justified and n < len(cuts) - 1:
                extra = _extra(tokens, cut, room - width)
            elif started is None or n:
                left = self._aligned(spec, left, room, width)
            self._place(spec, line, tokens, cut, left, width, extra)

    @staticmethod
    def _aligned(spec: ParagraphSpec, left: float, room: float, width: float) -> float:
        if spec.align == "right":
            return left + room - width
        return left + (room - width) / 2 if spec.align == "centre" else left

    def _line(self, number: int, spec: ParagraphSpec, started: Line | None = None) -> Line:
        line = started or Line(number, self.y, spec.leading, self.y + self.rise, self.column)
        self.lines.append(line)
        self.y += spec.leading
        return line

    def _place(
        self,
        spec: ParagraphSpec,
        line: Line,
        tokens: Tokens,
        cut: Cut,
        left: float,
        width: float,
        extra: float = 0.0,
    ) -> None:
        """Puts a cut's words on a line; `width` is theirs before spaces are stretched."""
        if not line.runs:
            line.left = left
        line.holds(tokens, cut)
        if cut.last < cut.first and cut.tail is None:
            line.right = max(line.right, left)
            return
        placed = Placed(tokens, cut, left, extra)
        if isinstance(tokens.spans, int):
            span = spec.spans[tokens.spans]
            line.runs.append(GlyphRun(span, line.baseline, placed, 0, placed.count()))
        else:
            line.runs.extend(_runs(spec, placed, tokens.spans, line.baseline))
        line.right = left + width + (extra * _gaps(tokens, cut) if extra else 0.0)


def _lead(spec: ParagraphSpec, line: Line, leader: str, start: float, end: float) -> None:
    """Fills the way to a tab stop, in steps counted from the frame's edge, so that the leaders
    of several lines stand under each other."""
    if not leader:
        return
    word, space = spec.base.word(leader), spec.base.space
    step = word.width
    if step <= 0:
        return
    first = math.ceil((start + space / 2) / step)
    count = math.floor((end - space / 2) / step) - first
    if count < 1:
        return
    tokens = Tokens(0, (None,))
    tokens.words = [word] * count
    tokens.starts = [n * step for n in range(count)]
    tokens.ends = [(n + 1) * step for n in range(count)]
    tokens.all_spaced, tokens.spaced = False, [False] * count
    placed = Placed(tokens, Cut(0, count - 1), first * step, 0.0)
    span = Span(leader, spec.base, spec.ink)
    line.leaders.append(GlyphRun(span, line.baseline, placed, 0, count))


def _position(tab: Tab, right: float) -> float:
    return right if tab.position is None else tab.position


def _whole(tokens: Tokens) -> float:
    """The width of a segment on one line."""
    return tokens.ends[-1] if tokens.words else 0.0


def _base(tokens: Tokens, cut: Cut) -> float:
    if cut.head is not None:
        return tokens.ends[cut.first] - cut.head.width
    return tokens.starts[cut.first]


def _natural(tokens: Tokens, cut: Cut) -> float:
    """A line's width before its spaces are stretched."""
    if cut.tail is not None:
        return tokens.starts[cut.last + 1] + cut.tail.width - _base(tokens, cut)
    return tokens.ends[cut.last] - _base(tokens, cut)


def _gaps(tokens: Tokens, cut: Cut) -> int:
    last = cut.last + (cut.tail is not None)
    if tokens.all_spaced:
        return last - cut.first
    return sum(tokens.spaced[cut.first + 1 : last + 1])


def _extra(tokens: Tokens, cut: Cut, missing: float) -> float:
    """What each space of a justified line gains, or loses."""
    gaps = _gaps(tokens, cut)
    return missing / gaps if gaps else 0.0


def _runs(spec: ParagraphSpec, placed: Placed, spans: list[int], y: float) -> Iterator[GlyphRun]:
    """The line's words, a run for each stretch of one look."""
    first, count = placed.cut.first, placed.count()
    kinds = spans[first : first + count]
    begin = 0
    for n in range(1, count + 1):
        if n == count or kinds[n] != kinds[begin]:
            span = spec.spans[kinds[begin]] if spec.spans else Span("", spec.base, spec.ink)
            yield GlyphRun(span, y, placed, begin, n)
            begin = n
