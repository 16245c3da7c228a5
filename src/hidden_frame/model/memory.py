"""Derived values remembered by what they came from: one memory for the whole program.

Publications are immutable, so a derived value stays right as long as its sources are the very
same objects.  Comparing by identity costs nothing, while hashing a publication would cost more
than most derivations.  What is kept has a weight in bytes, and one budget holds for all of it:
values that several edits did not ask for are dropped, in every memo at once, so that none keeps
alive what another one has dropped.

>>> @remembered()
... def total(numbers): return sum(numbers)
>>> some = [1, 2]
>>> total(some), total.entries
(3, 1)
"""

from __future__ import annotations

from collections.abc import Callable
from functools import update_wrapper
from inspect import signature
from typing import Any, Generic, NamedTuple, ParamSpec, TypeVar

P = ParamSpec("P")
R = TypeVar("R")

SLACK = 10 * 1024**2  # bytes of new values between two clearances
_PLAIN = frozenset({str, int, bool, float, type(None)})
_ENTRY = 240  # bytes of a key, its arguments' references, and an entry


def weigh(result: object) -> int:
    """A rough weight of a value, in bytes: what holds others, by their number."""
    if isinstance(result, tuple | list | dict | frozenset | set):
        return 64 + 90 * len(result)
    return 120


class Report(NamedTuple):
    """A memo's name, how many values it keeps, and their weight in bytes."""

    name: str
    entries: int
    weight: int


class Memory:
    """All memos of a process.

    Values made or asked for since the last clearance are *fresh*, all others *stale*.  A
    clearance drops the stale ones and makes the fresh ones stale.
    """

    def __init__(self, slack: int = SLACK) -> None:
        self.slack = slack
        self.memos: list[Memo[Any, Any]] = []
        self.new = 0  # bytes made since the last clearance
        self._last: object = None

    def turn(self, version: object) -> None:
        """To be called with each new value of the publication: where enough was made since the
        last clearance, what no edit has asked for is dropped.  Within one version nothing is."""
        if version is not self._last:
            self._last = version
            if self.new > self.slack:
                self.clear_stale()

    def clear_stale(self) -> None:
        """One clearance."""
        self.new = 0
        for memo in self.memos:
            memo.stale.clear()
            memo.stale.update(memo.fresh)
            memo.fresh.clear()

    def report(self) -> list[Report]:
        """What is kept, the heaviest first."""
        found = [Report(m.name, m.entries, m.weight) for m in self.memos]
        return sorted(found, key=lambda r: -r.weight)


MEMORY = Memory()


class Memo(Generic[P, R]):
    """A function that remembers its results.

    Arguments count by identity and are kept alive with the result, so that an identity can't be
    reused; strings, numbers and those named in `by_value` count by value.
    """

    def __init__(
        self,
        function: Callable[P, R],
        by_value: tuple[str, ...],
        weigh_result: Callable[[R], int],
        memory: Memory,
    ) -> None:
        update_wrapper(self, function)
        self.name = f"{function.__module__.removeprefix('hidden_frame.')}.{function.__name__}"
        self.fresh: dict[Any, tuple[Any, R, int]] = {}
        self.stale: dict[Any, tuple[Any, R, int]] = {}
        self._function, self._weigh, self._memory = function, weigh_result, memory
        self._signature = signature(function)
        parameters = self._signature.parameters
        names = list(parameters)
        self._open = any(p.kind is p.VAR_POSITIONAL for p in parameters.values())
        unknown = set(by_value) - set(names)
        if unknown:
            raise TypeError(f"{self.name} has no {', '.join(sorted(unknown))}")
        self._by_value = tuple(name in by_value for name in names)
        self._single = len(names) == 1 and not by_value
        memory.memos.append(self)

    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> R:
        if self._open:
            key: Any = tuple([a if type(a) in _PLAIN else id(a) for a in args])
        elif kwargs or len(args) < len(self._by_value):
            bound = self._signature.bind(*args, **kwargs)
            bound.apply_defaults()
            return self(*bound.args)  # type: ignore[call-arg]
        elif self._single:  # most calls by far
            key = args[0] if type(args[0]) in _PLAIN else id(args[0])
        else:
            key = tuple(
                [
                    a if by_value or type(a) in _PLAIN else id(a)
                    for a, by_value in zip(args, self._by_value, strict=True)
                ]
            )
        hit = self.fresh.get(key)
        if hit is not None:
            return hit[1]
        hit = self.stale.pop(key, None)
        if hit is not None:
            self.fresh[key] = hit
            return hit[1]
        result = self._function(*args)  # type: ignore[call-arg]
        weight = _ENTRY + self._weigh(result)
        self.fresh[key] = (args, result, weight)
        self._memory.new += weight
        return result

    @property
    def entries(self) -> int:
        """How many results are kept."""
        return len(self.fresh) + len(self.stale)

    @property
    def weight(self) -> int:
        """Bytes of all that is kept, roughly."""
        both = (*self.fresh.values(), *self.stale.values())
        return sum(weight for _, _, weight in both)


def remembered(
    by_value: tuple[str, ...] = (),
    weigh: Callable[[Any], int] = weigh,
    memory: Memory = MEMORY,
) -> Callable[[Callable[P, R]], Memo[P, R]]:
    """Remembers a function's results; see `Memo`.

    `weigh` gives a result's weight in bytes where `memory.weigh` would be far off.
    """

    def decorate(function: Callable[P, R]) -> Memo[P, R]:
        return Memo(function, by_value, weigh, memory)

    return decorate
