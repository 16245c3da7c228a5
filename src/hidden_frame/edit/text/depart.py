"""What paragraphs and characters say themselves besides their styles: told, taken off, or made a
style of its own.

>>> from hidden_frame.model.text import Look, Paragraph, Run
>>> text = (Paragraph("body", (Run("wide", look=Look(tracking=40.0)),), alignment="right"),)
>>> departures(text, (0, 0), (0, 4))
('alignment', 'tracking')
>>> as_styled(text, 0, 0) == (Paragraph("body", (Run("wide"),)),)
True
"""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace

from hidden_frame.edit.looks.styles import new_paragraph_style, put_paragraph_style
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Look, Paragraph, Run, Text, TextPlace

_OF_PARAGRAPHS = ("alignment", "tabs", "starts", "count_from")
_NAMES = tuple(Look.__struct_fields__)


def departures(text: Text, start: TextPlace, end: TextPlace) -> tuple[str, ...]:
    """The properties that the paragraphs from one place to another say themselves, and those of
    the characters between them, or of whole paragraphs where nothing is between them."""
    found: dict[str, None] = {}
    for number in range(start[0], end[0] + 1):
        paragraph = text[number]
        found |= {
            n: None
            for n in ("alignment", "tabs", "starts", "count_from")
            if getattr(paragraph, n) is not None
        }
        at = 0
        for piece in paragraph.content:
            size = len(piece.text) if isinstance(piece, Run) else 1
            within = (number, at) < end and (number, at + size) > start
            if piece.look is not None and (within or start == end):
                look = piece.look
                found |= {n: None for n in _NAMES if getattr(look, n) is not None}
            at += size
    return tuple(found)


def as_styled(text: Text, first: int, last: int) -> Text:
    """Paragraphs from first to last without what they and their characters say themselves;
    character styles stay."""
    return tuple(_plain(p) if first <= n <= last else p for n, p in enumerate(text))


def _plain(paragraph: Paragraph) -> Paragraph:
    content: list[Any] = []
    for piece in paragraph.content:
        piece = replace(piece, look=None)
        before = content[-1] if content else None
        if isinstance(piece, Run) and isinstance(before, Run) and before.style == piece.style:
            content[-1] = replace(before, text=before.text + piece.text)
        else:
            content.append(piece)
    return replace(
        paragraph, content=tuple(content), alignment=None, tabs=None, starts=None, count_from=None
    )


def style_of(publication: Publication, text: Text, number: int) -> tuple[Publication, str, Text]:
    """A new style, based on a paragraph's, that says what the paragraph says itself and what all
    of its characters do; its id; and the text with the paragraph set in it."""
    paragraph = text[number]
    publication, style_id = new_paragraph_style(publication, paragraph.style, based=True)
    said: dict[str, Any] = {
        name: value
        for name in ("alignment", "tabs")
        if (value := getattr(paragraph, name)) is not None
    }
    looks = [piece.look or Look() for piece in paragraph.content]
    shared = {
        name: getattr(looks[0], name)
        for name in _NAMES
        if looks and len({getattr(look, name) for look in looks}) == 1
    }
    said |= {name: value for name, value in shared.items() if value is not None}
    style = replace(paragraph_style(publication, style_id), **said)
    content = []
    for piece in paragraph.content:
        look = replace(piece.look or Look(), **dict.fromkeys(shared))
        content.append(replace(piece, look=None if look == Look() else look))
    made = replace(paragraph, style=style_id, alignment=None, tabs=None, content=tuple(content))
    text = (*text[:number], made, *text[number + 1 :])
    return put_paragraph_style(publication, style), style_id, text
