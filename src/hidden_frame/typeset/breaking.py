"""Lines from tokens: first fit, found by bisection, with hyphenation.

The work is in proportion to the number of lines, not of words: the ends of all
tokens are known as running sums, and each line's last token is searched in them.
"""

from __future__ import annotations

from bisect import bisect_right
from typing import NamedTuple
from unicodedata import combining

from hidden_frame.typeset.hyphenation import SOFT_HYPHEN, divisions
from hidden_frame.typeset.shaping import Word
from hidden_frame.typeset.tokens import Tokens

TOLERANCE = 0.005  # points
# Common practice of the trade: a justified line's spaces may shrink to 85 % and
# are felt as loose from half as wide again; no more than three hyphens in a row.
SHRINK = 0.15
LOOSE = 0.5
RAGGED_ZONE = 0.08  # of the measure; shorter gaps at a ragged edge are left alone
MAX_HYPHENS = 3


class Cut(NamedTuple):
    """A line: tokens first to last, `head` in place of the first, `tail` after the last.

    `skip` is how many characters of the first token stand on the line before,
    `used` how many of the token after the last stand on this one.
    """

    first: int
    last: int
    head: Word | None = None
    tail: Word | None = None
    skip: int = 0
    used: int = 0


class Breaker:
    """Breaks one segment's tokens, a line at a time; no token is wider than `widest` (points)."""

    def __init__(self, tokens: Tokens, widest: float, justified: bool) -> None:
        self.tokens = split_long(tokens, max(widest, 0.0))
        self.measure = widest
        self.hyphenated = tokens.hyphenated
        self.justified = justified
        self.hyphens = 0
        self.at = 0
        self._head: Word | None = None
        self._skip = 0

    @property
    def done(self) -> bool:
        """Whether everything stands on a line."""
        return self.at >= len(self.tokens.ends)

    @property
    def least(self) -> float:
        """The measure that the next line needs for its first word."""
        if self.done:
            return 0.0
        if self._head is not None:
            return self._head.width
        return self.tokens.ends[self.at] - self.tokens.starts[self.at]

    def lines(self, first: float, rest: float) -> list[Cut]:
        """All lines, the first at a measure of its own: the same as `line` again and again."""
        ends, starts = self.tokens.ends, self.tokens.starts
        count = len(ends)
        cuts: list[Cut] = []
        at, head, skip = 0, None, 0
        self.measure = first
        while at < count:
            base = starts[at] if head is None else ends[at] - head.width
            last = bisect_right(ends, base + self.measure + TOLERANCE, at, count) - 1
            tail, used = None, 0
            if last < count - 1:
                last, tail, used = self._end(at, max(last, at - 1), base, head is not None)
            self.hyphens = self.hyphens + 1 if tail is not None else 0
            last, follows = self._without_blanks(at, last) if not used else (last, last + 1)
            cuts.append(Cut(at, last, head, tail, skip, used))
            at, skip, head = follows, used, None
            if skip:
                word = self.tokens.words[at]
                head = word.setting.word(word.text[skip:].replace(SOFT_HYPHEN, ""))
            self.measure = rest
        return cuts

    def line(self, measure: float) -> Cut:
        """The next line at a measure (points); not to be asked for when `done`."""
        ends, starts = self.tokens.ends, self.tokens.starts
        count, at, head, skip = len(ends), self.at, self._head, self._skip
        self.measure = measure
        base = starts[at] if head is None else ends[at] - head.width
        last = bisect_right(ends, base + measure + TOLERANCE, at, count) - 1
        tail, used = None, 0
        if last < count - 1:
            last, tail, used = self._end(at, max(last, at - 1), base, head is not None)
        self.hyphens = self.hyphens + 1 if tail is not None else 0
        last, follows = self._without_blanks(at, last) if not used else (last, last + 1)
        self.at, self._skip, self._head = follows, used, None
        if used:
            word = self.tokens.words[self.at]
            self._head = word.setting.word(word.text[used:].replace(SOFT_HYPHEN, ""))
        return Cut(at, last, head, tail, skip, used)

    def _without_blanks(self, at: int, last: int) -> tuple[int, int]:
        """The last token before the spaces at a line's end, which hang over it, and the token
        that the next line starts with.  Spaces at the end of the text keep their place."""
        words, count = self.tokens.words, len(self.tokens.words)
        if not self.tokens.blanks or last >= count - 1:
            return last, last + 1
        follows = last + 1
        while follows < count and not words[follows].text:
            follows += 1
        while last > at and not words[last].text:
            last -= 1
        return last, follows

    def _end(self, at: int, last: int, base: float, headed: bool) -> tuple[int, Word | None, int]:
        """Where a full line ends: its last token, a hyphenated tail, its characters."""
        tokens = self.tokens
        limit = base + self.measure
        if self.justified and last >= at:
            gaps = last + 1 - at
            space = tokens.words[last].setting.space
            if tokens.ends[last + 1] <= limit + gaps * space * SHRINK:
                return self._unglued(at, last + 1, headed), None, 0
        if self.hyphenated and self.hyphens < MAX_HYPHENS:
            tail, used = self._hyphenate(at, last, limit)
            if tail is not None:
                return last, tail, used
        return self._unglued(at, last, headed), None, 0

    def _unglued(self, at: int, last: int, headed: bool) -> int:
        """The last token after which a line may really break; at least one is taken."""
        tokens = self.tokens
        if tokens.all_spaced:
            return max(last, at)
        nxt = last + 1
        while nxt < len(tokens.words) and not _may_break(tokens, nxt) and nxt > at + 1:
            nxt -= 1
        if nxt <= at or (nxt == at + 1 and not _may_break_at(tokens, nxt)):
            return max(last, at)  # one long unbreakable stretch: break where it must
        return nxt - 1

    def _hyphenate(self, at: int, last: int, limit: float) -> tuple[Word | None, int]:
        """The longest part of the next word that still fits, with its hyphen."""
        tokens = self.tokens
        word, language = tokens.words[last + 1], tokens.language(last + 1)
        if (
            language is None
            or last + 1 in tokens.marked
            or not (tokens.all_spaced or tokens.spaced[last + 1] or last < at)
        ):
            return None, 0
        if last >= at:
            gap = limit - tokens.ends[last]
            gaps = last - at
            loose = gap > gaps * word.setting.space * LOOSE
            if not (loose if self.justified else gap > self.measure * RAGGED_ZONE):
                return None, 0
        room = limit - tokens.starts[last + 1]
        if room <= 0:
            return None, 0
        for position in reversed(divisions(word.text, language)):
            part = word.text[:position].replace(SOFT_HYPHEN, "")
            tail = word.setting.word(part + "-")
            if tail.width <= room + TOLERANCE:
                return tail, position
        return None, 0


def _may_break(tokens: Tokens, index: int) -> bool:
    return tokens.spaced[index] or _may_break_at(tokens, index)


def _may_break_at(tokens: Tokens, index: int) -> bool:
    """Whether a line may break before a token that no space precedes."""
    if index >= len(tokens.words) or tokens.spaced[index]:
        return True
    return tokens.words[index - 1].text[-1:] in ("-", "–", "—", "/")


def split_long(tokens: Tokens, measure: float) -> Tokens:
    """Tokens of which none is wider than the measure, if need be cut between letters."""
    if tokens.widest <= measure + TOLERANCE:
        return tokens
    wide = [
        n
        for n, word in enumerate(tokens.words)
        if word.width > measure + TOLERANCE and len(word.text) > 1
    ]
    if not wide:
        return tokens
    result = Tokens(tokens.origin, tokens.languages)
    result.all_spaced = False
    result.ends_with = tokens.ends_with
    result.blanks = tokens.blanks
    result.widest = measure
    spans: list[int] = []
    sources: list[int] = []
    x = 0.0
    for n, word in enumerate(tokens.words):
        parts = _letters(word, measure) if n in wide else [word]
        gap = tokens.starts[n] - (tokens.ends[n - 1] if n else 0.0)
        source = tokens.sources[n]
        for k, part in enumerate(parts):
            start = x + (gap if k == 0 else 0.0)
            x = start + part.width
            result.words.append(part)
            result.starts.append(start)
            result.ends.append(x)
            result.spaced.append(k == 0 and n > 0 and (tokens.all_spaced or tokens.spaced[n]))
            if n in tokens.marked:
                result.marked[len(spans)] = tokens.marked[n] if k == 0 else 0
            spans.append(tokens.span(n))
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
    shaped = word.setting.word
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
