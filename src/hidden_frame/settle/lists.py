"""Lists that are worked out from the pages, put into the texts that show them."""

from __future__ import annotations

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.contents import contents_text, entries
from hidden_frame.compose.index import entries as index_entries
from hidden_frame.compose.index import index_text, marked
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.compose.notes import notes_text, told
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.stories import set_story_text
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Contents, Index, NoteList, Text


def has_lists(publication: Publication) -> bool:
    """Whether any text is a list."""
    return bool(frames_with_lists(publication.sections)) or any(
        s.lists for s in publication.stories
    )


def _text(
    composition: Composition, contents: Contents | None, index: Index | None,
    notes: NoteList | None,
) -> Text:  # fmt: skip
    """What a list says now."""
    if contents is not None:
        found = entries(composition, contents)
        styles = composition.publication.paragraph_styles
        return composition.kept(
            contents, (found, styles), lambda: contents_text(contents, found, styles)
        )
    if notes is not None:
        return notes_text(notes, told(composition, notes))
    assert index is not None
    language = composition.publication.about.language
    return composition.kept(
        index, (marked(composition), composition.facts, language),
        lambda: index_text(
            index, index_entries(marked(composition), language),
            list(composition.facts.values()), language,
        ),
    )  # fmt: skip


def listed(publication: Publication, composer: Composer) -> Publication:
    """The publication with its lists as the pages are now; itself if all are."""
    if not has_lists(publication):
        return publication
    composition = composer.compose(publication)
    for frame in frames_with_lists(publication.sections):
        text = _text(composition, frame.contents, frame.listing, frame.notes)
        if text != frame.text:
            publication = change_items(publication, frame.page, {frame.item: {"text": text}})
    for story in publication.stories:
        if story.lists:
            text = _text(composition, story.contents, story.index, story.notes)
            if text != story.text:
                publication = set_story_text(publication, story.id, text)
    return publication
