"""Margins by published constructions, from the trim size.

>>> by_ninths(Size(420.0, 630.0))
Margins(top=70.0, bottom=140.0, inside=46.66..., outside=93.33...)
"""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins, Size


def by_parts(trim: Size, parts: int) -> Margins:
    """The page divided into `parts` both ways: one part inside and above, two outside and below.

    Villard's figure, by which a page can be divided into any number of equal parts; the
    type area keeps the proportions of the page.  Jan Tschichold, “Consistent correlation
    between book page and type area”, in The Form of the Book (Hartley & Marks, 1991),
    from memory.
    """
    if parts < 4:
        raise Refusal(
            f"A page can't be divided into {parts} parts for its margins; take 6 or more.",
            field="parts",
        )
    across, down = trim.width / parts, trim.height / parts
    return Margins(top=down, bottom=2 * down, inside=across, outside=2 * across)


def by_ninths(trim: Size) -> Margins:
    """The ninths canon: `by_parts` of nine.  On a page of 2 : 3 the margins inside, top,
    outside and bottom are as 2 : 3 : 4 : 6 (Tschichold, as above)."""
    return by_parts(trim, 9)


def by_fifths(trim: Size, inside: float) -> Margins:
    """Each margin a fifth larger than the one before: inside, top, outside, bottom.

    William Morris, “The Ideal Book” (lecture of 1893), from memory.
    """
    return proportional(trim, inside, (1.0, 1.2, 1.44, 1.728))


def proportional(trim: Size, inside: float, ratios: tuple[float, float, float, float]) -> Margins:
    """Margins as `ratios` (inside, top, outside, bottom), from the width of the inside one.

    >>> proportional(Size(420.0, 630.0), 40.0, (2, 3, 4, 6)).bottom
    120.0

    Raises `Refusal` if they leave no room on the page.
    """
    unit = inside / ratios[0]
    a, b, c, d = (ratio * unit for ratio in ratios)
    if a + c >= trim.width or b + d >= trim.height:
        raise Refusal(
            "These margins leave no room on the page; begin with a smaller inside margin.",
            field="inside",
        )
    return Margins(inside=a, top=b, outside=c, bottom=d)


class Canon(NamedTuple):
    """A construction by name; `margins` takes the trim size."""

    name: str
    about: str
    margins: Callable[[Size], Margins]


def _share(ratios: tuple[float, float, float, float], part: float) -> Callable[[Size], Margins]:
    return lambda trim: proportional(trim, trim.width * part, ratios)


CANONS = (
    Canon("Ninths", "one ninth inside and above, two outside and below", by_ninths),
    Canon("Twelfths", "the same by twelve: a larger type area", lambda t: by_parts(t, 12)),
    Canon("Fifths", "each margin a fifth larger: 1 : 1.2 : 1.44 : 1.73",
          lambda t: by_fifths(t, t.width / 10)),
    Canon("2 : 3 : 4 : 6", "inside, top, outside, bottom from an inside of a tenth",
          _share((2, 3, 4, 6), 0.1)),
    Canon("Even", "a tenth of the width all round", _share((1, 1, 1, 1), 0.1)),
)  # fmt: skip
