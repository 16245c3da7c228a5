"""Signs for characters that print nothing, against a plain count of the characters."""

from __future__ import annotations

import unicodedata

from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import IndexMark, Paragraph, Run
from hidden_frame.typeset.caret import caret_at, spans_of, stops
from hidden_frame.typeset.signs import signs

HIDDEN = {"\t": "tab", "\u2028": "line break", "\u00ad": "soft hyphen"}


def set_text(*paragraphs, width=180.0):
    publication = new_publication("Signs", Setup(trim=Size(220, 900)), 1)
    page = all_pages(publication)[0].id
    frame = TextFrame(id="", x=20, y=20, width=width, height=860, text=paragraphs)
    publication, _ = add_item(publication, page, frame)
    scene = Composer().compose(publication).scene(page)
    return next(p.drawing.text.text for p in scene.placed if p.drawing.text is not None)


def wanted(words):
    """The kinds of what prints nothing, in order."""
    kinds = (
        "space" if c == " " else HIDDEN.get(c, "other space")
        for c in words
        if c in HIDDEN or unicodedata.category(c) == "Zs"
    )
    return list(kinds)


@settings(max_examples=80)
@given(st.text(st.sampled_from("ab cd  \t\u2028\u00a0\u2009\u00adאב"), max_size=60))
def test_what_prints_nothing_has_a_sign_unless_a_lines_end_hides_it(words):
    text = set_text(Paragraph("body", (Run(words),)))
    found = [s.kind for s in signs(text, len(text.lines))]
    assert found[-1:] == ["paragraph end"] and found.count("paragraph end") == 1
    for kind in ("tab", "line break", "other space"):
        assert found.count(kind) <= wanted(words).count(kind)
    assert found.count("space") <= words.count(" ")
    if len(text.lines) == 1 and not words.endswith(" "):
        assert sorted(found[:-1]) == sorted(wanted(words))


def test_signs_stand_between_the_words_that_they_part():
    text = set_text(Paragraph("body", (Run("one two\u00a0three"), IndexMark("one"), Run(" four"))))
    found = signs(text, 1)
    kinds = [s.kind for s in found]
    assert kinds == ["space", "other space", "mark", "space", "paragraph end"]
    assert [s.x for s in found] == sorted(s.x for s in found)
    line = text.lines[0]
    assert line.left < found[0].x and abs(found[-1].x - line.right) < 0.01
    assert found[2].wide < 0.01 and all(s.wide > 1 for s in found if "space" in s.kind)


def test_only_the_lines_that_are_shown_have_signs():
    text = set_text(Paragraph("body", (Run("word " * 60),)))
    first = signs(text, 1)
    assert first and {s.baseline for s in first} == {text.lines[0].baseline}
    assert "paragraph end" not in [s.kind for s in first]


@settings(max_examples=80)
@given(st.text(st.sampled_from("ab \t\u2028\u00a0\u00adא"), max_size=40))
def test_the_caret_has_a_place_at_every_character(words):
    text = set_text(Paragraph("body", (Run(words),)), width=120.0)
    for line in text.lines:
        places = stops(line)
        assert [n for n, _ in places] == list(range(line.start, line.end + 1))
        if not line.line.both_ways:
            assert [x for _, x in places] == sorted(x for _, x in places)


def test_a_place_between_two_tabs_is_between_them():
    text = set_text(Paragraph("body", (Run("a\t\tb"),)))
    first, between, behind = (caret_at(text, 0, n).x for n in (1, 2, 3))
    assert first + 5 < between < behind - 5
    (box,) = spans_of(text, (0, 2), (0, 3))
    assert box.left == between
