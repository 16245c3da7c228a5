"""Where words may be divided, by the patterns of the style's language (pyphen).

>>> divisions("hyphenation", "en_GB")
(2, 6)
"""

from __future__ import annotations

import re
from functools import lru_cache

import pyphen

SOFT_HYPHEN = "\u00ad"
MIN_LETTERS = 5  # common practice of the trade: shorter words stay whole
_CORE = re.compile(r"^(\W*)([^\W\d_]+)\W*$")


@lru_cache(maxsize=32)
def _dictionary(language: str) -> pyphen.Pyphen | None:
    found = pyphen.language_fallback(language)
    return pyphen.Pyphen(lang=found) if found else None


@lru_cache(maxsize=50_000)
def divisions(word: str, language: str) -> tuple[int, ...]:
    """Indexes at which a word may be divided, rising; () for an unknown language.

    Soft hyphens in the word take precedence over the patterns.
    """
    if "\u00ad" in word:
        return tuple(n + 1 for n, letter in enumerate(word) if letter == "\u00ad")
    found = _CORE.match(word)
    dictionary = _dictionary(language)
    if found is None or dictionary is None or len(found[2]) < MIN_LETTERS:
        return ()
    offset = len(found[1])
    return tuple(offset + int(position) for position in dictionary.positions(found[2]))
