"""Find and replace against Python's `re` on the plain characters."""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.find import Query, TextRange, characters, hits, replaced
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.finds.finding import (
    SearchScope,
    TextSpot,
    found,
    page_in_words,
    replaced_all,
    replaced_one,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import IndexMark, Look, Marker, Note, Paragraph, Run
from hidden_frame.model.trims import TRIMS

LINES = st.lists(st.text("abAB ä.", max_size=14), min_size=1, max_size=5)
WORDS = st.text("abAä.", min_size=1, max_size=3)
EXPRESSIONS = st.sampled_from([r"a+b", r"(a)(b)", r"[ab]{2}", r"\bA", r"b|ä", r"\.", r"a*"])


def text_of(lines, style="body"):
    return tuple(Paragraph(style, (Run(line),) if line else ()) for line in lines)


@given(LINES, WORDS, st.booleans(), st.booleans(), st.text("xy\\1", max_size=3))
def test_words_are_found_and_replaced_as_re_does(lines, words, case, whole, by):
    text, query = text_of(lines), Query(words, case, whole)
    source = rf"(?<!\w){re.escape(words)}(?!\w)" if whole else re.escape(words)
    wanted = re.compile(source, 0 if case else re.IGNORECASE)
    expected = [(n, *m.span()) for n, line in enumerate(lines) for m in wanted.finditer(line)]
    assert [tuple(hit) for hit in hits(text, query)] == expected
    new, count = replaced(text, query, by)
    assert [characters(p) for p in new] == [wanted.sub(lambda _: by, line) for line in lines]
    assert count == len(expected)
    assert all(a is b for a, b in zip(text, new, strict=True) if a == b)


@given(LINES, EXPRESSIONS)
def test_expressions_are_replaced_as_re_does(lines, source):
    text, wanted = text_of(lines), re.compile(source)
    by = r"<\1>" if wanted.groups else "<>"
    new, _ = replaced(text, Query(source, case=True, regular=True), by)
    # places without width are left out
    expected = [wanted.sub(lambda m: m.expand(by) if m.group() else "", line) for line in lines]
    assert [characters(p) for p in new] == expected


MARKS = st.lists(st.tuples(st.integers(0, 14), st.sampled_from("in")), max_size=4)


@given(st.text("abA ä.", min_size=1, max_size=14), MARKS, WORDS, st.text("xy", max_size=3))
def test_marks_and_notes_part_no_words_and_are_not_lost(line, marks, words, by):
    """What is found and put in is as without them; each still stands there, in order."""
    content, at = [], 0
    for place, kind in sorted(marks):
        if place > at:
            content += [Run(line[at:place])] if line[at:place] else []
            at = place
        content.append(IndexMark(f"term {at}") if kind == "i" else Note((Run(f"note {at}"),)))
    content += [Run(line[at:])] if line[at:] else []
    bare, text = text_of([line]), (Paragraph("body", tuple(content)),)
    count = len(list(hits(bare, Query(words))))
    assert len(list(hits(text, Query(words)))) == count
    new, changed = replaced(text, Query(words), by)
    assert changed == count
    there = [c for c in new[0].content if isinstance(c, IndexMark | Note)]
    assert there == [c for c in content if isinstance(c, IndexMark | Note)]
    shown = "".join(c.text for c in new[0].content if isinstance(c, Run))
    assert shown == characters(replaced(bare, Query(words), by)[0][0])
    for hit in hits(text, Query(words)):
        alone, _ = replaced(text, Query(words), by, hit)
        assert alone != text or by == words


def test_looks_styles_and_markers_stay():
    look = Look(italic=True)
    text = (Paragraph("body", (Run("red "), Run("star", look=look), Marker("folio"), Run(" end"))),)
    new, count = replaced(text, Query("star"), "giant")
    assert count == 1 and new[0].content[1] == Run("giant", look=look)
    assert Marker("folio") in new[0].content
    assert list(hits(text, Query("star", style="heading"))) == []


@pytest.mark.parametrize(
    ("query", "by", "said"),
    [
        (Query(""), "", "nothing to search for"),
        (Query("(", regular=True), "", "not a regular expression"),
        (Query("a", regular=True), r"\3", "names a group"),
    ],
)
def test_what_can_not_be_looked_for_is_said(query, by, said):
    with pytest.raises(Refusal, match=said):
        replaced(text_of(["aaa"]), query, by)


def test_everything_is_looked_through_with_its_place():
    publication = new_publication("Book", Setup(trim=TRIMS["A5"]), 2)
    master, page = publication.masters[0].id, all_pages(publication)[1].id
    frame = TextFrame(id="", x=30, y=30, width=200, height=60, text=text_of(["a star"]))
    publication, _ = add_item(publication, master, frame)
    publication, _ = add_item(publication, page, replace(frame, text=text_of(["two stars, star"])))
    publication, story = pour(publication, publication.sections[0].id, text_of(["star of a story"]))
    composition = Composer().compose(publication)
    everywhere = found(composition, Query("star"))
    assert [page_in_words(composition, f.page_id) for f in everywhere] == [
        "no room", "master Base", "2", "2"]  # fmt: skip
    assert (everywhere[0].before, everywhere[0].words, everywhere[0].after) == (
        "", "star", " of a story")  # fmt: skip
    assert len(found(composition, Query("star"), SearchScope(TextSpot(story)))) == 1
    after = replaced_all(publication, Query("star", whole=True), "sun")
    assert after.times == 3 and problems(after.publication) == []
    assert plain(after.publication.stories[0].text) == "sun of a story"
    one = replaced_one(publication, everywhere[2], Query("star"), "sun")
    assert "two suns, star" in Composer().compose(one).scene(page).text_of()


@given(LINES, WORDS, st.data())
def test_only_what_is_selected_is_replaced(lines, words, data):
    """Against the same on the selected characters alone, in one paragraph."""
    text = text_of(lines)
    number = data.draw(st.integers(0, len(lines) - 1))
    line = lines[number]
    start = data.draw(st.integers(0, len(line)))
    end = data.draw(st.integers(start, len(line)))
    stretch = TextRange((number, start), (number, end))
    new, count = replaced(text, Query(words, case=True), "xyz", within=stretch)
    whole = [m.span() for m in re.finditer(re.escape(words), line)]
    inside = [span for span in whole if start <= span[0] and span[1] <= end]
    assert count == len(inside)
    for a, b in reversed(inside):
        line = line[:a] + "xyz" + line[b:]
    assert [characters(p) for p in new] == [*lines[:number], line, *lines[number + 1 :]]


def test_an_expression_that_would_take_years_is_stopped(monkeypatch):
    monkeypatch.setattr("hidden_frame.edit.text.find.PATIENCE", 0.2)
    text = text_of(["a" * 60 + "!"] * 500)
    with pytest.raises(Refusal, match="takes too long"):
        list(hits(text, Query(r"(a|aa|b?a)+$", regular=True)))
