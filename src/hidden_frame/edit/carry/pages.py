"""Pages and whole sections carried to another place or publication, with what they use (R24).

>>> parcel = pages_copied(publication, [page])
>>> other = hf.Document.new("Other", trim="A5").publication
>>> other, ids = pages_pasted(other, parcel, other.sections[0].id, 0)
>>> len(other.sections[0].pages[0].items)
1
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from msgspec import Struct
from msgspec.structs import replace

from hidden_frame.edit.carry.items import Clip, Terms, brought_in, clip_of
from hidden_frame.edit.carry.masters import MasterClip, masters_copied, masters_pasted_with_items
from hidden_frame.edit.change import new_ids
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.edit.pages.held import held_in_place
from hidden_frame.edit.pages.order import insert_pages, retied, room_for
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_section, section_of, stack_of
from hidden_frame.model.publication import Master, Page, Publication, Section, Setup


class PageClip(Struct, frozen=True):
    """Pages in order, the sections they came from, their masters, and what all of it uses.

    A section's pages are those of the clip that came from it; those that are `whole` go
    along as sections of their own.
    """

    pages: tuple[Page, ...]
    sections: tuple[Section, ...]
    homes: tuple[str, ...]
    setup: Setup
    stacks: tuple[tuple[str, ...], ...]
    masters: MasterClip
    clip: Clip
    whole: tuple[str, ...] = ()
    defaults: tuple[str, ...] = ()  # what their automatic pages followed, if nothing else


def section_copied(publication: Publication, section_id: str) -> PageClip:
    """A section with its name, numbering and masters, and all its pages."""
    pages = find_section(publication, section_id).pages
    clip = pages_copied(publication, [p.id for p in pages])
    return replace(clip, whole=(section_id,), defaults=publication.default_masters)


class PastedSection(NamedTuple):
    """The publication with a section brought in, the ids of its pages, and its own."""

    publication: Publication
    pages: list[str]
    section_id: str


def section_pasted(publication: Publication, parcel: PageClip, after: str) -> PastedSection:
    """A whole section behind another one.

    It keeps its name, unless one is called so, and its numbering; its automatic pages follow
    what they followed.
    """
    room_for(publication, len(parcel.pages))
    old = next(s for s in parcel.sections if s.id == parcel.whole[0])
    publication, made, _ = _made(publication, parcel)
    publication, made = retied(publication, made)
    publication, (section_id,) = new_ids(publication, "section", 1)
    # They are known by now, so that bringing them in once more only tells what they are called.
    publication, names, _ = masters_pasted_with_items(publication, parcel.masters)
    stack = tuple(names[m] for m in (parcel.defaults if old.masters is None else old.masters))
    taken = [s.name for s in publication.sections if s.name]
    section = replace(
        old,
        id=section_id,
        name=free_name(old.name, taken) if old.name else "",
        masters=None if stack == publication.default_masters else stack,
        pages=tuple(replace(p, held=None) for p in made),
    )
    at = [s.id for s in publication.sections].index(after) + 1
    sections = (*publication.sections[:at], section, *publication.sections[at:])
    publication = held_in_place(replace(publication, sections=sections))
    return PastedSection(publication, [p.id for p in made], section_id)


def pages_copied(publication: Publication, page_ids: Iterable[str]) -> PageClip:
    """Pages with the masters they follow, and everything they refer to."""
    wanted = set(page_ids)
    pages = tuple(p for p in all_pages(publication) if p.id in wanted)
    if not pages:
        raise Refusal("No page is selected; select the pages to copy.", field="pages")
    stacks = tuple(stack_of(publication, p) for p in pages)
    homes = tuple(section_of(publication, p.id).id for p in pages)
    sections = tuple(replace(s, pages=()) for s in publication.sections if s.id in set(homes))
    followed = {m for stack in stacks for m in stack}
    followed |= {m for s in sections for m in s.masters or ()} | set(publication.default_masters)
    order = [m.id for m in publication.masters if m.id in followed]
    items = [i for p in pages for i in p.items]
    overrides = [o for p in pages for o in p.overrides]
    return PageClip(
        pages, sections, homes, publication.setup, stacks,
        masters_copied(publication, order), clip_of(publication, items, overrides),
    )  # fmt: skip


def pages_pasted(
    publication: Publication, parcel: PageClip, section_id: str, index: int
) -> tuple[Publication, list[str]]:
    """The clip's pages put before the page at `index` of a section, and their new ids.

    A page that follows other masters there than it did where it came from keeps its own,
    set by hand.
    """
    room_for(publication, len(parcel.pages))
    publication, made, stacks = _made(publication, parcel)
    publication, made = retied(publication, made)
    publication = insert_pages(publication, section_id, index, made)
    fixed = {
        page.id: stack
        for page, stack in zip(made, stacks, strict=True)
        if page.masters is None and stack_of(publication, page) != stack
    }
    return held_in_place(_by_hand(publication, fixed)), [page.id for page in made]


def _by_hand(publication: Publication, stacks: dict[str, tuple[str, ...]]) -> Publication:
    if not stacks:
        return publication
    sections = tuple(
        replace(s, pages=tuple(
            replace(p, masters=stacks[p.id]) if p.id in stacks else p for p in s.pages))
        if any(p.id in stacks for p in s.pages)
        else s
        for s in publication.sections
    )  # fmt: skip
    return replace(publication, sections=sections)


def _made(
    publication: Publication, parcel: PageClip
) -> tuple[Publication, list[Page], list[tuple[str, ...]]]:
    """The clip's pages with ids and references of this publication, and the stacks they had."""
    publication, masters, item_ids = masters_pasted_with_items(publication, parcel.masters)
    publication, terms = brought_in(publication, parcel.clip)
    made: list[Page] = []
    for page in parcel.pages:
        publication, page = _page(publication, page, terms, masters, item_ids)
        made.append(page)
    stacks = [tuple(masters[m] for m in stack) for stack in parcel.stacks]
    return publication, made, stacks


def _page(
    publication: Publication,
    page: Page,
    terms: Terms,
    masters: dict[str, str],
    item_ids: dict[str, str],
) -> tuple[Publication, Page]:
    publication, (page_id,) = new_ids(publication, "page", 1)
    publication, ids = new_ids(publication, "item", len(page.items))
    groups: dict[str, str] = {}
    for group in dict.fromkeys(i.group for i in page.items if i.group is not None):
        publication, (groups[group],) = new_ids(publication, "group", 1)
    items = tuple(
        replace(terms.item(item), id=n, group=groups.get(item.group or ""))
        for item, n in zip(page.items, ids, strict=True)
    )
    # An override of an item whose master did not come along would find nothing here.
    overrides = tuple(
        replace(terms.override(o), item=item_ids[o.item])
        for o in page.overrides
        if o.item in item_ids
    )
    stack = None if page.masters is None else tuple(masters[m] for m in page.masters)
    return publication, replace(page, id=page_id, items=items, overrides=overrides, masters=stack,
                                ruled=None, rule="")  # fmt: skip


def publication_of(publication: Publication, page_ids: Iterable[str], title: str) -> Publication:
    """A new publication of some pages, with their sections, numbering and masters.

    Everything that the whole publication has to offer (styles, colours, layers, details)
    comes along, so that work can go on.
    """
    wanted = set(page_ids)
    sections = []
    for section in publication.sections:
        pages = tuple(replace(p, held=None) for p in section.pages if p.id in wanted)
        if pages:
            sections.append(replace(section, pages=pages))
    if not sections:
        raise Refusal(
            "No page is selected; select the pages of the new publication.", field="pages"
        )
    pages_there = [p for s in sections for p in s.pages]
    used: set[str] = set(publication.default_masters)
    for page in pages_there:
        used |= set(stack_of(publication, page))
    used |= {m for s in sections for m in s.masters or ()}
    kept = _with_bases(publication, used)
    return replace(
        publication, title=title, sections=tuple(sections),
        rules=tuple(r for r in publication.rules if kept.issuperset(r.masters)
                    and {s.id for s in sections}.issuperset(r.sections)),
        masters=tuple(m for m in publication.masters if m.id in kept),
    )  # fmt: skip


def _with_bases(publication: Publication, wanted: set[str]) -> set[str]:
    known: dict[str, Master] = {m.id: m for m in publication.masters}
    kept: set[str] = set()
    for master_id in wanted:
        at: str | None = master_id
        while at is not None and at not in kept:
            kept.add(at)
            at = known[at].base
    return kept
