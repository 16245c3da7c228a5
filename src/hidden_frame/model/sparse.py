"""What is known of long sequences, found again after an edit only where they are others.

Texts are sequences of paragraphs, sections of pages.  What an edit left alone are the very same
objects, at the head and at the foot.

>>> from hidden_frame.model.text import Paragraph, Run
>>> text = (Paragraph("body", (Run("a"),)), Paragraph("title", (Run("b"),)))
>>> Sparse(lambda p: p.style == "title" or None)(text)
[(1, True)]
>>> styles = Projection(lambda p: p.style)
>>> styles(text) is styles((Paragraph("body"), text[1]))
True
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Callable
from typing import Any, Generic, TypeVar

from hidden_frame.model.same import forget_ends, same_ends

E = TypeVar("E")
V = TypeVar("V")
R = TypeVar("R")
# What is remembered: of all stories or sections, and of earlier ones, but not of a long one
# through dozens of edits.
_KEPT, _ELEMENTS, _FEW = 400, 60_000, 8
_MOST = 0.6  # the share in common from which no sequence with more of it is looked for


_all: list[_Nearest[Any, Any]] = []


def forget() -> None:
    """Lets go of every sequence: a publication was closed."""
    for one in _all:
        one.clear()
    forget_ends()


class _Nearest(Generic[E, R]):
    """Remembers what was found of sequences, those asked for of late last."""

    def __init__(self) -> None:
        self._known: dict[int, tuple[tuple[E, ...], R]] = {}
        self._elements = 0  # of all that are known
        _all.append(self)

    def clear(self) -> None:
        """Remembers nothing."""
        self._known.clear()
        self._elements = 0

    def __call__(self, elements: tuple[E, ...]) -> R:
        key = id(elements)
        known = self._known.pop(key, None)
        if known is None:
            known = (elements, self._found(elements, *self._nearest(elements)))
            self._elements += len(elements)
            while len(self._known) >= (_KEPT if self._elements < _ELEMENTS else _FEW):
                oldest = self._known.pop(next(iter(self._known)))
                self._elements -= len(oldest[0])
        self._known[key] = known
        return known[1]

    def _nearest(
        self, elements: tuple[E, ...]
    ) -> tuple[tuple[tuple[E, ...], R] | None, tuple[int, int]]:
        """What is known of the sequence that has most in common with one, and how much."""
        best, most = None, (0, 0)
        for known in reversed(self._known.values()):
            ends = same_ends(known[0], elements)
            if sum(ends) > sum(most):
                best, most = known, ends
                if sum(most) > _MOST * len(elements):
                    break
        return best, most

    def _found(
        self, elements: tuple[E, ...], known: tuple[tuple[E, ...], R] | None, ends: tuple[int, int]
    ) -> R:
        raise NotImplementedError


class Sparse(_Nearest[E, list[tuple[int, V]]]):
    """A function that gives None for most elements; called with a sequence, it gives the numbers
    of the others and what it gives for them.  The list is not to be changed."""

    def __init__(self, of: Callable[[E], V | None]) -> None:
        super().__init__()
        self._of = of

    def _found(
        self, elements: tuple[E, ...], known: tuple[tuple[E, ...], list[tuple[int, V]]] | None,
        ends: tuple[int, int],
    ) -> list[tuple[int, V]]:  # fmt: skip
        old, found = known if known is not None else ((), [])
        head, foot = ends
        made = found[: bisect_left(found, head, key=_number)]
        end = len(old) - foot
        moved = set(map(id, old[head:end]))  # what only stands elsewhere now
        there = {id(old[n]): value for n, value in found if head <= n < end} if moved else {}
        for n, element in enumerate(elements[head : len(elements) - foot], head):
            key = id(element)
            if key not in moved:
                value = self._of(element)
            elif key in there:
                value = there[key]
            else:  # most of those that moved
                continue
            if value is not None:
                made.append((n, value))
        by = len(elements) - len(old)
        rest = found[bisect_left(found, len(old) - foot, key=_number) :] if foot else []
        return made + ([(n + by, value) for n, value in rest] if by else rest)


class Projection(_Nearest[E, tuple[V, ...]]):
    """A function of each element; as long as an edit changes none of its values, a sequence gives
    the very same tuple as before, so that what is made of them need not be made again."""

    def __init__(self, of: Callable[[E], V]) -> None:
        super().__init__()
        self._of = of

    def _found(
        self, elements: tuple[E, ...], known: tuple[tuple[E, ...], tuple[V, ...]] | None,
        ends: tuple[int, int],
    ) -> tuple[V, ...]:  # fmt: skip
        old, before = known if known is not None else ((), ())
        head, foot = ends
        end = len(old) - foot
        there = dict(zip(map(id, old[head:end]), before[head:end], strict=True))
        of, changed = self._of, elements[head : len(elements) - foot]
        middle = tuple([
            there[key] if key in there else of(element)
            for element, key in zip(changed, map(id, changed), strict=True)
        ])  # fmt: skip
        if known is not None and middle == before[head : len(before) - foot]:
            return before
        return before[:head] + middle + before[len(before) - foot :]


def _number(row: tuple[int, V]) -> int:
    return row[0]
