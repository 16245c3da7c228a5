"""A picture moved in its frame, or scaled there by one of its handles."""

from __future__ import annotations

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.gestures.base import Gesture, Keys, Shift
from hidden_frame.interact.hands.cropping import crop_of, moved, picture_of, pulled, within
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.hands.shown import change_shown, shown_item
from hidden_frame.model.geometry import Crop
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.number_format import decimal
from hidden_frame.model.plane.box import Handle


class CropGesture(Gesture):
    """Shift keeps to one axis; with a handle, the picture keeps its proportions always."""

    def __init__(self, session: Session, start: Spot, handle: Handle | None = None) -> None:
        super().__init__(session, start)
        self.handle = handle
        self.holder, self.side, self.item_id = session.holder_id, session.side, session.items[0]
        self.item = shown_item(session.publication, self.holder, self.item_id, self.side)
        self.picture = picture_of(session.publication, self.item)

    def drag(self, spot: Spot, keys: Keys) -> None:
        if not isinstance(self.item, PictureFrame) or self.picture is None:
            return
        dx, dy = self.pull(spot)
        if keys & Shift and self.handle is None:
            dx, dy = (dx, 0.0) if abs(dx) >= abs(dy) else (0.0, dy)
        self.show(*within(self.item, dx, dy))

    def show(self, dx: float, dy: float) -> None:
        """The draft with the picture pulled so far, along the frame's own edges."""
        assert isinstance(self.item, PictureFrame) and self.picture is not None
        crop = crop_of(self.item, self.picture)
        if self.handle is None:
            crop = moved(crop, dx, dy)
        else:
            crop = pulled(crop, self.picture, self.handle, dx, dy)
        self.words = f"{decimal(crop.scale * 100, 1, trimmed=False)} %"
        self._draft(crop)

    def _draft(self, crop: Crop) -> None:
        changes: dict[str, dict[str, object]] = {self.item_id: {"fit": "free", "crop": crop}}
        now = self.session.history.now
        self.session.set_draft(change_shown(now, self.holder, self.side, changes))

    def release(self, spot: Spot, keys: Keys, dragged: bool) -> None:
        if dragged:
            self.session.commit_draft("crop a picture")
