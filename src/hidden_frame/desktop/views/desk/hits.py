"""Words that were found, shown on the desk."""

from __future__ import annotations

from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.text.find import TextHit
from hidden_frame.interact.finds.finding import TextSpot
from hidden_frame.interact.sight.value import Editing
from hidden_frame.model.lookup import masters_by_id


def show_hit(desk: Desk, spot: TextSpot, hit: TextHit) -> None:
    """A hit on the desk, selected as words where one may write there."""
    session, writing = desk.session, desk.text
    start, end = (hit.paragraph, hit.start), (hit.paragraph, hit.end)
    if spot.story_id:
        writing.write_at(spot.story_id, end, start)
        return
    if spot.holder_id in masters_by_id(session.publication):
        session.show_master(spot.holder_id)
        side = "recto"
    else:
        session.show_page(spot.holder_id)
        side = session.side
    face = next(f for f in session.faces() if f.holder_id == spot.holder_id)
    session.select_items(face, (spot.item_id,))
    if session.may_change(spot.holder_id, spot.item_id):
        writing.begin(Editing(spot.holder_id, spot.item_id, side))  # type: ignore[arg-type]
        writing.anchor, writing.caret = start, end
        writing.moved.emit()
