"""Pages tied as a spread (R23).

>>> second = publication.sections[1].pages[1].id
>>> [[p.id for p in pair] == [page, second] for pair in tied_pairs(tie(publication, page, second))]
[True]
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.edit.change import change_pages, new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.publication import Page, Publication


def tie(publication: Publication, first: str, second: str) -> Publication:
    """Two pages meant to face each other; whatever they were tied to before is free."""
    if first == second:
        raise Refusal("A page can’t be kept with itself; select two pages that face each other.")
    old = {find_page(publication, p).tie for p in (first, second)} - {None}
    publication, (name,) = new_ids(publication, "tie", 1)

    def new(page: Page) -> Page:
        if page.id in (first, second):
            return replace(page, tie=name)
        return replace(page, tie=None)

    touched = {p.id for p in all_pages(publication) if p.tie in old} | {first, second}
    return change_pages(publication, touched, new)


def untie(publication: Publication, page_ids: Iterable[str]) -> Publication:
    """Pages and what they are tied to, free again."""
    wanted = set(page_ids)
    ties = {p.tie for p in all_pages(publication) if p.id in wanted} - {None}
    touched = {p.id for p in all_pages(publication) if p.tie in ties}
    return change_pages(publication, touched, lambda p: replace(p, tie=None))


def tied_pairs(publication: Publication) -> list[tuple[Page, Page]]:
    """The pairs of pages that are tied, in order; a page whose partner is gone is in none."""
    known: dict[str, Page] = {}
    pairs: list[tuple[Page, Page]] = []
    for page in all_pages(publication):
        if page.tie is None:
            continue
        first = known.pop(page.tie, None)
        if first is None:
            known[page.tie] = page
        else:
            pairs.append((first, page))
    return pairs
