"""What a text frame's words wear: their own looks, the frame's, or those for dark ground (R21a)."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.compose.palette import Palette
from hidden_frame.model.items import Item, PictureFrame, TextFrame
from hidden_frame.model.memory import remembered
from hidden_frame.model.styles import CharacterStyle, ComputedStyle
from hidden_frame.model.text import Look, Piece
from hidden_frame.typeset.inked import names_dark
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.text import SetText


def turns_dark(item: Item, known: Palette) -> bool:
    """Whether an item's words take other colours on dark ground, or it shows another picture."""
    if isinstance(item, PictureFrame):
        return item.picture_on_dark is not None
    if not isinstance(item, TextFrame):
        return False
    if item.on_dark is not None:
        return True
    if not known.darkens and not any(p.look for q in item.text for p in q.content):
        return False
    return _names_dark(item, known)


def story_turns_dark(item: Item, text: SetText) -> bool:
    """The same for a frame that shows a part of a story, set so."""
    return isinstance(item, TextFrame) and (item.on_dark is not None or _named(text.specs))


@remembered()
def _named(specs: tuple[ParagraphSpec, ...]) -> bool:
    return any(names_dark(spec.spans) for spec in specs)


@remembered(passing=True)
def _names_dark(item: TextFrame, known: Palette) -> bool:
    for paragraph in item.text:
        style = known.paragraphs.get(item.text_style or paragraph.style)
        if style is not None and style.on_dark is not None:
            return True
        for piece in paragraph.content:
            named = known.characters.get(piece.style or "")
            if any(look is not None and look.on_dark is not None for look in (piece.look, named)):
                return True
    return False


def worn(item: TextFrame, known: Palette, dark: bool = False) -> tuple[TextFrame, Palette]:
    """A frame whose words say themselves what they wear, and the palette that they are set with;
    itself where they wear what they say anyway.

    >>> from hidden_frame.compose.palette import palette
    >>> from hidden_frame.model.text import Paragraph, Run
    >>> words = (Paragraph("body", (Run("Night"),)),)
    >>> frame = TextFrame(id="f", x=0, y=0, width=90, height=20, text=words, text_colour="ochre")
    >>> frame, known = worn(frame, palette(publication))
    >>> known.paragraphs["body"].colour
    'ochre'
    """
    plain = item.text_style is None and item.text_colour is None and item.text_size is None
    if plain and not dark:
        return item, known
    return _worn(item, known, dark)


def one_colour(item: TextFrame, known: Palette) -> str | None:
    """The colour that all of a frame's words have on light ground; None where they have several."""
    item, known = worn(item, known)
    found = {
        (piece.look and piece.look.colour) or known.paragraphs[p.style].colour
        for p in item.text for piece in p.content
    }  # fmt: skip
    return found.pop() if len(found) == 1 else None


@remembered()
def _worn(item: TextFrame, known: Palette, dark: bool) -> tuple[TextFrame, Palette]:
    colour = item.on_dark if dark and item.on_dark is not None else item.text_colour
    known = _palette(known, colour, item.text_size, dark and item.on_dark is None)
    size = item.text_size

    def look(old: Look) -> Look:
        if dark and item.on_dark is None and old.on_dark is not None:
            old = replace(old, colour=old.on_dark, tint=1.0)
        elif colour is not None:
            old = replace(old, colour=None, tint=None)
        return old if size is None else replace(old, size=None)

    def piece(old: Piece) -> Piece:
        return old if old.look is None else replace(old, look=look(old.look))

    text = tuple(
        replace(
            p, style=item.text_style or p.style, content=tuple(piece(c) for c in p.content)
        )
        for p in item.text
    )  # fmt: skip
    made = replace(item, text=text, text_style=None, text_colour=None, text_size=None, on_dark=None)
    return made, known


@remembered(by_value=("colour", "size", "dark"))
def _palette(known: Palette, colour: str | None, size: float | None, dark: bool) -> Palette:
    """A palette whose styles have one colour or one size, or take their colours for dark ground."""

    def paragraph(style: ComputedStyle) -> ComputedStyle:
        if dark and style.on_dark is not None:
            style = replace(style, colour=style.on_dark, tint=1.0)
        elif colour is not None:
            style = replace(style, colour=colour, tint=1.0)
        if size is not None:
            style = replace(style, size=size, leading=style.leading * size / style.size)
        return style

    def character(style: CharacterStyle) -> CharacterStyle:
        if dark and style.on_dark is not None:
            style = replace(style, colour=style.on_dark, tint=None)
        elif colour is not None:
            style = replace(style, colour=None, tint=None)
        return style if size is None else replace(style, size=None)

    return known._replace(
        paragraphs={i: paragraph(s) for i, s in known.paragraphs.items()},
        characters={i: character(s) for i, s in known.characters.items()},
    )
