"""Items that follow the edges and margins they lie on (R30)."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from msgspec import UNSET, UnsetType
from msgspec.structs import replace

from hidden_frame.edit.size.axis import Axis, hold, placed
from hidden_frame.edit.size.axis import MovedLine as HeldBy
from hidden_frame.model.items import KINDS, Item, Override, is_level
from hidden_frame.model.plane.box import Bounds, Box, bounds_of, line_between

Axes = tuple[Axis, Axis]
_TOGETHER = 24.0  # points, two picas: what is nearer stands together
_EVEN = 0.02  # points by which even spaces may differ
_FEW = 400  # items of a holder that are looked at in pairs; more go each by itself


def followed(items: Sequence[Item], both: Axes, turned: Axes | None = None) -> tuple[Item, ...]:
    """The items of a page or master in its new size.

    What spans goes on spanning, and what is evenly spaced stays so; of the rest, what stands
    together (nearer than two picas, or in one group) stays together.  `turned` are the axes of a
    verso, for what stands on it alone as it is.
    """
    ways = [turned if turned and _as_verso(item) else both for item in items]
    bounds = [bounds_of(_box(item)) for item in items]
    across, down = (_ends(items, bounds, ways, n) for n in (0, 1))
    return tuple(
        _moved(item, Bounds(x[0], y[0], x[1], y[1]))
        for item, x, y in zip(items, across, down, strict=True)
    )


def _as_verso(item: Item) -> bool:
    return item.face == "verso" and item.placing == "repeated"


def _box(item: Item) -> Box:
    return Box(item.x, item.y, item.width, item.height, item.rotation)


def stretches(item: Item) -> bool:
    """Whether an item's edges lie along the page's, so that it can be made wider or higher: it is
    upright, turned by right angles, or a line from corner to corner."""
    return item.rotation % 90 == 0 or is_level(item)


def _along(bounds: Bounds, n: int) -> tuple[float, float]:
    return (bounds.left, bounds.right) if n == 0 else (bounds.top, bounds.bottom)


class Extent(NamedTuple):
    """A thing along one direction: from where to where, and what of it goes with its neighbours:
    both of its edges, one of them (of what a line holds at the other), or none."""

    low: float
    high: float
    goes: Literal["both", "low", "high", ""]
    gives: bool = False  # whether its free edges are shared out, each by itself

    @property
    def ends(self) -> tuple[float, float]:
        """What of it stands beside others."""
        at = {"low": self.low, "high": self.high}.get(self.goes)
        return (self.low, self.high) if at is None else (at, at)


def place_of(item: Item, bounds: Bounds, along: Axis, n: int) -> Extent:
    low, high = _along(bounds, n)
    held = hold(low, high, along)
    if not stretches(item):
        return Extent(low, high, "both")
    if held.spans:
        return Extent(low, high, "")
    line = held.low or held.high
    if line is None and held.centre is None and _is_large(item, low, high, along):
        return Extent(low, high, "", True)
    if line is None or not _gives(item, line, along):
        return Extent(low, high, "both")
    return Extent(low, high, "high" if held.low is not None else "low", True)


def _is_large(item: Item, low: float, high: float, along: Axis) -> bool:
    """Whether a text or a shape fills more than a third of the type area."""
    begin, end = along.area
    most = min(end.old - begin.old, end.new - begin.new)
    return _is_elastic(item) and high - low > most / 3


def _is_elastic(item: Item) -> bool:
    """Whether other proportions do no harm: of a picture and of a circle they do."""
    return KINDS[type(item)].elastic(item)


def rows(items: Sequence[Item], places: Sequence[Extent], n: int) -> list[list[int]]:
    """What stands in a row, evenly spaced: three and more of one size, level with each other."""
    alike: dict[tuple[object, ...], list[int]] = {}
    for k, (item, place) in enumerate(zip(items, places, strict=True)):
        if place.goes == "both" and item.group is None:
            level = item.y if n == 0 else item.x
            key = (type(item), item.face, item.placing, round(level, 2), round(item.width, 2),
                   round(item.height, 2), item.rotation)  # fmt: skip
            alike.setdefault(key, []).append(k)
    found = []
    for row in alike.values():
        row.sort(key=lambda k: places[k].low)
        steps = [places[b].low - places[a].low for a, b in pairwise(row)]
        if len(row) >= 3 and min(steps) > 0 and max(steps) - min(steps) < _EVEN:
            found.append(row)
    return found


def _gives(item: Item, line: HeldBy, along: Axis) -> bool:
    """Whether a thing that a line holds at one edge may be made larger or smaller by the other:
    at the page's edges and margins; pictures and circles at its edges alone."""
    edges = (along.low, along.high, *along.bleed)
    return line in edges or (line in along.area and _is_elastic(item))


def _ends(
    items: Sequence[Item], bounds: Sequence[Bounds], ways: Sequence[Axes], n: int
) -> list[tuple[float, float]]:
    """From where to where each item goes, across (0) or down (1)."""
    places = [
        place_of(item, box, way[n], n) for item, box, way in zip(items, bounds, ways, strict=True)
    ]
    found = [
        placed(p.low, p.high, way[n], rigid=not stretches(item), gives=p.gives)
        for item, p, way in zip(items, places, ways, strict=True)
    ]
    for row in rows(items, places, n):
        first, last = places[row[0]], places[row[-1]]
        low, high = placed(first.low, last.high, ways[row[0]][n], gives=True)
        size = first.high - first.low
        step = (high - low - size) / (len(row) - 1)
        for nth, k in enumerate(row):
            found[k] = low + nth * step, low + nth * step + size
            places[k] = places[k]._replace(goes="")
    for cluster in clusters(items, bounds, places, n):
        if len(cluster) == 1:
            continue
        low = min(places[k].ends[0] for k in cluster)
        high = max(places[k].ends[1] for k in cluster)
        along = ways[cluster[0]][n]
        if hold(low, high, along).spans:
            continue  # from one line to another: each keeps to what is nearest
        shift = placed(low, high, along, rigid=True)[0] - low
        for k in cluster:
            at, goes = places[k], places[k].goes
            low_end = found[k][0] if goes == "high" else at.low + shift
            high_end = found[k][1] if goes == "low" else at.high + shift
            found[k] = min(low_end, high_end), max(low_end, high_end)
    return found


def clusters(
    items: Sequence[Item], bounds: Sequence[Bounds], places: Sequence[Extent], n: int
) -> list[list[int]]:
    """What stands together: in one group, or side by side and nearer than two picas."""
    free = [k for k, place in enumerate(places) if place.goes]
    root = {k: k for k in free}

    def find(k: int) -> int:
        while root[k] != k:
            k = root[k]
        return k

    groups: dict[str, int] = {}
    for k in free:
        group = items[k].group
        if group is not None:
            root[find(k)] = find(groups.setdefault(group, k))
    if len(free) <= _FEW:
        order = sorted(free, key=lambda k: places[k].ends[0])
        for at, k in enumerate(order):
            end = places[k].ends[1] + _TOGETHER
            for other in order[at + 1 :]:
                if places[other].ends[0] > end:
                    break
                faces = {items[k].face, items[other].face}
                if (len(faces) == 1 or "both" in faces) and _meet(
                    _along(bounds[k], 1 - n), _along(bounds[other], 1 - n)
                ):
                    root[find(other)] = find(k)
    made: dict[int, list[int]] = {}
    for k in free:
        made.setdefault(find(k), []).append(k)
    return list(made.values())


def _meet(a: tuple[float, float], b: tuple[float, float]) -> bool:
    return a[0] < b[1] and b[0] < a[1]


def _moved(item: Item, to: Bounds) -> Item:
    """An item in another box around it."""
    new = _in_box(item, to)
    same = all(
        abs(getattr(item, name) - getattr(new, name)) < 1e-9
        for name in ("x", "y", "width", "height")
    )
    return item if same else new


def _in_box(item: Item, to: Bounds) -> Item:
    if is_level(item) and item.rotation % 90:
        return _line(item, to)
    across, down = to.width, to.height
    if item.rotation % 180 == 90:
        across, down = down, across
    elif item.rotation % 180:
        across, down = item.width, item.height
    cx, cy = to.centre
    return replace(
        item, x=cx - across / 2, y=cy - down / 2, width=max(across, 0.0), height=max(down, 0.0)
    )


def _line(item: Item, to: Bounds) -> Item:
    """A line from corner to corner of another box, its ends where they were."""
    box = _box(item)
    (x1, y1), (x2, y2) = box.point(-1, 0), box.point(1, 0)
    xs = (to.left, to.right) if x1 <= x2 else (to.right, to.left)
    ys = (to.top, to.bottom) if y1 <= y2 else (to.bottom, to.top)
    new = line_between(xs[0], ys[0], xs[1], ys[1])
    was = bounds_of(box)
    if abs(was.width - to.width) < 1e-9 and abs(was.height - to.height) < 1e-9:
        return replace(item, x=item.x + to.left - was.left, y=item.y + to.top - was.top)
    return replace(item, x=new.x, y=new.y, width=new.width, rotation=new.rotation)


_PLACE = (("x", "width"), ("y", "height"))


def override_followed(override: Override, before: Item, after: Item, both: Axes) -> Override:
    """An override of a master's item by the same rule: `before` is the item as its masters show
    it, `after` in the new size.  What follows the master goes on following it."""
    changed: dict[str, float] = {}
    shown = replace(before, **_geometry(override))
    if shown.rotation % 180:
        return replace(override, **_by_middle(override, before, after, both))
    bounds = bounds_of(_box(shown))
    for n, (start, extent) in enumerate(_PLACE):
        moved, sized = _said(override, start), _said(override, extent)
        if not (moved or sized):
            continue
        size = None if sized else getattr(after, extent)
        low, high = placed(*_along(bounds, n), both[n], size)
        if moved:
            changed[start] = low
        if sized:
            changed[extent] = max(high - (low if moved else getattr(after, start)), 0.0)
            if not moved:
                changed[extent] = _kept_size(shown, n, both, high - low)
    return replace(override, **changed) if changed else override


def _kept_size(shown: Item, n: int, both: Axes, size: float) -> float:
    """The size of an item that is placed by its master: it spans, or keeps its size."""
    held = hold(*_along(bounds_of(_box(shown)), n), both[n])
    return size if held.spans else getattr(shown, _PLACE[n][1])


def _by_middle(override: Override, before: Item, after: Item, both: Axes) -> dict[str, float]:
    """The same for an item that is turned: its middle goes where it belongs, its size is kept."""
    shown = replace(before, **_geometry(override))
    sizes = {e: getattr(shown if _said(override, e) else after, e) for _, e in _PLACE}
    here = bounds_of(_box(shown))
    turned = {"rotation": shown.rotation} if _said(override, "rotation") else {}
    there = bounds_of(_box(replace(after, **turned, **sizes)))
    changed = {}
    for n, (start, extent) in enumerate(_PLACE):
        if _said(override, start):
            extents = _along(there, n)
            low, high = placed(*_along(here, n), both[n], extents[1] - extents[0])
            changed[start] = (low + high) / 2 - sizes[extent] / 2
    return changed


def _said(override: Override, name: str) -> bool:
    return getattr(override, name) is not UNSET


def _geometry(override: Override) -> dict[str, float]:
    names = ("x", "y", "width", "height", "rotation")
    values = ((name, getattr(override, name)) for name in names)
    return {name: value for name, value in values if not isinstance(value, UnsetType)}
