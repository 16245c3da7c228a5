"""Checks of what stands on the pages: each fault found where it is, and gone after its way out."""

from __future__ import annotations

import io
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from hidden_frame.checks.content import content_findings, counted
from hidden_frame.checks.findings import findings
from hidden_frame.checks.folios import prints_folio
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.about import set_detail
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style, put_picture
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.pages.folios import FolioPlan, place_folios
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.edit.stories import start_story
from hidden_frame.edit.text.fonts import families_used, replace_family
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Picture
from hidden_frame.model.text import Look, Marker, Paragraph, Run
from hidden_frame.storage.pictures import picture_from_bytes


def page(publication, position):
    return all_pages(publication)[position - 1].id


def with_items(publication, holder, *items):
    for item in items:
        publication, _ = add_item(publication, holder, item)
    return publication


def found(publication, known=(), pages=None):
    return content_findings(Composer().compose(publication), known, pages)


def kinds(publication, known=()):
    return [f.kind for f in found(publication, known)]


def text(words, style="body", look=None):
    return (Paragraph(style, (Run(words, None, look),)),)


def frame(words, height=20.0, **more):
    return TextFrame(id="", x=60, y=60, width=80, height=height, text=text(words), **more)


def png(size=(100, 100), mode="RGB"):
    buffer = io.BytesIO()
    Image.new(mode, size).save(buffer, "PNG")
    return picture_from_bytes(buffer.getvalue(), "a.png")


LONG = "many words that go on and on " * 5


@pytest.mark.parametrize("on_master", [False, True])
def test_text_that_does_not_fit_is_found_and_the_frame_grows(small, on_master):
    holder = small.masters[0].id if on_master else page(small, 3)
    publication = with_items(small, holder, frame(LONG, name="Caption"))
    (finding,) = found(publication)
    assert finding.kind == "text does not fit" and "“Caption”" in finding.sentence
    assert len(finding.pages) == (8 if on_master else 1)
    grown = finding.fix(publication)
    assert kinds(grown) == []
    if on_master:  # mended once, where it is kept
        assert grown.masters[0].items[0].grows and not any(p.overrides for p in all_pages(grown))


def test_text_of_a_master_that_no_page_follows_is_looked_at_too(small):
    from hidden_frame.edit.masters.apply import add_master

    publication, master = add_master(small, "Alone")
    publication = with_items(publication, master, frame(LONG))
    (finding,) = found(publication)
    assert "Master “Alone”" in finding.sentence and finding.page_id == master


def test_a_missing_picture(small):
    picture, _ = png()
    publication = put_picture(small, picture)
    box = PictureFrame(id="", x=60, y=60, width=20, height=20, picture=picture.hash)
    publication = with_items(publication, page(publication, 1), box)
    assert kinds(publication, {picture.hash}) == []
    (finding,) = found(publication)
    assert finding.kind == "missing picture"
    assert kinds(finding.fix(publication)) == ["prints nothing"]


@given(st.floats(10, 400), st.booleans())
def test_resolution_is_pixels_by_the_printed_inch(size, bilevel):
    from hidden_frame.edit.new import new_publication
    from hidden_frame.model.publication import Setup
    from hidden_frame.model.trims import TRIMS

    small = new_publication("R", Setup(trim=TRIMS["A4"]), 1)
    picture, _ = png((300, 300), "1" if bilevel else "RGB")
    assert picture.bilevel == bilevel
    publication = put_picture(small, picture)
    box = PictureFrame(id="", x=60, y=60, width=size, height=size, picture=picture.hash,
                       fit="stretch")  # fmt: skip
    publication = with_items(publication, page(publication, 1), box)
    ppi, least = 300 / (size / 72), 600 if bilevel else 200
    rows = found(publication, {picture.hash})
    if abs(ppi - least) > 1:
        assert bool(rows) == (ppi < least)
    if rows and rows[0].ways:
        assert found(rows[0].fix(publication), {picture.hash}) == []
    assert found(change_setup(publication, least_ppi=1, least_line_ppi=1), {picture.hash}) == []


def test_items_off_the_page(small):
    b = small.setup.bleed
    w, h = small.setup.trim.width, small.setup.trim.height
    ink = Fill("ink")
    off = [(-30 - b, 50), (w + b, 50), (50, -30 - b), (50, h + b)]
    for x, y in off:
        shape = Shape(id="", x=x, y=y, width=30, height=30, fill=ink)
        publication = with_items(small, page(small, 2), shape)
        (finding,) = found(publication)
        assert finding.kind == "off the page"
        assert "off the page" not in kinds(finding.fix(publication))
        assert kinds(finding.ways[1].fix(publication)) == []
    near = Shape(id="", x=w + b - 1, y=50, width=30, height=30, fill=ink)
    assert "off the page" not in kinds(with_items(small, page(small, 3), near))


def test_what_ends_at_the_trim_is_told_and_extended_but_not_at_the_spine(small):
    w, h, b = small.setup.trim.width, small.setup.trim.height, small.setup.bleed
    recto, verso = page(small, 3), page(small, 2)

    def of(holder, x, y, width, height, **more):
        shape = Shape(id="", x=x, y=y, width=width, height=height, fill=Fill("ink"), **more)
        publication = with_items(small, holder, shape)
        return publication, found(publication)

    for holder, x, hit in ((recto, w - 40, True), (recto, 0, False), (verso, 0, True),
                           (verso, w - 40, False)):  # fmt: skip
        publication, rows = of(holder, x, 100, 40, 40)
        assert bool(rows) == hit
        if hit:
            assert rows[0].kind == "short of the bleed"
            assert found(rows[0].fix(publication)) == []
    assert of(recto, w - 40, 100, 40 + b, 40)[1] == []
    assert of(recto, w - 60, 100, 40, 40)[1] == []
    assert "top and bottom" in of(recto, 100, 0, 40, h)[1][0].sentence
    # A turned circle does not reach where the corners of its box do.
    circle = {"form": "ellipse", "rotation": 45.0}
    assert of(recto, w - 105, 100, 100, 100, **circle)[1] == []
    line = Line(id="", x=100, y=50, width=w - 100, height=0, stroke=Stroke(colour="ink"))
    assert kinds(with_items(small, recto, line)) == ["short of the bleed"]
    bare = change_setup(small, bleed=0.0)
    assert kinds(with_items(bare, page(bare, 3), line)) == []
    words = TextFrame(id="", x=w - 40, y=60, width=40, height=40, text=text("a"))
    assert kinds(with_items(small, recto, words)) == []


def test_frames_that_print_nothing(small):
    empty = TextFrame(id="", x=60, y=60, width=40, height=40)
    bare = Shape(id="", x=60, y=60, width=40, height=40)
    vacant = PictureFrame(id="", x=60, y=60, width=40, height=40)
    for item in (empty, bare, vacant):
        publication = with_items(small, page(small, 2), item)
        (finding,) = found(publication)
        assert finding.kind == "prints nothing" and kinds(finding.fix(publication)) == []
        tinted = replace(item, fill=Fill("ink"))
        assert kinds(with_items(small, page(small, 2), tinted)) == []


def test_characters_that_no_font_has_are_named_and_taken_out(small):
    publication = with_items(small, page(small, 2), frame("fine \ue000 \U00013000 é", 40))
    (finding,) = found(publication)
    assert "U+E000" in finding.sentence and "U+13000" in finding.sentence
    mended = finding.fix(publication)
    assert kinds(mended) == []
    assert all_pages(mended)[1].items[0].text[0].content[0].text == "fine   é"


@pytest.mark.parametrize("words", ["שלום", "سلام", "and שלום"])
def test_text_that_runs_from_right_to_left_is_as_good_as_any(small, words):
    publication = with_items(small, page(small, 2), frame(words, 40))
    assert kinds(publication) == []
    assert kinds(with_items(small, page(small, 2), frame("λόγος и Ж", 40))) == []


def test_findings_are_counted_in_words(small):
    publication = with_items(small, page(small, 2), frame(LONG), frame(LONG + "x"))
    publication = with_items(
        publication, page(small, 3), Shape(id="", x=60, y=60, width=9, height=9)
    )
    assert counted(found(publication)) == "2 texts that do not fit, 1 frame that prints nothing"
    assert counted(found(publication, (), [page(small, 3)])) == "1 frame that prints nothing"


def test_only_pages_that_an_edit_touched_are_looked_at_again(small, monkeypatch):
    from hidden_frame.checks import faults

    composer = Composer()
    first = with_items(small, page(small, 2), frame(LONG))
    content_findings(composer.compose(first), ())
    looked = []

    def noted(look):
        looked.append(look.scene.holder_id)
        return iter(())

    monkeypatch.setattr(faults, "item_checks", lambda: (noted,))
    second = with_items(first, page(small, 5), frame("new"))
    content_findings(composer.compose(second), ())
    assert set(looked) == {page(small, 5)}


# -- names ------------------------------------------------------------------------------------


def named(publication, kind):
    return [f for f in findings(publication) if f.kind == kind]


def test_a_family_that_is_missing_is_told_with_its_pages_and_replaced(small):
    body = replace(small.paragraph_styles[0], family="Gone Grotesk")
    publication = put_paragraph_style(small, body)
    publication = with_items(publication, page(small, 4), frame("a"))
    look = Look(family="Gone Grotesk")
    other = TextFrame(id="", x=0, y=0, width=50, height=50, text=text("b", "folio", look))
    publication = with_items(publication, page(small, 6), other)
    (finding,) = named(publication, "missing font")
    assert "Gone Grotesk" in finding.sentence and "#4, #6" in finding.sentence
    assert finding.asks == "Gone Grotesk" and len(finding.pages) == 2
    mended = replace_family(publication, "Gone Grotesk", "Alegreya Sans")
    assert named(mended, "missing font") == []
    assert "Gone Grotesk" not in families_used(mended)
    assert replace_family(mended, "Gone Grotesk", "Spectral") is mended


def test_details_that_no_marker_shows_and_markers_of_details_that_are_gone(small):
    publication = set_detail(small, "Issue", "4")
    (idle,) = named(publication, "idle detail")
    assert named(idle.fix(publication), "idle detail") == []
    marker = (Paragraph("body", (Run("No. "), Marker("detail", "Season"))),)
    box = TextFrame(id="", x=0, y=0, width=50, height=50, text=marker)
    publication = with_items(publication, publication.masters[0].id, box)
    (lost,) = named(publication, "lost detail")
    assert "Season" in lost.sentence and len(lost.pages) == 8
    assert named(lost.fix(publication), "lost detail") == []
    assert named(lost.ways[1].fix(publication), "lost detail") == []


def test_a_page_prints_its_folio_only_if_an_item_shows_it(small):
    assert prints_folio(small) == frozenset()
    master = small.masters[0].id
    publication = place_folios(small, [master], FolioPlan())
    assert len(prints_folio(publication)) == 8
    folio = publication.masters[0].items[-1].id
    hidden = override(publication, page(publication, 2), folio, visible=False)
    assert len(prints_folio(hidden)) == 7
    layers = tuple(replace(x, printing=False) for x in publication.layers)
    assert prints_folio(replace(publication, layers=layers)) == frozenset()


def test_equal_pictures_of_any_kind_have_a_description_that_opens():
    assert Picture(hash="0" * 64, kind="tif", width=1, height=1).size == (1, 1)


def test_lines_to_mend_are_told_in_stories_and_elsewhere_where_that_is_asked_for(small):
    words = "considerable observation of a constellation " * 3
    style = replace(small.paragraph_styles[0], alignment="justified", hyphenate=False)
    small = replace(small, paragraph_styles=(style, *small.paragraph_styles[1:]))
    publication = with_items(small, page(small, 2), replace(frame(words, 90), width=120.0))
    assert kinds(publication) == []  # a caption
    everywhere = change_setup(publication, judges_lines="everywhere")
    assert "loose line" in kinds(everywhere)
    assert counted(found(everywhere)) == ""  # they are no fault of what is printed
    item = all_pages(publication)[1].items[0].id
    told, _ = start_story(publication, page(small, 2), item)
    assert "loose line" in kinds(told)
    assert kinds(change_setup(told, judges_lines="nowhere")) == []


def test_the_loosest_lines_come_first_by_their_words_and_the_rest_is_one_quiet_row(small):
    """What is bearable is counted once; what is not is named, until nothing of it is left."""
    style = replace(small.paragraph_styles[0], alignment="justified", hyphenate=False)
    small = replace(small, paragraph_styles=(style, *small.paragraph_styles[1:]))
    words = "extraordinarily considerable observations and constellations of a quiet night " * 3
    widths = (100.0, 118.0, 130.0)
    for number, width in enumerate(widths, 1):
        small = with_items(small, page(small, number), replace(frame(words, 400), width=width))
    rows = found(change_setup(small, judges_lines="everywhere"))
    loose = [f for f in rows if f.kind == "loose line"]
    assert len(loose) >= 2 and not any(f.quiet for f in loose)
    shares = [int(re.search(r"spaces of (\d+)", f.sentence)[1]) for f in loose]
    assert shares == sorted(shares, reverse=True) and min(shares) > 300
    assert all("prefers at most 150" in f.sentence for f in loose)
    quiet = [f for f in rows if f.quiet]
    assert len(quiet) <= 1 and all(f.kind == "looser" and rows[-1] is f for f in quiet)
    better = replace(style, alignment="left")
    small = replace(small, paragraph_styles=(better, *small.paragraph_styles[1:]))
    rows = found(change_setup(small, judges_lines="everywhere"))
    assert not [f for f in rows if f.kind == "loose line"]
