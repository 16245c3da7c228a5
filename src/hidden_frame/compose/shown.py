"""Changes made to items where they are seen, brought to where they belong.

On a page, a change to a master's item becomes an override; on a derived master,
too.  Places given on a verso are taken back to the master's coordinates.
"""

from __future__ import annotations

from hidden_frame.compose.cascade import Resolved, face_items, page_items, shown_on, stack_items
from hidden_frame.compose.placing import to_recto
from hidden_frame.edit.items import change_items
from hidden_frame.edit.overrides import override
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item
from hidden_frame.model.lookup import find_page, masters_by_id, stack_of
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

    >>> change_shown(publication, "page-4", "verso", {"item-9": {"x": 36.0}})
    """
    found = {r.item.id: r for r in items_on(publication, holder_id, side)}
    for item_id, properties in changes.items():
        resolved = found.get(item_id)
        if resolved is None:
            continue
        if resolved.carrier is not None:
            properties = to_recto(resolved.item, side, publication.setup.trim.width, properties)
        if resolved.carrier is None or resolved.carrier == holder_id:
            publication = change_items(publication, holder_id, {item_id: properties})
        elif properties:
            publication = override(publication, holder_id, item_id, **properties)
    return publication
