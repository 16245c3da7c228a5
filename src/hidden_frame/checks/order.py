"""Doubtful things about order and numbering; none of them is forbidden."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping

from msgspec.structs import replace

from hidden_frame.checks.finding import Finding, Fix, Way
from hidden_frame.checks.numbering import page_before
from hidden_frame.compose.departures import departures
from hidden_frame.compose.facts import PageFacts, page_facts, page_name
from hidden_frame.compose.numerals import in_range
from hidden_frame.edit.masters.overrides import follow_items
from hidden_frame.edit.pages.order import fill_up
from hidden_frame.edit.pages.sections import change_numbering, delete_section
from hidden_frame.edit.pages.ties import tied_pairs, untie
from hidden_frame.interact.hands.halves import in_halves, parted_halves
from hidden_frame.model.lookup import (
    all_pages,
    base_chain,
    masters_by_id,
    stack_of,
)
from hidden_frame.model.publication import Publication, Section
from hidden_frame.model.sides import missing


def _in_figures(section: Section) -> Fix:
    decimal = replace(section.numbering, style="decimal")
    return lambda p: change_numbering(p, section.id, decimal)


def _without(section_id: str) -> Fix:
    return lambda p: delete_section(p, section_id, pages=False)


def _untied(page_id: str) -> Fix:
    return lambda p: untie(p, (page_id,))


def _following(holder_id: str, item_id: str) -> Fix:
    return lambda p: follow_items(p, holder_id, (item_id,))


def openings(publication: Publication, facts: Mapping[str, PageFacts]) -> Iterator[Finding]:
    """A section that starts on another side than its first page's master opens on."""
    if not publication.setup.facing:
        return
    names = masters_by_id(publication)
    for section in publication.sections:
        if not section.pages:
            continue
        page = section.pages[0]
        wanted, master = "either", ""
        for top in stack_of(publication, page):
            for each in base_chain(publication, top):
                if each.opens != "either":
                    wanted, master = each.opens, each.id
        if wanted != "either" and facts[page.id].side != wanted:
            name = section.name or "A section"
            yield Finding(
                "opening side",
                f"{name} starts on a {facts[page.id].side}, {page_name(facts[page.id])}, and its "
                f"master “{names[master].name}” is for a {wanted}.",
                page.id, (page.id,), (Way(f"Add a page before {name}", page_before(section)),),
            )  # fmt: skip


def out_of_range(publication: Publication, facts: Mapping[str, PageFacts]) -> Iterator[Finding]:
    """Numbers that a style can't write, and that are printed in figures instead (R16)."""
    for section in publication.sections:
        style = section.numbering.style
        if style == "none":
            continue
        beyond = [
            p.id
            for p in section.pages
            if (number := facts[p.id].number) is not None and not in_range(number, style)
        ]
        if beyond:
            number = facts[beyond[0]].number
            name = section.name or "A section"
            reach = 3999 if "roman" in style else 26 * 40
            yield Finding(
                "out of range",
                f"{name} counts to {number} in {style}, which reaches only {reach}; such pages "
                "print plain figures.",
                beyond[0], tuple(beyond), (Way("Number it in figures", _in_figures(section)),),
            )  # fmt: skip


def empty_sections(publication: Publication) -> Iterator[Finding]:
    for section in publication.sections:
        if not section.pages and len(publication.sections) > 1:
            section_id = section.id
            yield Finding(
                "empty section",
                f"The section “{section.name or 'without a name'}” has no pages.",
                ways=(Way("Delete the section", _without(section_id)),),
            )


def parted_ties(publication: Publication, facts: Mapping[str, PageFacts]) -> Iterator[Finding]:
    for a, b in tied_pairs(publication):
        if facts[a.id].spread != facts[b.id].spread:
            yield Finding(
                "parted spread",
                f"{page_name(facts[a.id])} and {page_name(facts[b.id])} are tied as a spread and "
                "don't face each other.",
                a.id, (a.id, b.id),
                (*_halves(publication, facts, a.id, b.id), Way("Separate them", _untied(a.id))),
            )  # fmt: skip
    pairs = {p.id for pair in tied_pairs(publication) for p in pair}
    for page in all_pages(publication):
        if page.tie is not None and page.id not in pairs:
            yield Finding(
                "parted spread",
                f"{page_name(facts[page.id])} was kept with a page that no longer exists.",
                page.id, (page.id,), (Way("Let it go alone", _untied(page.id)),),
            )  # fmt: skip


def _halves(
    publication: Publication, facts: Mapping[str, PageFacts], first: str, second: str
) -> Iterator[Way]:
    """What reached over the spine from one page to the other, in two halves on both."""
    cut = parted_halves(publication, first, second)
    if cut:
        where = page_name(facts[cut[0].partner])
        yield Way(f"Put the other half on {where}", lambda p: untie(in_halves(p, cut), (first,)))


def sheets(publication: Publication) -> Iterator[Finding]:
    count = len(all_pages(publication))
    lacking = missing(count, publication.setup)
    if lacking:
        pages = f"{lacking} page{'s are' if lacking > 1 else ' is'}"
        yield Finding(
            "sheets",
            f"{count} pages: {pages} missing to a multiple of {publication.setup.sheet}.",
            all_pages(publication)[-1].id,
            ways=(
                Way(f"Add {lacking} before the last page", lambda p: fill_up(p, lacking, None)[0]),
            ),
        )


def asleep(publication: Publication) -> Iterator[Finding]:
    """Overrides without effect (R11)."""
    known = masters_by_id(publication)
    for each in departures(publication):
        if each.asleep:
            holder, item = each.holder_id, each.item_id
            yield Finding(
                "sleeping override", each.asleep,
                None if holder in known else holder, () if holder in known else (holder,),
                (Way("Drop the override", _following(holder, item)),),
            )  # fmt: skip


def with_facts(
    check: Callable[[Publication, Mapping[str, PageFacts]], Iterable[Finding]],
) -> Callable[[Publication], Iterable[Finding]]:
    return lambda publication: check(publication, page_facts(publication))
