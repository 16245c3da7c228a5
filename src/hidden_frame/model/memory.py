"""Derived values remembered by what they came from: one memory for the whole program.

Publications are immutable, so a derived value stays right as long as its sources are the very
same objects.  Comparing by identity costs nothing, while hashing a publication would cost more
than most derivations.  What is kept has a weight in bytes, and one budget holds for all of it:
values that several edits did not ask for are dropped, in every memo at once, so that none keeps
alive what another one has dropped.

>>> @remembered()
... def total(numbers): return sum(numbers)
>>> some = [1, 2]
>>> total(some), total.memo.entries
(3, 1)
"""

from __future__ import annotations

import gc
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from functools import update_wrapper
from inspect import Parameter, signature
from sys import getrefcount
from typing import Any, Generic, NamedTuple, ParamSpec, Protocol, TypeVar

P = ParamSpec("P")
R = TypeVar("R")
R_co = TypeVar("R_co", covariant=True)


def settle() -> None:
    """Lets the collector of circles come seldom, and look at nothing that is there by now:
    publications are large trees of small objects that form no circles."""
    gc.set_threshold(50_000, 20, 50)
    gc.freeze()
    gc.enable()


def settle_each(pages: int) -> None:
    """The same now and then in a walk through thousands of pages: all that they are made of would
    else be looked at again and again, half a second each time."""
    if pages % 500 == 0:
        settle()


def unsettle() -> None:
    """Lets the collector look at everything again: a publication was closed."""
    gc.unfreeze()


SLACK = 10 * 1024**2  # bytes of new values between two clearances
_PLAIN = {"str", "int", "bool", "float", "None", "Side"}
_PASSED = 2_000  # results that a walk remembers: masters' items recur from page to page
_LETTING, _AT_A_TIME = 0.001, 40  # seconds of freeing at a turn; entries between looks at the clock
_ENTRY = 240  # bytes of a key, its arguments' references, and an entry


_weights: dict[int, int] = {}


def weigh(result: object) -> int:
    """A rough weight of a value, in bytes: what holds others, by their number."""
    if isinstance(result, tuple | list | dict | frozenset | set):
        return 64 + 90 * len(result)
    return 120


class MemoryReport(NamedTuple):
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
        self.memos: list[Memo[Any]] = []
        self.new = 0  # bytes made since the last clearance
        self.walking = 0  # how many walks through all pages are under way
        self.passed: list[tuple[Memo[Any], Any]] = []  # made by them of what is `passing`
        self._last: object = None
        self._leaving: list[dict[Any, Any]] = []  # dropped, and not freed yet

    @contextmanager
    def walk(self) -> Iterator[None]:
        """Within it pages are composed that nobody looks at: what is remembered of each, but for
        what lasts, is let go a while later."""
        self.walking += 1
        try:
            yield
        finally:
            self.walking -= 1
            if len(self.passed) > _PASSED:
                passed, self.passed = self.passed, []
                for memo, key in passed:
                    memo.drop(key)

    def turn(self, version: object) -> None:
        """To be called with each new value of the publication: where enough was made since the
        last clearance, what no edit has asked for is dropped.  Within one version nothing is."""
        if version is not self._last:
            self._last = version
            if self.new > self.slack:
                self.clear_stale(at_once=False)
        if self._leaving:
            self._let_go()

    def clear_stale(self, at_once: bool = True) -> None:
        """One clearance; what is dropped is freed `at_once`, or a little with every turn: all of
        it together would hold the desk for a tenth of a second."""
        self.new = 0
        self._leaving.clear()
        for memo in self.memos:
            held = _held_elsewhere(memo.stale) if memo.shared else {}
            if memo.stale and not at_once:
                for key in held:
                    del memo.stale[key]
                self._leaving.append(memo.stale)
            memo.stale = {**held, **memo.fresh}
            memo.fresh.clear()

    def _let_go(self) -> None:
        """Frees some of what was dropped."""
        end = time.perf_counter() + _LETTING
        while self._leaving and time.perf_counter() < end:
            some = self._leaving[-1]
            for _ in range(min(_AT_A_TIME, len(some))):
                some.popitem()
            if not some:
                self._leaving.pop()

    def report(self) -> list[MemoryReport]:
        """What is kept, the heaviest first."""
        found = [MemoryReport(m.name, m.entries, m.weight) for m in self.memos]
        return sorted(found, key=lambda r: -r.weight)


def _held_elsewhere(entries: dict[Any, tuple[Any, R, int]]) -> dict[Any, tuple[Any, R, int]]:
    """Those whose values something else holds too: to forget them would free nothing.  Two
    references are the entry's and that of the question itself."""
    return {key: entry for key, entry in entries.items() if getrefcount(entry[1]) > 2}


MEMORY = Memory()


class Memo(Generic[R]):
    """What a function has given, by the key of its arguments, and how to keep more of it."""

    def __init__(
        self, function: Callable[..., R], weigh_result: Callable[[R], int], memory: Memory
    ) -> None:
        self.name = f"{function.__module__.removeprefix('hidden_frame.')}.{function.__name__}"
        self.fresh: dict[Any, tuple[Any, R, int]] = {}
        self.stale: dict[Any, tuple[Any, R, int]] = {}
        self.shared = self.passing = False
        self._function, self._weigh, self._memory = function, weigh_result, memory
        memory.memos.append(self)

    def kept(self, key: object) -> bool:
        """Whether a result is known; it is fresh from then on."""
        hit = self.stale.pop(key, None)
        if hit is not None:
            self.fresh[key] = hit
        return key in self.fresh

    def missed(self, key: object, args: tuple[Any, ...]) -> R:
        """A result that is not fresh: a stale one, or a new one."""
        if self.kept(key):
            return self.fresh[key][1]
        return self.keep(key, args, self._function(*args))

    def keep(self, key: object, args: tuple[Any, ...], result: R) -> R:
        """Keeps a new result."""
        weight = _ENTRY + self._weigh(result)
        # There are few weights and hundreds of thousands of entries.
        self.fresh[key] = (args, result, _weights.setdefault(weight, weight))
        self._memory.new += weight
        if self.passing and self._memory.walking:
            self._memory.passed.append((self, key))
        return result

    def drop(self, key: object) -> None:
        """Forgets a result."""
        self.fresh.pop(key, None)
        self.stale.pop(key, None)

    @property
    def entries(self) -> int:
        """How many results are kept."""
        return len(self.fresh) + len(self.stale)

    @property
    def weight(self) -> int:
        """Bytes of all that is kept, roughly."""
        both = (*self.fresh.values(), *self.stale.values())
        return sum(weight for _, _, weight in both)


class Remembered(Protocol[P, R_co]):
    """A function that remembers its results."""

    memo: Memo[Any]

    def __call__(self, *args: P.args, **kwargs: P.kwargs) -> R_co:
        """The result, worked out or remembered."""
        ...

    def each(self, firsts: Iterable[Any], *others: Any) -> list[Any]:
        """A result for each first argument, the others being the same: quicker than a call
        for each, for thousands of which hardly any has changed."""
        ...


def remembered(
    by_value: tuple[str, ...] = (),
    weigh: Callable[[Any], int] = weigh,
    memory: Memory = MEMORY,
    together: Callable[..., list[Any]] | None = None,
    shared: bool = False,
    passing: bool = False,
) -> Callable[[Callable[P, R]], Remembered[P, R]]:
    """Lets a function remember its results.

    Arguments count by identity and are kept alive with the result, so that an identity can't be
    reused.  By value count those annotated as strings, numbers or `Side`, and those named in
    `by_value`.  `together` gives the results for several first arguments, where that is quicker
    than one after the other: `each` uses it.  `weigh` gives a result's weight in bytes where
    `memory.weigh` would be far off.  What is `shared` is kept as long as anything holds it: a flow
    holds the paragraphs that it was filled with.  What is `passing` is let go by a walk through all
    pages (`Memory.walk`).  Raises `TypeError` where a name in `by_value` is
    no parameter.
    """

    def decorate(function: Callable[P, R]) -> Remembered[P, R]:
        memo: Memo[R] = Memo(function, weigh, memory)
        memo.shared, memo.passing = shared, passing
        return _written(function, by_value, memo, together)

    return decorate


def _written(
    function: Any,
    by_value: tuple[str, ...],
    memo: Memo[Any],
    together: Callable[..., list[Any]] | None,
) -> Any:
    """The function with its memo, written out for its parameters once: it is called more often
    than anything else, and a general one would take twice as long."""
    parameters = signature(function).parameters
    unknown = set(by_value) - set(parameters)
    if unknown:
        raise TypeError(f"{memo.name} has no {', '.join(sorted(unknown))}")
    names = {"memo": memo, "get": memo.fresh.get, "missed": memo.missed, "together": together}
    given, passed, parts = [], [], []
    for name, parameter in parameters.items():
        if parameter.kind is Parameter.VAR_POSITIONAL:
            given.append(f"*{name}")
            passed.append(f"*{name}")
            parts.append(f"*map(id, {name})")
            continue
        if parameter.default is not Parameter.empty:
            names[f"default_{name}"] = parameter.default
            given.append(f"{name}=default_{name}")
        else:
            given.append(name)
        passed.append(name)
        kinds = {kind.strip() for kind in str(parameter.annotation).split("|")}
        parts.append(name if name in by_value or kinds <= _PLAIN else f"id({name})")
    single = len(parts) == 1 and not parts[0].startswith("*")
    key = parts[0] if single else f"({', '.join(parts)},)"
    others = ", ".join(passed[1:])
    first = passed[0].lstrip("*")
    at_once = f"""
    new = {{{key}: {first} for {first} in firsts if get({key}) is None}}
    new = {{key: {first} for key, {first} in new.items() if not memo.kept(key)}}
    if len(new) > 1:
        for (key, {first}), result in zip(new.items(), together(list(new.values()), {others})):
            memo.keep(key, ({", ".join(passed)},), result)
"""
    source = f"""
def call({", ".join(given)}):
    hit = get({key})
    if hit is not None:
        return hit[1]
    return missed({key}, ({", ".join(passed)},))

def each(firsts, {others}):{at_once if together else ""}
    found = []
    for {first} in firsts:
        hit = get({key})
        found.append(call({first}, {others}) if hit is None else hit[1])
    return found
"""
    exec(source, names)
    call: Any = names["call"]
    call.each, call.memo = names["each"], memo
    update_wrapper(call, function)
    return call
