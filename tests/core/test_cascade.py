"""base → derived → page against a naive last-writer-wins merge; mirroring against matrices."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.placing import on_side, to_recto
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.masters.overrides import follow, make_local, override
from hidden_frame.edit.new import new_publication
from hidden_frame.interact.hands.shown import change_shown, items_on, shown_item
from hidden_frame.model.items import (
    Around,
    Crop,
    Insets,
    Line,
    PictureFrame,
    Shape,
    TextFrame,
    overridable,
)
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.plane.matrix import placement
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS

WIDTH = TRIMS["A5"].width
lengths = st.floats(-500, 500)
boxes = st.builds(
    lambda x, y, w, h, r: Shape(id="i", x=x, y=y, width=w, height=h, rotation=r),
    lengths, lengths, st.floats(0, 400), st.floats(0, 400), st.floats(-360, 360),
)  # fmt: skip


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


common = {
    "x": lengths, "y": lengths, "width": st.floats(0, 400), "height": st.floats(0, 400),
    "rotation": st.floats(-360, 360), "opacity": st.floats(0, 1), "visible": st.booleans(),
    "layer": st.sampled_from(["ground", "content", "above"]),
    "fill": st.sampled_from([None, Fill("ochre"), Fill("ink", 0.5)]),
    "stroke": st.sampled_from([None, Stroke(colour="ink"), Stroke(colour="ochre", dash=(2, 1))]),
    "blend": st.sampled_from(["normal", "multiply"]),
    "around": st.sampled_from([None, Around(), Around("shape", 3.0)]),
}  # fmt: skip
of_kind = {
    TextFrame: {
        "text": st.sampled_from([(), (Paragraph("body", (Run("a"), Marker("folio"))),)]),
        "inset": st.sampled_from([0.0, 4.0, Insets(top=3.0, left=1.0)]),
        "vertical": st.sampled_from(["top", "middle", "bottom"]), "grows": st.booleans(),
        "snug": st.booleans(), "columns": st.integers(1, 4), "gutter": st.floats(0, 30),
        "radius": st.floats(0, 20), "yields": st.booleans(), "main": st.integers(0, 3),
        "text_style": st.sampled_from([None, "heading"]),
        "text_colour": st.sampled_from([None, "ochre"]),
        "text_size": st.sampled_from([None, 7.0]), "on_dark": st.sampled_from([None, "paper"]),
    },
    PictureFrame: {
        "picture": st.none(), "radius": st.floats(0, 20),
        "fit": st.sampled_from(["fit", "fill", "actual", "free", "stretch"]),
        "crop": st.sampled_from([None, Crop(1.0, 2.0, 0.5)]), "picture_on_dark": st.none(),
        "flip": st.sampled_from(["no", "across", "both"]),
    },
    Shape: {
        "form": st.sampled_from(["rectangle", "ellipse", "rounded"]), "radius": st.floats(0, 20)
    },
    Line: {},
}  # fmt: skip


def test_the_oracle_knows_every_property_that_items_have():
    for kind, own in of_kind.items():
        assert set(overridable(kind)) == set(common) | set(own)


@given(st.data(), st.integers(1, 8), st.integers(1, 4))
def test_the_cascade_against_a_naive_merge(data, depth, stacked):
    """Chains up to 8 deep, stacks up to 4, every property of every kind of item; masters of
    a stack may share a base, which counts once.  The oracle keeps plain dicts, and the last
    writer wins."""
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 2)
    page = all_pages(publication)[0].id

    def draw_change(kind):
        return data.draw(st.fixed_dictionaries({}, optional=common | of_kind[kind]))

    # What each master adds and changes, and what it builds on.
    made: dict[str, tuple[str | None, dict[str, dict], tuple[str, type, dict]]] = {}

    def chain(master):
        return [] if master is None else [*chain(made[master][0]), master]

    stack: list[str] = []
    for _ in range(stacked):
        base = data.draw(st.sampled_from([None, *made])) if made else None
        for _ in range(depth if not stack else data.draw(st.integers(1, 2))):
            publication, master = add_master(publication, "M", base)
            departs = {}
            for item_id, kind, _ in (made[m][2] for m in chain(base)):
                if change := draw_change(kind):
                    publication = override(publication, master, item_id, **change)
                    departs[item_id] = change
            kind = data.draw(st.sampled_from(list(of_kind)))
            item = kind(id="", x=1.0, y=2.0, width=3.0, height=4.0)
            publication, item_id = add_item(publication, master, item)
            own = (item_id, kind, {n: getattr(item, n) for n in overridable(kind)})
            made[master], base = (base, departs, own), master
        stack.append(base)
    publication = apply_masters(publication, [page], tuple(dict.fromkeys(stack)))
    shown: list[tuple[str, type, dict]] = []
    for master in dict.fromkeys(m for top in stack for m in chain(top)):
        for item_id, _, seen in shown:
            seen.update(made[master][1].get(item_id, {}))
        item_id, kind, values = made[master][2]
        shown.append((item_id, kind, dict(values)))
    for item_id, kind, seen in shown:
        if change := draw_change(kind):
            publication = override(publication, page, item_id, **change)
            seen.update(change)
    order = ["ground", "content", "above"]
    shown.sort(key=lambda each: order.index(each[2]["layer"]))  # stable: R5
    found = items_on(publication, page, "recto")
    assert [
        (r.item.id, type(r.item), {n: getattr(r.item, n) for n in overridable(type(r.item))})
        for r in found
    ] == shown


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
