"""Where a caret goes by lines and frames: on the lines of one frame, and over its edges through a
story."""

from __future__ import annotations

from typing import NamedTuple

from hidden_frame.compose.composition import StoryOnPages
from hidden_frame.edit.text.steps import end_of
from hidden_frame.model.text import Text, TextPlace
from hidden_frame.typeset.caret import caret_at, line_at, line_of, stops
from hidden_frame.typeset.text import PlacedLine, SetText

START, END = -2, 2  # ways of a caret besides a line up (-1) and a line down (1)


class Standing(NamedTuple):
    """A place of a text, and what else a caret knows of itself there.

    A divided word has one place for the end of its line and the head of the next one: with `late`
    it is the end that is meant.  `across` is how far from its column's left edge, in points, a
    caret goes on that is taken up and down; None for where it stands.
    """

    place: TextPlace
    late: bool = False
    across: float | None = None


class FrameText(NamedTuple):
    """What stands in the frame that a caret is in, and, if that is a story's, the story and the
    frame's number among its stops."""

    text: SetText
    told: StoryOnPages | None = None
    at: int = 0

    @property
    def first(self) -> int:
        """The number in the story of the paragraph from which the frame counts."""
        return self.told.flow.starts[self.at].paragraph if self.told is not None else 0


def by_line(text: Text, shown: FrameText, here: Standing, way: int) -> Standing:
    """Where a caret goes from a place of a text: to the start or end of its line, or a line up or
    down.

    Above the first line and below the last one the next stop of the story follows that holds any,
    or the text's start or end.
    """
    if not shown.text.lines:
        return here
    (paragraph, offset), late, across = here
    number = line_of(shown.text, paragraph - shown.first, offset, late)
    line = shown.text.lines[number]
    if way == START:
        return Standing((shown.first + line.paragraph, line.start))
    if way == END:
        return Standing((shown.first + line.paragraph, line.end), late=True)
    if across is None:
        caret = caret_at(shown.text, paragraph - shown.first, offset, late)
        across = caret.x - _edge(shown.text, line)
    number += way
    if not 0 <= number < len(shown.text.lines):
        beyond = _next_stop(shown, way)
        if beyond is None:
            return Standing((0, 0) if way < 0 else end_of(text), False, across)
        shown = beyond
        number = 0 if way > 0 else len(shown.text.lines) - 1
    line = shown.text.lines[number]
    return _on(shown, line, _edge(shown.text, line) + across)._replace(across=across)


def by_page(text: Text, shown: FrameText, here: Standing, way: int) -> Standing:
    """The same point in the story's next frame on another page, before (-1) or behind (1); the
    text's start or end where there is none."""
    beyond = _next_stop(shown, way, elsewhere=True)
    if beyond is None or not shown.text.lines:
        return Standing((0, 0) if way < 0 else end_of(text))
    (paragraph, offset), late, across = here
    caret = caret_at(shown.text, paragraph - shown.first, offset, late)
    if across is None:
        across = caret.x - _edge(shown.text, shown.text.lines[caret.line])
    line = shown.text.lines[caret.line]
    left = _edge(shown.text, line) + across
    there = at_point(beyond, left, (line.top + line.bottom) / 2)
    return there._replace(across=across)


def at_point(shown: FrameText, x: float, y: float) -> Standing:
    """The place nearest to a point of a frame, in points from its text's corner."""
    return _on(shown, line_at(shown.text, x, y), x)


def stop_at(told: StoryOnPages, here: Standing) -> int | None:
    """The number of the stop in which a caret stands; None if that place has no room."""
    at = told.flow.stop_of(*here.place)
    if not here.late:
        return at
    before = (len(told.flow.stops) if at is None else at) - 1
    parts = told.flow.parts_to(before + 1)
    while before >= 0 and not parts[before].lines:
        before -= 1
    if before >= 0:
        last = parts[before].text.lines[-1]
        if (told.flow.starts[before].paragraph + last.paragraph, last.end) == here.place:
            return before
    return at


def _on(shown: FrameText, line: PlacedLine, x: float) -> Standing:
    """The place on a line that lies nearest to an x."""
    offset = min(stops(line), key=lambda stop: abs(stop[1] - x))[0]
    return Standing((shown.first + line.paragraph, offset), offset == line.end)


def _next_stop(shown: FrameText, way: int, elsewhere: bool = False) -> FrameText | None:
    """The next stop that way which holds any line; with `elsewhere` on another page."""
    told, at = shown.told, shown.at
    if told is None:
        return None
    flow, page = told.flow, told.flow.stops[at].page_id
    at += way
    while 0 <= at < len(flow.stops):
        if flow.parts[at].lines and not (elsewhere and flow.stops[at].page_id == page):
            return FrameText(flow.parts[at].text, told, at)
        at += way
    return None


def _edge(text: SetText, line: PlacedLine) -> float:
    return text.columns[line.column][0]
