"""Sections started, named, numbered and joined."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.change import change_section, new_ids
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import find_section, section_of
from hidden_frame.model.publication import Numbering, Publication, Section


def start_section(
    publication: Publication,
    page_id: str,
    name: str = "",
    numbering: Numbering | None = None,
) -> tuple[Publication, str]:
    """A section that starts at a page, taking what follows of its section; and its id.

    On a section's first page there is nothing to divide: that section is renamed and
    renumbered instead.

    >>> publication, section_id = start_section(publication, "page-9", "Spring")
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
    return replace(publication, sections=tuple(sections)), section_id


def change_numbering(
    publication: Publication, section_id: str, numbering: Numbering
) -> Publication:
    """A section's numbering; refuses a start that is not a positive whole number (R16)."""
    if numbering.start is not None and numbering.start < 1:
        raise Refusal(f"A section can't start at {numbering.start}; give a whole number from 1.")
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
    return replace(publication, sections=(*rest[: index - 1], joined, *rest[index + 1 :]))
