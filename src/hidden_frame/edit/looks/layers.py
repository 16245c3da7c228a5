"""Layers made, ordered, changed and removed; they span masters and pages.

>>> publication, layer_id = add_layer(publication, "Adverts")
>>> publication = change_layer(publication, layer_id, printing=False)
>>> publication.layers[-1].printing
False
"""

from __future__ import annotations

from msgspec import UNSET
from msgspec.structs import replace

from hidden_frame.edit.change import change_every_holder, new_ids
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import holders
from hidden_frame.model.paint import Layer
from hidden_frame.model.publication import Master, Page, Publication


def add_layer(
    publication: Publication, name: str = "Layer", above: str | None = None
) -> tuple[Publication, str]:
    """A new layer right above another, or above all, and its id."""
    publication, (layer_id,) = new_ids(publication, "layer", 1)
    clean = " ".join(name.split()) or "Layer"
    layer = Layer(id=layer_id, name=free_name(clean, (x.name for x in publication.layers)))
    layers = list(publication.layers)
    at = next((n + 1 for n, x in enumerate(layers) if x.id == above), len(layers))
    layers.insert(at, layer)
    return replace(publication, layers=tuple(layers)), layer_id


def change_layer(publication: Publication, layer_id: str, **changes: object) -> Publication:
    """A layer with some of its properties changed; refuses an empty or taken name."""
    _find(publication, layer_id)
    if "name" in changes:
        name = " ".join(str(changes["name"]).split())
        others = {x.name for x in publication.layers if x.id != layer_id}
        if not name or name in others:
            raise Refusal(
                f"A layer can't be named “{name}”; choose a name that is not in use.", field="name"
            )
        changes["name"] = name
    layers = tuple(replace(x, **changes) if x.id == layer_id else x for x in publication.layers)
    return publication if layers == publication.layers else replace(publication, layers=layers)


def _find(publication: Publication, layer_id: str) -> int:
    for number, layer in enumerate(publication.layers):
        if layer.id == layer_id:
            return number
    raise Refusal("This layer is not there any more.")


def move_layer(publication: Publication, layer_id: str, to: int) -> Publication:
    """A layer put at a place among the layers, counted from the lowest, 0."""
    at = _find(publication, layer_id)
    layers = list(publication.layers)
    layer = layers.pop(at)
    layers.insert(max(0, min(to, len(layers))), layer)
    return publication if layers[at] is layer else replace(publication, layers=tuple(layers))


def items_in(publication: Publication, layer_id: str) -> int:
    """How many items of pages and masters are in a layer."""
    return sum(item.layer == layer_id for owner in holders(publication) for item in owner.items)


def delete_layer(publication: Publication, layer_id: str) -> Publication:
    """The publication without a layer; its items go to the one below, or else the one above."""
    at = _find(publication, layer_id)
    if len(publication.layers) == 1:
        raise Refusal("A publication keeps at least one layer.")
    heir = publication.layers[at - 1 if at else 1].id

    def new(owner: Page | Master) -> Page | Master:
        items = tuple(replace(i, layer=heir) if i.layer == layer_id else i for i in owner.items)
        overrides = tuple(
            replace(o, layer=heir) if o.layer is not UNSET and o.layer == layer_id else o
            for o in owner.overrides
        )
        if items == owner.items and overrides == owner.overrides:
            return owner
        return replace(owner, items=items, overrides=overrides)

    publication = change_every_holder(publication, new)
    layers = tuple(x for x in publication.layers if x.id != layer_id)
    return replace(publication, layers=layers)
