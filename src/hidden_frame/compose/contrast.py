"""Colours as a screen shows them, and how well text can be told from what lies under it.

>>> round(contrast((0, 0, 0), (1, 1, 1)), 2)
21.0
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.scene import PathPrimitive, PicturePrimitive, Placed, Scene, TextPrimitive
from hidden_frame.edit.looks.colours import rgb_of_cmyk
from hidden_frame.model.memory import remembered
from hidden_frame.typeset.paragraph import Ink, SpotInk

Rgb = tuple[float, float, float]
PAPER: Rgb = (1.0, 1.0, 1.0)
READABLE = 4.5  # WCAG 2.2, success criterion 1.4.3, level AA
READABLE_LARGE = 3.0  # the same, for text from 18 pt, or from 14 pt if bold


def rgb(ink: Ink) -> Rgb:
    """RGB shares of an ink; CMYK by the plain formula, without a colour profile."""
    if isinstance(ink, SpotInk):
        return rgb(tuple(v * ink.tint for v in ink.cmyk))
    if len(ink) == 3:
        return ink[0], ink[1], ink[2]
    return rgb_of_cmyk(ink)


def luminance(colour: Rgb) -> float:
    """Relative luminance, 0 to 1 (WCAG 2.2, “relative luminance”, for sRGB)."""

    def linear(v: float) -> float:
        return v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4

    red, green, blue = (linear(v) for v in colour)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: Rgb, other: Rgb) -> float:
    """The contrast ratio of two colours, 1 to 21 (WCAG 2.2, “contrast ratio”)."""
    a, b = luminance(one), luminance(other)
    return (max(a, b) + 0.05) / (min(a, b) + 0.05)


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

    Colours are sampled at both ends and the middle of each line; over a picture,
    whose colours are not known here, nothing is said.
    """
    index = next(
        (n for n, p in enumerate(scene.painted) if p.item_id == item_id and p.home is None), None
    )
    block = scene.painted[index].drawing.text if index is not None else None
    if index is None or block is None:
        return None
    placed = scene.painted[index]
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
                under = _colour_under(scene, index, point)
                if under is None:
                    continue
                text = _over(rgb(run.span.ink), block.alpha, under)
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


def _over(colour: Rgb, alpha: float, under: Rgb) -> Rgb:
    """A colour laid over another with an opacity."""
    mixed = [a * alpha + b * (1 - alpha) for a, b in zip(colour, under, strict=True)]
    return mixed[0], mixed[1], mixed[2]


def _colour_under(scene: Scene, index: int, point: tuple[float, float]) -> Rgb | None:
    """The colour below an item at a point of the page; None where a picture lies."""
    colour: Rgb = PAPER
    for n, placed in enumerate(scene.painted[: index + 1]):
        x, y = placed.matrix.inverse().apply(*point)
        w, h = placed.drawing.width, placed.drawing.height
        if not (0 <= x <= w and 0 <= y <= h):
            continue
        found = _painted_at(placed, (x, y), colour, with_text=n < index)
        if found is None:
            return None
        colour = found
    return colour


def _painted_at(
    placed: Placed, point: tuple[float, float], colour: Rgb, with_text: bool
) -> Rgb | None:
    for primitive in placed.drawing.primitives:
        if isinstance(primitive, PathPrimitive) and primitive.ink is not None:
            if _inside(primitive, point, placed.drawing.width, placed.drawing.height):
                colour = _over(rgb(primitive.ink), primitive.alpha, colour)
        elif isinstance(primitive, PicturePrimitive) and with_text:
            x, y, w, h = primitive.rect
            if x <= point[0] <= x + w and y <= point[1] <= y + h:
                return None
        elif isinstance(primitive, TextPrimitive):
            continue
    return colour


def _inside(path: PathPrimitive, point: tuple[float, float], w: float, h: float) -> bool:
    """Whether a point lies in a filled path: exact for boxes and ellipses."""
    curves = sum(c[0] == "C" for c in path.commands)
    lines = sum(c[0] == "L" and c[1:] != path.commands[n - 1][-2:]
                for n, c in enumerate(path.commands))  # fmt: skip
    if curves == 4 and not lines and w and h:
        return ((point[0] / w - 0.5) ** 2 + (point[1] / h - 0.5) ** 2) <= 0.25
    return True
