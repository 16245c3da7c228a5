"""Where a line may end: the Unicode Line Breaking Algorithm, UAX #14, with the numbers of its
example 7. Rules are named as there.

>>> opportunities("well-known facts")  # in front of these characters
[5, 11]
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterable
from functools import cache, lru_cache
from itertools import pairwise
from unicodedata import category, east_asian_width

from hidden_frame.resources import UNICODE
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN

# LB25 as regular expressions over classes, a letter each; what stands behind a number may stand
# before the next one too.
_NUMBERS = (re.compile("[pq]?[oh]?n[nsi]*[cd]?"), re.compile("n[nsi]*[cd]?[pq]"))
_SIGNS = {"PR": "p", "PO": "q", "OP": "o", "HY": "h", "NU": "n", "SY": "s", "IS": "i",
          "CL": "c", "CP": "d"}  # fmt: skip
_LETTERS = frozenset(("AL", "HL"))
_JAMO = {"JL": ("JL", "JV", "H2", "H3"), "JV": ("JV", "JT"), "H2": ("JV", "JT"),
         "JT": ("JT",), "H3": ("JT",)}  # fmt: skip
_HANGUL = frozenset(("JL", "JV", "JT", "H2", "H3"))
_HARD = frozenset(("BK", "CR", "LF", "NL"))


@cache
def _table() -> tuple[list[int], list[int], list[str]]:
    firsts, lasts, kinds = [], [], []
    for line in (UNICODE / "line-break.txt").read_text(encoding="utf-8").splitlines():
        if not line.startswith("#"):
            first, last, kind = line.split()
            firsts.append(int(first, 16))
            lasts.append(int(last, 16))
            kinds.append(kind)
    return firsts, lasts, kinds


@lru_cache(maxsize=10_000)
def class_of(letter: str) -> str:
    """A character's class, those that LB1 resolves resolved."""
    firsts, lasts, kinds = _table()
    at = bisect_right(firsts, ord(letter)) - 1
    kind = kinds[at] if at >= 0 and ord(letter) <= lasts[at] else "XX"
    if kind == "SA":
        return "CM" if category(letter) in ("Mn", "Mc") else "AL"
    return {"AI": "AL", "SG": "AL", "XX": "AL", "CJ": "NS"}.get(kind, kind)


def opportunities(text: str) -> list[int]:
    """The characters in front of which a line may begin."""
    raw = [class_of(letter) for letter in text]
    kinds, joined = _joined(raw)
    number = _in_numbers(kinds, joined)
    found = []
    for n in range(1, len(text)):
        if joined[n] or (kinds[n] == "AL" and kinds[n - 1] == "AL"):
            continue  # LB9; LB28, which alone is for two letters
        if raw[n - 1] == "ZWJ":
            continue  # LB8a
        if kinds[n] == "ID" and kinds[n - 1] == "ID":
            found.append(n)  # LB31: no rule before it is for two ideographs
            continue
        if n not in number and _may_break(text, kinds, joined, n):
            found.append(n)
    return found


def _joined(raw: list[str]) -> tuple[list[str], list[bool]]:
    """Classes with marks taken for the letter that they stand on (LB9, LB10)."""
    if "CM" not in raw and "ZWJ" not in raw:
        return raw, [False] * len(raw)
    kinds: list[str] = []
    joined: list[bool] = []
    for n, kind in enumerate(raw):
        mark = kind in ("CM", "ZWJ")
        on = n > 0 and kinds[-1] not in (*_HARD, "SP", "ZW")
        joined.append(mark and on)
        kinds.append(kinds[-1] if mark and on else "AL" if mark else kind)
    return kinds, joined


def _in_numbers(kinds: list[str], joined: list[bool]) -> set[int]:
    """Places within numbers (LB25)."""
    if "NU" not in kinds:
        return set()
    bases = [n for n in range(len(kinds)) if not joined[n]]
    signs = "".join(_SIGNS.get(kinds[n], ".") for n in bases)
    return {
        bases[at]
        for number in _NUMBERS
        for match in number.finditer(signs)
        for at in range(match.start() + 1, match.end())
    }


def _may_break(text: str, kinds: list[str], joined: list[bool], n: int) -> bool:
    """Whether a line may begin with a character: the first rule that says something."""
    right = kinds[n]
    left = kinds[n - 1]
    if left in _HARD:  # LB4, LB5
        return not (left == "CR" and right == "LF")
    if right in _HARD or right in ("SP", "ZW"):  # LB6, LB7
        return False
    at = n - 1  # what stands before the spaces
    while at >= 0 and kinds[at] == "SP":
        at -= 1
    before = kinds[at] if at >= 0 else ""
    spaces = left == "SP"
    if before == "ZW":  # LB8
        return True
    if "WJ" in (left, right) or left == "GL":  # LB11, LB12
        return False
    if right == "GL" and left not in ("SP", "BA", "HY"):  # LB12a
        return False
    if right in ("CL", "CP", "EX", "IS", "SY"):  # LB13
        return False
    if before == "OP":  # LB14
        return False
    if (before, right) in (("QU", "OP"), ("CL", "NS"), ("CP", "NS"), ("B2", "B2")):  # LB15-17
        return False
    if spaces:  # LB18
        return True
    return _between(text, kinds, joined, n)


def _between(text: str, kinds: list[str], joined: list[bool], n: int) -> bool:
    """The rules from LB19 on, for what no space parts."""
    left, right = kinds[n - 1], kinds[n]
    if "QU" in (left, right):  # LB19
        return False
    if "CB" in (left, right):  # LB20
        return True
    if right in ("BA", "HY", "NS") or left == "BB":  # LB21
        return False
    first = _base(joined, n - 1)
    if left in ("HY", "BA") and first > 0 and kinds[first - 1] == "HL":  # LB21a
        return False
    if left == "SY" and right == "HL":  # LB21b
        return False
    if right == "IN":  # LB22
        return False
    pairs = _pair(left, right)
    if pairs:
        return False
    if left in _HANGUL and right in _JAMO.get(left, ()):  # LB26
        return False
    if (left in _HANGUL and right == "PO") or (left == "PR" and right in _HANGUL):  # LB27
        return False
    if left in _LETTERS and right in _LETTERS:  # LB28
        return False
    if left == "IS" and right in _LETTERS:  # LB29
        return False
    return not _close(text, kinds, joined, n)


def _pair(left: str, right: str) -> bool:
    """LB23 to LB25, for what is not within a number of its own."""
    letters, ideographs = _LETTERS, ("ID", "EB", "EM")
    if (left in letters and right == "NU") or (left == "NU" and right in letters):
        return True
    if (left == "PR" and right in ideographs) or (left in ideographs and right == "PO"):
        return True
    if left in ("PR", "PO") and right in letters:
        return True
    return left in letters and right in ("PR", "PO")


def _close(text: str, kinds: list[str], joined: list[bool], n: int) -> bool:
    """LB30 to LB30b: brackets next to letters, flags, and the shades of emoji."""
    left, right = kinds[n - 1], kinds[n]
    at = _base(joined, n - 1)
    wide = ("F", "W", "H")
    if (left in _LETTERS or left == "NU") and right == "OP":
        return east_asian_width(text[n]) not in wide
    if left == "CP" and (right in _LETTERS or right == "NU"):
        return east_asian_width(text[at]) not in wide
    if left == right == "RI":
        count, k = 0, n - 1
        while k >= 0 and kinds[k] == "RI":
            count += not joined[k]
            k -= 1
        return count % 2 == 1
    if right == "EM":
        emoji = 0x1F000 <= ord(text[at]) <= 0x1FFFD and category(text[at]) == "Cn"
        return left == "EB" or emoji
    return False


def _base(joined: list[bool], n: int) -> int:
    """The letter that a mark stands on."""
    while n > 0 and joined[n]:
        n -= 1
    return n


_DASH = "—"


@lru_cache(maxsize=20_000)
def parts(word: str) -> tuple[str, ...]:
    """What stands between two spaces, in parts behind each of which a line may end.

    Other than in UAX #14, no line begins with a dash (common practice of the trade), and at a soft
    hyphen a word is divided (`hyphenation`), not parted: a hyphen is printed there.
    """
    cuts = [n for n in opportunities(word) if word[n] != _DASH and word[n - 1] != SOFT_HYPHEN]
    if not cuts:
        return (word,)
    return tuple(word[a:b] for a, b in pairwise([0, *cuts, len(word)]))


@lru_cache(maxsize=20_000)
def may_part(before: str, behind: str) -> bool:
    """Whether a line may end between two stretches that no space parts."""
    if not before or not behind or behind[0] == _DASH or before[-1] == SOFT_HYPHEN:
        return False
    return len(before) in opportunities(before + behind)


# Around a space: what may keep to the word before it, or to the one behind.
_KEPT = re.compile("\\s[—–](?:\\s|$)|\\s[^\\w\\s“„‘‚«(—–-]|[^\\w\\s.,;:!?”’»)—–-]\\s")
_CLOSING = re.compile("»[.,;:!?]*")


def keeps(text: str) -> bool:
    """Whether there may be spaces in a text at which no line ends."""
    return _KEPT.search(text) is not None


_free: set[str] = set()


def holding_among(words: Iterable[str]) -> set[str]:
    """Those that may keep to one beside them, across a space: they begin with a mark, or end with
    an opening one."""
    if len(_free) > _MAX_WHOLE:
        _free.clear()
    new = set(words).difference(_free)
    holding = {w for w in new if w and not (w[0].isalnum() and class_of(w[-1]) != "OP")}
    _free.update(new - holding)
    return holding


@lru_cache(maxsize=20_000)
def may_turn(before: str, behind: str) -> bool:
    """Whether a line may end at the space between two words: not before a closing mark or behind
    an opening one (LB13, LB14), but before a decimal mark; nor before a dash that stands between
    spaces, or within spaced guillemets (common practice of the trade)."""
    if not before or not behind:
        return True
    if behind in ("—", "–") or before == "«" or _CLOSING.fullmatch(behind):
        return False
    first = class_of(behind[0])
    if first == "IS" and len(behind) > 1 and class_of(behind[1]) == "NU":
        return True
    return first not in ("CL", "CP", "EX", "IS", "SY") and class_of(before[-1]) != "OP"


# Letters of Latin with marks around them, within which no rule lets a line end (LB13, LB19, LB28).
_LATIN = re.compile("[\"'(\\[\u2018\u201c]*[A-Za-z\u00c0-\u00d6\u00d8-\u00f6\u00f8-\u024f]+"
                    "[.,:;!?)\\]\"'\u2019\u201d]*")  # fmt: skip
_whole: set[str] = set()
_MAX_WHOLE = 200_000


def all_whole(words: list[str]) -> bool:
    """Whether no line may end within any of these words."""
    if _whole.issuperset(words):
        return True
    if len(_whole) > _MAX_WHOLE:
        _whole.clear()
    new = set(words).difference(_whole)
    found = {word for word in new if _LATIN.fullmatch(word) or len(parts(word)) == 1}
    _whole.update(found)
    return len(found) == len(new)
