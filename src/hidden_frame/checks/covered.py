"""Words that something printed above them hides."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from hidden_frame.checks.fault import Fault, PrintedItem, noun
from hidden_frame.compose.ground import opacity_at
from hidden_frame.compose.scene import Placed, Scene, TextPrimitive
from hidden_frame.typeset.text import PlacedLine

_HIDES = 0.6  # of what lies beneath: what is fainter is seen through
_WORDS = 4  # with which a line is named


class Covered(NamedTuple):
    """The first words of a text that an item hides, and in how many lines it does."""

    words: str
    lines: int
    by: Placed


def covered_faults(look: PrintedItem) -> Iterator[Fault]:
    """Words that something hides."""
    hidden = None if look.scene.is_master else covered(look.scene, look.placed)
    if hidden is not None:
        by = f"“{hidden.by.name}”" if hidden.by.name else f"a {noun(hidden.by)}"
        more = f" and {hidden.lines - 1} more lines" if hidden.lines > 1 else ""
        yield look.fault("covered", f"has words under {by}: “{hidden.words} …”{more}",
                         f"{hidden.by.item_id}")  # fmt: skip


def mixed_faults(look: PrintedItem) -> Iterator[Fault]:
    """Words of which neither colour can be read on all of their ground."""
    if look.placed.mixed:
        yield look.fault(
            "mixed ground", "lies on ground that is half dark, half light; neither of its two "
                            "text colours reads well on all of it",
        )  # fmt: skip


def covered(scene: Scene, placed: Placed) -> Covered | None:
    """What hides words of an item on a page, if anything does."""
    block = placed.drawing.text
    at = next((n for n, p in enumerate(scene.painted) if p is placed), None)
    if block is None or at is None:
        return None
    above = [
        p for p in scene.painted[at + 1 :]
        if p.printing and not p.multiplied and p.drawing.text is None
        and p.bounds.touches(placed.bounds)
    ]  # fmt: skip
    for each in above:
        lines = [line for line in _shown(block) if _hides(each, placed, block, line)]
        if lines:
            words = " ".join(lines[0].text.split()[:_WORDS])
            return Covered(words, len(lines), each)
    return None


def _shown(block: TextPrimitive) -> Iterator[PlacedLine]:
    return (line for line in block.text.lines[: block.shown] if line.runs and line.text.strip())


def _hides(above: Placed, placed: Placed, block: TextPrimitive, line: PlacedLine) -> bool:
    """Whether the middle of one of a line's words is hidden."""
    y = line.baseline - line.runs[0].setting.size / 4 + block.y
    back = above.matrix.inverse()
    w, h = above.drawing.width, above.drawing.height
    for run in line.runs:
        for x, word in zip(run.xs, run.words, strict=True):
            middle = line.x + x + word.width / 2 + block.x
            point = back.apply(*placed.matrix.apply(middle, y))
            inside = 0 <= point[0] <= w and 0 <= point[1] <= h
            if inside and opacity_at(above, point) >= _HIDES:
                return True
    return False
