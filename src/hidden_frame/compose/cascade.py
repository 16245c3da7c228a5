"""Which items a page shows, and with which properties (R5, R6, R10–R12).

base → derived → page, property by property: the last to set one wins.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.placing import on_side, stands_on
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, Override, changed_properties
from hidden_frame.model.lookup import base_chain
from hidden_frame.model.memory import remembered
from hidden_frame.model.paint import Layer
from hidden_frame.model.publication import Master, Page, Publication, Setup


class Resolved(NamedTuple):
    """An item as a page or master shows it, still in a recto page's coordinates.

    `carrier` is the master it stands on (None for a local item); `overridden` names
    the properties changed on the very page or master that shows it.
    """

    item: Item
    carrier: str | None
    overridden: tuple[str, ...] = ()


@remembered()
def overridden_item(item: Item, override: Override) -> Item:
    """The item with the override's properties; the same object for the same pair."""
    return replace(item, **changed_properties(override))


def _apply(items: tuple[Resolved, ...], overrides: tuple[Override, ...]) -> tuple[Resolved, ...]:
    by_item = {override.item: override for override in overrides}
    if not by_item:
        return items
    result = []
    for resolved in items:
        override = by_item.get(resolved.item.id)
        if override is not None:
            names = tuple(changed_properties(override))
            resolved = Resolved(overridden_item(resolved.item, override), resolved.carrier, names)
        result.append(resolved)
    return tuple(result)


@remembered()
def _family_items(*chain: Master) -> tuple[Resolved, ...]:
    """The items of a master and its bases, the most distant first (R12)."""
    if not chain:
        return ()
    *bases, master = chain
    inherited = _family_items(*bases) if bases else ()
    inherited = tuple(r._replace(overridden=()) if r.overridden else r for r in inherited)
    own = tuple(Resolved(item, master.id) for item in master.items)
    return _apply(inherited, master.overrides) + own


def master_items(publication: Publication, master_id: str) -> tuple[Resolved, ...]:
    """Everything that stands on a master, its bases' items included."""
    return _family_items(*base_chain(publication, master_id))


@remembered()
def _stack_items(side: Side, family: tuple[Resolved, ...]) -> tuple[Resolved, ...]:
    """What a stack shows on one side."""
    return tuple(
        resolved._replace(overridden=()) if resolved.overridden else resolved
        for resolved in family
        if stands_on(resolved.item, side)
    )


@remembered()
def _layered(items: tuple[Resolved, ...], layers: tuple[Layer, ...]) -> tuple[Resolved, ...]:
    return tuple(_in_layers(items, layers))


def _in_layers(items: Iterable[Resolved], layers: tuple[Layer, ...]) -> list[Resolved]:
    """Stable order by layer, so that within a layer masters stay below local items (R5)."""
    rank = {layer.id: n for n, layer in enumerate(layers)}
    return sorted(items, key=lambda resolved: rank.get(resolved.item.layer, 0))


@remembered()
def _face_items(
    side: Side, layers: tuple[Layer, ...], family: tuple[Resolved, ...]
) -> tuple[Resolved, ...]:
    return tuple(_in_layers([r for r in family if stands_on(r.item, side)], layers))


def face_items(publication: Publication, master_id: str, side: Side) -> tuple[Resolved, ...]:
    """What one face of a master shows, bottom to top, its bases' items included."""
    return _face_items(side, publication.layers, master_items(publication, master_id))


def stack_items(
    publication: Publication, stack: tuple[str, ...], side: Side
) -> tuple[Resolved, ...]:
    """What a master stack carries for a side; the same object while its masters do not change.

    A base that several masters of the stack build on counts once, so that its items are
    not drawn twice; what each of those masters changes of them is applied in turn.  Not
    yet in the order of layers, which a page's overrides may change.
    """
    if len(stack) == 1:
        return _stack_items(side, master_items(publication, stack[0]))
    line: dict[str, Master] = {}
    for master_id in stack:
        for master in base_chain(publication, master_id):
            line.setdefault(master.id, master)
    return _stack_items(side, _family_items(*line.values()))


def page_items(
    publication: Publication, page: Page, inherited: tuple[Resolved, ...]
) -> tuple[Resolved, ...]:
    """What a page shows, bottom to top: its masters' items (`inherited`, as `stack_items`
    gives them), overridden, and its own."""
    if not page.overrides and not page.items:
        return _layered(inherited, publication.layers)
    return _page_items(page, inherited, publication.layers)


@remembered()
def _page_items(
    page: Page, inherited: tuple[Resolved, ...], layers: tuple[Layer, ...]
) -> tuple[Resolved, ...]:
    items = [*_apply(inherited, page.overrides), *(Resolved(item, None) for item in page.items)]
    return tuple(_in_layers(items, layers))


def shown_on(resolved: Resolved, side: Side, setup: Setup) -> Item:
    """The item in the coordinates of a page of this side."""
    if resolved.carrier is None:
        return resolved.item
    return on_side(resolved.item, side, setup.trim.width)
