"""Notes: their numbers in the order of the texts, and the list of them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from msgspec.structs import replace

from hidden_frame.compose.composition import Composition
from hidden_frame.model.publication import Publication
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Note, NoteList, Paragraph, Run, Text, TextPlace


def _in_paragraph(paragraph: Paragraph) -> tuple[tuple[int, int], ...] | None:
    """Which pieces of a paragraph are notes, each with its offset."""
    found: list[tuple[int, int]] = []
    at = 0
    for n, piece in enumerate(paragraph.content):
        if isinstance(piece, Note):
            found.append((n, at))
        at += len(piece.text) if isinstance(piece, Run) else 1
    return tuple(found) or None


_notes: Sparse[Paragraph, tuple[tuple[int, int], ...]] = Sparse(_in_paragraph)


def notes_in(text: Text) -> Iterator[tuple[TextPlace, Note]]:
    """The notes of a text in their order, each with its place."""
    for number, pieces in _notes(text):
        for at, offset in pieces:
            note = text[number].content[at]
            assert isinstance(note, Note)
            yield (number, offset), note


def numbered(publication: Publication) -> Publication:
    """The publication with every note of its stories numbered; itself if all are."""
    count, stories, changed = 0, [], False
    for story in publication.stories:
        if publication.note_count == "in each story":
            count = 0
        text, count = _numbered(story.text, count)
        changed = changed or text is not story.text
        stories.append(story if text is story.text else replace(story, text=text))
    return replace(publication, stories=tuple(stories)) if changed else publication


def _numbered(text: Text, count: int) -> tuple[Text, int]:
    new: dict[int, Paragraph] = {}
    for number, pieces in _notes(text):
        content = list(text[number].content)
        for at, _ in pieces:
            count += 1
            note = content[at]
            assert isinstance(note, Note)
            if note.number != str(count):
                content[at] = replace(note, number=str(count))
                new[number] = replace(text[number], content=tuple(content))
    return (tuple([new.get(n, p) for n, p in enumerate(text)]) if new else text), count


class NumberedNote(NamedTuple):
    """A note, and the page that its number stands on ("": on none)."""

    note: Note
    page: str


def told(composition: Composition, listing: NoteList) -> list[NumberedNote]:
    """The notes that a list lists, in the order of their texts."""
    found: list[NumberedNote] = []
    for story in composition.publication.stories:
        if not story.lists and listing.story in ("", story.id):
            found += _of_story(composition, story)
    return found


def _of_story(composition: Composition, story: Story) -> list[NumberedNote]:
    notes = list(notes_in(story.text))
    if not notes:
        return []
    flow = composition.flow(story.id)
    stands = flow.stops_of([place for place, _ in notes])
    return [
        NumberedNote(note, flow.stops[at].page_id if at is not None else "")
        for (_, note), at in zip(notes, stands, strict=True)
    ]


def notes_text(listing: NoteList, found: list[NumberedNote]) -> Text:
    """The text of a list of notes: a paragraph each, its number, a tab and what it says."""
    lines = [
        Paragraph(listing.shown, (Run(f"{note.number}\t"), *note.content), goes_to=page)
        for note, page in found
    ]
    if listing.title and lines:
        lines.insert(0, Paragraph(listing.title_style or listing.shown, (Run(listing.title),)))
    return tuple(lines)
