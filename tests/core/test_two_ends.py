"""A line with two ends, or three: it changes sides with its page (R3, R4)."""

from __future__ import annotations

import tempfile
from pathlib import Path

import pdfplumber
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import plain, split_ends
from hidden_frame.interact.words.remedies import remedies
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run, TabStop, Text
from hidden_frame.output.pdf import export_pdf
from hidden_frame.typeset.caret import caret_at, place_at

W = 300.0
ENDS = (TabStop(None, "right"),)
THREE = (TabStop(None, "centre"), TabStop(None, "right"))


def with_head(text: Text, height: float = 14.0, **setup: object):
    made = new_publication("Year", Setup(trim=Size(W, 300.0), **setup), 3)
    frame = TextFrame(id="", x=30, y=20, width=220, height=height, text=text)
    made, item = add_item(made, made.masters[0].id, frame)
    return made, item


def row(*parts: str, alignment: str | None = "inside", tabs=ENDS) -> Text:
    return (Paragraph("body", (Run("\t".join(parts)),), alignment=alignment, tabs=tabs),)


def block_on(publication, position: int):
    page = all_pages(publication)[position - 1].id
    scene = Composer().compose(publication).scene(page)
    placed = scene.placed[0]
    return placed, placed.drawing.text


def cells(publication, position: int) -> list[tuple[str, float, float]]:
    """Each word of the first line, and from where to where it reaches on the page."""
    placed, block = block_on(publication, position)
    line = block.text.lines[0]
    left = placed.matrix.e + block.x + line.x
    return [
        (word.text, left + x, left + x + word.width)
        for run in line.runs for x, word in zip(run.xs, run.words, strict=True)
    ]  # fmt: skip


def test_the_ends_are_inside_and_outside_on_either_side():
    publication, _ = with_head(row("Harbour", "Winter"))
    recto, verso = cells(publication, 3), cells(publication, 2)
    assert recto[0][:2] == ("Harbour", pytest.approx(30.0)) and recto[1][2] == pytest.approx(250.0)
    # the frame itself is mirrored at the spine: from 50 to 270
    assert verso[0][0] == "Harbour" and verso[0][2] == pytest.approx(270.0)
    assert verso[1][1] == pytest.approx(50.0)
    outside, _ = with_head(row("Harbour", "Winter", alignment="outside"))
    assert cells(outside, 3)[0][2] == pytest.approx(250.0)
    assert cells(outside, 2)[0][1] == pytest.approx(50.0)


def test_single_pages_and_other_alignments_stay_as_typed():
    single, _ = with_head(row("Harbour", "Winter"), facing=False)
    assert {cells(single, n)[0][1] for n in (1, 2, 3)} == {30.0}
    for alignment in (None, "left", "right", "centre"):
        typed, _ = with_head(row("Harbour", "Winter", alignment=alignment))
        assert cells(typed, 2)[0][1] == pytest.approx(50.0)


def test_the_command_makes_two_ends_and_then_a_middle():
    text: Text = (Paragraph("body", (Run("Harbour"),)),)
    text, place = split_ends(text, (0, 7))
    assert (text[0].alignment, text[0].tabs) == ("inside", ENDS) and place == (0, 8)
    text, _ = split_ends(text, (0, 3))
    assert text[0].tabs == THREE and plain(text) == "Har\tbour\t"


def test_three_parts_have_a_middle():
    publication, _ = with_head(row("Harbour", "2031", "Winter", tabs=THREE))
    for position in (2, 3):
        first, middle, last = cells(publication, position)
        frame = 50.0 if position == 2 else 30.0
        assert (middle[1] + middle[2]) / 2 == pytest.approx(frame + 110.0)
        ends = sorted([first[1], last[1]])
        assert ends[0] == pytest.approx(frame)
        assert max(first[2], last[2]) == pytest.approx(frame + 220.0)


words = st.lists(st.text("abcdeéß", min_size=1, max_size=8), min_size=1, max_size=3)


@settings(max_examples=60, deadline=None)
@given(words, words)
def test_a_verso_is_the_mirror_image_of_a_recto(first, last):
    publication, _ = with_head(row(" ".join(first), " ".join(last)), height=60.0)
    recto, verso = (block_on(publication, n)[1].text.lines for n in (3, 2))
    if len(recto) > 1:
        return  # wrapped: each part stands on its side, its lines as they are read
    n = len(first)
    for part in (slice(0, n), slice(n, None)):
        a, b = ([(run.xs, run.words) for run in line[0].runs] for line in (recto, verso))
        spans = []
        for runs in (a, b):
            pairs = [(x, x + w.width) for xs, ws in runs for x, w in zip(xs, ws, strict=True)][part]
            spans.append((pairs[0][0], pairs[-1][1]))
        (left, right), (mirrored_left, mirrored_right) = spans
        assert (mirrored_left, mirrored_right) == pytest.approx((220 - right, 220 - left), abs=1e-3)


@settings(max_examples=30, deadline=None)
@given(words, words)
def test_every_place_has_a_caret_that_a_click_finds_again(first, last):
    publication, _ = with_head(row(" ".join(first), " ".join(last)), height=60.0)
    text = block_on(publication, 2)[1].text
    for offset in range(len(" ".join(first)) + 1 + len(" ".join(last)) + 1):
        caret = caret_at(text, 0, offset)
        found = place_at(text, caret.x, (caret.top + caret.bottom) / 2)
        again = caret_at(text, *found)
        assert again.x == pytest.approx(caret.x, abs=0.6)


def test_the_pdf_has_them_on_their_sides():
    publication, _ = with_head(row("Harbour Museum", "The Winter of 2031"))
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "heads.pdf"
        export_pdf(Composer().compose(publication), {}, path,
                   [p.id for p in all_pages(publication)])  # fmt: skip
        with pdfplumber.open(path) as pdf:
            found = [{w["text"]: (w["x0"], w["x1"]) for w in p.extract_words()} for p in pdf.pages]
    recto, verso = found[2], found[1]
    assert recto["Harbour"][0] == pytest.approx(30, abs=0.6)
    assert recto["2031"][1] == pytest.approx(250, abs=0.6)
    assert verso["Museum"][1] == pytest.approx(270, abs=0.6)
    assert verso["The"][0] == pytest.approx(50, abs=0.6)


def test_what_does_not_fit_is_marked_and_nothing_runs_over_the_edge():
    long = row("Harbour Museum Yearbook of the Northern Towns", "The Harbour in the Year of Ice")
    publication, item = with_head(long)
    for position in (2, 3):
        placed, block = block_on(publication, position)
        assert placed.drawing.overflow is not None
        for line in block.text.lines:
            assert line.left >= -1e-6 and line.right <= 220 + 1e-6
    composition = Composer().compose(publication)
    page = all_pages(publication)[1].id
    titles = [r.title for r in remedies(composition, page, item, "verso")]
    assert titles
