"""What every page of a publication depends on, as one object while none of it changes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from hidden_frame.compose.around import Obstacle, obstacles
from hidden_frame.compose.cascade import Resolved, shown_on
from hidden_frame.compose.palette import Palette, palette
from hidden_frame.model.geometry import Side
from hidden_frame.model.memory import remembered
from hidden_frame.model.paint import Layer
from hidden_frame.model.publication import Picture, Publication, Setup


class Context(NamedTuple):
    """Setup, layers, the palette and the pictures; `hidden`, `locked` and `silent` are layers,
    `order` is each one's place, from the lowest up."""

    setup: Setup
    layers: tuple[Layer, ...]
    known: Palette
    pictures: tuple[Picture, ...]
    hidden: frozenset[str]
    locked: frozenset[str]
    silent: frozenset[str]
    order: Mapping[str, int]


@remembered()
def _context(
    setup: Setup, layers: tuple[Layer, ...], known: Palette, pictures: tuple[Picture, ...]
) -> Context:
    return Context(
        setup,
        layers,
        known,
        pictures,
        frozenset(layer.id for layer in layers if not layer.visible),
        frozenset(layer.id for layer in layers if layer.locked),
        frozenset(layer.id for layer in layers if not layer.printing),
        {layer.id: n for n, layer in enumerate(layers)},
    )


def context_of(publication: Publication) -> Context:
    """The context; the same object while none of its parts changes."""
    return _context(
        publication.setup, publication.layers, palette(publication), publication.pictures
    )


def standing(items: tuple[Resolved, ...], side: Side, context: Context) -> tuple[Obstacle, ...]:
    """What text runs around on a page; nothing on most pages."""
    around = [
        shown_on(r, side, context.setup)
        for r in items
        if r.item.around is not None and r.item.visible and r.item.layer not in context.hidden
    ]
    return obstacles(around, context.pictures) if around else ()
