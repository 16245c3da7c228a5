"""Looks apart from words (R10), and a second colour for dark ground (R21a)."""

from __future__ import annotations

import io
import tempfile
from pathlib import Path

import pypdfium2 as pdfium
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec import UNSET
from msgspec.structs import replace
from PIL import Image

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.contrast import poor_texts
from hidden_frame.compose.departures import departures
from hidden_frame.demo.driven import driven_book
from hidden_frame.edit.carry.masters import masters_copied, masters_pasted
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.colours import delete_colour, uses
from hidden_frame.edit.looks.styles import (
    delete_paragraph_style,
    put_paragraph_style,
    put_picture,
    style_uses,
)
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.masters.overrides import follow, override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.folios import (
    Departing,
    FolioPlan,
    departing_folios,
    masters_with_folio,
    place_folios,
    plan_of,
    put_away,
    remove_folios,
)
from hidden_frame.edit.size.resize import resize
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page, paragraph_style
from hidden_frame.model.paint import Colour, Fill
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.text import Look, Marker, Paragraph, Run
from hidden_frame.output.pdf import export_pdf
from hidden_frame.output.pdf.export import pdf_bytes
from hidden_frame.script.document import Document
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes
from hidden_frame.storage.pictures import picture_from_bytes

FOLIO = (Paragraph("folio", (Run("Page "), Marker("folio"))),)


def folios(**looks: object) -> tuple[Publication, str, str]:
    """Four single pages with a folio at their foot, its master and item."""
    made = new_publication("Night", Setup(trim=Size(200.0, 300.0), facing=False), 4)
    frame = TextFrame(id="", x=20, y=270, width=160, height=16, text=FOLIO, layer="above", **looks)
    master = made.masters[0].id
    made, item = add_item(made, master, frame)
    return made, master, item


def words(publication: Publication, page: int, item: str):
    """The lines of an item on a page, and the inks of its runs."""
    scene = Composer().compose(publication).scene(all_pages(publication)[page].id)
    block = next(p for p in scene.painted if p.item_id == item).drawing.text
    runs = [run for line in block.text.lines for run in line.runs]
    return [line.text for line in block.text.lines], {run.span.ink for run in runs}, runs


def ink_of(publication: Publication, colour: str):
    return next(c.values for c in publication.colours if c.id == colour)


def with_ground(publication: Publication, page: int, fill: str, **place: float):
    """A page with something printed in one colour beneath its folio."""
    at = {"x": 0.0, "y": 200.0, "width": 200.0, "height": 100.0, **place}
    shape = Shape(id="", fill=Fill(fill), layer="ground", **at)
    return add_item(publication, all_pages(publication)[page].id, shape)


# -- looks apart from words -------------------------------------------------------------------


def test_a_page_changes_the_looks_and_the_words_go_on_following():
    publication, master, item = folios()
    page = all_pages(publication)[1].id
    own = override(publication, page, item, text_colour="paper", text_size=14.0)
    said, inks, runs = words(own, 1, item)
    assert said == ["Page 2"] and inks == {ink_of(own, "paper")}
    assert {run.setting.size for run in runs} == {14.0}
    changed = (Paragraph("folio", (Marker("folio"), Run(" / "), Marker("page count"))),)
    later = change_items(own, master, {item: {"text": changed}})
    assert words(later, 1, item)[:2] == (["2 / 4"], {ink_of(own, "paper")})
    assert words(later, 2, item)[:2] == (["3 / 4"], {ink_of(own, "ink")})
    styled = override(publication, page, item, text_style="heading")
    assert {r.setting.size for r in words(styled, 1, item)[2]} == {20.0}
    again = follow(own, page, item, "text_colour")
    assert words(again, 1, item)[1] == {ink_of(own, "ink")}
    assert {r.setting.size for r in words(again, 1, item)[2]} == {14.0}


def test_a_derived_master_and_then_a_page():
    publication, master, item = folios()
    publication, plate = add_master(publication, "Plate", master)
    page = all_pages(publication)[0].id
    publication = override(publication, plate, item, text_colour="paper")
    sections = publication.sections
    first = replace(sections[0].pages[0], masters=(plate,))
    pages = (first, *sections[0].pages[1:])
    publication = replace(publication, sections=(replace(sections[0], pages=pages),))
    assert words(publication, 0, item)[1] == {ink_of(publication, "paper")}
    publication = override(publication, page, item, text_size=6.0)
    _, inks, runs = words(publication, 0, item)
    assert inks == {ink_of(publication, "paper")} and runs[0].setting.size == 6.0


def test_looks_survive_the_file_and_go_along_to_another_publication():
    publication, master, _ = folios(text_colour="spruce", on_dark="paper", text_style="heading")
    assert from_bytes(to_bytes(publication, {}), "x.hframe").publication == publication
    other = new_publication("Other", publication.setup, 1)
    red = replace(other.colours[2], values=(1.0, 0.0, 0.0))
    other = replace(other, colours=(*other.colours[:2], red, *other.colours[3:]))
    made, _ = masters_pasted(other, masters_copied(publication, [master]))
    assert problems(made) == []
    frame = made.masters[-1].items[0]
    assert ink_of(made, frame.text_colour) == ink_of(publication, "spruce")
    assert ink_of(made, frame.on_dark) == ink_of(publication, "paper")
    assert paragraph_style(made, frame.text_style).name == "Heading"


def test_a_colour_or_style_that_goes_is_taken_from_frames_too():
    publication, master, _ = folios(text_colour="spruce", on_dark="paper", text_style="heading")
    assert uses(publication, "spruce") == 1 and style_uses(publication, "heading") == 1
    made = delete_colour(publication, "spruce", "ochre")
    made = delete_paragraph_style(made, "heading", "body")
    frame = find_master(made, master).items[0]
    assert (frame.text_colour, frame.text_style) == ("ochre", "body") and problems(made) == []
    style = replace(paragraph_style(made, "folio"), on_dark="slate")
    made = put_paragraph_style(made, style)
    assert uses(made, "slate") == 1
    assert paragraph_style(delete_colour(made, "slate", "paper"), "folio").on_dark == "paper"


# -- a second colour for dark ground ------------------------------------------------------------


@pytest.mark.parametrize("where", ["frame", "style", "look", "character"])
def test_the_colour_that_is_read_better_is_taken_page_by_page(where):
    publication, master, item = folios(**({"on_dark": "paper"} if where == "frame" else {}))
    if where == "style":
        style = replace(paragraph_style(publication, "folio"), on_dark="paper")
        publication = put_paragraph_style(publication, style)
    elif where in ("look", "character"):
        from hidden_frame.edit.looks.styles import put_character_style
        from hidden_frame.model.styles import CharacterStyle

        named = "night" if where == "character" else None
        look = Look(on_dark="paper") if where == "look" else None
        if named:
            night = CharacterStyle(id="night", name="Night", on_dark="paper")
            publication = put_character_style(publication, night)
        said = (Run("Page ", named, look), Marker("folio", None, named, look))
        text = (Paragraph("folio", said),)
        publication = change_items(publication, master, {item: {"text": text}})
    publication, shape = with_ground(publication, 1, "ink")
    publication, _ = with_ground(publication, 2, "ochre")
    paper, black = ink_of(publication, "paper"), ink_of(publication, "ink")
    found = [words(publication, n, item)[1] for n in range(4)]
    assert found == [{black}, {paper}, {black}, {black}]
    # live, when what lies beneath moves
    moved = change_items(publication, all_pages(publication)[1].id, {shape: {"y": 20.0}})
    assert words(moved, 1, item)[1] == {black}


def test_over_a_picture_its_own_colours_count():
    night = Image.new("RGB", (64, 64), (12, 16, 40))
    night.paste((240, 240, 250), (0, 0, 64, 32))  # the upper half is light
    data = io.BytesIO()
    night.save(data, "PNG")
    picture, _ = picture_from_bytes(data.getvalue(), "night.png")
    publication, _, item = folios(on_dark="paper")
    publication = replace(publication, pictures=(picture,))
    frame = PictureFrame(id="", x=0, y=200, width=200, height=100, picture=picture.hash,
                         fit="stretch", layer="ground")  # fmt: skip
    page = all_pages(publication)[0].id
    publication, made = add_item(publication, page, frame)
    assert words(publication, 0, item)[1] == {ink_of(publication, "paper")}
    up = change_items(publication, page, {made: {"y": 260.0}})  # its light half
    assert words(up, 0, item)[1] == {ink_of(publication, "ink")}
    assert poor_texts(Composer().compose(up).scene(page)) == {}


def test_what_covers_the_ground_counts_and_what_does_not_print_does_not():
    publication, _, item = folios(on_dark="paper")
    publication, _ = with_ground(publication, 0, "ink")
    over = Shape(id="", x=0, y=250, width=200, height=50, fill=Fill("paper"), layer="content")
    covered, _ = add_item(publication, all_pages(publication)[0].id, over)
    assert words(covered, 0, item)[1] == {ink_of(publication, "ink")}
    layers = tuple(replace(x, printing=x.id != "content") for x in covered.layers)
    unseen = replace(covered, layers=layers)
    assert words(unseen, 0, item)[1] == {ink_of(publication, "paper")}


def test_ground_that_is_half_and_half_is_known():
    publication, _, item = folios(on_dark="paper")
    # Under one half of the words (at the right, as folios stand outside) it is dark.
    publication, _ = with_ground(publication, 0, "ink", x=165.0, width=35.0)
    publication, _ = with_ground(publication, 1, "ink")
    composition = Composer().compose(publication)
    scenes = [composition.scene(page.id) for page in all_pages(publication)]
    mixed = [next(p.mixed for p in s.painted if p.item_id == item) for s in scenes]
    assert mixed == [True, False, False, False]


shares = st.floats(0, 1).map(lambda v: round(v, 3))
rgbs = st.tuples(shares, shares, shares)


@settings(max_examples=25, deadline=None)
@given(rgbs, rgbs, rgbs)
def test_the_page_as_pdfium_paints_it_has_the_better_of_both(ground, first, second):
    """WCAG 2.2's contrast ratio, written down again, of colours measured in the rendered PDF."""
    colours = (
        Colour(id="ground", name="Ground", values=ground),
        Colour(id="first", name="First", values=first),
        Colour(id="second", name="Second", values=second),
    )
    publication, _, item = folios()
    looks = {"text_colour": "first", "on_dark": "second", "text_size": 60.0}
    publication = replace(publication, colours=(*publication.colours, *colours))
    block = (Paragraph("folio", (Run("HHHH"),)),)
    publication = change_items(
        publication,
        publication.masters[0].id,
        {item: {"text": block, "height": 90.0, "y": 190.0, **looks}},
    )
    publication, _ = with_ground(publication, 0, "ground", y=150.0, height=150.0)
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "page.pdf"
        export_pdf(Composer().compose(publication), {}, out, [all_pages(publication)[0].id])
        page = pdfium.PdfDocument(out.read_bytes())[0]
    image = page.render(scale=2).to_pil().convert("RGB")
    seen = sorted(image.crop((40, 400, 360, 560)).getcolors(100_000), reverse=True)
    under = image.getpixel((4, 590))
    unlike = (c for _, c in seen if max(abs(a - b) for a, b in zip(c, under, strict=True)) > 2)
    letters = next(unlike, under)

    def luminance(colour):
        linear = [v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in colour]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    def ratio(a, b):
        high, low = sorted((luminance(a), luminance(b)), reverse=True)
        return (high + 0.05) / (low + 0.05)

    best = max(ratio(first, ground), ratio(second, ground))
    got = ratio([v / 255 for v in letters], [v / 255 for v in under])
    assert got == pytest.approx(best, rel=0.06)


# -- Folios… knows all folios ---------------------------------------------------------------------


def test_folios_that_depart_are_known_and_follow_if_wanted():
    publication, master, item = folios()
    publication, plate = add_master(publication, "Plate", master)
    page = all_pages(publication)[3].id
    paper = Look(colour="paper")
    said = (Marker("folio", look=paper), Run(" of many", look=paper))
    light = (Paragraph("folio", said),)
    publication = override(publication, plate, item, text=light)
    own = TextFrame(id="", x=20, y=20, width=100, height=16, text=FOLIO)
    publication, mine = add_item(publication, page, own)
    found = departing_folios(publication)
    assert found == [Departing(plate, item), Departing(page, mine, True)]
    plan = FolioPlan(place="kept", content=(Marker("folio"), Run(" / "), Marker("page count")))
    left = place_folios(publication, [master], plan)
    assert find_master(left, plate).overrides[0].text == light  # left as it is
    made = place_folios(publication, [master], plan, found)
    (changed,) = find_master(made, plate).overrides
    assert changed.text is UNSET and changed.text_colour == "paper"
    assert departing_folios(made) == [Departing(page, mine, True)]  # it stays an item of the page
    assert words(made, 3, mine)[0] == ["4 / 4"] and words(made, 0, item)[0] == ["1 / 4"]


def test_folios_put_away_come_back_as_they_were():
    publication, master, item = folios(on_dark="paper")
    page = all_pages(publication)[1].id
    publication = override(publication, page, item, text_colour="spruce", x=30.0)
    gone = remove_folios(publication)
    assert masters_with_folio(gone) == [] and put_away(gone) == [master]
    scene = Composer().compose(gone).scene(page)
    assert all(p.item_id != item for p in scene.painted)
    again = place_folios(gone, [master], plan_of(gone, master, FolioPlan()))
    assert again.masters == publication.masters and again.sections == publication.sections


# -- with other things that are done to a publication ------------------------------------


def test_a_size_that_words_wear_is_scaled_with_the_type():
    publication, master, item = folios(text_size=20.0)
    page = all_pages(publication)[1].id
    publication = override(publication, page, item, text_size=12.0)
    half = Size(100.0, 150.0)
    scaled = resize(publication, half, items="scale", type_too=True)
    assert find_master(scaled, master).items[0].text_size == 10.0
    assert find_page(scaled, page).overrides[0].text_size == 6.0
    assert {r.setting.size for r in words(scaled, 1, item)[2]} == {6.0}
    bare = resize(publication, half, items="scale")
    assert find_master(bare, master).items[0].text_size == 20.0
    largest = resize(folios(text_size=2000.0)[0], Size(400.0, 600.0), items="scale", type_too=True)
    assert largest.masters[0].items[0].text_size == 2000.0  # the limit of the type


def test_what_departs_is_told_in_words():
    publication, _, item = folios()
    page = all_pages(publication)[0].id
    looks = {"text_colour": "paper", "text_size": 12.0, "text_style": "body", "on_dark": "paper"}
    publication = override(publication, page, item, **looks)
    (departure,) = departures(publication)
    assert "_" not in departure.sentence
    assert "colour of all words" in departure.sentence


def test_ground_that_is_half_and_half_is_told_by_the_checks():
    publication, _, item = folios(on_dark="paper")
    publication, _ = with_ground(publication, 0, "ink", x=165.0, width=35.0)
    found = content_findings(Composer().compose(publication), ())
    (mixed,) = [f for f in found if f.kind == "mixed ground"]
    assert mixed.item_id == item and mixed.pages == (all_pages(publication)[0].id,)
    assert "half dark, half light" in mixed.sentence


def test_scripts_name_colours_and_styles_of_all_words():
    book = Document.new("Night", trim="A5", pages=2)
    frame = book.page(1).add_text_frame("20mm", "20mm", "80mm", "10mm", "Night")
    frame.change(text_colour="Ochre", on_dark="Paper", text_style="Heading", text_size="14pt")
    made = frame.item
    names = {c.id: c.name for c in book.publication.colours}
    assert (names[made.text_colour], names[made.on_dark]) == ("Ochre", "Paper")
    assert (made.text_style, made.text_size) == (book.paragraph_style("Heading"), 14.0)
    book.style("Body", on_dark="Paper")
    body = paragraph_style(book.publication, book.paragraph_style("Body"))
    assert names[body.on_dark] == "Paper"


@pytest.mark.parametrize(("shade", "light"), [("#101418", True), ("#f4f0e8", False)])
def test_over_a_drawing_its_own_colours_decide(shade, light):
    drawn = (
        '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="40">'
        f'<rect width="200" height="40" fill="{shade}"/></svg>'
    )
    picture, _ = picture_from_bytes(drawn.encode(), "ground.svg")
    assert len(picture.tones) == 1024
    made, _, item = folios(text_colour="ink", on_dark="paper")
    made = put_picture(made, picture)
    page = all_pages(made)[0].id
    ground = PictureFrame(id="", x=0, y=262, width=200, height=38, picture=picture.hash, fit="fill")
    made, _ = add_item(made, page, ground)
    _, inks, _ = words(made, 0, item)
    assert inks == {ink_of(made, "paper" if light else "ink")}


def test_words_of_a_story_take_their_colour_on_the_dark_pages_alone():
    book = settled(driven_book())
    bare = book
    for style in book.paragraph_styles:
        book = put_paragraph_style(book, replace(style, on_dark="paper"))
    composition = Composer().compose(book)
    told = [
        p for p in all_pages(book) if any(x.drawing.told for x in composition.scene(p.id).placed)
    ]
    dark, light = told[3].id, told[6].id
    ground = Shape(id="", x=-9, y=-9, width=900, height=900, fill=Fill("ink"), layer="ground")
    book, _ = add_item(book, dark, ground)
    composition = Composer().compose(book)

    def inks(page: str) -> set:
        blocks = [p.drawing.text for p in composition.scene(page).painted if p.drawing.told]
        return {run.span.ink for b in blocks for line in b.text.lines for run in line.runs}

    def places(page: str) -> list:
        blocks = [p.drawing.text for p in composition.scene(page).painted if p.drawing.told]
        return [(line.text, line.x, line.top, tuple(run.xs)) for b in blocks
                for line in b.text.lines for run in line.runs]  # fmt: skip

    paper = ink_of(book, "paper")
    assert paper in inks(dark) and paper not in inks(light)
    before = Composer().compose(bare)
    plain = [p.drawing.text for p in before.scene(dark).painted if p.drawing.told]
    assert places(dark) == [(line.text, line.x, line.top, tuple(run.xs)) for b in plain
                            for line in b.text.lines for run in line.runs]  # fmt: skip
    # And on paper, as pdfium paints it: something on the dark page is nearly white.
    made = pdfium.PdfDocument(pdf_bytes(composition, {}, pages=[dark], bleed=0.0))
    image = made[0].render(scale=2).to_pil().convert("L")
    made.close()
    darkest, lightest = image.getextrema()
    assert darkest < 60 and lightest > 220
