"""The publication's setup changed: facing or single, opening side, margins, columns, grid.

>>> change_setup(publication, facing=False).setup.facing
False
"""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.model.invariants import check
from hidden_frame.model.publication import Publication


def change_setup(publication: Publication, **changes: object) -> Publication:
    """Some of the setup changed.  Nothing else is touched: sides, spreads and faces are
    derived (R1, R2), so going from facing to single pages and back loses nothing.

    Raises `Refusal` if it leaves no room on the page.
    """
    setup = replace(publication.setup, **changes)
    if setup == publication.setup:
        return publication
    return check(replace(publication, setup=setup))
