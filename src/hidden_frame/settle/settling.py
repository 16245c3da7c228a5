"""A value settled: rules, growth, sections, lists, references and numbers, in rounds.

>>> settled(publication) is publication
True
"""

from __future__ import annotations

from operator import is_

import msgspec

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.notes import numbered
from hidden_frame.compose.stories.flow import Flow
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Publication
from hidden_frame.model.slices import at_once
from hidden_frame.settle.beginnings import has_beginnings, sections_begun
from hidden_frame.settle.growth import Growth
from hidden_frame.settle.lists import has_lists, listed
from hidden_frame.settle.references import has_references, referred
from hidden_frame.settle.rules import ruling
from hidden_frame.settle.slices import Slices

_ROUNDS = 24
_PATIENCE = 4  # rounds after which what comes may have been there before


def settled(publication: Publication, composer: Composer | None = None) -> Publication:
    """The publication with every growing story's sections grown or shrunk to what it needs, and
    all else that its text drives as it is to be; itself if nothing is to be done.

    A composer that has laid it out before makes that quick, and knows at once what it has settled.
    """
    return at_once(settling(publication, composer or Composer(), sliced=False))


def settling(publication: Publication, composer: Composer, sliced: bool = True) -> Slices:
    """The same, a few milliseconds at a time if `sliced`.

    Rules and growth move headings, headings move rules; lists may make pages.  Where that would
    go round for ever, the one with the most pages stands, whichever of them it came from.
    """
    if composer.settled is publication:
        return publication
    given = publication
    growth = Growth(publication, composer, sliced)
    says = has_lists(publication) or has_references(publication)
    known: list[Publication] = []
    publication = numbered(publication)
    for turn in range(_ROUNDS):
        before = publication
        publication = yield from ruling(publication, composer, sliced)
        publication = yield from growth.fitted(publication)
        if has_beginnings(publication):
            publication = sections_begun(publication, composer)
        if says and not composer.compose(publication).is_told():
            publication = _told(publication, composer)
        if publication is before:
            break
        if turn >= _PATIENCE and publication in known:
            publication = _chosen([given, *known[known.index(publication) :]])
            break
        known.append(publication)
    composer.settled = publication
    return publication


def _told(publication: Publication, composer: Composer) -> Publication:
    """The publication with its lists and references as the pages are now.

    That is known to be so where no text that they tell of was moved by it: what references say
    may move words to another page, whose lines are looked at again then.
    """
    flows = _flows(publication, composer)
    after = listed(publication, composer)
    told = referred(after, composer)
    if told is after and all(map(is_, flows, _flows(told, composer))):
        composer.compose(told).tell()
    return told


def _flows(publication: Publication, composer: Composer) -> list[Flow]:
    composition = composer.compose(publication)
    return [composition.flow(s.id) for s in publication.stories if not s.lists]


def _chosen(several: list[Publication]) -> Publication:
    """One of the values that come of each other for ever, the same whoever asks; the first one in
    the list may be any value."""
    given, *ring = several
    chosen = max(ring, key=lambda p: (len(all_pages(p)), msgspec.json.encode(p)))
    return given if given == chosen else chosen
