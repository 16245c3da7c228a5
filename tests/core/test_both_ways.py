"""Text that is read from right to left, and both ways on one line."""

from __future__ import annotations

import io
import lzma
from itertools import pairwise
from pathlib import Path

import pdfplumber
import pypdf
import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.typeset.bidi import levels as levels_module
from hidden_frame.typeset.bidi.levels import base_level, levels
from hidden_frame.typeset.bidi.order import visual
from hidden_frame.typeset.caret import place_at, spans_of, stops
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.lines import set_lines
from hidden_frame.typeset.paragraph import Dress, ParagraphSpec, Span, Tab
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.shaping import setting_of, shape
from hidden_frame.typeset.text import set_text

# The Unicode Consortium's own cases, Unicode 15.0 (Debian's package unicode-data).
CASES = Path(__file__).parent.parent / "data" / "BidiCharacterTest.txt.xz"
BLACK = (0.0, 0.0, 0.0)
HEBREW = setting_of(font_book().face("Noto Serif Hebrew"), 10.0)
LATIN = setting_of(font_book().face("Spectral"), 10.0)
mixed = st.lists(
    st.one_of(
        st.text("אבגדה", min_size=1, max_size=6), st.text("abcde", min_size=1, max_size=6),
        st.sampled_from(["12", "(", ")", "-5", "\u202b", "\u202c", "\u2067", "\u2069", "،"]),
    ), min_size=1, max_size=25,
).map(" ".join)  # fmt: skip


def cases():
    with lzma.open(CASES, "rt", encoding="utf-8") as lines:
        for line in lines:
            if line.strip() and not line.startswith("#"):
                yield line.strip().split(";")


def test_levels_and_order_are_those_of_unicodes_own_cases():
    count = 0
    for codes, direction, base, expected, order in cases():
        text = "".join(chr(int(code, 16)) for code in codes.split())
        wanted = None if direction == "2" else int(direction)
        found = levels(text, wanted)
        seen = [n for n, level in enumerate(expected.split()) if level != "x"]
        assert [str(found[n]) for n in seen] == [x for x in expected.split() if x != "x"], codes
        assert [seen[n] for n in visual([found[n] for n in seen])] == list(map(int, order.split()))
        assert wanted is not None or base_level(text) == int(base)
        count += 1
    assert count > 91_000


def spec(text, align="left", **more):
    spans = []
    for part in text.split("|"):
        rtl = any("\u0590" <= c <= "\u05ff" for c in part)
        spans.append(Span(part, HEBREW if rtl else LATIN, BLACK))
    return ParagraphSpec(tuple(spans), LATIN, 14.0, align, **more)


def in_sight(line):
    """The words of a line from left to right."""
    words = [(x, w.text) for run in line.runs for w, x in zip(run.words, run.xs, strict=True)]
    return [text for _, text in sorted(words) if text]


def test_words_stand_in_the_order_of_sight():
    (line,) = set_lines(spec("one |אב גד| (12) two"), 300.0)
    # A number behind Hebrew belongs to it, its brackets too (UAX #9, N0); they are mirrored.
    assert in_sight(line) == ["one", ")", "12", "(", "גד", "אב", "two"]
    (line,) = set_lines(spec("אב |one two| גד"), 300.0)
    assert in_sight(line) == ["גד", "one", "two", "אב"]


def test_brackets_are_mirrored_and_letters_run_from_right_to_left():
    face = HEBREW.face
    assert shape(face, "(", rtl=True).glyphs == shape(face, ")").glyphs
    assert shape(face, "אב", rtl=True).glyphs == shape(face, "אב").glyphs[::-1]


@given(mixed, st.floats(40, 260), st.sampled_from(["left", "right", "justified"]))
def test_words_of_either_direction_never_overlap_and_none_is_lost(text, width, align):
    lines = set_lines(spec(text.replace(" ", "| |"), align), width)
    for line in lines:
        reach = sorted(
            (x, x + word.width)
            for run in line.runs
            for word, x in zip(run.words, run.xs, strict=True)
        )
        for (_, right), (left, _) in pairwise(reach):
            assert left >= right - 0.01
        if reach:
            assert reach[0][0] >= -0.01
            assert line.left - 0.01 <= reach[0][0]
            assert reach[-1][1] <= line.right + 0.01
    letters = "".join(line.text for line in lines).replace(" ", "")
    assert letters == text.replace(" ", "")


@given(mixed, st.floats(60, 260))
def test_every_place_of_a_line_can_be_clicked_and_selected(text, width):
    done = set_text([spec(text.replace(" ", "| |"))], [Region(0.0, width)])
    for line in done.lines:
        for _, x in stops(line):
            paragraph, found = place_at(done, x, line.top + 1)
            assert paragraph == 0 and dict(stops(line))[found] == pytest.approx(x, abs=0.01)
        boxes = spans_of(done, (0, line.start), (0, line.end))
        assert all(box.right >= box.left for box in boxes)


def test_the_last_line_of_a_justified_paragraph_stands_at_its_beginning():
    lines = set_lines(spec("|" + "שמי החורף מלאים כוכבים " * 6, "justified", first=12.0), 150.0)
    assert len(lines) > 2
    assert all(line.left == pytest.approx(0.0) for line in lines[:-1])
    assert lines[0].right == pytest.approx(138.0, abs=0.01)  # indented from the right
    assert lines[1].right == pytest.approx(150.0, abs=0.01)
    assert lines[-1].left > 1.0 and lines[-1].right == pytest.approx(150.0, abs=3.0)


def test_hebrew_is_read_back_from_a_pdf_letter_by_letter():
    """By pypdf and PDFium, which put what they see from the left into the order of reading."""
    words = "שמי החורף מלאים בכוכבים רחוקים"
    publication = new_publication("Hebrew", Setup(trim=TRIMS["A5"]), 1)
    page = publication.sections[0].pages[0].id
    frame = TextFrame(id="", x=30, y=30, width=300, height=40,
                      text=(Paragraph("body", (Run(words),)),))  # fmt: skip
    publication, _ = add_item(publication, page, frame)
    data = pdf_bytes(Composer().compose(publication), {})
    assert b"ActualText" not in pypdf.PdfReader(io.BytesIO(data)).pages[0].get_contents().get_data()
    assert sorted(pypdf.PdfReader(io.BytesIO(data)).pages[0].extract_text().split()) == sorted(
        words.split()
    )
    read = pypdfium2.PdfDocument(data)[0].get_textpage().get_text_range()
    assert sorted(read.split()) == sorted(words.split())


@pytest.mark.parametrize("words", ["אבג דהו זחט", "אבג דהו זחט.", "abc אבג def", "אבג 12 דהו"])
@pytest.mark.parametrize("align", ["left", "centre", "justified"])
def test_letters_are_printed_where_their_line_says(words, align):
    """The exported PDF: where its glyphs are by pdfplumber, and by PDFium which letter is where,
    but for a line from left to right, whose other letters say words (`test_read_back`)."""
    publication = new_publication("Places", Setup(trim=TRIMS["A5"]), 1)
    page = publication.sections[0].pages[0].id
    text = (Paragraph("body", (Run(words),), alignment=align),)
    frame = TextFrame(id="", x=30, y=30, width=200, height=40, text=text)
    publication, item = add_item(publication, page, frame)
    composition = Composer().compose(publication)
    placed = next(p for p in composition.scene(page).placed if p.item_id == item)
    (line,) = placed.drawing.text.text.lines
    data = pdf_bytes(composition, {})
    with pdfplumber.open(io.BytesIO(data)) as pdf:
        glyphs = [c for c in pdf.pages[0].chars if c["text"].strip(" .\u200e")]
    expected = sorted(
        30 + line.x + x + (a + b) / 2
        for run in line.runs for word, x in zip(run.words, run.xs, strict=True)
        for letter, (a, b) in zip(word.text, pairwise(word.stops()), strict=True)
        if letter.isalnum()
    )  # fmt: skip
    assert sorted((c["x0"] + c["x1"]) / 2 for c in glyphs) == pytest.approx(expected, abs=0.6)
    if words.startswith("abc"):
        return
    shown = pypdfium2.PdfDocument(data)[0].get_textpage()
    printed = {}
    for n, letter in enumerate(shown.get_text_range()):
        if letter.isalnum():
            left, _, right, _ = shown.get_charbox(n, loose=True)
            printed[letter] = (left + right) / 2
    seen = 0
    for run in line.runs:
        for word, x in zip(run.words, run.xs, strict=True):
            stops = word.stops()
            for n, letter in enumerate(word.text):
                if letter in printed:
                    middle = 30 + line.x + x + (stops[n] + stops[n + 1]) / 2
                    assert printed[letter] == pytest.approx(middle, abs=0.6), letter
                    seen += 1
    assert seen == len(printed) >= 8


# -- the direction that a style says, and tabs ------------------------------------------


def one(text, level=None, **more):
    span = Span(text, LATIN, BLACK)
    return ParagraphSpec((span,), LATIN, 14.0, dress=Dress(level=level), **more)


def cells_of(line):
    """Left and right edge of each stretch between tabs."""
    return [(run.x, run.xs[-1] + run.words[-1].width) for run in line.runs]


@given(st.lists(st.text("abcdefgh", min_size=1, max_size=7), min_size=2, max_size=4),
       st.sampled_from(["left", "right", "centre"]), st.floats(0, 30))  # fmt: skip
def test_tabs_go_from_the_right_where_a_paragraph_is_read_from_there(words, align, first):
    """The same line as in a mirror: cells of one word look the same both ways."""
    tabs = tuple(Tab(60.0 * n, align) for n in (1, 2, 3))
    text = "\t".join(words)
    (there,) = set_lines(one(text, 0, tabs=tabs, first=first), 240.0)
    (here,) = set_lines(one(text, 1, tabs=tabs, first=first), 240.0)
    mirrored = [(240.0 - right, 240.0 - left) for left, right in cells_of(there)]
    assert cells_of(here) == [pytest.approx(cell, abs=0.01) for cell in mirrored]
    assert here.left == pytest.approx(240.0 - there.right, abs=0.01)


def test_what_wraps_behind_a_tab_goes_on_from_the_right():
    text = "ab\t" + "cd " * 60
    lines = set_lines(one(text.strip(), 1, align="right", tabs=(Tab(60.0, "left"),)), 200.0)
    assert len(lines) > 2
    first = cells_of(lines[0])
    assert first[0][1] == pytest.approx(200.0) and first[1][1] == pytest.approx(140.0, abs=0.01)
    assert all(line.right == pytest.approx(200.0, abs=0.01) for line in lines[1:])


def test_a_leader_fills_the_way_to_a_tab_on_the_right():
    (line,) = set_lines(one("ab\tcd", 1, tabs=(Tab(None, "right", "."),)), 200.0)
    (leader,) = line.leaders
    (a, _), (_, d) = cells_of(line)
    assert d <= leader.x and leader.xs[-1] + leader.words[-1].width <= a + 0.01
    assert line.left == pytest.approx(0.0, abs=0.01)


def test_a_paragraph_is_read_as_its_style_says_whatever_letter_comes_first():
    aligned = one("abc def ghi " * 12 + "end", 1, align="justified")
    *_, last = set_lines(aligned, 150.0)
    assert last.right == pytest.approx(150.0) and last.left > 1
    mixed = Span("abc אבג", HEBREW, BLACK)
    left = ParagraphSpec((mixed,), HEBREW, 14.0, dress=Dress(level=0))
    right = ParagraphSpec((mixed,), HEBREW, 14.0, dress=Dress(level=1))
    by_level = [set_lines(spec, 200.0)[0].runs[0].xs for spec in (left, right)]
    assert by_level[0][0] < by_level[0][1] and by_level[1][0] > by_level[1][1]


@given(st.text(alphabet="אבגשלاب\u064b ـ–!\"#$%+,./:\t\u2029\u00a0()[]«»\u05b0", max_size=40),
       st.sampled_from([None, 0, 1]))  # fmt: skip
def test_a_text_that_is_all_read_from_the_right_takes_the_short_way(text, base):
    short = levels_module.levels(text, base)
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr(levels_module, "_FROM_RIGHT", frozenset(("none",)))
        assert short == levels_module.levels(text, base)
