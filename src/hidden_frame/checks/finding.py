"""What a check finds: a sentence, a place to look at, and ways out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from hidden_frame.model.publication import Publication

Fix = Callable[[Publication], Publication]


class Way(NamedTuple):
    """A way out: what its button says, and the edit that it makes."""

    offer: str
    fix: Fix


class Finding(NamedTuple):
    """A doubtful thing: what it is about, in a sentence, the page to look at, and ways out.

    `pages` are all pages that it touches, `item_id` the item to be selected there.  `asks`
    names a family of fonts to be replaced by one that the user chooses.  One that is `quiet` is
    said, and not counted among what is doubtful.
    """

    kind: str
    sentence: str
    page_id: str | None = None
    pages: tuple[str, ...] = ()
    ways: tuple[Way, ...] = ()
    item_id: str | None = None
    asks: str = ""
    quiet: bool = False

    @property
    def offer(self) -> str:
        """What the first way out says; "" where there is none."""
        return self.ways[0].offer if self.ways else ""

    @property
    def fix(self) -> Fix | None:
        """The edit of the first way out."""
        return self.ways[0].fix if self.ways else None


class KnownFindings(NamedTuple):
    """What was found, and whether everything was looked at."""

    found: Sequence[Finding]
    complete: bool
