"""How well text can be told from what lies under it (WCAG 2.2)."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.ground import contrast, ground_of, over, rgb
from hidden_frame.compose.scene import Scene
from hidden_frame.model.memory import remembered

READABLE = 4.5  # WCAG 2.2, success criterion 1.4.3, level AA
READABLE_LARGE = 3.0  # the same, for text from 18 pt, or from 14 pt if bold


class Poor(NamedTuple):
    """A text that is hard to tell from what lies under it."""

    ratio: float
    needed: float

    @property
    def sentence(self) -> str:
        return (
            f"The text's contrast to what lies under it is {self.ratio:.1f} : 1; from "
            f"{self.needed:g} : 1 it reads well. Choose a darker or lighter colour."
        )


def poor_contrast(scene: Scene, item_id: str) -> Poor | None:
    """The worst contrast of an item's text, if it is below what WCAG 2.2 asks for.

    Colours are sampled at both ends and the middle of each line; over a drawing, whose colours
    are not known here, nothing is said.
    """
    index = next(
        (n for n, p in enumerate(scene.painted) if p.item_id == item_id and p.home is None), None
    )
    block = scene.painted[index].drawing.text if index is not None else None
    if index is None or block is None:
        return None
    placed, ground = scene.painted[index], ground_of(scene, index)
    worst: Poor | None = None
    for line in block.text.lines[: min(block.shown, 60)]:
        for run in line.runs:
            words = run.words
            if not words:
                continue
            ends = [x + word.width for x, word in zip(run.xs, words, strict=True)]
            left, right = line.x + min(run.xs), line.x + max(ends)
            setting = run.setting
            large = setting.size >= 18 or (setting.size >= 14 and "Bold" in setting.face.style)
            needed = READABLE_LARGE if large else READABLE
            for x in (left, (left + right) / 2, right):
                point = placed.matrix.apply(x + block.x, line.baseline - setting.size / 3 + block.y)
                under = ground.colour(point)
                if under is None:
                    continue
                text = over(rgb(run.span.ink), block.alpha, under)
                ratio = contrast(text, under)
                if ratio < needed - 0.005 and (worst is None or ratio < worst.ratio):
                    worst = Poor(ratio, needed)
    return worst


@remembered()
def poor_texts(scene: Scene) -> dict[str, Poor]:
    """Every item of a scene whose text is hard to read where it stands."""
    found: dict[str, Poor] = {}
    for placed in scene.placed:
        if placed.drawing.text is not None:
            poor = poor_contrast(scene, placed.item_id)
            if poor is not None:
                found[placed.item_id] = poor
    return found
