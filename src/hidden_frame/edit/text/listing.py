"""Texts that list headings, terms or notes: made, changed, dressed in other styles."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.change import change_story, new_ids
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.model.lookup import linked_story, paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import ParagraphStyle, computed_style
from hidden_frame.model.text import Contents, Index, NoteList, TabStop

_SLOTS = {"contents": Contents, "index": Index, "notes": NoteList}


def set_list(
    publication: Publication,
    page_id: str,
    item_id: str,
    listing: Contents | Index | NoteList | None,
) -> Publication:
    """A page's own frame, or the story that begins in it, made a list of that kind and of no other;
    None leaves its lines as plain text."""
    said: dict[str, object] = {
        slot: listing if isinstance(listing, kind) else None for slot, kind in _SLOTS.items()
    }
    story = linked_story(publication, page_id, item_id)
    if story is not None:
        return change_story(publication, story.id, lambda s: replace(s, **said))
    return change_items(publication, page_id, {item_id: said})


def note_style(publication: Publication, like: str) -> tuple[Publication, str]:
    """A new paragraph style for notes, based on another one: smaller, its number hanging."""
    publication, (style_id,) = new_ids(publication, "style", 1)
    based = computed_style(publication.paragraph_styles, like)
    name = free_name("Note", [s.name for s in publication.paragraph_styles])
    style = ParagraphStyle(
        id=style_id, name=name, based_on=like, size=round(based.size * 0.85, 1),
        leading=round(based.leading * 0.87, 1), indent_left=16.0, indent_first=-16.0,
        tabs=(TabStop(16.0),), drop_lines=0, number=None, starts="anywhere",
    )  # fmt: skip
    return put_paragraph_style(publication, style), style_id


def list_style(publication: Publication, level: int, like: str) -> tuple[Publication, str]:
    """A new paragraph style for the lines of a list's level (from 0), based on another one: its
    folios stand at the right edge, behind points."""
    publication, (style_id,) = new_ids(publication, "style", 1)
    based = paragraph_style(publication, like)
    name = free_name(f"List, level {level + 1}", [s.name for s in publication.paragraph_styles])
    style = ParagraphStyle(
        id=style_id, name=name, based_on=based.id, alignment="left", indent_first=0.0,
        indent_left=14.0 * level, tabs=(TabStop(None, "right", " ."),), drop_lines=0,
        number=None, starts="anywhere",
    )  # fmt: skip
    return put_paragraph_style(publication, style), style_id
