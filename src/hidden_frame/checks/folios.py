"""Which pages really print their folio: those that show an item with its marker."""

from __future__ import annotations

from collections.abc import Iterable

from hidden_frame.compose.cascade import Resolved, page_items, stack_items
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.markers import markers_in
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, stack_of
from hidden_frame.model.publication import Page, Publication


def prints_folio(publication: Publication, among: Iterable[Page] | None = None) -> frozenset[str]:
    """The ids of the pages, of all or `among` some, on which a folio is seen and printed."""
    facts = page_facts(publication)
    unseen = frozenset(x.id for x in publication.layers if not (x.visible and x.printing))
    stacks: dict[tuple[tuple[str, ...], Side], tuple[Resolved, ...]] = {}
    shown: dict[int, bool] = {}
    found = []
    for page in all_pages(publication) if among is None else among:
        if facts[page.id].hides_folio:
            continue
        key = (stack_of(publication, page), facts[page.id].side)
        stack = stacks.get(key)
        if stack is None:
            stack = stacks[key] = stack_items(publication, *key)
            shown[id(stack)] = _shows(stack, unseen)
        if _may_differ(page):
            seen = _shows(page_items(publication, page, stack), unseen)
        else:
            seen = shown[id(stack)]
        if seen:
            found.append(page.id)
    return frozenset(found)


def _may_differ(page: Page) -> bool:
    """Whether a page may print its folio otherwise than its masters do."""
    return bool(page.overrides) or any(
        isinstance(item, TextFrame) and any(m.shows == "folio" for m in markers_in(item.text))
        for item in page.items
    )


def _shows(items: tuple[Resolved, ...], unseen: frozenset[str]) -> bool:
    return any(
        isinstance(r.item, TextFrame)
        and r.item.visible
        and r.item.layer not in unseen
        and any(m.shows == "folio" for m in markers_in(r.item.text))
        for r in items
    )
