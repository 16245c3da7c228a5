"""Families copied, carried and reordered; faces split and joined; pages made masters.

Wherever something changes its owner, the measure is the composed scene: nothing that is
seen may move by a hair.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.cascade import master_items
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.departures import departures, in_words
from hidden_frame.edit.carry.masters import masters_copied, masters_pasted
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import (
    add_master,
    apply_masters,
    delete_master,
    possible_bases,
    set_base,
    set_page_layout,
    set_section_masters,
)
from hidden_frame.edit.masters.faces import join_faces, set_face, split_faces
from hidden_frame.edit.masters.family import copy_master, move_master, set_ribbon
from hidden_frame.edit.masters.overrides import follow_items, follow_on_pages, hide_here, override
from hidden_frame.edit.masters.promote import (
    master_of_page,
    new_master_for,
    page_stack_names,
    to_master,
)
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.order import set_guides
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Guide, Margins
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import Line, Override, Shape, TextFrame
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import all_pages, find_master, find_page, stack_of
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.model.trims import TRIMS


def family():
    """Base ← Text ← Interview, with a departure on each level; 8 facing A5 pages."""
    publication = new_publication("P", Setup(trim=TRIMS["A5"], bleed=9.0), 8)
    base = publication.masters[0].id
    foot = TextFrame(
        id="", name="Foot", x=40, y=560, width=120, height=16, rotation=3.0,
        text=(Paragraph("folio", (Marker("folio"), Run(" · foot"))),),
    )  # fmt: skip
    publication, foot_id = add_item(publication, base, foot)
    rule = Line(id="", name="Rule", x=40, y=550, width=300, height=0)
    publication, rule_id = add_item(publication, base, rule)
    publication, text = add_master(publication, "Text", base)
    publication = hide_here(publication, text, rule_id)
    publication, _ = add_item(
        publication, text, Shape(id="", name="Tab", x=390, y=80, width=30, height=60)
    )
    publication, interview = add_master(publication, "Interview", text)
    publication = override(publication, interview, foot_id, y=500.0, fill=Fill("ochre"))
    return publication, (base, text, interview), (foot_id, rule_id)


def seen(publication, page_id=None):
    """What is drawn on a page (or on all), as places and drawings without ids."""
    composition = Composer().compose(publication)
    pages = [page_id] if page_id else [p.id for p in all_pages(publication)]
    return [
        [(tuple(np.round(p.matrix, 6)), p.drawing.width, p.drawing.height,
          [_plain(q) for q in p.drawing.primitives]) for p in composition.scene(i).placed]
        for i in pages
    ]  # fmt: skip


def _plain(primitive):
    text = getattr(primitive, "text", None)
    if text is None:
        return tuple(primitive)
    return [(line.text, round(line.baseline, 6), round(line.left, 6)) for line in text.lines]


# -- copies ------------------------------------------------------------------------


@pytest.mark.parametrize("how", ["on the same base", "all as its own"])
def test_a_copy_of_a_master_looks_the_same(how):
    publication, (_, _, interview), _ = family()
    page = all_pages(publication)[2].id
    on_it = apply_masters(publication, [page], (interview,))
    copied, copy = copy_master(publication, interview, how)
    on_copy = apply_masters(copied, [page], (copy,))
    assert problems(on_copy) == []
    assert seen(on_it, page) == seen(on_copy, page)
    assert (find_master(copied, copy).base is None) == (how == "all as its own")


def test_a_copy_without_its_base_has_the_own_items_alone():
    publication, (_, text, _), _ = family()
    copied, copy = copy_master(publication, text, "without the base")
    assert [r.item.name for r in master_items(copied, copy)] == ["Tab"]
    assert find_master(copied, copy).name == "Text 2"


def test_a_copy_all_its_own_does_not_follow_the_base_any_more():
    publication, (base, _, interview), (foot, _) = family()
    copied, copy = copy_master(publication, interview, "all as its own")
    before = master_items(copied, copy)
    changed = override(copied, interview, foot, opacity=0.5)
    changed = add_item(changed, base, Line(id="", x=0, y=0, width=9, height=0))[0]
    assert [r.item for r in master_items(changed, copy)] == [r.item for r in before]


def test_layout_of_a_flat_copy_is_what_the_chain_said():
    publication, (base, text, interview), _ = family()
    publication = set_page_layout(
        publication, base, margins=Margins(top=50), columns=None, guides=(Guide("vertical", 9.0),)
    )
    publication = set_page_layout(
        publication, text, margins=None, columns=Columns(3, 6.0), guides=None
    )
    copied, copy = copy_master(publication, interview, "all as its own")
    assert master_layout(copied, copy) == master_layout(publication, interview)


# -- order and bases ---------------------------------------------------------------


@given(st.permutations([0, 1, 2]), st.integers(0, 2), st.none() | st.integers(0, 2))
def test_the_order_of_the_list_is_the_users_and_changes_nothing_else(_, moved, before):
    publication, masters, _ = family()
    target = None if before is None else masters[before]
    new = move_master(publication, masters[moved], target)
    order = [m for m in masters if m != masters[moved]]
    at = order.index(target) if target in order else len(order)
    order.insert(at, masters[moved])
    assert [m.id for m in new.masters] == order
    assert seen(new) == seen(publication)


def test_a_chain_that_would_loop_is_not_offered_and_refused_by_name():
    publication, (base, text, interview), _ = family()
    assert [m.id for m in possible_bases(publication, base)] == []
    assert [m.id for m in possible_bases(publication, text)] == [base]
    with pytest.raises(Refusal, match=r"Base → Interview → Text → Base"):
        set_base(publication, base, interview)


def test_a_ribbon_that_does_not_exist_is_refused():
    publication, (base, _, _), _ = family()
    assert find_master(set_ribbon(publication, base, 7), base).ribbon == 7
    with pytest.raises(Refusal, match="from 1 to 12"):
        set_ribbon(publication, base, 12)


def test_one_change_of_the_base_reaches_every_page_that_follows_through_others():
    publication, (_, _, interview), (foot, _) = family()
    pages = [p.id for p in all_pages(publication)]
    publication = apply_masters(publication, pages[4:], (interview,))
    base = publication.masters[0]
    items = tuple(replace(i, opacity=0.25) if i.id == foot else i for i in base.items)
    changed = replace(publication, masters=(replace(base, items=items), *publication.masters[1:]))
    composition = Composer().compose(changed)
    for page in pages:
        found = next(p for p in composition.scene(page).placed if p.item_id == foot)
        assert found.drawing.text.alpha == 0.25


# -- from one publication to another ---------------------------------------------------


def test_masters_come_with_their_bases_and_look_the_same(demo):
    source, _ = demo
    opener = next(m for m in source.masters if m.name == "Season opener")
    target = new_publication("Other", source.setup, 4)
    target, ids = masters_pasted(target, masters_copied(source, [opener.id]))
    assert problems(target) == []
    assert [m.name for m in target.masters] == ["Base", "Almanac base", "Season opener"]
    page, there = all_pages(target)[2].id, all_pages(source)[6].id
    target = apply_masters(target, [page], (ids[opener.id],))
    plain = replace(source, sections=tuple(
        replace(s, pages=tuple(replace(p, items=(), overrides=()) for p in s.pages))
        for s in source.sections))  # fmt: skip
    places = [p.matrix for p in Composer().compose(plain).scene(there).placed]
    assert [p.matrix for p in Composer().compose(target).scene(page).placed] == places
    assert {p.name for p in target.pictures} >= {"night-sky.jpg", "logo.svg"}
    assert "Edition year" in [d.name for d in target.details]


def test_brought_in_again_equal_masters_are_the_same_ones(demo):
    source, _ = demo
    parcel = masters_copied(source, [m.id for m in source.masters])
    once, ids = masters_pasted(new_publication("Other", source.setup, 4), parcel)
    twice, again = masters_pasted(once, parcel)
    assert again == ids
    assert twice.masters == once.masters and twice.layers == once.layers


def test_a_master_that_only_shares_its_name_gets_another():
    publication, (_, text, _), _ = family()
    other, _, _ = family()
    other = add_item(other, text, Line(id="", x=1, y=1, width=5, height=0))[0]
    joined, ids = masters_pasted(other, masters_copied(publication, [text]))
    assert find_master(joined, ids[text]).name == "Text 2"
    assert find_master(joined, ids[text]).base == find_master(joined, text).base  # equal: reused


# -- faces -----------------------------------------------------------------------------

placings = st.tuples(st.sampled_from(["both"]), st.sampled_from(["mirrored", "repeated"]))


@given(placings, st.floats(0, 300), st.floats(-90, 90), st.booleans())
def test_splitting_a_face_moves_nothing_and_joining_brings_it_back(stands, x, turn, departs):
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 4)
    base = publication.masters[0].id
    item = Shape(id="", x=x, y=30, width=50, height=20, rotation=turn,
                 face=stands[0], placing=stands[1])  # fmt: skip
    publication, item_id = add_item(publication, base, item)
    if departs:
        for page in all_pages(publication)[:3]:
            publication = override(publication, page.id, item_id, y=99.0)
    split, verso = split_faces(publication, base, item_id)
    assert problems(split) == []
    assert seen(split) == seen(publication)
    joined = join_faces(split, base, verso, item_id)
    assert seen(joined) == seen(publication)
    assert len(find_master(joined, base).items) == 1


def test_what_can_not_be_split_or_joined_is_said():
    publication, (base, text, _), (foot, rule) = family()
    with pytest.raises(Refusal, match="go to the one that carries it"):
        split_faces(publication, text, foot)
    split, _ = split_faces(publication, base, foot)
    with pytest.raises(Refusal, match="recto face only"):
        split_faces(split, base, foot)
    with pytest.raises(Refusal, match="one on the recto"):
        join_faces(publication, base, foot, rule)
    lines = set_face(split, base, rule, "verso", "mirrored")
    with pytest.raises(Refusal, match="two kinds"):
        join_faces(lines, base, foot, rule)


@given(st.sampled_from(["verso", "recto"]), st.sampled_from(["mirrored", "repeated"]))
def test_a_face_setting_changed_and_changed_back_loses_nothing(side, placing):
    publication, (base, _, _), (foot, _) = family()
    other = set_face(publication, base, foot, "both", placing, side)
    only = set_face(other, base, foot, side, placing, side)
    back = set_face(only, base, foot, "both", "mirrored", side)
    assert seen(back) == seen(publication)


def test_from_facing_to_single_and_back_nothing_is_lost(demo):
    publication, _ = demo
    single = change_setup(publication, facing=False)
    assert {f.side for f in Composer().compose(single).facts.values()} == {"recto"}
    assert change_setup(single, facing=True) == publication


def test_another_opening_side_re_faces_every_page_at_once():
    publication, _, _ = family()
    turned = change_setup(publication, opening="verso")
    places = [page[0][0] for page in seen(publication)]
    other = [page[0][0] for page in seen(turned)]
    assert other == [places[1], places[0]] * 4
    with pytest.raises(Refusal, match="no room"):
        change_setup(publication, margins=Margins(inside=300, outside=300))


# -- pages and masters -----------------------------------------------------------------

locals_ = st.lists(
    st.builds(
        lambda x, y, r, layer: Shape(
            id="", x=x, y=y, width=40, height=25, rotation=r, layer=layer, fill=Fill("ochre")
        ),
        st.floats(0, 350), st.floats(0, 500), st.floats(-180, 180),
        st.sampled_from(["ground", "content", "above"]),
    ),
    min_size=1, max_size=4,
)  # fmt: skip


@given(locals_, st.integers(1, 2), st.sampled_from([(), (0,), (2,), (1, 2)]), st.booleans())
def test_a_page_made_a_master_moves_nothing(items, position, stack, departs):
    """On a verso and on a recto, whatever it follows."""
    publication, masters, (foot, _) = family()
    page = all_pages(publication)[position].id
    publication = apply_masters(publication, [page], tuple(masters[n] for n in stack))
    if departs:
        publication = override(publication, page, foot, x=77.0)
    for item in items:
        publication, _ = add_item(publication, page, item)
    publication = set_guides(publication, page, (Guide("horizontal", 123.0),))
    side = "verso" if position == 1 else "recto"
    layout = page_layout(publication, find_page(publication, page))
    new, master = master_of_page(publication, page, side, "Made")
    assert problems(new) == []
    assert seen(new, page) == seen(publication, page)
    assert page_layout(new, find_page(new, page)) == layout
    held = find_page(new, page)
    assert held.items == () and held.guides == ()
    assert held.masters[-1] == master and len(held.masters) == max(len(stack), 1)


def test_a_page_with_nothing_of_its_own_is_not_made_a_master():
    publication, _, _ = family()
    with pytest.raises(Refusal, match="nothing of its own"):
        master_of_page(publication, all_pages(publication)[0].id, "recto", "Made")


@pytest.mark.parametrize("side", ["verso", "recto"])
@pytest.mark.parametrize("keep", [False, True])
def test_items_go_to_a_master_at_the_same_spot(side, keep):
    publication, (base, _, _), _ = family()
    page = all_pages(publication)[1 if side == "verso" else 2].id
    other = all_pages(publication)[2 if side == "verso" else 1].id
    item = Shape(id="", x=33, y=44, width=55, height=6, rotation=20)
    publication, item_id = add_item(publication, page, item)
    before = seen(publication, page)[0][-1][0]
    new, (there,) = to_master(publication, page, [item_id], base, side, keep=keep)
    assert (there == item_id) != keep
    placed = Composer().compose(new).scene(page).placed
    assert [tuple(np.round(p.matrix, 6)) for p in placed if p.item_id == there] == [before]
    assert any(p.item_id == there for p in Composer().compose(new).scene(other).placed)
    assert len(find_page(new, page).items) == keep
    with pytest.raises(Refusal, match="page itself"):
        to_master(new, page, ["item-0"], base, side)


def test_a_new_master_for_these_pages_takes_the_place_of_its_base_in_their_stacks():
    publication, (base, text, _), _ = family()
    pages = [p.id for p in all_pages(publication)]
    publication = apply_masters(publication, pages[2:3], (text, base))
    new, master = new_master_for(publication, pages[:3], "Made")
    assert find_master(new, master).base == base
    assert [p.masters for p in all_pages(new)[:4]] == [(master,), (master,), (text, master), None]
    assert seen(new) == seen(publication)


def test_a_new_master_for_a_section_is_followed_by_its_automatic_pages():
    publication, (base, text, _), _ = family()
    pages = [p.id for p in all_pages(publication)]
    publication, section = start_section(publication, pages[3], "Spring")
    publication = set_section_masters(publication, section, (text,))
    publication = apply_masters(publication, pages[5:6], (base,))
    publication = apply_masters(publication, pages[6:7], (text, base))
    new, master = new_master_for(publication, [pages[4]], "Spring", "this section")
    assert find_master(new, master).base == text
    stacks = [stack_of(new, p) for p in all_pages(new)]
    assert stacks == [(base,)] * 3 + [(master,)] * 2 + [(base,), (master, base), (master,)]
    assert page_stack_names(new, pages[4])[0] == (master, "Spring")
    assert seen(new) == seen(publication)


# -- departures --------------------------------------------------------------------------


def test_all_overrides_are_listed_with_what_they_change_and_why_they_sleep():
    publication, (base, text, interview), (foot, rule) = family()
    pages = [p.id for p in all_pages(publication)]
    publication = override(publication, pages[1], foot, x=1.0, y=2.0, fill=None)
    publication = override(publication, pages[2], rule, visible=False)
    publication = apply_masters(publication, [pages[2]], ())
    publication = set_face(publication, base, foot, "recto", "mirrored")
    found = departures(publication)
    assert [d.holder_id for d in found] == [text, interview, pages[1], pages[2]]
    assert found[1].sentence == "Master “Interview” overrides place and fill of “Foot”, from “Base”"
    assert in_words(found[2].names) == "place and fill"
    assert "is a verso and “Foot” is on the other face" in found[2].asleep
    assert "doesn’t follow “Base” now" in found[3].asleep
    back = follow_items(publication, text, [rule])
    assert [d.holder_id for d in departures(back)] == [interview, pages[1], pages[2]]
    assert len(departures(follow_on_pages(publication, pages))) == 2


def test_an_override_whose_item_is_gone_is_kept_and_told(small):
    page = all_pages(small)[0]
    sections = list(small.sections)
    held = replace(page, overrides=(Override(item="item-77", x=4.0),))
    sections[0] = replace(sections[0], pages=(held, *sections[0].pages[1:]))
    publication = check(replace(small, sections=tuple(sections)))
    (only,) = departures(publication)
    assert "no longer on any master" in only.sentence
    assert seen(publication) == seen(small)


def test_a_deleted_master_wakes_nothing_and_undo_is_the_old_value():
    publication, (base, text, interview), _ = family()
    page = all_pages(publication)[0].id
    publication = apply_masters(publication, [page], (interview,))
    without = delete_master(publication, text, base)
    assert find_master(without, interview).base == base
    assert problems(without) == []
