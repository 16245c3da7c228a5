"""Pictures and captions anchored in the text that is being edited."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from hidden_frame.compose.regions import inner_height
from hidden_frame.desktop.views.desk.items_mime import Parcel
from hidden_frame.edit.carry.items import brought_in
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.anchors import anchor_at, change_anchor
from hidden_frame.interact.hands.anchoring import (
    AnchoredSeen,
    as_anchor,
    freed,
    seen_at,
    seen_in,
    sized,
)
from hidden_frame.interact.hands.hits import Spot
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.model.text import Anchor, TextPlace

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.written import WrittenText


class TextAnchors:
    """Selects what is anchored, changes it, puts it in and frees it."""

    def __init__(self, edit: WrittenText) -> None:
        self.edit = edit
        self._corner: tuple[float, float] | None = None  # the one opposite to what is pulled

    def place(self) -> TextPlace | None:
        """The place of the one that is selected by itself."""
        text, (start, end) = self.edit.text, self.edit.selection
        alone = bool(text) and end == (start[0], start[1] + 1)
        return start if alone and anchor_at(text, start) is not None else None

    def now(self) -> Anchor | None:
        """The one that is selected by itself."""
        place = self.place()
        return None if place is None else anchor_at(self.edit.text, place)

    def change(self, **changes: object) -> None:
        """Some of what is said of it changed."""
        place = self.place()
        if place is not None:
            self.edit.keep("anchored picture", change_anchor(self.edit.text, place, **changes))

    def put_picture(self, picture: Picture, data: bytes) -> None:
        """A picture anchored at the caret, as large as the column allows; it is selected."""
        self.edit.session.blobs[picture.hash] = data
        self._put(sized(picture, *self._room()), lambda p: put_picture(p, picture))

    def _put(self, anchor: Anchor, before: Callable[[Publication], Publication]) -> None:
        text, start = self.edit.without_selection()
        text, place = edit_text.insert_marker(text, start, anchor)
        self.edit.change("anchor in the text", text, place, before=before)
        self.edit.session.seal()
        self.select(start)

    def show_picture(self, picture: Picture, data: bytes) -> None:
        """Another picture for the one that is selected."""
        place, session = self.place(), self.edit.session
        if place is None:
            return
        session.blobs[picture.hash] = data
        text = change_anchor(self.edit.text, place, picture=picture.hash)
        self.edit.keep("anchored picture", text, lambda p: put_picture(p, picture))

    def put_item(self, parcel: Parcel) -> bool:
        """A picture or caption that was copied as an item, anchored at the caret; False if it can't
        be."""
        session = self.edit.session
        try:
            _, terms = brought_in(session.history.now, parcel.clip)
            anchor = as_anchor(terms.item(parcel.clip.items[0]), "above the line")
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
            return False
        session.blobs.update(parcel.blobs)
        self._put(anchor, lambda p: brought_in(p, parcel.clip)[0])
        return True

    def _room(self) -> tuple[float, float]:
        """The measure of the text at the caret and the height of its frame, in points."""
        block, editing = self.edit.block(), self.edit.session.editing
        if block is None or editing is None:
            return 200.0, 400.0
        left, right = block.text.columns[0]
        item = shown_item(
            self.edit.session.publication, editing.holder_id, editing.item_id, editing.side
        )
        high = inner_height(item) if isinstance(item, TextFrame) else right - left
        return max(right - left, 1.0), max(high, 1.0)

    def select(self, place: TextPlace) -> None:
        """Selects the character that something is anchored by."""
        self.edit.anchor, self.edit.caret = place, (place[0], place[1] + 1)
        self.edit.moved.emit()

    def press(self, spot: Spot) -> bool:
        """Selects what is anchored at a point of a page, if it is part of the text being edited."""
        editing, told = self.edit.session.editing, self.edit.told()
        if editing is None:
            return False
        for placed in reversed(self.edit.session.scene_of(spot.face).placed):
            first = 0
            if told is not None:
                if (spot.face.holder_id, placed.item_id) not in told.flow.index:
                    continue
                first = told.flow.first_paragraph(spot.face.holder_id, placed.item_id)
            elif placed.item_id != editing.item_id or spot.face.holder_id != editing.holder_id:
                continue
            seen = seen_at(placed, spot.face.side, spot.x, spot.y)
            if seen is not None:
                self.select((seen.place[0] + first, seen.place[1]))
                return True
        return False

    def grab(self, spot: Spot, slack: float) -> bool:
        """Takes hold of a corner of what is selected, within `slack` points of it."""
        self._corner = self.opposite(spot, slack)
        return self._corner is not None

    def opposite(self, spot: Spot, slack: float) -> tuple[float, float] | None:
        """The corner opposite to the one at a point; None if none is there."""
        seen, placed, editing = self.seen(), self.edit.placed(), self.edit.session.editing
        if seen is None or placed is None or editing is None:
            return None
        if spot.face.holder_id != editing.holder_id:
            return None
        x, y = placed.matrix.inverse().apply(spot.x, spot.y)
        left, top, right, bottom = seen.box
        for here, there in (
            ((left, top), (right, bottom)), ((right, top), (left, bottom)),
            ((left, bottom), (right, top)), ((right, bottom), (left, top)),
        ):  # fmt: skip
            if max(abs(here[0] - x), abs(here[1] - y)) <= slack:
                return there
        return None

    def pull(self, spot: Spot) -> bool:
        """The corner that was taken hold of, pulled to a point: larger or smaller, its shape kept;
        False if none was."""
        placed, anchor, place = self.edit.placed(), self.now(), self.place()
        if self._corner is None or placed is None or anchor is None or place is None:
            return False
        x, y = placed.matrix.inverse().apply(spot.x, spot.y)
        wide, high = abs(x - self._corner[0]), abs(y - self._corner[1])
        by = max(wide / anchor.width, high / anchor.height)
        short, long = sorted((anchor.width, anchor.height))
        by = min(max(by, 1.0 / short), 5000.0 / long)
        text = change_anchor(
            self.edit.text, place,
            width=round(anchor.width * by, 2), height=round(anchor.height * by, 2),
        )  # fmt: skip
        self.edit.change("size of what is anchored", text, place, "size anchored")
        self.select(place)
        return True

    def drop(self) -> None:
        """Lets the corner go: what was pulled is one step."""
        if self._corner is not None:
            self._corner = None
            self.edit.session.seal()

    def seen(self) -> AnchoredSeen | None:
        """The one that is selected as the frame that is written in shows it."""
        placed, editing, place = self.edit.placed(), self.edit.session.editing, self.place()
        if placed is None or editing is None or place is None:
            return None
        wanted = (place[0] - self.edit.first(), place[1])
        return next((s for s in seen_in(placed, editing.side) if s.place == wanted), None)

    def free(self) -> None:
        """What is selected taken out of the text and stood on its page, where it is now."""
        place, seen, placed = self.place(), self.seen(), self.edit.placed()
        session, editing = self.edit.session, self.edit.session.editing
        if place is None or seen is None or placed is None or editing is None:
            session.noticed.emit("Nothing anchored is selected; click it while editing the text.")
            return
        text = self.edit.text
        style, layer = text[place[0]].style, session.publication.layers[-1].id
        item = shown_item(session.publication, editing.holder_id, editing.item_id, editing.side)
        layer = item.layer if item is not None else layer
        rest, at = edit_text.delete(text, place, (place[0], place[1] + 1))
        made: list[str] = []

        def out(publication: Publication) -> Publication:
            publication, new = freed(publication, editing.holder_id, placed, seen, style, layer)
            made[:] = new
            return publication

        self.edit.change("free from the text", rest, at, before=out)
        session.seal()
        face = next(f for f in session.faces() if f.holder_id == editing.holder_id
                    and f.side == editing.side)  # fmt: skip
        session.edit_text(None)
        session.select_items(face, tuple(made))
