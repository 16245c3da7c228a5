"""Where each page lies in the Run, as plain numbers."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from typing import NamedTuple, overload

from hidden_frame.compose.facts import Facts, PageFacts, page_facts
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.sides import spread_of

GAP = 16  # pixels between spreads
TOP = 26  # for the section brackets
FOOT = 40  # for ribbons, folio and position
PAD = 14


class Cell(NamedTuple):
    """A page's thumbnail: its left edge and width in pixels from the Run's start."""

    facts: PageFacts
    x: float
    width: float

    @property
    def right(self) -> float:
        return self.x + self.width


class Cells(Sequence[Cell]):
    """The cells of a publication, made when somebody asks: few of thousands are seen."""

    def __init__(self, facts: Facts, setup: Setup, width: float) -> None:
        self.facts, self._setup, self._width = facts, setup, width

    def __len__(self) -> int:
        return len(self.facts)

    @overload
    def __getitem__(self, at: int) -> Cell: ...
    @overload
    def __getitem__(self, at: slice) -> tuple[Cell, ...]: ...
    def __getitem__(self, at: int | slice) -> Cell | tuple[Cell, ...]:
        if isinstance(at, slice):
            return tuple(self[n] for n in range(*at.indices(len(self))))
        n = range(len(self))[at]
        return Cell(self.facts[self.facts.order[n]], self.left_of(n), self._width)

    def left_of(self, n: int) -> float:
        """The left edge of a cell."""
        return PAD + n * (self._width + 1) + (spread_of(n + 1, self._setup) - 1) * GAP

    def before(self, x: float) -> int:
        """How many cells begin at x or left of it."""
        return bisect_right(range(len(self)), x, key=self.left_of)


class RunLayout(NamedTuple):
    """All cells in order, the thumbnails' height, and the width of the whole.

    Cells stand in reading order from 0 on; where one reads right to left, `leftward`,
    what is seen is the mirror image of that.
    """

    cells: Cells
    height: float
    width: float
    leftward: bool = False

    def left_of(self, cell: Cell) -> float:
        """A cell's left edge as it is seen."""
        return self.width - cell.right if self.leftward else cell.x

    def reading(self, x: float) -> float:
        """A seen x in reading order, and back."""
        return self.width - x if self.leftward else x

    def at(self, x: float) -> Cell | None:
        """The page under a seen x."""
        x = self.reading(x)
        index = self.cells.before(x) - 1
        if index >= 0 and x <= self.cells[index].right:
            return self.cells[index]
        return None

    def gap_at(self, x: float) -> tuple[int, bool]:
        """The index before which a drop at x goes, and whether x is before that gap.

        At the boundary of two sections the side tells which of them is meant (R20).
        """
        x = self.reading(x)
        index = self.cells.before(x - self.cells[0].width / 2)
        if index == 0 or index == len(self.cells):
            return index, index > 0
        middle = (self.cells[index - 1].right + self.cells[index].x) / 2
        return index, x < middle

    def gap_x(self, index: int, left: bool) -> float:
        """Where a gap is drawn, as it is seen; between two sections on the side that is meant."""
        cells = self.cells
        if index == 0:
            x = cells[0].x - 7
        elif index == len(cells):
            x = cells[-1].right + 7
        else:
            x = (cells[index - 1].right + cells[index].x) / 2
            if cells[index - 1].facts.section_id != cells[index].facts.section_id:
                x = cells[index - 1].right + 4 if left else cells[index].x - 4
        return self.reading(x)

    def section_at(self, x: float) -> str | None:
        """The section whose bracket is under a seen x."""
        x = self.reading(x)
        near = self.cells.before(x)
        around = self.cells[max(near - 2, 0) : near + 1]
        found = [c for c in around if c.x - GAP <= x <= c.right + GAP]
        inside = [c for c in found if c.x <= x <= c.right]
        return (inside or found)[0].facts.section_id if found else None

    def bracket(self, section_id: str) -> tuple[Cell, Cell]:
        """The first and the last page of a section that has some."""
        first, end = next((a, b) for i, a, b in self.cells.facts.spans if i == section_id)
        return self.cells[first], self.cells[end - 1]

    def section_gap(self, x: float) -> tuple[float, str]:
        """The place before a section nearest to a seen x, and the section; "" is the end."""
        x, cells = self.reading(x), self.cells
        edges = [(cells.left_of(first) - 6, section) for section, first, _ in cells.facts.spans]
        edges.append((cells[-1].right + 6, ""))
        at, before = min(edges, key=lambda e: abs(e[0] - x))
        return self.reading(at), before

    def within(self, left: float, right: float) -> tuple[Cell, ...]:
        """The cells that show between two seen x."""
        left, right = sorted((self.reading(left), self.reading(right)))
        return self.cells[max(self.cells.before(left) - 1, 0) : self.cells.before(right)]


def run_layout(publication: Publication, height: int) -> RunLayout:
    """The Run of a publication in a widget of this height (pixels)."""
    return _layout(page_facts(publication), publication.setup, height)


@remembered()
def _layout(of: Facts, setup: Setup, height: int) -> RunLayout:
    tall = max(height - TOP - FOOT, 24)
    wide = tall * setup.trim.width / setup.trim.height
    cells = Cells(of, setup, wide)
    leftward = setup.direction == "right to left"
    return RunLayout(cells, float(tall), cells[-1].right + 1 + PAD, leftward)
