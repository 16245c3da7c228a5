"""Text edited by places against plain strings; boxes sized by their handles."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit
from hidden_frame.model.plane.box import HANDLES, Box, line_between, resized
from hidden_frame.model.text import Look, Marker, Paragraph, Run, TabStop

plain = st.text("abc d\n", max_size=20)


def flat(text):
    return edit.plain(text)


def place(string, index):
    before = string[:index]
    return before.count("\n"), len(before.rpartition("\n")[2])


@given(plain, st.lists(st.tuples(st.integers(0, 99), st.integers(0, 99), plain), max_size=8))
def test_insert_and_delete_against_a_plain_string(first, edits):
    text, _ = edit.insert((Paragraph("body"),), (0, 0), first)
    string = first
    for a, b, new in edits:
        start, end = sorted((a % (len(string) + 1), b % (len(string) + 1)))
        text, at = edit.delete(text, place(string, start), place(string, end))
        text, at = edit.insert(text, at, new)
        string = string[:start] + new + string[end:]
        assert flat(text) == string
        assert at == place(string, start + len(new))
        for paragraph in text:  # equal neighbours are joined
            for one, two in zip(paragraph.content, paragraph.content[1:], strict=False):
                assert one.style != two.style


known = st.builds(
    lambda words, style, place, starts: Paragraph(
        style, (Run(words),) if words else (), place=place, short=place, starts=starts
    ),
    st.text("abc ", max_size=6), st.sampled_from(["body", "heading"]), st.just(""),
    st.sampled_from([None, "page"]),
)  # fmt: skip
several = st.lists(known, min_size=2, max_size=8).map(
    lambda found: tuple(
        replace(p, place=f"place-{n}", short=f"s{n}") for n, p in enumerate(found)
    )
)  # fmt: skip


@given(several, st.data())
def test_whole_paragraphs_cut_and_put_in_elsewhere_are_the_same_in_another_order(text, data):
    """With their styles and what is said of them; so are those that stand around."""
    first = data.draw(st.integers(0, len(text) - 2))
    behind = data.draw(st.integers(first + 1, len(text) - 1))
    piece = edit.cut_out(text, (first, 0), (behind, 0))
    rest, at = edit.delete(text, (first, 0), (behind, 0))
    assert rest == (*text[:first], *text[behind:]) and at == (first, 0)
    to = data.draw(st.integers(0, len(rest) - 1))
    moved, caret = edit.put_in(rest, (to, 0), piece)
    assert moved == (*rest[:to], *text[first:behind], *rest[to:])
    assert caret == (to + behind - first, 0)


@given(several, several, st.data())
def test_what_is_said_of_a_paragraph_is_never_said_twice(text, piece, data):
    number = data.draw(st.integers(0, len(text) - 1))
    offset = data.draw(st.integers(0, steps.length(text[number])))
    piece = tuple(replace(p, place=f"other-{p.place}", starts=None) for p in piece)
    for after in (edit.put_in(text, (number, offset), piece), edit.split(text, (number, offset))):
        places = [p.place for p in after[0] if p.place]
        assert len(places) == len(set(places))
        assert {p.place for p in text if p.content} <= set(places)
        breaks = [p for p in after[0] if p.starts]
        assert len(breaks) <= len([p for p in text if p.starts])


def test_an_empty_line_above_a_heading_leaves_what_refers_to_it():
    text = (Paragraph("heading", (Run("Salt"),), place="place-1", short="S"),)
    after, _ = edit.split(text, (0, 0))
    assert [(p.content, p.place, p.short) for p in after] == [
        ((), "", ""), ((Run("Salt"),), "place-1", "S")
    ]  # fmt: skip
    assert edit.delete(after, (0, 0), (1, 0))[0] == text


def test_markers_count_as_one_character_and_keep_their_place():
    text = (Paragraph("body", (Run("ab"), Marker("folio"), Run("cd"))),)
    text, _ = edit.insert(text, (0, 3), "X")
    assert text[0].content == (Run("ab"), Marker("folio"), Run("Xcd"))
    text, at = edit.delete(text, (0, 2), (0, 3))
    assert text[0].content == (Run("abXcd"),) and at == (0, 2)


def test_styles_of_a_stretch():
    text = (Paragraph("body", (Run("one two"),)), Paragraph("body", (Run("three"),)))
    text = edit.set_character_style(text, (0, 4), (1, 2), "strong")
    assert text[0].content == (Run("one "), Run("two", "strong"))
    assert text[1].content == (Run("th", "strong"), Run("ree"))
    assert steps.word_around(text, (0, 5)) == ((0, 4), (0, 7))


boxes = st.builds(
    Box, st.floats(-99, 99), st.floats(-99, 99), st.floats(1, 300), st.floats(1, 300),
    st.floats(-180, 180),
)  # fmt: skip


@given(boxes, st.sampled_from(HANDLES), st.floats(-200, 200), st.floats(-200, 200))
def test_sizing_by_a_handle_leaves_the_opposite_one_in_place(box, handle, dx, dy):
    new = resized(box, handle, dx, dy)
    across, down = handle
    assert new.point(-across, -down) == pytest.approx(box.point(-across, -down), abs=1e-6)
    assert new.width >= 0 and new.height >= 0
    if new.width and new.height and across and down:
        x, y = box.point(across, down)
        assert new.point(across, down) == pytest.approx((x + dx, y + dy), abs=1e-6)


@given(boxes, st.floats(1, 200))
def test_shift_keeps_the_proportions(box, far):
    new = resized(box, (1, 1), far, far / 2, proportional=True)
    assert new.width * box.height == pytest.approx(new.height * box.width)


@given(st.tuples(*[st.floats(-500, 500)] * 4))
def test_a_line_runs_between_its_two_points(ends):
    x1, y1, x2, y2 = ends
    box = line_between(*ends)
    assert box.point(-1, 0) == pytest.approx((x1, y1), abs=1e-6)
    assert box.point(1, 0) == pytest.approx((x2, y2), abs=1e-6)


dresses = st.sampled_from([(None, None), ("strong", None), (None, Look(bold=True))])
pieces = st.one_of(
    st.builds(lambda t, d: Run(t, *d), st.text("ab ", min_size=1, max_size=4), dresses),
    st.builds(lambda d: Marker("folio", None, *d), dresses),
)


def cells(paragraph):
    """Each character or marker with how it is dressed, worked out anew."""
    found = []
    for piece in paragraph.content:
        what = piece.text if isinstance(piece, Run) else [piece.shows]
        found += [(c, piece.style, piece.look) for c in what]
    return found


@given(st.lists(pieces, max_size=5), st.integers(0, 30), st.text("xy\t", min_size=1, max_size=5))
def test_what_is_typed_is_dressed_as_what_stands_before_it(content, at, string):
    first = Paragraph("body", tuple(content))
    before = cells(first)
    at = at % (len(before) + 1)
    (after,), place = edit.insert((first,), (0, at), string)
    dress = before[at - 1][1:] if at else (None, None)
    assert cells(after) == before[:at] + [(c, *dress) for c in string] + before[at:]
    assert place == (0, at + len(string))


@given(st.lists(pieces, min_size=1, max_size=5), st.integers(0, 30), st.integers(0, 30))
def test_a_look_touches_the_stretch_alone_and_none_takes_it_back(content, a, b):
    first = Paragraph("body", tuple(content))
    before = cells(first)
    a, b = sorted((a % (len(before) + 1), b % (len(before) + 1)))
    (after,) = edit.set_look((first,), (0, a), (0, b), size=20.0)
    now = cells(after)
    assert now[:a] == before[:a] and now[b:] == before[b:]
    for (c, style, look), (c2, style2, look2) in zip(before[a:b], now[a:b], strict=True):
        assert (c, style) == (c2, style2) and look2 == replace(look or Look(), size=20.0)
    (back,) = edit.set_look((after,), (0, a), (0, b), size=None)
    assert cells(back) == before
    if a < b:
        assert edit.dress_at((after,), (0, b))[1].size == 20.0


def test_a_line_with_two_ends_keeps_its_words():
    text, place = edit.split_ends((Paragraph("body", (Run("left right"),)),), (0, 4))
    assert edit.plain(text) == "left\t right" and place == (0, 5)
    assert text[0].tabs == (TabStop(None, "right"),)
    aligned = edit.set_alignment(text, 0, 0, "outside")
    assert text[0].alignment == "inside" and aligned[0].alignment == "outside"
    assert edit.set_alignment(aligned, 0, 0, "inside") == text
