"""What can be said of each page from its place: side, spread, folio, section.

>>> facts = page_facts(publication)[page]
>>> facts.folio, facts.position, facts.side
('1', 3, 'recto')
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.numerals import format_number
from hidden_frame.compose.sides import side_of, spread_of
from hidden_frame.model.geometry import Side
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Numbering, Page, Publication, Section, Setup
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


def page_facts(publication: Publication) -> dict[str, PageFacts]:
    """Facts of every page by id, in the order of the pages."""
    return facts_of(publication.sections, publication.setup)


class _Told(NamedTuple):
    """What the facts of a section's pages come from: `pages` are their ids, and whether each is
    blind."""

    id: str
    name: str
    numbering: Numbering
    pages: tuple[tuple[str, bool], ...]


_pages: Projection[Page, tuple[str, bool]] = Projection(lambda page: (page.id, page.blind))


@remembered()
def facts_of(sections: tuple[Section, ...], setup: Setup) -> dict[str, PageFacts]:
    """The same from the parts that facts depend on; what stands on pages leaves them alone, and so
    do changes of masters."""
    return _facts(tuple(_Told(s.id, s.name, s.numbering, _pages(s.pages)) for s in sections), setup)


@remembered(by_value=("sections",))
def _facts(sections: tuple[_Told, ...], setup: Setup) -> dict[str, PageFacts]:
    result: dict[str, PageFacts] = {}
    count = sum(len(section.pages) for section in sections)
    position, last = 0, 0
    for section in sections:
        numbers = section_numbers(section, last)
        last = next((n for n in reversed(numbers) if n is not None), last)
        folios = [_folio(section, n) for n in numbers]
        highest = folios[-1] if folios else ""
        pages = len(section.pages)
        for (page, blind), number, folio in zip(section.pages, numbers, folios, strict=True):
            position += 1
            result[page] = PageFacts(
                page,
                position,
                count,
                side_of(position, setup),
                spread_of(position, setup),
                number,
                folio,
                section.id,
                section.name,
                pages,
                highest,
                blind,
            )
    return result


def section_numbers(section: Section | _Told, last: int) -> list[int | None]:
    """The number of each page of a section, carrying on from `last` (R16, R17)."""
    numbering = section.numbering
    count = len(section.pages)
    if numbering.style == "none" and not numbering.counted:
        return [None] * count
    first = last + 1 if numbering.start is None else numbering.start
    return list(range(first, first + count))


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
