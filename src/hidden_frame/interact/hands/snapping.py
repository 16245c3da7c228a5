"""What an item on the desk can snap to, and where that takes it.

Everything stands in the spread's coordinates: a facing recto begins at trim width.

>>> targets = [SnapTarget("x", 33.0, "margin", 0.0, 600.0, 33.0)]
>>> snapped(Bounds(35, 80, 90, 99), targets, [], reach=4.0).dx
-2.0
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING, Literal, NamedTuple

from hidden_frame.compose.placing import text_area
from hidden_frame.interact.hands.snap_to import SnapTo
from hidden_frame.model.geometry import Side
from hidden_frame.model.layouts import PageLayout
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.plane.mirror import guide_x
from hidden_frame.model.publication import Setup
from hidden_frame.model.units import Unit, short_length

if TYPE_CHECKING:
    import numpy as np

Axis = Literal["x", "y"]
Edges = tuple[tuple[float, ...], tuple[float, ...]]  # places on x and on y that snap


class SnapTarget(NamedTuple):
    """A line to snap to: at a place along an axis, reaching from low to high on the other.

    `measure` is its distance from the page's left or top edge.
    """

    axis: Axis
    at: float
    word: str
    low: float
    high: float
    measure: float


class SnapLine(NamedTuple):
    """A line that was snapped to, and what to say of it; `measure` in points."""

    axis: Axis
    at: float
    low: float
    high: float
    word: str
    measure: float

    def told(self, unit: Unit) -> str:
        """What it says beside it: “margin · 18 mm”."""
        return f"{self.word} · {short_length(self.measure, unit)}"


class Snapped(NamedTuple):
    """How far to move so as to snap, and the lines to show."""

    dx: float = 0.0
    dy: float = 0.0
    lines: tuple[SnapLine, ...] = ()


def page_targets(
    x: float, side: Side, setup: Setup, layout: PageLayout, chosen: SnapTo
) -> list[SnapTarget]:
    """The lines of one page whose trim begins at x."""
    width, height = setup.trim.width, setup.trim.height
    found: list[SnapTarget] = []

    def upright(at: float, word: str) -> None:
        found.append(SnapTarget("x", x + at, word, 0.0, height, at))

    def level(at: float, word: str) -> None:
        found.append(SnapTarget("y", at, word, x, x + width, at))

    if chosen.page:
        for share, word in ((0.0, "page edge"), (1.0, "page edge"), (0.5, "page centre")):
            upright(width * share, word)
            level(height * share, word)
    area = text_area(setup, layout.margins, side)
    left, across = area.left, area.width
    if chosen.margins:
        upright(area.left, "margin")
        upright(area.right, "margin")
        level(area.top, "margin")
        level(area.bottom, "margin")
        upright(area.centre[0], "centre of margins")
        level(area.centre[1], "centre of margins")
    if chosen.columns and layout.columns.count > 1:
        gutter = layout.columns.gutter
        step = (across + gutter) / layout.columns.count
        for n in range(1, layout.columns.count):
            upright(left + n * step - gutter, f"column {n}")
            upright(left + n * step, f"column {n + 1}")
    if chosen.guides:
        for guide in layout.guides:
            if guide.axis == "vertical":
                upright(guide_x(guide.position, side, width), "guide")
            else:
                level(guide.position, "guide")
    if chosen.bleed and setup.bleed:
        for at in (-setup.bleed, width + setup.bleed):
            upright(at, "bleed")
        for at in (-setup.bleed, height + setup.bleed):
            level(at, "bleed")
    if chosen.grid and layout.grid is not None:
        y = layout.grid.start
        while y < height and len(found) < 2000:
            level(y, "baseline grid")
            y += layout.grid.step
    return found


class Neighbour(NamedTuple):
    """Another item on the spread: its bounds, its name, and where its page begins (x)."""

    bounds: Bounds
    name: str
    page_x: float


def item_targets(neighbours: Iterable[Neighbour]) -> list[SnapTarget]:
    """Edges and middles of other items."""
    found: list[SnapTarget] = []
    for box, name, x in neighbours:
        cx, cy = box.centre
        for at, word in ((box.left, "edge"), (box.right, "edge"), (cx, "centre")):
            found.append(SnapTarget("x", at, f"{word} of {name}", box.top, box.bottom, at - x))
        for at, word in ((box.top, "edge"), (box.bottom, "edge"), (cy, "centre")):
            found.append(SnapTarget("y", at, f"{word} of {name}", box.left, box.right, at))
    return found


class _Lines(NamedTuple):
    """The places of all targets on each axis, as arrays, and which targets they are."""

    x: np.ndarray
    y: np.ndarray
    on_x: list[SnapTarget]
    on_y: list[SnapTarget]


@remembered()
def _lines(targets: Sequence[SnapTarget]) -> _Lines:
    import numpy as np  # late: the window opens a tenth of a second sooner

    on_x = [t for t in targets if t.axis == "x"]
    on_y = [t for t in targets if t.axis == "y"]
    return _Lines(np.array([t.at for t in on_x]), np.array([t.at for t in on_y]), on_x, on_y)


def snapped(
    box: Bounds,
    targets: Sequence[SnapTarget],
    others: Sequence[Bounds] = (),
    reach: float = 4.0,
    edges: Edges | None = None,
) -> Snapped:
    """The nearest snap of a moving box on each axis, within `reach` points.

    `others` are boxes to keep equal gaps to.  `edges` are the x and y that may snap; by
    default both edges and the middle of the box.  Of equally near lines the first wins,
    and all that lie at the same place are shown.  What is derived from `targets` is
    remembered: a sequence must not change once it was passed.
    """
    if edges is None:
        cx, cy = box.centre
        edges = ((box.left, box.right, cx), (box.top, box.bottom, cy))
    lines = _lines(targets)
    dx = _nearest(edges[0], lines.x, reach)
    dy = _nearest(edges[1], lines.y, reach)
    shown: list[SnapLine] = []
    gap_x = equal_gap(box, others, "x", reach) if others else None
    gap_y = equal_gap(box, others, "y", reach) if others else None
    if gap_x is not None and (dx is None or abs(gap_x[0]) < abs(dx) - 1e-9):
        dx = gap_x[0]
    if gap_y is not None and (dy is None or abs(gap_y[0]) < abs(dy) - 1e-9):
        dy = gap_y[0]
    there = box.moved(dx or 0.0, dy or 0.0)
    if dx is not None:
        shown += _shown("x", [e + dx for e in edges[0]], lines, there)
        shown += _gap_lines(gap_x, dx, dy or 0.0)
    if dy is not None:
        shown += _shown("y", [e + dy for e in edges[1]], lines, there)
        shown += _gap_lines(gap_y, dy, dx or 0.0)
    return Snapped(dx or 0.0, dy or 0.0, tuple(shown))


def _nearest(edges: Sequence[float], places: np.ndarray, reach: float) -> float | None:
    if not len(edges) or not places.size:
        return None
    away = (places[:, None] - list(edges)).ravel()
    best = int(abs(away).argmin())
    return float(away[best]) if abs(away[best]) <= reach else None


def _shown(axis: Axis, edges: Sequence[float], lines: _Lines, box: Bounds) -> list[SnapLine]:
    """The lines at the edges of a box that has snapped, one for each place."""
    places, targets = (lines.x, lines.on_x) if axis == "x" else (lines.y, lines.on_y)
    if not edges or not places.size:
        return []
    met = abs(places[:, None] - list(edges)).min(axis=1) < 1e-6
    found: dict[int, SnapLine] = {}
    low, high = (box.top, box.bottom) if axis == "x" else (box.left, box.right)
    for index in met.nonzero()[0]:
        target = targets[index]
        place = round(target.at * 1000)
        before = found.get(place)
        word, measure = (target.word, target.measure) if before is None else before[4:]
        reach = (target.low, target.high) if before is None else before[2:4]
        found[place] = SnapLine(
            axis, target.at, min(low, target.low, reach[0]), max(high, target.high, reach[1]),
            word, measure,
        )  # fmt: skip
    return list(found.values())


_Gap = tuple[float, float, list[tuple[Axis, float, float, float]]]


def equal_gap(box: Bounds, others: Sequence[Bounds], axis: Axis, reach: float) -> _Gap | None:
    """The nearest move along an axis that makes a gap equal to one beside it.

    Between two boxes their gaps to it become equal; beside two, the gap repeats.  Only
    boxes that share some of its extent on the other axis count.
    """
    mine = _along(box, axis)
    beside = [o for o in others if _overlap(_across(o, axis), _across(box, axis))]
    before = sorted((o for o in beside if _along(o, axis)[1] <= mine[0] + reach),
                    key=lambda o: _along(o, axis)[1])  # fmt: skip
    behind = sorted((o for o in beside if _along(o, axis)[0] >= mine[1] - reach),
                    key=lambda o: _along(o, axis)[0])  # fmt: skip
    size = mine[1] - mine[0]
    found: list[tuple[float, float, list[tuple[float, float]]]] = []
    if before and behind:
        low, high = _along(before[-1], axis)[1], _along(behind[0], axis)[0]
        gap = (high - low - size) / 2
        if gap > 0:
            found.append((low + gap - mine[0], gap, [(low, low + gap), (high - gap, high)]))
    if len(before) > 1:
        a, b = _along(before[-2], axis), _along(before[-1], axis)
        gap = b[0] - a[1]
        if gap > 0:
            start = b[1] + gap
            found.append((start - mine[0], gap, [(a[1], b[0]), (b[1], start)]))
    if len(behind) > 1:
        a, b = _along(behind[0], axis), _along(behind[1], axis)
        gap = b[0] - a[1]
        if gap > 0:
            end = a[0] - gap
            found.append((end - mine[1], gap, [(end, a[0]), (a[1], b[0])]))
    near = [f for f in found if abs(f[0]) <= reach]
    if not near:
        return None
    move, gap, spans = min(near, key=lambda f: abs(f[0]))
    low, high = _across(box, axis)
    return move, gap, [(axis, (low + high) / 2, a, b) for a, b in spans]


def _gap_lines(gap: _Gap | None, move: float, other: float) -> list[SnapLine]:
    """The spans of equal gaps, if it is they that were snapped to."""
    if gap is None or abs(gap[0] - move) > 1e-6:
        return []
    # A gap along x is shown as a level line, and one along y as an upright one.
    return [
        SnapLine("y" if axis == "x" else "x", at + other, low, high, "equal gaps", gap[1])
        for axis, at, low, high in gap[2]
    ]


def _along(box: Bounds, axis: Axis) -> tuple[float, float]:
    return (box.left, box.right) if axis == "x" else (box.top, box.bottom)


def _across(box: Bounds, axis: Axis) -> tuple[float, float]:
    return (box.top, box.bottom) if axis == "x" else (box.left, box.right)


def _overlap(one: tuple[float, float], other: tuple[float, float]) -> bool:
    return one[0] < other[1] and other[0] < one[1]
