"""Margins, columns, guides and grid of a master or page, with what it takes from others (R6).

>>> page_layout(publication, publication.sections[0].pages[0]).columns.count
1
"""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.model.geometry import Columns, Grid, Guide, Margins
from hidden_frame.model.lookup import base_chain, stack_of
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Master, Page, Publication, Setup


class PageLayout(NamedTuple):
    """Margins, columns, guides and grid that a master or page shows (R6)."""

    margins: Margins
    columns: Columns
    guides: tuple[Guide, ...]
    grid: Grid | None


@remembered()
def _layout(setup: Setup, *chain: Master) -> PageLayout:
    margins, columns, grid = setup.margins, setup.columns, setup.grid
    guides: tuple[Guide, ...] = ()
    for master in chain:
        margins = margins if master.margins is None else master.margins
        columns = columns if master.columns is None else master.columns
        guides = guides if master.guides is None else master.guides
        grid = grid if master.grid is None else master.grid
    return PageLayout(margins, columns, guides, grid)


def master_layout(publication: Publication, master_id: str) -> PageLayout:
    return _layout(publication.setup, *base_chain(publication, master_id))


def page_layout(publication: Publication, page: Page) -> PageLayout:
    """The layout of the topmost master of a page's stack, with the page's own guides."""
    stack = stack_of(publication, page)
    chain = base_chain(publication, stack[-1]) if stack else ()
    layout = _layout(publication.setup, *chain)
    return layout._replace(guides=layout.guides + page.guides) if page.guides else layout
