"""A story written out and brought in again is the same, in every format, as far as that goes."""

from __future__ import annotations

import io

import docx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from odf.opendocument import load
from odf.text import H, P
from PIL import Image

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_character_style
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought
from hidden_frame.edit.text.sent import as_paragraphs, character_looks
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.publication import Setup
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle, computed_paragraphs
from hidden_frame.model.text import (
    Anchor,
    IndexMark,
    Look,
    Marker,
    Note,
    Paragraph,
    Reference,
    Run,
)
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled
from hidden_frame.storage.manuscripts.manuscript import Manuscript, ManuscriptRun, Para
from hidden_frame.storage.manuscripts.read import of_bytes
from hidden_frame.storage.manuscripts.write import written
from hidden_frame.storage.pictures import picture_from_bytes

_FILE = io.BytesIO()
Image.new("RGB", (4, 3), "teal").save(_FILE, "PNG")
PICTURE, BYTES = picture_from_bytes(_FILE.getvalue(), "sky.png")
BLOBS = {PICTURE.hash: BYTES}


def base():
    """A publication with the styles that manuscripts have, made as they are when brought in."""
    names = ["Normal", "Heading 2", "Heading 3", "Quote", "My style", "List continue"]
    names += [f"List {kind}{n}" for kind in ("bullet", "number") for n in ("", " 2", " 3")]
    paras = tuple(Para(name, (ManuscriptRun("x"),)) for name in names)
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 2)
    publication, _ = brought(publication, Manuscript("m", paras, (), {}, {}))
    named = CharacterStyle(id="plant", name="Plant names", italic=True)
    publication = put_character_style(publication, named)
    return replace(publication, pictures=(PICTURE,))


BASE = base()
STYLES = {s.name: s.id for s in BASE.paragraph_styles}
LETTERS = st.text(st.sampled_from("abc é–ßאб’&<>\"'*_\u2011\u00ad"), min_size=1, max_size=10)
LOOKS = st.builds(
    Look, bold=st.sampled_from([None, True]), italic=st.sampled_from([None, True]),
    case=st.sampled_from([None, "small capitals"]),
    raised=st.sampled_from([None, "superior", "inferior"]),
    strike=st.sampled_from([None, True]), underline=st.sampled_from([None, True]),
    language=st.sampled_from([None, "de", "pt_BR"]),
)  # fmt: skip
RUNS = st.builds(
    lambda text, look, style: Run(text, style, None if look == Look() else look),
    LETTERS, st.one_of(st.just(Look()), LOOKS), st.sampled_from([None, None, "plant", "emphasis"]),
)  # fmt: skip
TERMS = st.sampled_from(["Stars", "Mizar: a star", 'The "Dog"'])
PIECES = st.one_of(
    RUNS, RUNS, RUNS,
    st.builds(lambda runs: Note(tuple(runs)), st.lists(RUNS, min_size=1, max_size=2)),
    st.builds(IndexMark, st.sampled_from(["Stars", "The “Dog”"]), st.sampled_from(["", "double"]),
              reach=st.sampled_from(["here", "begins", "ends"])),
    st.builds(lambda t: IndexMark("Suns", see=t), st.just("Stars")),
    st.builds(lambda t: Marker("reference", refers=Reference("place-1", t)),
              st.sampled_from(["text", "folio", "number", "number and text"])),
    st.builds(lambda c, s: Anchor(24.0, 18.0, s, PICTURE.hash, caption=c),
              st.sampled_from(["", "The sky"]), st.sampled_from(["in the line", "above the line"])),
)  # fmt: skip
LISTED = [n for n in STYLES if n.startswith(("List bullet", "List number"))]
PLAIN = ["Normal", "Heading 2", "Heading 3", "Quote", "My style"]


def paragraph(style, pieces, starts, count):
    name = "Body" if style == "Normal" else style
    numbered = style.startswith("List number")
    return Paragraph(
        STYLES[name], tuple(pieces), starts=starts, count_from=count if numbered else None
    )


STORIES = st.lists(
    st.builds(paragraph, st.sampled_from([*PLAIN, *PLAIN, *LISTED]),
              st.lists(PIECES, max_size=5), st.sampled_from([None, None, None, "page"]),
              st.sampled_from([None, None, 1, 7])),
    min_size=1, max_size=7,
)  # fmt: skip


def tidy(paragraph):
    """A paragraph as it comes back: neighbours of one look joined, no spaces at either end."""
    found = list(joined([told(piece) for piece in paragraph.content]))
    while found and isinstance(found[0], Run) and not found[0].text.lstrip(" "):
        found.pop(0)
    while found and isinstance(found[-1], Run) and not found[-1].text.rstrip(" "):
        found.pop()
    if found and isinstance(found[0], Run):
        found[0] = replace(found[0], text=found[0].text.lstrip(" "))
    if found and isinstance(found[-1], Run):
        found[-1] = replace(found[-1], text=found[-1].text.rstrip(" "))
    place = "there" if paragraph.place else ""
    return replace(paragraph, content=tuple(found), place=place)


def told(piece):
    """A piece without what is worked out, and what is numbered anew."""
    if isinstance(piece, Note):
        return replace(piece, content=tidy(Paragraph("x", piece.content)).content, number="")
    if isinstance(piece, Marker):
        return replace(piece, refers=replace(piece.refers, said="", page="", place="there"))
    return piece


def there_and_back(text, kind):
    """The story written out as a file of a kind and brought in again."""
    publication, _ = pour(BASE, BASE.sections[0].id, text, "Story")
    data = written(as_paragraphs(publication, text, BLOBS), kind, "S", character_looks(publication))
    back = of_bytes(data, "a", f"a.{kind}", kind).with_live_notes()
    blobs: dict[str, bytes] = {}
    after, came = brought(publication, back, None, blobs)
    assert problems(after) == []
    return data, back, came, blobs


@pytest.mark.parametrize("kind", ["docx", "odt", "html"])
@settings(max_examples=150, deadline=None)
@given(text=STORIES, at=st.integers(0, 6))
def test_out_and_in_again_is_the_same(kind, text, at):
    at = min(at, len(text) - 1)
    refers = any(isinstance(c, Marker) for p in text for c in p.content)
    if refers:
        text[at] = replace(text[at], place="place-1")
    text = tuple(text)
    _, back, came, blobs = there_and_back(text, kind)
    usual = {s.language for p in as_paragraphs(BASE, text) for s in p.stretches if s.text}
    if len(usual) > 1 or usual == {None}:  # one language for all is the publication's own
        got = [tidy(p) for p in came]
        want = [tidy(p) for p in text]
        if len(usual) == 1 or None in usual:
            assert [p.style for p in got] == [p.style for p in want]
            assert unlanguaged(got) == unlanguaged(want)
    if any(isinstance(c, Anchor) for p in text for c in p.content):
        assert blobs == BLOBS
    assert back.left == {}


def unlanguaged(paragraphs):
    """Without languages, which are said only where they are not the usual one."""

    def bare(piece):
        if isinstance(piece, Note):
            return replace(piece, content=joined([bare(c) for c in piece.content]))
        look = piece.look
        if look is not None:
            look = replace(look, language=None)
            return replace(piece, look=None if look == Look() else look)
        return piece

    return [replace(p, content=joined([bare(c) for c in p.content])) for p in paragraphs]


def joined(pieces):
    found: list = []
    for piece in pieces:
        last = found[-1] if found else None
        if isinstance(piece, Run) and isinstance(last, Run) and (
            (last.style, last.look) == (piece.style, piece.look)
        ):  # fmt: skip
            found[-1] = replace(last, text=last.text + piece.text)
        else:
            found.append(piece)
    return tuple(found)


def test_languages_come_back_where_they_are_not_the_usual_one():
    german = Run("Himmel", look=Look(language="de"))
    text = (Paragraph("body", (Run("sky sky sky "), german, Run(" and so on"))),)
    for kind in ("docx", "odt", "html"):
        assert there_and_back(text, kind)[2] == text


@settings(max_examples=60, deadline=None)
@given(STORIES)
def test_independent_readers_find_the_words(text):
    """python-docx and odfpy."""
    text = tuple(text)
    words = [
        "".join(c.text for c in p.content if isinstance(c, Run)).replace("\u00ad", "")
        for p in text
    ]  # fmt: skip
    plain = tuple(
        replace(p, content=tuple(c for c in p.content if isinstance(c, Run))) for p in text
    )
    document = docx.Document(io.BytesIO(there_and_back(plain, "docx")[0]))
    assert [p.text.replace("\u00ad", "") for p in document.paragraphs] == [
        w.replace("\u2011", "-") for w in words
    ]
    opened = load(io.BytesIO(there_and_back(plain, "odt")[0]))
    found = opened.text.getElementsByType(P) + opened.text.getElementsByType(H)
    assert len(found) == len(text)


def test_lists_are_live_and_no_mark_is_typed():
    rows = ["List bullet", "List bullet 2", "List bullet 2", "List number", "List number",
            "List number 2", "List number", "Normal", "List number"]  # fmt: skip
    text = tuple(
        paragraph(n, (Run(f"entry {k}"),), None, 1 if k == 8 else None)
        for k, n in enumerate(rows)
    )  # fmt: skip
    for kind in ("docx", "odt", "html", "md"):
        data, back, came, _ = there_and_back(text, kind)
        assert [p.text for p in back.paragraphs] == [f"entry {k}" for k in range(len(rows))]
        assert came == text, kind
    document = docx.Document(io.BytesIO(there_and_back(text, "docx")[0]))
    levels = [p._p.pPr.numPr.ilvl.val for p in document.paragraphs if p._p.pPr.numPr is not None]
    assert levels == [0, 1, 1, 0, 0, 1, 0, 0]
    del data


def test_forty_levels_of_lists_come_on_nine():
    source = "<ul><li>a" * 40 + "</li></ul>" * 40
    back = of_bytes(source.encode(), "a", "a.html", "html")
    assert [p.level for p in back.paragraphs] == [min(n, 9) for n in range(1, 41)]
    publication, text = brought(BASE, back)
    assert problems(settled(pour(publication, publication.sections[0].id, text)[0])) == []


def test_a_manuscript_of_headings_alone():
    back = of_bytes(b"## One\n\n### Two\n\n## Three\n", "a", "a.md", "md")
    publication, text = brought(BASE, back)
    assert [p.style for p in text] == [STYLES[n] for n in ("Heading 2", "Heading 3", "Heading 2")]
    known = {s.id: s for s in publication.paragraph_styles}
    assert all(known[p.style].keep_next for p in text)


def test_headings_are_of_one_family():
    back = of_bytes(b"# One\n\n## Two\n\n### Three\n", "a", "a.md", "md")
    publication = new_publication("P", Setup(trim=TRIMS["A5"]), 2)
    publication, text = brought(publication, back)
    known = computed_paragraphs(publication.paragraph_styles)
    looks = [known[p.style] for p in text]
    assert {s.family for s in looks} == {"Alegreya Sans"}
    assert [s.level for s in looks] == [1, 2, 3]
    assert looks[0].size >= looks[1].size >= looks[2].size


@pytest.mark.parametrize("style", ["Heading", "Heading 2"])
def test_a_heading_of_several_lines_is_not_parted_over_pages(style):
    """Common practice of the trade; a page ends between any two of its lines else."""
    title = "On the keeping of lamps through the long nights of the year, and what followed, " * 2
    heading = Paragraph(STYLES[style], (Run(title),))
    body = Paragraph("body", (Run("Lamp."),))
    frame = TextFrame(id="", x=40, y=40, width=200, height=280, main=1)
    framed, _ = add_item(BASE, BASE.masters[0].id, frame)
    parted = []
    for above in range(4, 24):
        text = (*[body] * above, heading, body)
        publication = settled(pour(framed, BASE.sections[0].id, text)[0])
        flow = Composer().compose(publication).flow(publication.stories[0].id)
        first, last = flow.stop_of(above, 0), flow.stop_of(above, len(title) - 2)
        assert first is not None and last is not None
        if first != last:
            parted.append(above)
    assert parted == []


def test_quotations_and_headings_are_known_in_many_languages_and_by_what_they_are():
    document = docx.Document()
    for name, kind in (("Zitat", "Quote"), ("Überschrift 2", "Heading 2"), ("Titre 1", "Heading 1"),
                       ("Citazione", "Quote")):  # fmt: skip
        document.styles.add_style(name, docx.enum.style.WD_STYLE_TYPE.PARAGRAPH)
        document.add_paragraph(kind, style=name)
    inset = document.add_paragraph("Quote")
    inset.paragraph_format.left_indent = inset.paragraph_format.right_indent = docx.shared.Mm(10)
    file = io.BytesIO()
    document.save(file)
    back = of_bytes(file.getvalue(), "a", "a.docx", "docx")
    assert [p.style for p in back.paragraphs] == [p.text for p in back.paragraphs]


def test_a_new_style_looks_as_it_does_there_where_that_is_wanted():
    document = docx.Document()
    style = document.styles.add_style("Letter", docx.enum.style.WD_STYLE_TYPE.PARAGRAPH)
    style.font.size, style.font.italic = docx.shared.Pt(13), True
    style.paragraph_format.left_indent = docx.shared.Pt(30)
    style.paragraph_format.alignment = docx.enum.text.WD_ALIGN_PARAGRAPH.RIGHT
    document.add_paragraph("Dear all,", style="Letter")
    file = io.BytesIO()
    document.save(file)
    back = of_bytes(file.getvalue(), "a", "a.docx", "docx")
    assert back.looks["Letter"].in_words().endswith("13 pt, italic, right")
    publication, text = brought(BASE, back, {"Letter": "as there"})
    made = next(s for s in publication.paragraph_styles if s.id == text[0].style)
    assert (made.size, made.italic, made.indent_left, made.alignment) == (13, True, 30, "right")
    publication, text = brought(BASE, back, {"Letter": ""})
    made = next(s for s in publication.paragraph_styles if s.id == text[0].style)
    assert made == ParagraphStyle(id=made.id, name="Letter", based_on="body")


def test_page_breaks_within_and_between_paragraphs():
    document = docx.Document()
    run = document.add_paragraph("before").add_run()
    run.add_break(docx.enum.text.WD_BREAK.PAGE)
    run.add_text("after")
    document.add_paragraph("next").paragraph_format.page_break_before = True
    document.add_section(docx.enum.section.WD_SECTION.ODD_PAGE)
    document.add_paragraph("on a right page")
    file = io.BytesIO()
    document.save(file)
    back = of_bytes(file.getvalue(), "a", "a.docx", "docx")
    assert [(p.text, p.starts) for p in back.paragraphs if p.text] == [
        ("before", ""), ("after", "page"), ("next", "page"), ("on a right page", "right page"),
    ]  # fmt: skip


def test_a_picture_by_itself_is_a_figure_and_one_among_words_stands_in_their_line():
    document = docx.Document()
    document.add_picture(io.BytesIO(BYTES), width=docx.shared.Pt(200))
    document.add_paragraph("The sky", style="Caption")
    document.add_paragraph("a sign ").add_run().add_picture(
        io.BytesIO(BYTES), height=docx.shared.Pt(9)
    )
    file = io.BytesIO()
    document.save(file)
    back = of_bytes(file.getvalue(), "a", "a.docx", "docx")
    assert [p.style for p in back.paragraphs] == ["Picture", "Caption", "Normal"]
    publication, text = brought(BASE, back, None, {})
    known = {s.id: s for s in publication.paragraph_styles}
    assert known[text[0].style].keep_next and known[text[0].style].space_before > 0
    stands = [c.stands for p in text for c in p.content if isinstance(c, Anchor)]
    assert stands == ["in the line", "in the line"] and text[0].content[0].width == 200
