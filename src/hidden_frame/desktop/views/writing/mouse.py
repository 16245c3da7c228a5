"""The mouse in a text: it puts the caret, selects by characters, words or paragraphs, and takes
selected words elsewhere."""

from __future__ import annotations

import time
from collections.abc import Callable

from PySide6.QtCore import QMimeData, QObject, QPointF, Signal
from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.drops import DropTarget, WordDrops, has_words
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.hands.carets import Standing
from hidden_frame.interact.hands.hits import Spot, away_from, hit
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.text import Text, TextPlace

FAR = 4.0  # pixels that words are pulled before they are dragged
Around = Callable[[Text, TextPlace], tuple[TextPlace, TextPlace]]


class TextMouse(QObject):
    """Told of presses, moves and releases on pages by the desk; `moved`: something is to be
    painted."""

    moved = Signal()

    def __init__(self, session: Session, edit: TextEdit) -> None:
        super().__init__()
        self._session, self._edit = session, edit
        self._around: Around = _no_more
        self._origin: tuple[TextPlace, TextPlace] = (0, 0), (0, 0)
        self._double_at, self._double = 0.0, QPointF()
        self._away = ""  # the story that was written in when one turned elsewhere
        session.looked.connect(self._watch)
        self.selecting = False  # whether the button is down to select
        self.drops = WordDrops(session, edit)
        self._held: tuple[QPointF, Spot] | None = None  # a press on selected words
        self.dragging = False
        self.target: DropTarget | None = None

    # -- where ---------------------------------------------------------------------------

    def holds(self, spot: Spot) -> bool:
        """Whether a point lies on the frame that is edited, or on another one of its story."""
        return self._frame_at(spot) is not None

    def _frame_at(self, spot: Spot) -> str | None:
        editing, session = self._session.editing, self._session
        if editing is None:
            return None
        found = hit(session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is None:
            return None
        same = (editing.holder_id, editing.side) == (spot.face.holder_id, spot.face.side)
        if same and found.item_id == editing.item_id:
            return found.item_id
        told = self._edit.told()
        here = told is not None and (spot.face.holder_id, found.item_id) in told.flow.index
        return found.item_id if here else None

    def _near(self, spot: Spot) -> str | None:
        """The frame of the story on a page that is nearest to a point of it."""
        told = self._edit.told()
        if told is None:
            return None
        found = [
            (away_from(placed.bounds, spot), placed.item_id)
            for placed in self._session.scene_of(spot.face).placed
            if (spot.face.holder_id, placed.item_id) in told.flow.index
        ]
        return min(found)[1] if found else None

    def _standing(self, spot: Spot) -> Standing | None:
        """The place under a point, or nearest to it, in whichever frame of the story lies there."""
        editing, item_id = self._session.editing, self._frame_at(spot) or self._near(spot)
        here = None if item_id is None else Editing(spot.face.holder_id, item_id, spot.face.side)
        if editing is not None and here is not None and here[:2] != editing[:2]:
            self._session.write_in(here)
        return self._edit.standing_at(spot.x, spot.y)

    # -- the caret and what is selected ----------------------------------------------------

    def press(self, spot: Spot, point: QPointF, *, extends: bool) -> None:
        """The button goes down; on selected words it may take them elsewhere."""
        self._edit.making.stop()
        spot = self._session.owning(spot)
        if self._third(point):
            self._take(spot, steps.paragraph_around)
            return
        if not extends and self._on_selected(spot):
            self._held = (point, spot)
            return
        self._around, self.selecting = _no_more, True
        if not extends:
            self._put(spot)
        else:
            self._origin = self._edit.anchor, self._edit.anchor
            self._extend(spot)

    def _put(self, spot: Spot) -> None:
        standing = self._standing(spot)
        if standing is not None:
            edit = self._edit
            edit.stand(standing)
            edit.anchor = edit.caret
            self._origin = edit.caret, edit.caret
            self._session.seal()
            edit.moved.emit()

    def point_at(self, spot: Spot) -> None:
        """The caret at a point, unless what is selected lies there."""
        spot = self._session.owning(spot)
        if not self._on_selected(spot):
            self._put(spot)

    def double(self, spot: Spot, point: QPointF) -> None:
        """Selects the word at a point, or the marker; the next press may take the paragraph."""
        self._double_at, self._double = time.monotonic(), point
        self._held = None
        self._take(self._session.owning(spot), self._word)

    def _word(self, text: Text, place: TextPlace) -> tuple[TextPlace, TextPlace]:
        found = steps.word_around(text, place)
        if found[0] == found[1]:
            index, offset = place
            for at in (offset, offset - 1):
                if edit_text.object_at(text, (index, at)) is not None:
                    return (index, at), (index, at + 1)
        return found

    def _third(self, point: QPointF) -> bool:
        """Whether a press is the third one of three in a row."""
        recent = time.monotonic() - self._double_at < QApplication.doubleClickInterval() / 1000
        near = (point - self._double).manhattanLength() < QApplication.startDragDistance()
        return recent and near

    def _take(self, spot: Spot, around: Around) -> None:
        standing = self._standing(spot)
        if standing is None:
            return
        self._around, self.selecting = around, True
        edit = self._edit
        self._origin = edit.anchor, edit.caret = around(edit.text, standing.place)
        self._session.seal()
        edit.moved.emit()

    def _extend(self, spot: Spot) -> None:
        standing = self._standing(spot)
        if standing is None:
            return
        edit = self._edit
        if self._around is _no_more:
            edit.stand(standing)
            edit.anchor = self._origin[0]
        else:
            first, last = self._around(edit.text, standing.place)
            back = first < self._origin[0]
            edit.anchor, edit.caret = (
                (self._origin[1], first) if back else (self._origin[0], max(last, self._origin[1]))
            )
        self._session.seal()
        edit.moved.emit()

    def move(self, spot: Spot, point: QPointF) -> None:
        """The button is down and the mouse goes on."""
        spot = self._session.owning(spot)
        if self._held is not None:
            far = (point - self._held[0]).manhattanLength() >= FAR
            self.dragging = self.dragging or far
            if self.dragging:
                self.target = self.drops.target_at(spot)
                self.moved.emit()
        elif self.selecting:
            self._extend(spot)

    def turn(self, way: int) -> bool:
        """Goes on selecting on the next spread (1), or the one before (-1), that the story has;
        False where there is none."""
        told, session = self._edit.told(), self._session
        if told is None or session.editing is None or not (self.selecting or self.dragging):
            return False
        flow, seen = told.flow, {f.holder_id for f in session.faces()}
        at = flow.index.get((session.editing.holder_id, session.editing.item_id))
        while at is not None and 0 <= at < len(flow.stops):
            stop = flow.stops[at]
            if stop.page_id not in seen and flow.parts[at].lines:
                session.write_in(Editing(stop.page_id, stop.room.item_id, stop.side))
                return True
            at += way
        return False

    def release(self, copies: bool) -> None:
        """The button is let go: words that were dragged are put there, or `copies` of them."""
        held, target, dragged = self._held, self.target, self.dragging
        self._held, self.target, self.dragging, self.selecting = None, None, False, False
        if held is not None and not dragged:
            self._put(held[1])
        elif target is not None:
            self.drops.drop(target, copies)
        self.moved.emit()

    def cancel(self) -> bool:
        """Gives up taking words elsewhere; False if none were."""
        was = self.dragging
        self._held, self.target, self.dragging, self.selecting = None, None, False, False
        self.moved.emit()
        return was

    def _on_selected(self, spot: Spot) -> bool:
        start, end = self._edit.selection
        if start == end or self._frame_at(spot) is None:
            return False
        found = hit(self._session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is None or found.drawing.text is None:
            return False
        block = found.drawing.text
        x, y = found.matrix.inverse().apply(spot.x, spot.y)
        x, y = x - block.x, y - block.y
        return any(
            left <= x <= right and top <= y <= bottom
            for left, top, right, bottom in self._edit.marks(spot.face.holder_id, found).selected
        )

    def hover(self, data: QMimeData, spot: Spot) -> None:
        """Shows where words would go that are brought from elsewhere."""
        spot = self._session.owning(spot)
        self.target = self.drops.target_at(spot) if has_words(data) else None
        self.moved.emit()

    def put(self, data: QMimeData, spot: Spot) -> bool:
        """Words that are dropped from elsewhere; False where no text lies, or for other things."""
        self.hover(data, spot)
        target, self.target = self.target, None
        if target is not None:
            self.drops.put(data, target)
        return target is not None

    # -- from elsewhere ----------------------------------------------------------------------

    def _watch(self) -> None:
        """Whoever turns pages while writing comes back to where the caret was with Shift."""
        session = self._session
        if session.editing is not None:
            told = self._edit.told()
            self._away = told.story.id if told is not None else ""
        elif session.items:
            self._away = ""

    def back_to(self, spot: Spot) -> bool:
        """Goes on writing where one was, from a point of the same story; False if it isn't one."""
        session = self._session
        spot = session.owning(spot)
        found = hit(session.scene_of(spot.face), spot.x, spot.y, 0.0)
        if found is None or not self._away or session.mode != "pages":
            return False
        told = session.composition.told(spot.face.holder_id, found.item_id)
        if told is None or told.story.id != self._away:
            return False
        session.edit_text(Editing(spot.face.holder_id, found.item_id, spot.face.side))
        return True


def _no_more(text: Text, place: TextPlace) -> tuple[TextPlace, TextPlace]:
    return place, place
