"""Stacks, defaults, layouts of masters; styles, inks and markers."""

from __future__ import annotations

import pytest
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.facts import describe, ordinal, page_facts
from hidden_frame.compose.palette import ink, palette
from hidden_frame.compose.placing import text_area
from hidden_frame.compose.textspec import span_of
from hidden_frame.edit.about import remove_detail, set_detail, set_title
from hidden_frame.edit.items.draw import (
    add_item,
    duplicate_items,
    remove_items,
    reorder_items,
)
from hidden_frame.edit.looks.styles import put_colour, put_paragraph_style
from hidden_frame.edit.masters.apply import (
    add_master,
    apply_masters,
    delete_master,
    free_name,
    rename_master,
    set_base,
    set_page_layout,
    set_section_masters,
)
from hidden_frame.edit.masters.faces import set_face
from hidden_frame.edit.masters.overrides import follow_all, hide_here, override
from hidden_frame.edit.pages.order import duplicate_pages, set_guides
from hidden_frame.edit.pages.sections import join_with_previous, rename_section, start_section
from hidden_frame.interact.hands.shown import items_on, shown_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Columns, Guide, Margins
from hidden_frame.model.items import Override, Shape, TextFrame
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import all_pages, find_master, paragraph_style, stack_of
from hidden_frame.model.paint import Colour
from hidden_frame.model.plane.matrix import Matrix, placement
from hidden_frame.model.plane.mirror import guide_x
from hidden_frame.model.publication import Numbering
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.typeset.fonts import DEFAULT_FAMILY, font_book

BOX = Shape(id="", x=10, y=10, width=20, height=20)


def test_stacks_automatic_by_hand_and_back(small):
    base = small.masters[0].id
    publication, other = add_master(small, "Other")
    page = all_pages(publication)[0].id

    def stack(p):
        return stack_of(p, all_pages(p)[0])

    assert stack(publication) == (base,)
    added = apply_masters(publication, [page], (other,), "add")
    assert stack(added) == (base, other)
    assert stack(apply_masters(added, [page], (base,), "take away")) == (other,)
    none = apply_masters(added, [page], ())
    assert stack(none) == ()
    assert stack(apply_masters(none, [page], None)) == (base,)
    section = publication.sections[0].id
    sectioned = set_section_masters(publication, section, (other,))
    assert stack(sectioned) == (other,)
    assert stack(set_section_masters(sectioned, section, None)) == (base,)


def test_applying_masters_never_touches_local_items(small):
    page = all_pages(small)[0].id
    publication, _ = add_item(small, page, BOX)
    items = all_pages(publication)[0].items
    assert all_pages(apply_masters(publication, [page], ()))[0].items is items


def test_deleting_a_master_hands_over_followers_bases_and_overrides(small):
    base = small.masters[0].id
    publication, item = add_item(small, base, BOX)
    publication, derived = add_master(publication, "Derived", base)
    publication, top = add_master(publication, "Top", derived)
    page = all_pages(publication)[0].id
    publication = apply_masters(publication, [page], (derived,))
    publication = override(publication, page, item, x=1.0)
    gone = delete_master(publication, derived, instead=top)
    assert find_master(gone, top).base == base
    assert all_pages(gone)[0].masters == (top,)
    assert all_pages(gone)[0].overrides == (Override(item=item, x=1.0),)
    without = delete_master(gone, base)
    assert all_pages(without)[0].overrides == () and without.default_masters == ()


def test_layouts_come_from_the_base_unless_set(small):
    base = small.masters[0].id
    publication, derived = add_master(small, "Derived", base)
    own = Margins(top=1, bottom=2, inside=3, outside=4)
    publication = set_page_layout(
        publication, base, margins=own, columns=Columns(3), guides=(Guide("vertical", 50),)
    )
    layout = master_layout(publication, derived)
    assert (layout.margins, layout.columns.count) == (own, 3)
    publication = set_page_layout(
        publication, derived, margins=None, columns=Columns(2), guides=None
    )
    assert master_layout(publication, derived).columns.count == 2
    assert master_layout(publication, derived).margins == own
    page = all_pages(publication)[0]
    publication = set_guides(publication, page.id, (Guide("horizontal", 9),))
    page = all_pages(publication)[0]
    assert [g.axis for g in page_layout(publication, page).guides] == ["vertical", "horizontal"]
    free = set_base(publication, derived, None)
    assert master_layout(free, derived).margins == small.setup.margins


def test_inside_is_at_the_spine(small):
    margins = Margins(top=1, bottom=2, inside=30, outside=10)
    width = small.setup.trim.width
    assert text_area(small.setup, margins, "recto")[0] == 30
    assert text_area(small.setup, margins, "verso")[0] == 10
    assert guide_x(50, "verso", width) == width - guide_x(50, "recto", width)


def test_faces_of_an_item(small):
    master = small.masters[0].id
    publication, item = add_item(small, master, BOX)
    verso, recto = (p.id for p in all_pages(publication)[1:3])
    only = set_face(publication, master, item, "verso", "mirrored")
    assert shown_item(only, recto, item, "recto") is None
    assert shown_item(only, verso, item, "verso").x == small.setup.trim.width - 30
    same = set_face(publication, master, item, "both", "repeated")
    assert shown_item(same, verso, item, "verso").x == 10


def test_items_are_reordered_duplicated_removed(small):
    page = all_pages(small)[0].id
    publication, a = add_item(small, page, BOX)
    publication, b = add_item(publication, page, BOX)
    back = reorder_items(publication, page, [b], "back")
    assert [i.id for i in all_pages(back)[0].items] == [b, a]
    more, (c,) = duplicate_items(publication, page, [a], 5.0)
    assert next(i for i in all_pages(more)[0].items if i.id == c).x == 15
    assert [i.id for i in all_pages(remove_items(more, page, [a, b]))[0].items] == [c]


def test_a_duplicated_page_keeps_everything_under_new_ids(small):
    page = all_pages(small)[0].id
    publication, _ = add_item(small, page, BOX)
    publication, master_item = add_item(publication, small.masters[0].id, BOX)
    publication = hide_here(publication, page, master_item)
    publication, (copy,) = duplicate_pages(publication, [page])
    first, second = all_pages(publication)[:2]
    assert second.id == copy and second.overrides == first.overrides
    assert second.items[0].id != first.items[0].id
    assert replace(second.items[0], id="") == replace(first.items[0], id="")
    assert all_pages(follow_all(publication, copy))[1].overrides == ()


def test_names_stay_apart(small):
    assert free_name("A", ["A", "A 2"]) == "A 3"
    publication, master = add_master(small, "  Base ")
    assert find_master(publication, master).name == "Base 2"
    with pytest.raises(Refusal, match="already"):
        rename_master(publication, master, "Base")
    with pytest.raises(Refusal, match="no name"):
        rename_master(publication, master, "  ")


def test_sections_start_join_and_are_described(small):
    third = all_pages(small)[2].id
    publication, section = start_section(small, third, "Two", Numbering(start=1, prefix="B"))
    assert [len(s.pages) for s in publication.sections] == [2, 6]
    facts = page_facts(publication)[third]
    page = all_pages(publication)[2]
    assert describe(facts, page) == "prints as B1 · 3rd of 8 · recto · Two"
    renamed = rename_section(publication, section, " Three ")
    assert renamed.sections[1].name == "Three"
    assert len(join_with_previous(publication, section).sections) == 1
    with pytest.raises(Refusal, match="first section"):
        join_with_previous(small, small.sections[0].id)
    same, _ = start_section(small, all_pages(small)[0].id, "One")
    assert len(same.sections) == 1 and same.sections[0].name == "One"


def test_ordinals():
    shown = [ordinal(n) for n in (1, 2, 3, 4, 11, 12, 13, 21, 102, 111)]
    expected = ["1st", "2nd", "3rd", "4th", "11th", "12th", "13th", "21st", "102nd", "111th"]
    assert shown == expected


def test_every_marker_shows_its_value(small):
    publication = set_detail(set_title(small, "Almanac"), "Issue", "4")
    third = all_pages(publication)[2].id
    publication, _ = start_section(publication, third, "Two", Numbering(style="upper roman"))
    kinds = ("folio", "page count", "section pages", "section last folio", "section name", "title")
    content = []
    for kind in kinds:
        content += [Marker(kind), Run("|")]
    content += [Marker("detail", "Issue"), Run("|"), Marker("detail", "Gone")]
    frame = TextFrame(
        id="", x=0, y=0, width=400, height=60, text=(Paragraph("body", tuple(content)),)
    )
    publication, _ = add_item(publication, third, frame)
    (line,) = Composer().compose(publication).scene(third).text_of()
    assert line == "III|8|6|VIII|Two|Almanac|4|[Gone]"
    without = remove_detail(publication, "Issue")
    assert Composer().compose(without).scene(third).text_of() == [line]  # as words now
    assert set_detail(without, "Issue", "5") != without
    assert Composer().compose(set_detail(without, "Issue", "5")).scene(third).text_of() == [line]


def test_character_styles_change_only_what_they_say(small):
    known = palette(small)
    style = replace(known.paragraphs["body"], tracking=50.0)
    span = span_of("x", style, known.characters["strong"], None, known, False)
    assert (span.setting.face.style, span.setting.size) == ("Bold", style.size)
    assert span.setting.tracking == pytest.approx(style.size * 0.05)


def test_tints_and_colours_changed_once_change_everywhere(small):
    assert ink(Colour(id="a", name="A", values=(0.0, 0.5, 1.0)), 0.5) == (0.5, 0.75, 1.0)
    cmyk = Colour(id="b", name="B", space="cmyk", values=(1.0, 0.5, 0.0, 0.2))
    assert ink(cmyk, 0.5) == (0.5, 0.25, 0.0, 0.1)
    page = all_pages(small)[0].id
    frame = TextFrame(id="", x=0, y=0, width=99, height=30, text=(Paragraph("body", (Run("x"),)),))
    publication, _ = add_item(small, page, frame)
    new = put_colour(publication, Colour(id="ink", name="Ink", values=(1.0, 0.0, 0.0)))
    (placed,) = Composer().compose(new).scene(page).placed
    assert placed.drawing.text.text.lines[0].runs[0].span.ink == (1.0, 0.0, 0.0)
    large = replace(paragraph_style(publication, "body"), size=20.0)
    bigger = put_paragraph_style(publication, large)
    (placed,) = Composer().compose(bigger).scene(page).placed
    assert placed.drawing.text.text.lines[0].runs[0].setting.size == 20.0


def test_a_family_that_is_not_here_is_set_in_the_default_one():
    book = font_book()
    assert book.face("No Such Family", bold=True).family == DEFAULT_FAMILY
    assert book.shipped == book.families()[:2]
    assert not book.knows("No Such Family")


def test_matrices_undo_themselves():
    matrix = placement(10, 20, 30, 40, 33)
    there = matrix.apply(5, 6)
    assert matrix.inverse().apply(*there) == pytest.approx((5, 6))
    assert matrix.then(matrix.inverse()) == pytest.approx(Matrix())


def test_hidden_here_is_hidden_on_that_page_only(small):
    master = small.masters[0].id
    publication, item = add_item(small, master, BOX)
    pages = [p.id for p in all_pages(publication)]
    publication = hide_here(publication, pages[0], item)
    composition = Composer().compose(publication)
    assert [len(composition.scene(p).placed) for p in pages[:3]] == [0, 1, 1]
    assert len(items_on(publication, pages[0], "recto")) == 1  # still there to follow again
