"""What every marker shows on a page (R21, R28), and what its chip says on a master.

>>> from hidden_frame.compose.facts import page_facts
>>> marker_value(Marker("folio"), page_facts(publication)[page], publication)
'1'
"""

from __future__ import annotations

from typing import Protocol

from hidden_frame.compose.dates import written
from hidden_frame.compose.facts import PageFacts
from hidden_frame.compose.given import Given
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Detail, Publication
from hidden_frame.model.text import Head, Marker, MarkerKind, Text


@remembered(passing=True)
def markers_in(text: Text) -> tuple[Marker, ...]:
    """Every marker of a text, in order."""
    return tuple(piece for p in text for piece in p.content if isinstance(piece, Marker))


# Those that need no more than a click; details, dates and running heads are chosen.
LABELS: dict[MarkerKind, str] = {
    "folio": "Folio",
    "page count": "Page count",
    "section pages": "Section pages",
    "section last folio": "Last folio",
    "section name": "Section",
    "previous section": "Section before",
    "next section": "Section after",
    "title": "Title",
    "story name": "Story",
    "facing folio": "Folio of the facing page",
    "continued on": "Folio where the story goes on",
    "continued from": "Folio where the story comes from",
    "file name": "File name",
    "date": "Date",
}


class Derived(Protocol):
    """What the laid-out text says of a page."""

    def said(self, marker: Marker, facts: PageFacts) -> str:
        """What a marker shows that depends on texts; "" if there is nothing."""


def every_marker(details: tuple[Detail, ...]) -> list[tuple[str, Marker]]:
    """Every marker that a text can show without being asked how, with its name in a list."""
    found = [(label, Marker(kind)) for kind, label in LABELS.items() if kind != "date"]
    return found + [(f"{d.name}: {d.value}", Marker("detail", d.name)) for d in details]


_WHICH = {"first": "first", "last": "last", "at the top": "at the top", "before": "before"}
_OVER = {"page": "", "spread": " of the spread", "facing page": " of the facing page"}


def head_label(head: Head, publication: Publication | None) -> str:
    """“Chapter title, first”: a running head in a few words."""
    names: dict[str, str] = {}
    if publication is not None:
        names = {s.id: s.name for s in publication.character_styles}
        names |= {s.id: s.name for s in publication.paragraph_styles}
    name = names.get(head.style, "Running head")
    part = {"text": "", "number": ", number", "number and text": ", with number"}[head.part]
    return f"{name}, {_WHICH[head.which]}{_OVER[head.over]}{part}"


def marker_label(marker: Marker, publication: Publication | None = None) -> str:
    """What a marker's chip says on a master."""
    if marker.shows == "detail":
        return marker.detail or "Detail"
    if marker.shows == "reference":
        return referred(marker)
    if marker.head is not None:
        return head_label(marker.head, publication)
    return LABELS.get(marker.shows, "Running head")


def steady_value(
    marker: Marker, pages: int, publication: Publication, story: str, given: Given
) -> str:
    """What a marker shows in a story; its label if that depends on the page."""
    match marker.shows:
        case "page count":
            return str(pages)
        case "story name":
            return story
        case "reference":
            return referred(marker)
        case "title" | "detail" | "date" | "file name":
            return _of_publication(marker, publication, given)
    return marker_label(marker, publication)


def referred(marker: Marker) -> str:
    """What a reference says; a question mark where what it refers to is gone."""
    return (marker.refers.said if marker.refers is not None else "") or "?"


def _of_publication(marker: Marker, publication: Publication, given: Given) -> str:
    match marker.shows:
        case "title":
            return publication.title
        case "date":
            return written(given.today, marker.form, publication.about.language)
        case "file name":
            return given.file or publication.title
    found = next((d.value for d in publication.details if d.name == marker.detail), None)
    return f"[{marker.detail}]" if found is None else found


def marker_value(
    marker: Marker,
    facts: PageFacts,
    publication: Publication,
    derived: Derived | None = None,
    given: Given = Given(),
) -> str:
    """What a marker shows on a page (R21); what depends on texts is asked of `derived`."""
    match marker.shows:
        case "reference":
            return referred(marker)
        case "folio":
            return facts.folio
        case "page count":
            return str(facts.pages)
        case "section pages":
            return str(facts.section_pages)
        case "section last folio":
            return facts.section_last_folio
        case "section name":
            return facts.section_name
        case "next section" | "previous section":
            return _neighbour(publication, facts, 1 if marker.shows == "next section" else -1)
        case "title" | "detail" | "date" | "file name":
            return _of_publication(marker, publication, given)
    return derived.said(marker, facts) if derived is not None else marker_label(marker, publication)


def _neighbour(publication: Publication, facts: PageFacts, by: int) -> str:
    """The name of the section before or after a page's own; "" if there is none."""
    sections = publication.sections
    at = next(n for n, section in enumerate(sections) if section.id == facts.section_id) + by
    return sections[at].name if 0 <= at < len(sections) else ""
