"""Contents lists and folios as they are printed: read from the PDF by where words stand."""

from __future__ import annotations

import io
import tempfile
from itertools import pairwise
from pathlib import Path

import pdfplumber
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.masters.apply import add_master, apply_masters, set_default_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.listing import list_style, set_list
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.styles import ParagraphStyle
from hidden_frame.model.text import Contents, ListLevel, Paragraph, Run
from hidden_frame.output.pdf import export_pdf
from hidden_frame.settle.settling import settled

WORDS = ("night", "sky", "observatory", "parallax", "of", "a", "long-period", "comet", "in", "and")
TITLES = st.lists(
    st.lists(st.sampled_from(WORDS), min_size=1, max_size=24).map(" ".join), min_size=1, max_size=9
)
LEFT, RIGHT = 40.0, 260.0  # edges of the frame of the list


def book(titles, lengths, numbering):
    """A page for the list, then chapters of their titles, each a word of its own at its head."""
    publication = new_publication("Stars", Setup(trim=Size(300, 420)), 2)
    chapter = ParagraphStyle(id="chapter", name="Chapter", size=15, leading=18, starts="page")
    publication = put_paragraph_style(publication, chapter)
    publication, lines = list_style(publication, 0, "body")
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=40, y=40, width=220, height=340, main=1)
    publication, _ = add_item(publication, master, frame)
    first, second = (page.id for page in all_pages(publication))
    publication, body = start_section(publication, second, "Body", numbering)
    publication = apply_masters(set_default_masters(publication, (master,)), [first], ())
    text = []
    for n, title in enumerate(titles):
        text.append(Paragraph("chapter", (Run(f"Ch{n} {title}"),)))
        text += [Paragraph("body", (Run("dawn " * 60),))] * lengths[n % len(lengths)]
    publication, _ = pour(publication, body, tuple(text), "Stars")
    listed = TextFrame(id="", x=LEFT, y=10, width=RIGHT - LEFT, height=400)
    publication, item = add_item(publication, first, listed)
    contents = Contents(levels=(ListLevel("chapter", lines),))
    return settled(set_list(publication, first, item, contents))


@settings(max_examples=12, deadline=None)
@given(TITLES, st.lists(st.integers(1, 9), min_size=1, max_size=4), st.sampled_from([
    Numbering(start=1), Numbering(start=97), Numbering(style="lower roman", start=18),
    Numbering(prefix="A-", start=1),
]))  # fmt: skip
def test_every_folio_stands_whole_at_the_right_edge_and_is_that_of_its_page(
    titles, lengths, numbering
):
    publication = book(titles, lengths, numbering)
    with tempfile.TemporaryDirectory() as folder:
        export_pdf(Composer().compose(publication), {}, Path(folder, "stars.pdf"))
        data = io.BytesIO(Path(folder, "stars.pdf").read_bytes())
    labels = PdfReader(data).page_labels
    with pdfplumber.open(data) as opened:
        words = opened.pages[0].extract_words()
        assert all(w["x0"] >= LEFT - 0.5 and w["x1"] <= RIGHT + 0.5 for w in words)
        stands = {}
        for n, page in enumerate(opened.pages[1:], 1):
            for word in page.extract_words():
                if word["text"].startswith("Ch"):
                    stands.setdefault(word["text"], n)
        begins = [w for w in words if w["text"].startswith("Ch")]
        assert [w["text"] for w in begins] == [f"Ch{n}" for n in range(len(titles))]
        ends = sorted((w for w in words if abs(w["x1"] - RIGHT) < 0.6), key=lambda w: w["top"])
        tops = [w["top"] for w in begins] + [1e9]
        for n, (top, below) in enumerate(pairwise(tops)):
            (folio,) = [w["text"] for w in ends if top - 1 <= w["top"] < below - 1]
            assert folio.lstrip(".") == labels[stands[f"Ch{n}"]]


def test_a_list_that_lists_its_own_style_lists_no_line_of_itself():
    publication = book(["night", "dawn"], [2], Numbering(start=1))
    page = all_pages(publication)[0]
    own = Contents(levels=(ListLevel("body", "body"),))
    after = settled(set_list(publication, page.id, page.items[0].id, own))
    lines = all_pages(after)[0].items[0].text
    assert len(lines) == 4 and settled(after) is after
