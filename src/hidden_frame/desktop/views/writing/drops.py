"""Words taken from one place to another: to which text a point leads, and what is done there."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QMimeData

from hidden_frame.compose.scene import Placed
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.mime import known_here
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.move import moved_words
from hidden_frame.interact.finds.listing import lists_itself
from hidden_frame.interact.hands.carets import FrameText, Standing, at_point
from hidden_frame.interact.hands.hits import Spot, away_from, hit
from hidden_frame.interact.hands.places import put_in_here
from hidden_frame.interact.sight.value import Editing

_BESIDE = 4.0  # points beside a frame that count as its edge, where lines begin


class DropTarget(NamedTuple):
    """Where words would go that are dragged: a frame, its story ("" without one), a place, and the
    paragraph from which the frame counts."""

    editing: Editing
    story: str
    standing: Standing
    first: int


class WordDrops:
    """What is selected, or comes from elsewhere, put into a text."""

    def __init__(self, session: Session, edit: TextEdit) -> None:
        self._session, self._edit = session, edit

    def target_at(self, spot: Spot) -> DropTarget | None:
        """Where words go that are let go at a point: into a text there that may be changed."""
        session, face = self._session, spot.face
        found = hit(session.scene_of(face), spot.x, spot.y, 0.0) or self._beside(spot)
        if found is None or found.drawing.text is None:
            return None
        if session.mode == "pages" and lists_itself(
            session.composition, face.holder_id, found.item_id
        ):
            return None
        told = None
        if session.mode == "pages":
            told = session.composition.told(face.holder_id, found.item_id)
        if told is None and not session.may_change(face.holder_id, found.item_id):
            return None
        at = told.flow.index[face.holder_id, found.item_id] if told is not None else 0
        block = found.drawing.text
        shown = FrameText(block.text, told, at)
        x, y = found.matrix.inverse().apply(spot.x, spot.y)
        standing = Standing((0, 0))
        if block.text.lines:
            standing = at_point(shown, x - block.x, y - block.y)
        editing = Editing(face.holder_id, found.item_id, face.side)
        story = told.story.id if told is not None else ""
        return DropTarget(editing, story, standing, shown.first)

    def _beside(self, spot: Spot) -> Placed | None:
        """The text at whose very edge a point lies, where lines begin and end."""
        texts = [p for p in self._session.scene_of(spot.face).placed if p.drawing.text is not None]
        near = [(away_from(p.bounds, spot), n) for n, p in enumerate(texts)]
        away, n = min(near, default=(_BESIDE + 1, 0))
        return texts[n] if away <= _BESIDE else None

    def drop(self, target: DropTarget, copies: bool) -> None:
        """What is selected goes to another place, or `copies` of it."""
        edit, session = self._edit, self._session
        begun, write, now = edit.here(), edit.as_edit(), session.history.now
        if begun is None or write is None:
            return
        start, end = edit.selection
        same = target.story == begun.story and (target.story or target.editing == begun.editing)
        piece = edit_text.cut_out(edit.text, start, end)
        name = "copy words" if copies else "move words"
        rest, _ = edit_text.delete(edit.text, start, end)
        left = now if copies else write(now, rest)
        piece = put_in_here(left, piece)  # a place that is left there can't go along
        if same and not copies:
            text, first, last = moved_words(edit.text, start, end, target.standing.place, piece)
            if text is edit.text:
                return
            edit.change(name, text, last, begun=begun)
        elif same:
            first = target.standing.place
            text, last = edit_text.put_in(edit.text, first, piece)
            edit.change(name, text, last, begun=begun)
        else:
            style = edit.text[start[0]].style
            piece = known_here(piece, left, style, bool(target.story))
            self._go_to(target)
            first = edit.caret
            text, last = edit_text.put_in(edit.text, first, piece)
            edit.change(name, text, last, before=lambda _: left, begun=begun)
        edit.anchor = first
        session.once_settled(edit.mark_end)
        session.seal()
        edit.moved.emit()

    def put(self, data: QMimeData, target: DropTarget) -> None:
        """What was brought from elsewhere goes to a place."""
        self._go_to(target)
        self._edit.pasting.put(data)
        self._session.seal()

    def _go_to(self, target: DropTarget) -> None:
        """The caret is where a target says."""
        edit = self._edit
        if target.story:
            edit.write_at(target.story, target.standing.place)
        else:
            self._session.edit_text(target.editing)
            edit.stand(target.standing)
            edit.anchor = edit.caret
            edit.clamp()


def has_words(data: QMimeData) -> bool:
    """Whether words are brought, and no files or pictures."""
    return not data.hasUrls() and not data.hasImage() and (data.hasText() or data.hasHtml())
