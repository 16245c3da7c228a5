"""What of a sight is still there after an edit or an undo."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.items.guides import own_guides
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.interact.sight.value import Sight, faces_on_desk, side_of
from hidden_frame.model.lookup import all_pages, find_section, masters_by_id, positions
from hidden_frame.model.publication import Publication


def kept(sight: Sight, publication: Publication) -> Sight:
    """The same with what the publication has; where a page went, the one at its position is
    looked at.  What was written in and is gone is `lost`."""
    now = _holder_kept(_masters_kept(_pages_kept(sight, publication), publication), publication)
    now = _items_kept(now, publication)
    if now.editing is None and sight.editing is not None:
        now = replace(now, lost=sight.editing)
    return now


def _pages_kept(sight: Sight, publication: Publication) -> Sight:
    order = positions(publication)
    pages, page, section = tuple(p for p in sight.pages if p in order), sight.page_id, ""
    if page not in order:
        there = all_pages(publication)
        page = there[min(sight.position, len(there)) - 1].id
    if any(s.id == sight.section_id for s in publication.sections):
        section = sight.section_id
        pages = tuple(p.id for p in find_section(publication, section).pages)
    if pages and page not in pages:
        page = pages[0]
    return replace(sight, pages=pages, page_id=page, position=order[page], section_id=section)


def _masters_kept(sight: Sight, publication: Publication) -> Sight:
    master, mode = sight.master_id, sight.mode
    if master not in masters_by_id(publication):
        master = publication.masters[0].id if publication.masters else ""
    if not master:
        mode = "pages"
    return replace(sight, master_id=master, mode=mode)


def _holder_kept(sight: Sight, publication: Publication) -> Sight:
    if sight.holder_id not in {face.holder_id for face in faces_on_desk(sight, publication)}:
        current = sight.master_id if sight.mode == "masters" else sight.page_id
        sight = replace(sight, holder_id=current, items=(), editing=None)
    return replace(sight, side=side_of(sight, publication, sight.holder_id))


def _items_kept(sight: Sight, publication: Publication) -> Sight:
    there = {r.item.id for r in items_on(publication, sight.holder_id, sight.side)}
    items = tuple(i for i in sight.items if i in there)
    editing, guide = sight.editing, sight.guide
    if editing is not None and editing.item_id not in there:
        editing = None
    if guide is not None:
        known = guide.holder_id in masters_by_id(publication)
        known = known or guide.holder_id in positions(publication)
        if not known or guide.number >= len(own_guides(publication, guide.holder_id)):
            guide = None
    cropping = sight.cropping and len(items) == 1
    return replace(sight, items=items, cropping=cropping, editing=editing, guide=guide)
