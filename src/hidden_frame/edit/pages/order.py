"""Pages added, duplicated, deleted and moved."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence

from msgspec.structs import replace

from hidden_frame.edit.change import change_page, change_pages, change_section, new_ids
from hidden_frame.edit.pages.held import held_in_place
from hidden_frame.edit.pages.ties import tie
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_page, find_section, positions
from hidden_frame.model.publication import MAX_PAGES, Page, Publication, Section


def room_for(publication: Publication, more: int) -> None:
    """Refuses more pages than a publication holds."""
    count = len(all_pages(publication))
    if count + more > MAX_PAGES:
        raise Refusal(
            f"A publication has at most {MAX_PAGES} pages; with {more} more it would have "
            f"{count + more}.",
            field="count",
        )


def _insert(section: Section, index: int, pages: Sequence[Page]) -> Section:
    return replace(section, pages=(*section.pages[:index], *pages, *section.pages[index:]))


def insert_pages(
    publication: Publication, section_id: str, index: int, pages: Sequence[Page]
) -> Publication:
    """Pages put before the page at `index` of a section."""
    return change_section(publication, section_id, lambda s: _insert(s, index, pages))


def add_pages(
    publication: Publication,
    section_id: str,
    index: int,
    count: int = 1,
    masters: tuple[str, ...] | None = None,
) -> tuple[Publication, list[str]]:
    """`count` empty pages before the page at `index` of a section, and their ids.

    >>> body = publication.sections[1]
    >>> publication, ids = add_pages(publication, body.id, 4, count=2)
    >>> [p.id for p in publication.sections[1].pages[4:6]] == ids
    True
    """
    if count < 1:
        raise Refusal(f"{count} pages can't be added; give a number from 1.", field="count")
    room_for(publication, count)
    section = find_section(publication, section_id)
    index = max(0, min(index, len(section.pages)))
    publication, ids = new_ids(publication, "page", count)
    made = [Page(id=i, masters=masters) for i in ids]
    return held_in_place(insert_pages(publication, section_id, index, made)), ids


def add_pages_after(
    publication: Publication,
    page_id: str,
    count: int = 1,
    masters: tuple[str, ...] | None = None,
) -> tuple[Publication, list[str]]:
    """Empty pages behind a page, in its section."""
    section, index = _place(publication, page_id)
    return add_pages(publication, section.id, index + 1, count, masters)


def _place(publication: Publication, page_id: str) -> tuple[Section, int]:
    for section in publication.sections:
        for index, page in enumerate(section.pages):
            if page.id == page_id:
                return section, index
    raise Refusal(f"There is no page “{page_id}” in this publication.")


def duplicate_pages(
    publication: Publication, page_ids: Iterable[str]
) -> tuple[Publication, list[str]]:
    """Copies of pages, together behind the last of them, with new ids for all they hold."""
    order = positions(publication)
    wanted = sorted(set(page_ids), key=lambda i: order.get(i, 0))
    if not wanted:
        raise Refusal("No page is selected; select the pages to duplicate.", field="pages")
    room_for(publication, len(wanted))
    section, index = _place(publication, wanted[-1])
    copies: list[Page] = []
    for page_id in wanted:
        page = find_page(publication, page_id)
        publication, (new_id, *item_ids) = _ids_for(publication, page)
        items = tuple(replace(item, id=i) for item, i in zip(page.items, item_ids, strict=True))
        # One that a story made is one that somebody wants now: it does not go by itself.
        copies.append(replace(page, id=new_id, items=items, made=False))
    publication, copies = retied(publication, copies)
    new = change_section(publication, section.id, lambda s: _insert(s, index + 1, copies))
    return held_in_place(new), [page.id for page in copies]


def retied(publication: Publication, copies: list[Page]) -> tuple[Publication, list[Page]]:
    """Copies of pages that are held nowhere, and tied to each other as their originals were."""
    counts = Counter(p.tie for p in copies if p.tie is not None)
    ties: dict[str, str] = {}
    for name, count in counts.items():
        if count == 2:
            publication, (ties[name],) = new_ids(publication, "tie", 1)
    return publication, [replace(p, held=None, tie=ties.get(p.tie or "")) for p in copies]


def _ids_for(publication: Publication, page: Page) -> tuple[Publication, list[str]]:
    publication, page_ids = new_ids(publication, "page", 1)
    publication, item_ids = new_ids(publication, "item", len(page.items))
    return publication, page_ids + item_ids


def delete_pages(publication: Publication, page_ids: Iterable[str]) -> Publication:
    """The publication without these pages; one page always stays.

    A section left without pages goes with them, as long as another one remains.
    """
    gone = set(page_ids)
    if all(page.id in gone for page in all_pages(publication)):
        raise Refusal(
            "A publication keeps at least one page; leave one page unselected.", field="pages"
        )
    sections = []
    for section in publication.sections:
        pages = _without(section.pages, gone)
        if len(pages) == len(section.pages):
            sections.append(section)
        elif pages:
            sections.append(replace(section, pages=pages))
    return held_in_place(replace(publication, sections=tuple(sections)))


def _without(pages: tuple[Page, ...], gone: set[str]) -> tuple[Page, ...]:
    """The pages but for those `gone`; the same object if all stay."""
    kept = tuple([page for page in pages if page.id not in gone])
    return pages if len(kept) == len(pages) else kept


def move_pages(
    publication: Publication, page_ids: Iterable[str], section_id: str, index: int
) -> Publication:
    """Pages moved, in their order, before the page now at `index` of a section (R20, R22).

    Returns the same object if the pages already stand there.

    >>> front = publication.sections[0]
    >>> moved = move_pages(publication, [page], front.id, 0)
    >>> moved.sections[0].pages[0].id == page
    True
    """
    moving = set(page_ids)
    order, everything = positions(publication), all_pages(publication)
    if not moving <= order.keys():
        raise Refusal("A page to be moved is not in this publication any more.")
    moved = [everything[at - 1] for at in sorted(order[page] for page in moving)]
    for page in moved:
        if page.held is not None:
            raise Refusal(
                f"The page locked at position {page.held} stays there; unlock it to move it."
            )
    target = find_section(publication, section_id)
    index = max(0, min(index, len(target.pages)))
    sections = []
    for section in publication.sections:
        pages = _without(section.pages, moving)
        if section.id == section_id:
            at = sum(p.id not in moving for p in section.pages[:index])
            pages = (*pages[:at], *moved, *pages[at:])
        if pages == section.pages:
            sections.append(section)
        elif pages:
            sections.append(replace(section, pages=pages))
    same = len(sections) == len(publication.sections) and all(
        a is b for a, b in zip(sections, publication.sections, strict=True)
    )
    return publication if same else held_in_place(replace(publication, sections=tuple(sections)))


def set_blind(publication: Publication, page_ids: Iterable[str], blind: bool) -> Publication:
    """Pages that are counted but show no folio, or show it again (R18)."""
    return change_pages(
        publication, set(page_ids), lambda p: p if p.blind == blind else replace(p, blind=blind)
    )


def set_guides(publication: Publication, page_id: str, guides: tuple) -> Publication:
    """The guides of one page."""
    return change_page(publication, page_id, lambda p: replace(p, guides=guides))


def place_of(publication: Publication, page_id: str, *, after: bool = False) -> tuple[str, int]:
    """The section and the index in it before a page, or behind it: where others can go."""
    section, index = _place(publication, page_id)
    return section.id, index + after


def add_spread(
    publication: Publication, section_id: str, index: int, masters: tuple[str, ...] | None = ()
) -> tuple[Publication, list[str]]:
    """Two pages tied as a spread, without masters if nothing else is said."""
    publication, ids = add_pages(publication, section_id, index, 2, masters)
    return tie(publication, *ids), ids


def move_beside(
    publication: Publication, page_ids: Iterable[str], target: str, *, after: bool = False
) -> Publication:
    """Pages moved before or behind another, into its section.

    >>> first = publication.sections[0].pages[0].id
    >>> moved = move_beside(publication, [page], first, after=True)
    >>> [p.id == page for p in moved.sections[0].pages]
    [False, True, False]
    """
    moving = list(page_ids)
    if target in moving:
        where = "behind" if after else "before"
        raise Refusal(
            f"The pages can't be moved {where} one of themselves; name a page that stays.",
            field="place",
        )
    return move_pages(publication, moving, *place_of(publication, target, after=after))


def fill_up(
    publication: Publication,
    count: int,
    masters: tuple[str, ...] | None,
    at: tuple[str, int] | None = None,
) -> tuple[Publication, list[str]]:
    """So many pages added before the last page, or at a place (section and index)."""
    if at is None:
        at = place_of(publication, all_pages(publication)[-1].id)
        first_of_section = at[1] == 0
        if first_of_section and len(publication.sections) > 1:
            # The last page is a section of its own, a back cover: what fills up goes before it.
            before = publication.sections[-2]
            at = (before.id, len(before.pages))
    return add_pages(publication, at[0], at[1], count, masters)
