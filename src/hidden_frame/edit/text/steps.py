"""A place moved by characters, words and paragraphs as people count them: an accent goes with its
letter, an apostrophe stands within its word.

>>> from hidden_frame.model.text import Paragraph, Run
>>> text = (Paragraph("body", (Run("Don\u2019t ask, cafe\u0301!"),)),)
>>> word_after(text, (0, 0)), word_around(text, (0, 2)), before(text, (0, 16))
((0, 6), ((0, 0), (0, 5)), (0, 14))

Characters are grapheme clusters and words those of Unicode's UAX #29, both found by `regex`.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cache
from typing import TYPE_CHECKING

from hidden_frame.model.text import Paragraph, Run, Text, TextPlace

OBJECT = "\ufffc"  # what stands for a marker, or for whatever counts as one character

if TYPE_CHECKING:
    from regex import Pattern


def length(paragraph: Paragraph) -> int:
    """Characters of a paragraph, a marker counting as one."""
    return sum(len(p.text) if isinstance(p, Run) else 1 for p in paragraph.content)


def end_of(text: Text) -> TextPlace:
    """The place behind the last character."""
    return len(text) - 1, length(text[-1])


def letters(paragraph: Paragraph) -> str:
    """A paragraph's characters, each place one of them."""
    return "".join(p.text if isinstance(p, Run) else OBJECT for p in paragraph.content)


def before(text: Text, place: TextPlace) -> TextPlace:
    """The place one character back; the text's start has none before it."""
    index, offset = place
    if not offset:
        return (index - 1, length(text[index - 1])) if index else place
    return index, _cluster(letters(text[index]), offset - 1)[0]


def after(text: Text, place: TextPlace) -> TextPlace:
    """The place one character on."""
    index, offset = place
    string = letters(text[index])
    if offset >= len(string):
        return (index + 1, 0) if index + 1 < len(text) else place
    return index, _cluster(string, offset)[1]


def erased(text: Text, place: TextPlace) -> TextPlace:
    """Where that begins which Backspace takes: of a letter with accents the last accent, else the
    whole character (common practice; UAX #29 leaves it open)."""
    start = before(text, place)
    if start[0] != place[0] or place[1] - start[1] <= 1:
        return start
    first = letters(text[place[0]])[start[1]]
    return (place[0], place[1] - 1) if first.isalpha() else start


def word_after(text: Text, place: TextPlace) -> TextPlace:
    """Where the next word begins, or the next marks that are no word; at a paragraph's end the
    next paragraph."""
    index, offset = place
    string = letters(text[index])
    if offset >= len(string):
        return after(text, place)
    kind = None
    for start, end in parts(string, offset):
        if end <= offset:
            continue
        here = _kind(string[max(start, offset) : end])
        if here != "space" and kind is not None and (here, kind) != ("sign", "sign"):
            return index, start
        kind = here
    return index, len(string)


def word_before(text: Text, place: TextPlace) -> TextPlace:
    """Where the word begins that a place is in or behind; at a paragraph's head the end of the
    paragraph before."""
    index, offset = place
    if not offset:
        return before(text, place)
    string = letters(text[index])
    head = string[:offset].rstrip()
    at = len(head)
    while at:
        start, _ = _part(string, at - 1)
        sign = _kind(string[start:at]) == "sign"
        at = start
        if not (sign and at and _kind(string[at - 1]) == "sign"):
            break
    return index, at


def word_around(text: Text, place: TextPlace) -> tuple[TextPlace, TextPlace]:
    """The places at which the word around a place, or right before it, starts and ends; the place
    twice where none is."""
    index, offset = place
    string = letters(text[index])
    for at in (offset, offset - 1):
        if 0 <= at < len(string):
            start, end = _part(string, at)
            if _kind(string[start:end]) == "word":
                return (index, start), (index, end)
    return place, place


def paragraph_from(text: Text, place: TextPlace, step: int) -> TextPlace:
    """Where the paragraph begins that a place is in (or the one before it, from there), for a
    `step` of -1; where the next one does for 1, or the text's end."""
    index, offset = place
    if step < 0:
        return (index, 0) if offset else (max(index - 1, 0), 0)
    return (index + 1, 0) if index + 1 < len(text) else end_of(text)


def paragraph_around(text: Text, place: TextPlace) -> tuple[TextPlace, TextPlace]:
    """The paragraph that a place is in, with its end."""
    return (place[0], 0), paragraph_from(text, place, 1)


def _kind(string: str) -> str:
    if string.isspace():
        return "space"
    return "word" if any(c.isalnum() or c == "_" for c in string) else "sign"


def _cluster(string: str, at: int) -> tuple[int, int]:
    """The character that one of its code points belongs to."""
    begin = at
    while begin and not (string[begin].isascii() and string[begin - 1].isascii()):
        begin -= 1
    found = next(m for m in _found(r"\X").finditer(string, begin) if m.end() > at)
    return found.start(), found.end()


def _part(string: str, at: int) -> tuple[int, int]:
    """The word, the space or the sign that a code point belongs to."""
    return next(part for part in parts(string, at) if part[1] > at)


def parts(string: str, at: int) -> Iterator[tuple[int, int]]:
    """Words, spaces and signs one after the other, from somewhere before a code point on."""
    begin = max(string.rfind(" ", 0, max(at - 1, 0)), 0)
    last = begin
    for found in _found(r"(?w)\b").finditer(string, begin):
        if found.start() > last:
            yield last, found.start()
            last = found.start()
    if last < len(string):
        yield last, len(string)


@cache
def _found(pattern: str) -> Pattern[str]:
    """A pattern of `regex`, which is loaded when it is needed."""
    import regex

    return regex.compile(pattern)
