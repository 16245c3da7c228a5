"""What a typist's keys mean: quotation marks of a language, dashes, the ellipsis.

>>> typed("He said ", '"', "de"), typed("He said „Ja", '"', "de"), typed("don", "'", "en_GB")
((0, '„'), (0, '“'), (0, '’'))
>>> typed("1914-", "-", "en"), typed("and so on..", ".", "en")
((1, '–'), (2, '…'))
"""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from hidden_frame.resources import UNICODE

# Behind these a quotation begins (and at a paragraph's head).
_OPENING = frozenset("([{<«»‹›“„‘‚–—-/\u00a0\u202f\u2009\u2028\t ")
_DASHES = "-–—"


class QuotationMarks(NamedTuple):
    """The quotation marks of a language, outer and inner, each to begin and to end with."""

    begin: str
    end: str
    begin_inner: str
    end_inner: str


@cache
def _table() -> dict[str, QuotationMarks]:
    """By language, with a country where it differs (CLDR; `scripts/make_quotes.py`)."""
    lines = (UNICODE / "quotes.txt").read_text("utf-8").splitlines()
    rows = (line.split() for line in lines if not line.startswith("#"))
    return {language: QuotationMarks(*marks) for language, *marks in rows}


def marks_of(language: str) -> QuotationMarks:
    """The quotation marks of a language: of its country if that has its own, those of English for
    one that is unknown."""
    known = _table()
    return known.get(language) or known.get(language.split("_")[0]) or known["en"]


def typed(before: str, key: str, language: str) -> tuple[int, str]:
    """What a key puts in behind a text, and how many characters before it go for that.

    A straight mark becomes one that begins or ends a quotation; between letters it is an
    apostrophe.  A second hyphen makes a dash of the first, a third a longer one.
    """
    last = before[-1:]
    if key == "-" and last == "-" and not before.endswith("--"):
        return 1, "–"
    if key == "-" and last == "–":
        return 1, "—"
    if key == "." and before.endswith("..") and not before.endswith("..."):
        return 2, "…"
    marks = marks_of(language)
    begins = not last or last in _OPENING
    if last in _DASHES and last:  # what was begun may break off with a dash
        begins = not _is_open(before, marks.begin, marks.end)
    if key == '"':
        return 0, _spaced(marks.begin, language, True) if begins else _spaced(
            marks.end, language, False
        )
    if key == "'":
        if begins:
            return 0, marks.begin_inner
        inner = _is_open(before, marks.begin_inner, marks.end_inner)
        return 0, marks.end_inner if inner or not last.isalnum() else "’"
    return 0, key


def _is_open(before: str, begin: str, end: str) -> bool:
    """Whether a quotation was begun and not ended yet."""
    if begin == end:
        return before.count(begin) % 2 == 1
    return before.count(begin) > before.count(end)


def _spaced(mark: str, language: str, begins: bool) -> str:
    """French sets a narrow space within its marks (common practice of the trade)."""
    if not language.startswith("fr") or language.startswith("frr") or mark not in "«»":
        return mark
    return f"{mark}\u202f" if begins else f"\u202f{mark}"
