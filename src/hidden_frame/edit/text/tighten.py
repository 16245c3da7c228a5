"""Text made a little tighter, so that a few words more find room.

>>> from hidden_frame.model.text import Paragraph, Run
>>> text = (Paragraph("body", (Run("a line"),)),)
>>> tightened(publication, text, 4)[0].content[0].look.tracking
-4.0
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_characters, computed_paragraphs
from hidden_frame.model.text import Look, Piece, Text

# Thousandths of the size.  Common practice of the trade: beyond one in a hundred readers see it.
MOST = 10


def tightened(publication: Publication, text: Text, by: float) -> Text:
    """A text whose letters stand closer by `by` thousandths of their size than their styles say;
    what is closer already stays as it is."""
    paragraphs = computed_paragraphs(publication.paragraph_styles)
    characters = computed_characters(publication.character_styles)

    def tight(piece: Piece, style: str) -> Piece:
        own = characters[piece.style].tracking if piece.style else None
        wanted = (paragraphs[style].tracking if own is None else own) - by
        look = piece.look or Look()
        now = look.tracking
        if now is not None and now <= wanted:
            return piece
        return replace(piece, look=replace(look, tracking=max(wanted, -500.0)))

    return tuple(
        replace(p, content=tuple(tight(piece, p.style) for piece in p.content)) for p in text
    )
