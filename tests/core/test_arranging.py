"""Lining up, spacing, sizing and turning against plain arithmetic and matrix algebra."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.edit.items.draw import add_item, group_items
from hidden_frame.edit.items.spread import aligned, distributed
from hidden_frame.edit.items.tiling import tiled
from hidden_frame.interact.hands.line_up import align, area, distribute, reshape, same_size
from hidden_frame.interact.hands.shown import bounds_on
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Line, Shape
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.plane.box import (
    HANDLES,
    Bounds,
    Box,
    around_all,
    bounds_of,
    holds,
    placed_at,
    resized,
    scaled,
    sized_at,
    turned_about,
)

NINE = [(x, y) for x in (-1, 0, 1) for y in (-1, 0, 1)]
numbers = st.floats(-300, 300)
boxes = st.builds(Box, numbers, numbers, st.floats(1, 200), st.floats(1, 200), st.floats(-180, 180))
bounds = st.builds(
    lambda x, y, w, h: Bounds(x, y, x + w, y + h), numbers, numbers, st.floats(1, 99),
    st.floats(1, 99),
)  # fmt: skip
EDGES = {
    "left": lambda b: b.left, "right": lambda b: b.right, "top": lambda b: b.top,
    "bottom": lambda b: b.bottom, "centre": lambda b: b.centre[0], "middle": lambda b: b.centre[1],
}  # fmt: skip


@given(st.lists(bounds, min_size=1, max_size=8), st.sampled_from(sorted(EDGES)), bounds)
def test_aligned_edges_lie_on_one_line(many, edge, to):
    for target in (None, to):
        moves = aligned(many, edge, target)
        wanted = EDGES[edge](target or around_all(many))
        for box, (dx, dy) in zip(many, moves, strict=True):
            assert EDGES[edge](box.moved(dx, dy)) == pytest.approx(wanted)
            assert (dy if edge in ("left", "centre", "right") else dx) == 0


@given(st.lists(bounds, min_size=2, max_size=8), st.sampled_from(["across", "down"]))
def test_distributed_gaps_are_equal_and_the_outermost_stay(many, axis):
    moved = [b.moved(*m) for b, m in zip(many, distributed(many, axis), strict=True)]
    span = (lambda b: (b.left, b.right)) if axis == "across" else (lambda b: (b.top, b.bottom))
    order = sorted(range(len(many)), key=lambda n: (sum(span(many[n])), n))
    gaps = [span(moved[b])[0] - span(moved[a])[1] for a, b in pairwise(order)]
    assert gaps == pytest.approx([gaps[0]] * len(gaps), abs=1e-6)
    assert span(moved[order[0]])[0] == pytest.approx(span(around_all(many))[0])
    assert span(moved[order[-1]])[1] == pytest.approx(span(around_all(many))[1])


@given(bounds, bounds)
def test_touching_and_enclosing_agree_with_intervals(a, b):
    across = max(a.left, b.left) <= min(a.right, b.right)
    down = max(a.top, b.top) <= min(a.bottom, b.bottom)
    assert a.touches(b) == b.touches(a) == (across and down)
    assert a.encloses(b) == (around_all([a, b]) == a)
    assert a.touches(a) and a.encloses(a)


def rotation(degrees):
    a = np.radians(degrees)
    return np.array([[np.cos(a), -np.sin(a)], [np.sin(a), np.cos(a)]])


@given(boxes, numbers, numbers, st.floats(-360, 360))
def test_turning_about_a_point_is_a_rotation_of_every_corner(box, x, y, degrees):
    new = turned_about(box, (x, y), degrees)
    for point in NINE:
        wanted = rotation(degrees) @ (np.array(box.point(*point)) - (x, y)) + (x, y)
        assert new.point(*point) == pytest.approx(tuple(wanted), abs=1e-6)


@given(boxes, st.sampled_from(NINE), numbers, numbers)
def test_a_box_is_placed_by_any_of_its_nine_points(box, point, x, y):
    new = placed_at(box, point, x, y)
    assert new.point(*point) == pytest.approx((x, y), abs=1e-6)
    assert (new.width, new.height, new.rotation) == (box.width, box.height, box.rotation)
    assert placed_at(box, point, None, None) == pytest.approx(box)


@given(boxes, st.sampled_from(NINE), st.floats(1, 300), st.floats(1, 300))
def test_a_typed_size_leaves_the_reference_point_where_it_is(box, point, width, height):
    new = sized_at(box, point, width, height)
    assert (new.width, new.height) == (width, height)
    assert new.point(*point) == pytest.approx(box.point(*point), abs=1e-6)


@given(boxes, st.sampled_from(HANDLES), numbers, numbers)
def test_sizing_about_the_middle_leaves_it_in_place(box, handle, dx, dy):
    new = resized(box, handle, dx, dy, about_middle=True)
    assert new.centre == pytest.approx(box.centre, abs=1e-6)


@given(st.lists(boxes, min_size=1, max_size=5), st.floats(0.2, 3), st.floats(0.2, 3))
def test_upright_boxes_go_along_with_the_box_around_them(many, across, down):
    many = [b._replace(rotation=90.0 * (n % 4)) for n, b in enumerate(many)]
    old = around_all(bounds_of(b) for b in many)
    new = Bounds(old.left + 7, old.top - 3, old.left + 7 + old.width * across,
                 old.top - 3 + old.height * down)  # fmt: skip
    after = around_all(bounds_of(scaled(b, old, new)) for b in many)
    assert tuple(after) == pytest.approx(tuple(new), abs=1e-5)


@given(boxes, numbers, numbers)
def test_what_a_turned_box_holds_agrees_with_matrices(box, x, y):
    local = rotation(-box.rotation) @ (np.array((x, y)) - box.centre)
    inside = abs(local[0]) <= box.width / 2 - 1e-9 and abs(local[1]) <= box.height / 2 - 1e-9
    outside = abs(local[0]) > box.width / 2 + 1e-9 or abs(local[1]) > box.height / 2 + 1e-9
    assert holds(box, x, y) or not inside
    assert not (holds(box, x, y) and outside)


@given(st.lists(st.tuples(st.floats(5, 900), st.floats(5, 900)), min_size=1, max_size=30))
def test_tiles_keep_order_and_proportions_and_never_overlap(natural):
    room = Bounds(10, 20, 410, 620)
    found = tiled(room, natural, 8.0)
    for n, (box, (width, height)) in enumerate(zip(found, natural, strict=True)):
        assert box.width * height == pytest.approx(box.height * width, rel=1e-6)
        assert box.width <= width + 1e-9 and box.height <= height + 1e-9
        assert box.x >= 10 - 1e-9 and box.x + box.width <= 410 + 1e-6
        assert box.y >= 20 - 1e-9 and box.y + box.height <= 620 + 1e-6
        for other in found[n + 1 :]:
            apart = (
                box.x + box.width <= other.x + 1e-6 or other.x + other.width <= box.x + 1e-6
                or box.y + box.height <= other.y + 1e-6
            )  # fmt: skip
            assert apart
    order = [(round(b.y, 6), round(b.x, 6)) for b in found]
    assert order == sorted(order)


@pytest.fixture
def three(small):
    """Three shapes on page 3 (a recto), the first two of them a group."""
    page = all_pages(small)[2].id
    publication, ids = small, []
    for x, y, w, h in ((50, 60, 40, 20), (110, 90, 20, 40), (300, 200, 30, 30)):
        publication, made = add_item(publication, page, Shape(id="", x=x, y=y, width=w, height=h))
        ids.append(made)
    return group_items(publication, page, ids[:2]), page, ids


def test_a_group_lines_up_as_one(three):
    publication, page, ids = three
    after = bounds_on(align(publication, page, "recto", ids, "right"), page, "recto")
    before = bounds_on(publication, page, "recto")
    # The group's right edge was 130 and goes to 330, both of its items alike.
    assert [after[i].left - before[i].left for i in ids] == [200, 200, 0]


def test_items_line_up_with_margins_page_and_spread(three):
    publication, page, ids = three
    trim, margins = publication.setup.trim, publication.setup.margins
    wanted = {
        "margins": trim.width - margins.outside, "page": trim.width, "spread": trim.width,
    }  # fmt: skip
    for what, right in wanted.items():
        to = area(publication, page, "recto", what, True)
        after = bounds_on(align(publication, page, "recto", ids, "right", to), page, "recto")
        assert max(b.right for b in after.values()) == pytest.approx(right)
    to = area(publication, page, "recto", "spread", True)
    left = align(publication, page, "recto", ids[2:], "left", to)
    assert bounds_on(left, page, "recto")[ids[2]].left == pytest.approx(-trim.width)


def test_distributing_within_the_margins(three):
    publication, page, ids = three
    to = area(publication, page, "recto", "margins", False)
    after = bounds_on(distribute(publication, page, "recto", ids, "across", to), page, "recto")
    assert min(b.left for b in after.values()) == pytest.approx(to.left)
    assert max(b.right for b in after.values()) == pytest.approx(to.right)


def test_the_same_width_as_the_first_and_one_alone_is_refused(three):
    publication, page, ids = three
    after = bounds_on(same_size(publication, page, "recto", ids, "width"), page, "recto")
    assert [round(after[i].width, 6) for i in ids] == [40, 40, 40]
    after = same_size(publication, page, "recto", ids, "height", (1, 1))
    assert [b.bottom for b in bounds_on(after, page, "recto").values()] == [80, 130, 230]
    with pytest.raises(Refusal, match="two or more"):
        same_size(publication, page, "recto", ids[:1], "width")


def test_reshaping_several_and_a_line_keeps_no_height(three):
    publication, page, ids = three
    line = Line(id="", x=60, y=100, width=50, height=0)
    publication, line_id = add_item(publication, page, line)
    to = Bounds(0, 0, 560, 340)  # twice the box around them, 50 … 330 by 60 … 230
    after = bounds_on(reshape(publication, page, "recto", [*ids, line_id], to), page, "recto")
    assert tuple(after[ids[2]]) == pytest.approx((500, 280, 560, 340))
    assert after[line_id].height == 0 and after[line_id].width == pytest.approx(100)
