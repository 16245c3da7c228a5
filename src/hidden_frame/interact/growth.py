"""A section with as many pages as its story needs (R26).

Pages are added at the section's end, on its automatic masters, and are marked as made by the
story; they go again when nothing of the story stands on them and nothing was done to them.
"""

from __future__ import annotations

import math

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer, Composition
from hidden_frame.compose.notes import numbered
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.edit.pages.order import add_pages, delete_pages
from hidden_frame.interact.lists import has_lists, listed
from hidden_frame.interact.referring import has_references, referred
from hidden_frame.interact.ruled import ruled
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_section, find_story
from hidden_frame.model.publication import MAX_PAGES, Page, Publication
from hidden_frame.model.stories import MainFrames, Story

_TRIES = 40
_ROUNDS = 6  # of rules and growth, each of which may move what the other one goes by


def grown(publication: Publication, composer: Composer | None = None) -> Publication:
    """The publication with every growing story's section grown or shrunk to what it needs, and
    masters by rule, lists and references as they are to be; itself if nothing is to be done."""
    growing = [s.id for s in publication.stories if s.grows and s.sections]
    composer = composer or Composer()
    publication = numbered(publication)
    for _ in range(_ROUNDS):
        before = publication
        publication = ruled(publication, composer)
        for story_id in growing:
            publication = _fitted(publication, story_id, composer)
        says = has_lists(publication) or has_references(publication)
        if says and not composer.compose(publication).is_told():
            publication = referred(listed(publication, composer), composer)
            composer.compose(publication).tell()
        if publication is before or not (publication.rules or says):
            break
    return publication


def _fitted(publication: Publication, story_id: str, composer: Composer) -> Publication:
    story = find_story(publication, story_id)
    section = next((s for s in story.sections if _exists(publication, s)), None)
    if section is None:
        return publication
    for _ in range(_TRIES):
        flow = composer.compose(publication).flow(story_id)
        count = _lacking(publication, flow, section)
        if not count:
            break
        more = _with_pages(publication, section, count)
        if more is publication:
            break
        if not _helps(composer.compose(more), story_id, flow):
            more = _with_pages(more, section, 1)  # it may wait for a page of the other side
            if not _helps(composer.compose(more), story_id, flow):
                break  # other pages take no word of it: it would go on for ever
        publication = more
    return _shrunk(publication, composer.compose(publication).flow(story_id), section)


def _exists(publication: Publication, section_id: str) -> bool:
    return any(s.id == section_id for s in publication.sections)


def _lacking(publication: Publication, flow: Flow, section_id: str) -> int:
    """How many more pages a story needs, as far as the pages that it fills tell."""
    if flow.rest is None:
        return 0
    left = flow.characters_left
    filled = flow.characters - left
    pages = len({s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines})
    if filled <= 0:
        return 1
    return max(1, math.floor(left / (filled / max(pages, 1)) * 0.97))


def _with_pages(publication: Publication, section_id: str, count: int) -> Publication:
    """So many pages more at a section's end, as far as there may be."""
    count = min(count, MAX_PAGES - len(all_pages(publication)))
    if count < 1:
        return publication
    end = len(find_section(publication, section_id).pages)
    try:
        publication, made = add_pages(publication, section_id, end, count)
    except Refusal:  # a page that is held behind it, say
        return publication
    ids = set(made)

    def mark(page: Page) -> Page:
        return replace(page, made=True) if page.id in ids else page

    sections = tuple(
        replace(s, pages=tuple(mark(p) for p in s.pages)) if s.id == section_id else s
        for s in publication.sections
    )
    return replace(publication, sections=sections)


def _helps(composition: Composition, story_id: str, before: Flow) -> bool:
    after = composition.flow(story_id)
    return before.rest is not None and (after.rest is None or after.rest > before.rest)


def _shrunk(publication: Publication, flow: Flow, section_id: str) -> Publication:
    """Without the pages that a story made and does not need any more, from the section's end."""
    if flow.rest is not None:
        return publication
    pages = find_section(publication, section_id).pages
    spare: list[str] = []
    for page in reversed(pages[1:]):
        parts = (flow.part(page.id, item) for item in flow.frames.get(page.id, ()))
        if not _untouched(page) or any(part is not None and part.lines for part in parts):
            break
        spare.append(page.id)
    if not spare:
        return publication
    try:
        return delete_pages(publication, spare)
    except Refusal:
        return publication


def _untouched(page: Page) -> bool:
    """Whether a story made the page, and nobody has done anything to it since."""
    return page.made and page == Page(id=page.id, made=True)


def why_not(publication: Publication, story: Story, flow: Flow) -> str:
    """Why a story that grows has no room all the same; "" if there is no reason in sight."""
    if not flow.stops:
        through = any(isinstance(s, MainFrames) for s in story.path)
        return "the masters of its section have no main frame" if through else "no frame shows it"
    if len(all_pages(publication)) >= MAX_PAGES:
        return f"a publication has at most {MAX_PAGES:,} pages"
    last = flow.parts[-1]
    if not last.lines:
        return "its frames have no room for a single line"
    return ""
