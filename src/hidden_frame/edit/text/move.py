"""Words of a text moved, or copied, to another place of it.

>>> from hidden_frame.edit.text.write import plain
>>> from hidden_frame.model.text import Paragraph, Run
>>> text = (Paragraph("body", (Run("one two three"),)),)
>>> text, start, end = moved_words(text, (0, 0), (0, 4), (0, 8))
>>> plain(text), start, end
('two one three', (0, 4), (0, 8))
"""

from __future__ import annotations

from hidden_frame.edit.text.write import cut_out, delete, put_in
from hidden_frame.model.text import Text, TextPlace


def moved_words(
    text: Text, start: TextPlace, end: TextPlace, place: TextPlace, piece: Text | None = None
) -> tuple[Text, TextPlace, TextPlace]:
    """What stands between two places taken to a third one; the text, and where it stands then.

    Within themselves words stay where they are.  `piece` is what is put in where that is not the
    very same, as without the names of places that a copy can't have.
    """
    if start <= place <= end:
        return text, start, end
    piece = cut_out(text, start, end) if piece is None else piece
    rest, _ = delete(text, start, end)
    at = without(place, start, end)
    made, behind = put_in(rest, at, piece)
    return made, at, behind


def without(place: TextPlace, start: TextPlace, end: TextPlace) -> TextPlace:
    """Where a place stands once all between two others is gone; within them it is the first."""
    if place <= start:
        return place
    if place <= end:
        return start
    if place[0] == end[0]:
        return start[0], start[1] + place[1] - end[1]
    return place[0] - (end[0] - start[0]), place[1]
