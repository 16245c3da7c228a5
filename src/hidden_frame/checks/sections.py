"""Sections whose paragraph is gone, and pages that nothing stands on since their text went."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec.structs import replace

from hidden_frame.checks.finding import Finding, Way
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import page_name
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.pages.order import delete_pages
from hidden_frame.edit.pages.sections import begin_with
from hidden_frame.interact.hands.empty_pages import Empty, WaitingPages, empty_pages, waiting_pages
from hidden_frame.interact.words.beginning import heading_on, shortened
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.publication import Publication, Section
from hidden_frame.settle.beginnings import Beginning, beginnings


def section_findings(composition: Composition) -> Iterator[Finding]:
    """Both, in the order of the pages."""
    for beginning in beginnings(composition):
        if not beginning.there:
            yield _astray(composition, beginning)
    for empty in empty_pages(composition):
        yield _left_empty(composition, empty)
    for waiting in waiting_pages(composition):
        yield _waits(composition, waiting)


def _astray(composition: Composition, beginning: Beginning) -> Finding:
    section, words, page, _ = beginning
    first = section.pages[0].id
    here = page_name(composition.facts[first])
    name = f"“{section.name}”" if section.name else f"The section at {here}"
    if not words:
        said = (
            f"{name} was to begin with a paragraph that no longer exists; it begins with page "
            f"{here}."
        )
    elif not page:
        said = f"{name} was to begin with “{shortened(words)}”, which has no room on any page."
    else:
        there = page_name(composition.facts[page])
        said = (
            f"{name} was to begin with “{shortened(words)}”, which is on page {there}, out of "
            f"the order of the sections. It begins with page {here}."
        )
    return Finding("astray section", said, first, (first,), _ways(composition, section))


def _ways(composition: Composition, section: Section) -> tuple[Way, ...]:
    ways = []
    heading = heading_on(composition, section.pages[0].id)
    if heading is not None:
        place = heading.place
        ways.append(Way(
            f"Begin with “{shortened(heading.words, 24)}”",
            lambda p: begin_with(p, section.id, place),
        ))  # fmt: skip
    ways.append(Way("Begin with its first page", lambda p: begin_with(p, section.id, None)))
    return tuple(ways)


def _waits(composition: Composition, waiting: WaitingPages) -> Finding:
    count, facts = len(waiting.pages), composition.facts
    known = {s.id: s for s in composition.publication.paragraph_styles}
    names = " and ".join(f"“{known[s].name}”" for s in waiting.styles)
    first = page_name(facts[waiting.pages[0]])
    where = f"Page {first} is" if count == 1 else f"{count} pages, the first {first}, are"
    said = (
        f"{where} empty, since {names} begins on another side; a rule for pages without text can "
        "make them blank ones."
    )

    def anywhere(publication: Publication) -> Publication:
        for style in waiting.styles:
            now = paragraph_style(publication, style)
            publication = put_paragraph_style(publication, replace(now, starts="page"))
        return publication

    way = Way(f"Let {names} begin on either side", anywhere)
    return Finding("waiting pages", said, waiting.pages[0], waiting.pages, (way,))


def _left_empty(composition: Composition, empty: Empty) -> Finding:
    count, facts = len(empty.pages), composition.facts
    first = page_name(facts[empty.pages[0]])
    where = f"Page {first} is" if count == 1 else f"{count} pages, the first {first}, are"
    said = f"{where} empty: the story “{empty.story}” {empty.why}."
    way = Way("Take it out" if count == 1 else "Take them out",
              lambda p: delete_pages(p, empty.pages))  # fmt: skip
    return Finding("empty pages", said, empty.pages[0], empty.pages, (way,))
