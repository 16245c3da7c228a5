"""Where words may be divided, by the patterns of the style's language (pyphen).

>>> divisions("hyphenation", "en_GB")
(2, 6, 7)
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import NamedTuple

import pyphen

SOFT_HYPHEN = "\u00ad"
MIN_LETTERS = 5  # common practice of the trade: shorter words stay whole
_CORE = re.compile(r"^\W*[^\W\d_]+(?:['’][^\W\d_]+)*\W*$")
_LETTERS = re.compile(r"[^\W\d_]+")


@lru_cache(maxsize=32)
def _dictionary(language: str) -> pyphen.Pyphen | None:
    found = pyphen.language_fallback(language)
    return pyphen.Pyphen(lang=found) if found else None


class Division(NamedTuple):
    """A language, and the fewest letters of a word that is divided, before the hyphen, and on
    the next line."""

    language: str
    letters: int = MIN_LETTERS
    before: int = 2
    after: int = 2


Dividing = str | Division  # a language by its code alone has the limits that are usual


@lru_cache(maxsize=50_000)
def divisions(word: str, language: Dividing) -> tuple[int, ...]:
    """Indexes at which a word may be divided, rising; () for an unknown language.

    Soft hyphens in the word take precedence over the patterns.  What stands on either side
    of an apostrophe is divided by itself: l’in-qui-é-tude, ob-ser-va-tory’s.
    """
    if "\u00ad" in word:
        begin, end = len(word) - len(word.lstrip("\u00ad")), len(word.rstrip("\u00ad"))
        return tuple(n + 1 for n in range(begin, end) if word[n] == SOFT_HYPHEN)
    by = language if isinstance(language, Division) else Division(language)
    dictionary = _dictionary(by.language)
    if dictionary is None or not _CORE.match(word):
        return ()
    return tuple(
        part.start() + int(position)
        for part in _LETTERS.finditer(word)
        if len(part[0]) >= by.letters
        for position in dictionary.positions(part[0])
        if by.before <= position <= len(part[0]) - by.after
    )


def languages() -> list[str]:
    """The languages whose words can be divided, by code, as “en_GB”."""
    return sorted(pyphen.LANGUAGES)
