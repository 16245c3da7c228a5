"""Sections of a document."""

from __future__ import annotations

from typing import TYPE_CHECKING

from hidden_frame.script.holders import PageOf

if TYPE_CHECKING:
    from hidden_frame.script.base import Base


class Section:
    """A section of a document; `name` as it is now."""

    def __init__(self, document: Base, section_id: str) -> None:
        self._document = document
        self.id = section_id

    @property
    def name(self) -> str:
        """What it is called.

        >>> book.sections[0].name
        'Front matter'
        """
        sections = self._document.publication.sections
        return next(s.name for s in sections if s.id == self.id)

    @property
    def pages(self) -> list[PageOf]:
        """Its pages in order.

        >>> [page.folio for page in book.section("Front matter").pages]
        ['i', 'ii']
        """
        section = next(s for s in self._document.publication.sections if s.id == self.id)
        return [PageOf(self._document, page.id) for page in section.pages]
