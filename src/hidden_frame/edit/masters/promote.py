"""Between pages and masters: items moved or copied to a master, a page made a master (R13).

Places on a page are taken as seen there; masters hold them in a recto's coordinates,
so that nothing moves.

>>> publication, ids = to_master(publication, page, [frame], master, "recto")
>>> len(publication.masters[0].items)
2
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Literal

from msgspec.structs import replace

from hidden_frame.edit.change import (
    change_master,
    change_page,
    change_pages,
    change_section,
    new_ids,
)
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import Faces, Item, Override
from hidden_frame.model.lookup import (
    base_chain,
    find_page,
    masters_by_id,
    section_of,
    stack_of,
)
from hidden_frame.model.plane.mirror import mirrored
from hidden_frame.model.publication import Page, Publication

Whose = Literal["these pages", "this section"]


def to_master(
    publication: Publication,
    page_id: str,
    item_ids: Iterable[str],
    master_id: str,
    side: Side,
    *,
    face: Faces = "both",
    keep: bool = False,
) -> tuple[Publication, list[str]]:
    """Local items of a page moved to a master, at the same spot, and their ids there.

    `side` is the page's.  With `keep` they are copied and stay on the page too.
    """
    wanted = set(item_ids)
    moved = [i for i in find_page(publication, page_id).items if i.id in wanted]
    if len(moved) != len(wanted) or not moved:
        raise Refusal("Only items that stand on the page itself can go to a master; select some.")
    items = [_for_master(i, side, face, publication.setup.trim.width) for i in moved]
    if keep:
        publication, ids = new_ids(publication, "item", len(items))
        items = [replace(i, id=n) for i, n in zip(items, ids, strict=True)]
    else:
        publication = change_page(publication, page_id, _without(wanted))
    publication = change_master(
        publication, master_id, lambda m: replace(m, items=(*m.items, *items))
    )
    return publication, [i.id for i in items]


def _for_master(item: Item, side: Side, face: Faces, width: float) -> Item:
    placed = mirrored(item, width) if side == "verso" else item
    return replace(placed, face=face, placing="mirrored")


def _without(gone: set[str]) -> Callable[[Page], Page]:
    return lambda page: replace(page, items=tuple(i for i in page.items if i.id not in gone))


def new_master_for(
    publication: Publication, page_ids: Iterable[str], name: str, whose: Whose = "these pages"
) -> tuple[Publication, str]:
    """A new master on top of what pages follow, followed by them in its base's place; its id.

    It builds on the topmost master of the first page, so nothing else changes.  For
    "this section" it is followed by all pages of that page's section that follow the
    same master, automatic ones included.
    """
    pages = list(page_ids)
    if not pages:
        raise Refusal(
            "No page is selected; select the pages that should follow the new master.",
            field="pages",
        )
    first = find_page(publication, pages[0])
    stack = stack_of(publication, first)
    top = stack[-1] if stack else None
    publication, master_id = add_master(publication, name, top)

    def onto(old: tuple[str, ...]) -> tuple[str, ...]:
        if top is None:
            return (*old, master_id)
        return tuple(master_id if m == top else m for m in old)

    if whose == "this section":
        return _for_section(publication, first.id, top, onto), master_id

    # Every page follows it, also one that did not follow the first one's master.
    def by_hand(page: Page) -> Page:
        old = stack_of(publication, page)
        new = onto(old)
        return replace(page, masters=new if master_id in new else (*old[:-1], master_id))

    return change_pages(publication, set(pages), by_hand), master_id


def _for_section(
    publication: Publication,
    page_id: str,
    top: str | None,
    onto: Callable[[tuple[str, ...]], tuple[str, ...]],
) -> Publication:
    section = section_of(publication, page_id)
    automatic = publication.default_masters if section.masters is None else section.masters

    def followed(stack: tuple[str, ...]) -> bool:
        return top in stack if top is not None else not stack

    pages = tuple(
        replace(p, masters=onto(p.masters)) if p.masters is not None and followed(p.masters) else p
        for p in section.pages
    )
    masters = onto(automatic) if followed(automatic) else section.masters
    return change_section(
        publication, section.id, lambda s: replace(s, pages=pages, masters=masters)
    )


def master_of_page(
    publication: Publication, page_id: str, side: Side, name: str
) -> tuple[Publication, str]:
    """A page's look turned into a new master, which the page then follows; and its id.

    Its local items, guides and overrides of its topmost master's items go to the new
    master, which builds on that one.  Nothing on the page moves.
    """
    page = find_page(publication, page_id)
    stack = stack_of(publication, page)
    width = publication.setup.trim.width
    items = tuple(_for_master(i, side, "both", width) for i in page.items)
    if not (items or page.overrides or page.guides):
        raise Refusal("This page has nothing of its own that could be made a master.")
    top = stack[-1] if stack else None
    publication, master_id = add_master(publication, name, top)
    chain = base_chain(publication, top) if top is not None else ()
    carried = {i.id for m in chain for i in m.items}
    taken: tuple[Override, ...] = tuple(o for o in page.overrides if o.item in carried)
    guides = next((m.guides for m in reversed(chain) if m.guides is not None), ())
    publication = change_master(
        publication,
        master_id,
        lambda m: replace(
            m,
            items=items,
            overrides=taken,
            guides=(*guides, *page.guides) if page.guides else None,
        ),
    )
    bare = replace(
        page,
        masters=(*stack[:-1], master_id),
        items=(),
        guides=(),
        overrides=tuple(o for o in page.overrides if o.item not in carried),
    )
    return change_page(publication, page_id, lambda _: bare), master_id


def page_stack_names(publication: Publication, page_id: str) -> list[tuple[str, str]]:
    """Ids and names of the masters that a page follows with their bases, topmost first."""
    known = masters_by_id(publication)
    found: dict[str, str] = {}
    for master_id in reversed(stack_of(publication, find_page(publication, page_id))):
        for master in reversed(base_chain(publication, master_id)):
            found.setdefault(master.id, known[master.id].name)
    return list(found.items())
