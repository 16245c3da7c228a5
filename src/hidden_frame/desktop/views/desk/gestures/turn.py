"""The selected items turned about their common middle."""

from __future__ import annotations

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Ctrl, ItemsGesture, Keys, Shift, named
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.model.number_format import decimal
from hidden_frame.model.plane.box import Box, direction, turned_about, turned_towards

STEP = 15.0  # degrees, with Shift
_CATCH = 2.0  # degrees within which a right angle catches


class TurnGesture(ItemsGesture):
    """Shift turns by steps of 15°; right angles catch unless Ctrl is held."""

    def __init__(self, session: Session, start: Spot) -> None:
        super().__init__(session, start)
        if len(self.boxes) == 1:
            self.pivot = next(iter(self.boxes.values()))
        else:
            a = self.around
            self.pivot = Box(a.left, a.top, a.width, a.height)
        self.from_angle = direction(self.pivot, *self._here(start))

    def _here(self, spot: Spot) -> tuple[float, float]:
        """A spot in the coordinates of the page that holds the items."""
        return spot.x + spot.face.x - self.face.x, spot.y

    def drag(self, spot: Spot, keys: Keys) -> None:
        step = STEP if keys & Shift else 0.0
        angle = turned_towards(self.pivot, *self._here(spot), self.from_angle, step)
        right = round(angle / 90) * 90
        if not step and settings().now.snapping and not keys & Ctrl:
            angle = right if abs(angle - right) < _CATCH else angle
        by = angle - self.pivot.rotation
        self.words = f"{decimal((angle + 180) % 360 - 180, 1, trimmed=False)}°"
        centre = self.pivot.centre
        self.show({i: turned_about(box, centre, by) for i, box in self.boxes.items()})

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        if dragged:
            self.session.commit_draft(named("rotate", len(self.items)))
