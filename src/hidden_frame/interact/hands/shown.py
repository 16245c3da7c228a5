"""Changes made to items where they are seen, brought to where they belong.

On a page, a change to a master's item becomes an override; on a derived master,
too.  Places given on a verso are taken back to the master's coordinates.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.compose.cascade import Resolved, face_items, page_items, shown_on, stack_items
from hidden_frame.compose.placing import on_side, to_recto
from hidden_frame.edit.carry.items import Clip, copied, pasted
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.masters.overrides import override
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
from hidden_frame.model.plane.box import Bounds, Box, bounds_of
from hidden_frame.model.publication import Publication


def items_on(publication: Publication, holder_id: str, side: Side) -> tuple[Resolved, ...]:
    """What a page or a master's face shows, bottom to top, in a recto's coordinates."""
    if holder_id in masters_by_id(publication):
        return face_items(publication, holder_id, side)
    page = find_page(publication, holder_id)
    inherited = stack_items(publication, stack_of(publication, page), side)
    return page_items(publication, page, inherited)


def shown_item(publication: Publication, holder_id: str, item_id: str, side: Side) -> Item | None:
    """An item as it is seen on a page or face, in that side's coordinates."""
    for resolved in items_on(publication, holder_id, side):
        if resolved.item.id == item_id:
            return shown_on(resolved, side, publication.setup)
    return None


def change_shown(
    publication: Publication,
    holder_id: str,
    side: Side,
    changes: dict[str, dict[str, object]],
) -> Publication:
    """Properties changed as seen on one side, by item id and name.

    >>> changed = change_shown(publication, page, "recto", {frame: {"x": 36.0}})
    >>> shown_item(changed, page, frame, "recto").x
    36.0
    """
    found = {r.item.id: r for r in items_on(publication, holder_id, side)}
    own: dict[str, dict[str, object]] = {}
    for item_id, properties in changes.items():
        resolved = found.get(item_id)
        if resolved is None:
            continue
        if resolved.carrier is not None:
            properties = to_recto(resolved.item, side, publication.setup.trim.width, properties)
        if resolved.carrier is None or resolved.carrier == holder_id:
            own[item_id] = properties
        elif properties:
            publication = override(publication, holder_id, item_id, **properties)
    return change_items(publication, holder_id, own) if own else publication


def box_of(item: Item) -> Box:
    """An item's box in the coordinates that it stands in."""
    return Box(item.x, item.y, item.width, item.height, item.rotation)


def shown_items(
    publication: Publication, holder_id: str, item_ids: Iterable[str], side: Side
) -> dict[str, Item]:
    """Several items as they are seen on a page or face, in the order asked for."""
    wanted = tuple(item_ids)
    found = {r.item.id: r for r in items_on(publication, holder_id, side)}
    return {i: shown_on(found[i], side, publication.setup) for i in wanted if i in found}


def bounds_on(publication: Publication, holder_id: str, side: Side) -> dict[str, Bounds]:
    """The upright box of every item seen on a page or face, bottom to top."""
    return {
        r.item.id: bounds_of(box_of(shown_on(r, side, publication.setup)))
        for r in items_on(publication, holder_id, side)
    }


def add_shown(
    publication: Publication, holder_id: str, side: Side, item: Item
) -> tuple[Publication, str]:
    """An item added to a page, or to a master as it is to be seen on one face; and its id."""
    if holder_id in masters_by_id(publication):
        item = on_side(item, side, publication.setup.trim.width)
    return add_item(publication, holder_id, item)


def copied_as_shown(
    publication: Publication, holder_id: str, item_ids: Iterable[str], side: Side
) -> Clip:
    """A clip of items as they are seen on a page or face, bottom to top."""
    chosen = set(item_ids)
    shown = [
        shown_on(r, side, publication.setup)
        for r in items_on(publication, holder_id, side)
        if r.item.id in chosen
    ]
    return copied(publication, shown)


def pasted_as_shown(
    publication: Publication,
    holder_id: str,
    side: Side,
    clip: Clip,
    dx: float = 0.0,
    dy: float = 0.0,
) -> tuple[Publication, list[str]]:
    """A clip laid on a page or on one face of a master, as seen there, and the new ids."""
    moved = tuple(replace(i, x=i.x + dx, y=i.y + dy) for i in clip.items)
    if holder_id in masters_by_id(publication):
        width = publication.setup.trim.width
        moved = tuple(on_side(i, side, width) for i in moved)
    return pasted(publication, holder_id, replace(clip, items=moved))
