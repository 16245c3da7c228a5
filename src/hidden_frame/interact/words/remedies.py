"""What can be done about text that does not fit its frame.

>>> from hidden_frame.compose.composer import Composer
>>> low = book.page(3).items[0].change(height=5)
>>> low = Composer().compose(book.publication)
>>> [remedy.title for remedy in remedies(low, page, frame, "recto")]
['Grow the frame to 4.939 mm', 'Let the frame grow with its text']
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.drawing import text_height
from hidden_frame.compose.markers import marker_label, markers_in
from hidden_frame.compose.palette import palette
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.styles import computed_style
from hidden_frame.model.units import format_length


class Remedy(NamedTuple):
    """An offer: what it says, and the properties of the frame that it changes."""

    title: str
    changes: dict[str, object]


def needed_height(composition: Composition, holder_id: str, item: TextFrame, side: Side) -> float:
    """How high a frame must be on this page for all of its text, in points."""
    publication = composition.publication
    markers = markers_in(item.text)
    if holder_id in masters_by_id(publication):
        values = tuple(marker_label(m, publication) for m in markers)
    else:
        values = tuple(composition.value(m, holder_id) for m in markers)
    return text_height(item, side, values, palette(publication))


def remedies(composition: Composition, holder_id: str, item_id: str, side: Side) -> list[Remedy]:
    """The offers for a frame, the one that changes least first; other styles are the
    caller's to list."""
    publication = composition.publication
    item = shown_item(publication, holder_id, item_id, side)
    if not isinstance(item, TextFrame) or not item.text:
        return []
    height = needed_height(composition, holder_id, item, side)
    if height <= item.height + 0.01:
        return []
    found: list[Remedy] = []
    above = computed_style(publication.paragraph_styles, item.text[0].style).space_before
    if above and not item.snug:
        title = f"Drop the {format_length(above, 'pt')} above the first paragraph"
        found.append(Remedy(title, {"snug": True}))
    shown = format_length(height, publication.setup.unit)
    found.append(Remedy(f"Grow the frame to {shown}", {"height": height}))
    found.append(Remedy("Let the frame grow with its text", {"grows": True}))
    return found
