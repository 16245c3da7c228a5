"""What lies on the desk: the pages of a spread or the faces of a master, and what of them may be
changed."""

from __future__ import annotations

from collections.abc import Collection
from typing import NamedTuple

from hidden_frame.compose.facts import page_facts
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import all_pages, holder
from hidden_frame.model.publication import Publication


class Face(NamedTuple):
    """A page, or a face of a master, as it lies on the desk; x of its trim in points."""

    holder_id: str
    side: Side
    x: float


def faces_of_master(publication: Publication, master_id: str) -> tuple[Face, ...]:
    """A master's faces from left to right; one where pages do not face each other."""
    setup = publication.setup
    if not setup.facing:
        return (Face(master_id, "recto", 0.0),)
    return (Face(master_id, "verso", 0.0), Face(master_id, "recto", setup.trim.width))


def faces_of_spread(publication: Publication, page_id: str) -> tuple[Face, ...]:
    """The pages of a page's spread from left to right; a facing recto stands at trim width.
    None where there is no such page."""
    setup, facts = publication.setup, page_facts(publication)
    here = facts.get(page_id)
    if here is None:
        return ()
    width, at = setup.trim.width, here.position
    near = all_pages(publication)[max(at - 2, 0) : at + 1]
    faces = [
        Face(p.id, facts[p.id].side, width if setup.facing and facts[p.id].side == "recto" else 0.0)
        for p in near
        if facts[p.id].spread == here.spread
    ]
    return tuple(sorted(faces, key=lambda face: face.x))


def with_groups(
    publication: Publication, holder_id: str, items: tuple[str, ...]
) -> tuple[str, ...]:
    """The items, and with each one the rest of its group."""
    items_there = holder(publication, holder_id).items
    groups = {i.group for i in items_there if i.group and i.id in items}
    more = (i.id for i in items_there if i.group in groups and i.id not in items)
    return (*items, *more) if groups else items


def may_change_all(
    publication: Publication,
    holder_id: str,
    side: Side,
    item_ids: Collection[str],
    unlocked: Collection[tuple[str, str]],
) -> bool:
    """Whether items are their holder's own, or depart from their masters there already, or are
    among those `unlocked` (holder and item)."""
    wanted, found = set(item_ids), 0
    for resolved in items_on(publication, holder_id, side):
        if resolved.item.id in wanted:
            own = resolved.carrier in (None, holder_id)
            if not (own or resolved.overridden or (holder_id, resolved.item.id) in unlocked):
                return False
            found += 1
    return found == len(wanted)
