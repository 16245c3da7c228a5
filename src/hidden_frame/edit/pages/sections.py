"""Sections started, named, numbered and joined."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.edit.change import change_section, change_story, new_ids
from hidden_frame.edit.pages.held import held_in_place
from hidden_frame.edit.pages.order import delete_pages, duplicate_pages
from hidden_frame.edit.pages.running import carried_on, handed_on, in_page_order
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import find_section, find_story, section_of
from hidden_frame.model.publication import Numbering, Publication, Section
from hidden_frame.model.stories import Story


class StoryPlace(NamedTuple):
    """A paragraph of a story, by its number."""

    story: str
    paragraph: int


def start_section(
    publication: Publication,
    page_id: str,
    name: str = "",
    numbering: Numbering | None = None,
    carrying: Iterable[str] | None = None,
) -> tuple[Publication, str]:
    """A section that starts at a page, taking what follows of its section; and its id.

    Stories that flow through the section's main frames go on through its own, so that their text
    stays where it stands: all of them, or those it is `carrying` on, by their ids
    (`interact.storied.running_into` says which have text there).

    On a section's first page there is nothing to divide: that section is renamed and
    renumbered instead.

    >>> fifth = publication.sections[1].pages[4].id
    >>> publication, section_id = start_section(publication, fifth, "Spring")
    >>> [len(section.pages) for section in publication.sections]
    [2, 4, 10]
    """
    section = section_of(publication, page_id)
    index = next(n for n, p in enumerate(section.pages) if p.id == page_id)
    if index == 0:
        named = replace(
            section, name=name or section.name, numbering=numbering or section.numbering
        )
        return change_section(publication, section.id, lambda _: named), section.id
    carried = Numbering(style=section.numbering.style, prefix=section.numbering.prefix)
    publication, (section_id,) = new_ids(publication, "section", 1)
    new = Section(
        id=section_id,
        name=name,
        numbering=numbering or carried,
        masters=section.masters,
        pages=section.pages[index:],
    )
    sections: list[Section] = []
    for each in publication.sections:
        if each.id == section.id:
            sections += [replace(each, pages=each.pages[:index]), new]
        else:
            sections.append(each)
    publication = replace(publication, sections=tuple(sections))
    on = {s.id for s in publication.stories} if carrying is None else set(carrying)
    return carried_on(publication, section.id, section_id, on), section_id


def begin_with(publication: Publication, section_id: str, first: StoryPlace | None) -> Publication:
    """A section that begins where a paragraph of a story does, and follows it from now on; None
    lets it begin with its first page again."""
    if first is None:
        return change_section(publication, section_id, lambda s: replace(s, begins=""))
    place = find_story(publication, first.story).text[first.paragraph].place
    if not place:
        publication, (place,) = new_ids(publication, "place", 1)
        publication = change_story(publication, first.story, lambda s: _with_place(s, first, place))
    return change_section(publication, section_id, lambda s: replace(s, begins=place))


def _with_place(story: Story, first: StoryPlace, place: str) -> Story:
    at = first.paragraph
    named = replace(story.text[at], place=place)
    return replace(story, text=(*story.text[:at], named, *story.text[at + 1 :]))


def change_numbering(
    publication: Publication, section_id: str, numbering: Numbering
) -> Publication:
    """A section's numbering; refuses a start that is not a positive whole number (R16)."""
    if numbering.start is not None and numbering.start < 1:
        raise Refusal(
            f"A section can’t start at {numbering.start}; give a whole number from 1.",
            field="start",
        )
    return change_section(
        publication,
        section_id,
        lambda s: s if s.numbering == numbering else replace(s, numbering=numbering),
    )


def rename_section(publication: Publication, section_id: str, name: str) -> Publication:
    clean = " ".join(name.split())
    return change_section(
        publication, section_id, lambda s: s if s.name == clean else replace(s, name=clean)
    )


def join_with_previous(publication: Publication, section_id: str) -> Publication:
    """A section's pages joined to the section before it, which keeps its name."""
    section = find_section(publication, section_id)
    index = publication.sections.index(section)
    if index == 0:
        raise Refusal("The first section has none before it to join.")
    before = publication.sections[index - 1]
    joined = replace(before, pages=(*before.pages, *section.pages))
    rest = publication.sections
    after = replace(publication, sections=(*rest[: index - 1], joined, *rest[index + 1 :]))
    return handed_on(after, section, before)


def end_section(
    publication: Publication, page_id: str, carrying: Iterable[str] | None = None
) -> tuple[Publication, str]:
    """A section that ends with a page: what follows of it becomes a section that carries on."""
    section = section_of(publication, page_id)
    index = next(n for n, p in enumerate(section.pages) if p.id == page_id)
    if index == len(section.pages) - 1:
        raise Refusal("The section ends with this page already.")
    return start_section(publication, section.pages[index + 1].id, carrying=carrying)


def number_from(
    publication: Publication,
    page_id: str,
    number: int = 1,
    carrying: Iterable[str] | None = None,
) -> tuple[Publication, str]:
    """“This page is page 1”: a section starts at the page, if none does, and begins to count
    there.  Its style stays, or is decimal where no folios were printed."""
    section = section_of(publication, page_id)
    old = section.numbering
    style = "decimal" if old.style == "none" else old.style
    numbering = replace(old, style=style, start=number)
    if section.pages[0].id == page_id:
        return change_numbering(publication, section.id, numbering), section.id
    return start_section(publication, page_id, "", numbering, carrying)


def move_section(publication: Publication, section_id: str, before: str | None) -> Publication:
    """A whole section before another, or at the end."""
    moved = find_section(publication, section_id)
    rest = [s for s in publication.sections if s.id != section_id]
    at = next((n for n, s in enumerate(rest) if s.id == before), len(rest))
    sections = (*rest[:at], moved, *rest[at:])
    if before == section_id or sections == publication.sections:
        return publication
    return held_in_place(in_page_order(publication, replace(publication, sections=sections)))


def duplicate_section(publication: Publication, section_id: str) -> tuple[Publication, str]:
    """A copy of a section with copies of its pages, right behind it, that carries on."""
    section = find_section(publication, section_id)
    at = publication.sections.index(section)
    if not section.pages:
        raise Refusal("This section has no pages; there is nothing to duplicate.")
    publication, made = duplicate_pages(publication, [p.id for p in section.pages])
    counted = replace(section.numbering, start=None)
    publication, copy_id = start_section(publication, made[0], section.name, counted, ())
    copy = publication.sections[at + 1]
    named = replace(copy, masters=section.masters)
    sections = (*publication.sections[: at + 1], named, *publication.sections[at + 2 :])
    return replace(publication, sections=sections), copy_id


def delete_section(publication: Publication, section_id: str, *, pages: bool) -> Publication:
    """A section deleted with its pages; or without, its pages joining the one before, or for
    the first section the one behind.  The last section left stays (R15)."""
    section = find_section(publication, section_id)
    if len(publication.sections) == 1:
        raise Refusal("A publication keeps at least one section.")
    if pages and section.pages:
        return delete_pages(publication, [p.id for p in section.pages])
    at = publication.sections.index(section)
    rest = list(publication.sections)
    del rest[at]
    if at:
        rest[at - 1] = replace(rest[at - 1], pages=(*rest[at - 1].pages, *section.pages))
    else:
        rest[0] = replace(rest[0], pages=(*section.pages, *rest[0].pages))
    return handed_on(replace(publication, sections=tuple(rest)), section, rest[max(at - 1, 0)])
