"""Where the words stand that no dictionary has."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections import OrderedDict
from collections.abc import Callable, Iterator
from operator import attrgetter
from typing import NamedTuple

from hidden_frame.spelling.words import AskedWord, SpelledStretch, asked_words, words
from hidden_frame.typeset.caret import stops
from hidden_frame.typeset.paragraph import ParagraphSpec
from hidden_frame.typeset.text import PlacedLine


class SpelledPlace(NamedTuple):
    """A word, or the part of it that stands on a line: from `left` to `right` on a baseline, in
    type of a size (points, from the text's corner)."""

    word: AskedWord
    left: float
    right: float
    baseline: float
    size: float


def spelled_places(
    line: PlacedLine,
    spec: ParagraphSpec,
    doubtful: Callable[[list[AskedWord]], list[AskedWord]],
    *,
    alone: bool = False,
) -> Iterator[SpelledPlace]:
    """The words of a line of a paragraph that are `doubtful` among all.  Where they stand is found
    out for those alone: most lines have none, and this is asked for with every key.  A line `alone`
    is asked for without the rest of its paragraph."""
    known = (alone and _near(spec, line.start, line.end)) or _words(spec)
    first = bisect_right(known, line.start, key=_end)
    last = bisect_left(known, line.end, key=_start)
    found = doubtful(known[first:last])
    if not found:
        return
    at, size = dict(stops(line)), spec.base.size
    for word in found:
        a, b = at[max(word.start, line.start)], at[min(word.end, line.end)]
        yield SpelledPlace(word, min(a, b), max(a, b), line.baseline, size)


_start, _end = attrgetter("start"), attrgetter("end")


# By identity, of the paragraphs painted last.  Not among what the program remembers of the whole
# publication: each key makes another one, and would push out what other pages need.
_known: OrderedDict[int, tuple[ParagraphSpec, list[AskedWord]]] = OrderedDict()
_MOST = 10_000  # words of all of them; 150 bytes each
_FAR = 200  # characters of a word that goes on beyond a line


def _near(spec: ParagraphSpec, start: int, end: int) -> list[AskedWord]:
    """The words of a part of a paragraph in one language, without looking at all of it; none if it
    has several, or if there is no space near."""
    stretches = list(_stretches(spec))
    if len(stretches) != 1:  # several looks, or nothing but a number
        return []
    text, language, _ = stretches[0]
    begin, until = text.rfind(" ", 0, start) + 1, text.find(" ", end)
    until = len(text) if until < 0 else until
    if not language or until - begin > end - start + _FAR:
        return []
    return [
        AskedWord(a + begin, b + begin, language, each) for a, b, each in words(text[begin:until])
    ]


def _words(spec: ParagraphSpec) -> list[AskedWord]:
    found = _known.get(id(spec))
    if found is None:
        found = _known[id(spec)] = spec, asked_words(_stretches(spec))
        many = sum(len(known[1]) for known in _known.values())
        while many > _MOST and len(_known) > 1:
            many -= len(_known.popitem(last=False)[1][1])
    else:
        _known.move_to_end(id(spec))
    return found[1]


def _stretches(spec: ParagraphSpec) -> Iterator[SpelledStretch]:
    if spec.dress.drop is not None:
        yield SpelledStretch(spec.dress.drop.span.text, spec.dress.drop.span.spelled)
    for span in spec.spans:
        if span.goes_on:  # nobody's characters
            continue
        mark = span.anchored is not None and span.anchored.what is None
        yield SpelledStretch("\ufffc" if span.marker else span.text, span.spelled, mark)
