"""Whatever a style says, with whatever text: it composes, saves, opens and exports."""

from __future__ import annotations

import time

import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style, restated
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.edit.stories import pour, start_story
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Grid, Size
from hidden_frame.model.invariants import check
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.numbering import ListNumber
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import ComputedStyle, ParagraphStyle, Rule
from hidden_frame.model.text import Paragraph, Run, TabStop
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes

BARE = change_setup(
    new_publication("Any style", Setup(trim=Size(400, 500)), 2), grid=Grid(20.0, 13.0)
)
PAGE = all_pages(BARE)[0].id
rules = st.none() | st.builds(
    Rule, st.floats(0.1, 20), st.floats(-50, 50), st.sampled_from(["column", "text"])
)
numbers = st.none() | st.builds(
    ListNumber,
    form=st.sampled_from(["{1}.", "•", "Chapter {1}", "{1}.{2}.{9}", "{", "\u200f{1}", "a\tb"]),
    level=st.integers(1, 9),
    numerals=st.sampled_from(["decimal", "upper roman", "lower letters", "none"]),
    start=st.integers(1, 5000),
)
styles = st.fixed_dictionaries(
    {
        "size": st.floats(1, 90), "leading": st.floats(1, 120),
        "alignment": st.sampled_from(["left", "right", "centre", "justified", "inside"]),
        "space_before": st.floats(0, 300), "indent_left": st.floats(0, 500),
        "indent_right": st.floats(0, 500), "indent_first": st.floats(-300, 300),
        "tabs": st.just(()) | st.just((TabStop(5000.0), TabStop(None, "right", "."))),
        "tracking": st.floats(-200, 400), "hyphenate": st.booleans(),
        "language": st.sampled_from([None, "en_GB", "ar", "zz"]),
        "underline": st.booleans(), "strike": st.booleans(), "fractions": st.booleans(),
        "case": st.sampled_from(["as typed", "capitals", "small capitals"]),
        "figures": st.sampled_from(["as the font", "old style"]),
        "raised": st.sampled_from(["no", "superior", "inferior"]), "shift": st.floats(-99, 99),
        "breaking": st.sampled_from(["paragraph", "line"]),
        "word_space_least": st.floats(0.3, 1), "word_space_most": st.floats(1, 10),
        "letter_space": st.floats(0, 200), "hyphens_in_a_row": st.integers(0, 5),
        "hyphen_word": st.integers(1, 9), "hyphen_before": st.integers(1, 9),
        "hyphen_after": st.integers(1, 9), "hanging_punctuation": st.booleans(),
        "keep_next": st.booleans(), "keep_together": st.booleans(),
        "least_foot": st.sampled_from([1, 2, 40]), "least_head": st.sampled_from([1, 2, 40]),
        "starts": st.sampled_from(["anywhere", "frame", "page", "right page", "left page"]),
        "on_grid": st.booleans(), "drop_lines": st.sampled_from([0, 2, 3, 20]),
        "balanced": st.booleans(), "glyph_scale": st.floats(0, 5),
        "reads": st.sampled_from(["as its letters", "left to right", "right to left"]),
        "drop_letters": st.sampled_from([1, 2, 20]), "rule_above": rules, "rule_below": rules,
        "number": numbers,
    }
)  # fmt: skip
texts = st.lists(
    st.text(
        st.one_of(
            st.characters(exclude_categories=("Cs", "Cn")),
            st.sampled_from("abc fi VA -–—’ \t\u2028\u00ad 12/3 שלום سلام \u202b\u2067\u0301夜"),
        ), max_size=60,
    ), min_size=1, max_size=4,
)  # fmt: skip


def styled(values, texts, width=200.0, height=160.0):
    publication = put_paragraph_style(BARE, ParagraphStyle(id="any", name="Any", **values))
    text = tuple(Paragraph("any", (Run(t),) if t else ()) for t in texts)
    frame = TextFrame(id="", x=30, y=30, width=width, height=height)
    publication, item = add_item(publication, PAGE, replace(frame, text=text))
    publication, story = start_story(publication, PAGE, item)
    return add_item(publication, PAGE, replace(frame, y=250, text=text))[0], story


@settings(max_examples=150, deadline=None)
@given(styles, texts, st.floats(2, 300), st.floats(2, 300))
@example({"keep_together": True, "keep_next": True}, ["night " * 300] * 3, 90.0, 60.0)
@example({"drop_lines": 20, "size": 90.0, "leading": 90.0}, ["Night sky " * 9], 90.0, 30.0)
@example({"least_foot": 40, "least_head": 40}, ["night " * 200], 90.0, 60.0)
@example({"tabs": (TabStop(5000.0),)}, ["a\tb\tc"], 90.0, 60.0)
@example({}, ["\u0301" * 400], 90.0, 60.0)
@example({}, ["\u202b\u2067" * 300 + "a"], 90.0, 60.0)
def test_any_style_with_any_text(values, texts, width, height):
    publication, story = styled(values, texts, width, height)
    composition = Composer().compose(check(publication))
    assert composition.scene(PAGE) is not None
    assert composition.flow(story).words_left >= 0
    assert pdf_bytes(composition, {}).startswith(b"%PDF")
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication


def seen(scene):
    """Every line of a page, glyph run by glyph run."""
    return [
        (line.text, line.x, line.top, line.left, line.right, line.start, line.line.end,
         [(run.text, run.xs, run.setting, run.span.ink) for run in line.runs])
        for placed in scene.placed for primitive in placed.drawing.primitives
        if isinstance(primitive, TextPrimitive) for line in primitive.text.lines
    ]  # fmt: skip


@settings(max_examples=150, deadline=None)
@given(styles, texts, st.floats(2, 300), st.integers(1, 12))
@example({}, ["two  spaces at the end  "], 60.0, 9)
@example({"breaking": "line"}, ["night sky of two  spaces \u2028 x "], 60.0, 9)
@example({"letter_space": 120.0, "alignment": "justified"}, ["night sky"], 90.0, 9)
def test_lines_that_were_let_go_are_made_again_as_they_were(values, texts, width, times):
    publication, _ = styled(values, [text * times for text in texts], width, 400.0)
    scene = Composer().compose(check(publication)).scene(PAGE)
    before = seen(scene)
    scene.rest()
    assert seen(scene) == before


def test_lines_of_plain_paragraphs_are_let_go():
    publication, _ = styled({"alignment": "justified", "hyphenate": True}, ["The night sky. " * 40])
    scene = Composer().compose(publication).scene(PAGE)
    texts = [p.text for placed in scene.placed for p in placed.drawing.primitives]
    sets = [block.set for text in texts for f in text.fragments for block in f.blocks]
    before = seen(scene)
    scene.rest()
    assert sets and all(one._lines is None for one in sets)
    assert seen(scene) == before


@settings(max_examples=40, deadline=None)
@given(styles, texts)
def test_a_story_in_any_style_grows_or_says_why_not(values, texts):
    publication, _ = styled(values, [""])
    text = tuple(Paragraph("any", (Run(t),) if t else ()) for t in texts)
    frame = TextFrame(id="", x=30, y=30, width=200, height=160, main=1)
    master = publication.masters[0].id
    publication, _ = add_item(publication, master, frame)
    start = time.monotonic()
    publication, story = pour(publication, publication.sections[0].id, text, "Any")
    publication = settled(publication)
    assert time.monotonic() - start < 60  # it never runs away
    assert find_story(publication, story).text[-len(text) :] == text
    assert len(all_pages(publication)) < 500


def test_a_style_can_not_be_based_on_its_own_heir():
    heir = ParagraphStyle(id="heir", name="Heir", based_on="body")
    publication = put_paragraph_style(BARE, heir)
    wanted = ComputedStyle(id="body", name="Body")
    with pytest.raises(Refusal) as refused:
        check(put_paragraph_style(publication, restated(publication, wanted, "heir")))
    assert "based on" in str(refused.value)
