"""Sizes, margins, columns and guides of a page, in points."""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

Positive = Annotated[float, Meta(gt=0)]
NotNegative = Annotated[float, Meta(ge=0)]
Share = Annotated[float, Meta(ge=0, le=1)]

Side = Literal["verso", "recto"]
SIDES: tuple[Side, Side] = ("verso", "recto")
Fit = Literal["fit", "fill", "actual", "free", "stretch"]
Flip = Literal["no", "across", "down", "both"]


class Size(Struct, frozen=True, forbid_unknown_fields=True):
    """Width and height."""

    width: Positive
    height: Positive


class Crop(Struct, frozen=True, forbid_unknown_fields=True):
    """Where a picture lies in its frame: its top left corner, and its scale (1 = actual size)."""

    x: float
    y: float
    scale: Positive


class Margins(Struct, frozen=True, kw_only=True, forbid_unknown_fields=True):
    """Distances from the trim; inside is at the spine.  `Margins(top=36, …)`"""

    top: NotNegative = 36.0
    bottom: NotNegative = 36.0
    inside: NotNegative = 36.0
    outside: NotNegative = 36.0

    def left(self, side: Side) -> float:
        return self.inside if side == "recto" else self.outside

    def right(self, side: Side) -> float:
        return self.outside if side == "recto" else self.inside


class Columns(Struct, frozen=True, forbid_unknown_fields=True):
    """Columns between the margins."""

    count: Annotated[int, Meta(ge=1, le=40)] = 1
    gutter: NotNegative = 12.0


class Guide(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A guide of a master or a page.

    A vertical guide's position is its distance from the spine edge of the page
    (from the left on a recto), so that it mirrors with its page; a horizontal
    one's is its distance from the top.
    """

    axis: Literal["horizontal", "vertical"]
    position: float
    locked: bool = False


class Grid(Struct, frozen=True, forbid_unknown_fields=True):
    """A baseline grid: first line below the trim's top, and the step."""

    start: NotNegative = 36.0
    step: Positive = 12.0
