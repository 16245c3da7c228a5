"""Where the caret stands in a set text, and which place a point is nearest to.

>>> text = composition.scene(page).placed[1].drawing.text.text
>>> caret_at(text, paragraph=0, offset=0)
Caret(x=0.0, top=0.0, bottom=14.0, line=0)
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from itertools import pairwise
from operator import attrgetter
from typing import NamedTuple

from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.text import TextPlace
from hidden_frame.typeset.text import PlacedLine, SetText


class Caret(NamedTuple):
    """A caret's x and its line's top and bottom, in points from the text's corner."""

    x: float
    top: float
    bottom: float
    line: int


def stops(line: PlacedLine) -> list[tuple[int, float]]:
    """Every place on a line where the caret can stand: (offset in paragraph, x), rising."""
    found: dict[int, float] = {}
    for run in line.runs:
        for word, at, (start, length) in zip(run.words, run.xs, run.sources(), strict=True):
            x = line.x + at
            if not start and not length:
                continue  # a number before the text
            if length == len(word.text):
                for n, stop in enumerate(word.stops()):
                    found.setdefault(start + n, x + stop)
            else:  # a marker is one character, however much it shows
                found.setdefault(start, x)
                found[start + length] = x + word.width
    first, last = line.start, line.end
    found.setdefault(first, line.left)
    if last not in found:
        found[last] = line.right
    known = sorted([(n, x) for n, x in found.items() if first <= n <= last])
    return known if len(known) == last - first + 1 else _between(known)


def _between(known: list[tuple[int, float]]) -> list[tuple[int, float]]:
    """With the places that no word begins or ends at, as between two tabs: evenly spread."""
    found = known[:1]
    for (first, left), (last, right) in pairwise(known):
        step = (right - left) / (last - first)
        found += [(n, left + step * (n - first)) for n in range(first + 1, last)]
        found.append((last, right))
    return found


_paragraph, _start = attrgetter("paragraph"), attrgetter("start")


def line_of(text: SetText, paragraph: int, offset: int, late: bool = False) -> int:
    """The index of the line on which a place stands; with `late`, where a word is divided there,
    that of the line that ends with it."""
    lines = text.lines
    first = bisect_left(lines, paragraph, key=_paragraph)
    end = bisect_right(lines, paragraph, first, key=_paragraph)
    at = bisect_right(lines, offset, first, end, key=_start)
    if at <= first:
        return 0
    divided = late and at - 1 > first and lines[at - 1].start == offset == lines[at - 2].end
    return at - 2 if divided else at - 1


def caret_at(text: SetText, paragraph: int, offset: int, late: bool = False) -> Caret:
    """The caret at a place; a place between two stops takes the one before.  `late` as for
    `line_of`."""
    index = line_of(text, paragraph, offset, late)
    line = text.lines[index]
    places = stops(line)
    at = max(bisect_right([n for n, _ in places], offset) - 1, 0)
    return Caret(places[at][1], line.top, line.bottom, index)


def reads_from_right(text: SetText, paragraph: int, offset: int) -> bool:
    """Whether the text at a place is read from right to left: what stands behind it, or before
    it at a line's end."""
    line = text.lines[line_of(text, paragraph, offset)]
    if not line.line.both_ways:
        return False
    found = False
    for run in line.runs:
        for word, (start, length) in zip(run.words, run.sources(), strict=True):
            if start <= offset and word.text:
                found = word.shaped.rtl
            if start <= offset < start + length:
                return found
    return found


def line_at(text: SetText, x: float, y: float) -> PlacedLine:
    """The line nearest to a point."""
    wanted = min(
        range(len(text.columns)),
        key=lambda n: max(text.columns[n][0] - x, x - text.columns[n][1], 0.0),
    )
    lines = [line for line in text.lines if line.column == wanted] or text.lines
    index = min(max(bisect_right([line.top for line in lines], y) - 1, 0), max(len(lines) - 1, 0))
    return lines[index]


def place_at(text: SetText, x: float, y: float) -> TextPlace:
    """The paragraph and offset nearest to a point."""
    line = line_at(text, x, y)
    offset = min(stops(line), key=lambda stop: abs(stop[1] - x))[0]
    return line.paragraph, offset


def spans_of(text: SetText, start: TextPlace, end: TextPlace) -> list[Bounds]:
    """The boxes, relative to the text, that a selection from start to end covers."""
    found = []
    for line in text.lines:
        first = (line.paragraph, line.start)
        last = (line.paragraph, line.end)
        if last < start or first > end:
            continue
        if line.line.both_ways:
            found += _boxes(line, start if first < start else first, min(end, last))
            continue
        places = dict(stops(line))
        left = places.get(start[1], line.left) if first < start else line.left
        right = places.get(end[1], line.right) if last > end else line.right
        goes_on = last < end and line.right == line.left
        right = max(right, left + (3.0 if goes_on else 0.0))
        found.append(Bounds(left, line.top, right, line.bottom))
    return found


def _boxes(line: PlacedLine, start: TextPlace, end: TextPlace) -> list[Bounds]:
    """The boxes of what is selected on a line that is read both ways, from left to right."""
    reaches: list[tuple[float, float]] = []
    for run in line.runs:
        for word, at, (source, length) in zip(run.words, run.xs, run.sources(), strict=True):
            a, b = max(start[1] - source, 0), min(end[1] - source, length)
            if a < b:
                marks = word.stops()[a : b + 1] if length == len(word.text) else [0.0, word.width]
                reaches.append((line.x + at + min(marks), line.x + at + max(marks)))
    boxes: list[Bounds] = []
    for left, right in sorted(reaches):
        if boxes and left - boxes[-1].right < line.height / 2:
            boxes[-1] = boxes[-1]._replace(right=max(right, boxes[-1].right))
        else:
            boxes.append(Bounds(left, line.top, right, line.bottom))
    return boxes
