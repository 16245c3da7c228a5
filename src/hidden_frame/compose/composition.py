"""A publication with everything that can be derived from it, worked out when it is asked for."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import cached_property
from operator import is_
from typing import TYPE_CHECKING, NamedTuple, TypeVar

from hidden_frame.compose.across import (
    across,
    aside,
    joined,
    may_reach,
    partner_of,
    standing_over,
    visitors,
)
from hidden_frame.compose.around import Obstacle
from hidden_frame.compose.cascade import Resolved, page_items, stack_items
from hidden_frame.compose.context import context_of
from hidden_frame.compose.derived import TextFacts
from hidden_frame.compose.facts import PageFacts, page_facts
from hidden_frame.compose.followers import followers
from hidden_frame.compose.lit import lit
from hidden_frame.compose.markers import marker_value
from hidden_frame.compose.scene import Scene
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.compose.stories.part import StoryPart
from hidden_frame.compose.stories.stops import PageInFlow
from hidden_frame.compose.stories.trial import Trials
from hidden_frame.model.geometry import Side
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import (
    all_pages,
    find_page,
    find_story,
    stack_of,
    stories_on,
)
from hidden_frame.model.publication import Page, Publication
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Marker, Text

if TYPE_CHECKING:
    from hidden_frame.compose.composer import Composer

T = TypeVar("T")


class StoryOnPages(NamedTuple):
    """A story, and where on the pages it stands."""

    story: Story
    flow: Flow


class Composition:
    """A publication with everything that can be derived from it."""

    def __init__(self, composer: Composer, publication: Publication) -> None:
        self._composer = composer
        self._stacks: dict[tuple[tuple[str, ...], Side], tuple[Resolved, ...]] = {}
        self._flows: dict[str, Flow] = {}
        self._reaching: dict[str, tuple[str, tuple[Resolved, ...]]] = {}
        self.publication = publication

    def kept(self, of: object, made_of: tuple[object, ...], make: Callable[[], Text]) -> Text:
        """The text of a list, made anew only where what it was made of is another."""
        known = self._composer.lists.get(of)
        if known is None or known[0] != made_of:
            known = self._composer.lists[of] = (made_of, make())
        return known[1]

    def _told_now(self) -> tuple[object, ...]:
        """All that lists and references depend on, and what they say."""
        publication = self.publication
        return (
            publication.sections, publication.masters, publication.setup,
            publication.paragraph_styles,
            *(self.flow(s.id) for s in publication.stories if not s.lists),
            *(s.contents for s in publication.stories), *(s.index for s in publication.stories),
            *(s.notes for s in publication.stories),
            *(s.text for s in publication.stories),
        )  # fmt: skip

    def is_told(self) -> bool:
        """Whether all lists and references are known to be right."""
        known, now = self._composer.told, self._told_now()
        return len(known) == len(now) and all(map(is_, known, now))

    def tell(self) -> None:
        """Lists and references are right now."""
        self._composer.told = self._told_now()

    def ruled(self, made_of: tuple[object, ...], make: Callable[[], T]) -> T:
        """What rules give, worked out anew only where one of the objects that decide is another."""
        known = self._composer.ruling
        if known is None or len(known[0]) != len(made_of) or not all(
            map(is_, known[0], made_of)
        ):  # fmt: skip
            known = self._composer.ruling = (made_of, make())
        return known[1]  # type: ignore[return-value]

    @property
    def trials(self) -> Trials:
        """Pages laid out as they would be with other masters."""
        return self._composer.trials

    @cached_property
    def said(self) -> TextFacts:
        """What the laid-out text says of each page."""
        return TextFacts(self)

    @property
    def facts(self) -> Mapping[str, PageFacts]:
        """Facts of every page, in order."""
        return page_facts(self.publication)

    def scene(self, page_id: str) -> Scene:
        """The page's scene; the same object as before if nothing on the page changed."""
        return lit(self._with_visitors(page_id))

    def _with_visitors(self, page_id: str) -> Scene:
        """The page with what reaches over onto it, its words as on light ground."""
        own = self._own(page_id)
        home, items = self._reached_from(page_id)
        if not items:
            return own
        side = self.facts[home].side
        seen = visitors(
            self._own(home), frozenset(r.item.id for r in items),
            aside(side, self.publication.setup), (home, side),
        )  # fmt: skip
        return joined(own, seen, self.facts[home].position < self.facts[page_id].position)

    def _own(self, page_id: str) -> Scene:
        """The page without what reaches over onto it."""
        page = find_page(self.publication, page_id)
        facts = self.facts[page_id]
        stack = self._stack(page, facts.side)
        faced = bool(self._reached_from(page_id)[0])
        return self._composer.page(
            self.publication, page, facts, stack, self.parts(page_id), self.said,
            self.over(page_id), faced,
        )  # fmt: skip

    def _reached_from(self, page_id: str) -> tuple[str, tuple[Resolved, ...]]:
        """The page that faces a page, "" where none does, and those of its items that reach over
        onto it, nearly always none."""
        found = self._reaching.get(page_id)
        if found is None:
            home = partner_of(self.publication, self.facts, page_id)
            found = (home, self._across(home)) if home else ("", ())
            self._reaching[page_id] = found
        return found

    def _across(self, page_id: str) -> tuple[Resolved, ...]:
        page = find_page(self.publication, page_id)
        if not may_reach(self.publication, page):
            return ()
        side = self.facts[page_id].side
        items = page_items(self.publication, page, self._stack(page, side))
        return across(items, side, context_of(self.publication))

    def over(self, page_id: str) -> tuple[Obstacle, ...]:
        """What stands in the way of a page's text from the page that faces it."""
        home, items = self._reached_from(page_id)
        if not items:
            return ()
        return standing_over(items, home, self.facts[home].side, context_of(self.publication))

    def view(self, page: Page) -> PageInFlow:
        """What a page shows, its side, and what stands in its texts' way."""
        side = self.facts[page.id].side
        items = page_items(self.publication, page, self._stack(page, side))
        grid = page_layout(self.publication, page).grid
        return PageInFlow(side, items, grid, self.over(page.id))

    def _stack(self, page: Page, side: Side) -> tuple[Resolved, ...]:
        key = (stack_of(self.publication, page), side)
        stack = self._stacks.get(key)
        if stack is None:
            stack = self._stacks[key] = stack_items(self.publication, *key)
        return stack

    def flow(self, story_id: str) -> Flow:
        """A story in its frames, on all its pages."""
        found = self._flows.get(story_id)
        if found is None:
            story = find_story(self.publication, story_id)
            found = self._composer.flow(self.publication, story, self.view)
            self._flows[story_id] = found
        return found

    def filling(self, story_ids: Iterable[str], sliced: bool = True) -> Iterator[Publication]:
        """Lays stories out on all their pages, if `sliced` a few at a time; what is laid out is
        told between, so that who waits can show it."""
        for story_id in story_ids:
            for _ in self.flow(story_id).filling(sliced):
                yield self.publication

    def labels(self, story_id: str) -> tuple[str, ...] | None:
        """What stands before each paragraph of a story; None if nothing does."""
        self.flow(story_id)
        return self._composer.labels(story_id)

    def value(self, marker: Marker, page_id: str) -> str:
        """What a marker shows on a page."""
        facts = self.facts[page_id]
        return marker_value(marker, facts, self.publication, self.said, self._composer.given)

    def told(self, page_id: str, item_id: str) -> StoryOnPages | None:
        """The story that a frame on a page shows a part of; None if it shows its own text."""
        if not self.publication.stories or page_id not in self.facts:
            return None
        for story in stories_on(self.publication, page_id):
            flow = self.flow(story.id)
            if (page_id, item_id) in flow.index:
                return StoryOnPages(story, flow)
        return None

    def parts(self, page_id: str) -> dict[str, StoryPart]:
        """What of stories stands on a page, by the id of the frame."""
        if not self.publication.stories:
            return {}
        found: dict[str, StoryPart] = {}
        for story in stories_on(self.publication, page_id):
            flow = self.flow(story.id)
            for item_id in flow.frames.get(page_id, ()):
                part = flow.part(page_id, item_id)
                if part is not None:
                    found[item_id] = part
        return found

    def scenes(self) -> list[Scene]:
        """Every page's scene, in order."""
        from hidden_frame.compose.batches import scenes_of

        return list(scenes_of(self, [page.id for page in all_pages(self.publication)]))

    def master_scene(self, master_id: str, side: Side) -> Scene:
        """A master's face, with markers shown as their labels."""
        return lit(self._composer.master(self.publication, master_id, side))

    def followers(self, master_id: str) -> list[str]:
        """Ids of the pages that follow a master, directly or through one built on it."""
        return followers(self.publication)[master_id]
