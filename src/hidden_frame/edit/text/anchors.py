"""What is anchored in a text: found, changed.

>>> from hidden_frame.edit.text.write import insert_marker
>>> from hidden_frame.model.text import Anchor, Marker, Paragraph, Run
>>> text, _ = insert_marker((Paragraph("body", (Run("ab"),)),), (0, 1), Anchor(width=20.0))
>>> anchor_at(text, (0, 1)).width
20.0
>>> anchor_at(change_anchor(text, (0, 1), width=30.0), (0, 1)).width
30.0
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.text.write import delete, insert_marker, object_at
from hidden_frame.model.text import Anchor, Text, TextPlace


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
