"""Manuscripts that are made to take for ever, or to lose their words on the way."""

from __future__ import annotations

import itertools
import random
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.model.errors import Refusal
from hidden_frame.storage.manuscripts import clock
from hidden_frame.storage.manuscripts.bounded import DEEPEST, Parsed
from hidden_frame.storage.manuscripts.hypertext import (
    _ATTRIBUTE,
    _MOST_ATTRIBUTES,
    _TAG,
    _with_fewer_attributes,
    read_html,
)
from hidden_frame.storage.manuscripts.manuscript import report_in_words
from hidden_frame.storage.manuscripts.marked import read_markdown
from hidden_frame.storage.manuscripts.read import of_bytes

PAIRS = list(itertools.product("bcdfghjk", "aeiou"))


def words(manuscript):
    return re.findall(r"w\d+", " ".join(p.text for p in manuscript.paragraphs))


@pytest.mark.parametrize("sign", ["[", "![", "^[", "[^", "[a\n", "[[]", "[x]("])
def test_brackets_cost_what_they_are_long(sign):
    short, long = (Parsed(sign * n)._steps for n in (20_000, 80_000))
    assert long < 5 * short + 10_000


@pytest.mark.parametrize("sign", ["[", "![", "^[", "[^"])
def test_brackets_that_open_nothing_stay_as_typed(sign):
    text = sign * 3_000
    (paragraph,) = read_markdown(text, "a").paragraphs
    assert paragraph.text == text


def test_links_before_and_behind_many_brackets():
    lines = [
        f"See [w{n}](https://example.invalid/{n}) and [w{n + 1}] there." for n in range(0, 400, 2)
    ]
    assert words(read_markdown("\n\n".join(lines), "a")) == [f"w{n}" for n in range(400)]
    told = read_markdown("[" * 70_000 + "\n\n" + lines[0], "a")
    assert words(told)[-2:] == ["w0", "w1"]
    assert "link among brackets was left out" in report_in_words(told)


@given(st.lists(st.tuples(st.sampled_from(["> ", "- ", "1. ", ">"]), st.integers(0, 400)),
                min_size=1, max_size=8))  # fmt: skip
def test_however_deep_markdown_is_nested_its_words_come(lines):
    text = "\n\n".join(sign * deep + f"w{n}" for n, (sign, deep) in enumerate(lines))
    found = read_markdown(text, "a")
    assert words(found) == [f"w{n}" for n in range(len(lines))]
    if max((deep for sign, deep in lines if sign == "> "), default=0) > DEEPEST:
        assert found.left["levels of nesting"]


@given(st.lists(st.tuples(st.sampled_from(["div", "b", "p", "ul", "li", "blockquote", "table", "td",
                                           "span", "h1", "a", "sup"]),
                          st.integers(1, 900)), min_size=1, max_size=6), st.booleans())  # fmt: skip
def test_however_deep_a_page_is_nested_its_words_come(parts, closed):
    page = ""
    for n, (tag, deep) in enumerate(parts):
        page += f"<{tag}>" * deep + f"w{n}" + (f"</{tag}>" * deep if closed else "")
    found = read_html(page, "a")
    # Words between a table's parts are set before it (HTML, 13.2.6.1), so their order is not asked.
    assert sorted(words(found)) == sorted(f"w{n}" for n in range(len(parts)))


def test_deeper_than_the_parser_goes_without_structure_and_told():
    page = "<div>" * 5_000 + "w0<script>w1</script><p>w2" + "</div>" * 5_000 + "<p>w3"
    found = read_html(page, "a")
    assert words(found) == ["w0", "w2", "w3"]
    assert "level of nesting was left out" in report_in_words(found)


def test_a_tag_with_more_attributes_than_any_has():
    many = " ".join(f"a{n}='> {n}'" for n in range(20_000))
    page = f"<p>w0 <span class='x' {many}>w1</span> w2"
    assert words(read_html(page, "a")) == ["w0", "w1", "w2"]
    cut = _TAG.sub(_with_fewer_attributes, page)
    assert len(_ATTRIBUTE.findall(cut)) < _MOST_ATTRIBUTES + 40


@given(st.text(alphabet="<>ab =\"'/\n", max_size=300))
def test_tags_are_found_from_left_to_right_and_cover_what_they_cover(text):
    """Nothing outside tags is touched, and no tag with few attributes."""
    assert _TAG.sub(_with_fewer_attributes, text) == text


@pytest.mark.parametrize(
    ("kind", "text"),
    [("md", "[" * 5_000), ("md", "> " * 400 + "x\n\n" * 50), ("html", "<p>x" * 2_000)],
)
def test_what_takes_too_long_is_told(kind, text, monkeypatch):
    monkeypatch.setattr(clock, "MOST_SECONDS", -1.0)
    with pytest.raises(Refusal, match="takes too long to read"):
        of_bytes(text.encode(), "notes", f"notes.{kind}", kind)


def test_a_page_with_the_declaration_of_xml():
    page = '<?xml version="1.0" encoding="iso-8859-1"?><html><body><p>w0 é</p></body></html>'
    for given_as in (page, page.encode()):
        assert [p.text for p in read_html(given_as, "a").paragraphs] == ["w0 é"]


@pytest.mark.parametrize("seed", range(6))
def test_markdown_of_all_signs_is_read_whole(seed):
    """Every word that stands alone comes, in whatever signs it stands."""
    random.seed(seed)
    signs = ["[", "]", "!", "^", ">", "- ", "*", "_", "`", "|", "#", "\n", "\n\n", "  ", "1. "]
    for _ in range(60):
        text, asked = "", [a + b for a, b in random.sample(PAIRS, random.randint(1, 40))]
        for word in asked:
            text += "".join(random.choices(signs, k=random.randint(0, 6))) + f" {word} "
        if "```" in text:  # what stands behind a fence is no word of the text
            continue
        told = " ".join(p.text for p in read_markdown(text, "a").paragraphs)
        assert sorted(re.findall("[a-z]+", told)) == sorted(asked), text  # notes go to the end
