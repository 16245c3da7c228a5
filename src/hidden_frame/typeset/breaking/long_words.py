"""What is wider than any line and takes no hyphen (`narrow`), cut between its signs."""

from __future__ import annotations

from bisect import bisect_right
from unicodedata import combining

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.narrow import takes_hyphen
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Word


def split_long(segment: Segment, measure: float) -> Segment:
    """A segment in which nothing that takes no hyphen is wider than the measure."""
    if segment.widest <= measure + TOLERANCE:
        return segment
    wide = [
        n
        for n, word in enumerate(segment.words)
        if word.width > measure + TOLERANCE
        and len(word.text) > 1
        and (n in segment.marked or not takes_hyphen(word))
    ]
    if not wide:
        return segment
    result = Segment(segment.origin, segment.languages)
    result.all_spaced = False
    result.ends_with = segment.ends_with
    result.blanks = segment.blanks
    result.widest = max((w.width for w in segment.words if takes_hyphen(w)), default=measure)
    result.widest = max(result.widest, measure)
    result.levels = None if segment.levels is None else []
    spans: list[int] = []
    sources: list[int] = []
    x = 0.0
    for n, word in enumerate(segment.words):
        parts = _letters(word, measure) if n in wide else [word]
        gap = segment.start(n) - (segment.ends[n - 1] if n else 0.0)
        source = segment.sources[n]
        for k, part in enumerate(parts):
            start = x + (gap if k == 0 else 0.0)
            x = start + part.width
            result.words.append(part)
            result.ends.append(x)
            result.spaced.append(k == 0 and n > 0 and (segment.all_spaced or segment.spaced[n]))
            if n in segment.marked:
                result.marked[len(spans)] = segment.marked[n] if k == 0 else 0
            spans.append(segment.span(n))
            if segment.levels is not None and result.levels is not None:
                result.levels.append(segment.levels[n])
                result.gap_levels.append(segment.gap_levels[n])
            sources.append(source)
            source += result.length(len(spans) - 1)
    result.spans = spans
    result.__dict__["sources"] = sources
    return result


def _letters(word: Word, measure: float) -> list[Word]:
    """A word in the longest parts that fit, none of them empty.

    Only as much is shaped ahead as a line may hold, so that the work grows with the text.
    """
    parts, text, at, ahead = [], word.text, 0, 64
    shaped = word.like
    while at < len(text):
        while at + ahead < len(text) and shaped(text[at : at + ahead]).width <= measure:
            ahead *= 2
        rest = text[at : at + ahead]
        length = len(rest)
        if shaped(rest).width > measure:
            stops = shaped(rest).stops()
            length = max(1, bisect_right(stops, measure + TOLERANCE) - 1)
            # Cut from the letter it was kerned with, the last one may need more room.
            while length > 1 and shaped(rest[:length]).width > measure + TOLERANCE:
                length -= 1
            length = _with_marks(rest, length)
        parts.append(shaped(rest[:length]))
        at += length
        ahead = length + 16  # the next line holds about as much
    return parts


def _with_marks(text: str, length: int) -> int:
    """The length at which a text may be cut, so that no mark is parted from its letter."""
    cut = length
    while 0 < cut < len(text) and combining(text[cut]):
        cut -= 1
    if cut:
        return cut
    while length < len(text) and combining(text[length]):
        length += 1
    return length
