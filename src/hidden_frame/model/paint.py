"""Colours, fills, strokes and layers."""

from __future__ import annotations

from typing import Annotated, Literal

from msgspec import Meta, Struct

from hidden_frame.model.geometry import NotNegative, Positive, Share


class Colour(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A named colour of the publication: three RGB or four CMYK shares, 0 to 1.

    A spot colour is printed with an ink of its own, called by the colour's name; its
    four shares are the CMYK that stands in for it where that ink is not at hand.
    """

    id: str
    name: str
    space: Literal["rgb", "cmyk", "spot"] = "rgb"
    values: tuple[Share, ...] = (0.0, 0.0, 0.0)


class Fill(Struct, frozen=True, omit_defaults=True, forbid_unknown_fields=True):
    """A colour by id, as a tint (1 = full) and with an opacity."""

    colour: str
    tint: Share = 1.0
    opacity: Share = 1.0


class Stroke(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """An outline centred on the edge; `dash` alternates drawn and left-out lengths."""

    colour: str
    width: Positive = 0.5
    tint: Share = 1.0
    opacity: Share = 1.0
    dash: tuple[NotNegative, ...] = ()


class Layer(Struct, frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True):
    """A level of stacking that spans masters and pages."""

    id: str
    name: Annotated[str, Meta(min_length=1)]
    visible: bool = True
    locked: bool = False
    printing: bool = True
