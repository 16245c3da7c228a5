"""What Find knows: a command, a field, a page of the guide, a thing of the publication."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache
from typing import Literal

from msgspec import Struct

from hidden_frame.resources import FINDS

Kind = Literal["command", "field", "guide", "thing", "hint"]


class FindEntry(Struct, frozen=True):
    """`name` is what it is called and `place` where it is, as shown; `also` are other words for
    it; `id` is for who opens it: a command's id, the form of a field, a page of the guide.
    """

    kind: Kind
    id: str
    name: str
    place: str = ""
    also: tuple[str, ...] = ()


class KnownWords(Struct, frozen=True):
    """A line of the table of words: the place, the name there, and other words for it."""

    place: str
    name: str
    also: tuple[str, ...]


@cache
def known() -> tuple[KnownWords, ...]:
    """The table of words that ships with the program.

    >>> next(k for k in known() if k.name == "Leading").also[:2]
    ('leading', 'line spacing')
    """
    return tuple(_rows((FINDS / "words.tsv").read_text("utf-8").splitlines()))


def _rows(lines: Iterable[str]) -> Iterable[KnownWords]:
    for line in lines:
        if line and not line.startswith("#"):
            place, name, also = line.split("\t")
            yield KnownWords(place, name, tuple(w.strip() for w in also.split(";") if w.strip()))


def also_of(place: str, name: str) -> tuple[str, ...]:
    """Other words for what is called so at this place."""
    return _also().get((place, name), ())


@cache
def _also() -> dict[tuple[str, str], tuple[str, ...]]:
    return {(k.place, k.name): k.also for k in known()}
