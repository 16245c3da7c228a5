"""Snapping on random layouts against plain arithmetic."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from hidden_frame.interact.hands.snap_to import SnapTo
from hidden_frame.interact.hands.snapping import (
    Neighbour,
    SnapTarget,
    equal_gap,
    item_targets,
    page_targets,
    snapped,
)
from hidden_frame.model.geometry import Columns, Grid, Guide, Margins, Size
from hidden_frame.model.layouts import PageLayout
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.publication import Setup

SETUP = Setup(trim=Size(400.0, 600.0), bleed=9.0)
LAYOUT = PageLayout(
    Margins(top=40, bottom=50, inside=30, outside=20),
    Columns(3, 12.0),
    (Guide("vertical", 100.0), Guide("horizontal", 333.0)),
    Grid(48.0, 14.0),
)
numbers = st.floats(-100, 700).map(lambda v: round(v, 3))
sizes = st.floats(1, 200).map(lambda v: round(v, 3))


@st.composite
def boxes(draw):
    x, y = draw(numbers), draw(numbers)
    return Bounds(x, y, x + draw(sizes), y + draw(sizes))


def edges_of(box, axis):
    low, high = (box.left, box.right) if axis == "x" else (box.top, box.bottom)
    return low, high, (low + high) / 2


@st.composite
def boxes_near(draw, box, reach):
    """Boxes of which an edge or the middle stands about as far from the box as snapping reaches."""
    found = []
    for _ in range(draw(st.integers(1, 6))):
        other = draw(boxes())
        axis = draw(st.sampled_from(["x", "y"]))
        away = draw(st.floats(-2.5, 2.5)) * reach
        shift = draw(st.sampled_from(edges_of(box, axis))) + away
        shift -= draw(st.sampled_from(edges_of(other, axis)))
        found.append(other.moved(shift, 0.0) if axis == "x" else other.moved(0.0, shift))
    return found


@given(boxes(), st.floats(0.5, 12), st.data())
def test_the_nearest_line_within_reach_wins_on_each_axis(box, reach, data):
    others = data.draw(boxes_near(box, reach))
    targets = item_targets([Neighbour(other, "other", 0.0) for other in others])
    found = snapped(box, targets, (), reach)
    for axis, moved in (("x", found.dx), ("y", found.dy)):
        away = [
            line - edge
            for other in others
            for line in edges_of(other, axis)
            for edge in edges_of(box, axis)
        ]
        near = [a for a in away if abs(a) <= reach]
        if not near:
            assert moved == 0
        else:
            assert abs(moved) == pytest.approx(min(abs(a) for a in near), abs=1e-9)


@given(boxes(), st.data())
def test_every_line_shown_lies_on_an_edge_of_the_moved_box_and_of_another(box, data):
    others = data.draw(boxes_near(box, 4.0))
    found = snapped(box, item_targets([Neighbour(o, "other", 0.0) for o in others]), (), 8.0)
    there = box.moved(found.dx, found.dy)
    for line in found.lines:
        assert min(abs(line.at - e) for e in edges_of(there, line.axis)) < 1e-5
        lines = [e for o in others for e in edges_of(o, line.axis)]
        assert min(abs(line.at - e) for e in lines) < 1e-5
        # It reaches over both boxes, so that one sees what belongs together.
        low, high = edges_of(there, "y" if line.axis == "x" else "x")[:2]
        assert line.low <= low + 1e-9 and line.high >= high - 1e-9


@given(st.lists(sizes, min_size=3, max_size=3), sizes, st.floats(1, 60), st.floats(-4, 4))
def test_a_box_beside_two_takes_their_gap(widths, height, gap, off):
    a, b, c = widths
    others = [Bounds(0, 0, a, height), Bounds(a + gap, 0, a + gap + b, height)]
    start = a + gap + b + gap + off
    assume(start > others[1].right)  # in front of it, not over it
    found = equal_gap(Bounds(start, 0, start + c, height), others, "x", 5.0)
    assert found is not None
    assert start + found[0] - others[1].right == pytest.approx(gap)
    assert found[1] == pytest.approx(gap)


@given(sizes, st.floats(2, 80), st.floats(-3, 3))
def test_a_box_between_two_goes_to_their_middle(width, gap, off):
    assume(gap + off > 0 and gap - off > 0)
    others = [Bounds(0, 0, 50, 20), Bounds(50 + 2 * gap + width, 0, 200 + 2 * gap + width, 20)]
    start = 50 + gap + off
    found = equal_gap(Bounds(start, 5, start + width, 25), others, "x", 4.0)
    assert found is not None
    assert start + found[0] - 50 == pytest.approx(gap)


@given(sizes, st.floats(20, 80), st.floats(1.05, 4), st.sampled_from([1, -1]), st.floats(0.5, 5))
def test_an_equal_gap_beyond_reach_is_left_alone(width, gap, times, sign, reach):
    """Beside two boxes, and between two: out of reach by a twentieth of it, or more."""
    off = sign * times * reach
    beside = [Bounds(0, 0, 50, 20), Bounds(50 + gap, 0, 100 + gap, 20)]
    start = 100 + 2 * gap + off
    assert equal_gap(Bounds(start, 0, start + width, 20), beside, "x", reach) is None
    assert snapped(Bounds(start, 0, start + width, 20), [], beside, reach).dx == 0.0
    between = [Bounds(0, 0, 50, 20), Bounds(50 + 2 * gap + width, 0, 200 + 2 * gap + width, 20)]
    start = 50 + gap + off
    assert equal_gap(Bounds(start, 5, start + width, 25), between, "x", reach) is None


@given(st.floats(1.01, 1.99), st.sampled_from([1, -1]), st.floats(0.5, 12))
def test_a_line_beyond_reach_is_left_alone(times, sign, reach):
    box = Bounds(100.0, 100.0, 160.0, 140.0)
    for edge in edges_of(box, "x"):
        target = SnapTarget("x", edge + sign * times * reach, "margin", 0, 600, 0.0)
        others = [abs(e - target.at) for e in edges_of(box, "x")]
        assume(min(others) > reach)
        assert snapped(box, [target], (), reach).dx == 0.0


def test_a_box_that_shares_no_height_with_others_takes_no_gap_from_them():
    others = [Bounds(0, 0, 10, 10), Bounds(20, 0, 30, 10)]
    assert equal_gap(Bounds(41, 50, 60, 60), others, "x", 5.0) is None


@pytest.mark.parametrize("side", ["recto", "verso"])
def test_the_lines_of_a_page_are_where_arithmetic_puts_them(side):
    targets = page_targets(400.0, side, SETUP, LAYOUT, SnapTo(grid=True))
    assert all(t.measure == pytest.approx(t.at - (400.0 if t.axis == "x" else 0)) for t in targets)
    found = {(t.axis, t.word, round(t.measure, 3)) for t in targets}
    left, right = (30, 380) if side == "recto" else (20, 370)
    step = (350 + 12) / 3
    expected = {
        ("x", "page edge", 0.0), ("x", "page edge", 400.0), ("x", "page centre", 200.0),
        ("y", "page edge", 600.0), ("y", "page centre", 300.0),
        ("x", "margin", left), ("x", "margin", right), ("y", "margin", 40), ("y", "margin", 550),
        ("x", "centre of margins", (left + right) / 2), ("y", "centre of margins", 295.0),
        ("x", "column 1", round(left + step - 12, 3)), ("x", "column 2", round(left + step, 3)),
        ("x", "column 2", round(left + 2 * step - 12, 3)),
        ("x", "column 3", round(left + 2 * step, 3)),
        ("x", "guide", 100.0 if side == "recto" else 300.0), ("y", "guide", 333.0),
        ("x", "bleed", -9.0), ("y", "bleed", 609.0), ("y", "baseline grid", 62.0),
    }  # fmt: skip
    assert expected <= found


@pytest.mark.parametrize(
    ("name", "word"),
    [("page", "page"), ("margins", "margin"), ("columns", "column"), ("guides", "guide"),
     ("bleed", "bleed"), ("grid", "grid")],
)  # fmt: skip
def test_what_is_not_chosen_is_not_snapped_to(name, word):
    chosen = SnapTo(grid=True)._replace(**{name: False})
    words = [t.word for t in page_targets(0.0, "recto", SETUP, LAYOUT, chosen)]
    assert words and not any(w.startswith(word) or w.endswith(word) for w in words)


def test_a_turned_off_axis_is_left_alone():
    targets = [
        SnapTarget("x", 10.0, "margin", 0, 100, 10.0),
        SnapTarget("y", 10.0, "margin", 0, 100, 10.0),
    ]
    found = snapped(Bounds(11, 11, 31, 31), targets, (), 4.0, ((), (11.0,)))
    assert (found.dx, found.dy) == (0.0, -1.0)
