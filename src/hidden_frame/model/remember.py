"""Derived values remembered by the identity of what they came from.

Publications are immutable, so a derived value stays right as long as its
sources are the very same objects.  Comparing by identity costs nothing, while
hashing a publication would cost more than most derivations.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")

_BY_VALUE = frozenset({str, int, bool, float, type(None)})


def remembered(size: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Remember the last `size` results, keyed by the identity of the arguments.

    Strings, numbers and tuples of strings count by value.  The arguments of a
    remembered call are kept alive, so that an identity can't be reused.

    >>> @remembered(8)
    ... def total(numbers): return sum(numbers)
    >>> total([1, 2])
    3
    """

    def decorate(function: Callable[P, R]) -> Callable[P, R]:
        store: dict[Any, tuple[Any, R]] = {}

        @wraps(function)
        def inner(*args: P.args, **kwargs: P.kwargs) -> R:
            if len(args) == 1:  # most calls by far
                key: Any = args[0] if type(args[0]) in _BY_VALUE else id(args[0])
            else:
                key = tuple([a if type(a) in _BY_VALUE else id(a) for a in args])
            hit = store.get(key)
            if hit is not None:
                return hit[1]
            result = function(*args, **kwargs)
            if len(store) >= size:
                store.pop(next(iter(store)))
            store[key] = (args, result)
            return result

        inner.forget = store.clear  # type: ignore[attr-defined]
        return inner

    return decorate
