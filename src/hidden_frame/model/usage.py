"""Every text of a publication, and whose it is."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import UnsetType

from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import holders
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Anchor, Marker, Text


def anchors_in(text: Text) -> Iterator[Anchor]:
    """What is anchored in a text, in its order."""
    return (piece for p in text for piece in p.content if isinstance(piece, Anchor))


def paragraph_styles_in(text: Text) -> Iterator[str]:
    """The style of each of its paragraphs and captions."""
    for paragraph in text:
        yield paragraph.style
        for piece in paragraph.content:
            if isinstance(piece, Anchor) and piece.caption_style is not None:
                yield piece.caption_style


def head_styles_in(text: Text) -> Iterator[str]:
    """The style of each running head in a text."""
    for paragraph in text:
        for piece in paragraph.content:
            if isinstance(piece, Marker) and piece.head is not None:
                yield piece.head.style


def texts_of(publication: Publication) -> Iterator[tuple[str, Text]]:
    """The page, master or story, and a text of it, of one of its items or overrides."""
    for story in publication.stories:
        yield story.id, story.text
    for holder in holders(publication):
        for item in holder.items:
            if isinstance(item, TextFrame) and item.text:
                yield holder.id, item.text
        for override in holder.overrides:
            if not isinstance(override.text, UnsetType) and override.text:
                yield holder.id, override.text
