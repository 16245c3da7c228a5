"""Overrides made and taken back (R10–R13)."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import UNSET
from msgspec.structs import replace

from hidden_frame.edit.change import change_holder, change_pages
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, Override, changed_properties, overridable
from hidden_frame.model.lookup import master_item
from hidden_frame.model.publication import Master, Page, Publication


def override(
    publication: Publication, holder_id: str, item_id: str, **properties: object
) -> Publication:
    """Single properties of a master item changed on one page or derived master.

    >>> from hidden_frame.model.paint import Fill
    >>> publication = override(publication, page, item, fill=Fill("ochre"))
    >>> publication.sections[1].pages[0].overrides[0].fill.colour
    'ochre'

    Values stand in the master's coordinates (those of a recto page), so an
    overridden item still changes sides with its page.
    """
    found = master_item(publication, item_id)
    if found is None or found[0].id == holder_id:
        raise Refusal("Only an item that comes from a master can be overridden.")
    item = found[1]
    for name in properties:
        if name not in overridable(type(item)):
            raise Refusal(f"“{item.name}” has no {name} to override.")

    def new(owner: Page | Master) -> Page | Master:
        before = next((o for o in owner.overrides if o.item == item_id), Override(item=item_id))
        after = replace(before, **properties)
        return owner if after == before else _with_override(owner, after)

    return change_holder(publication, holder_id, new)


def _with_override(owner: Page | Master, new: Override) -> Page | Master:
    """The holder with this override in place of the item's former one, if any."""
    kept = [new if o.item == new.item else o for o in owner.overrides]
    if all(o.item != new.item for o in owner.overrides):
        kept.append(new)
    return replace(owner, overrides=tuple(o for o in kept if changed_properties(o)))


def follow(publication: Publication, holder_id: str, item_id: str, *names: str) -> Publication:
    """Overridden properties that follow the master again; without names, all of them.

    >>> publication = override(publication, page, item, x=30.0)
    >>> follow(publication, page, item, "x").sections[1].pages[0].overrides
    ()
    """

    def new(owner: Page | Master) -> Page | Master:
        before = next((o for o in owner.overrides if o.item == item_id), None)
        if before is None:
            return owner
        taken = names or tuple(changed_properties(before))
        after = replace(before, **dict.fromkeys(taken, UNSET))
        return owner if after == before else _with_override(owner, after)

    return change_holder(publication, holder_id, new)


def follow_items(publication: Publication, holder_id: str, item_ids: Iterable[str]) -> Publication:
    """Several items of a page or derived master follow their masters again in everything."""
    gone = set(item_ids)

    def new(owner: Page | Master) -> Page | Master:
        kept = tuple(o for o in owner.overrides if o.item not in gone)
        return owner if len(kept) == len(owner.overrides) else replace(owner, overrides=kept)

    return change_holder(publication, holder_id, new)


def follow_on_pages(publication: Publication, page_ids: Iterable[str]) -> Publication:
    """Every overridden item of these pages follows its master again."""
    return change_pages(
        publication, set(page_ids), lambda p: replace(p, overrides=()) if p.overrides else p
    )


def follow_all(publication: Publication, holder_id: str) -> Publication:
    """Every overridden item of a page or derived master follows its master again."""
    return change_holder(
        publication, holder_id, lambda h: replace(h, overrides=()) if h.overrides else h
    )


def hide_here(publication: Publication, holder_id: str, item_id: str) -> Publication:
    """A master item hidden on one page."""
    return override(publication, holder_id, item_id, visible=False)


def make_local(
    publication: Publication, page_id: str, item_id: str, shown: Item
) -> tuple[Publication, str]:
    """A local item in place of a master item, which is hidden on this page (R13).

    `shown` is the item as it is shown on the page, in the page's coordinates.
    """
    local = replace(shown, face="both", placing="repeated", visible=True)
    publication, new_id = add_item(publication, page_id, local)
    return hide_here(publication, page_id, item_id), new_id
