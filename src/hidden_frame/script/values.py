"""What a script writes, as the model has it: lengths, margins, text.

A length is a number of points, or a string with a unit or a sum: "12mm", "1in", "12mm + 3pt".
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.model.canons import CANONS
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.text import Alignment, Look, Marker, Paragraph, Piece, Run, Text
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.units import parse_length

Length = float | str
MarginsLike = str | Length | Mapping[str, Length] | Margins
_SIDES = ("top", "bottom", "inside", "outside")


class ScriptParagraph(NamedTuple):
    """A paragraph as a script writes it: pieces, and the name of a style (None: the usual)."""

    pieces: tuple[Piece | str, ...]
    style: str | None = None


Words = str | Marker | Run | ScriptParagraph | Iterable["str | Marker | Run | ScriptParagraph"]


def paragraph(*pieces: Piece | str, style: str | None = None) -> ScriptParagraph:
    """A paragraph of words and markers in a style, by the style's name.

    >>> from hidden_frame import marker, paragraph
    >>> paragraph("Page ", marker.folio, style="Folio").style
    'Folio'
    """
    return ScriptParagraph(pieces, style)


def run(text: str, *, style: str | None = None, **look: object) -> Run:
    """Words with a look of their own, and a character style by its name.

    `look` is any of family, bold, italic, size (points), tracking (1/1000 em), tint (0 to 1),
    language.

    >>> from hidden_frame import run
    >>> run("new", italic=True).look.italic
    True
    """
    return Run(text, style, Look(**look) if look else None)  # type: ignore[arg-type]


def length(value: Length) -> float:
    """Points.  Raises `Refusal` for what is no length.

    >>> round(length("10mm"), 3), length(12)
    (28.346, 12.0)
    """
    return parse_length(value, "pt") if isinstance(value, str) else float(value)


def trim_of(value: str | Size | tuple[Length, Length]) -> Size:
    """A trim size by its name or by width and height.

    >>> trim_of(("148mm", "210mm")) == trim_of("A5")
    True
    """
    if isinstance(value, Size):
        return value
    if isinstance(value, str):
        known = {name.casefold(): size for name, size in TRIMS.items()}
        if value.casefold() not in known:
            names = ", ".join(TRIMS)
            raise Refusal(f"“{value}” is not a trim size; use one of {names}, or width and height.")
        return known[value.casefold()]
    width, height = value
    return Size(length(width), length(height))


def margins_of(value: MarginsLike, trim: Size) -> Margins:
    """Margins by the name of a construction, one length for all four, or by side.

    >>> margins_of({"top": 20, "bottom": 30, "inside": 15, "outside": 10}, Size(300, 400)).bottom
    30.0
    """
    if isinstance(value, Margins):
        return value
    if isinstance(value, Mapping):
        unknown = set(value) - set(_SIDES)
        if unknown:
            raise Refusal(f"“{min(unknown)}” is not a margin; use top, bottom, inside, outside.")
        return Margins(**{side: length(value.get(side, 0.0)) for side in _SIDES})
    if isinstance(value, str):
        named = next((c for c in CANONS if c.name.casefold() == value.casefold()), None)
        if named is not None:
            return named.margins(trim)
    all_round = length(value)
    return Margins(top=all_round, bottom=all_round, inside=all_round, outside=all_round)


def text_of(
    words: Words,
    style: str,
    align: Alignment | None,
    paragraph_style: Callable[[str], str],
    character_style: Callable[[str], str],
) -> Text:
    """Paragraphs of the model.  A line feed in a string begins a new paragraph; pieces in a row
    are one paragraph, until one is written by `paragraph`.

    `paragraph_style` and `character_style` give the id of a style by its name.
    """
    given = [words] if isinstance(words, str | Marker | Run | ScriptParagraph) else list(words)
    found: list[ScriptParagraph] = []
    pieces: list[Piece | str] = []

    def close() -> None:
        if pieces:
            found.extend(_lines(ScriptParagraph(tuple(pieces))))
            pieces.clear()

    for each in given:
        if isinstance(each, ScriptParagraph):
            close()
            found.extend(_lines(each))
        else:
            pieces.append(each)
    close()
    return tuple(
        Paragraph(
            paragraph_style(said.style or style),
            tuple(_piece(p, character_style) for p in said.pieces if p != ""),
            align,
        )
        for said in found
    )


def _lines(said: ScriptParagraph) -> list[ScriptParagraph]:
    """A paragraph at each line feed."""
    lines: list[list[Piece | str]] = [[]]
    for piece in said.pieces:
        if isinstance(piece, str):
            first, *rest = piece.split("\n")
            lines[-1].append(first)
            lines += [[part] for part in rest]
        else:
            lines[-1].append(piece)
    return [ScriptParagraph(tuple(line), said.style) for line in lines]


def _piece(piece: Piece | str, character_style: Callable[[str], str]) -> Piece:
    if isinstance(piece, str):
        return Run(piece)
    if piece.style is None:
        return piece
    named = character_style(piece.style)
    if isinstance(piece, Run):
        return Run(piece.text, named, piece.look)
    return replace(piece, style=named)
