"""Masters made, changed, applied and removed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Literal

from msgspec.structs import replace

from hidden_frame.edit.change import (
    change_master,
    change_pages,
    change_section,
    new_ids,
)
from hidden_frame.edit.items.draw import drop_overrides_of
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Grid, Guide, Margins
from hidden_frame.model.lookup import base_chain, find_master, masters_by_id
from hidden_frame.model.publication import Master, Page, Publication

RIBBONS = 12
Applying = Literal["replace", "add", "take away"]


def free_name(wanted: str, taken: Iterable[str]) -> str:
    """The name itself, or with the first number that makes it new: “Text 2”."""
    used = set(taken)
    if wanted not in used:
        return wanted
    return next(f"{wanted} {n}" for n in range(2, len(used) + 3) if f"{wanted} {n}" not in used)


def add_master(
    publication: Publication, name: str, base: str | None = None
) -> tuple[Publication, str]:
    """A new empty master, based on another or not, and its id.

    >>> publication, made = add_master(publication, "Chapter", base=master)
    >>> publication.masters[-1].base == master
    True
    """
    if base is not None:
        find_master(publication, base)
    publication, (master_id,) = new_ids(publication, "master", 1)
    clean = _clean_name(name)
    used = {m.ribbon for m in publication.masters}
    ribbon = next((n for n in range(RIBBONS) if n not in used), len(used) % RIBBONS)
    master = Master(
        id=master_id,
        name=free_name(clean, (m.name for m in publication.masters)),
        ribbon=ribbon,
        base=base,
    )
    return replace(publication, masters=(*publication.masters, master)), master_id


def _clean_name(name: str) -> str:
    clean = " ".join(name.split())
    if not clean:
        raise Refusal("The master has no name; give it one.", field="name")
    return clean


def rename_master(publication: Publication, master_id: str, name: str) -> Publication:
    clean = _clean_name(name)
    if any(m.name == clean and m.id != master_id for m in publication.masters):
        raise Refusal(f"There is already a master “{clean}”; choose another name.", field="name")
    return change_master(publication, master_id, lambda m: replace(m, name=clean))


def possible_bases(publication: Publication, master_id: str) -> list[Master]:
    """The masters that this one may build on without becoming its own ancestor (R6)."""
    return [
        m
        for m in publication.masters
        if all(ancestor.id != master_id for ancestor in base_chain(publication, m.id))
    ]


def set_base(publication: Publication, master_id: str, base: str | None) -> Publication:
    """The master built on another, or on none; refuses a chain that would loop."""
    master = find_master(publication, master_id)
    if base is not None and all(m.id != base for m in possible_bases(publication, master_id)):
        chain = " → ".join(m.name for m in reversed(base_chain(publication, base)))
        raise Refusal(
            f"“{master.name}” can't build on itself: {master.name} → {chain}; choose another base.",
            field="base",
        )
    if master.base == base:
        return publication
    return change_master(publication, master_id, lambda m: replace(m, base=base))


def set_page_layout(
    publication: Publication,
    master_id: str,
    *,
    margins: Margins | None,
    columns: Columns | None,
    guides: tuple[Guide, ...] | None,
    grid: Grid | None = None,
) -> Publication:
    """A master's own margins, columns, guides and grid; None takes them from its base (R6)."""
    return change_master(
        publication,
        master_id,
        lambda m: replace(m, margins=margins, columns=columns, guides=guides, grid=grid),
    )


def set_opens(
    publication: Publication, master_id: str, side: Literal["either", "recto", "verso"]
) -> Publication:
    """The side that a section which opens with a master is meant to begin on."""
    return change_master(
        publication, master_id, lambda m: m if m.opens == side else replace(m, opens=side)
    )


def apply_masters(
    publication: Publication,
    page_ids: Iterable[str],
    masters: tuple[str, ...] | None,
    mode: Applying = "replace",
) -> Publication:
    """Masters applied to pages by hand; local items are never touched (R7, R8).

    `masters` None with mode "replace" goes back to automatic; () is no master.
    "add" puts masters on top of the page's stack, "take away" removes them from it.
    """
    known = masters_by_id(publication)
    for master_id in masters or ():
        if master_id not in known:
            raise Refusal(f"There is no master “{master_id}” in this publication.")
    wanted = set(page_ids)
    defaults = {
        page.id: publication.default_masters if section.masters is None else section.masters
        for section in publication.sections
        for page in section.pages
        if page.id in wanted
    }

    def new(page: Page) -> Page:
        automatic = defaults[page.id] if page.ruled is None else page.ruled
        stack = automatic if page.masters is None else page.masters
        if masters is None or mode == "replace":
            result = masters
        elif mode == "add":
            result = (*(m for m in stack if m not in masters), *masters)
        else:
            result = tuple(m for m in stack if m not in masters)
            if result == stack:
                return page
        return page if result == page.masters else replace(page, masters=result)

    return change_pages(publication, wanted, new)


def set_section_masters(
    publication: Publication, section_id: str, masters: tuple[str, ...] | None
) -> Publication:
    """The masters that a section's automatic pages follow; None: the publication's."""
    return change_section(publication, section_id, lambda s: replace(s, masters=masters))


def set_default_masters(publication: Publication, masters: tuple[str, ...]) -> Publication:
    return replace(publication, default_masters=masters)


def delete_master(
    publication: Publication, master_id: str, instead: str | None = None
) -> Publication:
    """The publication without a master; its followers follow `instead`, or one less (R14).

    Masters that build on it build on its base from then on.
    """
    master = find_master(publication, master_id)
    if instead == master_id:
        raise Refusal(
            f"“{master.name}” is being deleted; choose another master instead.", field="instead"
        )
    if instead is not None:
        find_master(publication, instead)

    def stack(old: tuple[str, ...]) -> tuple[str, ...]:
        swapped = [instead if m == master_id else m for m in old]
        return tuple(dict.fromkeys(m for m in swapped if m is not None))

    def page(old: Page) -> Page:
        if master_id not in (*(old.masters or ()), *(old.ruled or ())):
            return old
        own = None if old.masters is None else stack(old.masters)
        return replace(old, masters=own, ruled=None if old.ruled is None else stack(old.ruled))

    publication = drop_overrides_of(publication, {item.id for item in master.items})
    sections = tuple(
        replace(
            s,
            masters=None if s.masters is None else stack(s.masters),
            pages=tuple(page(p) for p in s.pages),
        )
        for s in publication.sections
    )
    masters = tuple(
        replace(m, base=master.base) if m.base == master_id else m
        for m in publication.masters
        if m.id != master_id
    )
    return replace(
        publication,
        masters=masters,
        sections=sections,
        default_masters=stack(publication.default_masters),
        rules=tuple(replace(r, masters=stack(r.masters)) for r in publication.rules),
    )
