"""What can be said of each page from its place: side, spread, folio, section.

>>> facts = page_facts(publication)[page]
>>> facts.folio, facts.position, facts.side
('1', 3, 'recto')
"""

from __future__ import annotations

from bisect import bisect_right
from collections import Counter
from collections.abc import Iterator, Mapping
from functools import cached_property
from itertools import chain, starmap
from typing import Any, NamedTuple

from hidden_frame.compose.numerals import format_number
from hidden_frame.model.geometry import Side
from hidden_frame.model.lookup import positions_in
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Numbering, Page, Publication, Section, Setup
from hidden_frame.model.sides import side_of, spread_of
from hidden_frame.model.sparse import Projection


class PageFacts(NamedTuple):
    """`number` is None where a page is not counted; `folio` is "" where none is printed."""

    page_id: str
    position: int
    pages: int
    side: Side
    spread: int
    number: int | None
    folio: str
    section_id: str
    section_name: str
    section_pages: int
    section_last_folio: str
    blind: bool

    @property
    def hides_folio(self) -> bool:
        """Whether items that show a folio are left out on this page (R17, R18)."""
        return self.blind or not self.folio


class Facts(Mapping[str, PageFacts]):
    """Facts of every page by id, in the order of the pages; worked out for those that are asked
    for."""

    def __init__(self, sections: tuple[_Told, ...], order: Mapping[str, int], setup: Setup) -> None:
        self._sections, self._setup, self._order = sections, setup, order
        self._begins: list[int] = []  # the position of the first page of each section
        self._first: list[int | None] = []  # and its number
        position, last = 1, 0
        for section in sections:
            number = _first_number(section, last)
            self._begins.append(position)
            self._first.append(number)
            position += len(section.blind)
            if number is not None and section.blind:
                last = number + len(section.blind) - 1
        self._made: dict[str, PageFacts] = {}

    @cached_property
    def order(self) -> tuple[str, ...]:
        """The ids of the pages in their order."""
        return tuple(self._order)

    @cached_property
    def sections(self) -> tuple[tuple[str, tuple[str, ...]], ...]:
        """The id of each section, and the ids of its pages."""
        ends = [*self._begins[1:], len(self._order) + 1]
        return tuple(
            (section.id, self.order[begin - 1 : end - 1])
            for section, begin, end in zip(self._sections, self._begins, ends, strict=True)
        )

    @cached_property
    def spans(self) -> tuple[tuple[str, int, int], ...]:
        """Each section that has pages: its id, and between which indexes in `order` they are."""
        begins = zip(self.sections, self._begins, strict=True)
        return tuple(
            (section, begin - 1, begin - 1 + len(pages))
            for (section, pages), begin in begins
            if pages
        )

    def twice(self) -> list[str]:
        """The ids of the pages, in order, whose folios other pages have too."""
        folios = [
            _folio(section, None if first is None else first + n)
            for section, first in zip(self._sections, self._first, strict=True)
            for n in range(len(section.blind))
        ]
        several = {folio for folio, count in Counter(folios).items() if count > 1 and folio}
        if not several:
            return []
        return [page for page, folio in zip(self._order, folios, strict=True) if folio in several]

    def __iter__(self) -> Iterator[str]:
        return iter(self._order)

    def __len__(self) -> int:
        return len(self._order)

    def __contains__(self, page_id: object) -> bool:
        return page_id in self._order

    def __getitem__(self, page_id: str) -> PageFacts:
        found = self._made.get(page_id)
        if found is None:
            found = self._made[page_id] = self._of(page_id, self._order[page_id])
        return found

    def _of(self, page_id: str, position: int) -> PageFacts:
        at = bisect_right(self._begins, position) - 1
        section, first, begin = self._sections[at], self._first[at], self._begins[at]
        count = len(section.blind)
        number = None if first is None else first + position - begin
        return PageFacts(
            page_id,
            position,
            len(self._order),
            side_of(position, self._setup),
            spread_of(position, self._setup),
            number,
            _folio(section, number),
            section.id,
            section.name,
            count,
            _folio(section, None if first is None else first + count - 1),
            section.blind[position - begin],
        )


class _Told(NamedTuple):
    """What the facts of a section's pages come from: `blind` tells of each whether it is."""

    id: str
    name: str
    numbering: Numbering
    blind: tuple[bool, ...]


_blind: Projection[Page, bool] = Projection(lambda page: page.blind)


def page_facts(publication: Publication) -> Facts:
    """Facts of every page by id, in the order of the pages."""
    return facts_of(publication.sections, publication.setup)


@remembered()
def facts_of(sections: tuple[Section, ...], setup: Setup) -> Facts:
    """The same from the parts that facts depend on; what stands on pages leaves them alone, and so
    do changes of masters."""
    told = chain.from_iterable((s.id, s.name, s.numbering, _blind(s.pages)) for s in sections)
    return _facts(positions_in(sections), setup, *told)


@remembered()
def _facts(order: Mapping[str, int], setup: Setup, *told: Any) -> Facts:
    sections = tuple(starmap(_Told, zip(*[iter(told)] * len(_Told._fields), strict=True)))
    return Facts(sections, order, setup)


def _first_number(section: _Told, last: int) -> int | None:
    """The number of a section's first page, carrying on from `last` (R16, R17)."""
    numbering = section.numbering
    if numbering.style == "none" and not numbering.counted:
        return None
    return last + 1 if numbering.start is None else numbering.start


def _folio(section: _Told, number: int | None) -> str:
    if number is None or section.numbering.style == "none":
        return ""
    return section.numbering.prefix + format_number(number, section.numbering.style)


def page_name(facts: PageFacts) -> str:
    """A page named by folio and position together: “iv (#6)”, or “#6” without folio."""
    return f"{facts.folio} (#{facts.position})" if facts.folio else f"#{facts.position}"


def ordinal(number: int) -> str:
    """1st, 2nd, 3rd, 4th …"""
    ending = {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number}{'th' if 10 <= number % 100 <= 20 else ending}"


def describe(facts: PageFacts, page: Page) -> str:
    """The status line of a page: “prints as 12 · 16th of 48 · recto · Spring”."""
    if not facts.folio:
        shown = "prints no folio"
    elif facts.blind:
        shown = f"counts as {facts.folio}, blind"
    else:
        shown = f"prints as {facts.folio}"
    parts = [shown, f"{ordinal(facts.position)} of {facts.pages}", facts.side]
    if facts.section_name:
        parts.append(facts.section_name)
    return " · ".join(parts)
