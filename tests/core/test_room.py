"""Text in columns and around what stands in its way."""

from __future__ import annotations

import math

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.around import grown_outline, in_the_way, obstacles
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.drawing import draw, set_frame, text_height
from hidden_frame.compose.outlines import corner_radius
from hidden_frame.compose.palette import palette
from hidden_frame.compose.regions import regions_of
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import Around, Insets, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.typeset import text as typeset_text
from hidden_frame.typeset.caret import caret_at, place_at
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.overflow import explain
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.region import Outline, Region
from hidden_frame.typeset.shaping import setting_of

WORDS = [
    "the",
    "ridge",
    "above",
    "the",
    "fog",
    "keeps",
    "its",
    "lamps",
    "low",
    "and",
    "counts",
    "the",
    "slow",
    "stars",
    "of",
    "autumn",
]
PUBLICATION = new_publication("P", Setup(trim=TRIMS["A5"]), 4)


def spec(count, align="left", **more):
    setting = setting_of(font_book().face("Alegreya", False, False), 10.0)
    text = " ".join(WORDS[n % len(WORDS)] for n in range(count))
    return ParagraphSpec((Span(text, setting, (0, 0, 0)),), setting, 14.0, align, **more)


AFAR = Outline(((900.0, 0.0), (910.0, 0.0), (910.0, 9.0)))  # in nobody's way, but to be asked about


def columned(width, height, columns, gutter, outlines=()):
    """Columns side by side."""
    wide = (width - gutter * (columns - 1)) / columns
    return tuple(
        Region(n * (wide + gutter), n * (wide + gutter) + wide, height, outlines)
        for n in range(columns)
    )


def set_text(specs, width, regions=None):
    return typeset_text.set_text(specs, regions or (Region(0.0, width),))


def words_of(text):
    return " ".join(line.text for line in text.lines).replace("- ", "").split()


@given(st.integers(20, 300), st.integers(1, 4), st.floats(60, 200))
def test_columns_hold_all_words_in_order_each_as_high_as_they_may_be(count, columns, height):
    paragraph = spec(count)
    regions = columned(400.0, height, columns, 10.0)
    text = set_text([paragraph], 400.0, regions)
    assert "".join(words_of(text)) == "".join(words_of(set_text([paragraph], 9e6)))
    edges = [(r.left, r.right) for r in regions]
    assert [line.column for line in text.lines] == sorted(line.column for line in text.lines)
    for line in text.lines:
        left, right = edges[line.column]
        assert left - 0.01 <= line.left and line.right <= right + 0.01
        if line.column < columns - 1:
            assert line.bottom <= height + 0.01
    for number in range(columns - 1):  # no column ends before it is full
        lines = [line for line in text.lines if line.column == number]
        if any(line.column > number for line in text.lines):
            assert lines[-1].bottom + 14.0 > height - 0.01


def test_one_free_column_is_the_plain_setting():
    paragraphs = [spec(120, "justified"), spec(40)]
    plain, roomy = (
        set_text(paragraphs, 200.0),
        set_text(paragraphs, 200.0, (Region(0.0, 200.0, outlines=(AFAR,)),)),
    )
    assert [(x.text, x.top, x.left, x.right) for x in plain.lines] == [
        (x.text, x.top, x.left, x.right) for x in roomy.lines
    ]
    assert plain.height == roomy.height


def test_no_space_above_a_paragraph_at_the_head_of_a_later_column():
    text = set_text([spec(30), spec(30, before=9.0)], 212.0, columned(212.0, 42.0, 2, 12.0))
    first, second = ([x for x in text.lines if x.column == n] for n in (0, 1))
    assert first[0].top == 0.0 and second[0].top == 0.0


obstacle = st.tuples(st.floats(-40, 260), st.floats(-20, 160), st.floats(10, 120), st.floats(5, 90))


@given(obstacle, st.sampled_from(["left", "right", "centre", "justified"]), st.integers(1, 2))
def test_no_line_enters_what_it_runs_around_and_no_word_is_lost(box, align, columns):
    x, y, w, h = box
    outline = ((x, y), (x + w, y), (x + w, y + h), (x, y + h))
    paragraph = spec(150, align)
    text = set_text([paragraph], 260.0, columned(260.0, 400.0, columns, 10.0, (Outline(outline),)))
    assert "".join(words_of(text)) == "".join(words_of(set_text([paragraph], 9e6)))
    for line in text.lines:
        clear_of_it = line.bottom <= y + 0.01 or line.top >= y + h - 0.01
        beside_it = line.right <= x + 0.01 or line.left >= x + w - 0.01
        assert clear_of_it or beside_it


@given(obstacle, st.floats(1, 30), st.integers(0, 12), st.sampled_from([math.inf, 300.0]))
@settings(max_examples=40)
def test_text_beside_something_ends_however_narrow_its_column_is(box, width, count, height):
    """A column narrower than a line is high, with something in its way, was filled for ever."""
    x, y, w, h = box
    outlines = (Outline(((x, y), (x + w, y), (x + w, y + h), (x, y + h))),)
    paragraph = spec(count)
    text = set_text([paragraph], width, (Region(0.0, width, height, outlines),))
    if math.isinf(height):
        assert "".join(words_of(text)) == "".join(words_of(set_text([paragraph], 9e6)))


def halved(item, outlines):
    """The least height, by nothing but halving: as slow as it is plain."""
    low, high = 0.0, 4_000.0
    while high - low > 0.02:
        middle = (low + high) / 2
        regions = regions_of(item, outlines, middle, None)
        text = set_frame(item.text, regions, "recto", (), palette(PUBLICATION), item.snug)
        low, high = (low, middle) if explain(text, middle) is None else (middle, high)
    return high + item.insets.top + item.insets.bottom


@given(obstacle, st.integers(1, 4), st.lists(st.integers(0, 90), min_size=1, max_size=4))
@settings(max_examples=25)
def test_a_growing_frame_is_as_high_as_its_columns_need_and_no_higher(box, columns, counts):
    x, y, w, h = box
    outlines = (Outline(((x, y), (x + w, y), (x + w, y + h), (x, y + h))),)
    words = [" ".join(WORDS[n % len(WORDS)] for n in range(count)) for count in counts]
    style = PUBLICATION.paragraph_styles[0].id
    item = TextFrame(id="t", x=0, y=0, width=260, height=10, columns=columns, grows=True,
                     text=tuple(Paragraph(style, (Run(w),)) for w in words))  # fmt: skip
    high = text_height(item, "recto", (), palette(PUBLICATION), outlines)
    assert high == pytest.approx(halved(item, outlines), abs=0.08)


@given(st.floats(20, 80), st.floats(20, 80), st.floats(0, 15), st.floats(-180, 180))
def test_text_around_an_ellipse_keeps_its_distance_and_uses_the_room(rx, ry, offset, turn):
    """The outline of an ellipse: no corner nearer than the offset, against the plain equation."""
    shape = Shape(id="s", x=0, y=0, width=2 * rx, height=2 * ry, form="ellipse", rotation=turn,
                  around=Around("shape", offset))  # fmt: skip
    for x, y in grown_outline(shape, ()):
        there = ((x - rx) / (rx + offset)) ** 2 + ((y - ry) / (ry + offset)) ** 2
        assert there == pytest.approx(1.0)
    frame = TextFrame(id="t", x=0, y=0, width=10, height=10)
    (found,) = obstacles([shape], ())
    cx = sum(x for x, _ in found.outline) / len(found.outline)
    cy = sum(y for _, y in found.outline) / len(found.outline)
    assert (cx, cy) == pytest.approx((rx, ry), abs=0.5)  # turned about its middle
    assert len(in_the_way(frame, (found,))) <= 1


def text_frame(count=160, **more):
    text = (Paragraph("body", (Run(" ".join(WORDS[n % len(WORDS)] for n in range(count))),)),)
    return TextFrame(id="", x=40, y=40, width=300, height=400, text=text, **more)


def lines_on(publication, page):
    scene = Composer().compose(publication).scene(page)
    return next(p.drawing.text.text.lines for p in scene.placed if p.drawing.text is not None)


@pytest.mark.parametrize("on_master", [True, False])
def test_text_on_a_page_runs_around_items_of_the_page_and_of_its_masters(on_master):
    page = all_pages(PUBLICATION)[2].id
    publication, _ = add_item(PUBLICATION, page, text_frame())
    free = [line.left for line in lines_on(publication, page)]
    seal = Shape(id="", x=20, y=90, width=100, height=60, around=Around("box", 10.0))
    holder = publication.masters[0].id if on_master else page
    pushed, seal_id = add_item(publication, holder, seal)
    lines = lines_on(pushed, page)
    beside = [x for x in lines if x.bottom > 40.1 and x.top < 119.9]  # 90 − 10 − 40 to 160 − 40
    assert beside and all(line.left >= 90 - 0.01 for line in beside)  # 20 + 100 + 10 − 40
    assert all(line.left == free[0] for line in lines if line not in beside)
    hidden = replace(
        pushed,
        layers=tuple(replace(x, visible=False) if x.id == "content" else x for x in pushed.layers),
    )
    assert not Composer().compose(hidden).scene(page).placed
    assert seal_id


def test_a_frame_that_does_not_yield_keeps_its_lines():
    page = all_pages(PUBLICATION)[2].id
    publication, _ = add_item(PUBLICATION, page, text_frame(yields=False))
    seal = Shape(id="", x=20, y=90, width=100, height=60, around=Around())
    pushed, _ = add_item(publication, page, seal)
    assert {line.left for line in lines_on(pushed, page)} == {0.0}


def test_on_a_verso_text_runs_around_the_mirrored_item():
    publication, _ = add_item(
        PUBLICATION, PUBLICATION.masters[0].id,
        Shape(id="", x=20, y=90, width=100, height=60, around=Around("box", 10.0)),
    )  # fmt: skip
    verso, recto = (all_pages(publication)[n].id for n in (1, 2))
    width = publication.setup.trim.width
    frame = replace(text_frame(), x=width - 340)  # the mirror image of the recto's frame
    publication, _ = add_item(publication, recto, text_frame())
    publication, _ = add_item(publication, verso, frame)
    left = max(line.left for line in lines_on(publication, recto))
    right = 300 - 90
    assert left == pytest.approx(90)
    beside = [x for x in lines_on(publication, verso) if x.bottom > 40.1 and x.top < 119.9]
    assert all(line.right <= right + 0.01 for line in beside)


def test_a_line_too_thin_to_see_still_pushes_text_by_its_distance():
    line = Line(id="l", x=0, y=50, width=100, height=0, around=Around("box", 8.0))
    (found,) = obstacles([line], ())
    assert {y for _, y in found.outline} == {42.0, 58.0}


# -- frames ------------------------------------------------------------------------------


def drawn(frame, known=None):
    return draw(frame, "recto", (), known or palette(PUBLICATION), ())


def test_insets_of_four_sides_and_of_one():
    even = drawn(text_frame(30, inset=7.0)).text
    own = drawn(text_frame(30, inset=Insets(top=7, left=7, right=7, bottom=7))).text
    assert (even.x, even.y, even.text.columns) == (own.x, own.y, own.text.columns)
    assert (even.x, even.y, even.text.columns) == (7.0, 7.0, ((0.0, 286.0),))
    uneven = drawn(text_frame(30, inset=Insets(top=20, left=5, right=25))).text
    assert (uneven.x, uneven.y, uneven.text.columns) == (5.0, 20.0, ((0.0, 270.0),))


@pytest.mark.parametrize(("vertical", "share"), [("top", 0.0), ("middle", 0.5), ("bottom", 1.0)])
@pytest.mark.parametrize("columns", [1, 2])
def test_vertical_alignment_by_column(vertical, share, columns):
    frame = replace(text_frame(40), height=100, columns=columns, vertical=vertical)
    block = drawn(frame).text
    for column in range(columns):
        lines = [x for x in block.text.lines if x.column == column]
        if lines:
            free = 100 - (lines[-1].bottom - lines[0].top)
            assert block.y + lines[0].top == pytest.approx(free * share, abs=0.01)


@given(st.integers(30, 200), st.integers(2, 4))
def test_a_growing_frame_of_columns_is_as_low_as_its_text_allows(count, columns):
    frame = replace(text_frame(count), height=0, columns=columns, grows=True)
    drawing = drawn(frame)
    assert drawing.overflow is None
    shorter = draw(
        replace(frame, grows=False, height=drawing.height - 14), "recto", (),
        palette(PUBLICATION), (),
    )  # fmt: skip
    assume(drawing.height > 14)
    assert shorter.overflow is not None


def test_text_that_overflows_its_columns_says_so():
    text = set_text([spec(200)], 212.0, columned(212.0, 42.0, 2, 12.0))
    found = explain(text, 42.0)
    assert found.shown == 6 and "2 columns of 42 pt are too short" in found.sentence


@given(st.integers(30, 120))
def test_the_pointer_finds_places_in_every_column(count):
    text = set_text([spec(count)], 212.0, columned(212.0, 250.0, 2, 12.0))
    assert text.lines[-1].bottom <= 250.0
    for line in text.lines:
        middle = (line.top + line.bottom) / 2
        assert place_at(text, line.left, middle) == (0, line.start)
        caret = caret_at(text, 0, line.start)
        assert caret.top == line.top and math.isclose(caret.x, line.left, abs_tol=0.01)


def test_corners_are_never_rounder_than_the_frame():
    frame = TextFrame(id="t", x=0, y=0, width=40, height=10, radius=99.0)

    assert corner_radius(frame) == 5.0


def test_text_runs_on_both_sides_where_that_is_asked_for():
    corners = ((100.0, 10.0), (160.0, 10.0), (160.0, 60.0), (100.0, 60.0))
    region = Region(0.0, 260.0, outlines=(Outline(corners, both=True),))
    assert region.stretches(20.0, 14.0)[0] == [(0.0, 100.0), (160.0, 260.0)]
    one = Region(0.0, 260.0, outlines=(Outline(corners, both=True), Outline(corners)))
    assert len(one.stretches(20.0, 14.0)[0]) == 1  # another one there wants a single side
    paragraph = spec(160)
    text = set_text([paragraph], 260.0, (region,))
    beside = [line for line in text.lines if line.top < 60 and line.bottom > 10]
    tops = [line.top for line in beside]
    assert len(tops) == 2 * len(set(tops)) > 4
    assert all(line.right <= 100.01 or line.left >= 159.99 for line in beside)
    plain = set_text([paragraph], 260.0)
    words = [w for line in text.lines for w in line.text.split()]
    assert words == [w for line in plain.lines for w in line.text.split()]


def test_a_picture_pushes_text_away_by_what_can_be_seen_of_it():
    import io

    from PIL import Image, ImageDraw

    from hidden_frame.storage.pictures import picture_from_bytes

    image = Image.new("RGBA", (200, 100), (0, 0, 0, 0))
    ImageDraw.Draw(image).polygon([(100, 0), (199, 99), (0, 99)], fill=(10, 90, 60, 255))
    buffer = io.BytesIO()
    image.save(buffer, "PNG")
    picture, _ = picture_from_bytes(buffer.getvalue(), "hill.png")
    assert picture.contour
    item = PictureFrame(id="p", x=0, y=0, width=200, height=100, picture=picture.hash,
                        fit="stretch", around=Around("outline", 5.0))  # fmt: skip
    corners = grown_outline(item, (picture,))
    # The hill is 2 pixels wider a row on either side: an oracle by hand, within a band.
    for top in (10.0, 40.0, 80.0):
        stretches, _ = Region(-50.0, 300.0, outlines=(Outline(corners, True),)).stretches(top, 5.0)
        (_, begins), (ends, _) = stretches
        half = min(top + 10.0, 100.0)
        assert begins == pytest.approx(100.0 - half - 5.0, abs=2.5)
        assert ends == pytest.approx(100.0 + half + 5.0, abs=2.5)
    opaque = picture_from_bytes(_opaque(), "plain.png")[0]
    assert opaque.contour == ()


def _opaque() -> bytes:
    import io

    from PIL import Image

    buffer = io.BytesIO()
    Image.new("RGBA", (8, 8), (9, 9, 9, 255)).save(buffer, "PNG")
    return buffer.getvalue()
