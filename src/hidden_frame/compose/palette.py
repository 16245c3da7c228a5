"""Everything that text and paint refer to by id, as one value while none of it changes.

>>> palette(publication).paragraphs["body"].name
'Body'
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.model.memory import remembered
from hidden_frame.model.paint import Colour
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import (
    CharacterStyle,
    ComputedStyle,
    ParagraphStyle,
    computed_characters,
    computed_paragraphs,
)
from hidden_frame.typeset.paragraph import Ink, SpotInk


class Palette(NamedTuple):
    """Everything that text and paint refer to by id."""

    colours: dict[str, Colour]
    paragraphs: dict[str, ComputedStyle]
    characters: dict[str, CharacterStyle]
    language: str
    numbered: bool
    flushes: bool
    darkens: bool = False  # whether any style names a colour for dark ground


@remembered(shared=True)
def _palette(
    colours: tuple[Colour, ...],
    paragraphs: tuple[ParagraphStyle, ...],
    characters: tuple[CharacterStyle, ...],
    language: str,
) -> Palette:
    styles = computed_paragraphs(paragraphs)
    return Palette(
        {c.id: c for c in colours},
        styles,
        computed_characters(characters),
        language,
        any(s.number is not None for s in styles.values()),
        any(s.flush_after and s.indent_first > 0 for s in styles.values()),
        any(s.on_dark is not None for s in styles.values())
        or any(s.on_dark is not None for s in characters),
    )


def palette(publication: Publication) -> Palette:
    """The palette; the same object while colours and styles do not change."""
    return _palette(
        publication.colours,
        publication.paragraph_styles,
        publication.character_styles,
        publication.about.language,
    )


def ink(colour: Colour, tint: float = 1.0) -> Ink:
    """A colour's shares at a tint: mixed with white in RGB, thinned in CMYK and spot."""
    if colour.space == "spot":
        return SpotInk(colour.name, tint, colour.values)
    if tint == 1.0:
        return colour.values
    if colour.space == "rgb":
        return tuple(1 - (1 - v) * tint for v in colour.values)
    return tuple(v * tint for v in colour.values)
