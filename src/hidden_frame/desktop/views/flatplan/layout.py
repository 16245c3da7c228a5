"""Where each page lies on the flatplan, as plain numbers.

Each section has a head and rows of its own; short sections stand side by side, so that the
width is used.  A spread that two sections share is drawn in both, each with its own page, at
the side where it lies.
"""

from __future__ import annotations

from bisect import bisect_right
from typing import NamedTuple

from hidden_frame.compose.facts import Facts, PageFacts, page_facts
from hidden_frame.desktop.views.pages.space import Gap
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication, Setup

BESIDE = 4  # between two sections side by side
WALL = 60  # pages lower than this are packed closely
READ = 28  # pages lower than this have no folio below them


class TileSpacing(NamedTuple):
    """Pixels between spreads, under a page for ribbons and folio, between rows, for a section's
    head, at the sides of its area, and the least width of that."""

    gap: float
    foot: float
    between: float
    head: float
    pad: float
    least: float


WIDE = TileSpacing(16, 34, 12, 34, 18, 168)
CLOSE = TileSpacing(8, 22, 5, 34, 18, 168)
DOTS = TileSpacing(3, 4, 2, 17, 8, 60)


def spacing(high: float) -> TileSpacing:
    """How pages of a height are set apart: with room for a folio as long as one can be read."""
    return WIDE if high >= WALL else CLOSE if high >= READ else DOTS


class Tile(NamedTuple):
    """A page's thumbnail, its section, and its place there."""

    facts: PageFacts
    section: int
    place: int
    x: float
    y: float


class Band(NamedTuple):
    """A section's area, from its head at `y` down to `bottom`."""

    section_id: str
    number: int
    x: float
    y: float
    width: float
    bottom: float
    folded: bool

    def holds(self, x: float, y: float) -> bool:
        return self.x <= x <= self.x + self.width and self.y <= y <= self.bottom

    def middle(self) -> tuple[float, float]:
        return self.x + self.width / 2, (self.y + self.bottom) / 2


class TileRow(NamedTuple):
    """Tiles first to last (excluded) that stand side by side."""

    section: int
    y: float
    first: int
    last: int


class FlatplanLayout(NamedTuple):
    """All that is drawn, in order; sizes of a page and of the whole."""

    tiles: tuple[Tile, ...]
    bands: tuple[Band, ...]
    rows: tuple[TileRow, ...]
    page: tuple[float, float]
    width: float
    height: float
    rightward: bool
    foot: float
    head: float
    pad: float

    def at(self, x: float, y: float) -> Tile | None:
        """The page under a point."""
        wide, high = self.page
        for row in self.rows_within(y, y):
            for tile in self.tiles[row.first : row.last]:
                if tile.x <= x <= tile.x + wide and tile.y <= y <= tile.y + high + self.foot:
                    return tile
        return None

    def band_at(self, x: float, y: float) -> Band | None:
        """The section whose head is under a point."""
        band = self.area_at(x, y)
        inside = band is not None and band.holds(x, y) and y <= band.y + self.head
        return band if inside else None

    def area_at(self, x: float, y: float) -> Band | None:
        """The section whose area is under a point, or nearest to it."""

        def far(band: Band) -> tuple[float, float]:
            down = max(band.y - y, y - band.bottom, 0.0)
            return down, max(band.x - x, x - band.x - band.width, 0.0)

        return min(self.bands, key=far, default=None)

    def section_gap(self, x: float, y: float) -> Gap | None:
        """The place between two sections nearest to a point: upright where they stand side
        by side, level where one has rows of its own."""
        band = self.area_at(x, y)
        if band is None:
            return None
        at = self.bands.index(band)
        beside = any(b is not band and b.y == band.y for b in self.bands)
        middle = band.middle()
        forward = x > middle[0] if self.rightward else x < middle[0]
        after = forward if beside else y > middle[1]
        if after and at + 1 == len(self.bands):
            end = band.x + band.width - 3 if self.rightward else band.x + 3
            return Gap("", 0, end, band.y, band.bottom if beside else band.y)
        target = self.bands[at + after]
        alone = not any(b is not target and b.y == target.y for b in self.bands)
        edge = target.x + 3 if self.rightward else target.x + target.width - 3
        return Gap(target.section_id, 0, edge, target.y, target.y if alone else target.bottom)

    def rows_within(self, top: float, bottom: float) -> tuple[TileRow, ...]:
        """The rows that show between two y."""
        high = self.page[1] + self.foot
        ys = [row.y for row in self.rows]
        first = bisect_right(ys, top - high)
        return self.rows[max(first - 1, 0) : bisect_right(ys, bottom)]

    def tiles_within(self, top: float, bottom: float) -> list[Tile]:
        return [t for r in self.rows_within(top, bottom) for t in self.tiles[r.first : r.last]]

    def gap_at(self, x: float, y: float) -> Gap | None:
        """Where a drop at a point goes."""
        band = self.area_at(x, y)
        if band is None:
            return None
        wide, high = self.page
        rows = [r for r in self.rows if r.section == band.number]
        if band.folded or not rows:
            count = 0 if not band.folded else 10**6
            left, foot = band.x + self.pad, band.y + self.head
            return Gap(band.section_id, count, left, foot - 3, foot)
        row = min(rows, key=lambda r: abs(r.y + high / 2 - y))
        tiles = self.tiles[row.first : row.last]
        if band.y <= y <= band.y + self.head:
            row, tiles = rows[0], self.tiles[rows[0].first : rows[0].last]
            tile = tiles[0]
            edge = tile.x - 6 if self.rightward else tile.x + wide + 6
            return Gap(band.section_id, 0, edge, row.y, row.y + high)
        for tile in tiles:
            middle = tile.x + wide / 2
            if (x < middle) if self.rightward else (x > middle):
                edge = tile.x - 4 if self.rightward else tile.x + wide + 4
                return Gap(band.section_id, tile.place, edge, row.y, row.y + high)
        last = tiles[-1]
        edge = last.x + wide + 4 if self.rightward else last.x - 4
        return Gap(band.section_id, last.place + 1, edge, row.y, row.y + high)

    def of(self, page_id: str) -> Tile | None:
        return next((t for t in self.tiles if t.facts.page_id == page_id), None)

    def fitting(self, left: float, top: float, right: float, bottom: float) -> list[Tile]:
        """The pages that a rubber band touches."""
        wide, high = self.page
        return [
            t
            for t in self.tiles_within(top, bottom)
            if t.x < right and t.x + wide > left and t.y < bottom and t.y + high > top
        ]


def flatplan_layout(
    publication: Publication, high: float, width: float, folded: frozenset[str], single: bool
) -> FlatplanLayout:
    """The flatplan for thumbnails of a height on a view of a width (pixels)."""
    return _layout(page_facts(publication), publication.setup, high, width, tuple(sorted(folded)),
                   single)  # fmt: skip


@remembered(by_value=("folded",), weigh=lambda layout: 400 + 220 * len(layout.tiles))
def _layout(
    facts: Facts,
    setup: Setup,
    high: float,
    width: float,
    folded: tuple[str, ...],
    single: bool,
) -> FlatplanLayout:
    wide = float(round(high * setup.trim.width / setup.trim.height))
    pairs = setup.facing and not single
    slot = 2 * wide + 1 if pairs else wide
    rightward = setup.direction == "left to right"
    gap, foot, between, head, pad, least = spacing(high)
    whole = max(width, slot + 2 * pad)
    per_row = max(int((whole - 2 * pad + gap) // (slot + gap)), 1)
    tiles: list[Tile] = []
    bands: list[Band] = []
    rows: list[TileRow] = []
    x = y = bottom = 0.0  # of the next section: beside the last one, or below
    for number, (section, pages) in enumerate(facts.sections):
        groups = [] if section in folded else _slots(pages, facts, pairs)
        needs = len(groups) * (slot + gap) - gap + 2 * pad
        area = whole if len(groups) > per_row else min(max(needs, least), whole)
        if x and x + area > whole + 0.5:
            x, y = 0.0, bottom + between / 2
        left = x if rightward else whole - x - area
        top = y + head + (8 if high >= READ else 2)
        for start in range(0, len(groups), per_row):
            first = len(tiles)
            for column, group in enumerate(groups[start : start + per_row]):
                at = left + pad + column * (slot + gap)
                if not rightward:
                    at = left + area - pad - column * (slot + gap) - slot
                for index in group:
                    page = facts[pages[index]]
                    shift = wide + 1 if pairs and page.side == "recto" else 0
                    tiles.append(Tile(page, number, index, at + shift, top))
            rows.append(TileRow(number, top, first, len(tiles)))
            top += high + foot + between
        end = top if groups else y + head
        bands.append(Band(section, number, left, y, area, end, section in folded))
        bottom = max(bottom if x else 0.0, end)
        x += area + BESIDE
    bands = _evened(bands)
    return FlatplanLayout(
        tuple(tiles), tuple(bands), tuple(rows), (wide, high), whole, bottom + pad, rightward,
        foot, head, pad,
    )  # fmt: skip


def _evened(bands: list[Band]) -> list[Band]:
    """Sections side by side reach down equally far."""
    deepest: dict[float, float] = {}
    for band in bands:
        deepest[band.y] = max(deepest.get(band.y, 0.0), band.bottom)
    return [band._replace(bottom=deepest[band.y]) for band in bands]


def fitting_height(
    publication: Publication, width: float, high: float, folded: frozenset[str], single: bool,
    low: int, most: int,
) -> int:  # fmt: skip
    """The largest height of a thumbnail at which the whole publication is in sight."""
    while low < most:
        middle = (low + most + 1) // 2
        if flatplan_layout(publication, middle, width, folded, single).height <= high:
            low = middle
        else:
            most = middle - 1
    return low


def _slots(pages: tuple[str, ...], facts: Facts, pairs: bool) -> list[list[int]]:
    """A section's pages, those of one spread together."""
    groups: list[list[int]] = []
    spread = 0
    for index, page in enumerate(pages):
        here = facts[page].spread
        if groups and pairs and here == spread:
            groups[-1].append(index)
        else:
            groups.append([index])
        spread = here
    return groups
