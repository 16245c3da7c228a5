"""A whole text set in the regions of a frame: what a drawing, a caret and a writer look at.

>>> specs = composition.scene(page).placed[1].drawing.text.text.specs
>>> text = set_text(specs, [Region(0.0, 60.0)])
>>> [round(line.top) for line in text.lines]
[0, 14]
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

from hidden_frame.typeset.fill import Block, Fragment, Where, fill
from hidden_frame.typeset.line import GlyphRun, TextLine
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.region import Region


class PlacedLine:
    """A line where it stands: `x` is the left edge of its measure and `top` its own, in points
    from the frame's inner corner; `column` counts the columns from 0."""

    __slots__ = ("column", "line", "paragraph", "top", "x")

    def __init__(self, line: TextLine, paragraph: int, column: int, x: float, top: float) -> None:
        self.line = line
        self.paragraph = paragraph
        self.column = column
        self.x = x
        self.top = top

    @property
    def height(self) -> float:
        return self.line.height

    @property
    def bottom(self) -> float:
        return self.top + self.line.height

    @property
    def baseline(self) -> float:
        return self.top + self.line.rise

    @property
    def left(self) -> float:
        """Where its words begin."""
        return self.x + self.line.left

    @property
    def right(self) -> float:
        """Where its words end."""
        return self.x + self.line.right

    @property
    def runs(self) -> tuple[GlyphRun, ...]:
        """Its glyph runs, whose words start at `x` + their own x."""
        return self.line.runs

    @property
    def leaders(self) -> tuple[GlyphRun, ...]:
        return self.line.leaders

    @property
    def start(self) -> int:
        return self.line.start

    @property
    def end(self) -> int:
        return self.line.end

    @property
    def text(self) -> str:
        return self.line.text


class SetText:
    """A fragment for each column, and the height that the text takes, in points.

    `columns` are their left and right edges.
    """

    __slots__ = ("_lines", "columns", "fragments", "height", "specs")

    def __init__(
        self,
        fragments: tuple[Fragment, ...],
        columns: tuple[tuple[float, float], ...],
        specs: tuple[ParagraphSpec, ...],
    ) -> None:
        self.fragments = fragments
        self.columns = columns
        self.specs = specs
        self.height = max(fragment.height for fragment in fragments)
        self._lines: list[PlacedLine] | None = None

    @property
    def lines(self) -> list[PlacedLine]:
        """Lines from the top down, column after column."""
        if self._lines is None:
            self._lines = [
                line
                for column, fragment in enumerate(self.fragments)
                for line in _placed(fragment, column)
            ]
        return self._lines

    def doubtful(self) -> list[PlacedLine]:
        """The lines of paragraphs that are not known to fit their measure."""
        if self._lines is not None:
            return self._lines
        return [
            line
            for column, fragment in enumerate(self.fragments)
            for block in fragment.blocks
            if not block.set.fits
            for line in _placed_of(block, column)
        ]

    @property
    def count(self) -> int:
        """How many lines there are; none is made for that."""
        return sum(b.last - b.first for f in self.fragments for b in f.blocks)

    def rest(self) -> None:
        """Forgets its lines until somebody looks at them again."""
        self._lines = None
        for fragment in self.fragments:
            for block in fragment.blocks:
                block.set.rest()

    def lowered(self, by: Sequence[float]) -> SetText:
        """The text with each column so many points further down."""
        moved = tuple(f.lowered(d) for f, d in zip(self.fragments, by, strict=True))
        return SetText(moved, self.columns, self.specs)


def _placed(fragment: Fragment, column: int) -> list[PlacedLine]:
    return [line for block in fragment.blocks for line in _placed_of(block, column)]


def _placed_of(block: Block, column: int) -> list[PlacedLine]:
    number, done, first, last, x, top, pitch = block
    found = []
    for line in done.lines[first:last]:
        found.append(PlacedLine(line, number, column, x, top))
        top += pitch
    return found


def set_text(
    specs: Sequence[ParagraphSpec], regions: Sequence[Region], *, snug: bool = False
) -> SetText:
    """All lines of the paragraphs, whether or not they fit: what the last region can't hold
    goes on below it.

    The space above the first paragraph counts unless `snug`, as does the space below the last;
    there is none at the head of a later region.
    """
    fragments: list[Fragment] = []
    start: Where | None = Where()
    last = len(regions) - 1
    for number, region in enumerate(regions):
        if start is None:
            fragments.append(Fragment((), 0.0, None))
            continue
        endless = region._replace(height=float("inf")) if number == last else region
        fragment = fill(specs, endless, start, spaced=number == 0 and not snug)
        fragments.append(fragment)
        start = fragment.rest
    return SetText(tuple(fragments), _columns(tuple(regions)), tuple(specs))


@lru_cache(maxsize=1_000)
def _columns(regions: tuple[Region, ...]) -> tuple[tuple[float, float], ...]:
    """The edges of columns: the same object for the frames of thousands of pages."""
    return tuple((region.left, region.right) for region in regions)
