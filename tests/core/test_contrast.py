"""Contrast by the formula of WCAG 2.2, and where text is hard to read."""

from __future__ import annotations

import io

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.contrast import poor_texts
from hidden_frame.compose.ground import contrast, luminance, rgb
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.model.items import PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Colour, Fill
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.storage.pictures import picture_from_bytes
from hidden_frame.typeset.paragraph import SpotInk

shares = st.tuples(*[st.floats(0, 1)] * 3)


def web(text):
    return tuple(int(text[n : n + 2], 16) / 255 for n in (1, 3, 5))


def test_published_examples_of_the_formula():
    # WCAG 2.2, definition of relative luminance: 0 for the darkest black, 1 for the lightest
    # white; definition of contrast ratio: from 1 to 21.
    assert luminance((0, 0, 0)) == 0 and luminance((1, 1, 1)) == pytest.approx(1)
    assert contrast((0, 0, 0), (1, 1, 1)) == pytest.approx(21)
    # Understanding SC 1.4.3 (from memory): #777777 on white is 4.47 : 1 and fails, while
    # #767676 on white, at 4.54 : 1, is the lightest grey that passes.
    assert contrast(web("#777777"), (1, 1, 1)) == pytest.approx(4.47, abs=0.01)
    assert contrast(web("#767676"), (1, 1, 1)) == pytest.approx(4.54, abs=0.01)


@given(shares, shares)
def test_contrast_is_symmetric_and_within_its_bounds(one, other):
    ratio = contrast(one, other)
    assert ratio == contrast(other, one)
    assert 1 <= ratio <= 21.0001


def test_inks_as_a_screen_shows_them():
    assert rgb((0.2, 0.4, 0.6)) == (0.2, 0.4, 0.6)
    assert rgb((0, 0, 0, 1)) == (0, 0, 0)
    assert rgb((1, 0, 0, 0)) == (0, 1, 1)
    assert rgb(SpotInk("Copper", 0.5, (0.0, 1.0, 1.0, 0.0))) == (1, 0.5, 0.5)


def scene_with(small, *items):
    page = all_pages(small)[2].id
    publication, ids = small, []
    for item in items:
        publication, made = add_item(publication, page, item)
        ids.append(made)
    return Composer().compose(publication).scene(page), ids


TEXT = (Paragraph("body", (Run("hard to read"),)),)


def test_dark_text_on_a_dark_shape_is_reported_and_on_paper_is_not(small):
    ground = Shape(id="", x=40, y=40, width=300, height=200, fill=Fill("ink"))
    on_it = TextFrame(id="", x=60, y=60, width=200, height=40, text=TEXT)
    beside = TextFrame(id="", x=60, y=300, width=200, height=40, text=TEXT)
    scene, (_, dark, light) = scene_with(small, ground, on_it, beside)
    poor = poor_texts(scene)
    assert set(poor) == {dark} and light not in poor
    assert poor[dark].ratio == pytest.approx(1) and "4.5 : 1" in poor[dark].sentence


def test_large_text_needs_less(small):
    # A grey of about 3.5 : 1 on white passes for large text (from 18 pt) alone.
    grey = Colour(id="grey", name="Grey", values=web("#888888"))
    style = replace(small.paragraph_styles[0], id="big", name="Big", size=20.0, leading=24.0)
    small = replace(
        small, colours=(*small.colours, grey),
        paragraph_styles=(*small.paragraph_styles, replace(style, colour="grey"),
                          replace(small.paragraph_styles[0], id="s", name="S", colour="grey")),
    )  # fmt: skip
    big = TextFrame(
        id="", x=40, y=40, width=200, height=40, text=(Paragraph("big", TEXT[0].content),)
    )
    little = TextFrame(
        id="", x=40, y=90, width=200, height=40, text=(Paragraph("s", TEXT[0].content),)
    )
    scene, (_, small_id) = scene_with(small, big, little)
    assert set(poor_texts(scene)) == {small_id}


def test_text_over_a_picture_is_judged_by_its_colours_where_they_are_known(small):
    buffer = io.BytesIO()
    Image.new("RGB", (30, 30), "black").save(buffer, "PNG")
    picture, _ = picture_from_bytes(buffer.getvalue(), "black.png")
    frame = PictureFrame(id="", x=0, y=0, width=400, height=400, picture=picture.hash)
    text = TextFrame(id="", x=60, y=60, width=200, height=40, text=TEXT)
    scene, (_, over) = scene_with(put_picture(small, picture), frame, text)
    assert poor_texts(scene)[over].ratio == 1.0
    unknown = replace(picture, tones=b"")  # of a drawing, or from an older file
    scene, _ = scene_with(put_picture(small, unknown), frame, text)
    assert poor_texts(scene) == {}


def test_a_frames_own_fill_counts_as_what_lies_under_its_text(small):
    dark = TextFrame(id="", x=40, y=40, width=200, height=40, text=TEXT, fill=Fill("ink"))
    pale = TextFrame(id="", x=40, y=140, width=200, height=40, text=TEXT,
                     fill=Fill("ink", opacity=0.05))  # fmt: skip
    scene, (first, second) = scene_with(small, dark, pale)
    assert first in poor_texts(scene) and second not in poor_texts(scene)
