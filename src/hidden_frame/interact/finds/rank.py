"""Which entries come first for what was typed.

Every word typed is compared with every word of each phrase of an entry: equal, begun, or with a
slip (Damerau–Levenshtein by rapidfuzz).  A phrase is worth the share of what was typed that it
explains, and, less, the share of it that was typed; rare words count for more than common ones
(inverse document frequency: Spärck Jones, Journal of Documentation 28, 1972, from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from math import log
from typing import NamedTuple

import numpy as np
from rapidfuzz.distance import OSA
from rapidfuzz.process import cdist

from hidden_frame.interact.finds.entry import FindEntry
from hidden_frame.interact.finds.words import ASKING, SAME, WEAK, plain, stem, stems, tokens

_BEGUN = 0.9  # a word that begins with what was typed
_SLIP = 0.7  # the least likeness of a slip, of letters
_LEAST = 0.3  # less is not shown
_BESIDE = 0.55  # nor what is worth less than this share of the first
_ELSEWHERE = 0.8  # of a word that stands in another phrase for the same
_UNKNOWN = 0.3  # how much a word counts that nothing is called by
_TELLS_LITTLE = 0.35  # how much a word counts that nearly anything is asked with
_NEAR = 0.83  # from here on it may be meant
_ALSO = 0.97  # of another word for it, where the name is 1
_PLACE = 0.55  # of a word that says only where it is
_WHOLE = 0.72  # for all that was typed; the rest for all of the phrase
_ORDER = {"command": 0, "field": 1, "guide": 2, "thing": 3, "hint": 4}


class Ranked(NamedTuple):
    """`sure` says that it is what was typed, by its name or by another word for it; `named`, by
    its name; `near`, that it is likely meant."""

    entry: FindEntry
    worth: float
    sure: bool
    named: bool
    near: bool


class _Phrase(NamedTuple):
    entry: int
    words: tuple[str, ...]
    weight: float
    plain: str
    stems: tuple[str, ...]


class Ranking:
    """Entries made ready to be asked, again and again while one types."""

    def __init__(self, entries: Sequence[FindEntry]) -> None:
        self.entries = tuple(entries)
        self._phrases = [p for n, e in enumerate(self.entries) for p in _phrases(n, e) if p.words]
        words = sorted({w for p in self._phrases for w in p.words})
        self._number = {w: n for n, w in enumerate(words)}
        self._words = words
        # What may be typed with a slip: the words, and those that are known by one of them.
        spelled = [(w, n) for w, n in self._number.items()]
        spelled += [(w, self._number[s]) for w in SAME if (s := stem(w)) in self._number and s != w]
        self._spelled = [w for w, _ in spelled]
        self._columns = np.array([n for _, n in spelled], dtype=int)
        carry: dict[str, set[int]] = {}
        for phrase in self._phrases:
            for word in phrase.words:
                carry.setdefault(word, set()).add(phrase.entry)
        count = max(len(self.entries), 1)
        self._rare = {w: log(1 + count / len(found)) for w, found in carry.items()}
        self._mean = sum(self._rare.values()) / max(len(self._rare), 1)
        self._lay_out()

    def _lay_out(self) -> None:
        """The words of all phrases in one row, and where each phrase begins in it, and each entry
        among the phrases: everything is then reckoned for all at once."""
        lengths = [len(p.words) for p in self._phrases]
        self._starts = np.concatenate([[0], np.cumsum(lengths)[:-1]]).astype(int)
        self._flat = np.array([self._number[w] for p in self._phrases for w in p.words], dtype=int)
        rare = np.array([self._rare[w] for w in self._words])
        self._own = rare[self._flat] if len(self._flat) else np.zeros(0)
        self._weights = np.array([p.weight for p in self._phrases])
        self._entry = np.array([p.entry for p in self._phrases], dtype=int)
        self._places = np.zeros((len(self.entries), len(self._words)), dtype=bool)
        for n, entry in enumerate(self.entries):
            for word in tokens(entry.place):
                if word in self._number:
                    self._places[n, self._number[word]] = True

    def ask(self, typed: str, most: int = 40) -> list[Ranked]:
        """What was meant, the likeliest first.

        >>> entries = [FindEntry("command", "export", "Export PDF…", "", ("print",)),
        ...            FindEntry("command", "run", "Run", "", ("page thumbnails",))]
        >>> [(r.entry.id, r.sure) for r in Ranking(entries).ask("page thumnails")]
        [('run', False)]
        >>> [(r.entry.id, r.sure) for r in Ranking(entries).ask("PRINT")]
        [('export', True)]
        """
        asked = tuple(part for word in tokens(typed) for part in self._parts(word))
        if not asked or not self._phrases:
            return []
        likeness = self._likeness(asked)
        rare = np.array([self._rare_of(w, row) for w, row in zip(asked, likeness, strict=True)])
        best = self._best(typed, self._worth(likeness, rare / rare.sum()))
        least = max([_LEAST, *(r.worth * _BESIDE for r in best)])
        shown = [r for r in best if r.worth >= least]
        shown.sort(key=lambda r: (-round(r.worth, 2), _ORDER[r.entry.kind]))
        return shown[:most]

    def _best(self, typed: str, worth: np.ndarray) -> list[Ranked]:
        """Each entry by its best phrase; what was typed in full counts for more than all else."""
        whole, words = plain(typed), stems(typed)
        asks = bool(ASKING & set(whole.split()))
        best: dict[int, Ranked] = {}
        for number in np.flatnonzero(worth >= _LEAST / 2):
            phrase, found = self._phrases[number], float(worth[number])
            entry = self.entries[phrase.entry]
            same = phrase.plain == whole or phrase.stems == words
            if same:
                found += (0.1 if phrase.weight == 1 else 0.05) + (phrase.plain == whole) * 0.1
            if asks and entry.kind == "guide":
                found += 0.06
            if phrase.entry not in best or found > best[phrase.entry].worth:
                named = same and phrase.weight > _ALSO
                best[phrase.entry] = Ranked(entry, found, same, named, found >= _NEAR)
        return list(best.values())

    def _parts(self, word: str) -> tuple[str, ...]:
        """Two words that were typed as one: “linespacing”, “goto”."""
        if word in self._number or word in SAME:
            return (word,)
        for at in range(2, len(word) - 1):
            first, rest = stem(word[:at]), stem(word[at:])
            if first in self._number and rest in self._number:
                return first, rest
        return (word,)

    def _likeness(self, asked: Sequence[str]) -> np.ndarray:
        """How much each word typed is like each word known; rows are words typed."""
        if not self._words:
            return np.zeros((len(asked), 0))
        likeness = np.zeros((len(asked), len(self._words)))
        slips = cdist(asked, self._spelled, scorer=OSA.normalized_similarity)
        for row, word in enumerate(asked):
            # Of three letters any other is near.
            like = np.where((slips[row] >= _SLIP) & (len(word) > 3), slips[row] * 0.93, 0.0)
            if len(word) > 1:
                begun = np.array([other.startswith(word) for other in self._spelled])
                like = np.maximum(like, begun * _BEGUN)
            like[slips[row] == 1.0] = 1.0
            np.maximum.at(likeness[row], self._columns, like)
        return likeness

    def _rare_of(self, word: str, row: np.ndarray) -> float:
        """How rare a word is: by the known one that it is most like."""
        if word in self._rare:
            return self._rare[word] * (_TELLS_LITTLE if word in _WEAK else 1)
        if row.size and row.max() > 0:
            return self._rare[self._words[int(row.argmax())]]
        return self._mean * _UNKNOWN

    def _worth(self, likeness: np.ndarray, rare: np.ndarray) -> np.ndarray:
        """What each phrase is worth; `likeness` of words typed (rows) and known (columns)."""
        part = likeness[:, self._flat]
        explained = np.maximum.reduceat(part, self._starts, axis=1)
        # What another phrase for the same, or its place, explains counts, but less.
        anywhere = np.zeros((len(rare), len(self.entries)))
        for row, found in enumerate(explained):
            np.maximum.at(anywhere[row], self._entry, found * _ELSEWHERE)
            exact = likeness[row] == 1.0
            anywhere[row] = np.maximum(anywhere[row], self._places[:, exact].any(axis=1) * _PLACE)
        explained = np.maximum(explained, anywhere[:, self._entry])
        said = np.add.reduceat(part.max(axis=0) * self._own, self._starts)
        share = said / np.add.reduceat(self._own, self._starts)
        worth: np.ndarray = self._weights * (rare @ explained) * (_WHOLE + (1 - _WHOLE) * share)
        return worth


_WEAK = frozenset(stem(w) for w in WEAK)


def _phrases(number: int, entry: FindEntry) -> list[_Phrase]:
    name = entry.name.replace("…", "")
    said = [(name, 1.0)]
    if ": " in name:
        said += [(part, 0.99) for part in name.split(": ", 1)]
    said += [(also, _ALSO) for also in entry.also]
    return [_Phrase(number, tokens(p), weight, plain(p), stems(p)) for p, weight in said]
