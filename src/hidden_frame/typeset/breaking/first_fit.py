"""Cuts by first fit, found by bisection, with hyphenation.

The work is in proportion to the number of lines, not of words: the ends of all
tokens are known as running sums, and each line's last token is searched in them.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right

from hidden_frame.typeset.breaking.cut import TOLERANCE, Cut
from hidden_frame.typeset.breaking.long_words import split_long
from hidden_frame.typeset.breaking.narrow import forced
from hidden_frame.typeset.breaking.nodes import Break, divisible, skipped
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN, divisions
from hidden_frame.typeset.paragraph import Spacing
from hidden_frame.typeset.segments import Segment, TextOffset
from hidden_frame.typeset.shaping import Word, exact

RAGGED_ZONE = 0.08  # of the measure; shorter gaps at a ragged edge are left alone


class Breaker:
    """Breaks one segment's tokens, a line at a time; what is wider than `widest` (points) is
    divided."""

    def __init__(
        self, segment: Segment, widest: float, justified: bool, spacing: Spacing = Spacing()
    ) -> None:
        self.segment = split_long(segment, max(widest, 0.0))
        self.measure = self.widest = widest
        self.hyphenated = segment.hyphenated
        self.justified = justified
        self.spacing = spacing
        self.hyphens = 0
        self.at = 0
        self._head: Word | None = None
        self._skip = 0

    @property
    def done(self) -> bool:
        """Whether everything stands on a line."""
        return self.at >= len(self.segment.ends)

    @property
    def least(self) -> float:
        """The measure that the next line needs for its first word."""
        if self.done:
            return 0.0
        word = self.segment.words[self.at] if self._head is None else self._head
        return min(word.width, max(self.widest, 0.0))

    @property
    def place(self) -> TextOffset:
        """Where the next line begins."""
        if self.done:
            return TextOffset(self.segment.end)
        return self.segment.place(self.at, self._skip)

    @property
    def head(self) -> Word | None:
        """What is left of the word with which the next line begins, if it was divided."""
        return self._head

    @property
    def position(self) -> tuple[int, int]:
        """The token with which the next line begins, and how many characters of it are gone."""
        return self.at, self._skip

    def at_break(self, at: Break) -> None:
        """Leaves out what stands before the end of a line."""
        self.at, self._skip, self._head = at.follows, at.used, None
        if at.used:
            word = self.segment.words[at.follows]
            self._head = word.like(word.text[at.used :].replace(SOFT_HYPHEN, ""))

    def go_on_at(self, place: TextOffset) -> None:
        """Leaves out what stands before a place."""
        segment, (offset, words) = self.segment, place
        at = bisect_left(segment.sources, offset)
        skip = 0
        if at < len(segment.sources) and segment.sources[at] == offset:
            at += words
        elif at:
            at -= 1
            skip = offset - segment.sources[at]
            if skip >= segment.length(at):
                at, skip = at + 1, 0
        self.at, self._skip, self._head = at, skip, None
        if self._skip:
            word = segment.words[at]
            self._head = word.like(word.text[skip:].replace(SOFT_HYPHEN, ""))

    def lines(self, first: float, rest: float) -> list[Cut]:
        """All lines, the first at a measure of its own: the same as `line` again and again."""
        ends, words = self.segment.ends, self.segment.words
        count = len(ends)
        cuts: list[Cut] = []
        at, head, skip = self.at, self._head, self._skip
        blanks = self.segment.blanks
        self.measure = first
        while at < count:
            base = ends[at] - (words[at] if head is None else head).width
            last = bisect_right(ends, base + self.measure + TOLERANCE, at, count) - 1
            tail, used = None, 0
            if last < count - 1:
                last, tail, used = self._end(at, max(last, at - 1), base, head)
                head = None if last < at else head
            self.hyphens = self.hyphens + 1 if tail is not None else 0
            follows = last + 1
            if blanks and not used:
                last, follows = self._without_blanks(at, last)
            cuts.append(Cut(at, last, head, tail, skip, used))
            at, skip, head = follows, used, None
            if skip:
                word = self.segment.words[at]
                head = word.like(word.text[skip:].replace(SOFT_HYPHEN, ""))
            self.measure = rest
        return cuts

    def line(self, measure: float) -> Cut:
        """The next line at a measure (points); not to be asked for when `done`."""
        ends, words = self.segment.ends, self.segment.words
        count, at, head, skip = len(ends), self.at, self._head, self._skip
        self.measure = measure
        base = ends[at] - (words[at] if head is None else head).width
        last = bisect_right(ends, base + measure + TOLERANCE, at, count) - 1
        tail, used = None, 0
        if last < count - 1:
            last, tail, used = self._end(at, max(last, at - 1), base, head)
            head = None if last < at else head
        self.hyphens = self.hyphens + 1 if tail is not None else 0
        last, follows = self._without_blanks(at, last) if not used else (last, last + 1)
        self.at, self._skip, self._head = follows, used, None
        if used:
            word = self.segment.words[self.at]
            self._head = word.like(word.text[used:].replace(SOFT_HYPHEN, ""))
        return Cut(at, last, head, tail, skip, used)

    def _without_blanks(self, at: int, last: int) -> tuple[int, int]:
        """The last token before the spaces at a line's end, which hang over it, and the token
        that the next line starts with.  Spaces at the end of the text keep their place."""
        words, count = self.segment.words, len(self.segment.words)
        if not self.segment.blanks or last >= count - 1:
            return last, last + 1
        follows = last + 1
        while follows < count and not words[follows].text:
            follows += 1
        while last > at and not words[last].text:
            last -= 1
        return last, follows

    def _end(
        self, at: int, last: int, base: float, head: Word | None
    ) -> tuple[int, Word | None, int]:
        """Where a full line ends: its last token, a hyphenated tail, its characters."""
        segment, headed = self.segment, head is not None
        limit = base + self.measure
        if last < at and divisible(segment, at):
            tail, used = self._forced(at, head)
            if tail is not None:
                return last, tail, used
        if self.justified and last >= at:
            gaps = last + 1 - at
            space = segment.words[last].setting.space
            if segment.ends[last + 1] <= limit + gaps * exact(space * (1 - self.spacing.least)):
                return self._unglued(at, last + 1, headed), None, 0
        soft = SOFT_HYPHEN in segment.words[last + 1].text
        if soft or (self.hyphenated and self.hyphens < self.spacing.hyphens):
            tail, used = self._hyphenate(at, last, limit)
            if tail is not None:
                return last, tail, used
        return self._unglued(at, last, headed), None, 0

    def _forced(self, at: int, head: Word | None) -> tuple[Word | None, int]:
        """The longest part, with its hyphen, of a word that is wider than its line."""
        word = self.segment.words[at]
        skip = 0 if head is None else skipped(word, head)
        places = forced(word, self.segment.language(at), self.measure, skip)
        fitting = [used for used, width, _ in places if width <= self.measure + TOLERANCE]
        if not places:
            return None, 0
        used = fitting[-1] if fitting else places[0][0]
        return word.like(word.text[skip:used].replace(SOFT_HYPHEN, "") + "-"), used

    def _unglued(self, at: int, last: int, headed: bool) -> int:
        """The last token after which a line may really break; at least one is taken."""
        segment = self.segment
        if segment.all_spaced and not segment.kept:
            return last if last >= at else at
        nxt = last + 1
        while nxt < len(segment.words) and not segment.breaks_before(nxt) and nxt > at + 1:
            nxt -= 1
        if nxt <= at or (
            nxt == at + 1 and nxt < len(segment.words) and not segment.breaks_before(nxt)
        ):
            return max(last, at)  # one long unbreakable stretch: break where it must
        return nxt - 1

    def _hyphenate(self, at: int, last: int, limit: float) -> tuple[Word | None, int]:
        """The longest part of the next word that still fits, with its hyphen."""
        segment = self.segment
        word, language = segment.words[last + 1], segment.language(last + 1) or ""
        if (
            not (language or SOFT_HYPHEN in word.text)
            or last + 1 in segment.marked
            or not (segment.all_spaced or segment.spaced[last + 1] or last < at)
        ):
            return None, 0
        if last >= at:
            gap = limit - segment.ends[last]
            gaps = last - at
            loose = gap > gaps * word.setting.space * (self.spacing.most - 1)
            if not (loose if self.justified else gap > self.measure * RAGGED_ZONE):
                return None, 0
        room = limit - segment.start(last + 1)
        if room <= 0:
            return None, 0
        for position in reversed(divisions(word.text, language)):
            part = word.text[:position].replace(SOFT_HYPHEN, "")
            tail = word.like(part + "-")
            if tail.width <= room + TOLERANCE:
                return tail, position
        return None, 0
