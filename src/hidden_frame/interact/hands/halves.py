"""Items that reach over the spine, and the two halves that are left where their pages part."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.across import aside, partner_of, past_spine
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.kinds import appearance
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.pages.ties import tie
from hidden_frame.interact.hands.cropping import crop_of
from hidden_frame.interact.hands.shown import box_of
from hidden_frame.model.geometry import SIDES, Side
from hidden_frame.model.items import Item, PictureFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import bounds_of
from hidden_frame.model.publication import Page, Publication, Setup


class Across(NamedTuple):
    """Items of a page's own that reach over onto the page that faces it."""

    page: str
    partner: str
    items: tuple[str, ...]


def reaching(publication: Publication) -> list[Across]:
    """Every page whose own items reach over the spine, with its partner."""
    if not publication.setup.facing:
        return []
    facts, found = page_facts(publication), []
    for page in all_pages(publication):
        items = _over(page, facts[page.id].side, publication.setup) if page.items else ()
        partner = partner_of(publication, facts, page.id) if items else ""
        if partner:
            found.append(Across(page.id, partner, items))
    return found


@remembered()
def _over(page: Page, side: Side, setup: Setup) -> tuple[str, ...]:
    return tuple(i.id for i in page.items if past_spine(bounds_of(box_of(i)), side, setup))


def in_halves(publication: Publication, across: Iterable[Across]) -> Publication:
    """Each item cut at the spine, with its bleed, and its other half put on the page that faces
    its own, where it is seen now.  What is turned, and text, is left as it is."""
    for each in across:
        for item in find_page(publication, each.page).items:
            side = _side(item, publication.setup)
            if item.id in each.items and may_be_halved(item) and side is not None:
                here, there = _halves(publication, item, side)
                publication = change_items(publication, each.page, {item.id: here})
                publication, _ = add_item(publication, each.partner, there)
    return publication


def _side(item: Item, setup: Setup) -> Side | None:
    """The side of a page on which an item would reach over the spine: where the pages are parted,
    its page may be on the other one now."""
    at = bounds_of(box_of(item))
    return next((s for s in SIDES if past_spine(at, s, setup)), None)


def tied_where_cut(publication: Publication, across: Iterable[Across]) -> Publication:
    """The pages that are parted tied, unless they are tied already, so that checks go on telling
    it, with the other half as a way out (`parted_halves`)."""
    there = {p.id: p.tie for p in all_pages(publication)}
    for each in across:
        if each.partner in there and there[each.page] is there[each.partner] is None:
            publication = tie(publication, each.page, each.partner)
    return publication


def parted_halves(publication: Publication, first: str, second: str) -> list[Across]:
    """What of two tied pages that don't face each other would reach from one onto the other."""
    setup, found = publication.setup, []
    for page, partner in ((first, second), (second, first)):
        items = tuple(
            i.id for i in find_page(publication, page).items
            if may_be_halved(i) and _side(i, setup) is not None
        )  # fmt: skip
        if items:
            found.append(Across(page, partner, items))
    return found


def may_be_halved(item: Item) -> bool:
    """Whether an item can be cut in two that look like one."""
    return not item.rotation and appearance(item).in_two(item)


def _halves(publication: Publication, item: Item, side: Side) -> tuple[dict[str, object], Item]:
    """What changes of an item that is cut at the spine, and its other half on the other page."""
    setup = publication.setup
    edge = setup.trim.width if side == "verso" else 0.0
    left, right = item.x, item.x + item.width
    if side == "verso":
        kept, rest = (left, edge + setup.bleed), (edge - setup.bleed, right)
    else:
        kept, rest = (edge - setup.bleed, right), (left, edge + setup.bleed)
    here = _part(publication, item, *kept)
    there = replace(item, id="", **_part(publication, item, *rest))
    return here, replace(there, x=there.x + aside(side, setup))


def _part(publication: Publication, item: Item, left: float, right: float) -> dict[str, object]:
    """An item from one x to another, its picture where it was."""
    left, right = max(left, item.x), min(right, item.x + item.width)
    found: dict[str, object] = {"x": left, "width": right - left}
    if isinstance(item, PictureFrame):
        picture = next((p for p in publication.pictures if p.hash == item.picture), None)
        if picture is not None:
            crop = crop_of(item, picture)
            found |= {"fit": "free", "crop": replace(crop, x=crop.x - (left - item.x))}
    return found
