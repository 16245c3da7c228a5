"""Breaks to lines, one after another or all at once.

>>> from hidden_frame.typeset.fonts import font_book
>>> from hidden_frame.typeset.paragraph import Span
>>> from hidden_frame.typeset.shaping import setting_of
>>> setting = setting_of(font_book().face("Spectral"), 10.0)
>>> spec = ParagraphSpec((Span("two words", setting, (0.0,)),), setting, 14.0)
>>> [line.text for line in set_lines(spec, 30.0)]  # points
['two', 'words']
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence

from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.breaking.first_fit import Breaker
from hidden_frame.typeset.breaking.nodes import Break, nodes_of
from hidden_frame.typeset.breaking.through import path_through
from hidden_frame.typeset.breaking.total_fit import (
    WAYS,
    WAYS_DIVIDED,
    best_breaks,
    cuts_of,
    total_fit,
)
from hidden_frame.typeset.initials import Initials
from hidden_frame.typeset.line import Laid, OpenLine, TextLine, gaps, natural, whole
from hidden_frame.typeset.margins import hanging
from hidden_frame.typeset.measures import fit_of, rise_of
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.segments import Segment, TextOffset, is_rtl, segments
from hidden_frame.typeset.shaping import exact
from hidden_frame.typeset.spaced_out import spaced_out
from hidden_frame.typeset.tab_stops import NEAR, TabPlace, end_stop, stop_behind

# Words, or signs of a script without spaces, between two line breaks whose lines are chosen
# together: no paragraph of a book has as many, and more would take seconds.
MOST_WHOLE = 20_000
MOST_TOGETHER = 800  # words beside something in the way; more are set line by line


class LineSetter:
    """A paragraph's lines one after another, each at a measure told when it is asked for.

    `widest` is the widest measure (points) that there will be: longer words are cut.
    """

    def __init__(self, spec: ParagraphSpec, widest: float) -> None:
        self.spec = spec
        self.widest = widest
        self.rise = rise_of(spec)
        self._rows = _rows(spec)
        self._row = 0
        self._cell = 0  # of the row, divided by tabs: the one that is broken, or comes next
        self._breaker: Breaker | None = None
        self._fresh = True  # whether the cell's first line is still to be set
        self._indent = 0.0
        self._begun: OpenLine | None = None  # the line on which the cell begins, up to its tab
        self._kept = 0.0  # at the ends of the cell's lines, for what stands at a stop behind it
        self._rtl = is_rtl(spec)
        self._back = self._rtl != spec.dress.turned  # cells divided by tabs stand from the right
        self._spreads = bool(spec.spacing.letters or spec.spacing.glyphs)
        self._initials = Initials(spec) if spec.dress.drop is not None else None

    @property
    def done(self) -> bool:
        """Whether every line has been set."""
        return self._breaker is None and self._row >= len(self._rows)

    @property
    def place(self) -> TextOffset:
        """Where the next line begins."""
        if self._breaker is not None and not self._fresh:
            return self._breaker.place
        if self._row == 0 and self._cell == 0:
            return TextOffset()
        row = self._rows[min(self._row, len(self._rows) - 1)]
        return TextOffset(row[self._cell].origin)

    @property
    def indent(self) -> float:
        """How far the next line is indented, in points."""
        if self._initials is not None and self._initials.lines:
            return self.spec.left + self._initials.width
        if self._cell or (self._breaker is not None and not self._fresh):
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
        begin = indent if len(self._rows[self._row]) == 1 else 0.0
        measure = self.widest - spec.right - max(begin, spec.left) - self._kept
        self._indent, self._fresh = indent, True
        self._breaker = Breaker(segment, measure, spec.align == "justified", spec.spacing)
        return self._breaker

    def _open(self, measure: float) -> TextLine | None:
        """Begins what comes next; gives a line where cells divided by tabs fill it."""
        if self._breaker is not None:
            if self._cell + 1 < len(self._rows[self._row]):
                self._keep(measure)
            return None
        row = self._rows[self._row]
        if len(row) == 1:
            self._break(row[0], self.indent)
            return None
        return self._cells(measure, OpenLine(self.spec), self.indent, self._cell > 0)

    def line(self, measure: float) -> TextLine:
        """The next line at a measure (points); not to be asked for when `done`."""
        line = self._open(measure)
        while line is None:
            line = self._next(measure)
        return line if self._initials is None else self._initials.beside(line)

    def _next(self, measure: float) -> TextLine | None:
        """The next line of a cell; None where other cells go on behind its end, of which one is
        to be broken."""
        breaker = self._breaker
        assert breaker is not None
        left = self._indent if self._fresh else self.indent
        room = measure - self.spec.right - left - self._kept
        cut = Cut(0, -1) if breaker.done else breaker.line(room)
        if breaker.done and self._cell + 1 < len(self._rows[self._row]):
            return self._behind(breaker.segment, cut, left, room, measure)
        line = self._line(breaker.segment, cut, left, room, breaker.done)
        self._fresh, self._begun = False, None
        if breaker.done:
            self._end_cell()
        return line

    def _end_cell(self) -> None:
        """Goes on behind a cell, or behind the row if it is the last one."""
        self._breaker, self._begun, self._kept, self._fresh = None, None, 0.0, True
        self._cell += 1
        if self._cell == len(self._rows[self._row]):
            self._row, self._cell = self._row + 1, 0

    def row(self, measure: float, breaks: list[Break] | None = None) -> list[TextLine]:
        """All lines up to the next line break at one measure, or what is left of them; `breaks`
        are where they end, if that is known."""
        at, lines = self._row, self._beside_initials(measure)
        while self._initials is not None and self._initials.lines and self._row == at:
            lines.append(self.line(measure))  # beside initials, line by line
        while self._row == at:
            line = self._open(measure)
            if line is not None:
                lines.append(line)
            else:
                lines += self._broken(measure, breaks)
        return lines

    def _broken(self, measure: float, breaks: list[Break] | None) -> list[TextLine]:
        """The lines of a cell, or what is left of them; what other cells go on behind is left
        for these."""
        breaker, spec = self._breaker, self.spec
        assert breaker is not None
        left = self._indent if self._fresh else spec.left
        rest = measure - spec.right - spec.left - self._kept
        segment, first = breaker.segment, measure - spec.right - left - self._kept
        if breaks is not None:
            cuts = cuts_of(segment, breaks, 0, 0, rest)
        elif breaker.done or not segment.words:
            cuts = []
        elif spec.spacing.whole and len(segment.words) <= MOST_WHOLE:
            fit = fit_of(spec, measure - self._kept)
            cuts = total_fit(segment, fit, exact(left - spec.left), *breaker.position)
        else:
            cuts = breaker.lines(first, rest)
        cuts = cuts or [Cut(0, -1)]
        more = self._cell + 1 < len(self._rows[self._row])
        lines: list[TextLine] = []
        if len(cuts) > 1 or not more:
            lines.append(self._line(segment, cuts[0], left, first, len(cuts) == 1))
            self._fresh, self._begun = False, None
            left, first = spec.left, rest
        lines += self._middle(segment, cuts[1:-1], rest)
        if more:
            line = self._behind(segment, cuts[-1], left, first, measure)
            return lines if line is None else [*lines, line]
        if len(cuts) > 1:
            lines.append(self._line(segment, cuts[-1], spec.left, rest, True))
        self._end_cell()
        return lines

    def _beside_initials(self, measure: float) -> list[TextLine]:
        """The lines beside initials, chosen together; none where there are no initials, or lines
        are set one after the other."""
        spec, initials = self.spec, self._initials
        if initials is None or not initials.fresh or self._rtl or not spec.spacing.whole:
            return []
        if self._row >= len(self._rows):
            return []
        row = self._rows[self._row]
        if self._row or len(row) > 1 or len(row[0].words) < 2:
            return []
        breaker = self._break(row[0], self.indent)
        segment = breaker.segment
        fit = fit_of(spec, measure)
        room = exact(fit.measure - initials.width)
        far = bisect_right(segment.ends, room * (initials.lines + 1))  # more than has room there
        if far >= len(segment.words) or room <= 0:
            return []  # it ends beside them
        # As if the paragraph went on in this measure: what follows them is looked at, too.
        breaks = best_breaks(segment, fit._replace(measure=room), 0.0, until=far)[: initials.lines]
        left, lines = spec.left + initials.width, []
        self._fresh = False
        for cut in cuts_of(segment, breaks, 0, 0, room):
            lines.append(initials.beside(self._line(segment, cut, left, room, False)))
        breaker.at_break(breaks[-1])
        return lines

    def through(self, measures: Sequence[float]) -> list[TextLine] | None:
        """What is left of a paragraph, its lines chosen together, each at a measure of its own
        (points); None where they are to be set one after the other."""
        spec, row = self.spec, self._rows[self._row]
        alone = len(self._rows) == 1 and len(row) == 1 and self._initials is None
        long = len(row[0].words) > MOST_TOGETHER
        if not alone or not spec.spacing.whole or not row[0].words or long or not measures:
            return None
        if self._breaker is None:
            self._break(row[0], self.indent)
        breaker = self._breaker
        assert breaker is not None
        left = self._indent if self._fresh else spec.left
        fit = fit_of(spec, self.widest)
        inner = [exact(m - spec.right - spec.left) for m in measures]
        at, skip = breaker.position
        divide = breaker.segment.hyphenated and fit.hyphens > 0
        narrow = max(min(inner), 0.0)
        nodes = nodes_of(breaker.segment, at, breaker.head, exact(left - spec.left), narrow, divide)
        path = path_through(nodes, fit, [*inner, fit.measure], WAYS_DIVIDED if divide else WAYS)
        if path is None:
            return None
        breaks = [nodes.breaks[n] for n in path]
        cuts = cuts_of(breaker.segment, breaks, at, skip, fit.measure)
        if len(cuts) > len(inner):
            return None
        lines = []
        for n, (cut, room) in enumerate(zip(cuts, inner, strict=False)):
            begin = left if n == 0 else spec.left
            last = n == len(cuts) - 1
            lines.append(self._line(breaker.segment, cut, begin, room - (begin - spec.left), last))
            self._fresh = False
        return lines

    def go_on_at(self, place: TextOffset) -> None:
        """Leaves out what stands before a place."""
        offset = place.offset
        while self._row + 1 < len(self._rows) and self._rows[self._row + 1][0].origin <= offset:
            self._row += 1
        if place > TextOffset():
            self._initials = None
        row = self._rows[self._row]
        if place <= TextOffset(row[0].origin):
            return
        while self._cell + 1 < len(row) and row[self._cell + 1].origin <= offset:
            self._cell += 1
        if self._cell and place == TextOffset(row[self._cell].origin):
            return
        if self._cell + 1 < len(row):
            self._keep(self.widest)
        breaker = self._break(row[self._cell], self.spec.left if len(row) > 1 else self.indent)
        breaker.go_on_at(place)
        self._fresh = False
        if breaker.done:
            self._end_cell()

    def _line(self, segment: Segment, cut: Cut, left: float, room: float, last: bool) -> TextLine:
        """A cut as a line, aligned in `room` points from `left` on."""
        begun = self._begun if self._fresh else None
        laid, width = self._laid(segment, cut, left, room, last, begun is not None)
        if begun is None:
            right = laid.left if laid.is_empty else laid.left + width
            return TextLine(self.spec, self.rise, (laid,), right)
        begun.put(laid, width)
        return begun.line(self.rise)

    def _laid(
        self, segment: Segment, cut: Cut, left: float, room: float, last: bool, tabbed: bool
    ) -> tuple[Laid, float]:
        """A cut set out, and its width; one on a line with tabs is not aligned."""
        spec = self.spec
        measure = left + room + spec.right + self._kept
        if spec.spacing.hangs and segment.words:
            before, behind = hanging(segment, cut)
            left, room = left - before, room + before + behind
        if self._rtl and not tabbed:
            left = spec.left + self._kept  # what is indented is so from the right
        if cut.head is None and cut.tail is None and segment.words:  # most lines by far
            width = segment.ends[cut.last] - segment.start(cut.first)
        else:
            width = natural(segment, cut) if segment.words else 0.0
        extra = 0.0
        if spec.align == "justified":
            if not last or width > room:
                spaces = gaps(segment, cut)
                if self._spreads and spaces:
                    looser = spaced_out(segment, cut, spec, room - width, spaces)
                    if looser is not None:
                        segment, cut = looser
                        width = natural(segment, cut)
                extra = (room - width) / spaces if spaces else 0.0
                width += extra * spaces
            elif not tabbed and self._rtl:
                left += room - width
        elif not tabbed and spec.align != "left":
            left += room - width if spec.align == "right" else (room - width) / 2
        if tabbed and self._back:  # what stands behind a tab goes on from the right
            left = measure - left - width
        return Laid(segment, cut, left, extra), width

    def _middle(self, segment: Segment, cuts: list[Cut], room: float) -> list[TextLine]:
        """Lines that are neither first nor last, which most are: `_line` written out for those
        without a divided word, in two thirds of the time."""
        spec, rise, left = self.spec, self.rise, self.spec.left
        ends, words, plain = segment.ends, segment.words, segment.all_spaced
        justified, aside = spec.align == "justified", spec.align in ("right", "centre")
        aside = aside or spec.spacing.hangs or self._spreads or self._rtl
        lines: list[TextLine] = []
        for cut in cuts:
            at, last = cut.first, cut.last
            if cut.head is not None or cut.tail is not None or aside or last < at or not plain:
                lines.append(self._line(segment, cut, left, room, False))
                continue
            width = ends[last] - (ends[at] - words[at].width)
            if justified and last > at:
                extra = (room - width) / (last - at)
                laid = Laid(segment, cut, left, extra)
                width += extra * (last - at)
            else:
                laid = Laid(segment, cut, left, 0.0)
            lines.append(TextLine(spec, rise, (laid,), left + width))
        return lines

    # -- tabs ------------------------------------------------------------------------

    def _cells(self, measure: float, begun: OpenLine, x: float, wrapped: bool) -> TextLine | None:
        """Puts the next cells of a row on a line, from x on; None if one wraps, and is to be
        broken.  What is left of a row that has `wrapped` ends where its last stop wants it.

        A cell that has no room behind the others goes on, or stands, on a line of its own.
        """
        spec, row = self.spec, self._rows[self._row]
        edge, start = measure - spec.right, x
        ending = end_stop(spec.tabs, edge)
        last = ending.position if ending is not None else edge
        while self._cell < len(row):
            n, cell, width = self._cell, row[self._cell], whole(row[self._cell])
            self._keep(measure)
            stop = self._stop(n, x, edge, wrapped, not begun.cells)
            left = max(stop.begins(width), x)
            gap = spec.base.space if x > start and width else 0.0
            ends = edge - self._kept
            if stop.align == "left":
                fits = left + width <= ends + NEAR or not cell.words
                stands = fits or cell.words[0].width <= ends - left
            else:
                fits = stop.begins(width) >= x + gap - NEAR and left + width <= edge + NEAR
                if not fits and stop.position < last - NEAR and x + gap + width <= edge:
                    fits, left = True, x + gap  # other stops follow: it is pushed on
                stands = fits
            if not stands and cell.origin > row[0].origin and begun.cells:
                return begun.line(self.rise)  # the cell comes on the next one
            if not fits and stop.align != "left":
                left = max(min(stop.begins(width), edge - width), start)
                fits = len(cell.words) < 2 or left + width <= edge + NEAR
                left = left if fits else start
            self._lead(begun, stop.leader, x, left, measure)
            if not fits:
                self._begun = begun if begun.cells else None
                self._break(cell, left)
                return None
            at = measure - left - width if self._back else left
            begun.put(Laid(cell, Cut(0, len(cell.words) - 1), at, 0.0), width)
            x = left + width
            self._cell += 1
        self._end_row()
        return begun.line(self.rise)

    def _end_row(self) -> None:
        self._row, self._cell, self._kept = self._row + 1, 0, 0.0

    def _stop(self, n: int, x: float, edge: float, wrapped: bool, fresh: bool) -> TabPlace:
        """Where a cell of the row stands: behind a tab at the next stop, but for the last one of a
        row that wrapped; at the head of a line at its indent."""
        last = n == len(self._rows[self._row]) - 1
        if n and last and wrapped:
            ending = end_stop(self.spec.tabs, edge)
            if ending is not None:
                return ending
        return (
            stop_behind(self.spec.tabs, x, edge) if n and not (fresh and wrapped) else TabPlace(x)
        )

    def _behind(
        self, segment: Segment, cut: Cut, left: float, room: float, measure: float
    ) -> TextLine | None:
        """The last line of a cell with the cells that go on behind it; None if one of those is to
        be broken."""
        begun = (self._begun if self._fresh else None) or OpenLine(self.spec)
        wrapped = not self._fresh
        laid, width = self._laid(segment, cut, left, room, True, True)
        begun.put(laid, width)
        self._end_cell()
        return self._cells(measure, begun, left + width, wrapped)

    def _keep(self, measure: float) -> None:
        """What is kept free at the ends of a cell's lines: the room of the last cell, where that
        stands at a stop behind it and no word has to be cut for that."""
        self._kept = 0.0
        row, spec = self._rows[self._row], self.spec
        edge = measure - spec.right
        ending = end_stop(spec.tabs, edge)
        if self._cell != len(row) - 2 or ending is None or not row[-1].words:
            return
        width, cell = whole(row[-1]), row[self._cell]
        kept = edge - ending.begins(width) + spec.base.space
        inner = edge - spec.left
        need = cell.widest if cell.widest <= inner else inner / 3
        if ending.ends(width) <= edge + NEAR and inner - kept >= need:
            self._kept = kept

    def _lead(self, begun: OpenLine, leader: str, start: float, end: float, measure: float) -> None:
        if self._back:
            start, end = measure - end, measure - start
        begun.lead(leader, start, end)


def set_lines(spec: ParagraphSpec, measure: float) -> tuple[TextLine, ...]:
    """All lines of a paragraph at one measure (points)."""
    if spec.spacing.balanced and spec.align != "justified":
        return _balanced(spec, measure)
    return _set_lines(spec, measure)


def _balanced(spec: ParagraphSpec, measure: float) -> tuple[TextLine, ...]:
    """As many lines as the measure needs, in the narrowest one that needs no more (CSS Text 4,
    text-wrap: balance): they are all about as long."""
    lines = _set_lines(spec, measure)
    widest = max(cell.widest for row in _rows(spec) for cell in row)  # no word is cut for it
    low, high, best = widest + max(spec.first, 0.0), measure - spec.left - spec.right, lines
    while len(lines) > 1 and high - low > 0.5:
        middle = (low + high) / 2
        narrow = _narrowed(spec, measure - spec.left - spec.right - middle)
        made = _set_lines(narrow, measure)
        if len(made) <= len(lines) and all(line.right <= measure + 0.01 for line in made):
            high, best = middle, made
        else:
            low = middle
    return best


def _narrowed(spec: ParagraphSpec, by: float) -> ParagraphSpec:
    """The paragraph so many points narrower, standing where its alignment wants it."""
    before = {"left": 0.0, "centre": by / 2, "right": by}[spec.align]
    plain = spec.spacing._replace(balanced=False)
    return spec._replace(left=spec.left + before, right=spec.right + by - before, spacing=plain)


def _set_lines(spec: ParagraphSpec, measure: float) -> tuple[TextLine, ...]:
    setter = LineSetter(spec, measure)
    lines: list[TextLine] = []
    while not setter.done:
        lines += setter.row(measure)
    return tuple(lines)


def _rows(spec: ParagraphSpec) -> list[list[Segment]]:
    """What stands between two line breaks: cells divided by tabs."""
    rows: list[list[Segment]] = [[]]
    for segment in segments(spec):
        rows[-1].append(segment)
        if segment.ends_with and segment.ends_with != "\t":
            rows.append([])
    return rows
