"""The places where lines of a segment may end.

A node has where a line that ends at it ends, and where the line after it begins; node 0 is the
beginning of the text, the last node its end.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from hidden_frame.typeset.breaking.cut import TOLERANCE
from hidden_frame.typeset.breaking.narrow import forced, takes_hyphen
from hidden_frame.typeset.hyphenation import SOFT_HYPHEN, Dividing, divisions, divisions_all
from hidden_frame.typeset.segments import Segment
from hidden_frame.typeset.shaping import Setting, Word

_SEVERAL = 8  # words that are quicker divided at once than one after the other


class Break(NamedTuple):
    """The end of a line: behind a token, or behind `used` characters of it and a hyphen.

    `follows` is the token with which the next line begins."""

    token: int
    used: int
    follows: int


class Ends(NamedTuple):
    """The tokens at which lines end, and how many characters of each stand before a hyphen, 0
    where all of it stands on the line."""

    tokens: Sequence[int]
    used: Sequence[int]
    glued: bool = False  # whether some tokens have no space between them

    def breaks(self) -> list[Break]:
        """The same as breaks."""
        pairs = zip(self.tokens, self.used, strict=True)
        return [Break(token, used, token + (not used)) for token, used in pairs]


class Nodes(NamedTuple):
    """Parallel lists; `ends` and `begins` in points, `end_gaps` and `begin_gaps` count the
    spaces before them; `hyphens` tell whether a line that ends there ends with a hyphen."""

    ends: list[float]
    end_gaps: list[int]
    begins: list[float]
    begin_gaps: list[int]
    breaks: list[Break]
    hyphens: list[bool]

    def put(
        self, end: float, gap: int, begin: float, begin_gap: int, at: Break, hyphen: bool = False
    ) -> None:
        """One more."""
        self.ends.append(end)
        self.end_gaps.append(gap)
        self.begins.append(begin)
        self.begin_gaps.append(begin_gap)
        self.breaks.append(at)
        self.hyphens.append(hyphen)


def nodes_of(
    segment: Segment, at: int, head: Word | None, indent: float, measure: float, divide: bool,
    until: int | None = None,
) -> Nodes:  # fmt: skip
    """The nodes of a segment from a token on, of which only `head` is left if there is one.

    The first line begins `indent` points to the right of the others.  `divide` says whether
    words may be divided; where soft hyphens say so they always may, and those that are wider than
    the measure (`narrow`).  What is wider than the measure may be broken between any two tokens.
    Nodes go no further than the token `until`, if it is given.
    """
    begin = segment.ends[at] - (segment.words[at] if head is None else head).width
    found = Nodes([begin], [0], [begin - indent], [0], [Break(at - 1, 0, at)], [False])
    add_nodes(found, segment, at, at, head, measure, divide, until)
    return found


def add_nodes(
    found: Nodes, segment: Segment, at: int, begin: int, head: Word | None, measure: float,
    divide: bool, until: int | None = None,
) -> None:  # fmt: skip
    """Adds the nodes from token `begin` on to those before it, which begin with token `at`."""
    words, ends, spaced = segment.words, segment.ends, segment.spaced
    even = segment.all_spaced
    last = segment.last_visible
    last = last if until is None else min(last, until)
    first = segment.start(at) if head is None else ends[at] - head.width
    narrow = measure - max(first - found.begins[0], 0.0)  # of the first line
    wide = segment.widest > narrow + TOLERANCE
    plain = even and not (segment.blanks or segment.kept or wide)
    if plain and head is None and until is None and at == 0:
        _add_even(found, segment, begin, last, divide)
        return
    if divide and last - begin > _SEVERAL and segment.levels is None:
        _divide_ahead(segment, begin, last)
    gap = max(begin - 1 - at, 0) if even else sum(spaced[at + 1 : begin])
    for token in range(begin, last + 1):
        apart = even or spaced[token]
        if token > at:
            gap += apart
            far = ends[token] - found.begins[-1] > measure + TOLERANCE
            if far and found.breaks[-1].follows != token and not segment.breaks_before(token):
                start = segment.start(token)
                found.put(ends[token - 1], gap - apart, start, gap, Break(token - 1, 0, token))
        if not words[token].text and token < last:
            continue  # nothing between two spaces
        room, left = (narrow, head) if token == at else (measure, None)
        if wide and (left or words[token]).width > room + TOLERANCE and divisible(segment, token):
            _force(found, segment, token, gap, left, room)
        elif (divide or SOFT_HYPHEN in words[token].text) and (
            apart if token > at else head is None
        ):
            _divide(found, segment, token, gap)
        if token < last and segment.breaks_before(token + 1):
            follows, beyond = token + 1, gap + (even or spaced[token + 1])
            while not words[follows].text:  # spaces hang over a line's end
                follows += 1
                beyond += even or spaced[follows]
            start = segment.start(follows)
            hyphen = segment.hyphened(token + 1)
            found.put(ends[token], gap, start, beyond, Break(token, 0, follows), hyphen)
    found.put(ends[last], gap, ends[last], gap, Break(last, 0, len(words)))


def _add_even(found: Nodes, segment: Segment, begin: int, last: int, divide: bool) -> None:
    """The same for words with a space between any two, as most paragraphs are: with every key all
    of one is looked at."""
    words, ends, languages = segment.words, segment.ends, segment.languages
    divide = divide and segment.hyphenated
    one = languages[segment.spans] if isinstance(segment.spans, int) else None
    if divide and one is not None and segment.levels is None and last - begin > _SEVERAL:
        divided_all(words[begin].setting, [w.text for w in words[begin : last + 1]], one)
    add_end, add_gap = found.ends.append, found.end_gaps.append
    add_begin, add_begin_gap = found.begins.append, found.begin_gaps.append
    add_break, add_hyphen = found.breaks.append, found.hyphens.append
    for token in range(begin, last + 1):
        end, word = ends[token], words[token]
        if divide:
            language = one or segment.language(token)
            parts = () if language is None or token in segment.marked else divided(word, language)
            start = end - word.width
            for used, width, rest in parts:
                add_end(start + width)
                add_gap(token)
                add_begin(end - rest)
                add_begin_gap(token)
                add_break(Break(token, used, token))
                add_hyphen(True)
        if token < last:
            add_end(end)
            add_gap(token)
            add_begin(ends[token + 1] - words[token + 1].width)
            add_begin_gap(token + 1)
            add_break(Break(token, 0, token + 1))
            add_hyphen(False)
    found.put(ends[last], last, ends[last], last, Break(last, 0, len(words)))


def _divide_ahead(segment: Segment, begin: int, last: int) -> None:
    """Divides the words of one language and setting together, which is far quicker than one after
    the other where they are new."""
    several: dict[tuple[Setting, Dividing], list[str]] = {}
    for token in range(begin, last + 1):
        language = segment.language(token)
        if language is not None and token not in segment.marked:
            word = segment.words[token]
            several.setdefault((word.setting, language), []).append(word.text)
    for (setting, language), words in several.items():
        if len(words) > _SEVERAL:
            divided_all(setting, words, language)


def _divide(found: Nodes, segment: Segment, token: int, gap: int) -> None:
    """Nodes within a word, where its language divides it."""
    word, language = segment.words[token], segment.language(token) or ""
    if token in segment.marked or not (language or SOFT_HYPHEN in word.text):
        return
    end = segment.ends[token]
    start = end - word.width
    for used, width, rest in divided(word, language):
        found.put(start + width, gap, end - rest, gap, Break(token, used, token), True)


def _force(
    found: Nodes, segment: Segment, token: int, gap: int, head: Word | None, measure: float
) -> None:
    """Nodes within a word that is wider than the measure, of which only `head` may be left."""
    word, end = segment.words[token], segment.ends[token]
    skip = 0 if head is None else skipped(word, head)
    start = end - (word if head is None else head).width
    for used, width, rest in forced(word, segment.language(token), measure, skip):
        found.put(start + width, gap, end - rest, gap, Break(token, used, token), True)


def divisible(segment: Segment, token: int) -> bool:
    """Whether a token is divided with a hyphen where it is wider than a line."""
    return token not in segment.marked and takes_hyphen(segment.words[token])


def skipped(word: Word, head: Word) -> int:
    """How many characters of a word are gone where `head` is left of it."""
    text, at = word.text, len(word.text)
    left = len(head.text)
    while left:
        at -= 1
        left -= text[at] != SOFT_HYPHEN
    return at


def divided(word: Word, language: Dividing) -> list[tuple[int, float, float]]:
    """Where a word may be divided, with the widths of its two parts, the first with a hyphen."""
    known = word.setting.divided.setdefault(language, {})
    found = known.get(word.text)
    if found is None:
        # Most of these parts never stand on a page: their widths are all that is kept of them.
        measured, rtl = word.setting.width, word.shaped.rtl
        parts = [(used, *_parts(word, used)) for used in divisions(word.text, language)]
        found = known[word.text] = [
            (used, measured(begin, rtl), measured(rest, rtl)) for used, begin, rest in parts
        ]
    return found


def divided_all(
    setting: Setting, words: Sequence[str], language: Dividing
) -> list[list[tuple[int, float, float]]]:
    """`divided` of many words that are read from left to right, their parts measured at once."""
    known = setting.divided.setdefault(language, {})
    new = list(dict.fromkeys(word for word in words if word not in known))
    places = divisions_all(new, language)
    parts = [
        _parted(text, used) for text, several in zip(new, places, strict=True) for used in several
    ]
    every = sorted({part for both in parts for part in both})  # the same order in every run
    width = dict(zip(every, setting.measured(every), strict=True))
    pairs = iter(parts)
    for text, several in zip(new, places, strict=True):
        known[text] = [
            (used, width[begin], width[rest])
            for used, (begin, rest) in zip(several, pairs, strict=False)
        ]
    return [known[word] for word in words]


def parts_of(word: Word, used: int) -> tuple[Word, Word]:
    """A word divided behind so many characters: its beginning with a hyphen, and its end."""
    begin, rest = _parts(word, used)
    return word.like(begin), word.like(rest)


def _parts(word: Word, used: int) -> tuple[str, str]:
    return _parted(word.text, used)


def _parted(text: str, used: int) -> tuple[str, str]:
    return text[:used].replace(SOFT_HYPHEN, "") + "-", text[used:].replace(SOFT_HYPHEN, "")
