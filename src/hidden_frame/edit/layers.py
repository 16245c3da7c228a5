"""Layers changed: shown, hidden, locked, renamed.

>>> publication = change_layer(publication, "above", locked=True)
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication


def change_layer(publication: Publication, layer_id: str, **changes: object) -> Publication:
    """A layer with some of its properties changed; refuses an empty or taken name."""
    if "name" in changes:
        name = " ".join(str(changes["name"]).split())
        others = {x.name for x in publication.layers if x.id != layer_id}
        if not name or name in others:
            raise Refusal(f"A layer can't be named “{name}”; choose a name that is not in use.")
        changes["name"] = name
    layers = tuple(replace(x, **changes) if x.id == layer_id else x for x in publication.layers)
    return publication if layers == publication.layers else replace(publication, layers=layers)
