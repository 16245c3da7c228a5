"""In which order the main frames of a page are read.

A designer numbers them as they stand on one face of a master.  Mirrored at the spine they stand
the other way round on the other one, and are read there by their places, in the same manner.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise
from typing import NamedTuple

from hidden_frame.compose.cascade import Resolved, shown_on
from hidden_frame.compose.context import Context
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import TextFrame


class _Place(NamedTuple):
    """A main frame: its number, and where it stands, left, right and top, on the face it was
    numbered on and on the one that is read (points)."""

    item: str
    main: int
    drawn: tuple[float, float, float]
    seen: tuple[float, float, float]


_NEAR = 1.0  # points by which frames of a row, or of a column, may be out of line

# Manners of reading: column after column or row after row, from the left or from the right.
_Key = Callable[[tuple[float, float, float]], tuple[float, float]]
_MANNERS: dict[str, tuple[_Key, ...]] = {
    "left to right": (
        lambda at: (_step(at[0]), _step(at[2])), lambda at: (_step(at[2]), _step(at[0])),
        lambda at: (_step(-at[1]), _step(at[2])), lambda at: (_step(at[2]), _step(-at[1])),
    ),
    "right to left": (
        lambda at: (_step(-at[1]), _step(at[2])), lambda at: (_step(at[2]), _step(-at[1])),
        lambda at: (_step(at[0]), _step(at[2])), lambda at: (_step(at[2]), _step(at[0])),
    ),
}  # fmt: skip


def _step(points: float) -> float:
    return round(points / _NEAR)


def read_in_order(items: tuple[Resolved, ...], side: Side, context: Context) -> list[str]:
    """The ids of a page's main frames as they are read: by their numbers on the face on which they
    were drawn, and on the other one by the places that they have there."""
    frames = [r for r in items if isinstance(r.item, TextFrame) and r.item.main]
    if len(frames) < 2:
        return [r.item.id for r in frames]
    places = []
    for resolved in frames:
        item, at = resolved.item, shown_on(resolved, side, context.setup)
        assert isinstance(item, TextFrame)
        seen = at.x, at.x + at.width, at.y
        # One that stands on a single face, or on the page itself, was numbered there.
        turned = item.face == "both" and resolved.carrier is not None
        drawn = (item.x, item.x + item.width, item.y) if turned else seen
        places.append(_Place(item.id, item.main, drawn, seen))
    places.sort(key=lambda p: p.main)
    if any(p.drawn != p.seen for p in places):
        for key in _MANNERS[context.setup.direction]:
            known = [key(p.drawn) for p in places]
            if all(a <= b for a, b in pairwise(known)):
                places.sort(key=lambda p, key=key: key(p.seen))  # type: ignore[misc]
                break
    return [p.item for p in places]
