"""Finding things in a publication by id."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain as joined
from itertools import count

from hidden_frame.model.chain import chain
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Master, Page, Publication, Section
from hidden_frame.model.sparse import Projection
from hidden_frame.model.stories import Link, Story
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle

_orders: Projection[Page, str] = Projection(lambda page: page.id)


@remembered()
def _pages(sections: tuple[Section, ...]) -> tuple[Page, ...]:
    if len(sections) == 1:
        return sections[0].pages
    return tuple(page for section in sections for page in section.pages)


@remembered()
def _page_orders(sections: tuple[Section, ...]) -> tuple[tuple[str, ...], ...]:
    """The ids of the pages of each section: the same objects until one is added, moved or gone."""
    return tuple(_orders(section.pages) for section in sections)


@remembered()
def _positions(*orders: tuple[str, ...]) -> dict[str, int]:
    return dict(zip(joined.from_iterable(orders), count(1), strict=False))


@remembered()
def _masters(masters: tuple[Master, ...]) -> dict[str, Master]:
    return {master.id: master for master in masters}


@remembered()
def _section_numbers(*orders: tuple[str, ...]) -> dict[str, int]:
    numbers: dict[str, int] = {}
    for n, order in enumerate(orders):
        numbers.update(dict.fromkeys(order, n))
    return numbers


def all_pages(publication: Publication) -> tuple[Page, ...]:
    """Every page in order: `all_pages(p)[0]` is position 1."""
    return _pages(publication.sections)


def positions(publication: Publication) -> dict[str, int]:
    """Position, counted from 1, by page id."""
    return positions_in(publication.sections)


def orders(publication: Publication) -> tuple[tuple[str, ...], ...]:
    """The ids of the pages of each section."""
    return _page_orders(publication.sections)


def positions_in(sections: tuple[Section, ...]) -> dict[str, int]:
    """The same of all the sections of a publication."""
    return _positions(*_page_orders(sections))


def masters_by_id(publication: Publication) -> dict[str, Master]:
    return _masters(publication.masters)


def find_page(publication: Publication, page_id: str) -> Page:
    position = positions(publication).get(page_id)
    if position is None:
        raise Refusal(f"There is no page “{page_id}” in this publication.")
    return all_pages(publication)[position - 1]


def find_master(publication: Publication, master_id: str) -> Master:
    master = masters_by_id(publication).get(master_id)
    if master is None:
        raise Refusal(f"There is no master “{master_id}” in this publication.")
    return master


def section_of(publication: Publication, page_id: str) -> Section:
    number = _section_numbers(*_page_orders(publication.sections)).get(page_id)
    if number is None:
        raise Refusal(f"There is no page “{page_id}” in this publication.")
    return publication.sections[number]


def find_section(publication: Publication, section_id: str) -> Section:
    for section in publication.sections:
        if section.id == section_id:
            return section
    raise Refusal(f"There is no section “{section_id}” in this publication.")


def holder(publication: Publication, holder_id: str) -> Page | Master:
    """The page or master of this id; both hold items."""
    master = masters_by_id(publication).get(holder_id)
    return master if master is not None else find_page(publication, holder_id)


def holders(publication: Publication) -> Iterator[Page | Master]:
    yield from publication.masters
    yield from all_pages(publication)


@remembered()
def _master_item_owners(masters: tuple[Master, ...]) -> dict[str, tuple[Master, Item]]:
    return {item.id: (master, item) for master in masters for item in master.items}


def master_item(publication: Publication, item_id: str) -> tuple[Master, Item] | None:
    """The master that carries this item, and the item as drawn there."""
    return _master_item_owners(publication.masters).get(item_id)


def find_story(publication: Publication, story_id: str) -> Story:
    for story in publication.stories:
        if story.id == story_id:
            return story
    raise Refusal(f"There is no story “{story_id}” in this publication.")


def story_through(publication: Publication, section_id: str) -> Story | None:
    """The story that flows through the main frames of a section."""
    return _through(publication.stories).get(section_id)


@remembered()
def _through(stories: tuple[Story, ...]) -> dict[str, Story]:
    return {section: story for story in stories for section in story.sections}


def stories_on(publication: Publication, page_id: str) -> tuple[Story, ...]:
    """The stories that may come to a page: by its section's main frames, or by hand."""
    through = story_through(publication, section_of(publication, page_id).id)
    linked = _linked_pages(publication.stories).get(page_id, ())
    if through is None or through in linked:
        return linked
    return (through, *linked)


@remembered()
def _linked_pages(stories: tuple[Story, ...]) -> dict[str, tuple[Story, ...]]:
    found: dict[str, dict[str, Story]] = {}
    for story in stories:
        for station in story.path:
            if isinstance(station, Link):
                found.setdefault(station.page, {})[story.id] = story
    return {page: tuple(several.values()) for page, several in found.items()}


def linked_story(publication: Publication, page_id: str, item_id: str) -> Story | None:
    """The story that a frame on a page was linked to by hand."""
    return links(publication).get((page_id, item_id))


def links(publication: Publication) -> dict[tuple[str, str], Story]:
    """The story of each frame that is linked by hand, by its page and its id."""
    return _linked(publication.stories)


@remembered()
def _linked(stories: tuple[Story, ...]) -> dict[tuple[str, str], Story]:
    return {
        (station.page, station.item): story
        for story in stories
        for station in story.path
        if isinstance(station, Link)
    }


def paragraph_style(publication: Publication, style_id: str) -> ParagraphStyle:
    for style in publication.paragraph_styles:
        if style.id == style_id:
            return style
    raise Refusal(f"There is no paragraph style “{style_id}” in this publication.")


def character_style(publication: Publication, style_id: str) -> CharacterStyle:
    for style in publication.character_styles:
        if style.id == style_id:
            return style
    raise Refusal(f"There is no character style “{style_id}” in this publication.")


def base_chain(publication: Publication, master_id: str) -> tuple[Master, ...]:
    """A master's bases, the most distant first, then the master itself.

    A loop, which no valid publication has, ends the chain.
    """
    known = masters_by_id(publication)
    return tuple([known[i] for i in chain(known, master_id, lambda i: known[i].base)])


def stack_of(publication: Publication, page: Page) -> tuple[str, ...]:
    """The masters that a page follows, bottom to top (R8): set by hand, by a rule, or those of its
    section."""
    if page.masters is not None:
        return page.masters
    if page.ruled is not None:
        return page.ruled
    section = section_of(publication, page.id)
    return publication.default_masters if section.masters is None else section.masters
