"""Where a word is divided that is wider than a line.

At a syllable, by the language of its style or else by none; between two letters where a syllable
is wider than the line, too.  Either way with a hyphen, for which reason only words of letters that
have a small form are divided so; all others are cut without one (`long_words`).
"""

from __future__ import annotations

import re

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN, Dividing, divisions
from hidden_frame.typeset.shaping import Word

LONGEST = 100  # letters; what is longer is no word of any language, and is cut without a hyphen
_WORD = re.compile(r"^\W*[^\W\d_]+(?:['’\u00ad][^\W\d_]+)*\W*$")


def takes_hyphen(word: Word) -> bool:
    """Whether a word may be divided with a hyphen anywhere: two letters or more of a script that
    has small letters, and marks around them."""
    text = word.text
    if len(text) > LONGEST or word.shaped.rtl or not _WORD.match(text):
        return False
    return sum(a.lower() != a.upper() for a in text) > 1


def forced(
    word: Word, language: Dividing | None, measure: float, skip: int = 0
) -> list[tuple[int, float, float]]:
    """Where a word is divided in lines of a measure (points): behind how many characters, and the
    widths of what stands before (behind the `skip` characters that are gone) with its hyphen, and
    of the rest."""
    text = word.text
    syllables = [at for at in divisions(text, language or "") if at > skip]
    places: list[int] = []
    begin = skip
    for end in (*syllables, len(text)):
        while _width(word, begin, end, end < len(text)) > measure + TOLERANCE:
            at = _letters(word, begin, end, measure)
            if at >= end:
                break
            places.append(at)
            begin = at
        if end < len(text):
            places.append(end)
            begin = end
    return [
        (at, _width(word, skip, at, True), _width(word, at, len(text), False))
        for at in places
    ]  # fmt: skip


def _letters(word: Word, begin: int, end: int, measure: float) -> int:
    """The last place before `end` up to which there is room; at least one letter is taken, and no
    mark is parted from the letter that it stands at."""
    text = word.text
    places = [
        at for at in range(begin + 1, end)
        if _bare(text[at - 1]) and _bare(text[at]) and text[at - 1] != SOFT_HYPHEN
    ]  # fmt: skip
    fitting = [at for at in places if _width(word, begin, at, True) <= measure + TOLERANCE]
    return fitting[-1] if fitting else places[0] if places else end


def _bare(letter: str) -> bool:
    return letter.isalpha() or letter == SOFT_HYPHEN


def _width(word: Word, begin: int, end: int, hyphen: bool) -> float:
    part = word.text[begin:end].replace(SOFT_HYPHEN, "")
    return word.setting.width(part + "-" * hyphen, word.shaped.rtl)
