"""How the desk is looked at: zoom and place, as a value."""

from __future__ import annotations

from typing import NamedTuple

MIN_ZOOM, MAX_ZOOM = 0.05, 64.0
MARGIN = 34.0  # pixels kept free around what is fitted


class View(NamedTuple):
    """Pixels per point, and where the spread's origin lies in the widget."""

    zoom: float = 1.0
    dx: float = 0.0
    dy: float = 0.0

    def to_widget(self, x: float, y: float) -> tuple[float, float]:
        return x * self.zoom + self.dx, y * self.zoom + self.dy

    def to_spread(self, px: float, py: float) -> tuple[float, float]:
        return (px - self.dx) / self.zoom, (py - self.dy) / self.zoom

    def moved(self, px: float, py: float) -> View:
        return self._replace(dx=self.dx + px, dy=self.dy + py)

    def zoomed(self, factor: float, px: float, py: float) -> View:
        """Zoomed about a widget point, which stays where it is."""
        zoom = min(max(self.zoom * factor, MIN_ZOOM), MAX_ZOOM)
        x, y = self.to_spread(px, py)
        return View(zoom, px - x * zoom, py - y * zoom)


def fitted(
    left: float, top: float, right: float, bottom: float, width: float, height: float
) -> View:
    """The view that shows a part of the spread whole, in the middle of a widget."""
    across, down = max(right - left, 1.0), max(bottom - top, 1.0)
    room_x, room_y = max(width - 2 * MARGIN, 20.0), max(height - 2 * MARGIN, 20.0)
    zoom = min(max(min(room_x / across, room_y / down), MIN_ZOOM), MAX_ZOOM)
    return View(
        zoom,
        (width - across * zoom) / 2 - left * zoom,
        (height - down * zoom) / 2 - top * zoom,
    )


def widened(
    left: float, top: float, right: float, bottom: float, width: float, height: float
) -> View:
    """The view in which a part of the spread is as wide as the widget, its top in sight."""
    room = max(width - 2 * MARGIN, 20.0)
    zoom = min(max(room / max(right - left, 1.0), MIN_ZOOM), MAX_ZOOM)
    down = (bottom - top) * zoom
    y = (height - down) / 2 if down < height - 2 * MARGIN else MARGIN
    return View(zoom, (width - (right - left) * zoom) / 2 - left * zoom, y - top * zoom)
