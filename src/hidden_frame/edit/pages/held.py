"""Pages that are held at a position: the others flow around them.

>>> publication = hold_pages(publication, [page], True)
>>> publication.sections[1].pages[0].held
3
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hidden_frame.edit.change import change_pages
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, positions
from hidden_frame.model.publication import Page, Publication, Section


def hold_pages(publication: Publication, page_ids: Iterable[str], held: bool) -> Publication:
    """Pages held at the positions that they have now, or free again."""
    at = positions(publication)

    def new(page: Page) -> Page:
        position = at[page.id] if held else None
        return page if page.held == position else replace(page, held=position)

    return change_pages(publication, set(page_ids), new)


def held_in_place(publication: Publication) -> Publication:
    """The publication with every held page back at its position, the others around it.

    A held page stays in its section.  Raises `Refusal` if there is no such place: the
    position lies behind the last page, or in the midst of another section.
    """
    pages = all_pages(publication)
    held = sorted((p for p in pages if p.held is not None), key=lambda p: p.held or 0)
    if all(pages[(p.held or 0) - 1] is p for p in held if (p.held or 0) <= len(pages)) and all(
        (p.held or 0) <= len(pages) for p in held
    ):
        return publication
    rank = {s.id: n for n, s in enumerate(publication.sections)}
    home = {p.id: s.id for s in publication.sections for p in s.pages}
    order = [(home[p.id], p) for p in pages if p.held is None]
    for page in held:
        _put(order, (home[page.id], page), rank, publication)
    parts: dict[str, list[Page]] = {s.id: [] for s in publication.sections}
    for section_id, page in order:
        parts[section_id].append(page)
    sections = tuple(_with(s, parts[s.id]) for s in publication.sections)
    return replace(publication, sections=sections)


def _with(section: Section, pages: list[Page]) -> Section:
    new = tuple(pages)
    return section if new == section.pages else replace(section, pages=new)


def _put(
    order: list[tuple[str, Page]],
    placed: tuple[str, Page],
    rank: dict[str, int],
    publication: Publication,
) -> None:
    """Puts a held page at its position, if its section reaches that far."""
    section_id, page = placed
    index = (page.held or 1) - 1
    name = next(s.name for s in publication.sections if s.id == section_id) or "its section"
    if index > len(order):
        raise Refusal(
            f"A page is locked at position {page.held}, and there would be no more than "
            f"{len(order) + 1} pages; unlock it first."
        )
    before = rank[order[index - 1][0]] if index else -1
    after = rank[order[index][0]] if index < len(order) else len(rank)
    if not before <= rank[section_id] <= after:
        raise Refusal(
            f"The page locked at position {page.held} belongs to {name}, which would not reach "
            "there; unlock it first."
        )
    order.insert(index, placed)
