"""What was opened is settled; if it was not, that is told."""

from __future__ import annotations

from hidden_frame.compose.composer import Composer
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.plural import plural
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
    if more > 0:
        pages = plural(more, " {n} page was added.", " {n} pages were added.")
    else:
        pages = plural(-more, " {n} page was removed.", " {n} pages were removed.") if more else ""
    return (
        f"“{old.title}” was saved before its pages followed its text; masters by rule, lists and "
        f"references were updated.{pages} Save it to keep these changes."
    )
