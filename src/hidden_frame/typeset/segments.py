"""A paragraph as segments of shaped words, which can be measured and put on lines.

A token is a word, or a part of one where a line may end within it, as behind a hyphen, or
where the look or the direction changes.  Between two tokens stands one space, or none
(they are glued).  A segment ends at a line break or a tab.
"""

from __future__ import annotations

import re
from array import array
from bisect import bisect_left
from collections.abc import Collection, Iterator, Sequence
from functools import cached_property
from itertools import accumulate, islice, pairwise, repeat
from typing import NamedTuple

from hidden_frame.typeset.bidi.levels import base_level, levels
from hidden_frame.typeset.breaking.opportunities import (
    all_whole,
    holding_among,
    keeps,
    may_part,
    may_turn,
)
from hidden_frame.typeset.breaking.opportunities import parts as parts_of_word
from hidden_frame.typeset.hyphenation import Dividing
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.shaping import Blank, Word

LINE_BREAK = "\u2028"


class TextOffset(NamedTuple):
    """A place in a paragraph's text: an offset, and how many words that stand at this very
    offset come before it.  A marker is one character, however many words it shows."""

    offset: int = 0
    words: int = 0


class Segment:
    """The tokens of one segment.

    `marked` tells, for tokens of a marker, whether the token stands for its one
    character (1) or follows one that does (0).

    Token i would lie between `start(i)` and `ends[i]` (points) if the whole segment stood on
    one line; `spaced[i]` tells whether a space stands before it.
    """

    __slots__ = (
        "__dict__", "all_spaced", "blanks", "ends", "ends_with", "gap_levels", "kept", "languages",
        "levels", "marked", "origin", "raised", "spaced", "spans", "spread", "widest", "words",
    )  # fmt: skip

    def __init__(self, origin: int, languages: tuple[Dividing | None, ...]) -> None:
        self.languages = languages
        self.raised: frozenset[int] = frozenset()  # the spans that stand above or below the line
        self.words: list[Word] = []
        self.spans: list[int] | int = 0
        self.ends = array("d")  # a book has millions: eight bytes each
        self.spaced: list[bool] = []
        self.all_spaced = True
        self.kept: frozenset[int] = frozenset()  # with which no line begins, where all are spaced
        self.blanks = False  # whether a token is empty, as between two spaces
        self.spread = False  # whether its letters are spaced or scaled, as on a single line
        self.widest = 0.0
        self.origin = origin
        self.marked: dict[int, int] = {}
        self.ends_with = ""
        # The bidirectional level of each token and of the space before it; None where all of a
        # paragraph is read from left to right.
        self.levels: list[int] | None = None
        self.gap_levels: list[int] = []

    def start(self, index: int) -> float:
        """Where a token begins."""
        return self.ends[index] - self.words[index].width

    def span(self, index: int) -> int:
        return self.spans if isinstance(self.spans, int) else self.spans[index]

    def language(self, index: int) -> Dividing | None:
        """The language that a token is hyphenated by, if at all."""
        return self.languages[self.span(index)]

    def breaks_before(self, index: int) -> bool:
        """Whether a line may begin with a token."""
        if self.all_spaced:
            return index not in self.kept
        if self.spaced[index]:
            return may_turn(self.words[index - 1].text, self.words[index].text)
        if self.raised:
            # A note's number stays with its word, which UAX #14 has no rule for.
            span = self.span(index)
            if span in self.raised and span != self.span(index - 1):
                return False
        return may_part(self.words[index - 1].text, self.words[index].text)

    def hyphened(self, index: int) -> bool:
        """Whether a token goes on behind a hyphen that is the word's own."""
        if self.all_spaced or not index or self.spaced[index]:
            return False
        return self.words[index - 1].text[-1:] in HYPHENS

    @property
    def last_visible(self) -> int:
        """The last token that is not a space at the segment's end."""
        last = len(self.words) - 1
        while last > 0 and not self.words[last].text:
            last -= 1
        return last

    @property
    def hyphenated(self) -> bool:
        return any(self.languages)

    @cached_property
    def sources(self) -> list[int]:
        """Where each token starts in its paragraph's text."""
        if self.all_spaced:  # in a fifth of the time
            steps = [len(word.shaped.text) + 1 for word in self.words]
            return list(accumulate(steps, initial=self.origin))[:-1] if steps else []
        at, result = self.origin, []
        for n, word in enumerate(self.words):
            at += bool(n and (self.all_spaced or self.spaced[n]))
            result.append(at)
            at += len(word.text)
        return result

    def place(self, index: int, skip: int = 0) -> TextOffset:
        """The place at which a token begins, or that many characters into it."""
        source = self.sources[index]
        if skip:
            return TextOffset(source + skip)
        return TextOffset(source, index - bisect_left(self.sources, source))

    def length(self, index: int) -> int:
        """How many characters of the paragraph's text a token stands for."""
        return self.marked.get(index, len(self.words[index].text))

    @property
    def end(self) -> int:
        """Where the segment's last character ends in its paragraph's text."""
        last = len(self.words) - 1
        return self.sources[last] + self.length(last) if self.words else self.origin


HYPHENS = ("-", "\u2010")

# Blocks of scripts that are written from right to left, and controls of direction.
_RIGHT_TO_LEFT = re.compile(
    "[\u0590-\u08ff\u200e\u200f\u202a-\u202e\u2066-\u2069\ufb1d-\ufdff\ufe70-\ufeff"
    "\U00010800-\U00010fff\U0001e800-\U0001efff]"
)


def both_ways(text: str) -> bool:
    """Whether a text may have to be read from right to left somewhere."""
    return not text.isascii() and _RIGHT_TO_LEFT.search(text) is not None


def is_rtl(spec: ParagraphSpec) -> bool:
    """Whether a paragraph as a whole is read from right to left, as its first letter is (UAX #9,
    P2)."""
    if spec.dress.level is not None:
        return spec.dress.level == 1
    return any(both_ways(s.text) for s in spec.spans) and base_level(_shown(spec)) == 1


def _shown(spec: ParagraphSpec) -> str:
    return "".join(span.text for span in spec.spans)


class Tokens(NamedTuple):
    """The tokens of a text of one look; before those that are `glued` stands no space, and with
    those that are `kept` no line begins."""

    parts: list[str]
    glued: list[int]
    kept: tuple[int, ...] = ()


def tokens_of(spec: ParagraphSpec) -> Tokens | None:
    """The tokens of a paragraph of one look and one segment without initials, soft hyphens and
    spaces in a row; None for any other."""
    if not _is_plain(spec):
        return None
    text = spec.spans[0].text
    if "  " in text or "\t" in text or LINE_BREAK in text or "\u00ad" in text or both_ways(text):
        return None
    parts = text.split(" ")
    if not (parts[0] and parts[-1]):
        return None
    if all_whole(parts):
        return Tokens(parts, [], _kept(parts) if keeps(text) else ())
    tokens: list[str] = []
    glued: list[int] = []
    for part in parts:
        pieces = parts_of_word(part)
        glued += range(len(tokens) + 1, len(tokens) + len(pieces))
        tokens += pieces
    return Tokens(tokens, glued, _kept(tokens, glued) if keeps(text) else ())


def _kept(tokens: list[str], glued: Collection[int] = ()) -> tuple[int, ...]:
    """The tokens behind a space with which no line begins all the same."""
    holding = holding_among(tokens)
    if not holding:
        return ()
    without = set(glued)
    return tuple(
        n for n in range(1, len(tokens))
        if (tokens[n] in holding or tokens[n - 1] in holding)
        and n not in without and not may_turn(tokens[n - 1], tokens[n])
    )  # fmt: skip


def _is_plain(spec: ParagraphSpec) -> bool:
    """Whether a paragraph has one look, no initials, and is not said to read from the right."""
    one = len(spec.spans) == 1 and not spec.spans[0].marker
    return one and spec.dress.drop is None and spec.dress.level != 1


def segments(spec: ParagraphSpec) -> list[Segment]:
    """The paragraph's segments, each with how it ends: "", "\t" or a line break."""
    if _is_plain(spec):
        text = spec.spans[0].text
        special = "\t" in text or LINE_BREAK in text or "\u00ad" in text or both_ways(text)
        parts = [] if special else text.split(" ")
        if not special and all_whole(parts):
            made = _plain(spec.spans[0], parts)
            if keeps(text):
                made.kept = frozenset(_kept(parts))
            return [made]
    return list(_Cutter(spec).segments())


def _plain(span: Span, parts: list[str]) -> Segment:
    """The common case, a single look and no special character, without a loop."""
    segment = Segment(0, (span.language,))
    setting = span.setting
    known = setting.words
    try:
        words = [known[part] for part in parts]
    except KeyError:
        setting.know(parts)
        words = [known[part] for part in parts]
    space = setting.space
    steps = [word.width + space for word in words]
    segment.widest = max(steps) - space
    steps[0] -= space
    segment.words = words
    segment.blanks = "" in parts
    segment.ends = array("d", accumulate(steps))
    return segment


class _Cutter:
    """The general case: several looks, markers, tabs, breaks, hyphens and dashes."""

    def __init__(self, spec: ParagraphSpec) -> None:
        self.spec = spec
        drop = spec.dress.drop
        self.source = len(drop.span.text) if drop is not None else 0
        self.at = 0  # the span that is being cut
        self.languages = tuple(span.language for span in spec.spans) or (None,)
        self.raised = frozenset(n for n, span in enumerate(spec.spans) if span.raised)
        self.levels: list[int] | None = None
        self.shown = 0  # how far in what is shown, which for markers is not the source
        self.gap_level = 0
        level = spec.dress.level
        if level == 1 or any(both_ways(span.text) for span in spec.spans):
            self.levels = levels(_shown(spec), level)

    def segments(self) -> Iterator[Segment]:
        self._open()
        for index, span in enumerate(self.spec.spans):
            self.at = index
            if span.marker:
                self.source -= span.goes_on
                self._marker(span, index)
                continue
            before = self.source
            for stretch in re.split("([\t\u2028])", span.text):
                if stretch in ("\t", LINE_BREAK):
                    yield self._close(stretch)
                    self.shown += 1
                    self.source += not span.goes_on
                    self._open()
                elif stretch:
                    self._stretch(stretch, span, index)
            if span.goes_on:  # what parts a number from its text is nobody's
                self.source = before
        yield self._close("")

    def _open(self) -> None:
        self.segment = Segment(self.source, self.languages)
        self.segment.raised = self.raised
        self.segment.spans = []
        self.segment.all_spaced = False
        self.segment.levels = None if self.levels is None else []
        self.sources: list[int] = []
        self.gap = 0.0
        self.spaced = False
        self.x = 0.0

    def _close(self, ending: str) -> Segment:
        self.segment.ends_with = ending
        self.segment.__dict__["sources"] = self.sources
        if self.spaced:  # a space at the very end keeps its place for the caret
            last = Span("", self.spec.base, self.spec.ink)
            self._add("", last, max(len(self.spec.spans) - 1, 0), self.source)
        return self.segment

    def _marker(self, span: Span, index: int) -> None:
        for n, part in enumerate(span.text.split(" ")):
            if n:
                self._space(span)
            counts = n == 0 and not span.goes_on
            for piece in self._by_level(part) or [""]:
                self.segment.marked[len(self.segment.words)] = int(counts)
                self._add(piece, span, index, self.source + (not counts))
                counts = False
        self.source += 1

    def _stretch(self, text: str, span: Span, index: int) -> None:
        for n, part in enumerate(text.split(" ")):
            if n:
                self._space(span)
                self.source += 1
            pieces = parts_of_word(part) if part else ()
            if len(pieces) > 1 and self.levels is None and span.anchored is None:
                self._add_all(pieces, span, index)
                continue
            for whole in pieces:
                for piece in self._by_level(whole):
                    self._add(piece, span, index, self.source)
                    self.source += len(piece)

    def _add_all(self, pieces: Sequence[str], span: Span, index: int) -> None:
        """The parts of a word, all at once: a text in Chinese is one word of thousands."""
        segment, setting = self.segment, span.setting
        known = setting.words
        words = [known.get(piece) or setting.word(piece) for piece in pieces]
        widths = [word.width for word in words]
        begin = self.x + (self.gap if self.spaced else 0.0)
        segment.words += words
        segment.widest = max(segment.widest, *widths)
        segment.ends.extend(islice(accumulate(widths, initial=begin), 1, None))
        segment.spans += [index] * len(words)  # type: ignore[operator]
        segment.spaced += [self.spaced, *repeat(False, len(words) - 1)]
        places = list(accumulate(map(len, pieces), initial=self.source))
        self.sources += places[:-1]
        self.shown += places[-1] - self.source
        self.x, self.source, self.spaced = segment.ends[-1], places[-1], False

    def _by_level(self, text: str) -> list[str]:
        """A word in parts that are each read one way."""
        if self.levels is None:
            return [text] if text else []
        there = self.levels[self.shown : self.shown + len(text)]
        if not there or there.count(there[0]) == len(there):  # most words
            return [text] if text else []
        cuts = [n for n in range(1, len(there)) if there[n] != there[n - 1]]
        return [text[a:b] for a, b in pairwise([0, *cuts, len(text)])]

    def _space(self, span: Span) -> None:
        if self.spaced or not self.segment.words:  # an empty word before or between spaces
            self._add("", span, self.at, self.source)
        self.spaced = True
        self.gap = span.setting.space
        if self.levels is not None:
            self.gap_level = self.levels[self.shown]
        self.shown += 1

    def _add(self, text: str, dressed: Span, span: int, source: int) -> None:
        segment, level = self.segment, 0
        if self.levels is not None and segment.levels is not None:
            level = self.levels[self.shown] if text else self.gap_level
            segment.levels.append(level)
            segment.gap_levels.append(self.gap_level)
        self.shown += len(text)
        word = _word(dressed, text, level)
        start = self.x + (self.gap if self.spaced else 0.0)
        segment.words.append(word)
        segment.blanks = segment.blanks or not word.text
        segment.widest = max(segment.widest, word.width)
        segment.spans.append(span)  # type: ignore[union-attr]
        self.x = start + word.width
        segment.ends.append(self.x)
        segment.spaced.append(self.spaced)
        self.sources.append(source)
        self.spaced = False


def _word(span: Span, text: str, level: int) -> Word:
    anchored = span.anchored
    if anchored is None:
        return span.setting.word(text, level % 2 == 1)
    return Blank(text, anchored.width if anchored.stands == "in the line" else 0.0, span.setting)
