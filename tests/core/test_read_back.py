"""What readers of PDF get back: words as they were typed, in order, whole.

Five readers that share no code: poppler and mupdf by their command lines, pdfium, pypdf and
pdfplumber.  Signs of no width (UAX #9 marks, U+200B) are nobody's text and left out.
"""

from __future__ import annotations

import io
import random
import subprocess
import tempfile
import unicodedata

import pdfplumber
import pypdf
import pypdfium2 as pdfium
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.output.pdf.readback import NOTHING, ONE_GLYPH, ReadBack, in_turn, spread, told
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.paragraph import ParagraphSpec, Span
from hidden_frame.typeset.region import Region
from hidden_frame.typeset.shaping import setting_of
from hidden_frame.typeset.text import set_text


def poppler(data):
    done = subprocess.run(["pdftotext", "-enc", "UTF-8", "-", "-"], input=data, capture_output=True)
    return done.stdout.decode().split("\f")[:-1]


def mupdf(data):
    with tempfile.NamedTemporaryFile(suffix=".pdf") as file:
        file.write(data)
        file.flush()
        order = ["mutool", "draw", "-q", "-F", "txt", "-o", "-", file.name]
        return subprocess.run(order, capture_output=True).stdout.decode().split("\f")[:-1]


def by_pdfium(data):
    return [page.get_textpage().get_text_range() for page in pdfium.PdfDocument(data)]


def by_pypdf(data):
    return [page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages]


def plumber(data):
    with pdfplumber.open(io.BytesIO(data)) as pdf:
        return [page.extract_text() for page in pdf.pages]


READERS = {
    "poppler": poppler, "mupdf": mupdf, "pdfium": by_pdfium, "pypdf": by_pypdf,
    "pdfplumber": plumber,
}  # fmt: skip


def exported(texts, width, **style):
    """A page for each text, in a narrow column."""
    publication = new_publication("Read", Setup(trim=Size(400, 700)), len(texts))
    body = replace(publication.paragraph_styles[0], alignment="justified", hyphenate=True, **style)
    publication = replace(publication, paragraph_styles=(body, *publication.paragraph_styles[1:]))
    for page, text in zip(all_pages(publication), texts, strict=True):
        frame = TextFrame(
            id="", x=40, y=30, width=width, height=640, text=(Paragraph("body", (Run(text),)),)
        )
        publication, _ = add_item(publication, page.id, frame)
    return pdf_bytes(Composer().compose(publication), {})


def words(text):
    shown = "".join(c for c in text if unicodedata.category(c) != "Cf")
    return shown.split()


ENGLISH = [
    "observation", "considerable", "constellations", "extraordinarily", "quiet", "the", "a",
    "night,", "(autumn)", "well-considered", "office", "“affection”", "ob\u00adser\u00advatory",
]  # fmt: skip
TURNED = ["שלום", "עולם", "مرحبا", "يا", "ירושלים"]
SEEDS = range(4)


@pytest.mark.parametrize("seed", SEEDS)
def test_every_reader_gets_the_words_that_were_typed(seed):
    rng = random.Random(seed)
    texts = [" ".join(rng.choices(ENGLISH, k=rng.randint(3, 60))).capitalize() for _ in range(6)]
    lines = rng.choice([0, 2, 3]) if seed else 0
    data = exported(texts, rng.uniform(60, 170), drop_lines=lines, drop_letters=rng.randint(1, 3))
    for name, read in READERS.items():
        for page, text in zip(read(data), texts, strict=True):
            found = words(page)
            assert sorted(found) == sorted(words(text)), name
            if not lines and name != "poppler":  # it takes the ends of loose lines for a column
                assert found == words(text), name


@pytest.mark.parametrize("seed", SEEDS)
def test_words_from_right_to_left_come_in_order_within_english_lines(seed):
    rng = random.Random(seed)
    texts = []
    for _ in range(6):
        parts = ["Begun"]
        for _ in range(rng.randint(1, 5)):
            parts += rng.choices(ENGLISH, k=rng.randint(6, 14))
            parts += rng.choices(TURNED, k=rng.randint(1, 2))
        texts.append(" ".join([*parts, "at", "an", "end"]))
    data = exported(texts, rng.uniform(190, 320))
    for name, read in READERS.items():
        for page, text in zip(read(data), texts, strict=True):
            assert words(page) == words(text), name


def test_a_word_behind_an_initial_is_one_word_and_first():
    data = exported(["Extraordinarily quiet observations were made all night"], 150.0,
                    drop_lines=3)  # fmt: skip
    for name, read in READERS.items():
        assert words(read(data)[0])[0] == "Extraordinarily", name


def test_a_word_is_said_whole_on_the_line_where_it_begins():
    data = exported(["a considerable constellation of observatories in autumn"], 62.0)
    for name, read in READERS.items():
        lines = [words(line) for line in read(data)[0].splitlines()]
        assert ["observatories"] in [line[-1:] for line in lines], name


@given(st.lists(st.text("abcdefgh", min_size=1, max_size=2), min_size=1, max_size=9),
       st.text("xyz", min_size=1, max_size=30), st.text("ABC", max_size=3))  # fmt: skip
def test_glyphs_together_say_the_whole_word(own, rest, before):
    own = [*own, "-"]
    said = spread(own, ReadBack(before, rest))
    assert "".join(said) == before + "".join(own[:-1]) + rest
    assert len(said) == len(own)
    room = sum(ONE_GLYPH - len(t) for t in own[:-1]) + ONE_GLYPH - len(before)
    assert len(rest) > room or max(map(len, said)) <= max(ONE_GLYPH, len(before) + 2)
    assert spread(own, ReadBack(nothing=True)) == [NOTHING] * len(own)
    assert "".join(in_turn(rest, 5)).replace(NOTHING, "") == rest


def test_the_rest_of_a_word_from_another_frame_says_what_it_shows():
    setting = setting_of(font_book().face("Spectral"), 10.0)
    span = Span("observatories considerable", setting, (0.0,), language="en_GB")
    lines = set_text([ParagraphSpec((span,), setting, 14.0)], [Region(0.0, 50.0)]).lines
    assert [line.text for line in lines[:2]] == ["observat-", "ories con-"]
    assert told(lines)[0] == {(0, 0): ReadBack(rest="ories")}
    assert told(lines)[1] == {(0, 0): ReadBack(nothing=True), (0, 1): ReadBack(rest="siderable")}
    assert told(lines[1:2]) == [{}] and told(lines[:1]) == [{}]
