"""Where words may be divided by the patterns of a language, many words at once (F. M. Liang, “Word
Hy-phen-a-tion by Com-put-er”, 1983).

The patterns are those of pyphen's files, and so are the places that they give; here they are
tables of numbers, in which the stretches of all words are looked up together.

>>> patterns = Patterns.of("en_GB")
>>> patterns.positions("hyphenation")
[2, 6, 7]
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np
import pyphen
from numpy.typing import NDArray

from hidden_frame.kept import kept

_Array = NDArray[Any]
_SEED, _MIX = np.uint64(0x9E3779B97F4A7C15), np.uint64(29)
_IGNORED = ("%", "#", "LEFTHYPHENMIN", "RIGHTHYPHENMIN", "COMPOUNDLEFTHYPHENMIN",
            "COMPOUNDRIGHTHYPHENMIN", "NEXTLEVEL", "UTF-8")  # fmt: skip
_HEX = re.compile(r"\^{2}([0-9a-f]{2})")
_STOP = ord(".")  # stands before and behind a word
_FORM = 1  # of what is kept in the cache
_MOST = 200_000  # words that are remembered of a language


class _Table(NamedTuple):
    """The patterns of one length: their codes, rising, and for each where its figures begin in
    the list of all, and how many there are."""

    codes: _Array
    first: _Array
    many: _Array


class Patterns:
    """A language's patterns; `known` are the places in each word, in lower case, that was asked
    for, whatever stands before or behind them."""

    def __init__(self, arrays: dict[str, _Array]) -> None:
        self.known: dict[str, list[int]] = {}
        self._offset, self._value = arrays["offset"], arrays["value"]
        self._tables: list[_Table | None] = [
            _Table(arrays[f"codes{n}"], arrays[f"first{n}"], arrays[f"many{n}"])
            if f"codes{n}" in arrays
            else None
            for n in range(1, int(arrays["longest"]) + 1)
        ]

    @staticmethod
    @lru_cache(maxsize=32)
    def of(language: str) -> Patterns | None:
        """Those of a language by its code, or the nearest; None where there are none."""
        found = pyphen.language_fallback(language)
        if found is None:
            return None
        path = Path(pyphen.LANGUAGES[found])
        status = path.stat()
        key = f"{_FORM} {path} {status.st_size} {status.st_mtime_ns}".encode()
        return Patterns(_unpacked(kept("patterns", key, lambda: _packed(_read(path)), _is_whole)))

    def positions(self, word: str) -> list[int]:
        """Where a word may be divided, within it."""
        lower = word.lower()
        if lower not in self.known:
            self.learn([lower])
        return self.known[lower]

    def learn(self, words: Iterable[str]) -> None:
        """Finds the places in words in lower case that are not `known` yet."""
        if len(self.known) > _MOST:
            self.known.clear()
        new = [word for word in words if word not in self.known]
        if not new:
            return
        letters = _letters("." + ".".join(new) + ".")  # one stop parts two words, and is both's
        figures = np.zeros(len(letters) + 1, np.int8)
        stops = letters == _STOP
        places, codes = np.arange(len(letters)), np.zeros(len(letters), np.uint64)
        for length, table in enumerate(self._tables, 1):
            codes = _longer(codes, letters[places + length - 1])
            if table is not None:
                self._put(figures, places, codes, table)
            fine = places + length < len(letters)
            if length > 1:  # a stretch goes no further than the stop behind its word
                fine &= ~stops[places + length - 1]
            places, codes = places[fine], codes[fine]
            if not len(places):
                break
        odd = np.flatnonzero(figures & 1)
        bounds = np.flatnonzero(stops)
        firsts, ends = bounds[:-1] + 1, bounds[1:]
        low = np.searchsorted(odd, firsts, side="right").tolist()
        high = np.searchsorted(odd, ends, side="left").tolist()
        every = odd.tolist()
        for word, first, a, b in zip(new, firsts.tolist(), low, high, strict=True):
            self.known[word] = [place - first for place in every[a:b]]

    def _put(self, figures: _Array, places: _Array, codes: _Array, table: _Table) -> None:
        """What the patterns of one length say of the stretches that begin at `places`: the highest
        figure holds."""
        at = np.minimum(np.searchsorted(table.codes, codes), len(table.codes) - 1)
        hit = np.flatnonzero(table.codes[at] == codes)
        if not len(hit):
            return
        which = at[hit]
        many = table.many[which]
        rank = np.arange(int(many.sum())) - np.repeat(np.cumsum(many) - many, many)
        said = np.repeat(table.first[which], many) + rank
        begin = np.repeat(places[hit], many)
        np.maximum.at(figures, begin + self._offset[said], self._value[said])


def _packed(arrays: dict[str, _Array]) -> bytes:
    """Tables as they are kept in the cache: to read a large language's patterns takes a quarter of
    a second, these a few milliseconds."""
    file = io.BytesIO()
    np.savez(file, **arrays)  # type: ignore[arg-type]
    return file.getvalue()


def _unpacked(data: bytes) -> dict[str, _Array]:
    with np.load(io.BytesIO(data), allow_pickle=False) as found:
        return dict(found)


def _is_whole(data: bytes) -> bool:
    try:
        return "longest" in _unpacked(data)
    except Exception:  # whatever somebody put there
        return False


def _letters(text: str) -> _Array:
    return np.frombuffer(text.encode("utf-32-le", "surrogatepass"), np.uint32).astype(np.uint64)


def _longer(codes: _Array, letters: _Array) -> _Array:
    """The codes of stretches that are longer by a letter."""
    codes = codes * _SEED + letters
    return codes ^ (codes >> _MIX)


def _read(path: Path) -> dict[str, _Array]:
    """The tables of a file of patterns: letters with figures between them, a pattern a line."""
    every = _letters("\n" + _text(path) + "\n")
    ends = every == 10
    digit = (every >= 48) & (every <= 57)
    letter = ~(ends | digit)
    line = np.cumsum(ends) - 1
    count = np.bincount(line[letter], minlength=int(line[-1]))  # letters of each pattern
    begin = np.cumsum(count) - count
    letters = every[letter]
    at = np.cumsum(letter)  # letters before each character, in all patterns
    points = np.flatnonzero(digit & (every != 48))
    owner = line[points]
    many = np.bincount(owner, minlength=len(count))
    first = np.cumsum(many) - many
    order = np.argsort(-count, kind="stable")  # the longest first
    codes = np.zeros(len(count), np.uint64)
    longest = int(count.max())
    arrays = {
        "offset": (at[points] - begin[owner]).astype(np.int64),
        "value": (every[points] - 48).astype(np.int8),
        "longest": np.array(longest),
    }
    for length in range(1, longest + 1):
        alive = order[: int(np.searchsorted(-count[order], -length, side="right"))]
        codes[alive] = _longer(codes[alive], letters[begin[alive] + length - 1])
        whole = alive[(count[alive] == length) & (many[alive] > 0)]
        if len(whole):
            whole = whole[np.argsort(codes[whole], kind="stable")]
            own = codes[whole]
            last = np.append(own[1:] != own[:-1], True)  # of two alike the last one holds
            arrays[f"codes{length}"] = own[last]
            arrays[f"first{length}"] = first[whole][last]
            arrays[f"many{length}"] = many[whole][last]
    return arrays


def _text(path: Path) -> str:
    """The patterns of a file of pyphen's, read as it reads them, a line each; what a division
    changes in the spelling is left out, as it is here."""
    with path.open("rb") as file:
        encoding = file.readline().decode().strip()
    encoding = "cp1251" if encoding.lower() == "microsoft-cp1251" else encoding
    lines = [line.strip() for line in path.read_text(encoding).split("\n")[1:]]
    text = "\n".join(line for line in lines if line and not line.startswith(_IGNORED))
    text = _HEX.sub(lambda found: chr(int(found[1], 16)), text)
    return re.sub("/.*=.*", "", text)
