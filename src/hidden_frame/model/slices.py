"""Work that yields what there is so far, again and again, and in the end what comes of it."""

from __future__ import annotations

from collections.abc import Generator
from typing import Any, TypeVar

T = TypeVar("T")


def at_once(slices: Generator[Any, None, T]) -> T:
    """What comes of work that nobody sees between.

    >>> at_once(x for x in ())
    """
    while True:
        try:
            next(slices)
        except StopIteration as end:
            return end.value
