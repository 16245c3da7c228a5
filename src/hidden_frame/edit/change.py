"""The few ways in which a part of a publication is exchanged for another.

All that did not change is shared between the old value and the new.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TypeVar

from msgspec import UnsetType
from msgspec.structs import replace

from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, Override, TextFrame
from hidden_frame.model.lookup import holder, masters_by_id, section_of
from hidden_frame.model.publication import Master, Page, Publication, Section
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Contents, Index, NoteList, Text

T = TypeVar("T", bound=Page | Master | Section | Story)
H = TypeVar("H", Page, Master)
L = TypeVar("L", TextFrame, Story)


def new_ids(publication: Publication, word: str, count: int) -> tuple[Publication, list[str]]:
    """The publication with `count` ids taken, and the ids: `["page-7", "page-8"]`."""
    first = publication.next_id
    taken = [f"{word}-{n}" for n in range(first, first + count)]
    return replace(publication, next_id=first + count), taken


def swap(values: tuple[T, ...], wanted: str, new: Callable[[T], T]) -> tuple[T, ...]:
    """The tuple with the value of this id exchanged; itself if nothing changed."""
    for n, value in enumerate(values):
        if value.id == wanted:
            other = new(value)
            return values if other is value else (*values[:n], other, *values[n + 1 :])
    raise Refusal(f"There is no “{wanted}” here any more.")


def change_master(
    publication: Publication, master_id: str, new: Callable[[Master], Master]
) -> Publication:
    masters = swap(publication.masters, master_id, new)
    return publication if masters is publication.masters else replace(publication, masters=masters)


def change_section(
    publication: Publication, section_id: str, new: Callable[[Section], Section]
) -> Publication:
    sections = swap(publication.sections, section_id, new)
    if sections is publication.sections:
        return publication
    return replace(publication, sections=sections)


def change_story(
    publication: Publication, story_id: str, new: Callable[[Story], Story]
) -> Publication:
    """The publication with one story exchanged; itself if nothing changed."""
    stories = swap(publication.stories, story_id, new)
    return publication if stories is publication.stories else replace(publication, stories=stories)


def change_page(publication: Publication, page_id: str, new: Callable[[Page], Page]) -> Publication:
    def in_section(section: Section) -> Section:
        pages = swap(section.pages, page_id, new)
        return section if pages is section.pages else replace(section, pages=pages)

    return change_section(publication, section_of(publication, page_id).id, in_section)


def change_pages(
    publication: Publication, page_ids: set[str], new: Callable[[Page], Page]
) -> Publication:
    """All of these pages changed in one walk over the publication; itself if none changes."""
    sections = []
    for section in publication.sections:
        if any(page.id in page_ids for page in section.pages):
            pages = tuple(new(p) if p.id in page_ids else p for p in section.pages)
            if not _same(pages, section.pages):
                section = replace(section, pages=pages)
        sections.append(section)
    if _same(sections, publication.sections):
        return publication
    return replace(publication, sections=tuple(sections))


def change_holder(
    publication: Publication,
    holder_id: str,
    new: Callable[[Page | Master], Page | Master],
) -> Publication:
    """A page or a master changed, whichever has this id."""
    if holder_id in masters_by_id(publication):
        return change_master(publication, holder_id, new)  # type: ignore[arg-type]
    holder(publication, holder_id)  # refuses what does not exist
    return change_page(publication, holder_id, new)  # type: ignore[arg-type]


def change_every_holder(
    publication: Publication, new: Callable[[Page | Master], Page | Master]
) -> Publication:
    """Every page and master changed; those that stay the same are shared."""
    masters = tuple(new(m) for m in publication.masters)
    sections = []
    for section in publication.sections:
        pages = tuple(new(p) for p in section.pages)
        same = all(a is b for a, b in zip(pages, section.pages, strict=True))
        sections.append(section if same else replace(section, pages=pages))
    return replace(publication, masters=masters, sections=tuple(sections))


def change_texts(publication: Publication, new: Callable[[Text], Text]) -> Publication:
    """Every text of the publication changed: of stories, items, and overrides of them."""

    def story(old: Story) -> Story:
        text = new(old.text)
        return old if text == old.text else replace(old, text=text)

    def item(old: Item) -> Item:
        if not isinstance(old, TextFrame):
            return old
        text = new(old.text)
        return old if text == old.text else replace(old, text=text)

    def override(old: Override) -> Override:
        if isinstance(old.text, UnsetType):
            return old
        text = new(old.text)
        return old if text == old.text else replace(old, text=text)

    def changed(old: H) -> H:
        items = tuple(item(i) for i in old.items)
        overrides = tuple(override(o) for o in old.overrides)
        if _same(items, old.items) and _same(overrides, old.overrides):
            return old
        return replace(old, items=items, overrides=overrides)

    sections = []
    for section in publication.sections:
        pages = tuple(changed(p) for p in section.pages)
        sections.append(section if _same(pages, section.pages) else replace(section, pages=pages))
    masters = tuple(changed(m) for m in publication.masters)
    stories = tuple(story(s) for s in publication.stories)
    return replace(publication, masters=masters, sections=tuple(sections), stories=stories)


def change_lists(
    publication: Publication,
    contents: Callable[[Contents], Contents],
    index: Callable[[Index], Index],
    notes: Callable[[NoteList], NoteList],
) -> Publication:
    """Every contents list, index and list of notes of the publication changed."""

    def new(old: L) -> L:
        if old.contents is not None:
            old = replace(old, contents=contents(old.contents))
        if old.notes is not None:
            old = replace(old, notes=notes(old.notes))
        return old if old.index is None else replace(old, index=index(old.index))

    def holder(old: Page | Master) -> Page | Master:
        items = tuple(new(i) if isinstance(i, TextFrame) and i.lists else i for i in old.items)
        return old if _same(items, old.items) else replace(old, items=items)

    stories = tuple(new(s) if s.lists else s for s in publication.stories)
    return replace(change_every_holder(publication, holder), stories=stories)


def _same(new: Sequence[object], old: Sequence[object]) -> bool:
    return all(a is b for a, b in zip(new, old, strict=True))
