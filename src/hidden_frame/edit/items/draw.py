"""Items drawn, changed and removed, on a page or on a master."""

from __future__ import annotations

import re
from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.edit.change import change_every_holder, change_holder, new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import KINDS, Item, TextFrame
from hidden_frame.model.lookup import holder, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication

MAX_COPIES = 1000
_NUMBERED = re.compile(r"^(.*\D) \d+$", re.DOTALL)


def add_item(publication: Publication, holder_id: str, item: Item) -> tuple[Publication, str]:
    """The publication with the item on top of a page or master, and the item's new id.

    >>> from hidden_frame.model.items import Shape
    >>> box = Shape(id="", x=0, y=0, width=20, height=20)
    >>> publication, item_id = add_item(publication, page, box)
    >>> publication.sections[1].pages[0].items[-1].id == item_id
    True
    """
    publication, (item_id,) = new_ids(publication, "item", 1)
    name = item.name or f"{KINDS[type(item)].word} {item_id.rpartition('-')[2]}"
    made = replace(item, id=item_id, name=name)
    new = change_holder(
        publication, holder_id, lambda owner: replace(owner, items=(*owner.items, made))
    )
    return new, item_id


def copy_name(name: str, items: Iterable[Item]) -> str:
    """The name of a copy among these items: a number behind it that is not in use yet.

    >>> from hidden_frame.model.items import Shape
    >>> copy_name("Sky", [Shape(id="", x=0, y=0, width=9, height=9, name="Sky")])
    'Sky 2'
    """
    names = {item.name for item in items}
    if not name or name not in names:
        return name
    numbered = _NUMBERED.match(name)
    stem = numbered[1] if numbered is not None else name
    return next(f"{stem} {n}" for n in range(2, len(names) + 3) if f"{stem} {n}" not in names)


def change_items(
    publication: Publication, holder_id: str, changes: dict[str, dict[str, object]]
) -> Publication:
    """Properties of items that stand on this page or master, by item id and name.

    >>> changed = change_items(publication, page, {frame: {"x": 36.0, "rotation": 15.0}})
    >>> changed.sections[1].pages[0].items[0].x
    36.0
    """

    def new(owner: Page | Master) -> Page | Master:
        items = tuple(_changed(i, changes[i.id]) if i.id in changes else i for i in owner.items)
        if all(a is b for a, b in zip(items, owner.items, strict=True)):
            return owner
        return replace(owner, items=items)

    own = {item.id for item in holder(publication, holder_id).items}
    if missing := set(changes) - own:
        raise Refusal(f"The item “{min(missing)}” does not stand on this page itself.")
    return change_holder(publication, holder_id, new)


def _changed(item: Item, properties: dict[str, object]) -> Item:
    """The item with new properties; the same object if they are the old ones."""
    for name, value in properties.items():
        if name in ("width", "height") and isinstance(value, float) and value < 0:
            raise Refusal(
                f"The {name} of “{item.name}” can't be negative; give 0 or more.", field=name
            )
    if all(getattr(item, name) == value for name, value in properties.items()):
        return item
    return replace(item, **properties)


def remove_items(publication: Publication, holder_id: str, item_ids: Iterable[str]) -> Publication:
    """Local items of a page, or items of a master with the overrides made of them."""
    gone = set(item_ids)

    def without(owner: Page | Master) -> Page | Master:
        kept = tuple(i for i in owner.items if i.id not in gone)
        return owner if len(kept) == len(owner.items) else replace(owner, items=kept)

    new = change_holder(publication, holder_id, without)
    if holder_id in masters_by_id(publication):
        new = drop_overrides_of(new, gone)
    return new


def drop_overrides_of(publication: Publication, item_ids: set[str]) -> Publication:
    """The publication without any override of these items, on pages and on masters."""

    def kept(owner: Page | Master) -> Page | Master:
        overrides = tuple(o for o in owner.overrides if o.item not in item_ids)
        if len(overrides) == len(owner.overrides):
            return owner
        return replace(owner, overrides=overrides)

    return change_every_holder(publication, kept)


def copy_on(publication: Publication, holder_id: str, item: Item) -> Item:
    """An item as it is copied to a page, where a copy is no main frame; as it is, to a master."""
    if isinstance(item, TextFrame) and item.main and holder_id not in masters_by_id(publication):
        return replace(item, main=0)
    return item


def duplicate_items(
    publication: Publication, holder_id: str, item_ids: list[str], offset: float = 12.0
) -> tuple[Publication, list[str]]:
    """Copies of items a little to the right and below, and their ids."""
    return repeat_items(publication, holder_id, item_ids, 1, offset, offset)


def repeat_items(
    publication: Publication, holder_id: str, item_ids: list[str], count: int, dx: float, dy: float
) -> tuple[Publication, list[str]]:
    """Step and repeat: `count` copies of items, each (dx, dy) from the one before.

    >>> publication, made = repeat_items(publication, page, [frame], 5, 0.0, 24.0)
    >>> [i.y for i in publication.sections[1].pages[0].items]
    [60.0, 84.0, 108.0, 132.0, 156.0, 180.0]

    Copies of grouped items are groups of their own.
    """
    if not 1 <= count <= MAX_COPIES:
        raise Refusal(
            f"{count} copies can't be made; give a number from 1 to {MAX_COPIES}.", field="count"
        )
    chosen = [i for i in holder(publication, holder_id).items if i.id in set(item_ids)]
    made: list[str] = []
    for step in range(1, count + 1):
        groups: dict[str, str] = {}
        for item in chosen:
            if item.group is not None and item.group not in groups:
                publication, (groups[item.group],) = new_ids(publication, "group", 1)
            copy = replace(
                copy_on(publication, holder_id, item),
                x=item.x + step * dx,
                y=item.y + step * dy,
                group=groups.get(item.group or ""),
                name=copy_name(item.name, holder(publication, holder_id).items),
            )
            publication, new_id = add_item(publication, holder_id, copy)
            made.append(new_id)
    return publication, made


def reorder_items(
    publication: Publication, holder_id: str, item_ids: list[str], to: str
) -> Publication:
    """Items brought to the `front` or `back` of their layer, or one step `forward` or
    `backward` in it; other layers' items keep their places."""

    def new(owner: Page | Master) -> Page | Master:
        items = list(owner.items)
        for layer in {i.layer for i in items}:
            places = [n for n, i in enumerate(items) if i.layer == layer]
            order = _reordered([items[n] for n in places], set(item_ids), to)
            for place, item in zip(places, order, strict=True):
                items[place] = item
        same = all(a is b for a, b in zip(items, owner.items, strict=True))
        return owner if same else replace(owner, items=tuple(items))

    return change_holder(publication, holder_id, new)


def _reordered(items: list[Item], chosen: set[str], to: str) -> list[Item]:
    moved = [i for i in items if i.id in chosen]
    rest = [i for i in items if i.id not in chosen]
    if to == "front":
        return rest + moved
    if to == "back":
        return moved + rest
    order = list(items) if to == "backward" else list(reversed(items))
    for n in range(1, len(order)):
        if order[n].id in chosen and order[n - 1].id not in chosen:
            order[n - 1], order[n] = order[n], order[n - 1]
    return order if to == "backward" else order[::-1]


def move_in_stack(
    publication: Publication, holder_id: str, item_id: str, above: str | None, layer: str
) -> Publication:
    """One item put into a layer, right above another of its page or at the layer's bottom."""

    def new(owner: Page | Master) -> Page | Master:
        moved = next((i for i in owner.items if i.id == item_id), None)
        if moved is None:
            raise Refusal("This item does not stand on this page itself.")
        rest = [i for i in owner.items if i.id != item_id]
        at = next((n + 1 for n, i in enumerate(rest) if i.id == above), 0)
        items = (*rest[:at], moved if moved.layer == layer else replace(moved, layer=layer),
                 *rest[at:])  # fmt: skip
        same = all(a is b for a, b in zip(items, owner.items, strict=True))
        return owner if same else replace(owner, items=items)

    return change_holder(publication, holder_id, new)


def group_items(publication: Publication, holder_id: str, item_ids: list[str]) -> Publication:
    """Items that are picked and moved together from then on."""
    publication, (group,) = new_ids(publication, "group", 1)
    return change_items(publication, holder_id, {i: {"group": group} for i in item_ids})


def ungroup_items(publication: Publication, holder_id: str, item_ids: list[str]) -> Publication:
    """The groups of these items dissolved; the items stay."""
    items = holder(publication, holder_id).items
    groups = {i.group for i in items if i.id in item_ids and i.group}
    return change_items(
        publication, holder_id, {i.id: {"group": None} for i in items if i.group in groups}
    )


def rehome_items(
    publication: Publication, holder_id: str, to_id: str, item_ids: Iterable[str], dx: float
) -> Publication:
    """Items of one page that go to another, moved by dx so that they stay where they are seen.

    They come to lie on top of the other page's own items, in their order.
    """
    wanted = set(item_ids)
    moved = [i for i in holder(publication, holder_id).items if i.id in wanted]
    if holder_id == to_id or not moved:
        return publication
    taken = change_holder(
        publication,
        holder_id,
        lambda owner: replace(owner, items=tuple(i for i in owner.items if i.id not in wanted)),
    )
    placed = tuple(replace(i, x=i.x + dx) for i in moved)
    return change_holder(taken, to_id, lambda owner: replace(owner, items=(*owner.items, *placed)))
