"""A fault of one item as a page shows it, and what the checks of items are given to look at."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import NamedTuple

from hidden_frame.compose.scene import (
    PicturePrimitive,
    Placed,
    Placeholder,
    Scene,
    TextPrimitive,
)
from hidden_frame.model.publication import Picture


class Criteria(NamedTuple):
    """What faults depend on besides the scene."""

    facing: bool
    judges_lines: str
    least_ppi: float
    least_line_ppi: float
    missing: frozenset[str]
    pictures: tuple[Picture, ...]
    troubled: frozenset[tuple[str, str]] = frozenset()  # pictures that can't be read, and why


class Fault(NamedTuple):
    """What is wrong with one item as a page shows it; `what` goes on after its name, or after
    a colon that it begins with.

    `carrier` is the master it comes from; `needs` is what a way out needs to know.
    """

    kind: str
    item_id: str
    carrier: str | None
    noun: str
    name: str
    what: str
    needs: tuple[float, ...] | str = ()


class PrintedItem(NamedTuple):
    """One printed item of a page or a master's face."""

    scene: Scene
    placed: Placed
    limits: Criteria

    def fault(self, kind: str, what: str, needs: tuple[float, ...] | str = ()) -> Fault:
        """A fault of this item."""
        at = self.placed
        return Fault(kind, at.item_id, at.carrier, noun(at), at.name, what, needs)


ItemCheck = Callable[[PrintedItem], Iterator[Fault]]


def noun(placed: Placed) -> str:
    """What an item without a name is called."""
    kinds = {type(p) for p in placed.drawing.primitives}
    if TextPrimitive in kinds:
        return "text frame"
    if kinds & {PicturePrimitive, Placeholder}:
        return "picture frame"
    return "line" if placed.drawing.height == 0 else "shape"
