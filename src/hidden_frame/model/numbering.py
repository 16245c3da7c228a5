"""How numbers are written, and how paragraphs number themselves.

>>> ListNumber(form="Chapter {1}").form
'Chapter {1}'
"""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

NumberingStyle = Literal[
    "decimal", "lower roman", "upper roman", "lower letters", "upper letters", "none"
]
MAX_LEVEL = 9


class ListNumber(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """What stands before each paragraph of a style: a number, or the same sign each time.

    `form` is what is written, in which {1} to {9} stand for the numbers of those levels: “{1}.”,
    “Chapter {1}”, “{1}.{2}”; without any it is a bullet.  Paragraphs of one `list` count
    together, each level by itself, and a level starts again behind a paragraph of a higher one
    (a lower number), if it `restarts`; one that counts `across` goes on from story to story.
    One that stands `above` has a line of its own.
    `style` is the number's own character style, `numerals` how this level's number is written.
    """

    form: Annotated[str, Meta(min_length=1, max_length=40)] = "{1}."
    level: Annotated[int, Meta(ge=1, le=MAX_LEVEL)] = 1
    list: Annotated[str, Meta(max_length=80)] = ""
    numerals: NumberingStyle = "decimal"
    start: Annotated[int, Meta(ge=1, le=1_000_000)] = 1
    restarts: bool = True
    across: bool = False
    above: bool = False
    style: str | None = None
