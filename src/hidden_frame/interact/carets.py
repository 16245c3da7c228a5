"""Where a caret goes by line: on the lines of one frame, and over its edges through a story."""

from __future__ import annotations

from hidden_frame.compose.composition import Told
from hidden_frame.edit.text.write import end_of
from hidden_frame.model.text import Text, TextPlace
from hidden_frame.typeset.caret import caret_at, stops
from hidden_frame.typeset.text import SetText

START, END = -2, 2  # ways of a caret besides a line up (-1) and a line down (1)


def by_line(
    text: Text, shown: SetText, place: TextPlace, way: int, told: Told | None, at: int
) -> TextPlace:
    """The place to which a caret goes from a place of a text: to the start or end of its line, or
    a line up or down at the same x.

    `shown` is what stands in the frame that the caret is in; if that is a story's, `told` is that
    story and `at` its stop, whose paragraphs are counted from the one that it begins in.  Above
    the first line and below the last one the next stop follows that holds any, or the text's
    start or end.
    """
    if not shown.lines:
        return place
    first = told.flow.starts[at].paragraph if told is not None else 0
    caret = caret_at(shown, place[0] - first, place[1])
    line = shown.lines[caret.line]
    if way in (START, END):
        return first + line.paragraph, line.start if way == START else line.end
    index = caret.line + way
    if 0 <= index < len(shown.lines):
        return _on_line(shown, index, caret.x, first)
    beyond = _next_stop(told, at, way) if told is not None else None
    if told is None or beyond is None:
        return (0, 0) if way < 0 else end_of(text)
    there = told.flow.parts[beyond].text
    index = 0 if way > 0 else len(there.lines) - 1
    return _on_line(there, index, caret.x, told.flow.starts[beyond].paragraph)


def _next_stop(told: Told, at: int, way: int) -> int | None:
    """The next stop that way which holds any line."""
    flow, at = told.flow, at + way
    while 0 <= at < len(flow.stops) and not flow.parts[at].lines:
        at += way
    return at if 0 <= at < len(flow.stops) else None


def _on_line(shown: SetText, index: int, x: float, first: int) -> TextPlace:
    """The place on a line that lies nearest to an x."""
    line = shown.lines[index]
    offset = min(stops(line), key=lambda stop: abs(stop[1] - x))[0]
    return first + line.paragraph, offset
