"""What builds on what: masters on masters, styles on styles.

>>> chain({"a": None, "b": "a", "c": "b"}, "c", {"a": None, "b": "a", "c": "b"}.get)
('a', 'b', 'c')
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TypeVar

T = TypeVar("T")


def chain(
    known: Mapping[str, T], start: str, below: Callable[[str], str | None]
) -> tuple[str, ...]:
    """The ids that one builds on, the most distant first, then itself.

    One that is not known, or a circle, which no valid publication has, ends the chain.
    """
    found: list[str] = []
    at: str | None = start
    while at is not None and at in known and at not in found:
        found.append(at)
        at = below(at)
    return tuple(reversed(found))
