"""Colours replaced everywhere, layers and guides changed, groups, order in the stack."""

from __future__ import annotations

import io

import pypdf
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import (
    add_item,
    group_items,
    move_in_stack,
    rehome_items,
    reorder_items,
    repeat_items,
    ungroup_items,
)
from hidden_frame.edit.items.guides import (
    add_guide,
    lock_guide,
    lock_guides,
    move_guide,
    own_guides,
    remove_guide,
    remove_guides,
)
from hidden_frame.edit.looks.colours import (
    add_colour,
    change_colour,
    delete_colour,
    find_colour,
    in_cmyk,
    in_rgb,
    mixed,
    uses,
)
from hidden_frame.edit.looks.layers import change_layer
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.masters.overrides import override
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.paint import Colour, Fill, Stroke
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes

shares = st.floats(0, 1)
rgbs = st.tuples(shares, shares, shares)


def painted(small):
    """Moss used by a fill, a stroke, an override, a style and a single look."""
    small, moss = add_colour(small, "Moss", "rgb", (0.3, 0.4, 0.2))
    page, master = all_pages(small)[2].id, small.masters[0].id
    text = (Paragraph("body", (Run("green", look=Look(colour=moss)),)),)
    shape = Shape(id="", x=0, y=0, width=9, height=9, fill=Fill(moss, 0.5))
    small, item = add_item(small, master, replace(shape, stroke=Stroke(colour=moss)))
    small, _ = add_item(small, page, TextFrame(id="", x=0, y=0, width=99, height=20, text=text))
    small = override(small, page, item, fill=Fill(moss, opacity=0.3))
    styles = (replace(small.paragraph_styles[0], colour=moss), *small.paragraph_styles[1:])
    return replace(small, paragraph_styles=styles), moss


def test_a_deleted_colour_is_named_nowhere_any_more(small):
    publication, moss = painted(small)
    assert uses(publication, moss) == 4  # style, master's item, override, text
    after = delete_colour(publication, moss, "slate")
    assert problems(after) == [] and moss.encode() not in to_bytes(after, {})
    item = after.masters[0].items[0]
    assert item.fill == Fill("slate", 0.5) and item.stroke.colour == "slate"
    assert find_page(after, all_pages(after)[2].id).overrides[0].fill.opacity == 0.3
    with pytest.raises(Refusal, match="another"):
        delete_colour(publication, moss, moss)


def test_a_colour_is_changed_once_and_everywhere(small):
    publication, moss = painted(small)
    before = find_colour(publication, moss)
    after = change_colour(publication, replace(before, name="  Deep   moss ", values=(0, 0.2, 0)))
    assert find_colour(after, moss).name == "Deep moss"
    page = all_pages(after)[2].id
    inks = {
        p.ink
        for placed in Composer().compose(after).scene(page).placed
        for p in placed.drawing.primitives
        if getattr(p, "ink", None) is not None
    }
    assert (0, 0.2, 0) in inks
    for wrong in (replace(before, name=" "), replace(before, name="Ink")):
        with pytest.raises(Refusal):
            change_colour(publication, wrong)
    with pytest.raises(Refusal, match="shares"):
        change_colour(publication, replace(before, values=(2.0, 0.0, 0.0)))


@given(rgbs)
def test_cmyk_and_back_is_the_same_colour(values):
    rgb = Colour(id="a", name="A", values=values)
    cmyk = Colour(id="b", name="B", space="cmyk", values=in_cmyk(rgb))
    assert in_rgb(cmyk) == pytest.approx(values, abs=1e-9)


@given(rgbs, rgbs, shares)
def test_a_mix_lies_between_its_parts(one, other, share):
    space, values = mixed(Colour(id="a", name="A", values=one),
                          Colour(id="b", name="B", values=other), share)  # fmt: skip
    assert space == "rgb"
    for a, b, v in zip(one, other, values, strict=True):
        assert min(a, b) - 1e-9 <= v <= max(a, b) + 1e-9
        assert v == pytest.approx(a * (1 - share) + b * share)


def test_a_mix_of_inks_is_cmyk_and_of_unlike_kinds_rgb():
    cmyk = Colour(id="a", name="A", space="cmyk", values=(1.0, 0.0, 0.0, 0.0))
    spot = Colour(id="b", name="B", space="spot", values=(0.0, 1.0, 0.0, 0.0))
    rgb = Colour(id="c", name="C", values=(1.0, 1.0, 1.0))
    assert mixed(cmyk, spot, 0.5) == ("cmyk", (0.5, 0.5, 0.0, 0.0))
    assert mixed(cmyk, rgb, 0.5) == ("rgb", (0.5, 1.0, 1.0))


def test_a_spot_colour_is_an_ink_of_its_own_in_the_pdf(small):
    """ISO 32000-1, 8.6.6.4: a Separation space named by its colorant."""
    small, copper = add_colour(small, "Copper", "spot", (0.0, 0.6, 0.8, 0.1))
    page = all_pages(small)[0].id
    shape = Shape(id="", x=10, y=10, width=90, height=90, fill=Fill(copper, tint=0.5))
    small, _ = add_item(small, page, shape)
    data = pdf_bytes(Composer().compose(small), {}, [page])
    reader = pypdf.PdfReader(io.BytesIO(data))
    spaces = reader.pages[0]["/Resources"]["/ColorSpace"]
    (space,) = [s.get_object() for s in spaces.values()]
    assert space[0] == "/Separation" and space[1] == "/Copper"
    assert b"0.5 scn" in reader.pages[0].get_contents().get_data()


def test_layers_are_locked_hidden_and_named(small):
    locked = change_layer(small, "content", locked=True, name="  Type ")
    layer = next(x for x in locked.layers if x.id == "content")
    assert layer.locked and layer.name == "Type"
    assert change_layer(small, "content", visible=True) is small
    for name in ("", "Above"):
        with pytest.raises(Refusal, match="layer"):
            change_layer(small, "content", name=name)


@given(st.lists(st.tuples(st.sampled_from(["add", "move", "lock", "remove"]),
                          st.integers(0, 9), st.floats(-200, 900)), max_size=20))  # fmt: skip
def test_guides_against_a_plain_list(steps):
    from hidden_frame.edit.new import new_publication
    from hidden_frame.model.publication import Setup
    from hidden_frame.model.trims import TRIMS

    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 2)
    page = all_pages(publication)[0].id
    plain: list[list] = []
    for what, n, at in steps:
        n = n % (len(plain) + 1)
        if what == "add":
            publication = add_guide(publication, page, Guide("vertical", at))
            plain.append([at, False])
        elif n >= len(plain):
            with pytest.raises(Refusal):
                remove_guide(publication, page, n)
        elif what == "move" and plain[n][1]:
            with pytest.raises(Refusal, match="locked"):
                move_guide(publication, page, n, at)
        elif what == "move":
            publication, plain[n][0] = move_guide(publication, page, n, at), at
        elif what == "lock":
            plain[n][1] = not plain[n][1]
            publication = lock_guide(publication, page, n, plain[n][1])
        else:
            publication = remove_guide(publication, page, n)
            del plain[n]
    assert [[g.position, g.locked] for g in own_guides(publication, page)] == plain
    assert all(g.locked for g in own_guides(lock_guides(publication, page, True), page))
    assert own_guides(remove_guides(publication, page), page) == ()


def test_a_derived_master_takes_over_its_bases_guides_when_it_gets_its_own(small):
    base = small.masters[0].id
    small = add_guide(small, base, Guide("horizontal", 50.0))
    small, derived = add_master(small, "Derived", base)
    assert own_guides(small, derived) == (Guide("horizontal", 50.0),)
    changed = add_guide(small, derived, Guide("horizontal", 80.0))
    assert [g.position for g in own_guides(changed, derived)] == [50.0, 80.0]
    assert [g.position for g in own_guides(changed, base)] == [50.0]
    with pytest.raises(Refusal, match="no page"):
        add_guide(small, base, Guide("vertical", 1e9))


def shapes(small, count=4):
    page, ids = all_pages(small)[2].id, []
    for n in range(count):
        small, made = add_item(small, page, Shape(id="", x=n * 20.0, y=0, width=9, height=9))
        ids.append(made)
    return small, page, ids


@given(st.sets(st.integers(0, 4), min_size=1), st.sampled_from(["front", "back", "forward",
                                                                "backward"]))  # fmt: skip
def test_restacking_against_a_plain_list(chosen, to):
    from hidden_frame.edit.new import new_publication
    from hidden_frame.model.publication import Setup
    from hidden_frame.model.trims import TRIMS

    publication, page, ids = shapes(new_publication("P", Setup(trim=TRIMS["A5"]), 4), 5)
    picked = [ids[n] for n in sorted(chosen)]
    rest = [i for i in ids if i not in picked]
    plain = list(ids)
    if to == "front":
        plain = rest + picked
    elif to == "back":
        plain = picked + rest
    else:
        walk = list(enumerate(plain)) if to == "backward" else list(enumerate(plain))[::-1]
        step = -1 if to == "backward" else 1
        for n, item in walk:
            k = n + step
            if item in picked and 0 <= k < len(plain) and plain[k] not in picked:
                plain[n], plain[k] = plain[k], plain[n]
    after = reorder_items(publication, page, picked, to)
    assert [i.id for i in find_page(after, page).items] == plain


def test_groups_and_copies_of_them(small):
    small, page, ids = shapes(small)
    grouped = group_items(small, page, ids[:2])
    items = {i.id: i for i in find_page(grouped, page).items}
    assert items[ids[0]].group == items[ids[1]].group != items[ids[2]].group
    copies, made = repeat_items(grouped, page, ids[:2], 3, 0.0, 24.0)
    groups = [i.group for i in find_page(copies, page).items if i.id in made]
    assert len(made) == 6 and len(set(groups)) == 3
    assert [i.y for i in find_page(copies, page).items if i.id in made] == [24, 24, 48, 48, 72, 72]
    free = ungroup_items(grouped, page, ids[:1])
    assert all(i.group is None for i in find_page(free, page).items)
    for count in (0, 5000):
        with pytest.raises(Refusal, match="copies"):
            repeat_items(small, page, ids, count, 1.0, 1.0)


def test_an_item_moved_in_the_stack_and_to_the_facing_page(small):
    small, page, ids = shapes(small)
    above = move_in_stack(small, page, ids[0], ids[2], "above")
    assert [i.id for i in find_page(above, page).items] == [ids[1], ids[2], ids[0], ids[3]]
    assert find_page(above, page).items[2].layer == "above"
    other = all_pages(small)[1].id
    moved = rehome_items(small, page, other, [ids[1], ids[3]], 419.0)
    assert [i.id for i in find_page(moved, page).items] == [ids[0], ids[2]]
    assert [(i.id, i.x) for i in find_page(moved, other).items] == [(ids[1], 439), (ids[3], 479)]
    assert problems(moved) == [] and rehome_items(small, page, page, ids, 5.0) is small
