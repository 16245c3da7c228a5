"""The index: terms in the order of their language, with the pages on which they are marked.

Folios stand in the order of the pages, so that roman ones of the front matter come first, and
pages that follow each other are one range.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from hidden_frame.compose.collation import initial, sort_key
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.facts import PageFacts
from hidden_frame.model.items import TextFrame
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Page, Section
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.text import Index, IndexMark, Paragraph, Run, Text


class Marked(NamedTuple):
    """An index mark and the position of the page that it stands on."""

    mark: IndexMark
    position: int


class IndexEntry(NamedTuple):
    """A term with its sub-terms: the positions of its pages in ranges from first to last, the
    terms that are to be seen instead, and those besides."""

    term: str
    pages: tuple[tuple[int, int], ...]
    see: tuple[str, ...]
    see_also: tuple[str, ...]
    subs: tuple[IndexEntry, ...] = ()


def _of_paragraph(paragraph: Paragraph) -> tuple[tuple[int, IndexMark], ...] | None:
    """The index marks of a paragraph, each with its offset."""
    found: list[tuple[int, IndexMark]] = []
    at = 0
    for piece in paragraph.content:
        if isinstance(piece, IndexMark):
            found.append((at, piece))
        at += len(piece.text) if isinstance(piece, Run) else 1
    return tuple(found) or None


_marks: Sparse[Paragraph, tuple[tuple[int, IndexMark], ...]] = Sparse(_of_paragraph)


def marks_in(text: Text) -> list[tuple[int, int, IndexMark]]:
    """The index marks of a text, each with its paragraph and offset."""
    return [(n, at, mark) for n, marks in _marks(text) for at, mark in marks]


def _of_page(page: Page) -> tuple[IndexMark, ...] | None:
    return tuple(
        mark
        for item in page.items if isinstance(item, TextFrame) and item.visible
        for paragraph in item.text for _, mark in _of_paragraph(paragraph) or ()
    ) or None  # fmt: skip


_on_pages: Sparse[Page, tuple[IndexMark, ...]] = Sparse(_of_page)


@remembered()
def _own_marks(sections: tuple[Section, ...]) -> tuple[Marked, ...]:
    """The marks in texts that pages hold themselves."""
    found: list[Marked] = []
    before = 0
    for section in sections:
        found += [Marked(m, before + n + 1) for n, ms in _on_pages(section.pages) for m in ms]
        before += len(section.pages)
    return tuple(found)


def marked(composition: Composition) -> list[Marked]:
    """Every index mark that stands on a page, in the order of the pages."""
    publication, facts = composition.publication, composition.facts
    found = list(_own_marks(publication.sections))
    for story in publication.stories:
        marks = () if story.lists else marks_in(story.text)
        if not marks:
            continue
        flow = composition.flow(story.id)
        positions = [facts[stop.page_id].position for stop in flow.stops]
        places = flow.stops_of([(paragraph, offset) for paragraph, offset, _ in marks])
        found += [
            Marked(mark, positions[at])
            for (_, _, mark), at in zip(marks, places, strict=True) if at is not None
        ]  # fmt: skip
    return sorted(found, key=_position)


def _position(one: Marked) -> int:
    return one.position


def entries(marks: list[Marked], language: str = "") -> list[IndexEntry]:
    """The entries of an index, sorted as a language does, with ranges merged."""

    def key(term: str) -> tuple[tuple[int, ...], ...]:
        return sort_key(term, language)

    terms: dict[str, dict[str, list[Marked]]] = {}
    for one in marks:
        terms.setdefault(one.mark.term, {}).setdefault(one.mark.sub, []).append(one)
    found = []
    for term in sorted(terms, key=key):
        subs = terms[term]
        under = tuple(_entry(sub, subs[sub]) for sub in sorted(subs, key=key) if sub)
        found.append(_entry(term, subs.get("", []))._replace(subs=under))
    return found


def _entry(term: str, marks: list[Marked]) -> IndexEntry:
    pages: set[int] = set()
    begun: int | None = None
    for mark, position in marks:
        if mark.see:
            continue
        pages.add(position)
        if mark.reach == "begins" and begun is None:
            begun = position
        elif mark.reach == "ends" and begun is not None:
            pages.update(range(begun, position + 1))
            begun = None
    see = tuple(dict.fromkeys(m.see for m, _ in marks if m.see))
    also = tuple(dict.fromkeys(m.see_also for m, _ in marks if m.see_also))
    return IndexEntry(term, tuple(_ranges(sorted(pages))), see, also)


def _ranges(pages: list[int]) -> Iterator[tuple[int, int]]:
    """Positions that follow each other as one range."""
    first: int | None = None
    for n, page in enumerate(pages):
        first = page if first is None else first
        if n + 1 == len(pages) or pages[n + 1] != page + 1:
            yield first, page
            first = None


def folios(pages: tuple[tuple[int, int], ...], facts: list[PageFacts]) -> str:
    """“iv, 12–14”: a range is parted where a section counts anew, since its folios would not be."""
    shown: list[str] = []
    for first, last in pages:
        begin = first
        for position in range(first, last + 1):
            here, behind = facts[position - 1], facts[position] if position < last else None
            apart = behind is None or not _follows(here, behind)
            if apart:
                shown.append(_range(facts[begin - 1], here))
                begin = position + 1
    return ", ".join(s for s in shown if s)


def _follows(one: PageFacts, other: PageFacts) -> bool:
    """Whether a page's number is the next one after another's, and looks like it."""
    if one.number is None or other.number is None or not (one.folio and other.folio):
        return False
    alike = one.section_id == other.section_id or one.folio.isdigit() == other.folio.isdigit()
    return other.number == one.number + 1 and alike


def _range(first: PageFacts, last: PageFacts) -> str:
    if first is last or first.folio == last.folio:
        return first.folio
    return f"{first.folio}–{last.folio}"


def index_text(
    index: Index, found: list[IndexEntry], facts: list[PageFacts], language: str = ""
) -> Text:
    """The text of an index whose terms are in a language."""
    lines: list[Paragraph] = []
    if index.title:
        lines.append(Paragraph(index.title_style or index.shown, (Run(index.title),)))
    letter = ""
    for entry in found:
        first = initial(entry.term, language)
        if index.letters and first != letter:
            lines.append(Paragraph(index.letters, (Run(first),)))
        letter = first
        words = _line(entry, facts)
        if index.run_in:
            words = "; ".join([words, *(_line(sub, facts) for sub in entry.subs)])
        lines.append(Paragraph(index.shown, (Run(words),)))
        if not index.run_in:
            style = index.sub_shown or index.shown
            lines += [Paragraph(style, (Run(_line(sub, facts)),)) for sub in entry.subs]
    return tuple(lines)


def _line(entry: IndexEntry, facts: list[PageFacts]) -> str:
    parts = [entry.term]
    said = folios(entry.pages, facts)
    if said:
        parts.append(said)
    if entry.see:
        parts.append("see " + "; ".join(entry.see))
    if entry.see_also:
        parts.append("see also " + "; ".join(entry.see_also))
    return ", ".join(parts)
