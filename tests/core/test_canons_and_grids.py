"""Margins against the ratios that were published; guides in rows and columns."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.edit.items.guides import add_guides, at_intervals, fields, own_guides
from hidden_frame.model.canons import CANONS, by_fifths, by_ninths, by_parts, proportional
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide, Size

trims = st.builds(Size, st.floats(150, 900), st.floats(150, 900))


def test_ninths_on_a_page_of_two_to_three_are_as_2_3_4_6():
    # Jan Tschichold, “The Form of the Book” (Hartley & Marks, 1991): the canon's margins on a
    # page of 2 : 3, inside : top : outside : bottom (from memory).
    m = by_ninths(Size(400.0, 600.0))
    unit = m.inside / 2
    assert (m.top / unit, m.outside / unit, m.bottom / unit) == pytest.approx((3, 4, 6))


@given(trims, st.integers(6, 24))
def test_a_type_area_by_parts_has_the_proportions_of_the_page(trim, parts):
    # The figure's own property, whatever the page's proportions: the same source.
    m = by_parts(trim, parts)
    width, height = trim.width - m.inside - m.outside, trim.height - m.top - m.bottom
    assert width / height == pytest.approx(trim.width / trim.height)
    assert width == pytest.approx(trim.width * (parts - 3) / parts)


@given(st.floats(200, 900))
def test_the_height_of_the_type_area_is_the_width_of_a_page_of_two_to_three(width):
    # Tschichold, as above: on a page of 2 : 3 the area by ninths is as high as the page is wide.
    trim = Size(width, width * 1.5)
    m = by_ninths(trim)
    assert trim.height - m.top - m.bottom == pytest.approx(trim.width)


@given(st.floats(10, 40))
def test_each_of_the_fifths_is_a_fifth_larger(inside):
    # William Morris, “The Ideal Book” (1893), from memory: each margin should be 20 % larger.
    m = by_fifths(Size(500, 700), inside)
    assert m.top / m.inside == pytest.approx(1.2)
    assert m.outside / m.top == pytest.approx(1.2)
    assert m.bottom / m.outside == pytest.approx(1.2)


@given(trims)
def test_every_construction_leaves_room_or_says_why_not(trim):
    for canon in CANONS:
        try:
            m = canon.margins(trim)
        except Refusal as refusal:
            assert "no room" in str(refusal)
            continue
        assert m.inside + m.outside < trim.width and m.top + m.bottom < trim.height


def test_margins_that_leave_no_room_and_parts_that_are_too_few_are_refused():
    with pytest.raises(Refusal, match="no room"):
        proportional(Size(200, 300), 80, (2, 3, 4, 6))
    with pytest.raises(Refusal, match="3 parts"):
        by_parts(Size(200, 300), 3)


@given(st.floats(0, 100), st.floats(50, 900), st.integers(1, 12), st.floats(0, 20))
def test_fields_are_equal_and_fill_the_length(start, length, count, gutter):
    if gutter * (count - 1) >= length:
        with pytest.raises(Refusal, match="no room"):
            fields(start, length, count, gutter)
        return
    edges = fields(start, length, count, gutter)
    assert edges == sorted(edges)
    assert edges[0] == pytest.approx(start) and edges[-1] == pytest.approx(start + length)
    if gutter > 0.01:
        sizes = [b - a for a, b in zip(edges[::2], edges[1::2], strict=True)]
        gaps = [b - a for a, b in zip(edges[1::2], edges[2::2], strict=False)]
        assert sizes == pytest.approx([sizes[0]] * count)
        assert gaps == pytest.approx([gutter] * (count - 1))


def test_guides_at_intervals_are_added_once(small):
    master = small.masters[0].id
    made = at_intervals("horizontal", 10.0, 25.0, 4)
    once = add_guides(small, master, made)
    assert [g.position for g in own_guides(once, master)] == [10.0, 35.0, 60.0, 85.0]
    assert add_guides(once, master, [*made, Guide("horizontal", 10.001)]) is once
    with pytest.raises(Refusal, match="from 1 to 200"):
        at_intervals("horizontal", 0.0, 1.0, 201)
