"""Markers: pieces of text that the program fills in on each page.

>>> from hidden_frame import marker
>>> marker.folio.shows, marker.detail("Issue").detail
('folio', 'Issue')
"""

from hidden_frame.model.text import Marker

folio = Marker("folio")
page_count = Marker("page count")
section_name = Marker("section name")
section_pages = Marker("section pages")
section_last_folio = Marker("section last folio")
title = Marker("title")


def detail(name: str) -> Marker:
    """What the publication says under this name: its issue, its edition."""
    return Marker("detail", name)
