"""base → derived → page against a naive last-writer-wins merge; mirroring against matrices."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.placing import on_side, to_recto
from hidden_frame.compose.shown import change_shown, items_on, shown_item
from hidden_frame.compose.transform import placement
from hidden_frame.edit.items import add_item
from hidden_frame.edit.masters import add_master, apply_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.overrides import follow, make_local, override
from hidden_frame.model.items import Shape
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS

WIDTH = TRIMS["A5"].width
lengths = st.floats(-500, 500)
boxes = st.builds(
    lambda x, y, w, h, r: Shape(id="i", x=x, y=y, width=w, height=h, rotation=r),
    lengths, lengths, st.floats(0, 400), st.floats(0, 400), st.floats(-360, 360),
)  # fmt: skip
changes = st.fixed_dictionaries(
    {},
    optional={
        "x": lengths,
        "opacity": st.floats(0, 1),
        "visible": st.booleans(),
        "fill": st.sampled_from([None, Fill("ochre"), Fill("ink", 0.5)]),
        "layer": st.sampled_from(["ground", "content", "above"]),
    },
)


@given(boxes)
def test_mirroring_against_matrix_algebra(item):
    # R3: a mirror at the spine maps x to W − x.  The item itself is not mirrored, so its own
    # x axis is flipped back: M · P · F, with P its placement and F a flip within its box.
    mirror = np.array([[-1, 0, WIDTH], [0, 1, 0], [0, 0, 1]])
    flip = np.array([[-1, 0, item.width], [0, 1, 0], [0, 0, 1]])
    other = on_side(item, "verso", WIDTH)
    expected = mirror @ _matrix(item) @ flip
    assert np.allclose(_matrix(other), expected, atol=1e-6)
    assert on_side(other, "verso", WIDTH).x == pytest.approx(item.x)


def _matrix(item):
    m = placement(item.x, item.y, item.width, item.height, item.rotation)
    return np.array([[m.a, m.c, m.e], [m.b, m.d, m.f], [0, 0, 1]])


@given(boxes, st.fixed_dictionaries({}, optional={"x": lengths, "width": st.floats(0, 99)}))
def test_a_change_seen_on_a_verso_comes_back_as_it_was_meant(item, change):
    shown = replace(on_side(item, "verso", WIDTH), **change)
    stored = replace(item, **to_recto(item, "verso", WIDTH, change))
    again = on_side(stored, "verso", WIDTH)
    assert (again.x, again.width) == pytest.approx((shown.x, shown.width), abs=1e-6)


@given(st.data(), st.integers(1, 8), st.integers(1, 4))
def test_the_cascade_against_a_naive_merge(data, depth, stacked):
    """Chains up to 8 deep, stacks up to 4: every property of every item."""
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 2)
    page = all_pages(publication)[0].id
    expected: list[dict] = []
    stack = []
    for _ in range(stacked):
        base = None
        family: list[dict] = []
        for _ in range(depth if not stack else 2):
            publication, master = add_master(publication, "M", base)
            for seen in family:
                change = data.draw(changes)
                if change:
                    publication = override(publication, master, seen["id"], **change)
                    seen.update(change)
            item = data.draw(boxes)
            publication, item_id = add_item(publication, master, item)
            values = {"x": item.x, "opacity": 1.0, "visible": True, "fill": None}
            family.append({"id": item_id, "layer": "content", **values})
            base = master
        stack.append(base)
        expected += family
    publication = apply_masters(publication, [page], tuple(stack))
    for seen in expected:
        change = data.draw(changes)
        if change:
            publication = override(publication, page, seen["id"], **change)
            seen.update(change)
    order = ["ground", "content", "above"]
    expected.sort(key=lambda seen: order.index(seen["layer"]))  # stable: R5
    found = items_on(publication, page, "recto")
    shown = [{name: getattr(r.item, name) for name in expected[0]} for r in found]
    assert shown == expected


def with_item(publication):
    master = publication.masters[0].id
    item = Shape(id="", x=30, y=40, width=50, height=20, fill=Fill("ink"))
    publication, item_id = add_item(publication, master, item)
    return publication, master, item_id


def test_one_property_is_overridden_and_all_others_follow(small):
    publication, master, item = with_item(small)
    page = all_pages(publication)[2].id  # a recto
    publication = override(publication, page, item, fill=Fill("ochre"))
    moved = change_shown(publication, master, "recto", {item: {"y": 99.0, "fill": Fill("slate")}})
    shown = shown_item(moved, page, item, "recto")
    assert (shown.y, shown.fill) == (99.0, Fill("ochre"))
    back = follow(moved, page, item, "fill")
    assert shown_item(back, page, item, "recto").fill == Fill("slate")
    assert all_pages(back)[2].overrides == ()


def test_an_override_sleeps_while_its_master_is_away(small):
    publication, master, item = with_item(small)
    page = all_pages(publication)[0].id
    publication = override(publication, page, item, x=5.0)
    away = apply_masters(publication, [page], ())
    assert items_on(away, page, "recto") == ()
    again = apply_masters(away, [page], (master,))
    assert shown_item(again, page, item, "recto").x == 5.0


def test_a_verso_shows_the_override_at_the_same_distance_from_the_spine(small):
    publication, _, item = with_item(small)
    verso = all_pages(publication)[1].id
    publication = change_shown(publication, verso, "verso", {item: {"x": 12.0}})
    assert shown_item(publication, verso, item, "verso").x == pytest.approx(12.0)
    single = replace(publication, setup=replace(publication.setup, facing=False))
    assert shown_item(single, verso, item, "recto").x == pytest.approx(WIDTH - 12.0 - 50)


def test_made_local_it_stays_where_it_was_and_the_original_hides(small):
    publication, _, item = with_item(small)
    verso = all_pages(publication)[1].id
    before = shown_item(publication, verso, item, "verso")
    publication, local = make_local(publication, verso, item, before)
    after = shown_item(publication, verso, local, "verso")
    assert (after.x, after.y, after.fill) == (before.x, before.y, before.fill)
    assert not shown_item(publication, verso, item, "verso").visible
