"""What comes of a sight by each act of looking or selecting."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.sight.value import Editing, GuideAt, Sight, Tool, side_of
from hidden_frame.model.lookup import find_section, positions
from hidden_frame.model.publication import Publication


def at_rest(sight: Sight) -> Sight:
    """Nothing is written or cropped."""
    return replace(sight, editing=None, cropping=False)


def with_nothing(sight: Sight) -> Sight:
    """Nothing on the desk is selected."""
    return replace(at_rest(sight), items=(), guide=None)


# -- what lies on the desk ---------------------------------------------------------------------


def on_page(sight: Sight, publication: Publication, page_id: str) -> Sight:
    """The page's spread lies on the desk."""
    now = replace(with_nothing(sight), pane="desk", mode="pages")
    return _among_pages(_laid(now, publication, page_id))


def on_master(sight: Sight, master_id: str) -> Sight:
    """A master lies on the desk, or is the one of the board that is worked on."""
    pane = "board" if sight.pane == "board" else "desk"
    return replace(
        with_nothing(sight), pane=pane, mode="masters", master_id=master_id, holder_id=master_id,
        side="recto",
    )  # fmt: skip


def on_board(sight: Sight) -> Sight:
    """The family of masters in place of the desk."""
    return on_master(replace(sight, pane="board"), sight.master_id)


def on_flatplan(sight: Sight, publication: Publication) -> Sight:
    """The whole publication in place of the desk, without a page selected."""
    if sight.mode != "pages":
        sight = on_page(sight, publication, sight.page_id)
    return replace(with_nothing(sight), proof=False, pane="flatplan", from_flatplan=False)


def _laid(sight: Sight, publication: Publication, page_id: str) -> Sight:
    """The page is the one on the desk; nothing on it is selected."""
    if page_id != sight.page_id or sight.items or sight.guide or sight.editing:
        sight = with_nothing(sight)
    side, at = side_of(sight, publication, page_id), positions(publication)[page_id]
    return replace(sight, page_id=page_id, holder_id=page_id, position=at, side=side)


def _among_pages(sight: Sight) -> Sight:
    """Pages stay selected only while the one that is worked on is among them."""
    if sight.page_id in sight.pages:
        return sight
    return replace(sight, pages=(), section_id="")


# -- what is selected --------------------------------------------------------------------------


def held(sight: Sight, face: Face, items: tuple[str, ...]) -> Sight:
    """Items in a hand, and the face that they are over."""
    return replace(sight, items=items, holder_id=face.holder_id, side=face.side)


def with_items(
    sight: Sight, publication: Publication, face: Face | None, items: tuple[str, ...]
) -> Sight:
    """Items of a page or face are selected; None keeps the present one."""
    cropping, page = sight.cropping and items == sight.items, sight.mode == "pages"
    now = replace(sight, items=items, guide=None, cropping=cropping)
    if face is None:
        return now
    now = replace(now, holder_id=face.holder_id, side=face.side)
    if not page:
        return now
    at = positions(publication)[face.holder_id]
    return _among_pages(replace(now, page_id=face.holder_id, position=at))


def with_guide(sight: Sight, guide: GuideAt | None) -> Sight:
    """A guide is selected instead of items, or no longer."""
    if guide is None:
        return replace(sight, guide=None)
    return replace(sight, cropping=False, items=(), guide=guide)


def with_pages(
    sight: Sight, publication: Publication, pages: tuple[str, ...], lead: str = ""
) -> Sight:
    """Pages are selected; the page on the desk is one of them: `lead`, or the one that is there,
    or the first."""
    now = replace(sight, pages=pages, section_id="")
    here = next((p for p in (lead, sight.page_id) if p in pages), pages[0] if pages else "")
    if not here:
        return now
    if now.mode == "pages":
        return _laid(now, publication, here)
    return replace(now, page_id=here, position=positions(publication)[here])


def with_section(
    sight: Sight, publication: Publication, section_id: str, before: tuple[str, ...] = ()
) -> Sight:
    """A section is selected with all its pages, besides those that are selected `before`."""
    own = [p.id for p in find_section(publication, section_id).pages]
    chosen = {*own, *before}
    pages = tuple(p for p in positions(publication) if p in chosen)
    now = with_pages(sight, publication, pages, own[0] if own else "")
    return replace(now, section_id=section_id if len(pages) == len(own) else "")


def with_unlocked(sight: Sight, holder_id: str, item_ids: tuple[str, ...]) -> Sight:
    """Items of the masters may be overridden on this page."""
    return replace(sight, unlocked=sight.unlocked | {(holder_id, i) for i in item_ids})


def with_locked(
    sight: Sight, holders: frozenset[str], item_ids: frozenset[str] | None = None
) -> Sight:
    """They may no longer: these of the holders, or all."""
    still = (
        (holder, item)
        for holder, item in sight.unlocked
        if holder not in holders or (item_ids is not None and item not in item_ids)
    )
    return replace(sight, unlocked=frozenset(still))


# -- what the hand does ------------------------------------------------------------------------


def with_tool(sight: Sight, tool: Tool) -> Sight:
    """Another tool, on the desk: one draws there."""
    return replace(at_rest(sight), pane="desk", tool=tool)


def in_proof(sight: Sight, on: bool) -> Sight:
    """As it prints, where nothing is selected; or as one works."""
    now = at_rest(sight)
    return replace(now, proof=on, items=() if on else sight.items)


def writing(sight: Sight, editing: Editing | None) -> Sight:
    """The text of a frame is edited, or no longer."""
    items = sight.items if editing is None else (editing.item_id,)
    return replace(sight, editing=editing, items=items)


def writing_on(sight: Sight, publication: Publication, editing: Editing) -> Sight:
    """One goes on writing in another frame of the same text, on whichever page it stands."""
    page = editing.holder_id
    now = replace(
        sight, pane="desk", mode="pages", editing=editing, cropping=False, guide=None,
        items=(editing.item_id,), page_id=page, holder_id=page, side=editing.side,
        position=positions(publication)[page],
    )  # fmt: skip
    return _among_pages(now)
