"""What is anchored in a text: found, changed; and what else names styles, renamed with them.

>>> from hidden_frame.edit.text.write import insert_marker
>>> from hidden_frame.model.text import Anchor, Marker, Paragraph, Run
>>> text, _ = insert_marker((Paragraph("body", (Run("ab"),)),), (0, 1), Anchor(width=20.0))
>>> anchor_at(text, (0, 1)).width
20.0
>>> anchor_at(change_anchor(text, (0, 1), width=30.0), (0, 1)).width
30.0
"""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from hidden_frame.edit.text.write import delete, insert_marker, object_at
from hidden_frame.model.text import Anchor, Marker, Paragraph, Piece, Text, TextPlace


def anchor_at(text: Text, place: TextPlace) -> Anchor | None:
    """What is anchored right behind a place, if anything is."""
    found = object_at(text, place)
    return found if isinstance(found, Anchor) else None


def change_anchor(text: Text, place: TextPlace, **changes: object) -> Text:
    """The text with some of what is said of the anchor right behind a place changed."""
    anchor = anchor_at(text, place)
    if anchor is None:
        return text
    without, _ = delete(text, place, (place[0], place[1] + 1))
    changed, _ = insert_marker(without, place, replace(anchor, **changes))
    return changed


def restyled(text: Text, new: Callable[[str], str]) -> Text:
    """The text with its paragraphs and captions in the styles that take the place of theirs, and
    its running heads showing those."""

    def piece(old: Piece) -> Piece:
        if isinstance(old, Anchor) and old.caption_style is not None:
            return replace(old, caption_style=new(old.caption_style))
        if isinstance(old, Marker) and old.head is not None:
            return replace(old, head=replace(old.head, style=new(old.head.style)))
        return old

    def paragraph(old: Paragraph) -> Paragraph:
        style, content = new(old.style), tuple([piece(c) for c in old.content])
        same = style == old.style and all(map(lambda a, b: a is b, content, old.content))
        return old if same else replace(old, style=style, content=content)

    return tuple([paragraph(p) for p in text])
