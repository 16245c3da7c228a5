"""What every marker shows on a page (R21), and what its chip says on a master.

>>> from hidden_frame.compose.facts import page_facts
>>> marker_value(Marker("folio"), page_facts(publication)[page], "", ())
'1'
"""

from __future__ import annotations

from hidden_frame.compose.facts import PageFacts
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Detail
from hidden_frame.model.text import Marker, MarkerKind, Text


@remembered()
def markers_in(text: Text) -> tuple[Marker, ...]:
    """Every marker of a text, in order."""
    return tuple(piece for p in text for piece in p.content if isinstance(piece, Marker))


LABELS: dict[MarkerKind, str] = {
    "folio": "Folio",
    "page count": "Page count",
    "section pages": "Section pages",
    "section last folio": "Last folio",
    "section name": "Section",
    "title": "Title",
}


def every_marker(details: tuple[Detail, ...]) -> list[tuple[str, Marker]]:
    """Every marker that a text can show, with its name in a list."""
    found = [(label, Marker(kind)) for kind, label in LABELS.items()]
    return found + [(f"{d.name}: {d.value}", Marker("detail", d.name)) for d in details]


def marker_label(marker: Marker) -> str:
    """What a marker's chip says on a master."""
    return marker.detail or "Detail" if marker.shows == "detail" else LABELS[marker.shows]


def steady_value(marker: Marker, pages: int, title: str, details: tuple[Detail, ...]) -> str:
    """What a marker shows in a story; its label if that depends on the page."""
    if marker.shows == "page count":
        return str(pages)
    if marker.shows == "title":
        return title
    if marker.shows == "detail":
        found = next((d.value for d in details if d.name == marker.detail), None)
        return f"[{marker.detail}]" if found is None else found
    return marker_label(marker)


def marker_value(marker: Marker, facts: PageFacts, title: str, details: tuple[Detail, ...]) -> str:
    """What a marker shows on a page (R21)."""
    match marker.shows:
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
        case "title":
            return title
        case "detail":
            found = next((d.value for d in details if d.name == marker.detail), None)
            return f"[{marker.detail}]" if found is None else found
