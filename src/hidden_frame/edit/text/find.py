"""Words found in a text and replaced, with the looks of what they stand in.

>>> query = Query("rain")
>>> [tuple(hit) for hit in hits(publication.sections[1].pages[0].items[0].text, query)]
[(0, 6, 10)]
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.edit.text.write import _cells, _pieces
from hidden_frame.model.errors import Refusal
from hidden_frame.model.text import Marker, Paragraph, Text

OBJECT = "\ufffc"  # what stands for a marker


class Query(NamedTuple):
    """What is looked for: words, or a regular expression (as Python's `re` takes it); `style` is a
    paragraph style by id, "" for any."""

    words: str
    case: bool = False
    whole: bool = False
    regular: bool = False
    style: str = ""


class TextHit(NamedTuple):
    """Characters `start` to `end` (excluded) of a paragraph."""

    paragraph: int
    start: int
    end: int


def pattern(query: Query) -> re.Pattern[str]:
    """The expression that a query means.  Raises `Refusal` for one that can't be read, and for
    one that is empty."""
    if not query.words:
        raise Refusal("There is nothing to look for; type a word.")
    source = query.words if query.regular else re.escape(query.words)
    if query.whole:
        source = rf"(?<!\w)(?:{source})(?!\w)"
    try:
        return re.compile(source, 0 if query.case else re.IGNORECASE)
    except re.error as error:
        raise Refusal(
            f"“{query.words}” is no regular expression: {error.msg}; mend it, or look for words."
        ) from error


def characters(paragraph: Paragraph) -> str:
    """A paragraph's characters; a marker is one of them."""
    return "".join(OBJECT if isinstance(c, Marker) else c.text for c in paragraph.content)


def hits(text: Text, query: Query) -> Iterator[TextHit]:
    """Every place where a query is met, in order; places without width are left out."""
    wanted = pattern(query)
    for number, paragraph in enumerate(text):
        if query.style and paragraph.style != query.style:
            continue
        for match in wanted.finditer(characters(paragraph)):
            if match.end() > match.start():
                yield TextHit(number, match.start(), match.end())


def replaced(text: Text, query: Query, by: str, only: TextHit | None = None) -> tuple[Text, int]:
    """A text with hits replaced, all or `only` one, and how many there were.

    What is put in looks as the first character that it takes the place of.  With a regular
    expression `by` may name its groups (`\\1`).  Raises `Refusal` for a group that is not there.
    """
    wanted, count = pattern(query), 0
    found = list(text)
    for number, paragraph in enumerate(text):
        if (only is not None and only.paragraph != number) or (
            query.style and paragraph.style != query.style
        ):
            continue
        matches = [
            m for m in wanted.finditer(characters(paragraph))
            if m.end() > m.start() and (only is None or m.span() == (only.start, only.end))
        ]  # fmt: skip
        if matches:
            count += len(matches)
            found[number] = _with(paragraph, matches, by, query.regular)
    return tuple(found), count


def _with(paragraph: Paragraph, matches: list[re.Match[str]], by: str, regular: bool) -> Paragraph:
    cells = _cells(paragraph)
    for match in reversed(matches):
        try:
            new = match.expand(by) if regular else by
        except (re.error, IndexError) as error:
            raise Refusal(
                f"“{by}” names a group that is not in the expression: {error}."
            ) from error
        dress = cells[match.start()][1]
        cells[match.start() : match.end()] = [(c, dress) for c in new.replace("\n", "\u2028")]
    return replace(paragraph, content=_pieces(cells))
