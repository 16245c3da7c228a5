"""Styles put on what is selected: the paragraphs of frames, wherever their text comes from."""

from __future__ import annotations

from hidden_frame.compose.composition import Composition, StoryOnPages
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text.write import set_paragraph_style
from hidden_frame.interact.hands.copies import stop_paragraphs
from hidden_frame.interact.hands.shown import change_shown, items_on
from hidden_frame.model.geometry import Side
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import find_story, masters_by_id
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Paragraph, Text


def story_shown(
    composition: Composition, holder_id: str, item_id: str
) -> tuple[StoryOnPages, range] | None:
    """The story that a page's frame shows, and its paragraphs that stand there; None without."""
    if holder_id in masters_by_id(composition.publication):
        return None
    found = composition.told(holder_id, item_id)
    if found is None:
        return None
    return found, stop_paragraphs(found, found.flow.index[holder_id, item_id])


def styles_shown(
    composition: Composition, holder_id: str, side: Side, item_ids: tuple[str, ...]
) -> set[str]:
    """The paragraph styles of what stands in these frames, as they are worn here."""
    found: set[str] = set()
    for resolved in items_on(composition.publication, holder_id, side):
        item = resolved.item
        if item.id not in item_ids or not isinstance(item, TextFrame):
            continue
        story = story_shown(composition, holder_id, item.id)
        text: Text = item.text
        if story is not None:
            text = story[0].story.text[story[1].start : story[1].stop]
        first = composition.publication.paragraph_styles[0].id  # of what will be written there
        worn = {item.text_style} if item.text_style else {p.style for p in text} or {first}
        found |= worn
    return found


def put_style(
    composition: Composition, holder_id: str, side: Side, item_ids: tuple[str, ...], style: str
) -> Publication:
    """All paragraphs of these frames in a paragraph style.  Words that come from a master go on
    following it, and wear the style here."""
    publication = composition.publication
    changes: dict[str, dict[str, object]] = {}
    for resolved in items_on(publication, holder_id, side):
        item = resolved.item
        if item.id not in item_ids or not isinstance(item, TextFrame):
            continue
        story = story_shown(composition, holder_id, item.id)
        if story is not None:
            known, here = find_story(publication, story[0].story.id), story[1]
            text = set_paragraph_style(known.text, here.start, here.stop - 1, style)
            publication = set_story_text(publication, known.id, text)
        elif resolved.carrier in (None, holder_id) or "text" in resolved.overridden:
            text = item.text or (Paragraph(style),)
            text = set_paragraph_style(text, 0, len(text), style)
            changes[item.id] = {"text": text, "text_style": None} if item.text_style else {
                "text": text}  # fmt: skip
        else:
            changes[item.id] = {"text_style": style}
    return change_shown(publication, holder_id, side, changes)
