"""Which texts are lists that are worked out, and which levels of headings they name."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.model.items import TextFrame
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Page, Publication, Section
from hidden_frame.model.sparse import Sparse
from hidden_frame.model.styles import ParagraphStyle, computed_paragraphs
from hidden_frame.model.text import Contents, Index, ListLevel, NoteList, Text


class ListFrame(NamedTuple):
    """A frame on a page whose text is a list, of headings or of index marks."""

    page: str
    item: str
    contents: Contents | None
    listing: Index | None
    notes: NoteList | None
    text: Text


def _of_page(page: Page) -> tuple[ListFrame, ...] | None:
    return tuple(
        ListFrame(page.id, item.id, item.contents, item.index, item.notes, item.text)
        for item in page.items if isinstance(item, TextFrame) and item.lists
    ) or None  # fmt: skip


_frames: Sparse[Page, tuple[ListFrame, ...]] = Sparse(_of_page)


def frames_with_lists(sections: tuple[Section, ...]) -> tuple[ListFrame, ...]:
    """Every frame of a page whose text is a list."""
    return tuple(
        frame for section in sections for _, found in _frames(section.pages) for frame in found
    )


def style_levels(publication: Publication) -> dict[str, int]:
    """The level of each style that has one, 1 the highest: what the style says, or else its place
    in the first contents list that lists it."""
    lists = [f.contents for f in frames_with_lists(publication.sections)]
    lists += [s.contents for s in publication.stories]
    levels = tuple(c.levels for c in lists if c is not None)
    return _levels(publication.paragraph_styles, levels)


@remembered(by_value=("lists",))
def _levels(
    styles: tuple[ParagraphStyle, ...], lists: tuple[tuple[ListLevel, ...], ...]
) -> dict[str, int]:
    found = {s.id: s.level for s in computed_paragraphs(styles).values() if s.level}
    for levels in lists:
        for n, level in enumerate(levels, 1):
            found.setdefault(level.style, n)
    return found
