"""Embedding levels of a paragraph's characters: the Unicode Bidirectional Algorithm, UAX #9.

Rules are named as there.  The work is done on units: characters of one class in a row, since
most words are one.

>>> levels("abc אבג 12", base=0)
[0, 0, 0, 0, 1, 1, 1, 1, 2, 2]
"""

from __future__ import annotations

from collections.abc import Iterator
from unicodedata import bidirectional

from hidden_frame.typeset.bidi.brackets import CLOSERS, CLOSING, OPENING, SAME

MAX_DEPTH = 125  # BD2
_ISOLATES = ("LRI", "RLI", "FSI")
_REMOVED = frozenset(("LRE", "RLE", "LRO", "RLO", "PDF", "BN"))  # X9
_NEUTRAL = frozenset(("B", "S", "WS", "ON", "LRI", "RLI", "FSI", "PDI"))
_STRONG = frozenset(("L", "R", "AL"))
# Classes that take the paragraph's level where nothing else stands in it and that is 1 (W1 to W7,
# N1, N2, L1).
_FROM_RIGHT = frozenset(("R", "AL", "WS", "ON", "ES", "ET", "CS", "NSM", "B", "S"))
_ALONE = frozenset(("CS", "ES", "B", "S", "LRI", "RLI", "FSI", "PDI", *_REMOVED))


class Unit:
    """Characters of one class in a row; `kind` changes as the rules are applied to it."""

    __slots__ = ("bracket", "end", "kind", "level", "match", "original", "start")

    def __init__(self, kind: str, start: int, end: int, bracket: str = "") -> None:
        self.kind = self.original = kind
        self.start, self.end = start, end
        self.bracket = bracket
        self.level = 0
        self.match: int | None = None  # the other end of an isolate


def levels(text: str, base: int | None = None) -> list[int]:
    """The level of each character; `base` is the paragraph's, by its first strong character if
    it is None.  Characters that X9 removes have the level of what stands before them."""
    there = set(map(bidirectional, set(text)))
    if there <= _FROM_RIGHT and base != 0 and (base == 1 or there & {"R", "AL"}):
        return [1] * len(text)  # nothing in it is read from the left, as in most of an Arabic text
    units = _units(text)
    _match_isolates(units)
    level = base if base is not None else base_of(units)
    _explicit(units, level)
    for sequence, before, behind in list(_sequences(units, level)):
        _weak(sequence, before)
        _brackets(sequence, before)
        _neutral(sequence, before, behind)
        _implicit(sequence)
    _whitespace(units, level)
    found: list[int] = []
    for unit in units:
        if unit.original in _REMOVED and found and unit.level < 0:
            unit.level = found[-1]
        found += [max(unit.level, 0) if found or unit.level >= 0 else level] * (
            unit.end - unit.start
        )
    return found


def base_level(text: str) -> int:
    """A paragraph's own level: 1 if its first strong letter is written from right to left, else
    0 (P2, P3)."""
    for letter in text:
        kind = bidirectional(letter)
        if kind in _STRONG:
            return int(kind != "L")
        if kind in _ISOLATES:
            break
    units = _units(text)
    _match_isolates(units)
    return base_of(units)


def base_of(units: list[Unit], start: int = 0, end: int | None = None) -> int:
    """The same for units, those within isolates left out."""
    at, stop = start, len(units) if end is None else end
    while at < stop:
        unit = units[at]
        if unit.original in _STRONG:
            return int(unit.original != "L")
        if unit.original in _ISOLATES:
            if unit.match is None:
                return 0
            at = unit.match
        at += 1
    return 0


def _units(text: str) -> list[Unit]:
    kinds = list(map(bidirectional, text))
    units: list[Unit] = []
    start, count = 0, len(kinds)
    while start < count:
        kind, end = kinds[start] or "L", start + 1
        if kind == "ON":
            letter = text[start]
            bracket = letter if letter in OPENING or letter in CLOSERS else ""
            units.append(Unit(kind, start, end, SAME.get(bracket, bracket)))
        elif kind in _ALONE:
            units.append(Unit(kind, start, end))
        else:
            while end < count and kinds[end] == kind:
                end += 1
            units.append(Unit(kind, start, end))
        start = end
    return units


def _match_isolates(units: list[Unit]) -> None:
    """BD9."""
    opened: list[int] = []
    for n, unit in enumerate(units):
        if unit.original in _ISOLATES:
            opened.append(n)
        elif unit.original == "PDI" and opened:
            unit.match = opened.pop()
            units[unit.match].match = n
        elif unit.original == "B":
            opened.clear()


def _explicit(units: list[Unit], base: int) -> None:
    """X1 to X8; units that are removed get the level -1."""
    stack: list[tuple[int, str, bool]] = [(base, "", False)]
    isolates_over = embeddings_over = isolates = 0
    for n, unit in enumerate(units):
        kind, (level, override, _) = unit.original, stack[-1]
        if kind in ("RLE", "LRE", "RLO", "LRO"):
            unit.level = -1
            new = _next(level, odd=kind[0] == "R")
            if new <= MAX_DEPTH and not isolates_over and not embeddings_over:
                stack.append((new, kind[0] if kind[2] == "O" else "", False))
            elif not isolates_over:
                embeddings_over += 1
        elif kind in _ISOLATES:
            unit.level = level
            unit.kind = override or kind
            right = kind == "RLI" or (kind == "FSI" and base_of(units, n + 1, unit.match) == 1)
            new = _next(level, odd=right)
            if new <= MAX_DEPTH and not isolates_over and not embeddings_over:
                isolates += 1
                stack.append((new, "", True))
            else:
                isolates_over += 1
        elif kind == "PDI":
            if isolates_over:
                isolates_over -= 1
            elif isolates:
                embeddings_over = 0
                while not stack[-1][2]:
                    stack.pop()
                stack.pop()
                isolates -= 1
            unit.level = stack[-1][0]
            unit.kind = stack[-1][1] or kind
        elif kind == "PDF":
            unit.level = -1
            if not isolates_over:
                if embeddings_over:
                    embeddings_over -= 1
                elif not stack[-1][2] and len(stack) > 1:
                    stack.pop()
        elif kind == "B":
            unit.level = base
            stack = [(base, "", False)]
            isolates_over = embeddings_over = isolates = 0
        elif kind == "BN":
            unit.level = -1
        else:
            unit.level = level
            unit.kind = override or kind


def _next(level: int, odd: bool) -> int:
    return (level + 1) | 1 if odd else (level + 2) & ~1


def _sequences(units: list[Unit], base: int) -> Iterator[tuple[list[Unit], str, str]]:
    """The isolating run sequences, and the classes before and behind each (X10, BD13)."""
    runs: list[list[int]] = []
    for n, unit in enumerate(units):
        if unit.level < 0:
            continue
        if runs and units[runs[-1][-1]].level == unit.level:
            runs[-1].append(n)
        else:
            runs.append([n])
    first_of = {run[0]: run for run in runs}
    for run in runs:
        first = units[run[0]]
        if first.original == "PDI" and first.match is not None:
            continue  # it goes on from where the isolate was opened
        sequence = list(run)
        while units[sequence[-1]].original in _ISOLATES:
            match = units[sequence[-1]].match
            if match is None or match not in first_of:
                break
            sequence += first_of[match]
        yield [units[n] for n in sequence], *_edges(units, sequence, base)


def _edges(units: list[Unit], sequence: list[int], base: int) -> tuple[str, str]:
    level = units[sequence[0]].level
    n = sequence[0] - 1
    while n >= 0 and units[n].level < 0:
        n -= 1
    before = units[n].level if n >= 0 else base
    last = units[sequence[-1]]
    behind = base
    if not (last.original in _ISOLATES and last.match is None):
        n = sequence[-1] + 1
        while n < len(units) and units[n].level < 0:
            n += 1
        behind = units[n].level if n < len(units) else base
    return _direction(max(level, before)), _direction(max(level, behind))


def _direction(level: int) -> str:
    return "R" if level % 2 else "L"


def _weak(sequence: list[Unit], before: str) -> None:
    """W1 to W7."""
    last = before
    for unit in sequence:  # W1
        if unit.kind == "NSM":
            unit.kind = last
        last = "ON" if unit.original in _ISOLATES or unit.original == "PDI" else unit.kind
    strong = before
    for unit in sequence:  # W2, W3
        if unit.kind in ("R", "L", "AL"):
            strong = unit.kind
        elif unit.kind == "EN" and strong == "AL":
            unit.kind = "AN"
    for unit in sequence:
        if unit.kind == "AL":
            unit.kind = "R"
    _separators(sequence)
    strong = before
    for unit in sequence:  # W7
        if unit.kind in ("R", "L"):
            strong = unit.kind
        elif unit.kind == "EN" and strong == "L":
            unit.kind = "L"


def _separators(sequence: list[Unit]) -> None:
    """W4 to W6."""
    for n in range(1, len(sequence) - 1):
        unit, left, right = sequence[n], sequence[n - 1].kind, sequence[n + 1].kind
        number = left == right and left in ("EN", "AN")
        if number and (unit.kind == "CS" or (unit.kind == "ES" and left == "EN")):
            unit.kind = left
    for order in (sequence, sequence[::-1]):
        last = ""
        for unit in order:
            if unit.kind == "ET" and last == "EN":
                unit.kind = "EN"
            last = unit.kind
    for unit in sequence:
        if unit.kind in ("ES", "ET", "CS"):
            unit.kind = "ON"


def _brackets(sequence: list[Unit], before: str) -> None:
    """N0, for pairs in the order in which they open."""
    pairs = _pairs(sequence)
    embedding = _direction(sequence[0].level)
    for opening, closing in pairs:
        inner = {_as_strong(u.kind) for u in sequence[opening + 1 : closing]} - {""}
        if embedding in inner:
            chosen = embedding
        elif inner:
            strong = (_as_strong(u.kind) for u in reversed(sequence[:opening]))
            chosen = next(filter(None, strong), before)
        else:
            continue
        for n in (opening, closing):
            sequence[n].kind = chosen
            for unit in sequence[n + 1 :]:
                if unit.original != "NSM":
                    break
                unit.kind = chosen


def _pairs(sequence: list[Unit]) -> list[tuple[int, int]]:
    """BD16."""
    opened: list[tuple[str, int]] = []
    found: list[tuple[int, int]] = []
    for n, unit in enumerate(sequence):
        if not unit.bracket or unit.kind != "ON":
            continue
        if unit.bracket in OPENING:
            if len(opened) == 63:
                return sorted(found)
            opened.append((SAME.get(CLOSING[unit.bracket], CLOSING[unit.bracket]), n))
        else:
            for at in range(len(opened) - 1, -1, -1):
                if opened[at][0] == unit.bracket:
                    found.append((opened[at][1], n))
                    del opened[at:]
                    break
    return sorted(found)


def _as_strong(kind: str) -> str:
    """Numbers count as written from right to left (N1)."""
    if kind in ("EN", "AN"):
        return "R"
    return kind if kind in ("L", "R") else ""


def _neutral(sequence: list[Unit], before: str, behind: str) -> None:
    """N1 and N2."""
    last, waiting = before, []
    for unit in sequence:
        if unit.kind in _NEUTRAL:
            waiting.append(unit)
            continue
        strong = _as_strong(unit.kind)
        _settle(waiting, last, strong)
        last = strong
    _settle(waiting, last, behind)


def _settle(waiting: list[Unit], left: str, right: str) -> None:
    for unit in waiting:
        unit.kind = left if left == right else _direction(unit.level)
    waiting.clear()


def _implicit(sequence: list[Unit]) -> None:
    """I1 and I2."""
    for unit in sequence:
        if unit.level % 2:
            unit.level += unit.kind != "R"
        elif unit.kind == "R":
            unit.level += 1
        elif unit.kind in ("AN", "EN"):
            unit.level += 2


def _whitespace(units: list[Unit], base: int) -> None:
    """L1 for the paragraph's end and what stands before separators; ends of lines are the
    caller's."""
    at_end = True
    for unit in reversed(units):
        if unit.original in ("B", "S"):
            unit.level, at_end = base, True
        elif unit.original in ("WS", "FSI", "LRI", "RLI", "PDI"):
            if at_end:
                unit.level = base
        elif unit.original not in _REMOVED:
            at_end = False
        elif at_end:
            unit.level = base
