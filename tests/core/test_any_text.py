"""Whatever can be typed, pasted or loaded is set, saved, opened, exported and read back."""

from __future__ import annotations

import io
import re
import unicodedata
from itertools import pairwise

import pypdf
import pypdfium2 as pdfium
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import example, given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.drawing import draw
from hidden_frame.compose.palette import palette
from hidden_frame.compose.scene import TextPrimitive
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import insert
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.output.png import page_images
from hidden_frame.storage.format import from_bytes

PUBLICATION = new_publication("Any", Setup(trim=Size(600, 800)), 1)
PAGE = all_pages(PUBLICATION)[0].id
# Every assigned character of Unicode (as this Python knows it), and private ones.
assigned = st.characters(exclude_categories=("Cs", "Cn"))
spaces = st.sampled_from(" \t\u00a0\u2002\u2003\u2009\u200b\u202f\u3000\u2028\u00ad\u2060")
texts = st.text(st.one_of(assigned, spaces, st.sampled_from("aeiou fi ffl VA -–—’")), max_size=60)
markers = st.builds(
    Marker,
    shows=st.sampled_from(
        ["folio", "page count", "section name", "section last folio", "title", "detail"]
    ),
    detail=st.none() | st.just("Gone"),
)
pieces = st.lists(st.one_of(texts.map(Run), markers), max_size=4).map(tuple)
paragraphs = st.builds(Paragraph, style=st.sampled_from(["body", "heading"]), content=pieces)
EMPTY = Marker("section name")


def with_text(text, width=500.0):
    frame = TextFrame(id="", x=20, y=20, width=width, height=700, text=text)
    return add_item(PUBLICATION, PAGE, frame)[0]


def seen(text):
    """What of a text a reader of a PDF can give back: without what has no width of its own, as
    spaces at line ends and controls, and in no order, since readers turn scripts around that
    run from right to left."""
    kept = (
        c for c in text if not c.isspace() and unicodedata.category(c) not in ("Cc", "Zl", "Zp")
    )
    return sorted(kept)


def printed(publication):
    data = pdf_bytes(Composer().compose(publication), {})
    return pypdf.PdfReader(io.BytesIO(data)).pages[0].extract_text(), data


def shown(publication):
    scene = Composer().compose(publication).scene(PAGE)
    return "".join(scene.text_of())


@settings(max_examples=250)
@given(st.lists(paragraphs, min_size=1, max_size=3).map(tuple))
@example((Paragraph("body", (Run("two  spaces"),)),))
@example((Paragraph("body", (Run(" before and after "),)),))
@example((Paragraph("body", (Run("before a tab \t and a break \u2028 x"),)),))
@example((Paragraph("body", (Run(" "),)),))
@example((Paragraph("body", (EMPTY,)),))
@example((Paragraph("body", (EMPTY, Run(" "), EMPTY, Run("\t"), EMPTY)),))
def test_any_text_exports_and_is_read_back(text):
    publication = with_text(text)
    read, _ = printed(publication)
    said = shown(publication)
    assert seen(read.replace("\u00ad", "")) == seen(said.replace("\u00ad", ""))
    for paragraph in text:
        for piece in paragraph.content:
            if isinstance(piece, Run) and "\u00ad" not in piece.text and len(text) == 1:
                assert not set(seen(piece.text)) - set(seen(read))
    again = from_bytes(to_bytes(publication, {}), "a").publication
    assert again == publication


@settings(max_examples=15)
@given(st.lists(paragraphs, min_size=1, max_size=2).map(tuple), st.floats(3, 200))
def test_any_text_in_any_frame_becomes_a_picture(text, width):
    publication = with_text(text, width)
    (image,) = page_images(Composer().compose(publication), {}, [PAGE], 36)
    assert image.startswith(b"\x89PNG")


words = st.text("abcdefghijklmnoprstuvwxyzäéß", min_size=1, max_size=8)


@given(st.lists(st.one_of(words, st.just("")), min_size=1, max_size=8))
def test_spaces_of_a_line_are_read_back_one_by_one(parts):
    """In one look on one line the text is read back to the letter, each space included."""
    text = "x" + " ".join(parts) + "x"
    read, _ = printed(with_text((Paragraph("body", (Run(text),)),)))
    assert read == text


@given(st.lists(words, min_size=2, max_size=6))
def test_a_space_between_two_looks_is_read_back(parts):
    content = tuple(Run(f"{word} ", "strong" if n % 2 else None) for n, word in enumerate(parts))
    read, _ = printed(with_text((Paragraph("body", content),)))
    assert read.strip() == " ".join(parts)


def test_both_readers_find_a_text_with_one_glyph_for_two_characters():
    """A hyphen and a non-breaking one have one glyph; each is read back as what it was."""
    text = "self-made non\u2011breaking sp\u00a0ace"
    read, data = printed(with_text((Paragraph("body", (Run(text),)),)))
    assert read == text
    page = pdfium.PdfDocument(data)[0].get_textpage()
    assert page.search("non\u2011breaking").get_next() is not None


@given(st.text(st.characters(codec="utf-16", categories=("Lu", "Ll", "Mn", "Po")), max_size=80))
def test_what_is_typed_is_what_is_kept(typed):
    text, place = insert((Paragraph("body"),), (0, 0), typed)
    assert "".join(p.text for p in text[0].content) == typed
    assert place == (0, len(typed))


@pytest.mark.parametrize("typed", ["\ud800", "a\udfffb", "a\x00b\x07c", "a\u2029b", "a\x85b\r"])
def test_what_no_file_can_hold_is_not_taken_in(typed):
    text, _ = insert((Paragraph("body"),), (0, 0), typed)
    publication = with_text(text)
    assert from_bytes(to_bytes(publication, {}), "a").publication == publication
    printed(publication)


@pytest.mark.parametrize(
    ("text", "families"),
    [
        ("plain", {"Spectral"}),
        ("a → b", {"Spectral"}),
        ("Ω and λόγος", {"Spectral", "Noto Serif"}),
        ("שלום", {"Noto Serif Hebrew"}),
        ("سلام", {"Noto Naskh Arabic"}),
        ("∮ and ⟹", {"Spectral", "Noto Sans Math"}),
        ("☂", {"Noto Sans Symbols2"}),
    ],
)
def test_a_character_its_font_lacks_is_taken_from_another(text, families):
    publication = with_text((Paragraph("body", (Run(text),)),))
    scene = Composer().compose(publication).scene(PAGE)
    runs = [
        run
        for placed in scene.placed
        for primitive in placed.drawing.primitives
        if isinstance(primitive, TextPrimitive)
        for line in primitive.text.lines
        for run in line.runs
    ]
    assert {run.setting.face.family for run in runs} == families
    assert not any(word.shaped.missing for run in runs for word in run.words)


def test_what_no_font_has_is_known_and_never_printed_as_a_box():
    publication = with_text((Paragraph("body", (Run("a\ue000\U00013000b"),)),))
    scene = Composer().compose(publication).scene(PAGE)
    text = scene.placed[-1].drawing.text
    words = [w for line in text.text.lines for run in line.runs for w in run.words]
    assert any(word.shaped.missing for word in words)
    read, data = printed(publication)
    assert read == "a\ue000\U00013000b"
    page = pdfium.PdfDocument(data)[0]
    image = page.render(scale=4).to_pil().convert("L")
    boxes = [page.get_textpage().get_charbox(n) for n in range(4)]
    left, right = boxes[0][2], boxes[-1][0]
    gap = image.crop((round(left * 4) + 2, 60, round(right * 4) - 2, 200))
    assert right - left > 2 and gap.getextrema() == (255, 255)


@given(st.text("abcdefgh ijkl\u0301\u0308ﬁ", min_size=1, max_size=300), st.floats(5, 120))
def test_long_words_are_cut_as_if_they_were_shaped_whole(text, width):
    """Against the plain way: the rest shaped whole for each line."""
    from hidden_frame.typeset.breaking.cut import TOLERANCE
    from hidden_frame.typeset.breaking.long_words import _letters
    from hidden_frame.typeset.fonts import font_book
    from hidden_frame.typeset.shaping import setting_of

    setting = setting_of(font_book().face("Spectral"), 10.0)
    word = setting.word(re.sub(r"\s", "", text) or "x")
    parts = _letters(word, width)
    assert "".join(p.text for p in parts) == word.text
    rest = word.text
    for part in parts:
        if setting.word(rest).width <= width:
            assert part.text == rest
        else:
            assert part.width <= width + TOLERANCE or len(part.text.rstrip("\u0301\u0308")) == 1
        assert not (unicodedata.combining(part.text[0]) and rest is not word.text)
        rest = rest[len(part.text) :]


def test_the_work_on_a_long_word_grows_with_its_length(monkeypatch):
    """Characters shaped, not seconds: twice the text is at most a little more than twice."""
    from hidden_frame.typeset import shaping

    counted = []
    whole = shaping.hb.shape
    monkeypatch.setattr(
        shaping.hb, "shape", lambda f, b, x: (counted.append(len(b.glyph_infos)), whole(f, b, x))
    )

    def work(length, letter):
        counted.clear()
        publication = with_text((Paragraph("body", (Run(letter * length),)),), 200.0)
        Composer().compose(publication).scene(PAGE)
        return sum(counted)

    assert work(8_000, "ab") < 2.5 * work(4_000, "cd")


@pytest.mark.parametrize(
    ("word", "language", "parts"),
    [
        ("l’inquiétude", "fr", "l’in-quié-tude"),
        ("observatory’s", "en_GB", "ob-ser-vat-ory’s"),
        ("“nightingale’s”", "en_US", None),
    ],
)
def test_words_with_an_apostrophe_are_divided(word, language, parts):
    """Against pyphen, asked for the letters between the apostrophes."""
    import pyphen

    from hidden_frame.typeset.hyphenation import divisions

    found = divisions(word, language)
    assert found
    dictionary = pyphen.Pyphen(lang=pyphen.language_fallback(language))
    expected = [
        m.start() + p
        for m in re.finditer(r"[^\W\d_]{5,}", word)
        for p in dictionary.positions(m[0])
    ]
    assert list(found) == expected
    if parts:
        cuts = [0, *found, len(word)]
        assert "-".join(word[a:b] for a, b in pairwise(cuts)) == parts


def test_a_runs_language_decides_its_hyphens():
    publication = replace(PUBLICATION, about=replace(PUBLICATION.about, language="de"))
    known = palette(publication)
    word = "Wissenschaftsgeschichte "

    def ends(language):
        from hidden_frame.model.text import Look

        look = Look(language=language) if language else None
        text = (Paragraph("body", (Run(word * 8, None, look),)),)
        frame = TextFrame(id="a", x=0, y=0, width=150, height=900, text=text)
        drawing = draw(frame, "recto", (), known, ())
        return [line.text for line in drawing.text.text.lines]

    assert ends(None) == ends("de") != ends("en_GB")
