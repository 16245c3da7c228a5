"""The caret by line, through frames of a story, against the list of all of its lines."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import StoryOnPages
from hidden_frame.demo.book import long_book
from hidden_frame.interact.hands.carets import END, START, FrameText, Standing, by_line
from hidden_frame.settle.settling import settled

BOOK = settled(long_book(chapters=1))
STORY = BOOK.stories[0]
FLOW = Composer().compose(BOOK).flow(STORY.id)
TOLD = StoryOnPages(STORY, FLOW)
LINES = [
    (at, FLOW.starts[at].paragraph + line.paragraph, line.start, line.end)
    for at, part in enumerate(FLOW.parts)
    for line in part.text.lines
]


def go(number, way, offset=0):
    at, paragraph, start, _ = LINES[number]
    here = Standing((paragraph, start + offset))
    return by_line(STORY.text, FrameText(FLOW.parts[at].text, TOLD, at), here, way).place


@settings(max_examples=150, deadline=None)
@given(st.integers(0, len(LINES) - 1), st.sampled_from([-1, 1]), st.integers(0, 8))
def test_a_line_up_or_down_is_the_one_before_or_after_over_every_edge(number, way, offset):
    _, _, start, end = LINES[number]
    place = go(number, way, min(offset, max(end - start - 1, 0)))
    if not 0 <= number + way < len(LINES):
        assert place == ((0, 0) if way < 0 else (LINES[-1][1], LINES[-1][3]))
        return
    _, paragraph, start, end = LINES[number + way]
    assert place[0] == paragraph and start <= place[1] <= end


@given(st.integers(0, len(LINES) - 1))
def test_home_and_end_are_those_of_the_line(number):
    _, paragraph, start, end = LINES[number]
    assert go(number, START) == (paragraph, start)
    assert go(number, END) == (paragraph, end)


@pytest.mark.parametrize("at", [n for n in range(1, len(FLOW.stops)) if FLOW.parts[n].lines][:5])
def test_from_a_frames_first_line_up_is_the_last_one_of_the_frame_before(at):
    first = next(n for n, line in enumerate(LINES) if line[0] == at)
    place = go(first, -1)
    _, paragraph, start, end = LINES[first - 1]
    assert LINES[first - 1][0] < at
    assert place[0] == paragraph and start <= place[1] <= end
