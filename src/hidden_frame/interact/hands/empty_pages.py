"""Pages that a story left: nothing stands on them, and none of them is waited for."""

from __future__ import annotations

from itertools import groupby
from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.model.lookup import find_page
from hidden_frame.model.publication import Page, Section
from hidden_frame.model.stories import Story


class Empty(NamedTuple):
    """Pages in a row on which nothing stands, of the sections of a story, and why."""

    pages: tuple[str, ...]
    story: str
    why: str


def empty_pages(composition: Composition) -> list[Empty]:
    """The pages of growing stories on which no text stands and that have nothing of their own.

    One that waits for a right or a left page to begin on is meant to be empty; so is the only page
    of a section.
    """
    found: list[Empty] = []
    for story in composition.publication.stories:
        if story.grows and story.sections:
            for section in composition.publication.sections:
                if section.id in story.sections:
                    found += _of_section(composition, story, section)
    return found


def _of_section(composition: Composition, story: Story, section: Section) -> list[Empty]:
    flow = composition.flow(story.id)
    used = {s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines}
    last = max((n for n, p in enumerate(flow.parts) if p.lines), default=-1)
    behind = {stop.page_id for stop in flow.stops[last + 1 :]} - used
    found = []
    for idle, row in groupby(section.pages, lambda page: _is_bare(page, used)):
        pages = [page.id for page in row]
        if not idle:
            continue
        ended = pages[-1] in behind or pages[-1] not in flow.frames
        spare = pages[pages[0] == section.pages[0].id :] if ended else pages[1:]
        spare = [p for p in spare if p in flow.frames]
        if spare:
            why = "ends before" if ended else "waits for one page there, and needs no more"
            found.append(Empty(tuple(spare), story.name, why))
    return found


class WaitingPages(NamedTuple):
    """Pages that are empty because what follows begins on a right or a left page, in the order of
    the book; `styles` are those of what they wait for, by id."""

    pages: tuple[str, ...]
    story: str
    styles: tuple[str, ...]


def waiting_pages(composition: Composition) -> list[WaitingPages]:
    """The pages of each story that wait for a side, but for those that a rule makes blank ones,
    which are meant to be so."""
    found = []
    for story in composition.publication.stories:
        flow = composition.flow(story.id)
        pages: dict[str, str] = {}
        for n, (stop, part) in enumerate(zip(flow.stops, flow.parts, strict=True)):
            begin = flow.starts[n]
            waits = not part.lines and begin.paragraph < len(story.text) and not begin.place.offset
            if waits and any(p.lines for p in flow.parts[n + 1 : n + 3]):
                page = find_page(composition.publication, stop.page_id)
                if not page.rule and _is_bare(page, set()):
                    pages[stop.page_id] = story.text[begin.paragraph].style
        if pages:
            found.append(
                WaitingPages(tuple(pages), story.name, tuple(dict.fromkeys(pages.values())))
            )
    return found


def _is_bare(page: Page, used: set[str]) -> bool:
    """Whether nothing of a story stands on a page, and nothing of its own."""
    own = page.items or page.overrides or page.tie or page.held or page.masters is not None
    return page.id not in used and not own
