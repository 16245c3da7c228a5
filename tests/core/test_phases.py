"""The phases of typesetting, each by itself: segments, lines, fragments, a frame's regions."""

from __future__ import annotations

import math
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.compose.regions import inner_height, inner_width, regions_of
from hidden_frame.model.items import Insets, TextFrame
from hidden_frame.typeset.breaking.cut import Cut
from hidden_frame.typeset.breaking.first_fit import Breaker
from hidden_frame.typeset.fill import Where, fill
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.lines import LineSetter, set_lines
from hidden_frame.typeset.paragraph import ParagraphSpec, Spacing, Span, Tab
from hidden_frame.typeset.paragraphs import set_paragraph
from hidden_frame.typeset.region import Outline, Region
from hidden_frame.typeset.segments import segments
from hidden_frame.typeset.shaping import setting_of
from hidden_frame.typeset.text import set_text

BLACK = (0.0, 0.0, 0.0)
SETTING = setting_of(font_book().face("Alegreya Sans"), 10.0)
BOLD = setting_of(font_book().face("Alegreya Sans", True), 12.0)
words = st.text("abcdefghijklmnoprstuvwyzäé,.-", min_size=1, max_size=14)
joints = st.sampled_from([" ", " ", " ", " ", "\t", "\u2028", "  ", "\u2028\u2028"])


@st.composite
def strings(draw, most=40):
    """Words with spaces, tabs and line breaks between them."""
    parts = draw(st.lists(st.tuples(words, joints), max_size=most))
    return "".join(word + joint for word, joint in parts)


@st.composite
def paragraphs(draw, most=40, marker=st.booleans(), whole=st.booleans()):
    text = draw(strings(most))
    cut = draw(st.integers(0, len(text)))
    language = draw(st.sampled_from([None, "en_GB"]))
    spans = [Span(text[:cut], SETTING, BLACK, False, language)]
    if draw(marker):
        spans.append(Span("a marker", SETTING, BLACK, True))
    spans.append(Span(text[cut:], draw(st.sampled_from([SETTING, BOLD])), BLACK, False, language))
    return ParagraphSpec(
        tuple(spans), SETTING, draw(st.sampled_from([12.0, 14.5])),
        draw(st.sampled_from(["left", "right", "centre", "justified"])),
        draw(st.sampled_from([0.0, 6.0])), draw(st.sampled_from([0.0, 4.0])),
        draw(st.sampled_from([0.0, 9.0])), draw(st.sampled_from([0.0, 5.0])),
        draw(st.sampled_from([0.0, 12.0, -6.0])),
        draw(st.sampled_from([(), (Tab(50.0, "left", "."), Tab(None, "right"))])),
        spacing=Spacing(whole=draw(whole)),
    )  # fmt: skip


def looks(line):
    """All that can be seen of a line, from the left edge of its measure."""
    runs = [(r.text, [round(x, 4) for x in r.xs]) for r in (*line.runs, *line.leaders)]
    return line.start, line.end, round(line.left, 4), round(line.right, 4), runs


def source(spec):
    """The paragraph's text, a marker as one character."""
    return "".join("\ufffc" if span.marker else span.text for span in spec.spans)


@given(paragraphs())
def test_segments_hold_every_character_once(spec):
    at = 0
    for segment in segments(spec):
        assert segment.origin == at
        at = segment.end + (segment.ends_with != "")
    text = source(spec)
    assert at in (len(text), len(text.rstrip(" ")))


@given(paragraphs(), st.floats(40, 300))
def test_cuts_of_a_segment_are_the_same_one_by_one_and_at_once(spec, measure):
    for segment in segments(spec):
        at_once = Breaker(segment, measure, spec.align == "justified").lines(measure, measure)
        breaker, cuts = Breaker(segment, measure, spec.align == "justified"), []
        while not breaker.done:
            cuts.append(breaker.line(measure))
        assert [(c.first, c.last, c.skip, c.used) for c in cuts] == [
            (c.first, c.last, c.skip, c.used) for c in at_once
        ]
        assert all(isinstance(c, Cut) for c in cuts)


@given(paragraphs(whole=st.just(False)), st.floats(40, 300))
def test_lines_are_the_same_one_by_one_and_at_once(spec, measure):
    setter, found = LineSetter(spec, measure), []
    while not setter.done:
        found.append(setter.line(measure))
    assert [looks(x) for x in found] == [looks(x) for x in set_lines(spec, measure)]
    assert found  # an empty paragraph has a line too


@given(paragraphs(whole=st.just(False)), st.floats(60, 300), st.data())
def test_lines_can_be_taken_up_where_any_line_begins(spec, measure, data):
    lines = set_lines(spec, measure)
    at = data.draw(st.integers(0, len(lines) - 1))
    setter, rest = LineSetter(spec, measure), []
    setter.go_on_at(lines[at].place)
    while not setter.done:
        rest.append(setter.line(measure))
    assert [line.end for line in rest] == [line.end for line in lines[at:]]
    assert "".join(x.text for x in rest) == "".join(x.text for x in lines[at:])


def test_a_paragraph_is_set_once_at_each_measure_and_its_lines_are_shared():
    spec = ParagraphSpec((Span("one two three " * 20, SETTING, BLACK),), SETTING, 14.0)
    assert set_paragraph(spec, 100.0) is set_paragraph(spec, 100.0)
    assert set_paragraph(spec, 100.0) is not set_paragraph(spec, 90.0)
    first = set_text([spec], (Region(0.0, 100.0),))
    other = set_text([spec, spec], (Region(0.0, 100.0, 60.0), Region(120.0, 220.0)))
    known = {id(line) for line in set_paragraph(spec, 100.0).lines}
    assert {id(x.line) for x in (*first.lines, *other.lines)} == known


regions = st.lists(
    st.builds(lambda w, h: Region(0.0, w, h), st.floats(60, 240), st.floats(5, 90)), max_size=8
)


@given(st.lists(paragraphs(25), min_size=1, max_size=4), regions)
def test_whatever_regions_come_every_word_stands_once_in_order(specs, several):
    """Words on the fragments are the words of the text, whatever the measures in between."""
    endless = Region(0.0, 150.0)
    found, where = [], Where()
    for region in [*several, endless]:
        fragment = fill(specs, region, where, spaced=False)
        top = 0.0
        for block in fragment.blocks:
            assert block.top >= top - 1e-9
            for line in block.lines[block.first : block.last]:
                found.append(line.text)
                top = block.top
                block = block._replace(top=block.top + line.height)
            assert block.top <= region.limit + 1e-9
        where = fragment.rest
        if where is None:
            break
    assert where is None

    def letters(text):
        return "".join(text).replace("-", "").replace(" ", "")

    plain = [line.text for spec in specs for line in set_lines(spec, 9e5)]
    assert letters(found) == letters(plain)


@given(st.lists(paragraphs(25), min_size=1, max_size=3), st.lists(st.floats(5, 90), max_size=8))
def test_regions_of_one_measure_share_out_the_lines_of_one_region(specs, heights):
    """An oracle: a fragment after the other holds the lines of a single endless column."""
    whole = [(b.paragraph, line) for b in fill(specs, Region(0.0, 120.0)).blocks
             for line in b.lines[b.first : b.last]]  # fmt: skip
    found, where = [], Where()
    for height in [*heights, math.inf]:
        fragment = fill(specs, Region(0.0, 120.0, height), where, spaced=False)
        found += [(b.paragraph, x) for b in fragment.blocks for x in b.lines[b.first : b.last]]
        where = fragment.rest
        if where is None:
            break
    assert [n for n, _ in found] == [n for n, _ in whole]
    assert all(a is b for (_, a), (_, b) in zip(found, whole, strict=True))


@given(
    st.lists(words, min_size=1, max_size=60).map(" ".join), st.floats(40, 120),
    st.floats(0, 60), st.floats(10, 60), st.sampled_from(["left", "right", "justified"]),
)  # fmt: skip
def test_around_something_in_the_way_lines_keep_clear_and_lose_nothing(
    text, left, top, high, align
):
    spec = ParagraphSpec((Span(text, SETTING, BLACK),), SETTING, 14.0, align)
    outline = ((left, top), (left + 60, top), (left + 60, top + high), (left, top + high))
    region = Region(0.0, 260.0, math.inf, (Outline(outline),))
    lines = [
        (block.x, block.top + n * block.pitch, line)
        for block in fill([spec], region).blocks
        for n, line in enumerate(block.lines[block.first : block.last])
    ]
    for x, above, line in lines:
        if above < top + high - 0.01 and above + line.height > top + 0.01:
            assert x + line.right <= left + 0.01 or x + line.left >= left + 60 - 0.01
    ends = [line.end for _, _, line in lines]
    assert ends == sorted(ends)
    assert ends[-1] == len(text)
    letters = "".join(line.text for _, _, line in lines).replace(" ", "").replace("-", "")
    assert letters == text.replace(" ", "").replace("-", "")


def test_a_region_too_low_for_a_line_stays_empty_and_says_where_to_go_on():
    spec = ParagraphSpec((Span("word", SETTING, BLACK),), SETTING, 14.0)
    fragment = fill([spec], Region(0.0, 100.0, 10.0))
    assert fragment.blocks == () and fragment.rest == Where(0) and fragment.bottom == 0.0
    assert fill([spec], Region(0.0, 100.0, 14.0)).rest is None


def test_a_fragment_moved_down_shares_its_lines():
    spec = ParagraphSpec((Span("word " * 9, SETTING, BLACK),), SETTING, 14.0)
    fragment = fill([spec], Region(0.0, 60.0))
    lower = fragment.lowered(20.0)
    assert lower.bottom == pytest.approx(fragment.bottom + 20.0)
    assert lower.blocks[0].lines is fragment.blocks[0].lines
    text = set_text([spec], (Region(0.0, 60.0),))
    moved = text.lowered([5.0])
    assert [x.top for x in moved.lines] == pytest.approx([x.top + 5.0 for x in text.lines])
    assert all(a.line is b.line for a, b in zip(text.lines, moved.lines, strict=True))


@given(
    st.integers(1, 6), st.floats(0, 30), st.floats(20, 400), st.floats(10, 300),
    st.builds(Insets, **dict.fromkeys(("top", "bottom", "left", "right"), st.floats(0, 20))),
)  # fmt: skip
def test_a_frames_regions_share_its_width_and_part_by_the_gutter(count, gutter, w, h, insets):
    frame = TextFrame(
        id="f", x=0, y=0, width=w, height=h, columns=count, gutter=gutter, inset=insets
    )
    found = regions_of(frame)
    assert len(found) == count and found[0].left == 0.0
    assert all(r.height == inner_height(frame) for r in found)
    if inner_width(frame) >= gutter * (count - 1):
        assert found[-1].right == pytest.approx(inner_width(frame), abs=1e-6)
        for a, b in pairwise(found):
            assert b.left - a.right == pytest.approx(gutter, abs=1e-6)
    corners = ((5.0, 6.0), (9.0, 6.0), (9.0, 8.0))
    (outline,) = regions_of(frame, (Outline(corners),))[0].outlines
    assert outline.corners[0] == (5.0 - insets.left, 6.0 - insets.top)
