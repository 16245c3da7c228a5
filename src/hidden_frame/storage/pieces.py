"""A publication as JSON, in pieces none of which takes long to make.

Encoding at a stroke stops everything else in the process for as long as it takes: a tenth of a
second for thousands of pages.  In pieces it can go on beside the work.

>>> made = b"".join(pieces(publication))
>>> msgspec.json.decode(made, type=type(publication)) == publication
True

What is written for good is proved on the way: each piece is read again and compared.

>>> b"".join(pieces(publication, proved=True)) == made
True
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from types import GenericAlias
from typing import Any

import msgspec
from msgspec import Struct
from msgspec.structs import replace

from hidden_frame.model.publication import Publication, Section
from hidden_frame.model.stories import Story

_LARGE = {Publication: ("stories", "masters", "sections"), Section: ("pages",), Story: ("text",)}
_TOGETHER = 40  # small parts that make one piece


class Unlike(ValueError):
    """What was encoded is not read as it was."""


def pieces(value: Struct, proved: bool = False) -> Iterator[bytes]:
    """The JSON of a value, part after part; what is large comes last.

    Raises `UnicodeEncodeError` for half a character, and `Unlike`, where it is to be `proved`,
    for what would be read as something else.
    """
    large = [name for name in _LARGE.get(type(value), ()) if getattr(value, name)]
    rest = dict.fromkeys(large, ())
    head = _made(replace(value, **rest), type(value), proved)
    if not large:
        yield head
        return
    yield head[:-1]
    for n, name in enumerate(large):
        yield (b"," if n or head != b"{}" else b"") + msgspec.json.encode(name) + b":["
        yield from _listed(getattr(value, name), proved)
        yield b"]"
    yield b"}"


def _listed(parts: Sequence[Struct], proved: bool) -> Iterator[bytes]:
    if type(parts[0]) in _LARGE:
        for n, part in enumerate(parts):
            yield b"," if n else b""
            yield from pieces(part, proved)
        return
    kind = GenericAlias(tuple, (type(parts[0]), ...))
    for at in range(0, len(parts), _TOGETHER):
        some = _made(tuple(parts[at : at + _TOGETHER]), kind, proved)
        yield (b"," if at else b"") + some[1:-1]


def _made(value: object, kind: Any, proved: bool) -> bytes:
    made = msgspec.json.encode(value)
    if proved:
        try:
            again = msgspec.json.decode(made, type=kind)
        except msgspec.DecodeError as error:
            raise Unlike(str(error)) from error
        if again != value:
            raise Unlike("a value is not equal to itself")
    return made
