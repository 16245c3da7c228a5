"""What was opened is settled; if it was not, that is told."""

from __future__ import annotations

from hidden_frame.compose.composer import Composer
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication
from hidden_frame.settle.settling import settled


def opened_settled(
    publication: Publication, composer: Composer | None = None
) -> tuple[Publication, str]:
    """A publication from a file, settled; and a sentence about that, "" if it was so already."""
    new = settled(publication, composer)
    return new, "" if new is publication else settled_in_words(publication, new)


def settled_in_words(old: Publication, new: Publication) -> str:
    """What has become of a publication that was not settled."""
    more = len(all_pages(new)) - len(all_pages(old))
    count = f"{abs(more):,} page{'s' * (abs(more) != 1)} {'were' if abs(more) != 1 else 'was'}"
    pages = f"{count} {'added' if more > 0 else 'taken away'}, and " if more else ""
    return (
        f"“{old.title}” was saved before its pages followed its text: {pages}masters by rule, "
        "lists and references were brought up to date. Save it to keep that."
    )
