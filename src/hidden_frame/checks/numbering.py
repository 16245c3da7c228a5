"""Folios that are printed twice, and right pages that have even ones.

A section that starts its numbers again is told once, whatever follows from it.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.checks.finding import Finding, Fix, Way
from hidden_frame.checks.folios import prints_folio
from hidden_frame.compose.facts import PageFacts, page_facts, page_name
from hidden_frame.edit.pages.order import add_pages
from hidden_frame.edit.pages.sections import change_numbering
from hidden_frame.model.lookup import find_page, find_section
from hidden_frame.model.publication import Publication, Section

Facts = Mapping[str, PageFacts]


def equal_folios(publication: Publication, facts: Facts) -> Iterator[Finding]:
    """Equal folios on different pages (R19), told once for each section that counts again."""
    turned = {run.section: run for run in _runs(publication, facts)}
    for section_id, groups in _again(publication, facts).items():
        section = find_section(publication, section_id)
        first, count = groups[0], len(groups)
        places = " and ".join(f"#{f.position}" for f in first[:3])
        span = f"{groups[0][0].folio} to {groups[-1][0].folio}"
        twice = f"{count} folios are printed twice, {span}, the first on {places}"
        if count == 1:
            twice = f"{_number(len(first))} pages print the folio {first[0].folio}: {places}"
        if section.numbering.start is not None:
            again = section.name or "A section"
            twice = f"{again} counts from {section.numbering.start} again: {twice}"
        if section_id in turned:
            twice += "; from there on right pages have even folios"
        pages = dict.fromkeys(f.page_id for group in groups for f in group)
        if section_id in turned:
            pages |= dict.fromkeys(turned[section_id].pages)
        yield Finding(
            "equal folios", f"{twice}.", first[1].page_id, tuple(pages),
            _ways_apart(publication, section),
        )  # fmt: skip


def _again(publication: Publication, facts: Facts) -> dict[str, list[list[PageFacts]]]:
    """The pages with equal folios, by the section that began to count again before the later of
    them."""
    by_folio: dict[str, list[PageFacts]] = defaultdict(list)
    # Hardly any book counts twice: its pages are not looked at for that.
    twice = page_facts(publication).twice()
    printed = prints_folio(publication, [find_page(publication, page) for page in twice])
    for each in (facts[page] for page in twice):
        if each.page_id in printed:
            by_folio[each.folio].append(each)
    counts_from = _counts_from(publication)
    told: dict[str, list[list[PageFacts]]] = defaultdict(list)
    for same in by_folio.values():
        if len(same) > 1:
            begun = [counts_from[f.section_id] for f in same]
            later = next((n for n, b in enumerate(begun) if b != begun[0]), None)
            told[same[1].section_id if later is None else begun[later]].append(same)
    return told


def _counts_from(publication: Publication) -> dict[str, str]:
    """For each section the one whose numbers it carries on, or itself."""
    found: dict[str, str] = {}
    at = ""
    for section in publication.sections:
        at = section.id if section.numbering.start is not None or not at else at
        found[section.id] = at
    return found


def _ways_apart(publication: Publication, again: Section) -> tuple[Way, ...]:
    """How a section can be told from those before it: it carries on, or its folios get a
    prefix."""
    if again is publication.sections[0]:
        return ()
    name, ways = again.name or "the section", []
    if again.numbering.start is not None:
        ways.append(Way(f"Let {name} carry on", _carry_on(again)))
    known = {s.numbering.prefix for s in publication.sections}
    prefix = next(p for p in (f"{c}-" for c in _initials(name)) if p not in known)
    ways.append(Way(f"Print {name} as {prefix}1, {prefix}2", _prefixed(again, prefix)))
    return tuple(ways)


class _Run(NamedTuple):
    """Pages one after the other whose rights have even folios: the section in which that begins,
    whether with its first page, the pages, and the page where it ends."""

    section: str
    opens: bool
    pages: list[str]
    until: list[str]


def _runs(publication: Publication, facts: Facts) -> list[_Run]:
    """Where right and left change places.  Odd folios on rectos are common practice of the trade,
    with no source."""
    found: list[_Run] = []
    if not publication.setup.facing:
        return found
    usual = True
    for section in publication.sections:
        first = True
        for page in section.pages:
            each = facts[page.id]
            if not each.folio or each.number is None:
                continue
            now = each.number % 2 == (each.side == "recto")
            if not now and usual:
                found.append(_Run(section.id, first, [], []))
            if not now:
                found[-1].pages.append(page.id)
            elif not usual:
                found[-1].until.append(page.id)
            usual, first = now, False
    return found


def even_rectos(publication: Publication, facts: Facts) -> Iterator[Finding]:
    """The section where right pages begin to have even folios; one that counts again what was
    printed before is told by that."""
    again = _again(publication, facts)
    for run in _runs(publication, facts):
        if run.section in again:
            continue
        section = find_section(publication, run.section)
        recto = next((p for p in run.pages if facts[p].side == "recto"), run.pages[0])
        name = section.name or "a section"
        end = f", until {page_name(facts[run.until[0]])}" if run.until else ""
        at = f"From {name} on" if run.opens else f"Within {name}"
        ways = (Way(f"Add a page before {name}", page_before(section)),) if run.opens else ()
        yield Finding(
            "even rectos",
            f"{at} right pages have even folios, as on {page_name(facts[recto])}{end}.",
            recto, tuple(run.pages), ways,
        )  # fmt: skip


def page_before(section: Section) -> Fix:
    """One page more at the end of the section before, or at the start of the first one."""

    def fix(publication: Publication) -> Publication:
        at = next(n for n, s in enumerate(publication.sections) if s.id == section.id)
        before = publication.sections[at - 1] if at else publication.sections[0]
        return add_pages(publication, before.id, len(before.pages) if at else 0)[0]

    return fix


def _initials(name: str) -> Iterator[str]:
    """The name's first letter, then the alphabet's, then numbers."""
    first = name[:1].upper()
    if first.isalpha() and name != "the section":
        yield first
    yield from "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
    yield from map(str, range(1, 10_000))


def _prefixed(section: Section, prefix: str) -> Fix:
    numbering = replace(section.numbering, prefix=prefix)
    return lambda p: change_numbering(p, section.id, numbering)


def _number(count: int) -> str:
    return {2: "Two", 3: "Three", 4: "Four"}.get(count, str(count))


def _carry_on(section: Section) -> Fix:
    numbering = replace(section.numbering, start=None)
    return lambda p: change_numbering(p, section.id, numbering)
