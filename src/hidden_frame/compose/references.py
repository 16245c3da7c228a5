"""What references refer to: the paragraphs that have a place, and where they stand."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.heads import plain_words
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Page, Publication, Section
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.text import Paragraph, Reference, Text


class Referred(NamedTuple):
    """A paragraph that something refers to: its words and number, its page and that one's folio."""

    text: str
    number: str
    page: str
    folio: str

    def said(self, reference: Reference) -> str:
        """What a reference tells of it."""
        match reference.tells:
            case "folio":
                return self.folio
            case "number":
                return self.number
            case "number and text":
                return f"{self.number.rstrip()} {self.text}".strip()
        return self.text


_places: Sparse[Paragraph, str] = Sparse(lambda paragraph: paragraph.place or None)


def places_in(text: Text) -> list[int]:
    """The numbers of the paragraphs of a text that have a place."""
    return [n for n, _ in _places(text)]


def all_places(publication: Publication) -> set[str]:
    """The places that paragraphs of stories, or of texts on pages, have."""
    own = {paragraph.place for _, paragraph in _own_places(publication.sections)}
    return own.union(s.text[n].place for s in publication.stories for n in places_in(s.text))


def paragraph_at(composition: Composition, place: str) -> tuple[str, str]:
    """What the paragraph of a story that has a place says, and the page on which it begins; "" for
    either where it is gone, or has no room.  Of two with the same place the first counts."""
    for story in composition.publication.stories:
        for n in places_in(story.text):
            if story.text[n].place == place:
                flow = composition.flow(story.id)
                at = flow.stop_of(n, 0)
                page = flow.stops[at].page_id if at is not None else ""
                return plain_words(story.text[n]), page
    return "", ""


def _of_page(page: Page) -> tuple[tuple[str, Paragraph], ...] | None:
    return tuple(
        (page.id, paragraph) for item in page.items
        if isinstance(item, TextFrame) and item.visible
        for paragraph in item.text if paragraph.place
    ) or None  # fmt: skip


_on_pages: Sparse[Page, tuple[tuple[str, Paragraph], ...]] = Sparse(_of_page)


def _own_places(sections: tuple[Section, ...]) -> tuple[tuple[str, Paragraph], ...]:
    """The same for texts that pages hold themselves, each with its page."""
    return tuple(
        place for section in sections for _, found in _on_pages(section.pages) for place in found
    )


def places(composition: Composition) -> dict[str, Referred]:
    """Every place that stands on a page, by its id; of two with the same one the first counts."""
    publication, facts = composition.publication, composition.facts
    found: dict[str, Referred] = {}
    for story in publication.stories:
        numbers = places_in(story.text)
        flow = composition.flow(story.id) if numbers else None
        labels = composition.labels(story.id) if numbers else None
        where = flow.stops_of([(n, 0) for n in numbers]) if flow is not None else []
        stands = dict(zip(numbers, where, strict=True))
        for n in numbers:
            assert flow is not None
            paragraph, at = story.text[n], stands[n]
            if at is not None:
                page = flow.stops[at].page_id
                number = labels[n] if labels is not None else ""
                found.setdefault(paragraph.place, Referred(
                    plain_words(paragraph), number, page, facts[page].folio
                ))  # fmt: skip
    for page, paragraph in _own_places(publication.sections):
        found.setdefault(
            paragraph.place, Referred(plain_words(paragraph), "", page, facts[page].folio)
        )
    return found
