"""Where words may be divided, by the patterns of the style's language (pyphen).

>>> divisions("hyphenation", "en_GB")
(2, 6, 7)
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from hidden_frame.typeset.patterns import Patterns

SOFT_HYPHEN = "\u00ad"
MIN_LETTERS = 5  # common practice of the trade: shorter words stay whole
_CORE = re.compile(r"^\W*[^\W\d_]+(?:['’][^\W\d_]+)*\W*$")
_LETTERS = re.compile(r"[^\W\d_]+")
_PLAIN = re.compile(r"(\W*)([^\W\d_]+)\W*")  # most words: letters, with marks around them


def _patterns(language: str) -> Patterns | None:
    from hidden_frame.typeset.patterns import Patterns  # loads NumPy

    return Patterns.of(language)


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
    patterns = _patterns(by.language)
    if patterns is None or not _CORE.match(word):
        return ()
    return tuple(
        part.start() + position
        for part in _LETTERS.finditer(word)
        if len(part[0]) >= by.letters
        for position in patterns.positions(part[0])
        if max(by.before, 2) <= position <= len(part[0]) - max(by.after, 2)
    )


def divisions_all(words: Iterable[str], language: Dividing) -> list[tuple[int, ...]]:
    """The same of many words, all of whose letters are looked up together."""
    by = language if isinstance(language, Division) else Division(language)
    several, patterns = list(words), _patterns(by.language)
    if patterns is None:
        return [divisions(word, language) for word in several]
    cores = [None if SOFT_HYPHEN in word else _PLAIN.fullmatch(word) for word in several]
    asked = {core[2].lower() for core in cores if core is not None and len(core[2]) >= by.letters}
    patterns.learn(asked)
    known, first, last = patterns.known, max(by.before, 2), max(by.after, 2)
    found: list[tuple[int, ...]] = []
    for word, core in zip(several, cores, strict=True):
        if core is None:
            found.append(divisions(word, language))
            continue
        at, letters = core.end(1), core[2]
        places = known[letters.lower()] if len(letters) >= by.letters else ()
        most = len(letters) - last
        found.append(tuple([at + p for p in places if first <= p <= most]) if places else ())
    return found


def languages() -> list[str]:
    """The languages whose words can be divided, by code, as “en_GB”."""
    import pyphen

    return sorted(pyphen.LANGUAGES)
