"""The number of the file format, and the steps that bring older files up to it.

The policy: a number stands for what a file can say. Whatever an older version of the program would
lose on its next save (a field, a kind, a value that it does not know) raises the number, brings a
step for the number before, and leaves a file of its own in `tests/files/`; the tests hold this to
the shapes that are kept there. What an older version reads as it is meant raises nothing.

>>> brought_up({"title": "Notes"}, FORMAT)
{'title': 'Notes'}
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

FORMAT = 2

# What becomes of the tree of a publication when it goes from a number to the next; None where all
# that it says is said in the same way.  1: the shape grew thirty times under one number, each time
# by fields that have defaults.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]] | None] = {1: None}


def brought_up(publication: dict[str, Any], number: int) -> dict[str, Any]:
    """The tree of a publication (its JSON, decoded) of an older number as one of today's.

    Raises `KeyError` for a number there never was.
    """
    for older in range(number, FORMAT):
        step = STEPS[older]
        if step is not None:
            publication = step(publication)
    return publication


def unchanged_since(number: int) -> bool:
    """Whether files of this number say everything as today's do."""
    return number >= 1 and all(STEPS[older] is None for older in range(number, FORMAT))
