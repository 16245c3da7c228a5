"""Pages of HTML that are pasted: their words against lxml, structure, whole paragraphs."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st
from lxml import html as lxml_html

from hidden_frame.demo.book import long_book
from hidden_frame.edit.stories import set_story_text
from hidden_frame.edit.text.put import put_paragraphs
from hidden_frame.edit.text.steps import length, letters
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.pasting import HERE, all_there, pasted, styles_for
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.valid import check_change
from hidden_frame.settle.settling import settled
from hidden_frame.storage.manuscripts.hypertext import read_html

BOOK = settled(long_book(chapters=1))
BODY = BOOK.paragraph_styles[0].id


def text_of(*strings):
    return tuple(Paragraph(BODY, (Run(s),) if s else ()) for s in strings)


WORDS = st.text("ab &é<夜.", min_size=1, max_size=8).map(lambda s: s.replace("<", "&lt;"))
INLINE = st.recursive(
    WORDS,
    lambda inner: st.builds(
        "<{0}>{1}</{0}>".format, st.sampled_from(["b", "i", "span", "a", "sup", "font"]), inner
    ) | st.lists(inner, max_size=3).map("".join),
    max_leaves=5,
)  # fmt: skip
BLOCKS = st.recursive(
    st.builds("<{0}>{1}</{0}>".format, st.sampled_from(["p", "h1", "h3", "div", "pre"]), INLINE),
    lambda inner: st.builds(
        "<{0}>{1}</{0}>".format, st.sampled_from(["div", "blockquote", "section", "b"]), inner
    )
    | st.lists(inner, max_size=4).map("\n".join)
    | st.lists(inner, min_size=1, max_size=3).map(
        lambda parts: "<ol>" + "".join(f"<li>{p}</li>" for p in parts) + "</ol>")
    | st.lists(inner, min_size=1, max_size=3).map(
        lambda parts: "<table>\n<tr>\n" + "\n".join(f"<td>{p}</td>" for p in parts)
        + "</tr></table>"),
    max_leaves=8,
)  # fmt: skip


@given(BLOCKS | INLINE)
def test_no_word_of_a_page_is_lost_or_doubled(page):
    """Against lxml's own text of it."""
    source = read_html(page, "page")
    found = "".join(p.text for p in source.paragraphs)
    wanted = lxml_html.document_fromstring(page or "<p></p>").text_content()
    assert "".join(found.split()) == "".join(wanted.split())


@given(BLOCKS, st.lists(st.text("ab ", max_size=6), min_size=1, max_size=3), st.data())
def test_whatever_is_pasted_can_be_kept_and_parts_no_words(page, strings, data):
    publication = settled(set_story_text(BOOK, BOOK.stories[0].id, text_of(*strings)))
    text = publication.stories[0].text
    index = data.draw(st.integers(0, len(text) - 1))
    place = (index, data.draw(st.integers(0, length(text[index]))))
    source = read_html(page, "page")
    likely, _ = styles_for(publication, source.styles, {})
    made, new, end = pasted(publication, text, place, source, likely, {})
    made = set_story_text(made, publication.stories[0].id, new)
    check_change(publication, made)
    flat = "".join(map(letters, text))
    at = sum(length(p) for p in text[:index]) + place[1]
    came = "".join(p.text for p in source.paragraphs)
    assert "".join(map(letters, new)) == flat[:at] + came + flat[at:]
    assert 0 <= end[0] < len(new) and 0 <= end[1] <= length(new[end[0]])


def test_headings_lists_and_looks_come_with_their_structure():
    page = (
        '<b style="font-weight:normal"><h1>Part</h1><h2>Chapter</h2>'
        '<p>Some <span style="font-weight:700">bold</span>, <em>slanted</em> and '
        '<span style="font-variant:small-caps">small</span> words.</p>'
        '<ol start="4"><li>four<ul><li>inner</li></ul></li><li>five</li></ol></b>'
    )
    source = read_html(page, "page")
    likely, asked = styles_for(BOOK, source.styles, {})
    made, text, end = pasted(BOOK, text_of("before after"), (0, 7), source, likely, {})
    names = {s.id: s.name for s in made.paragraph_styles}
    assert [plain((p,)) for p in text] == [
        "before ", "Part", "Chapter", "Some bold, slanted and small words.", "four", "inner",
        "five", "after",
    ]  # fmt: skip
    assert end == (6, 4)
    assert names[text[4].style] == "List number" and names[text[5].style] == "List bullet 2"
    numbered = next(s for s in made.paragraph_styles if s.id == text[4].style)
    assert numbered.number is not None and text[4].count_from == 4
    looks = {plain((Paragraph(BODY, (c,)),)): c.look for c in text[3].content}
    assert looks["bold"].bold and looks["slanted"].italic
    assert looks["small"].case == "small capitals" and looks["Some "] is None
    assert "Heading 2" in asked and "Normal" not in asked
    assert text[7].style == text[0].style == text[3].style == BODY


def test_what_was_chosen_once_is_not_asked_again():
    names = ["Heading 2", "List bullet", "Quote", "Normal", "Table"]
    _, asked = styles_for(BOOK, names, {})
    assert asked == ["Heading 2", "List bullet", "Quote", "Table"]
    body = BOOK.paragraph_styles[0].name
    likely, asked = styles_for(
        BOOK, names, {"Heading 2": body, "List bullet": "", "Quote": "gone", "Table": ""}
    )
    assert asked == ["Quote"]
    assert likely["Heading 2"] == BODY and likely["List bullet"] == likely["Table"] == HERE


def test_cells_of_a_spreadsheet_come_as_rows_with_tabs():
    page = """<meta charset="utf-8"><table>
      <colgroup width="85"></colgroup>
      <tr> <td height="17">Lamp</td> <td><b>Oil</b></td> </tr>
      <tr><td></td><td colspan=2 sdval="3">3</td><td>7</td></tr></table>"""
    source = read_html(page, "page")
    assert [p.text for p in source.paragraphs] == ["Lamp\tOil", "\t3\t\t7"]


@pytest.mark.parametrize(("place", "goes_on", "expected"), [
    ((0, 0), True, ["X", "Y", "one two"]),
    ((0, 4), True, ["one X", "Y", "two"]),
    ((0, 4), False, ["one ", "X", "Y", "two"]),
    ((0, 7), True, ["one twoX", "Y"]),
    ((0, 7), False, ["one two", "X", "Y"]),
])  # fmt: skip
def test_paragraphs_stay_paragraphs(place, goes_on, expected):
    piece = (Paragraph("head", (Run("X"),)), Paragraph("note", (Run("Y"),)))
    text, end = put_paragraphs(text_of("one two"), place, piece, goes_on=goes_on)
    assert [plain((p,)) for p in text] == expected
    assert plain((text[end[0]],))[: end[1]].endswith("Y") and text[end[0]].style == "note"
    assert text[-1].style == (BODY if expected[-1] != "Y" else "note")


def test_words_that_stand_deep_are_there():
    source = read_html("<div>" * 240 + "deep <b>words</b>" + "</div>" * 240, "page")
    assert [p.text for p in source.paragraphs] == ["deep words"]


@pytest.mark.parametrize("page", [
    "<div>" * 10_000 + "deep words" + "</div>" * 10_000,
    "<p>x" + "<b>" * 10_000 + "deep words",
    "<p>x</p>" + "<table>" * 5_000 + "deep words",
])  # fmt: skip
def test_a_page_that_can_not_be_read_whole_is_known_by_the_words_beside_it(page):
    """Beyond what libxml2 nests."""
    said = "x and these words that stand too deep"
    assert not all_there(read_html(page, "page"), said)
    assert all_there(read_html(f"<p>{said}</p>", "page"), said)
