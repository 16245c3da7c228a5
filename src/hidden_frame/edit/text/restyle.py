"""Everything in a text that names a style, with another one in its place."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from hidden_frame.model.text import (
    Anchor,
    Contents,
    Index,
    Marker,
    NoteList,
    Paragraph,
    Piece,
    Text,
)


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


def restyled_contents(contents: Contents, new: Callable[[str], str]) -> Contents:
    """A contents list of paragraphs in other styles, shown in others."""
    levels = tuple(replace(v, style=new(v.style), shown=new(v.shown)) for v in contents.levels)
    title = new(contents.title_style) if contents.title_style else ""
    return replace(contents, levels=levels, title_style=title)


def restyled_index(index: Index, new: Callable[[str], str]) -> Index:
    """An index whose lines are in other styles."""

    def of(style: str) -> str:
        return new(style) if style else ""

    return replace(
        index, shown=new(index.shown), sub_shown=of(index.sub_shown), letters=of(index.letters),
        title_style=of(index.title_style),
    )  # fmt: skip


def restyled_notes(notes: NoteList, new: Callable[[str], str]) -> NoteList:
    """A list of notes whose lines are in other styles."""
    title = new(notes.title_style) if notes.title_style else ""
    return replace(notes, shown=new(notes.shown), title_style=title)
