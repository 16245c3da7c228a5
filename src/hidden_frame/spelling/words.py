"""The words of a string that a dictionary is asked about.

>>> [word.letters for word in words("Deneb’s light, 4 of 2nd magnitude; mail@deneb.example")]
['Deneb’s', 'light', 'of', 'magnitude']
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from functools import lru_cache
from typing import NamedTuple

# Marks that follow a letter, as in decomposed, Hebrew and Arabic writing, and the soft hyphen.
_JOINED = "\u0300-\u036f\u0591-\u05c7\u0610-\u061a\u064b-\u065f\u00ad"
_WORD = re.compile(rf"\w[\w{_JOINED}]*(?:['’]\w[\w{_JOINED}]*)*")
_ADDRESS = re.compile(r"\S*(?:@|://|\bwww\.)\S*|\b\w+(?:\.\w{2,})+(?:/\S*)?")
_ROMAN = re.compile(r"(?=[IVXLCDM])M*(?:CM|CD|D?C{0,3})(?:XC|XL|L?X{0,3})(?:IX|IV|V?I{0,3})$")
MOST_LETTERS = 60  # a longer word is none: a key of a cipher, a line of a drawing


class SpelledWord(NamedTuple):
    """Characters `start` to `end` (excluded) of a string, and its `letters` as a dictionary has
    them: composed, without soft hyphens."""

    start: int
    end: int
    letters: str


def words(string: str) -> list[SpelledWord]:
    """Every word but single letters, Roman numbers, addresses of mail and web, and what holds a
    digit (common practice of the trade)."""
    # A paragraph is asked with every key typed into it, and hardly any holds an address.
    found = [
        SpelledWord(word.start(), word.end(), letters)
        for word in _WORD.finditer(string) if (letters := _letters(word[0]))
    ]  # fmt: skip
    passed = [name.span() for name in _ADDRESS.finditer(string)] if _may_name(string) else []
    if not passed:
        return found
    return [
        word for word in found if not any(a < word.end and word.start < b for a, b in passed)
    ]  # fmt: skip


@lru_cache(20_000)
def _letters(word: str) -> str:
    """A word as a dictionary has it; "" for one that is not looked up."""
    letters = _plain(word)
    if not 1 < len(letters) <= MOST_LETTERS or not _all_letters(letters):
        return ""
    if _ROMAN.match(letters.upper()) and (letters.isupper() or letters.islower()):
        return ""
    return letters


class SpelledStretch(NamedTuple):
    """A part of a paragraph: its characters, and the language that they are looked up in, "" for
    none.  What stands `beside` the words, an index mark or a note, parts none of them."""

    text: str
    language: str = ""
    beside: bool = False


class AskedWord(NamedTuple):
    """A word of a paragraph: from character `start` to `end` (excluded), and what is asked."""

    start: int
    end: int
    language: str
    letters: str


def asked_words(stretches: Iterable[SpelledStretch]) -> list[AskedWord]:
    """The words of a paragraph that are looked up; in two languages none.

    >>> old, sign = SpelledStretch("Old st", "en"), SpelledStretch("*", beside=True)
    >>> asked_words([old, sign, SpelledStretch("ar", "en")])
    [AskedWord(start=0, end=3, language='en', letters='Old'), \
AskedWord(start=4, end=9, language='en', letters='star')]
    """
    stretches = list(stretches)
    if len(stretches) == 1:  # most paragraphs have no other
        string, language, _ = stretches[0]
        asked = words(string) if language else ()
        return [AskedWord(start, end, language, letters) for start, end, letters in asked]
    parts: list[str] = []
    languages: list[str] = []
    places: list[int] = []
    at = 0
    for text, language, beside in stretches:
        if not beside:
            parts.append(text)
            languages += [language] * len(text)
            places += range(at, at + len(text))
        at += len(text)
    found = []
    for start, end, letters in words("".join(parts)):
        spoken = languages[start]
        if spoken and all(each == spoken for each in languages[start + 1 : end]):
            found.append(AskedWord(places[start], places[end - 1] + 1, spoken, letters))
    return found


def _may_name(string: str) -> bool:
    return "." in string or "@" in string or "://" in string


def _plain(word: str) -> str:
    if word.isascii():
        return word
    return unicodedata.normalize("NFC", word.replace("\u00ad", ""))


def _all_letters(word: str) -> bool:
    return word.isalpha() or not any(c.isdigit() or c == "_" or c.isnumeric() for c in word)


def is_own(word: str, own: frozenset[str]) -> bool:
    """Whether a publication's own words hold a word, as it is, begun with a capital, all in
    capitals, or with the English ’s.

    >>> is_own("Deneb’s", frozenset({"Deneb"})), is_own("deneb", frozenset({"Deneb"}))
    (True, False)
    """
    if not own:
        return False
    stem = re.sub(r"['’]s$", "", word, flags=re.IGNORECASE)
    forms = {word, stem, *(_lower_first(w) for w in (word, stem))}
    if word.isupper():
        forms |= {stem.lower(), stem.title()}
    return not own.isdisjoint(forms)


def _lower_first(word: str) -> str:
    return word[:1].lower() + word[1:]
