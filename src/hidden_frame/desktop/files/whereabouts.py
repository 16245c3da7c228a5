"""Where one is in a publication, so that one can go on there after a crash."""

from __future__ import annotations

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.lookup import positions
from hidden_frame.storage.recovery import Whereabouts


def whereabouts(session: Session, writing: TextEdit) -> Whereabouts:
    """The page on the desk, and the caret if one writes there."""
    editing = session.editing if session.mode == "pages" else None
    if editing is None:
        return Whereabouts(session.page_id)
    told = writing.told()
    story = told.story.id if told is not None else ""
    return Whereabouts(editing.holder_id, editing.item_id, story, writing.caret, writing.anchor)


def go_to(session: Session, writing: TextEdit, there: Whereabouts) -> None:
    """The page on the desk again, and the caret where it was, as far as they are there."""
    known = positions(session.publication)
    if there.page in known:
        session.show_page(there.page)
    caret, anchor = there.caret, there.anchor
    if there.story in {s.id for s in session.publication.stories}:
        writing.write_at(there.story, caret, anchor)
    elif there.item and there.page in known:
        side = session.side_of(there.page)
        if any(r.item.id == there.item for r in items_on(session.publication, there.page, side)):
            session.edit_text(Editing(there.page, there.item, side))
            writing.caret, writing.anchor = caret, anchor
            writing.clamp()
