"""Where a list is put: the frame that is selected, or a new one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.placing import text_area
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import TextFrame
from hidden_frame.model.layouts import page_layout
from hidden_frame.model.lookup import find_page, linked_story
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Contents, Index, NoteList

Listing = Contents | Index | NoteList


class ListPlace(NamedTuple):
    """The frame of a list, what it lists now, and the publication with it where it is new."""

    item: str
    now: Listing | None
    made: Publication | None = None


def place_for_list(
    composition: Composition, page_id: str, items: Sequence[str], name: str = "Contents"
) -> ListPlace | str:
    """The frame for a list on a page, or in a sentence why there is none; a new one has a name."""
    if not page_id:
        return "A list stands on a page; lay the page on the desk first."
    publication = composition.publication
    page = find_page(publication, page_id)
    own = {i.id: i for i in page.items}
    if len(items) == 1 and isinstance(own.get(items[0]), TextFrame):
        frame = own[items[0]]
        assert isinstance(frame, TextFrame)
        story = linked_story(publication, page_id, frame.id)
        holder = story if story is not None else frame
        now = holder.contents or holder.index or holder.notes
        if not holder.lists and any(c for p in holder.text for c in p.content):
            return "This frame holds words of its own; choose an empty one, or none for a new one."
        return ListPlace(frame.id, now)
    side = composition.facts[page_id].side
    area = text_area(publication.setup, page_layout(publication, page).margins, side)
    frame = TextFrame(
        id="", name=name, x=area.left, y=area.top, width=area.width, height=area.height
    )
    made, item = add_item(publication, page_id, frame)
    return ListPlace(item, None, made)


def lists_itself(composition: Composition, page_id: str, item_id: str) -> bool:
    """Whether the words of a frame on a page are worked out, so that nobody writes them."""
    told = composition.told(page_id, item_id) if page_id in composition.facts else None
    if told is not None:
        return told.story.lists
    if page_id not in composition.facts:
        return False
    page = find_page(composition.publication, page_id)
    return any(i.id == item_id and isinstance(i, TextFrame) and i.lists for i in page.items)
