"""What is selected as the desk shows it: where it is placed, and the box that has handles."""

from __future__ import annotations

from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.cropping import picture_box, picture_of
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.shown import box_of, shown_item, shown_items
from hidden_frame.model.items import PictureFrame, TextFrame, is_level
from hidden_frame.model.plane.box import Bounds, Box, around_all, bounds_of


class Selected:
    """Asked by the desk, its hand, its camera and the rulers; it changes nothing."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._around: tuple[tuple[object, ...], Bounds | None] | None = None

    def face(self) -> Face:
        """The face on the desk on which the selected items stand."""
        return selected_face(self._session)

    def placed(self, item_id: str) -> tuple[Placed, Face] | None:
        """A selected item where it is shown."""
        return self.placed_all().get(item_id)

    def placed_all(self) -> dict[str, tuple[Placed, Face]]:
        """Every selected item that is shown, by id."""
        session = self._session
        wanted = set(session.items)
        found: dict[str, tuple[Placed, Face]] = {}
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                for placed in session.scene_of(face).placed:
                    if placed.item_id in wanted:
                        found[placed.item_id] = (placed, face)
        return found

    def edited(self) -> Placed | None:
        """The frame in which one writes."""
        editing = self._session.editing
        found = None if editing is None else self.placed(editing.item_id)
        return None if found is None else found[0]

    def bounds(self) -> Bounds | None:
        """The box around everything selected, on the spread; changeable or not."""
        session = self._session
        key = (session.publication, session.holder_id, session.side, session.items)
        # The desk and both rulers ask for it with every frame.
        if self._around is None or any(
            a is not b for a, b in zip(self._around[0], key, strict=True)
        ):
            self._around = (key, self._find_bounds())
        return self._around[1]

    def _find_bounds(self) -> Bounds | None:
        session = self._session
        items = shown_items(session.publication, session.holder_id, session.items, session.side)
        if not items:
            return None
        around = around_all(bounds_of(box_of(i)) for i in items.values())
        return around.moved(self.face().x, 0.0)

    def box(self) -> tuple[Box, bool] | None:
        """The box that handles are shown on, and whether it is a line's; None without."""
        session = self._session
        if not session.items or session.editing is not None:
            return None
        if not session.may_change_all(session.holder_id, session.items):
            return None
        if len(session.items) == 1:
            return self._box_of_one()
        around = self.bounds()
        if around is None:
            return None
        a = around.moved(-self.face().x, 0.0)
        return Box(a.left, a.top, a.width, a.height), False

    def _box_of_one(self) -> tuple[Box, bool] | None:
        session = self._session
        item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
        if item is None or not item.visible:
            return None
        picture = picture_of(session.publication, item) if session.cropping else None
        if picture is not None and isinstance(item, PictureFrame):
            return picture_box(item, picture), False
        box = box_of(item)
        if isinstance(item, TextFrame) and item.grows and not item.rotation:
            placed = self.placed(item.id)
            if placed is not None:
                box = box._replace(height=placed[0].drawing.height)
        return box, is_level(item)


def selected_face(session: Session) -> Face:
    """The face on the desk on which the selected items stand."""
    faces = session.faces()
    for face in faces:
        if (face.holder_id, face.side) == (session.holder_id, session.side):
            return face
    return faces[0]
