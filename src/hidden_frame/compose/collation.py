"""The order of words in a language.

The Unicode Collation Algorithm's default table (UTS #10, read by pyuca), and on top of it the
letters that a language counts as letters of their own (CLDR's standard collations; which ones is
said here from memory).

>>> words = ["zebra", "ångström", "apa", "öga"]
>>> sorted(words, key=lambda w: sort_key(w, "sv")), sorted(words, key=lambda w: sort_key(w, "de"))
(['apa', 'zebra', 'ångström', 'öga'], ['ångström', 'apa', 'öga', 'zebra'])
"""

from __future__ import annotations

import re
import unicodedata
from functools import cache, lru_cache
from typing import Any

# After which letter others stand, in their order.
_BEHIND: dict[str, dict[str, tuple[str, ...]]] = {
    "sv": {"z": ("å", "ä", "ö")},
    "fi": {"z": ("å", "ä", "ö")},
    "da": {"z": ("æ", "ø", "å")},
    "nb": {"z": ("æ", "ø", "å")},
    "nn": {"z": ("æ", "ø", "å")},
    "is": {"a": ("á",), "d": ("ð",), "e": ("é",), "i": ("í",), "o": ("ó",), "u": ("ú",),
           "y": ("ý",), "z": ("þ", "æ", "ö")},
    "es": {"n": ("ñ",)},
    "gl": {"n": ("ñ",)},
    "eu": {"n": ("ñ",)},
    "cs": {"c": ("č",), "h": ("ch",), "r": ("ř",), "s": ("š",), "z": ("ž",)},
    "sk": {"a": ("ä",), "c": ("č",), "h": ("ch",), "o": ("ô",), "s": ("š",), "z": ("ž",)},
    "pl": {"a": ("ą",), "c": ("ć",), "e": ("ę",), "l": ("ł",), "n": ("ń",), "o": ("ó",),
           "s": ("ś",), "z": ("ź", "ż")},
    "hr": {"c": ("č", "ć"), "d": ("dž", "đ"), "l": ("lj",), "n": ("nj",), "s": ("š",),
           "z": ("ž",)},
    "sl": {"c": ("č", "ć"), "d": ("đ",), "s": ("š",), "z": ("ž",)},
    "hu": {"c": ("cs",), "d": ("dz", "dzs"), "g": ("gy",), "l": ("ly",), "n": ("ny",),
           "o": ("ö",), "s": ("sz",), "t": ("ty",), "u": ("ü",), "z": ("zs",)},
    "ro": {"a": ("ă", "â"), "i": ("î",), "s": ("ș",), "t": ("ț",)},
    "tr": {"c": ("ç",), "g": ("ğ",), "o": ("ö",), "s": ("ş",), "u": ("ü",)},
    "et": {"s": ("š", "z", "ž"), "w": ("õ", "ä", "ö", "ü")},
    "lt": {"c": ("č",), "s": ("š",), "z": ("ž",)},
    "lv": {"c": ("č",), "g": ("ģ",), "k": ("ķ",), "l": ("ļ",), "n": ("ņ",), "s": ("š",),
           "z": ("ž",)},
    "sq": {"c": ("ç",), "d": ("dh",), "e": ("ë",), "g": ("gj",), "l": ("ll",), "n": ("nj",),
           "r": ("rr",), "s": ("sh",), "t": ("th",), "x": ("xh",), "z": ("zh",)},
    "cy": {"c": ("ch",), "d": ("dd",), "f": ("ff",), "g": ("ng",), "l": ("ll",), "p": ("ph",),
           "r": ("rh",), "t": ("th",)},
}  # fmt: skip
_LAST = 0xE000  # private characters, which the default table puts behind all others
_SIGNS = "“”„«»‚‘’\"'([{*†‡§-–—… "


class _Letters:
    """The letters that a language adds to the default table."""

    def __init__(self, behind: dict[str, tuple[str, ...]]) -> None:
        self.put = {
            letter: base + chr(_LAST + n)
            for base, letters in behind.items()
            for n, letter in enumerate(letters)
        }
        longest = sorted(self.put, key=len, reverse=True)
        self.any = re.compile("|".join(map(re.escape, longest))) if longest else None

    def placed(self, word: str) -> str:
        """A word with its letters where the default table puts them right."""
        if self.any is None:
            return word
        return self.any.sub(lambda m: self.put[m[0]], unicodedata.normalize("NFC", word).lower())


@cache
def _letters(language: str) -> _Letters:
    return _Letters(_BEHIND.get(language.split("_")[0], {}))


@lru_cache(maxsize=20_000)
def sort_key(term: str, language: str = "") -> tuple[tuple[int, ...], ...]:
    """Where a term stands among others; signs before its first letter don't count."""
    bare = term.lstrip(_SIGNS) or term
    keys = _collator().sort_key
    return tuple(keys(_letters(language).placed(bare))), tuple(keys(bare))


def initial(term: str, language: str = "") -> str:
    """The letter that a term stands under: the capital of its first one, without marks unless its
    language counts it as a letter; “#” for anything else."""
    bare = unicodedata.normalize("NFC", term).lstrip(_SIGNS)
    letters = _letters(language)
    own = letters.any.match(bare.lower()) if letters.any is not None else None
    if own is not None:
        return own[0].capitalize()
    for letter in unicodedata.normalize("NFD", bare):
        if letter.isalpha():
            return letter.upper()[:1]
        if letter.isdigit():
            break
    return "#"


@cache
def _collator() -> Any:
    from pyuca import Collator  # reads its table: a third of a second, when it is needed

    return Collator()
