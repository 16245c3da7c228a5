"""Everything by one factor about the middle of the page (R30)."""

from __future__ import annotations

from typing import Any, NamedTuple

from msgspec import UNSET, UnsetType
from msgspec.structs import replace

from hidden_frame.edit.size.axis import ON
from hidden_frame.model.geometry import Columns, Crop, Grid, Guide, Margins, Side
from hidden_frame.model.items import Around, Insets, Item, Override
from hidden_frame.model.paint import Stroke
from hidden_frame.model.plane.box import Bounds, Box, bounds_of
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import MAX_FONT_SIZE


class Scaling(NamedTuple):
    """A factor, and how the middle of the page moves: x' = factor · x + dx.

    From the middle a page and the one that faces it stay mirror images.
    """

    factor: float
    dx: float
    dy: float
    old: Setup
    new: Setup

    @classmethod
    def of(cls, old: Setup, new: Setup, factor: float) -> Scaling:
        dx = (new.trim.width - factor * old.trim.width) / 2
        dy = (new.trim.height - factor * old.trim.height) / 2
        return cls(factor, dx, dy, old, new)

    def x(self, x: float, side: Side = "recto") -> float:
        """A place across; what lies beyond the spine, on the page that faces it, goes with that
        page."""
        width = self.old.trim.width
        if self.old.facing:
            if side == "recto" and x < -self.old.bleed - ON:
                return self.factor * x - self.dx
            if side == "verso" and x > width + self.old.bleed + ON:
                return self.factor * (x - width) + self.dx + self.new.trim.width
        return _edge(x, self, 0) if _outside(x, width) else self.factor * x + self.dx

    def y(self, y: float) -> float:
        height = self.old.trim.height
        return _edge(y, self, 1) if _outside(y, height) else self.factor * y + self.dy


def _outside(at: float, length: float) -> bool:
    return at <= ON or at >= length - ON


def _edge(at: float, scaling: Scaling, n: int) -> float:
    """A place on the trim's edge or outside of it: what bleeds goes on bleeding."""
    old, new = scaling.old, scaling.new
    was = (old.trim.width, old.trim.height)[n]
    then = (new.trim.width, new.trim.height)[n]
    if at <= ON:
        return -_past(-at, scaling)
    return then + _past(at - was, scaling)


def _past(out: float, scaling: Scaling) -> float:
    """How far something reaches past the trim: over all of the bleed, or so far as it did."""
    if abs(out - scaling.old.bleed) <= ON:
        return out - scaling.old.bleed + scaling.new.bleed
    return out


def item_scaled(item: Item, by: Scaling, side: Side, type_too: bool) -> Item:
    """An item in the new size; `side` is the page's if the item stands on it itself."""
    bounds = bounds_of(Box(item.x, item.y, item.width, item.height, item.rotation))
    width, height = item.width * by.factor, item.height * by.factor
    to = Bounds(
        by.x(bounds.left, side), by.y(bounds.top), by.x(bounds.right, side), by.y(bounds.bottom)
    )
    outside = _whole_outside(bounds, by.old) or _whole_outside(to, by.new)
    if outside or item.rotation % 90:
        cx, cy = bounds.centre
        cx, cy = by.factor * cx + by.dx, by.factor * cy + by.dy
    else:
        cx, cy = to.centre
        if item.rotation % 180 == 0:
            width, height = to.width, to.height
        elif item.rotation % 180 == 90:
            width, height = to.height, to.width
    place: dict[str, Any] = {
        "x": cx - width / 2,
        "y": cy - height / 2,
        "width": max(width, 0.0),
        "height": max(height, 0.0),
    }
    return replace(item, **place, **_lengths(item, by.factor, type_too))


def _whole_outside(b: Bounds, setup: Setup) -> bool:
    trim = setup.trim
    return b.right <= ON or b.left >= trim.width - ON or b.bottom <= ON or b.top >= trim.height - ON


def _lengths(holds: Item | Override, factor: float, type_too: bool) -> dict[str, Any]:
    """What an item or an override says of lengths besides its place, scaled."""
    made: dict[str, Any] = {}
    of_type = ("stroke", "text_size") if type_too else ()
    for name in ("inset", "gutter", "radius", "crop", "around", *of_type):
        value = getattr(holds, name, None)
        if value is not None and value is not UNSET:
            made[name] = _scaled(value, factor)
    if "text_size" in made:
        made["text_size"] = min(made["text_size"], MAX_FONT_SIZE)
    return made


def crop_scaled(crop: Crop, factor: float) -> Crop:
    """Where a picture lies in its frame, by a factor."""
    return Crop(crop.x * factor, crop.y * factor, crop.scale * factor)


def _scaled(value: Any, factor: float) -> Any:
    if isinstance(value, Insets):
        return Insets(**{n: getattr(value, n) * factor for n in Insets.__struct_fields__})
    if isinstance(value, Crop):
        return crop_scaled(value, factor)
    if isinstance(value, Around):
        return replace(value, offset=value.offset * factor)
    if isinstance(value, Stroke):
        dash = tuple(d * factor for d in value.dash)
        return replace(value, width=value.width * factor, dash=dash)
    return value * factor


def override_scaled(
    override: Override, before: Item, after: Item, by: Scaling, type_too: bool
) -> Override:
    """An override by the same rule as the item it changes."""
    said = {n: getattr(override, n) for n in ("x", "y", "width", "height", "rotation")}
    said = {n: v for n, v in said.items() if not isinstance(v, UnsetType)}
    changes = _lengths(override, by.factor, type_too)
    shown = replace(before, **said)
    scaled = item_scaled(shown, by, "recto", type_too) if said else shown
    for n, (start, extent) in enumerate((("x", "width"), ("y", "height"))):
        # Turned, it lies across and down by both of its sizes, of which one may be its master's.
        turned = shown.rotation % 180 != 0
        if extent in said:
            size = getattr(shown, extent) * by.factor if turned else getattr(scaled, extent)
            if start not in said and not turned:  # from where its master begins
                end = getattr(shown, start) + getattr(shown, extent)
                size = max((by.y(end) if n else by.x(end)) - getattr(after, start), 0.0)
            changes[extent] = size
        if start in said and turned:
            middle = getattr(shown, start) + getattr(shown, extent) / 2
            size = changes.get(extent, getattr(after, extent))
            changes[start] = by.factor * middle + by[1 + n] - size / 2
        elif start in said and extent in said:
            changes[start] = getattr(scaled, start)
        elif start in said:  # its size follows the master
            at = getattr(shown, start)
            changes[start] = by.y(at) if n else by.x(at)
    return replace(override, **changes) if changes else override


# -- layouts --------------------------------------------------------------------


def margins_scaled(margins: Margins, by: Scaling) -> Margins:
    """Margins about the same type area; none is narrower than nothing."""
    return Margins(
        top=max(by.factor * margins.top + by.dy, 0.0),
        bottom=max(by.factor * margins.bottom + by.dy, 0.0),
        inside=max(by.factor * margins.inside + by.dx, 0.0),
        outside=max(by.factor * margins.outside + by.dx, 0.0),
    )


def columns_scaled(columns: Columns, by: Scaling) -> Columns:
    return Columns(columns.count, columns.gutter * by.factor)


def guide_scaled(guide: Guide, by: Scaling) -> Guide:
    at = by.y(guide.position) if guide.axis == "horizontal" else by.x(guide.position)
    return replace(guide, position=at)


def grid_scaled(grid: Grid, by: Scaling, type_too: bool) -> Grid:
    step = grid.step * by.factor if type_too else grid.step
    return Grid(max(by.factor * grid.start + by.dy, 0.0), step)
