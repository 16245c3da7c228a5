"""Sections that begin where a paragraph does: their first page is the one that it stands on."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.references import paragraph_at
from hidden_frame.model.lookup import all_pages, positions
from hidden_frame.model.publication import Publication, Section


class Beginning(NamedTuple):
    """A section that begins with a paragraph: what that says, and the page that it stands on, both
    "" where it is gone, or has no room; `there` says that the section begins on that page."""

    section: Section
    words: str
    page: str
    there: bool


def has_beginnings(publication: Publication) -> bool:
    """Whether any section begins with a paragraph."""
    return any(section.begins for section in publication.sections)


def beginnings(composition: Composition) -> list[Beginning]:
    """The sections that begin with a paragraph, in order."""
    found = []
    for section in composition.publication.sections:
        if section.begins:
            words, page = paragraph_at(composition, section.begins)
            found.append(Beginning(section, words, page, page == section.pages[0].id))
    return found


def sections_begun(publication: Publication, composer: Composer) -> Publication:
    """The publication with each such section from its paragraph's page on; itself if all are.

    No page changes its place: those before go to the section before.  A section stays where it is
    if its paragraph is gone, or stands before that of an earlier section or behind a later one.
    """
    composition = composer.compose(publication)
    at = positions(publication)
    wanted = {b.section.id: at[b.page] for b in beginnings(composition) if b.page}
    now = [at[section.pages[0].id] for section in publication.sections]
    goals = [wanted.get(s.id, now[n]) for n, s in enumerate(publication.sections)]
    goals[0] = 1
    starts = [
        goal if all(g < goal for g in goals[:n]) and all(g > goal for g in goals[n + 1 :])
        else now[n]
        for n, goal in enumerate(goals)
    ]  # fmt: skip
    if starts == now or any(a >= b for a, b in pairwise(starts)):
        return publication
    pages = all_pages(publication)
    ends = [*starts[1:], len(pages) + 1]
    sections = tuple(
        section if (first, end) == (then, then + len(section.pages))
        else replace(section, pages=pages[first - 1 : end - 1])
        for section, first, end, then in zip(publication.sections, starts, ends, now, strict=True)
    )  # fmt: skip
    return replace(publication, sections=sections)
