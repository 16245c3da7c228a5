"""What would come of another page size: what then lies off its page, or does not fit any more."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Generator, Iterable, Iterator
from typing import NamedTuple

from hidden_frame.checks.content import limits_of, to_look_at
from hidden_frame.checks.fault import Fault
from hidden_frame.checks.faults import faults_of
from hidden_frame.checks.kinds import KINDS, kind_of
from hidden_frame.compose.batches import set_ahead
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.model.geometry import SIDES
from hidden_frame.model.lookup import all_pages, masters_by_id
from hidden_frame.model.number_format import grouped
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Publication
from hidden_frame.model.slices import at_once
from hidden_frame.settle.settling import settling

_AT_A_TIME = 8  # pages
Pair = tuple[str, str]  # a fault's kind, and what it is about


class Came(NamedTuple):
    """What came of it: faults that were not there, each by its kind, and pages more (or fewer)."""

    faults: tuple[tuple[str, str], ...] = ()  # kind and what it is about, each once
    pages: int = 0

    @property
    def sentence(self) -> str:
        """“2 texts do not fit any more; 3 pages more.”

        >>> Came((("text does not fit", "item-7"),), 3).sentence
        '1 text does not fit any more; 3 pages more.'
        """
        counts = Counter(kind for kind, _ in self.faults)
        said = [
            f"{grouped(n)} {kind.came[n > 1]}"
            for kind in KINDS
            if kind.came and (n := counts[kind.id])
        ]
        if self.pages:
            more = "more" if self.pages > 0 else "fewer"
            said.append(f"{pages_counted(abs(self.pages))} {more}")
        return "; ".join(said) + "." if said else "Everything is on its page, and fits."


def came_of(
    before: Publication, after: Publication, composer: Composer, known: Collection[str]
) -> Came:
    """What came of a change of size, both settled; `known` are the pictures whose bytes are here.

    >>> from hidden_frame.compose.composer import Composer
    >>> came_of(publication, publication, Composer(), ()).sentence
    'Everything is on its page, and fits.'
    """
    return at_once(telling(before, after, composer, known))


def telling(
    before: Publication, after: Publication, composer: Composer, known: Collection[str]
) -> Generator[Came | None, None, Came]:
    """The same a few pages at a time: what is known so far (None: nothing yet), and in the end all
    of it."""
    more = len(all_pages(after)) - len(all_pages(before))
    was: frozenset[Pair] = frozenset()
    for so_far in _faults(composer.compose(before), known):
        was = so_far
        yield None
    came = Came((), more)
    for found in _faults(composer.compose(after), known):
        came = Came(tuple(sorted(found - was)), more)
        yield came
    return came


def _faults(composition: Composition, known: Collection[str]) -> Iterator[frozenset[Pair]]:
    """The faults of a publication by kind and item: those of some pages, of more, of all."""
    publication = composition.publication
    limits, masters = limits_of(publication, known), masters_by_id(publication)
    found = {
        ("story does not fit", story.id)
        for story in publication.stories
        if (flow := composition.flow(story.id)).rest is not None and flow.words_left
    }
    every = to_look_at(publication)
    held: list[object] = []  # paragraphs of the pages that are looked at now, set together
    for n, holder in enumerate(every):
        if n % _AT_A_TIME == 0:
            some = [each for each in every[n : n + _AT_A_TIME] if each not in masters]
            held[:] = set_ahead(composition, some)
        scenes = (
            [composition.master_scene(holder, side) for side in SIDES]
            if holder in masters
            else [composition.scene(holder)]
        )
        for scene in scenes:
            found |= _told(faults_of(scene, limits))
        if n % _AT_A_TIME == 0:
            yield frozenset(found)
    yield frozenset(found)


def _told(faults: Iterable[Fault]) -> set[Pair]:
    pairs = ((fault.kind, fault.item_id) for fault in faults)
    return {pair for pair in pairs if kind_of(pair[0]).came}


class Trying:
    """A change of size tried in slices: `came` is what is known of it so far."""

    def __init__(self, before: Publication, composer: Composer, known: Collection[str]) -> None:
        self.before, self.composer, self.known = before, composer, known
        self.came: Came | None = None
        self.whole = False  # whether all of it is known

    def slices(
        self, resizing: Generator[Publication, None, Publication]
    ) -> Generator[Publication, None, Publication]:
        """The publication so far, again and again: resized, settled, looked through."""
        self.came, self.whole = None, False
        made = yield from resizing
        made = yield from settling(made, self.composer)
        told = telling(self.before, made, self.composer, self.known)
        while True:
            try:
                self.came = next(told)
            except StopIteration as end:
                self.came, self.whole = end.value, True
                return made
            yield made
