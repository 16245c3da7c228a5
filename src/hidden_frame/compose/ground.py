"""Colours as a screen shows them, and what is printed beneath a point of a page.

>>> round(contrast((0, 0, 0), (1, 1, 1)), 2)
21.0
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from hidden_frame.compose.scene import PathPrimitive, PicturePrimitive, Placed, Scene
from hidden_frame.edit.looks.colours import rgb_of_cmyk
from hidden_frame.model.memory import remembered
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.plane.matrix import Matrix
from hidden_frame.model.publication import TONES
from hidden_frame.typeset.paragraph import Ink, SpotInk

Rgb = tuple[float, float, float]
PAPER: Rgb = (1.0, 1.0, 1.0)


def rgb(ink: Ink) -> Rgb:
    """RGB shares of an ink; CMYK by the plain formula, without a colour profile."""
    if isinstance(ink, SpotInk):
        return rgb(tuple(v * ink.tint for v in ink.cmyk))
    if len(ink) == 3:
        return ink[0], ink[1], ink[2]
    return rgb_of_cmyk(ink)


@lru_cache(maxsize=10_000)
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


def over(colour: Rgb, alpha: float, under: Rgb) -> Rgb:
    """A colour laid over another with an opacity."""
    mixed = [a * alpha + b * (1 - alpha) for a, b in zip(colour, under, strict=True)]
    return mixed[0], mixed[1], mixed[2]


class Ground(NamedTuple):
    """What is printed beneath an item: the items that reach under it, from the lowest up, each with
    the way into its own coordinates; the item itself last."""

    below: tuple[tuple[Placed, Matrix], ...]

    def colour(self, point: tuple[float, float]) -> Rgb | None:
        """The colour at a point of the page; None where none is known."""
        colour: Rgb = PAPER
        last = len(self.below) - 1
        for n, (placed, back) in enumerate(self.below):
            x, y = back.apply(*point)
            if not (0 <= x <= placed.drawing.width and 0 <= y <= placed.drawing.height):
                continue
            found = _painted_at(placed, (x, y), colour, below=n < last)
            if found is None:
                return None
            if placed.multiplied:  # ISO 32000-1, 11.3.5.2; what is opaque within it counts once
                alone = _painted_at(placed, (x, y), PAPER, below=n < last) or PAPER
                found = colour[0] * alone[0], colour[1] * alone[1], colour[2] * alone[2]
            colour = found
        return colour


def ground_of(scene: Scene, index: int) -> Ground:
    """The ground of one of the items that are painted, by its number."""
    own = scene.painted[index]
    around = own.bounds
    below = [(p, back) for n, p, back, b in _painting(scene) if n < index and b.touches(around)]
    return Ground((*below, (own, own.matrix.inverse())))


@remembered()
def _painting(scene: Scene) -> tuple[tuple[int, Placed, Matrix, Bounds], ...]:
    """The items of a scene that words can stand on: number, item, the way into its own points, and
    the box around it."""
    return tuple(
        (n, p, p.matrix.inverse(), p.bounds)
        for n, p in enumerate(scene.painted)
        if p.printing and any(
            isinstance(x, PicturePrimitive) or (isinstance(x, PathPrimitive) and x.ink is not None)
            for x in p.drawing.primitives
        )
    )  # fmt: skip


def _painted_at(placed: Placed, point: tuple[float, float], colour: Rgb, below: bool) -> Rgb | None:
    """What an item paints at a point of its own over a colour; of the item itself, whose words
    these are, only its fill lies `below`."""
    for primitive in placed.drawing.primitives:
        if isinstance(primitive, PathPrimitive) and primitive.ink is not None:
            if inside_path(primitive, point, placed.drawing.width, placed.drawing.height):
                colour = over(rgb(primitive.ink), primitive.alpha, colour)
        elif isinstance(primitive, PicturePrimitive) and below:
            x, y, w, h = primitive.rect
            if not (w and h and x <= point[0] <= x + w and y <= point[1] <= y + h):
                continue
            cell = tone(primitive, (point[0] - x) / w, (point[1] - y) / h)
            if cell is None:
                return None
            red, green, blue, alpha = cell
            colour = over((red, green, blue), alpha * primitive.alpha, colour)
    return colour


def opacity_at(placed: Placed, point: tuple[float, float]) -> float:
    """How much of what lies beneath an item's fill or picture it hides at a point of its own, 0 to
    1; a drawing hides nothing that is known."""
    shown = 1.0
    for primitive in placed.drawing.primitives:
        alpha = 0.0
        if isinstance(primitive, PathPrimitive) and primitive.ink is not None:
            if inside_path(primitive, point, placed.drawing.width, placed.drawing.height):
                alpha = primitive.alpha
        elif isinstance(primitive, PicturePrimitive):
            x, y, w, h = primitive.rect
            if w and h and x <= point[0] <= x + w and y <= point[1] <= y + h:
                cell = tone(primitive, (point[0] - x) / w, (point[1] - y) / h)
                alpha = primitive.alpha * cell[3] if cell is not None else 0.0
        shown *= 1 - alpha
    return 1 - shown


def tone(picture: PicturePrimitive, across: float, down: float) -> tuple[float, ...] | None:
    """A picture's colour and opacity at a share of its width and height."""
    if not picture.tones:
        return None
    across = 1 - across if picture.flip in ("across", "both") else across
    down = 1 - down if picture.flip in ("down", "both") else down
    column, row = (min(int(share * TONES), TONES - 1) for share in (across, down))
    at = 4 * (row * TONES + column)
    return tuple(v / 255 for v in picture.tones[at : at + 4])


def inside_path(path: PathPrimitive, point: tuple[float, float], w: float, h: float) -> bool:
    """Whether a point lies in a filled path: exact for boxes and ellipses."""
    curves = sum(c[0] == "C" for c in path.commands)
    lines = sum(c[0] == "L" and c[1:] != path.commands[n - 1][-2:]
                for n, c in enumerate(path.commands))  # fmt: skip
    if curves == 4 and not lines and w and h:
        return ((point[0] / w - 0.5) ** 2 + (point[1] / h - 0.5) ** 2) <= 0.25
    return True
