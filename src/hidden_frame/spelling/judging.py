"""What the dictionary of a language says of words (Hunspell, by chunspell).

>>> judge = judge_of("en_GB")
>>> judge.doubtful(["colour", "color", "naïve", "observatry"])
['color', 'observatry']
>>> judge.suggestions("observatry")[0]
'observatory'
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable
from functools import cache
from pathlib import Path

from hidden_frame.spelling.dictionaries import dictionary_of

MOST_SUGGESTED = 8
_SAMPLE = 4_000  # characters of a dictionary, from its middle, that tell in which script it is


class LoadedDictionary:
    """A dictionary that is loaded: 0.1 s for English, one for those with many endings."""

    def __init__(self, rules: Path, language: str) -> None:
        from hunspell import Hunspell  # not before it is needed: it is a library of 1 MB

        self._hunspell = Hunspell(rules.stem, hunspell_data_dir=str(rules.parent))
        self._script = _script_of(rules)
        # Its dictionary is in ASCII, and English is written with and without marks.
        self._bare = language.split("_")[0] == "en"

    def doubtful(self, words: Iterable[str]) -> list[str]:
        """Those that the dictionary does not have.  Words of another script are passed over."""
        return [word for word in words if not self._is_right(word)]

    def suggestions(self, word: str) -> list[str]:
        """What may have been meant, the likeliest first.  Takes up to a second."""
        found = self._hunspell.suggest(word)
        if "’" in word:
            found = [each.replace("'", "’") for each in found]
        return list(dict.fromkeys(found))[:MOST_SUGGESTED]

    def _is_right(self, word: str) -> bool:
        if _script(word) != self._script or self._has(word):
            return True
        return self._bare and not word.isascii() and self._has(_without_marks(word))

    def _has(self, word: str) -> bool:
        spell = self._hunspell.spell
        return bool(spell(word) or ("’" in word and spell(word.replace("’", "'"))))


@cache
def judge_of(language: str) -> LoadedDictionary | None:
    """The judge of a language; None if there is no dictionary, or none that can be read."""
    rules = dictionary_of(language)
    if rules is None:
        return None
    try:
        return LoadedDictionary(rules, language)
    except (OSError, ValueError, RuntimeError):
        return None


def _without_marks(word: str) -> str:
    parts = unicodedata.normalize("NFD", word)
    return "".join(c for c in parts if not unicodedata.combining(c))


def _script(word: str) -> str:
    """The script of a word's first letter, as the Unicode standard names the letter."""
    return unicodedata.name(word[0], "").partition(" ")[0]


def _script_of(rules: Path) -> str:
    """The script of most letters of a dictionary, whose rules name their encoding."""
    said = re.search(rb"^SET\s+(\S+)", rules.read_bytes(), re.MULTILINE)
    encoding = said[1].decode("ascii", "ignore") if said else "latin-1"
    data = rules.with_suffix(".dic").read_bytes()
    try:
        middle = data[len(data) // 2 :][:_SAMPLE].decode(encoding, "ignore")
    except LookupError:
        middle = ""
    found = [_script(c) for c in middle if c.isalpha()]
    return max(set(found), key=found.count) if found else "LATIN"
