"""Words found in a text and replaced, with the looks of what they stand in.

>>> query = Query("rain")
>>> [tuple(hit) for hit in hits(publication.sections[1].pages[0].items[0].text, query)]
[(0, 6, 10)]
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from time import monotonic
from typing import NamedTuple

import regex as re  # as Python's own `re`, which can't be told to stop
from msgspec.structs import replace

from hidden_frame.edit.text.write import _cells, _pieces
from hidden_frame.model.errors import Refusal
from hidden_frame.model.text import IndexMark, Note, Paragraph, Run, Text, TextPlace

OBJECT = "\ufffc"  # what stands for a marker
PATIENCE = 3.0  # seconds that an expression may take: some would take years


class Query(NamedTuple):
    """What is looked for: words, or a regular expression (as Python's `re` takes it); `style` is a
    paragraph style by id, "" for any."""

    words: str
    case: bool = False
    whole: bool = False
    regular: bool = False
    style: str = ""


class TextRange(NamedTuple):
    """From one place of a text to another: paragraph and character of each."""

    start: TextPlace
    end: TextPlace


class TextHit(NamedTuple):
    """Characters `start` to `end` (excluded) of a paragraph."""

    paragraph: int
    start: int
    end: int

    def within(self, stretch: TextRange | None) -> bool:
        """Whether all of it stands in a stretch, if there is one."""
        if stretch is None:
            return True
        number = self.paragraph
        return stretch.start <= (number, self.start) and (number, self.end) <= stretch.end


def pattern(query: Query) -> re.Pattern[str]:
    """The expression that a query means.  Raises `Refusal` for one that can't be read, and for
    one that is empty."""
    if not query.words:
        raise Refusal("There is nothing to search for; type a word.", field="words")
    source = query.words if query.regular else re.escape(query.words)
    if query.whole:
        source = rf"(?<!\w)(?:{source})(?!\w)"
    try:
        return re.compile(source, 0 if query.case else re.IGNORECASE)
    except re.error as error:
        raise Refusal(
            f"“{query.words}” is not a regular expression: {error.msg}; correct it, or search "
            "for words.",
            field="words",
        ) from error


class _Match(NamedTuple):
    """A match and where it stands in its paragraph, with the marks that it reaches over."""

    match: re.Match[str]
    start: int
    end: int


def characters(paragraph: Paragraph) -> str:
    """A paragraph's characters; a marker or an anchor is one of them."""
    return "".join(c.text if isinstance(c, Run) else OBJECT for c in paragraph.content)


def _sought(paragraph: Paragraph) -> tuple[str, Sequence[int]]:
    """The characters that are looked in, and where each stands: what stands beside the words, an
    index mark or a note, parts none of them."""
    whole = characters(paragraph)
    passed, at = set(), 0
    for piece in paragraph.content:
        if isinstance(piece, IndexMark | Note):
            passed.add(at)
        at += len(piece.text) if isinstance(piece, Run) else 1
    if not passed:
        return whole, range(len(whole))
    places = [n for n in range(len(whole)) if n not in passed]
    return "".join(whole[n] for n in places), places


def hits(text: Text, query: Query, within: TextRange | None = None) -> Iterator[TextHit]:
    """Every place where a query is met, in order; places without width are left out."""
    looked_in = _looked_in(text, None, within)
    for number, matches in _matches(text, query, looked_in):
        for match in matches:
            hit = TextHit(number, match.start, match.end)
            if hit.within(within):
                yield hit


def _looked_in(text: Text, only: TextHit | None, within: TextRange | None) -> range:
    """The paragraphs in which anything is to be found."""
    first, last = (0, len(text) - 1) if within is None else (within.start[0], within.end[0])
    if only is not None:
        first = last = only.paragraph
    return range(first, min(last + 1, len(text)))


def _matches(
    text: Text, query: Query, numbers: Iterable[int]
) -> Iterator[tuple[int, list[_Match]]]:
    """The matches of each of these paragraphs.  Raises `Refusal` for an expression that takes too
    long."""
    wanted, until = pattern(query), monotonic() + PATIENCE
    for number in numbers:
        paragraph = text[number]
        if query.style and paragraph.style != query.style:
            continue
        left = max(until - monotonic(), 0.001)
        line, places = _sought(paragraph)
        try:
            found = list(wanted.finditer(line, timeout=left))
        except TimeoutError as error:
            raise Refusal(
                f"“{query.words}” takes too long to search for; avoid a repeat inside a repeat, "
                "or search in less text.",
                field="words",
            ) from error
        yield (
            number,
            [
                _Match(m, places[m.start()], places[m.end() - 1] + 1)
                for m in found
                if m.end() > m.start()
            ],
        )


def replaced(
    text: Text, query: Query, by: str, only: TextHit | None = None, within: TextRange | None = None
) -> tuple[Text, int]:
    """A text with hits replaced, all, `only` one or those `within` a stretch, and how many.

    What is put in looks as the first character that it takes the place of.  With a regular
    expression `by` may name its groups (`\\1`).  Raises `Refusal` for a group that is not there.
    """
    found, count = list(text), 0
    looked_in = _looked_in(text, only, within)
    for number, matches in _matches(text, query, looked_in):
        wanted = [m for m in matches if _meant(TextHit(number, m.start, m.end), only, within)]
        if wanted:
            count += len(wanted)
            found[number] = _with(text[number], wanted, by, query.regular)
    return tuple(found), count


def _meant(hit: TextHit, only: TextHit | None, within: TextRange | None) -> bool:
    return hit.within(within) and (only is None or hit == only)


def _with(paragraph: Paragraph, matches: list[_Match], by: str, regular: bool) -> Paragraph:
    """A paragraph with what was found replaced."""
    try:
        changes = [
            Change(start, end, match.expand(by) if regular else by) for match, start, end in matches
        ]
    except (re.error, IndexError) as error:
        raise Refusal(
            f"“{by}” names a group that is not in the expression: {error}.", field="by"
        ) from error
    return with_changes(paragraph, changes)


class Change(NamedTuple):
    """Characters `start` to `end` (excluded) of a paragraph become others."""

    start: int
    end: int
    by: str


def with_changes(paragraph: Paragraph, changes: list[Change]) -> Paragraph:
    """A paragraph with some of its characters changed, in rising order: what is put in looks as
    the first that goes, and marks among those stand behind it."""
    cells = _cells(paragraph)
    for start, end, by in reversed(changes):
        dress = cells[start][1]
        marks = [cell for cell in cells[start:end] if isinstance(cell[0], IndexMark | Note)]
        cells[start:end] = [(c, dress) for c in by.replace("\n", "\u2028")] + marks
    return replace(paragraph, content=_pieces(cells))
