"""Blind folios: pages that are counted and print no folio (R18).

>>> [s.pages[0].blind for s in blind_first_pages(publication).sections]
[True, True]
"""

from __future__ import annotations

from hidden_frame.edit.pages.order import set_blind
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication


def blind_first_pages(publication: Publication) -> Publication:
    """The first page of each section blind."""
    return set_blind(publication, [s.pages[0].id for s in publication.sections if s.pages], True)


def blind_empty_pages(publication: Publication) -> Publication:
    """Every page blind that has nothing of its own."""
    bare = [p.id for p in all_pages(publication) if not (p.items or p.overrides)]
    return set_blind(publication, bare, True)


def show_all_folios(publication: Publication) -> Publication:
    """No page blind any more."""
    return set_blind(publication, [p.id for p in all_pages(publication) if p.blind], False)
