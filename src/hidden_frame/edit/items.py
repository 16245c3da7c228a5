"""Items drawn, changed and removed, on a page or on a master."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from msgspec.structs import replace

from hidden_frame.edit.change import change_holder, new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Face, Item, Placing
from hidden_frame.model.lookup import holder, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication

_WORDS = {
    "TextFrame": "Text", "PictureFrame": "Picture", "Shape": "Shape", "Line": "Line"
}  # fmt: skip


def add_item(publication: Publication, holder_id: str, item: Item) -> tuple[Publication, str]:
    """The publication with the item on top of a page or master, and the item's new id.

    >>> publication, item_id = add_item(publication, "page-4", Shape(id="", x=0, …))
    """
    publication, (item_id,) = new_ids(publication, "item", 1)
    name = item.name or f"{_WORDS[type(item).__name__]} {item_id.rpartition('-')[2]}"
    made = replace(item, id=item_id, name=name)
    new = change_holder(
        publication, holder_id, lambda held: replace(held, items=(*held.items, made))
    )
    return new, item_id


def change_items(
    publication: Publication, holder_id: str, changes: dict[str, dict[str, object]]
) -> Publication:
    """Properties of items that stand on this page or master, by item id and name.

    >>> change_items(publication, "page-4", {"item-9": {"x": 36.0, "rotation": 15.0}})
    """

    def new(held: Page | Master) -> Page | Master:
        items = tuple(_changed(i, changes[i.id]) if i.id in changes else i for i in held.items)
        if all(a is b for a, b in zip(items, held.items, strict=True)):
            return held
        return replace(held, items=items)

    own = {item.id for item in holder(publication, holder_id).items}
    if missing := set(changes) - own:
        raise Refusal(f"The item “{min(missing)}” does not stand on this page itself.")
    return change_holder(publication, holder_id, new)


def _changed(item: Item, properties: dict[str, object]) -> Item:
    """The item with new properties; the same object if they are the old ones."""
    for name, value in properties.items():
        if name in ("width", "height") and isinstance(value, float) and value < 0:
            raise Refusal(f"The {name} of “{item.name}” can't be negative; give 0 or more.")
    if all(getattr(item, name) == value for name, value in properties.items()):
        return item
    return replace(item, **properties)


def remove_items(publication: Publication, holder_id: str, item_ids: Iterable[str]) -> Publication:
    """Local items of a page, or items of a master with the overrides made of them."""
    gone = set(item_ids)

    def without(held: Page | Master) -> Page | Master:
        kept = tuple(i for i in held.items if i.id not in gone)
        return held if len(kept) == len(held.items) else replace(held, items=kept)

    new = change_holder(publication, holder_id, without)
    if holder_id in masters_by_id(publication):
        new = drop_overrides_of(new, gone)
    return new


def drop_overrides_of(publication: Publication, item_ids: set[str]) -> Publication:
    """The publication without any override of these items, on pages and on masters."""

    def kept(held: Page | Master) -> Page | Master:
        overrides = tuple(o for o in held.overrides if o.item not in item_ids)
        if len(overrides) == len(held.overrides):
            return held
        return replace(held, overrides=overrides)

    return _every_holder(publication, kept)


def _every_holder(
    publication: Publication, new: Callable[[Page | Master], Page | Master]
) -> Publication:
    masters = tuple(new(m) for m in publication.masters)
    sections = []
    for section in publication.sections:
        pages = tuple(new(p) for p in section.pages)
        same = all(a is b for a, b in zip(pages, section.pages, strict=True))
        sections.append(section if same else replace(section, pages=pages))
    return replace(publication, masters=masters, sections=tuple(sections))


def duplicate_items(
    publication: Publication, holder_id: str, item_ids: list[str], offset: float = 12.0
) -> tuple[Publication, list[str]]:
    """Copies of items a little to the right and below, and their ids."""
    made: list[str] = []
    for item in holder(publication, holder_id).items:
        if item.id in item_ids:
            copy = replace(item, x=item.x + offset, y=item.y + offset, name=item.name)
            publication, new_id = add_item(publication, holder_id, copy)
            made.append(new_id)
    return publication, made


def reorder_items(
    publication: Publication, holder_id: str, item_ids: list[str], to: str
) -> Publication:
    """Items brought to the `front` or sent to the `back` of their page or master."""

    def new(held: Page | Master) -> Page | Master:
        moved = tuple(i for i in held.items if i.id in item_ids)
        rest = tuple(i for i in held.items if i.id not in item_ids)
        items = (*rest, *moved) if to == "front" else (*moved, *rest)
        return held if items == held.items else replace(held, items=items)

    return change_holder(publication, holder_id, new)


def set_face(
    publication: Publication, master_id: str, item_id: str, face: Face, placing: Placing
) -> Publication:
    """The faces on which a master item stands, and how it takes the other side (R3)."""
    return change_items(publication, master_id, {item_id: {"face": face, "placing": placing}})
