"""What can be done with one item: a picture placed, and the four choices for a master's."""

from __future__ import annotations

from pathlib import Path

from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.masters.overrides import follow, hide_here, make_local
from hidden_frame.interact.hands.shown import change_shown, items_on, shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.publication import Picture, Publication
from hidden_frame.storage.pictures import left_out, read_picture


def place_picture(session: Session, path: Path, where: str = "picture") -> None:
    """A picture file read into the selected picture frame, or as its `picture_on_dark`."""
    try:
        picture, data = read_picture(path)
    except Refusal as refusal:
        session.noticed.emit(str(refusal))
        return
    session.blobs[picture.hash] = data
    holder, side, items = session.holder_id, session.side, session.items
    changes: dict[str, dict[str, object]] = {i: {where: picture.hash} for i in items}
    if session.edit(
        "place picture" if where == "picture" else "picture on dark ground",
        lambda p: change_shown(put_picture(p, picture), holder, side, changes),
    ):
        tell_left_out(session, picture, data)


def awaits_picture(session: Session) -> bool:
    """Whether what is selected is an empty picture frame that may be changed."""
    if len(session.items) != 1 or not session.may_change(session.holder_id, session.items[0]):
        return False
    item = shown_item(session.publication, session.holder_id, session.items[0], session.side)
    return isinstance(item, PictureFrame) and item.picture is None


def tell_left_out(session: Session, picture: Picture, data: bytes) -> None:
    """What can't be shown of a drawing is said when it is placed."""
    said = left_out(data, picture.name) if picture.kind == "svg" else ""
    if said:
        session.noticed.emit(said)


def hide_item(session: Session, item_id: str) -> None:
    """A master item hidden on the page, or the master, that it is selected on."""
    holder = session.holder_id
    if session.edit("hide here", lambda p: hide_here(p, holder, item_id)):
        session.select_items(None, ())
        on_page = session.mode == "pages"
        where, shown = ("page", "From the masters") if on_page else ("master", "From the base")
        session.noticed.emit(
            f"Hidden on this {where} only; show it again in the list “{shown}” in Properties."
        )


def show_item(session: Session, item_id: str) -> None:
    """A master item that is hidden on this page, seen again."""
    holder = session.holder_id
    session.edit("show again", lambda p: follow(p, holder, item_id, "visible"))


def make_item_local(session: Session, item_id: str) -> None:
    """A master item made an item of the page's own (R13), and selected."""
    holder, side = session.holder_id, session.side
    made: list[str] = []

    def change(publication: Publication) -> Publication:
        shown = shown_item(publication, holder, item_id, side)
        if shown is None:
            raise Refusal("This item is no longer shown here.")
        publication, new_id = make_local(publication, holder, item_id, shown)
        made.append(new_id)
        return publication

    if session.edit("make local", change):
        session.select_items(None, tuple(made))


def go_to_item(session: Session, item_id: str) -> None:
    """Lays the master that carries an item on the desk and selects the item there."""
    side = session.side
    for resolved in items_on(session.publication, session.holder_id, side):
        if resolved.item.id == item_id and resolved.carrier is not None:
            session.show_master(resolved.carrier)
            face = next((f for f in session.faces() if f.side == side), session.faces()[-1])
            session.select_items(face, (item_id,))
            return
