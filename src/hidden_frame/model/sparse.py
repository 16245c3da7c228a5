"""What few paragraphs of a text have: found once, and after an edit only where the text is another.

>>> from hidden_frame.model.text import Paragraph, Run
>>> text = (Paragraph("body", (Run("a"),)), Paragraph("title", (Run("b"),)))
>>> Sparse(lambda p: p.style == "title" or None)(text)
[(1, True)]
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable
from typing import Generic, TypeVar

from hidden_frame.model.same import same_ends
from hidden_frame.model.text import Paragraph, Text

V = TypeVar("V")
_KEPT = 6  # texts that are remembered: of a few stories, before and after an edit


class Sparse(Generic[V]):
    """A function of paragraphs that gives None for most; called with a text, it gives the numbers
    of the others and what it gives for them.  The list is not to be changed."""

    def __init__(self, of: Callable[[Paragraph], V | None]) -> None:
        self._of = of
        self._known: list[tuple[Text, list[tuple[int, V]]]] = []

    def __call__(self, text: Text) -> list[tuple[int, V]]:
        for known, found in self._known:
            if known is text:
                return found
        made = self._made(text)
        self._known = [(text, made), *self._known[: _KEPT - 1]]
        return made

    def _made(self, text: Text) -> list[tuple[int, V]]:
        head = foot = 0
        best: tuple[Text, list[tuple[int, V]]] = ((), [])
        for known in self._known:
            ends = same_ends(known[0], text)
            if sum(ends) > head + foot:
                (head, foot), best = ends, known
        old, found = best
        made = found[: bisect_left(found, head, key=_number)]
        for n in range(head, len(text) - foot):
            value = self._of(text[n])
            if value is not None:
                made.append((n, value))
        by = len(text) - len(old)
        rest = found[bisect_left(found, len(old) - foot, key=_number) :] if foot else []
        return made + ([(n + by, value) for n, value in rest] if by else rest)


def _number(row: tuple[int, V]) -> int:
    return row[0]
