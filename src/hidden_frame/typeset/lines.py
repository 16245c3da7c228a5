"""Breaks to lines, each relative to the left edge of its measure and to its own top.

>>> from hidden_frame.typeset.fonts import font_book
>>> from hidden_frame.typeset.shaping import setting_of
>>> setting = setting_of(font_book().face("Spectral"), 10.0)
>>> spec = ParagraphSpec((Span("two words", setting, (0.0,)),), setting, 14.0)
>>> [line.text for line in set_lines(spec, 30.0)]  # points
['two', 'words']

A line is never changed once it is made: where it stands is the fragment's to say (`fill`), so
the same line serves a frame, another frame, and the text after an edit elsewhere.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from hidden_frame.model.memory import remembered
from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.breaking.first_fit import Breaker
from hidden_frame.typeset.paragraph import ParagraphSpec, Span, Tab
from hidden_frame.typeset.segments import Place, Segment, segments
from hidden_frame.typeset.shaping import Setting, Word

DEFAULT_TAB = 36.0  # points between stops where a style sets none


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
        return self.span.setting

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
        return self._laid.left if self._begin == 0 else self.xs[0]

    @property
    def extra(self) -> float:
        """What each space of the line is wider, or narrower, than it is by itself, in points."""
        return self._laid.extra

    @property
    def spaced(self) -> list[bool]:
        """Whether a space stands before each word; False for the first on the line."""
        return self._laid.spaced()[self._begin : self._end]

    @property
    def text(self) -> str:
        parts = zip(self.words, self.spaced, strict=True)
        return "".join((" " if gap else "") + word.text for word, gap in parts)

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

    __slots__ = ("cut", "extra", "left", "segment")

    def __init__(self, segment: Segment, cut: Cut, left: float, extra: float) -> None:
        self.segment = segment
        self.cut = cut
        self.left = left
        self.extra = extra

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
        shift = self.left - _base(segment, cut)
        starts = segment.starts[cut.first : cut.last + 1 + (cut.tail is not None)]
        xs, gone = [], 0
        for n, x in enumerate(starts):
            gone += n > 0 and (segment.all_spaced or segment.spaced[cut.first + n])
            xs.append(x + shift + gone * extra)
        if cut.head is not None:
            xs[0] = self.left
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


class Line:
    """A line: its height (the leading), the rise of its baseline, and glyph runs left to right.

    `rise` is from the line's top to its baseline; `left` and `right` are where its words begin
    and end, from the left edge of the measure; `start` and `end` are places in the paragraph's
    text.  `leaders` fill the way to a tab stop and are nobody's text.
    """

    __slots__ = ("_cells", "_runs", "_spec", "leaders", "left", "right", "rise")

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
        self.rise = rise
        self.left = cells[0].left if len(cells) == 1 else _begins(cells)
        self.right = right
        self.leaders = leaders

    @property
    def height(self) -> float:
        return self._spec.leading

    @property
    def runs(self) -> tuple[GlyphRun, ...]:
        """A run for each stretch of one look."""
        if self._runs is None:
            self._runs = tuple([run for cell in self._cells for run in _runs(self._spec, cell)])
        return self._runs

    @property
    def place(self) -> Place:
        """Where it begins in the paragraph's text."""
        segment, cut = self._cells[0].segment, self._cells[0].cut
        if cut.first or cut.skip:
            return segment.place(cut.first, cut.skip)
        return Place(segment.origin)

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
    return next((cell.left for cell in cells if not cell.is_empty), cells[-1].left)


class _Begun:
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
        self.right = max(self.right, laid.left) if laid.is_empty else laid.left + width

    def line(self, rise: float) -> Line:
        """The line as it is now."""
        return Line(self.spec, rise, tuple(self.cells), self.right, tuple(self.leaders))

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
        segment.starts = [n * step for n in range(count)]
        segment.ends = [(n + 1) * step for n in range(count)]
        segment.all_spaced, segment.spaced = False, [False] * count
        laid = Laid(segment, Cut(0, count - 1), first * step, 0.0)
        span = Span(leader, self.spec.base, self.spec.ink)
        self.leaders.append(GlyphRun(span, laid, 0, count))


class LineSetter:
    """A paragraph's lines one after another, each at a measure told when it is asked for.

    `widest` is the widest measure (points) that there will be: longer words are cut.
    """

    def __init__(self, spec: ParagraphSpec, widest: float) -> None:
        self.spec = spec
        self.widest = widest
        face, size = spec.base.face, spec.base.size
        # Half of what the leading adds stands above a line (CSS Inline 3, 4.1).
        self.rise = (spec.leading - (face.ascent + face.descent) * size) / 2 + face.ascent * size
        self._rows = _rows(spec)
        self._row = 0
        self._breaker: Breaker | None = None
        self._fresh = True  # whether the row's first line is still to be set
        self._indent = 0.0
        self._begun: _Begun | None = None  # the row's first line, up to its last tab

    @property
    def done(self) -> bool:
        """Whether every line has been set."""
        return self._breaker is None and self._row >= len(self._rows)

    @property
    def place(self) -> Place:
        """Where the next line begins."""
        if self._breaker is not None and not self._fresh:
            return self._breaker.place
        return Place(self._rows[min(self._row, len(self._rows) - 1)][0].origin)

    @property
    def indent(self) -> float:
        """How far the next line is indented, in points."""
        if self._breaker is not None and not self._fresh:
            return self.spec.left
        return self.spec.left + (self.spec.first if self._row == 0 else 0.0)

    @property
    def least(self) -> float:
        """The measure that the next line needs behind its indents for its first word."""
        if self._breaker is None:
            if len(self._rows[self._row]) > 1:
                return 0.0
            self._break(self._rows[self._row][0], self.indent)
        assert self._breaker is not None
        return self._breaker.least

    def _break(self, segment: Segment, indent: float) -> Breaker:
        spec = self.spec
        measure = self.widest - spec.right - max(indent, spec.left)
        self._indent, self._fresh = indent, True
        self._breaker = Breaker(segment, measure, spec.align == "justified")
        return self._breaker

    def line(self, measure: float) -> Line:
        """The next line at a measure (points); not to be asked for when `done`."""
        if self._breaker is None:
            row = self._rows[self._row]
            if len(row) == 1:
                self._break(row[0], self.indent)
            else:
                line = self._tabbed(row, measure)
                if line is not None:
                    self._row += 1
                    return line
        breaker, spec = self._breaker, self.spec
        assert breaker is not None
        left = self._indent if self._fresh else spec.left
        room = measure - spec.right - left
        cut = Cut(0, -1) if breaker.done else breaker.line(room)
        line = self._line(breaker.segment, cut, left, room, breaker.done)
        self._fresh, self._begun = False, None
        if breaker.done:
            self._breaker = None
            self._row += 1
        return line

    def row(self, measure: float) -> list[Line]:
        """All lines up to the next line break at one measure: the same as `line` again and
        again, in less time."""
        row = self._rows[self._row]
        if self._breaker is not None or len(row) > 1:
            at, lines = self._row, []
            while not self.done and self._row == at:
                lines.append(self.line(measure))
            return lines
        spec, indent = self.spec, self.indent
        breaker = self._break(row[0], indent)
        first, rest = measure - spec.right - indent, measure - spec.right - spec.left
        cuts = breaker.lines(first, rest) or [Cut(0, -1)]
        segment, set_line = breaker.segment, self._line
        lines = [set_line(segment, cuts[0], indent, first, len(cuts) == 1)]
        self._fresh = False
        left = spec.left
        lines += [set_line(segment, cut, left, rest, False) for cut in cuts[1:-1]]
        if len(cuts) > 1:
            lines.append(set_line(segment, cuts[-1], left, rest, True))
        self._breaker = None
        self._row += 1
        return lines

    def go_on_at(self, place: Place) -> None:
        """Leaves out what stands before a place."""
        offset = place.offset
        while self._row + 1 < len(self._rows) and self._rows[self._row + 1][0].origin <= offset:
            self._row += 1
        row = self._rows[self._row]
        if place <= Place(row[0].origin):
            return
        segment = row[-1]
        indent = self.spec.left if len(row) > 1 else self.indent
        breaker = self._break(segment, indent)
        breaker.go_on_at(place)
        self._fresh = False
        if breaker.done:
            self._breaker = None
            self._row += 1

    def _line(self, segment: Segment, cut: Cut, left: float, room: float, last: bool) -> Line:
        """A cut as a line, aligned in `room` points from `left` on."""
        spec, begun = self.spec, self._begun if self._fresh else None
        if cut.head is None and cut.tail is None and segment.words:  # most lines by far
            width = segment.ends[cut.last] - segment.starts[cut.first]
        else:
            width = _natural(segment, cut) if segment.words else 0.0
        extra = 0.0
        if spec.align == "justified":
            if not last:
                gaps = _gaps(segment, cut)
                extra = (room - width) / gaps if gaps else 0.0
                width += extra * gaps
        elif begun is None and spec.align != "left":
            left += room - width if spec.align == "right" else (room - width) / 2
        laid = Laid(segment, cut, left, extra)
        if begun is None:
            return Line(spec, self.rise, (laid,), left if laid.is_empty else left + width)
        begun.put(laid, width)
        return begun.line(self.rise)

    # -- tabs ------------------------------------------------------------------------

    def _tabbed(self, row: list[Segment], measure: float) -> Line | None:
        """Cells divided by tabs on one line; None if the last one wraps, and is to be broken."""
        spec, begun = self.spec, _Begun(self.spec)
        x = self.indent
        for n, cell in enumerate(row[:-1]):
            stop, align, leader = (x, "left", "") if n == 0 else self._stop(x, measure)
            left = _cell_left(stop, align, cell, x)
            begun.lead(leader, x, left)
            begun.put(Laid(cell, Cut(0, len(cell.words) - 1), left, 0.0), _whole(cell))
            x = left + _whole(cell)
        last = row[-1]
        stop, align, leader = self._stop(x, measure)
        if align == "left" and last.words and stop + last.ends[-1] > measure - spec.right:
            begun.lead(leader, x, stop)
            self._begun = begun
            self._break(last, stop)
            return None
        left = _cell_left(stop, align, last, x)
        begun.lead(leader, x, left)
        begun.put(Laid(last, Cut(0, len(last.words) - 1), left, 0.0), _whole(last))
        return begun.line(self.rise)

    def _stop(self, x: float, measure: float) -> tuple[float, str, str]:
        """The next tab stop to the right of x, its alignment and leader."""
        right = measure - self.spec.right
        for tab in sorted(self.spec.tabs, key=lambda t: _position(t, right)):
            if _position(tab, right) > x + 0.01:
                return _position(tab, right), tab.align, tab.leader
        return (x // DEFAULT_TAB + 1) * DEFAULT_TAB, "left", ""


def set_lines(spec: ParagraphSpec, measure: float) -> tuple[Line, ...]:
    """All lines of a paragraph at one measure (points)."""
    setter = LineSetter(spec, measure)
    lines: list[Line] = []
    while not setter.done:
        lines += setter.row(measure)
    return tuple(lines)


def weight_of(spec: ParagraphSpec) -> int:
    """Bytes that a set paragraph takes for its words and their places, roughly."""
    return 60 * sum(len(span.text) for span in spec.spans)


class SetParagraph:
    """A paragraph's lines at one measure, and their height."""

    __slots__ = ("height", "lines", "spec")

    def __init__(self, spec: ParagraphSpec, measure: float) -> None:
        self.spec = spec
        self.lines = set_lines(spec, measure)
        self.height = spec.leading * len(self.lines)


@remembered(weigh=lambda done: 450 * len(done.lines) + weight_of(done.spec))
def set_paragraph(spec: ParagraphSpec, measure: float) -> SetParagraph:
    """The same object for the same paragraph at the same measure: a paragraph is set once."""
    return SetParagraph(spec, measure)


def _rows(spec: ParagraphSpec) -> list[list[Segment]]:
    """What stands between two line breaks: cells divided by tabs."""
    rows: list[list[Segment]] = [[]]
    for segment in segments(spec):
        rows[-1].append(segment)
        if segment.ends_with and segment.ends_with != "\t":
            rows.append([])
    return rows


def _cell_left(stop: float, align: str, cell: Segment, x: float) -> float:
    width = _whole(cell)
    if align == "right":
        return max(stop - width, x)
    return max(stop - width / 2, x) if align == "centre" else stop


def _position(tab: Tab, right: float) -> float:
    return right if tab.position is None else tab.position


def _whole(segment: Segment) -> float:
    """The width of a segment on one line."""
    return segment.ends[-1] if segment.words else 0.0


def _base(segment: Segment, cut: Cut) -> float:
    if cut.head is not None:
        return segment.ends[cut.first] - cut.head.width
    return segment.starts[cut.first]


def _natural(segment: Segment, cut: Cut) -> float:
    """A line's width before its spaces are stretched."""
    if cut.tail is not None:
        return segment.starts[cut.last + 1] + cut.tail.width - _base(segment, cut)
    return segment.ends[cut.last] - _base(segment, cut)


def _gaps(segment: Segment, cut: Cut) -> int:
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
