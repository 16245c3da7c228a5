"""PDF operators as text: numbers, paths, matrices (ISO 32000-1, 8.2 to 8.5)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import lru_cache


@lru_cache(maxsize=10_000)  # most of a book's lines stand where others do
def number(value: float) -> str:
    """A length as short as a ten-thousandth of a point allows."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def element(value: float) -> str:
    """A matrix element: it needs more places than a length, since lengths are multiplied by it."""
    text = f"{value:.8f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def concat(matrix: Sequence[float]) -> str:
    """The operator that puts a matrix before the present one."""
    a, b, c, d, e, f = matrix
    if (a, b, c, d) == (1, 0, 0, 1):
        return f"1 0 0 1 {number(e)} {number(f)} cm"
    return " ".join(element(v) for v in matrix) + " cm"


def path(commands: Iterable[tuple]) -> str:
    """A path as a scene's primitives have it."""
    return " ".join(_COMMANDS[c[0]](c) for c in commands)


_COMMANDS = {
    "M": lambda c: f"{number(c[1])} {number(c[2])} m",
    "L": lambda c: f"{number(c[1])} {number(c[2])} l",
    "C": lambda c: " ".join(number(v) for v in c[1:]) + " c",
    "Z": lambda c: "h",
}
