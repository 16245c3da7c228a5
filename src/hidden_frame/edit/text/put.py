"""A text put into another one: as words are, or as paragraphs that stay paragraphs."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.text.steps import length
from hidden_frame.edit.text.write import put_in, split
from hidden_frame.model.text import Text, TextPlace


def put_paragraphs(
    text: Text, place: TextPlace, piece: Text, *, goes_on: bool
) -> tuple[Text, TextPlace]:
    """Whole paragraphs put into a text: none of them melts into what stands behind it.

    `goes_on` lets the first one go on the paragraph that it is put into, if anything stands before
    the place there; else it begins one of its own.

    >>> from hidden_frame.edit.text.write import plain
    >>> from hidden_frame.model.text import Paragraph, Run
    >>> text = (Paragraph("body", (Run("before after"),)),)
    >>> piece = (Paragraph("head", (Run("New"),)),)
    >>> plain(put_paragraphs(text, (0, 7), piece, goes_on=False)[0]).split("\\n")
    ['before ', 'New', 'after']
    """
    if not piece:
        return text, place
    index, offset = place
    size = length(text[index])
    if not size:  # they stand in place of an empty one
        first = replace(piece[0], starts=piece[0].starts or text[index].starts)
        made = (*text[:index], first, *piece[1:], *text[index + 1 :])
        return made, (index + len(piece) - 1, length(piece[-1]))
    if offset < size:
        text, _ = split(text, place)
        if not offset:
            made = (*text[:index], *piece, *text[index + 1 :])
            return made, (index + len(piece) - 1, length(piece[-1]))
    if goes_on:
        alone, rest = piece[:1], piece[1:]
        text, place = put_in(text, place, alone)
        made = (*text[: index + 1], *rest, *text[index + 1 :])
        return made, (index + len(rest), length(rest[-1]) if rest else place[1])
    made = (*text[: index + 1], *piece, *text[index + 1 :])
    return made, (index + len(piece), length(piece[-1]))
