"""Sections with as many pages as their story needs (R26).

Pages are added at the end of the last section that a story runs through, on its automatic
masters, and are marked as made by the story; they go again when nothing of the story stands on
them and nothing was done to them.
"""

from __future__ import annotations

import math
from itertools import takewhile

from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.edit.pages.order import add_pages, delete_pages, insert_pages
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_section, find_story, links
from hidden_frame.model.publication import MAX_PAGES, Page, Publication
from hidden_frame.model.stories import Story
from hidden_frame.settle.rules import ruling
from hidden_frame.settle.slices import Slices

_TRIES = 40


class Growth:
    """The growing stories of a publication while it is settled.

    It remembers the pages that it took away, which come back as they were if they are needed after
    all, and the stories to which more pages bring no room.
    """

    def __init__(self, publication: Publication, composer: Composer, sliced: bool = True) -> None:
        self.stories = [s.id for s in publication.stories if s.grows and s.sections]
        self.composer, self.sliced = composer, sliced
        self._gone: dict[str, list[Page]] = {}  # by section, the first of them last
        self._vain: set[str] = set()

    def fitted(self, publication: Publication) -> Slices:
        """The publication with the pages that its stories need; itself if it has them."""
        for story_id in self.stories:
            publication = yield from self._fitted(publication, story_id)
        return publication

    def _fitted(self, publication: Publication, story_id: str) -> Slices:
        section = last_section(publication, find_story(publication, story_id))
        if section is None:
            return publication
        for _ in range(_TRIES):
            composition = self.composer.compose(publication)
            yield from composition.filling([story_id], self.sliced)
            flow = composition.flow(story_id)
            count = 0 if story_id in self._vain else _lacking(flow)
            if not count:
                break
            more = yield from self._helped(publication, story_id, section, count, flow)
            if more is publication:
                self._vain.add(story_id)  # other pages take no word of it: it would never end
                break
            publication = more
        return self._shrunk(publication, story_id)

    def _helped(
        self, publication: Publication, story_id: str, section_id: str, count: int, flow: Flow
    ) -> Slices:
        """With so many pages more, or one more than that, if more of the story stands somewhere
        then, in the masters that rules give them; itself if they bring no room."""
        more = publication
        for each in (count, 1):  # it may wait for a page of the other side
            more = self._with_pages(more, section_id, each)
            if more is publication:
                break
            tried = yield from ruling(more, self.composer, self.sliced)
            composition = self.composer.compose(tried)
            yield from composition.filling([story_id], self.sliced)
            if _helps(composition, story_id, flow):
                return tried
        return publication

    def _with_pages(self, publication: Publication, section_id: str, count: int) -> Publication:
        """So many pages more at a section's end, as far as there may be."""
        count = min(count, MAX_PAGES - len(all_pages(publication)))
        if count < 1:
            return publication
        end = len(find_section(publication, section_id).pages)
        again = self._gone.get(section_id, [])
        known = [again.pop() for _ in range(min(count, len(again)))]
        if known:
            publication = insert_pages(publication, section_id, end, known)
        if count == len(known):
            return publication
        try:
            made, ids = add_pages(publication, section_id, end + len(known), count - len(known))
        except Refusal:  # a page that is held behind it, say
            return publication
        return _marked(made, section_id, set(ids))

    def _shrunk(self, publication: Publication, story_id: str) -> Publication:
        """Without the pages that a story made and does not need any more, from its end."""
        flow = self.composer.compose(publication).flow(story_id)
        if flow.rest is not None:
            return publication
        spare = {page.id: page for page in spare_pages(publication, story_id, flow)}
        if not spare:
            return publication
        try:
            without = delete_pages(publication, spare)
        except Refusal:
            return publication
        for section in publication.sections:
            gone = [page for page in section.pages if page.id in spare]
            if gone:
                self._gone[section.id] = [*self._gone.get(section.id, []), *reversed(gone)]
        return without


def _marked(publication: Publication, section_id: str, ids: set[str]) -> Publication:
    """Pages marked as made by a story."""
    pages = tuple(
        replace(page, made=True) if page.id in ids else page
        for page in find_section(publication, section_id).pages
    )
    sections = tuple(
        replace(s, pages=pages) if s.id == section_id else s for s in publication.sections
    )
    return replace(publication, sections=sections)


def last_section(publication: Publication, story: Story) -> str | None:
    """The last section, in the story's order, whose main frames it flows through: what it needs
    is added there."""
    there = {s.id for s in publication.sections}
    return next((s for s in reversed(story.sections) if s in there), None)


def _lacking(flow: Flow) -> int:
    """How many more pages a story needs, as far as the pages that it fills tell."""
    if flow.rest is None:
        return 0
    left = flow.characters_left
    filled = flow.characters - left
    pages = len({s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines})
    if filled <= 0:
        return 1
    return max(1, math.floor(left / (filled / max(pages, 1)) * 0.97))


def _helps(composition: Composition, story_id: str, before: Flow) -> bool:
    after = composition.flow(story_id)
    return before.rest is not None and (after.rest is None or after.rest > before.rest)


def spare_pages(publication: Publication, story_id: str, flow: Flow) -> list[Page]:
    """The pages behind a story's end, in its sections, that it made and that hold nothing of their
    own, from the end of each section; a section keeps its first page."""
    found: list[Page] = []
    used = {s.page_id for s, p in zip(flow.stops, flow.parts, strict=True) if p.lines}
    used |= {page for page, _ in links(publication)}  # another story may stand there
    for section_id in reversed(find_story(publication, story_id).sections):
        pages = next((s.pages for s in publication.sections if s.id == section_id), ())
        spare = [*takewhile(lambda p: p.id not in used and _untouched(p), reversed(pages[1:]))]
        found += spare
        if any(page.id in used for page in pages):
            break
    return found


def _untouched(page: Page) -> bool:
    """Whether a story made the page, and nobody has done anything to it since; what a rule gives
    it is nobody's doing."""
    return page.made and page == Page(id=page.id, made=True, ruled=page.ruled, rule=page.rule)
