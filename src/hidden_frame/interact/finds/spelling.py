"""The words of a publication that are looked up, where they stand, and how they are mended."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from itertools import groupby
from typing import NamedTuple

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.compose.palette import Palette, palette
from hidden_frame.edit.text.find import Change, TextHit, with_changes
from hidden_frame.interact.finds.finding import TextSpot, page_in_words, page_of, put_text, texts
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import IndexMark, Note, Paragraph, Run, Text, TextPlace
from hidden_frame.spelling.checked import spelled_in
from hidden_frame.spelling.words import AskedWord, SpelledStretch, asked_words, is_own

Doubtful = Callable[[str, list[str]], Iterable[str]]
"""Of words in a language, those that its dictionary does not have."""
MOST_PAGES = 12  # of a word, that are named


class WordPlace(NamedTuple):
    """Where a word stands."""

    spot: TextSpot
    hit: TextHit


class DoubtfulWord(NamedTuple):
    """A word that no dictionary has, in its language, and all its places in their order."""

    letters: str
    language: str
    places: list[WordPlace]


Asked = dict[tuple[str, str], list[WordPlace]]
"""Words that are looked up, by language and letters, with their places."""


def asked_in_turn(publication: Publication) -> Iterator[Asked]:
    """The words of one paragraph after the other.  What lists headings, terms or notes is passed
    over: those stand elsewhere."""
    known = palette(publication)
    lists = {s.id for s in publication.stories if s.lists}
    frames = {(f.page, f.item) for f in frames_with_lists(publication.sections)}
    for spot, text in texts(publication):
        if spot.story_id in lists or (spot.holder_id, spot.item_id) in frames:
            continue
        for number, paragraph in enumerate(text):
            found: Asked = {}
            for word in _words_of(paragraph, known):
                place = WordPlace(spot, TextHit(number, word.start, word.end))
                found.setdefault((word.language, word.letters), []).append(place)
            yield found


def add_asked(all_of: Asked, more: Asked) -> None:
    """Puts words to others."""
    for key, places in more.items():
        all_of.setdefault(key, []).extend(places)


def asked(publication: Publication) -> Asked:
    """Every word that is looked up."""
    found: Asked = {}
    for more in asked_in_turn(publication):
        add_asked(found, more)
    return found


def without_own(words: Asked, own: tuple[str, ...]) -> dict[str, list[str]]:
    """The words to look up, by language: all but a publication's own ones."""
    mine = frozenset(own)
    found: dict[str, list[str]] = {}
    for language, letters in words:
        if not is_own(letters, mine):
            found.setdefault(language, []).append(letters)
    return found


def doubtful_words(publication: Publication, doubtful: Doubtful) -> list[DoubtfulWord]:
    """The words that are doubtful, in the order in which they are first met."""
    everywhere = asked(publication)
    sought = without_own(everywhere, publication.about.words)
    wrong = {(lang, word) for lang, words in sought.items() for word in doubtful(lang, words)}
    return [
        DoubtfulWord(letters, language, places)
        for (language, letters), places in everywhere.items()
        if (language, letters) in wrong
    ]


def pages_in_words(composition: Composition, places: list[WordPlace]) -> str:
    """The folios on which a word stands: “3, 14, 15 …”."""
    pages = dict.fromkeys(page_of(composition, *place) for place in places)
    told = list(dict.fromkeys(page_in_words(composition, page) for page in pages))
    return ", ".join(told[:MOST_PAGES]) + (" …" if len(told) > MOST_PAGES else "")


def corrected(publication: Publication, places: Iterable[WordPlace], by: str) -> Publication:
    """The word at each of these places as another one; it keeps its look, and its marks."""
    wanted = sorted(places)
    for spot, here in groupby(wanted, key=lambda place: place.spot):
        hits = [place.hit for place in here]
        text = list(next(t for s, t in texts(publication, spot) if s == spot))
        for number, of_it in groupby(hits, key=lambda hit: hit.paragraph):
            changes = [Change(hit.start, hit.end, by) for hit in of_it]
            text[number] = with_changes(text[number], changes)
        publication = put_text(publication, spot, tuple(text))
    return publication


def word_at(publication: Publication, text: Text, place: TextPlace) -> AskedWord | None:
    """The word of a text that is looked up and stands at, or ends at, a place."""
    words = _words_of(text[place[0]], palette(publication))
    return next((w for w in words if w.start <= place[1] <= w.end), None)


@remembered(weigh=lambda found: 60 + 170 * len(found))
def _words_of(paragraph: Paragraph, known: Palette) -> list[AskedWord]:
    return asked_words(_stretches(paragraph, known))


def _stretches(paragraph: Paragraph, known: Palette) -> Iterator[SpelledStretch]:
    style = known.paragraphs[paragraph.style]
    for piece in paragraph.content:
        if not isinstance(piece, Run):
            yield SpelledStretch("\ufffc", beside=isinstance(piece, IndexMark | Note))
            continue
        named = known.characters[piece.style] if piece.style is not None else None
        yield SpelledStretch(piece.text, spelled_in(style, named, piece.look, known.language))
