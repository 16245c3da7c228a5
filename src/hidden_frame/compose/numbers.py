"""What stands before the paragraphs of numbered styles: their numbers, or a bullet.

>>> from hidden_frame.model.numbering import ListNumber
>>> part, chapter = ListNumber(form="Part {1}", numerals="upper roman"), ListNumber(
...     form="{1}.{2}", level=2)
>>> numbered([part, chapter, chapter, None, part, chapter])
['Part I', 'I.1', 'I.2', '', 'Part II', 'II.1']
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from itertools import zip_longest

from hidden_frame.compose.numerals import format_number, in_range
from hidden_frame.compose.palette import Palette
from hidden_frame.model.numbering import MAX_LEVEL, ListNumber
from hidden_frame.model.text import Text

_PLACE = re.compile("[{]([1-9])[}]")


class _Counter:
    """The numbers of one list, a number a level."""

    def __init__(self) -> None:
        self.counts = [0] * (MAX_LEVEL + 1)
        self.under: list[tuple[int, ...]] = [()] * (MAX_LEVEL + 1)
        self.shown = [""] * (MAX_LEVEL + 1)

    def next(self, number: ListNumber, count_from: int | None = None) -> str:
        """The next paragraph of a level, which may say where it counts from: its number as its
        style writes it."""
        level = number.level
        above = tuple(self.counts[1:level])
        if count_from is not None:
            self.counts[level] = count_from
        elif not self.counts[level] or (number.restarts and above != self.under[level]):
            self.counts[level] = number.start
        else:
            self.counts[level] += 1
        self.under[level] = above
        self.shown[level] = _written(self.counts[level], number)
        return _PLACE.sub(lambda m: self.shown[int(m[1])], number.form)


def _written(count: int, number: ListNumber) -> str:
    style = number.numerals if in_range(count, number.numerals) else "decimal"
    return format_number(count, style)


Counted = tuple[ListNumber, int | None]  # and from which number it counts, if it says so


def numbered(
    numbers: Iterable[ListNumber | None],
    before: Iterable[Counted] = (),
    starts: Sequence[int | None] = (),
) -> list[str]:
    """What stands before each of several paragraphs in their order; "" before one that has no
    number.  Those of earlier texts that count on are `before` them; `starts` are the numbers that
    they themselves count from."""
    counters: dict[str, _Counter] = {}
    for number, start in before:
        counters.setdefault(number.list, _Counter()).next(number, start)
    return [
        "" if n is None else counters.setdefault(n.list, _Counter()).next(n, start)
        for n, start in zip_longest(numbers, starts)
    ]


def counting_on(texts: Iterable[Text], known: Palette) -> tuple[Counted, ...]:
    """The numbers of texts that those of a later one go on from."""
    if not known.numbered:
        return ()
    styles = {i: s.number for i, s in known.paragraphs.items() if s.number and s.number.across}
    if not styles:
        return ()
    found = ((styles.get(p.style), p.count_from) for text in texts for p in text)
    return tuple((number, start) for number, start in found if number is not None)


def labels(text: Text, known: Palette, before: tuple[Counted, ...] = ()) -> tuple[str, ...] | None:
    """The same for a text; None if none of its styles has numbers, as in most texts."""
    if not known.numbered:
        return None
    styles = known.paragraphs
    numbers = [styles[p.style].number for p in text]
    if not any(numbers):
        return None
    return tuple(numbered(numbers, before, [p.count_from for p in text]))
