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
from hidden_frame.typeset.breaking.demerits import Fit
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
from hidden_frame.typeset.line import Begun, Laid, TextLine, gaps, natural, whole
from hidden_frame.typeset.margins import hanging
from hidden_frame.typeset.paragraph import ParagraphSpec, Tab
from hidden_frame.typeset.segments import Segment, TextOffset, is_rtl, segments
from hidden_frame.typeset.shaping import exact
from hidden_frame.typeset.spaced_out import spaced_out

# Words, or signs of a script without spaces, between two line breaks whose lines are chosen
# together: no paragraph of a book has as many, and more would take seconds.
MOST_WHOLE = 20_000
MOST_TOGETHER = 800  # words beside something in the way; more are set line by line
DEFAULT_TAB = 36.0  # points between stops where a style sets none
ZONE = 0.08  # of the measure: how far from the edge a ragged line ends and is still good


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
        self._breaker: Breaker | None = None
        self._fresh = True  # whether the row's first line is still to be set
        self._indent = 0.0
        self._begun: Begun | None = None  # the row's first line, up to its last tab
        self._rtl = is_rtl(spec)
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
        if self._row == 0:
            return TextOffset()
        return TextOffset(self._rows[min(self._row, len(self._rows) - 1)][0].origin)

    @property
    def indent(self) -> float:
        """How far the next line is indented, in points."""
        if self._initials is not None and self._initials.lines:
            return self.spec.left + self._initials.width
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
        self._breaker = Breaker(segment, measure, spec.align == "justified", spec.spacing)
        return self._breaker

    def _open(self, measure: float) -> TextLine | None:
        """Begins the next row; gives it whole where cells divided by tabs fill one line."""
        if self._breaker is not None:
            return None
        row = self._rows[self._row]
        if len(row) == 1:
            self._break(row[0], self.indent)
            return None
        line = self._tabbed(row, measure)
        self._row += line is not None
        return line

    def line(self, measure: float) -> TextLine:
        """The next line at a measure (points); not to be asked for when `done`."""
        whole = self._open(measure)
        if whole is not None:
            return whole
        breaker, spec = self._breaker, self.spec
        assert breaker is not None
        left = self._indent if self._fresh else self.indent
        room = measure - spec.right - left
        cut = Cut(0, -1) if breaker.done else breaker.line(room)
        line = self._line(breaker.segment, cut, left, room, breaker.done)
        if self._initials is not None:
            line = self._initials.beside(line)
        self._fresh, self._begun = False, None
        if breaker.done:
            self._breaker = None
            self._row += 1
        return line

    def row(self, measure: float, breaks: list[Break] | None = None) -> list[TextLine]:
        """All lines up to the next line break at one measure, or what is left of them; `breaks`
        are where they end, if that is known."""
        at, begun = self._row, self._beside_initials(measure)
        while self._initials is not None and self._initials.lines and self._row == at:
            begun.append(self.line(measure))  # beside initials, line by line
            if self.done:
                return begun
        if self._row > at:
            return begun
        whole = self._open(measure)
        if whole is not None:
            return [whole]
        breaker, spec = self._breaker, self.spec
        assert breaker is not None
        left, rest = self._indent if self._fresh else spec.left, measure - spec.right - spec.left
        segment, first = breaker.segment, measure - spec.right - left
        if breaks is not None:
            cuts = cuts_of(segment, breaks, 0, 0, rest)
        elif breaker.done or not segment.words:
            cuts = []
        elif spec.spacing.whole and len(segment.words) <= MOST_WHOLE:
            cuts = total_fit(
                segment, fit_of(spec, measure), exact(left - spec.left), *breaker.position
            )
        else:
            cuts = breaker.lines(first, rest)
        cuts = cuts or [Cut(0, -1)]
        begun.append(self._line(segment, cuts[0], left, first, len(cuts) == 1))
        self._fresh, self._begun, self._breaker = False, None, None
        begun += self._middle(segment, cuts[1:-1], rest)
        if len(cuts) > 1:
            begun.append(self._line(segment, cuts[-1], spec.left, rest, True))
        self._row += 1
        return begun

    def _beside_initials(self, measure: float) -> list[TextLine]:
        """The lines beside initials, chosen together; none where there are no initials, or lines
        are set one after the other."""
        spec, initials = self.spec, self._initials
        if initials is None or not initials.fresh or self._rtl or not spec.spacing.whole:
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
        segment = row[-1]
        indent = self.spec.left if len(row) > 1 else self.indent
        breaker = self._break(segment, indent)
        breaker.go_on_at(place)
        self._fresh = False
        if breaker.done:
            self._breaker = None
            self._row += 1

    def _line(self, segment: Segment, cut: Cut, left: float, room: float, last: bool) -> TextLine:
        """A cut as a line, aligned in `room` points from `left` on."""
        spec, begun = self.spec, self._begun if self._fresh else None
        measure = left + room + spec.right
        if spec.spacing.hangs and segment.words:
            before, behind = hanging(segment, cut)
            left, room = left - before, room + before + behind
        if self._rtl and begun is None:
            left = spec.left  # what is indented is so from the right
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
            elif begun is None and self._rtl:
                left += room - width
        elif begun is None and spec.align != "left":
            left += room - width if spec.align == "right" else (room - width) / 2
        if begun is not None and self._rtl:  # what stands behind a tab goes on from the right
            left = measure - left - width
        laid = Laid(segment, cut, left, extra)
        if begun is None:
            return TextLine(spec, self.rise, (laid,), left if laid.is_empty else left + width)
        begun.put(laid, width)
        return begun.line(self.rise)

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

    def _tabbed(self, row: list[Segment], measure: float) -> TextLine | None:
        """Cells divided by tabs on one line; None if the last one wraps, and is to be broken."""
        spec, begun = self.spec, Begun(self.spec)
        x = self.indent
        for n, cell in enumerate(row[:-1]):
            stop, align, leader = (x, "left", "") if n == 0 else self._stop(x, measure)
            left = _cell_left(stop, align, cell, x)
            self._put(begun, cell, leader, x, left, measure)
            x = left + whole(cell)
        last = row[-1]
        stop, align, leader = self._stop(x, measure)
        if align == "left" and last.words and stop + last.ends[-1] > measure - spec.right:
            self._lead(begun, leader, x, stop, measure)
            self._begun = begun
            self._break(last, stop)
            return None
        self._put(begun, last, leader, x, _cell_left(stop, align, last, x), measure)
        return begun.line(self.rise)

    def _put(
        self, begun: Begun, cell: Segment, leader: str, x: float, left: float, measure: float
    ) -> None:
        """A cell and the leader before it; from the right edge where the paragraph is read from
        there."""
        self._lead(begun, leader, x, left, measure)
        at = measure - left - whole(cell) if self._rtl else left
        begun.put(Laid(cell, Cut(0, len(cell.words) - 1), at, 0.0), whole(cell))

    def _lead(self, begun: Begun, leader: str, start: float, end: float, measure: float) -> None:
        if self._rtl:
            start, end = measure - end, measure - start
        begun.lead(leader, start, end)

    def _stop(self, x: float, measure: float) -> tuple[float, str, str]:
        """The next tab stop to the right of x, its alignment and leader."""
        right = measure - self.spec.right
        for tab in sorted(self.spec.tabs, key=lambda t: _position(t, right)):
            if _position(tab, right) > x + 0.01:
                return _position(tab, right), tab.align, tab.leader
        return (x // DEFAULT_TAB + 1) * DEFAULT_TAB, "left", ""


def rise_of(spec: ParagraphSpec) -> float:
    """From the top of a paragraph's lines to their baseline, in points."""
    face, size = spec.base.face, spec.base.size
    # Half of what the leading adds stands above a line (CSS Inline 3, 4.1).
    return (spec.leading - (face.ascent + face.descent) * size) / 2 + face.ascent * size


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


def fit_of(spec: ParagraphSpec, measure: float) -> Fit:
    """What the lines of a paragraph are to fit, of which all but the first are alike."""
    width = exact(measure - spec.right - spec.left)
    space, spacing = spec.base.space, spec.spacing
    justified = spec.align == "justified"
    short = max(abs(spec.first), 2 * spec.base.size) if justified else 0.0
    return Fit(
        width,
        exact(space * (1 - spacing.least)) if justified else 0.0,
        exact(max(space * (spacing.most - 1), 1 / 64)),
        justified,
        max(width * ZONE, 1.0),
        exact(min(short, width / 3)),
        spacing.hyphens,
    )


def _rows(spec: ParagraphSpec) -> list[list[Segment]]:
    """What stands between two line breaks: cells divided by tabs."""
    rows: list[list[Segment]] = [[]]
    for segment in segments(spec):
        rows[-1].append(segment)
        if segment.ends_with and segment.ends_with != "\t":
            rows.append([])
    return rows


def _cell_left(stop: float, align: str, cell: Segment, x: float) -> float:
    width = whole(cell)
    if align == "right":
        return max(stop - width, x)
    return max(stop - width / 2, x) if align == "centre" else stop


def _position(tab: Tab, right: float) -> float:
    return right if tab.position is None else tab.position
