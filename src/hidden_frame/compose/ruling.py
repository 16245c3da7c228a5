"""Which masters automatic pages follow by rule, from the front page by page (R27).

A page is looked at in the masters that it follows anyway, its section's or those of a rule that
runs on; where a paragraph of a rule's style begins on it then, it follows that rule's, whatever
that moves.  So what a page follows depends on the pages before it alone, and one walk settles all
of them once nothing is moved any more.
"""

from __future__ import annotations

from bisect import bisect_left
from functools import cache
from typing import NamedTuple

from hidden_frame.compose.cascade import page_items, stack_items
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.context import context_of
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.compose.stories.stops import Stop, main_stops
from hidden_frame.model.items import TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import find_story, story_through
from hidden_frame.model.publication import MasterRule, Page, Publication, Section
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.text import Paragraph
from hidden_frame.typeset.fill import Where
from hidden_frame.typeset.segments import TextOffset

_OF_PLACE = ("first", "last", "odd", "even")  # rules that no text decides


class RuledStarts(NamedTuple):
    """Paragraphs of the rules' styles: their numbers, and their styles."""

    numbers: list[int]
    styles: list[str]


class _Page(NamedTuple):
    """What begins on a page, and whether it is without any text."""

    styles: frozenset[str]
    empty: bool


def ruled_pages(composition: Composition) -> dict[str, MasterRule | None]:
    """The rule that each automatic page follows, by what the pages show now."""
    publication = composition.publication
    if not publication.rules:
        return {}
    through = {s for story in publication.stories for s in story.sections}
    flows = [composition.flow(s.id) for s in publication.stories if through & set(s.sections)]
    made_of = (
        publication.sections, publication.masters, publication.default_masters, publication.rules,
        context_of(publication), *flows,
    )  # fmt: skip
    return composition.ruled(made_of, lambda: _walked(composition))


def _walked(composition: Composition) -> dict[str, MasterRule | None]:
    publication = composition.publication
    found: dict[str, MasterRule | None] = {}
    running: MasterRule | None = None
    for section in publication.sections:
        walk = _Walk(composition, section)
        if running is not None and running.until == "section":
            running = None
        for number, page in enumerate(section.pages):
            chosen, running = walk.page(number, page, running)
            if page.masters is None:
                found[page.id] = chosen
    return found


def unsettled(composition: Composition) -> list[tuple[str, MasterRule]]:
    """Pages that follow a rule, for that page alone, whose paragraph does not begin on them in its
    masters: what it begins on has moved."""
    publication = composition.publication
    rules = {r.id: r for r in publication.rules if r.when == "style" and r.until == "page"}
    found: list[tuple[str, MasterRule]] = []
    for section in publication.sections if rules else ():
        walk = _Walk(composition, section)
        for page in section.pages:
            rule = rules.get(page.rule) if page.masters is None else None
            if rule is not None and rule.style not in walk.now(page).styles:
                found.append((page.id, rule))
            walk.pass_by(page)
    return found


class _Walk:
    """The pages of a section, one after the other."""

    def __init__(self, composition: Composition, section: Section) -> None:
        self.composition, self.section = composition, section
        self.publication = composition.publication
        self.rules = [
            rule for rule in self.publication.rules
            if not rule.sections or section.id in rule.sections
        ]  # fmt: skip
        story = story_through(self.publication, section.id)
        self.flow = composition.flow(story.id) if story is not None else None
        self.begun = _begun(self.publication, story.id if story is not None else "")
        self.stop = self._first_stop(self.flow, section)
        self.always = any(rule.when in ("odd", "even") for rule in self.rules)
        self.parts = self.flow.parts if self.flow is not None else []
        places = [(n, 0) for n in self.begun.numbers]
        stops = self.flow.stops_of(places) if self.flow is not None and places else []
        self.at = sorted(at for at in stops if at is not None)

    @staticmethod
    def _first_stop(flow: Flow | None, section: Section) -> int:
        """The number of the first of the flow's stops that stands in a section."""
        here = {page.id for page in section.pages}
        stops = flow.stops if flow is not None else ()
        return next((n for n, stop in enumerate(stops) if stop.page_id in here), len(stops))

    def page(
        self, number: int, page: Page, running: MasterRule | None
    ) -> tuple[MasterRule | None, MasterRule | None]:
        """The rule of the next page, and the one that runs on behind it."""
        if running is None and self._plain(number, page):  # most pages by far
            self.pass_by(page)
            return None, None
        seen = self._seen(page, running)
        chosen = next(
            (rule for rule in self.rules
             if (rule is running and self._takes_text(page, rule))
             or self._is_so(rule, number, page)
             or (rule.when == "style" and rule.style in seen.styles and self._begins(page, rule))
             or (rule.when == "no text" and seen.empty)), None,
        )  # fmt: skip
        if chosen is not None and chosen.when in _OF_PLACE:
            seen = self._seen(page, chosen)  # what begins on it, now that it follows that
        begins = [r for r in self.rules if r.when == "style" and r.style in seen.styles]
        if begins:  # a rule for that page alone ends what runs “until another rule”, too
            first = begins[0]
            if first.until != "page":
                running = first
            elif running is not None and running.until == "rule":
                running = None
        self.pass_by(page)
        return chosen, running

    def _takes_text(self, page: Page, rule: MasterRule) -> bool:
        """Whether text can stand on a page in a rule's masters at all: a rule that text decides
        takes no frame from it, for then the text would go on to the next page, and so would the
        rule, to the end of the book."""
        return self.flow is None or bool(self._stops(page, rule.masters))

    def _begins(self, page: Page, rule: MasterRule) -> bool:
        """Whether any of the text that is to begin on a page stands there in a rule's masters."""
        if self.flow is None or (page.masters is None and page.ruled == rule.masters):
            return self.flow is None or self._lines(page) > 0
        stops, begin = self._stops(page, rule.masters), self.flow.where(self.stop)
        return self.composition.trials.tried(self.flow, stops, self.stop, begin).lines > 0

    def _lines(self, page: Page) -> int:
        """How many lines of the story stand on a page now."""
        assert self.flow is not None
        last = self._behind(page)
        return sum(part.lines for part in self.flow.parts_to(last)[self.stop : last])

    def _behind(self, page: Page) -> int:
        """The number behind the last of the flow's stops that stand on a page."""
        assert self.flow is not None
        last = self.stop
        while last < len(self.flow.stops) and self.flow.stops[last].page_id == page.id:
            last += 1
        return last

    def _plain(self, number: int, page: Page) -> bool:
        """Whether a page follows no rule, nothing that rules ask for begins on it, and some text
        stands there."""
        if self.always or page.masters is not None or page.ruled is not None:
            return False
        if number in (0, len(self.section.pages) - 1) or self.flow is None:
            return False
        last = self._behind(page)
        if not any(part.lines for part in self.parts[self.stop : last]):
            return False
        first = bisect_left(self.at, self.stop)
        return first == len(self.at) or self.at[first] >= last

    def _is_so(self, rule: MasterRule, number: int, page: Page) -> bool:
        """Whether a rule that no text decides is for a page."""
        match rule.when:
            case "first":
                return number == 0
            case "last":
                return number == len(self.section.pages) - 1
            case "odd" | "even":
                facts = self.composition.facts[page.id]
                counted = facts.position if facts.number is None else facts.number
                return counted % 2 == (1 if rule.when == "odd" else 0)
        return False

    def pass_by(self, page: Page) -> None:
        """Goes on behind a page."""
        stops = self.flow.stops if self.flow is not None else ()
        while self.stop < len(stops) and stops[self.stop].page_id == page.id:
            self.stop += 1

    def _seen(self, page: Page, base: MasterRule | None) -> _Page:
        """What begins on a page in the masters that it follows anyway, those of `base` if a rule
        says so."""
        own = any(isinstance(i, TextFrame) and i.text and i.visible for i in page.items)
        if self.flow is None:
            return _Page(frozenset(), not own)
        anyway = base.masters if base is not None else self._automatic()
        now = page.masters if page.masters is not None else (
            page.ruled if page.ruled is not None else self._automatic()
        )  # fmt: skip
        if page.masters is not None or now == anyway:
            return self.now(page, own)
        begin = self.flow.where(self.stop)
        stops = self._stops(page, anyway)
        end, lines = self.composition.trials.tried(self.flow, stops, self.stop, begin)
        return _Page(self.begun_between(begin, end), not lines and not own)

    def now(self, page: Page, own: bool = False) -> _Page:
        """What begins on a page as it is; `own` says whether it has a text of its own."""
        if self.flow is None:
            return _Page(frozenset(), not own)
        begin, end = self.flow.where(self.stop), self.flow.where(self._behind(page))
        lines = self._lines(page)
        return _Page(self.begun_between(begin, end), not lines and not own)

    def _automatic(self) -> tuple[str, ...]:
        masters = self.section.masters
        return self.publication.default_masters if masters is None else masters

    def _stops(self, page: Page, stack: tuple[str, ...]) -> tuple[Stop, ...]:
        """The main frames that a page would have with a stack of masters."""
        publication, side = self.publication, self.composition.facts[page.id].side
        items = page_items(publication, page, stack_items(publication, stack, side))
        grid = page_layout(publication, page).grid
        over = self.composition.over(page.id)
        return main_stops(page.id, side, items, grid, over, context_of(publication))

    def begun_between(self, begin: Where, end: Where) -> frozenset[str]:
        """The styles of the paragraphs that begin between two places of the story."""
        first = bisect_left(self.begun.numbers, begin.paragraph + (begin.place > TextOffset()))
        last = bisect_left(self.begun.numbers, end.paragraph + (end.place > TextOffset()))
        return frozenset(self.begun.styles[first:last])


def _begun(publication: Publication, story_id: str) -> RuledStarts:
    wanted = {rule.style for rule in publication.rules if rule.when == "style"}
    if not wanted or not story_id:
        return RuledStarts([], [])
    found = _in_styles(frozenset(wanted))(find_story(publication, story_id).text)
    return RuledStarts([n for n, _ in found], [style for _, style in found])


@cache
def _in_styles(styles: frozenset[str]) -> Sparse[Paragraph, str]:
    return Sparse(lambda paragraph: paragraph.style if paragraph.style in styles else None)
