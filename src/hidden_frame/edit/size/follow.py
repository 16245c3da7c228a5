"""Items that follow the edges and margins they lie on (R30)."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import UNSET, UnsetType
from msgspec.structs import replace

from hidden_frame.edit.size.axis import NEAR, Axis, hold, placed
from hidden_frame.model.items import Item, Line, Override
from hidden_frame.model.plane.box import Bounds, Box, bounds_of, line_between

Axes = tuple[Axis, Axis]
_FEW = 400  # items of a holder that are looked at in pairs; more go each by itself


def followed(items: Sequence[Item], both: Axes, turned: Axes | None = None) -> tuple[Item, ...]:
    """The items of a page or master in its new size.

    What spans goes on spanning; of the rest, what stands together (nearer than a pica, or in one
    group) stays together.  `turned` are the axes of a verso, for what stands on it alone as it is.
    """
    ways = [turned if turned and _as_verso(item) else both for item in items]
    bounds = [bounds_of(_box(item)) for item in items]
    shifts = [_shifts(items, bounds, ways, n) for n in (0, 1)]
    return tuple(
        _moved(item, _where(item, b, way, (across, down)))
        for item, b, way, across, down in zip(items, bounds, ways, *shifts, strict=True)
    )


def _as_verso(item: Item) -> bool:
    return item.face == "verso" and item.placing == "repeated"


def _box(item: Item) -> Box:
    return Box(item.x, item.y, item.width, item.height, item.rotation)


def stretches(item: Item) -> bool:
    """Whether an item's edges lie along the page's, so that it can be made wider or higher: it is
    upright, turned by right angles, or a line from corner to corner."""
    return item.rotation % 90 == 0 or isinstance(item, Line)


def _along(bounds: Bounds, n: int) -> tuple[float, float]:
    return (bounds.left, bounds.right) if n == 0 else (bounds.top, bounds.bottom)


def _shifts(
    items: Sequence[Item], bounds: Sequence[Bounds], ways: Sequence[Axes], n: int
) -> list[float | None]:
    """How far each item goes together with what it stands beside, across (0) or down (1); None:
    it goes by itself."""
    free = [
        k for k, item in enumerate(items)
        if not (stretches(item) and hold(*_along(bounds[k], n), ways[k][n]).spans)
    ]  # fmt: skip
    found: list[float | None] = [None] * len(items)
    for cluster in _clusters(items, bounds, free, n):
        if len(cluster) == 1:
            continue
        low = min(_along(bounds[k], n)[0] for k in cluster)
        high = max(_along(bounds[k], n)[1] for k in cluster)
        along = ways[cluster[0]][n]
        if hold(low, high, along).spans:
            continue  # from one line to another: each keeps to what is nearest
        shift = placed(low, high, along, rigid=True)[0] - low
        for k in cluster:
            found[k] = shift
    return found


def _clusters(
    items: Sequence[Item], bounds: Sequence[Bounds], free: Sequence[int], n: int
) -> list[list[int]]:
    """What stands together: in one group, or side by side and nearer than a pica."""
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
        order = sorted(free, key=lambda k: _along(bounds[k], n)[0])
        for at, k in enumerate(order):
            end = _along(bounds[k], n)[1] + NEAR
            for other in order[at + 1 :]:
                if _along(bounds[other], n)[0] > end:
                    break
                if _meet(_along(bounds[k], 1 - n), _along(bounds[other], 1 - n)) and (
                    items[k].face == items[other].face
                    or "both" in (items[k].face, items[other].face)
                ):
                    root[find(other)] = find(k)
    made: dict[int, list[int]] = {}
    for k in free:
        made.setdefault(find(k), []).append(k)
    return list(made.values())


def _meet(a: tuple[float, float], b: tuple[float, float]) -> bool:
    return a[0] < b[1] and b[0] < a[1]


def _where(
    item: Item, bounds: Bounds, both: Axes, shifts: tuple[float | None, float | None] = (None, None)
) -> Bounds:
    """The box around an item in the new size."""
    ends = []
    for n in (0, 1):
        low, high = _along(bounds, n)
        shift = shifts[n]
        if shift is not None:
            ends.append((low + shift, high + shift))
        else:
            ends.append(placed(low, high, both[n], rigid=not stretches(item)))
    (left, right), (top, bottom) = ends
    return Bounds(left, top, right, bottom)


def _moved(item: Item, to: Bounds) -> Item:
    """An item in another box around it."""
    new = _in_box(item, to)
    same = all(
        abs(getattr(item, name) - getattr(new, name)) < 1e-9
        for name in ("x", "y", "width", "height")
    )
    return item if same else new


def _in_box(item: Item, to: Bounds) -> Item:
    if isinstance(item, Line) and item.rotation % 90:
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


def _line(item: Line, to: Bounds) -> Line:
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
