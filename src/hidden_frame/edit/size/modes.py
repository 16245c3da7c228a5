"""The three things that can become of what stands on pages and masters, through a publication."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple, TypeVar

from msgspec.structs import replace

from hidden_frame.edit.size import scale
from hidden_frame.edit.size.axis import Axis
from hidden_frame.edit.size.follow import followed, override_followed
from hidden_frame.edit.size.layout import axes
from hidden_frame.edit.size.type import anchors_scaled, type_scaled
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Item, Override, Shape, changed_properties
from hidden_frame.model.layouts import PageLayout, master_layout, page_layout
from hidden_frame.model.lookup import base_chain, master_item, positions, stack_of
from hidden_frame.model.publication import Master, Page, Publication, Setup
from hidden_frame.model.sides import side_of

H = TypeVar("H", Master, Page)


class SizeBegun(NamedTuple):
    """A publication whose layouts and masters are done, and what is to be done with each page."""

    made: Publication
    page: Callable[[Page], Page]


class _Way:
    """How the holders of a publication are changed; each by its layout and side."""

    def __init__(self, before: Publication, after: Publication) -> None:
        self.before, self.after = before, after
        self.places = positions(before)
        self._axes: dict[tuple[object, ...], tuple[Axis, Axis]] = {}

    def axes(self, old: PageLayout, new: PageLayout, side: Side) -> tuple[Axis, Axis]:
        key = (old, new, side)
        if key not in self._axes:
            self._axes[key] = axes(self.before.setup, old, self.after.setup, new, side)
        return self._axes[key]

    def side(self, page: Page) -> Side:
        return side_of(self.places[page.id], self.before.setup)


def _shown(publication: Publication, stack: tuple[str, ...], item_id: str) -> Item | None:
    """A master's item as a stack of masters shows it, with what derived ones change of it."""
    found = master_item(publication, item_id)
    if found is None:
        return None
    item = found[1]
    for master_id in stack:
        for master in base_chain(publication, master_id):
            for override in master.overrides:
                if override.item == item_id:
                    item = replace(item, **changed_properties(override))
    return item


def _nothing(override: Override) -> Item:
    """What stands in for an item that is gone, of which an override is kept (R11)."""
    return Shape(id=override.item, x=0.0, y=0.0, width=0.0, height=0.0)


def _layout(publication: Publication, holder: Master | Page) -> PageLayout:
    if isinstance(holder, Master):
        return master_layout(publication, holder.id)
    return page_layout(publication, holder)


Changed = Callable[[Override, Item, Item, Master | Page], Override]


def _overridden(
    holder: H, stack: tuple[str, ...], before: Publication, after: Publication, new: Changed
) -> H:
    """A page or master with its overrides changed: `new` takes each, its item as the masters of the
    `stack` showed it and as they show it in the new size, and who it belongs to."""
    made = []
    for override in holder.overrides:
        was = _shown(before, stack, override.item) or _nothing(override)
        made.append(new(override, was, _shown(after, stack, override.item) or was, holder))
    return replace(holder, overrides=tuple(made)) if made else holder


def _masters_overridden(before: Publication, after: Publication, new: Changed) -> Publication:
    """The same for all masters, bases before what builds on them, as what they change shows on
    it."""
    for master in sorted(after.masters, key=lambda m: len(base_chain(after, m.id))):
        if master.overrides:
            bases = base_chain(before, master.id)[:-1]
            other = _overridden(master, (bases[-1].id,) if bases else (), before, after, new)
            masters = tuple(other if m is master else m for m in after.masters)
            after = replace(after, masters=masters)
    return after


# -- follow ------------------------------------------------------------------------------


def items_followed(publication: Publication, laid: Publication) -> SizeBegun:
    """Things keep to the edges, margins, columns and guides, which are where they will be."""
    way = _Way(publication, laid)

    def own(new: Master) -> Master:
        if not new.items:
            return new
        old, after = master_layout(publication, new.id), master_layout(laid, new.id)
        both, verso = way.axes(old, after, "recto"), way.axes(old, after, "verso")
        return replace(new, items=followed(new.items, both, verso))

    laid = replace(laid, masters=tuple(own(m) for m in laid.masters))

    def changed(override: Override, was: Item, then: Item, holder: Master | Page) -> Override:
        old, after = _layout(publication, holder), _layout(laid, holder)
        return override_followed(override, was, then, way.axes(old, after, "recto"))

    laid = _masters_overridden(publication, laid, changed)

    def page(new: Page) -> Page:
        old, after = page_layout(publication, new), page_layout(laid, new)
        if new.items:
            new = replace(new, items=followed(new.items, way.axes(old, after, way.side(new))))
        return _overridden(new, stack_of(publication, new), publication, laid, changed)

    return SizeBegun(laid, page)


# -- scale -------------------------------------------------------------------------------


def items_scaled(
    publication: Publication,
    setup: Setup,
    factor: float,
    type_too: bool,
) -> SizeBegun:
    """All is scaled by one factor."""
    old = publication.setup
    by = scale.Scaling.of(old, setup, factor)
    setup = replace(
        setup,
        margins=scale.margins_scaled(setup.margins, by),
        columns=scale.columns_scaled(setup.columns, by),
        grid=setup.grid and scale.grid_scaled(setup.grid, by, type_too),
    )

    def layout(new: Master) -> Master:
        return replace(
            new,
            margins=new.margins and scale.margins_scaled(new.margins, by),
            columns=new.columns and scale.columns_scaled(new.columns, by),
            grid=new.grid and scale.grid_scaled(new.grid, by, type_too),
            guides=new.guides and tuple(scale.guide_scaled(g, by) for g in new.guides),
            items=tuple(scale.item_scaled(i, by, _own_side(i), type_too) for i in new.items),
        )

    made = replace(publication, setup=setup, masters=tuple(layout(m) for m in publication.masters))

    def changed(override: Override, was: Item, then: Item, _: Master | Page) -> Override:
        return scale.override_scaled(override, was, then, by, type_too)

    made = _masters_overridden(publication, made, changed)
    places = positions(publication)

    def page(new: Page) -> Page:
        side = side_of(places[new.id], old)
        items = tuple(scale.item_scaled(i, by, side, type_too) for i in new.items)
        new = replace(new, items=items)
        return _overridden(new, stack_of(publication, new), publication, made, changed)

    made = replace(
        made,
        sections=tuple(
            replace(s, pages=tuple(
                replace(p, guides=tuple(scale.guide_scaled(g, by) for g in p.guides))
                if p.guides else p for p in s.pages
            ))
            for s in made.sections
        ),
    )  # fmt: skip
    made = anchors_scaled(made, factor)
    return SizeBegun(type_scaled(made, factor) if type_too else made, page)


def _own_side(item: Item) -> Side:
    return "verso" if item.face == "verso" and item.placing == "repeated" else "recto"


# -- stay --------------------------------------------------------------------------------


def items_stayed(publication: Publication, setup: Setup) -> SizeBegun:
    """Distances to the spine and the head are kept: what stands on a verso goes with its spine."""
    wider = setup.trim.width - publication.setup.trim.width
    made = replace(publication, setup=setup)
    if not wider:
        return SizeBegun(made, lambda same: same)
    places = positions(publication)

    def moved(items: tuple[Item, ...]) -> tuple[Item, ...]:
        return tuple(replace(i, x=i.x + wider) for i in items)

    def page(new: Page) -> Page:
        on_verso = side_of(places[new.id], setup) == "verso"
        return replace(new, items=moved(new.items)) if on_verso and new.items else new

    masters = tuple(
        replace(m, items=tuple(
            moved((i,))[0] if _own_side(i) == "verso" else i for i in m.items
        ))
        for m in publication.masters
    )  # fmt: skip
    return SizeBegun(replace(made, masters=masters), page)
