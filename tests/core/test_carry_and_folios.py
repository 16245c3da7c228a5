"""Items carried to other publications; folios placed, found again and removed; what makes
text fit; where a typed word goes."""

from __future__ import annotations

import io
import re

import pypdfium2 as pdfium
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.carry.items import copied, pasted
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_colour, put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.folios import (
    FolioPlan,
    first_pages,
    folio_of,
    folio_paragraph,
    leave_out,
    masters_with_folio,
    place_folios,
    place_section_folios,
    plan_of,
    remove_folios,
)
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.interact.finds.goto import find_place, places
from hidden_frame.interact.hands.shown import (
    change_shown,
    copied_as_shown,
    pasted_as_shown,
    shown_item,
)
from hidden_frame.interact.words.remedies import needed_height, remedies
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Marker, Paragraph, Run, TabStop
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import pdf_bytes


def looks(publication, item):
    """What an item looks like, whatever ids its publication gives to things."""
    colours = {c.id: replace(c, id="", name="") for c in publication.colours}
    styles = {
        s.id: (replace(s, id="", name="", colour=""), colours[s.colour])
        for s in computed_paragraphs(publication.paragraph_styles).values()
    }
    paints = [p and (colours[p.colour], p.tint, p.opacity) for p in (item.fill, item.stroke)]
    text = [
        (styles[p.style], [getattr(c, "text", "") for c in p.content])
        for p in getattr(item, "text", ())
    ]
    return paints, text, getattr(item, "picture", None), (item.width, item.height, item.rotation)


@given(position=st.integers(0, 31))
def test_whatever_stands_on_a_page_looks_the_same_in_another_publication(demo, position):
    publication, _ = demo
    page = all_pages(publication)[position].id
    side = Composer().compose(publication).facts[page].side
    ids = [p.item_id for p in Composer().compose(publication).scene(page).placed]
    clip = copied_as_shown(publication, page, ids, side)
    other = new_publication("Other", Setup(trim=TRIMS["A4"]), 2)
    target = all_pages(other)[1].id
    after, made = pasted_as_shown(other, target, "verso", clip, 5.0, 7.0)
    assert problems(after) == [] and len(made) == len(clip.items)
    new = find_page(after, target).items
    for a, b in zip(clip.items, new, strict=True):
        assert looks(publication, a) == looks(after, b)
        assert (b.x, b.y) == pytest.approx((a.x + 5, a.y + 7))
    again, _ = pasted_as_shown(after, target, "verso", clip)
    assert len(again.colours) == len(after.colours)  # equal ones are reused
    assert len(again.paragraph_styles) == len(after.paragraph_styles)


def test_a_clash_of_names_gets_a_new_name_and_overwrites_nothing(small):
    """R24."""
    ours = put_colour(small, replace(small.colours[0], values=(0.1, 0.9, 0.9, 0.0)))
    ours = put_paragraph_style(ours, replace(ours.paragraph_styles[0], size=17.0))
    page = all_pages(ours)[0].id
    text = (Paragraph("body", (Run("red"),)),)
    frame = TextFrame(id="", x=0, y=0, width=99, height=40, text=text, fill=Fill("ink"))
    ours, item = add_item(ours, page, frame)
    clip = copied(ours, [i for i in find_page(ours, page).items if i.id == item])
    after, (new,) = pasted(small, all_pages(small)[1].id, clip)
    made = find_page(after, all_pages(small)[1].id).items[0]
    assert after.colours[: len(small.colours)] == small.colours
    assert [c.name for c in after.colours[len(small.colours) :]] == ["Ink 2"]
    assert made.fill.colour == after.colours[-1].id != "ink"
    assert after.paragraph_styles[-1].name == "Body 2" and made.text[0].style != "body"
    assert problems(after) == [] and new == made.id


def test_pasting_on_a_masters_verso_shows_it_there(small):
    page, master = all_pages(small)[2].id, small.masters[0].id
    frame = TextFrame(id="", x=30, y=40, width=80, height=40, rotation=10)
    small, item = add_item(small, page, frame)
    clip = copied_as_shown(small, page, [item], "recto")
    after, (new,) = pasted_as_shown(small, master, "verso", clip)
    shown = shown_item(after, master, new, "verso")
    assert (shown.x, shown.y, shown.rotation) == pytest.approx((30, 40, 10))


# -- folios ------------------------------------------------------------------------------


def words_on(publication, count=8):
    """Every page's words with their places, read from the PDF by PDFium."""
    data = pdf_bytes(Composer().compose(publication), {})
    document = pdfium.PdfDocument(io.BytesIO(data))
    found = []
    for number in range(count):
        text = document[number].get_textpage()
        boxes = [text.get_charbox(n) for n in range(text.count_chars())]
        left, right = (min(b[0] for b in boxes), max(b[2] for b in boxes)) if boxes else (0, 0)
        found.append((text.get_text_range(), left, right, boxes[0][1] if boxes else 0))
    document.close()
    return found


def form(written):
    """What a folio says, # for the folio and ## for the number of pages."""
    markers = {"#": Marker("folio"), "##": Marker("page count")}
    return tuple(markers.get(p) or Run(p) for p in re.split("(##?)", written) if p)


def test_what_else_stands_in_a_folios_frame_stays(small):
    """A frame of two paragraphs, other markers and a character style of its own."""
    master = small.masters[0].id
    head = Paragraph("body", (Run("Above"),))
    says = (Marker("section name"), Run("\t"), Marker("folio", style="strong"))
    foot = Paragraph("body", (Run("Below"),))
    frame = TextFrame(
        id="",
        x=30,
        y=40,
        width=200,
        height=60,
        text=(head, Paragraph("folio", says, tabs=(TabStop(None, "right"),)), foot),
    )
    publication, _ = add_item(small, master, frame)
    plan = plan_of(publication, master, FolioPlan())
    assert plan.content == says and plan.place == "kept"
    again = place_folios(publication, [master], plan)
    assert again.masters[0].items == publication.masters[0].items
    moved = place_folios(publication, [master], replace(plan, edge="head", place="inside"))
    (now,) = moved.masters[0].items
    assert (now.text[0], now.text[2], now.text[1].content) == (head, foot, says)
    assert now.text[1].tabs == frame.text[1].tabs


@pytest.mark.parametrize("edge", ["foot", "head"])
@pytest.mark.parametrize("place", ["outside", "centre", "inside"])
def test_one_item_prints_mirrored_on_every_page(small, edge, place):
    """Common practice of the trade: the same place on every page, mirrored at the spine."""
    master = small.masters[0].id
    after = place_folios(small, [master], FolioPlan(edge, place, form("Page #"), "folio"))
    assert len(after.masters[0].items) == 1
    bleed, trim, margins = small.setup.bleed, small.setup.trim, small.setup.margins
    for position, (text, left, right, low) in enumerate(words_on(after), 1):
        assert text == f"Page {position}"
        recto = position % 2 == 1
        inner = left - bleed if recto else trim.width - (right - bleed)
        outer = trim.width - (right - bleed) if recto else left - bleed
        if place == "outside":
            assert outer == pytest.approx(margins.outside, abs=1.5)  # side bearings
        elif place == "inside":
            assert inner == pytest.approx(margins.inside, abs=1.5)
        else:
            middle = (left + right) / 2 - bleed
            wanted = (
                margins.left("recto" if recto else "verso")
                + (trim.width - margins.inside - margins.outside) / 2
            )
            assert middle == pytest.approx(wanted, abs=1.0)
        in_head = low - bleed > trim.height - margins.top
        assert in_head == (edge == "head")


def test_running_it_again_finds_and_changes_the_same_item(small):
    master = small.masters[0].id
    first = place_folios(small, [master], FolioPlan())
    small2, derived = add_master(first, "Derived", master)
    plan = plan_of(small2, derived, FolioPlan())
    assert plan == FolioPlan("foot", "outside", form("#"), "folio")
    again = place_folios(
        small2, [derived], replace(plan, edge="head", content=form("Page # of ##"))
    )
    assert sum(len(m.items) for m in again.masters) == 1
    carrier, item = folio_of(again, derived)
    assert carrier.id == master and item.text[0].content == form("Page # of ##")
    assert plan_of(again, master, FolioPlan()).edge == "head"
    assert masters_with_folio(again) == [master]


def test_a_folio_of_the_demo_keeps_its_place_when_only_its_form_changes(demo):
    publication, _ = demo
    (master,) = [m for m in masters_with_folio(publication) if folio_of(publication, m)][:1]
    before = folio_of(publication, master)[1]
    plan = plan_of(publication, master, FolioPlan())
    assert plan.place == "kept"
    after = folio_of(
        place_folios(publication, [master], replace(plan, content=form("– # –"))), master
    )[1]
    assert (after.x, after.y, after.width) == (before.x, before.y, before.width)
    assert after.text[0].content == form("– # –")


def test_pages_left_out_are_blind_and_counted(small):
    small, _ = start_section(small, all_pages(small)[4].id, "Second")
    after = place_folios(small, [small.masters[0].id], FolioPlan())
    pages = [p.id for p in all_pages(after)]
    out = leave_out(after, [*first_pages(after), pages[2]], pages)
    texts = [text for text, *_ in words_on(out)]
    assert texts == ["", "2", "", "4", "", "6", "7", "8"]
    assert [p.blind for p in all_pages(leave_out(out, [], pages))] == [False] * 8


def test_folios_of_one_section_alone(small):
    small, section = start_section(small, all_pages(small)[4].id, "Spring")
    by_hand = apply_masters(small, [all_pages(small)[5].id], ())
    after = place_section_folios(by_hand, section, FolioPlan(content=form("S #")))
    assert [t for t, *_ in words_on(after)] == ["", "", "", "", "S 5", "S 6", "S 7", "S 8"]
    again = place_section_folios(after, section, FolioPlan(content=form("T #")))
    assert [t for t, *_ in words_on(again)][4:] == ["T 5", "T 6", "T 7", "T 8"]
    assert len(again.masters) == len(after.masters)


def test_folios_are_removed_from_all_masters(small):
    after = place_folios(small, [small.masters[0].id], FolioPlan())
    gone = remove_folios(after)
    assert [t for t, *_ in words_on(gone)] == [""] * 8 and masters_with_folio(gone) == []


def test_a_form_without_a_folio_or_no_master_is_refused(small):
    for written in ("", "Page", "##"):
        with pytest.raises(Refusal, match="shows no folio"):
            folio_paragraph(FolioPlan(content=form(written)))
    with pytest.raises(Refusal, match="No master"):
        place_folios(small, [], FolioPlan())


# -- text that does not fit ----------------------------------------------------------------


def test_every_remedy_makes_the_text_fit(small):
    tall = replace(small.paragraph_styles[0], id="tall", name="Tall", space_before=30.0)
    small = put_paragraph_style(small, tall)
    page = all_pages(small)[2].id
    text = (Paragraph("tall", (Run("One line that needs room above it"),)),)
    frame = TextFrame(id="", x=20, y=20, width=300, height=20, text=text)
    small, item = add_item(small, page, frame)
    composition = Composer().compose(small)
    offers = remedies(composition, page, item, "recto")
    assert [o.title.split()[0] for o in offers] == ["Drop", "Grow", "Let"]
    for offer in offers:
        after = change_shown(small, page, "recto", {item: offer.changes})
        scene = Composer().compose(after).scene(page)
        assert all(p.drawing.overflow is None for p in scene.placed), offer.title
        assert remedies(Composer().compose(after), page, item, "recto") == [] or (
            "grows" in offer.changes
        )
    needed = needed_height(composition, page, find_page(small, page).items[0], "recto")
    assert needed == pytest.approx(30.0 + small.paragraph_styles[0].leading)


def test_a_growing_frame_is_as_high_as_its_text_and_never_lower_than_it_is(small):
    page = all_pages(small)[2].id
    text = (Paragraph("body", (Run("word " * 80),)),)
    frame = TextFrame(id="", x=20, y=20, width=120, height=30, text=text, grows=True)
    small, item = add_item(small, page, frame)
    (placed,) = Composer().compose(small).scene(page).placed
    lines = len(placed.drawing.text.text.lines)
    assert placed.drawing.height == pytest.approx(lines * 14) and placed.drawing.overflow is None
    short = change_shown(small, page, "recto", {item: {"text": ()}})
    (placed,) = Composer().compose(short).scene(page).placed
    assert placed.drawing.height == 30


# -- go to -----------------------------------------------------------------------------------


def test_a_typed_word_goes_to_folio_position_section_or_master(demo):
    publication, _ = demo
    facts = Composer().compose(publication).facts
    assert find_place(publication, "iv").name == "page iv (#4)"
    assert facts[find_place(publication, "#17").id].position == 17
    spring = find_place(publication, "spring")
    assert facts[spring.id].section_name == "Spring" and facts[spring.id].folio == "1"
    assert find_place(publication, "Month table").kind == "master"
    assert [p.kind for p in places(publication, "cover")][:3] == ["page", "master", "page"]
    assert places(publication, "") == [] and places(publication, "3, 7") == []
    with pytest.raises(Refusal, match="names no page"):
        find_place(publication, "nowhere")
