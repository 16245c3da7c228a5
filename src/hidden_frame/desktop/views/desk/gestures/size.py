"""The selected items sized by a handle, one item or all of them together."""

from __future__ import annotations

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import (
    Alt,
    Ctrl,
    ItemsGesture,
    Keys,
    Shift,
    named,
)
from hidden_frame.desktop.views.desk.snapper import Edges, Snapper
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.model.items import is_level
from hidden_frame.model.number_format import decimal
from hidden_frame.model.plane.box import (
    Bounds,
    Box,
    Handle,
    around_all,
    bounds_of,
    line_between,
    resized,
    scaled,
)


class SizeGesture(ItemsGesture):
    """Shift keeps the proportions, Alt keeps the middle, Ctrl does not snap."""

    def __init__(self, session: Session, handle: Handle, start: Spot, zoom: float) -> None:
        super().__init__(session, start)
        self.handle = handle
        self.snapper = Snapper(session, zoom, set(self.items))

    @property
    def single(self) -> str | None:
        return next(iter(self.items)) if len(self.items) == 1 else None

    def drag(self, spot: Spot, keys: Keys) -> None:
        dx, dy = self.pull(spot)
        new = self._boxes(dx, dy, keys)
        edges = self._edges(new)
        if edges is not None:
            bounds = self.on_spread(_around(new))
            snap = self.snapper.snap(bounds, keys, edges, gaps=False)
            if snap.dx or snap.dy:
                new = self._boxes(dx + snap.dx, dy + snap.dy, keys)
            # Proportions may carry an edge off again: only lines that are met are shown.
            met = self._edges(new)
            quiet = bool(keys & Ctrl) or met is None
            self.lines = () if quiet else self.snapper.touched(self.on_spread(_around(new)), met)
        self.words = self._words(new)
        self.show(new)

    def _boxes(self, dx: float, dy: float, keys: Keys) -> dict[str, Box]:
        proportional, about_middle = bool(keys & Shift), bool(keys & Alt)
        if self.single is not None:
            box = self.boxes[self.single]
            if is_level(self.items[self.single]):
                return {self.single: self._line(box, dx, dy, keys)}
            new = resized(box, self.handle, dx, dy, proportional, about_middle)
            return {self.single: new}
        whole = Box(self.around.left, self.around.top, self.around.width, self.around.height)
        new = resized(whole, self.handle, dx, dy, proportional, about_middle)
        to = Bounds(new.x, new.y, new.x + new.width, new.y + new.height)
        return {i: scaled(box, self.around, to) for i, box in self.boxes.items()}

    def _line(self, box: Box, dx: float, dy: float, keys: Keys) -> Box:
        """A line whose end is pulled; with Shift level, upright, or at 45°."""
        moved = box.point(self.handle[0], 0)
        fixed = box.point(-self.handle[0], 0)
        x, y = moved[0] + dx, moved[1] + dy
        if keys & Shift:
            across, down = x - fixed[0], y - fixed[1]
            if abs(across) > 2 * abs(down):
                y = fixed[1]
            elif abs(down) > 2 * abs(across):
                x = fixed[0]
            else:
                far = (abs(across) + abs(down)) / 2
                x = fixed[0] + (far if across >= 0 else -far)
                y = fixed[1] + (far if down >= 0 else -far)
        if keys & Alt:
            fixed = (2 * box.centre[0] - x, 2 * box.centre[1] - y)
        ends = (fixed, (x, y)) if self.handle[0] > 0 else ((x, y), fixed)
        return line_between(*ends[0], *ends[1])

    def _edges(self, boxes: dict[str, Box]) -> Edges | None:
        """The edges that are pulled, on the spread; None for a turned item, which never snaps."""
        if self.single is not None:
            box = boxes[self.single]
            if is_level(self.items[self.single]):
                x, y = box.point(self.handle[0], 0)
                return (x + self.face.x,), (y,)
            if box.rotation:
                return None
        bounds = self.on_spread(_around(boxes))
        across, down = self.handle
        x = bounds.left if across < 0 else bounds.right
        y = bounds.top if down < 0 else bounds.bottom
        return (x,) if across else (), (y,) if down else ()

    def _words(self, boxes: dict[str, Box]) -> str:
        if self.single is not None:
            box = boxes[self.single]
            if is_level(self.items[self.single]):
                return f"{self.length(box.width)} · {decimal(box.rotation, 1, trimmed=False)}°"
            return f"{self.length(box.width)} × {self.length(box.height)}"
        bounds = _around(boxes)
        return f"{self.length(bounds.width)} × {self.length(bounds.height)}"

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        if dragged:
            self.session.commit_draft(named("resize", len(self.items)))


def _around(boxes: dict[str, Box]) -> Bounds:
    return around_all(bounds_of(b) for b in boxes.values())
