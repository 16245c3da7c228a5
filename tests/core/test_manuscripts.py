"""Manuscripts in and out; python-docx and odfpy make and read the files beside us."""

from __future__ import annotations

import io
import zipfile

import docx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from markdown_it.token import Token
from odf import draw, office, text
from odf.opendocument import OpenDocumentText
from odf.style import Style, TextProperties

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought, matched
from hidden_frame.edit.text.sent import as_paragraphs
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import problems
from hidden_frame.model.lookup import find_story
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import IndexMark, Look, Note, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.manuscripts.manuscript import ManuscriptRun, Para, report_in_words
from hidden_frame.storage.manuscripts.marked import read_markdown
from hidden_frame.storage.manuscripts.plain import decoded
from hidden_frame.storage.manuscripts.read import KINDS, of_bytes, read
from hidden_frame.storage.manuscripts.write import written

LETTERS = st.text(
    st.characters(
        exclude_categories=("Cc", "Cs", "Zl", "Zp"), exclude_characters="\u00ad\u2011\ufffe\uffff"
    ),
    min_size=1, max_size=12,
)  # fmt: skip
STRETCHES = st.builds(
    ManuscriptRun, LETTERS.map(lambda t: t.strip() or "x"), st.booleans(), st.booleans(),
    st.sampled_from([None, "de", "fr_FR"]), beside=st.none(), small_capitals=st.booleans(),
    raised=st.sampled_from(["", "superior", "inferior"]), strike=st.booleans(),
    underline=st.booleans(), named=st.just(""),
)  # fmt: skip
PARAS = st.lists(
    st.builds(Para, st.sampled_from(["Normal", "Heading 1", "Heading 3", "Quote", "My style"]),
              st.lists(STRETCHES, max_size=4).map(tuple), level=st.just(0), numbered=st.just(False),
              count_from=st.none(), starts=st.just(""), place=st.just("")),
    min_size=1, max_size=8,
)  # fmt: skip


def merged(paragraph):
    """A paragraph with neighbours of one look joined, as any reader gives it."""
    found = []
    for s in paragraph.stretches:
        if found and found[-1][1:] == s[1:]:
            found[-1] = found[-1]._replace(text=found[-1].text + s.text)
        else:
            found.append(s)
    return Para(paragraph.style, tuple(found))


def language(para):
    return Para(para.style, tuple(s._replace(language=(s.language or "").replace("-", "_") or None)
                                  for s in para.stretches))  # fmt: skip


@given(PARAS)
def test_what_is_written_as_docx_is_read_back_the_same(paragraphs):
    back = of_bytes(written(paragraphs, "docx", "T"), "a", "a.docx", "docx")
    assert [language(p) for p in back.paragraphs] == [merged(p) for p in paragraphs]


@given(PARAS)
def test_an_independent_reader_reads_our_docx(paragraphs):
    """python-docx."""
    document = docx.Document(io.BytesIO(written(paragraphs, "docx", "A title")))
    assert [p.text for p in document.paragraphs] == [p.text for p in paragraphs]
    named = [p.style.name for p in document.paragraphs]
    assert [n.lower() for n in named] == [p.style.lower() for p in paragraphs]
    for ours, theirs in zip(paragraphs, document.paragraphs, strict=True):
        looks = [(r.text, bool(r.bold), bool(r.italic)) for r in theirs.runs]
        assert looks == [s[:3] for s in ours.stretches]
    assert document.core_properties.title == "A title"


@given(PARAS)
def test_a_docx_of_an_independent_maker_is_read(paragraphs):
    document = docx.Document()
    document.styles.add_style("My style", docx.enum.style.WD_STYLE_TYPE.PARAGRAPH)
    for p in paragraphs:
        made = document.add_paragraph(style=p.style)
        for s in p.stretches:
            run = made.add_run(s.text)
            run.bold, run.italic, run.underline = s.bold, s.italic, s.underline
            run.font.small_caps, run.font.strike = s.small_capitals, s.strike
            run.font.superscript = s.raised == "superior" or None
            run.font.subscript = True if s.raised == "inferior" else run.font.subscript
    file = io.BytesIO()
    document.save(file)
    back = of_bytes(file.getvalue(), "a", "a.docx", "docx")
    plain = [
        Para(p.style, tuple(s._replace(language=None) for s in p.stretches)) for p in paragraphs
    ]
    assert list(back.paragraphs) == [merged(p) for p in plain]


def test_lists_tables_breaks_and_pictures_of_a_docx(tmp_path):
    from PIL import Image

    shot = tmp_path / "shot.png"
    Image.new("RGB", (4, 4)).save(shot)
    document = docx.Document()
    document.add_paragraph("one", style="List Bullet")
    for word in ("first", "second"):
        document.add_paragraph(word, style="List Number")
    table = document.add_table(1, 2)
    table.cell(0, 0).text, table.cell(0, 1).text = "a", "b"
    run = document.add_paragraph("up").add_run()
    run.add_tab()
    run.add_text("on")
    run.add_break()
    run.add_text("below")
    document.add_picture(str(shot))
    document.save(tmp_path / "a.docx")
    back = read(tmp_path / "a.docx")
    assert [(p.style, p.text) for p in back.paragraphs[:5]] == [
        ("List bullet", "one"), ("List number", "first"), ("List number", "second"),
        ("Table", "a\tb"), ("Normal", "up\ton\u2028below"),
    ]  # fmt: skip
    assert [i.data for i in back.pictures] == [shot.read_bytes()]
    assert "3 list entries" in report_in_words(back) and "1 picture" in report_in_words(back)


_BODY = '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>{}</w:body></w:document>'


def docx_of(body, **parts):
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as out:
        out.writestr("word/document.xml", _BODY.format(body))
        for name, data in parts.items():
            out.writestr(f"word/{name}.xml", data)
    return file.getvalue()


def test_tracked_changes_count_as_accepted_and_comments_are_counted():
    """ISO/IEC 29500-1, 17.13.5: ins and moveTo are there, del and moveFrom are gone."""
    body = (
        "<w:p><w:r><w:t>kept </w:t></w:r><w:ins><w:r><w:t>new</w:t></w:r></w:ins>"
        "<w:del><w:r><w:delText>old</w:delText></w:r></w:del>"
        "<w:moveFrom><w:r><w:t>there</w:t></w:r></w:moveFrom>"
        "<w:moveTo><w:r><w:t>here</w:t></w:r></w:moveTo></w:p>"
    )
    space = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
    comments = f"<w:comments {space}><w:comment/><w:comment/></w:comments>"
    back = of_bytes(docx_of(body, comments=comments), "a", "a.docx", "docx")
    assert back.paragraphs[0].text == "kept newhere"
    assert back.left == {"deleted passages": 2, "comments": 2}
    assert (
        report_in_words(back)
        == "1 paragraph came; 2 deleted passages and 2 comments were left out."
    )


def test_notes_are_numbered_and_stand_at_the_end():
    space = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
    note = '<w:footnote w:id="{}"><w:p><w:r><w:t>{}</w:t></w:r></w:p></w:footnote>'
    notes = f"<w:footnotes {space}>{note.format(2, 'Two.')}{note.format(3, 'Three.')}</w:footnotes>"
    body = "".join(
        f'<w:p><w:r><w:t>{w}</w:t></w:r><w:r><w:footnoteReference w:id="{n}"/></w:r></w:p>'
        for w, n in (("Sky", 3), ("Star", 2))
    )
    back = of_bytes(docx_of(body, footnotes=notes), "a", "a.docx", "docx")
    assert [(p.style, p.text) for p in back.paragraphs] == [
        ("Normal", "Sky¹"), ("Normal", "Star²"), ("Note", "1\tThree."), ("Note", "2\tTwo."),
    ]  # fmt: skip


def live(back):
    """What a publication makes of a manuscript with live notes: its text."""
    return brought(new_publication("P", Setup(trim=TRIMS["A5"]), 2), back.with_live_notes())[1]


def test_notes_come_as_live_notes_with_their_words_or_stand_at_the_end_as_before():
    """CommonMark has no notes; those of its usual extension, one of them referred to twice."""
    source = "Sky[^a] and *star*[^b], again[^a].\n\n[^a]: *Old* light.\n[^b]: Two.\n"
    back = of_bytes(source.encode(), "a", "a.md", "md")
    (paragraph,) = live(back)
    notes = [c for c in paragraph.content if isinstance(c, Note)]
    assert [n.content for n in notes] == [
        (Run("Old", look=Look(italic=True)), Run(" light.")), (Run("Two."),),
    ]  # fmt: skip
    words = "".join(c.text if isinstance(c, Run) else "*" for c in paragraph.content)
    assert words == "Sky* and star*, again¹."
    plain = back.with_notes_at_end()
    assert [p.text for p in plain.paragraphs][1:] == ["1\tOld light.", "2\tTwo."]
    assert not any(s.beside for p in plain.paragraphs for s in p.stretches)


def test_entries_of_an_index_come_as_marks():
    """ISO/IEC 29500-1, 17.16.5.71 (XE): term and sub-term, and text instead of a page; as a
    simple field and as one in parts."""
    parts = "".join(
        f"<w:r>{piece}</w:r>"
        for piece in ('<w:fldChar w:fldCharType="begin"/>', "<w:instrText> XE </w:instrText>",
                      '<w:instrText>"Stars:double"</w:instrText>',
                      '<w:fldChar w:fldCharType="end"/>')
    )  # fmt: skip
    simple = (
        '<w:fldSimple w:instr=\' XE "Suns" \\t "See Stars" \'/>'
        '<w:fldSimple w:instr=\' XE "Moons" \\t "See also Planets" \'/>'
        "<w:fldSimple w:instr=' PAGE '><w:r><w:t>7</w:t></w:r></w:fldSimple>"
    )
    body = f"<w:p><w:r><w:t>Mizar</w:t></w:r>{parts}<w:r><w:t> is two.</w:t></w:r>{simple}</w:p>"
    back = of_bytes(docx_of(body), "a", "a.docx", "docx")
    assert back.came["index entries"] == 3 and back.paragraphs[0].text == "Mizar is two.7"
    assert "3 index entries and 1 paragraph came" in report_in_words(back)
    assert live(back)[0].content == (
        Run("Mizar"), IndexMark("Stars", "double"), Run(" is two."),
        IndexMark("Suns", see="Stars"), IndexMark("Moons", see_also="Planets"), Run("7"),
    )  # fmt: skip


def test_entries_of_an_index_come_from_odt():
    """ODF 1.2, 7.1.20: alphabetical-index-mark with a first key and a string value."""

    def build(document):
        p = text.P(text="Mizar")
        p.addElement(text.AlphabeticalIndexMark(stringvalue="double", key1="Stars"))
        p.addText(" is two.")
        document.text.addElement(p)

    back = of_bytes(odt_of(build), "a", "a.odt", "odt")
    assert live(back)[0].content == (
        Run("Mizar"), IndexMark("Stars", "double"), Run(" is two."),
    )  # fmt: skip


def odt_of(build):
    document = OpenDocumentText()
    build(document)
    file = io.BytesIO()
    document.save(file)
    return file.getvalue()


def test_an_odt_of_an_independent_maker_is_read():
    """odfpy: headings, spans in automatic styles, spaces, tabs, breaks, lists, notes."""

    def build(document):
        strong = Style(name="T1", family="text")
        strong.addElement(TextProperties(fontweight="bold"))
        document.automaticstyles.addElement(strong)
        quiet = Style(name="P1", family="paragraph", parentstylename="Quotations")
        document.automaticstyles.addElement(quiet)
        named = Style(name="Quotations", family="paragraph", displayname="Quotations")
        document.styles.addElement(named)
        document.text.addElement(text.H(outlinelevel=2, text="Stars"))
        p = text.P(stylename="P1")
        p.addText("A ")
        p.addElement(text.Span(stylename="T1", text="bold"))
        p.addElement(text.S(c=3))
        p.addElement(text.Tab())
        p.addText("tab")
        p.addElement(text.LineBreak())
        note = text.Note(noteclass="footnote")
        note.addElement(text.NoteCitation(text="1"))
        body = text.NoteBody()
        body.addElement(text.P(text="A note."))
        note.addElement(body)
        p.addElement(note)
        document.text.addElement(p)
        listed = text.List()
        entry = text.ListItem()
        entry.addElement(text.P(text="entry"))
        listed.addElement(entry)
        document.text.addElement(listed)
        remark = office.Annotation()
        remark.addElement(text.P(text="remark"))
        last = text.P(text="end")
        last.addElement(remark)
        document.text.addElement(last)

    back = of_bytes(odt_of(build), "a", "a.odt", "odt")
    assert [(p.style, p.text) for p in back.paragraphs] == [
        ("Heading 2", "Stars"), ("Quote", "A bold   \ttab\u2028¹"),
        ("List bullet", "entry"), ("Normal", "end"), ("Note", "1\tA note."),
    ]  # fmt: skip
    assert back.paragraphs[1].stretches[1] == ManuscriptRun("bold", True)
    assert back.left == {"comments": 1}


def test_an_odts_deleted_words_and_missing_pictures_stay_out():
    def build(document):
        frame = draw.Frame(width="1cm", height="1cm")
        frame.addElement(draw.Image(href="Pictures/none.png"))
        p = text.P(text="here")
        p.addElement(frame)
        document.text.addElement(p)

    back = of_bytes(odt_of(build), "a", "a.odt", "odt")
    assert back.paragraphs[0].text == "here" and back.left == {"pictures elsewhere": 1}


def test_markdown_by_the_examples_of_its_specification():
    """CommonMark 0.31.2: ATX headings, emphasis, hard breaks, lists, quotes; notes as extension."""
    source = (
        "# Title\n\nA *slanted* and **bold** word,\nsame paragraph.  \nNew line.[^n]\n\n"
        "- one\n- two\n\n3. three\n4. four\n\n> quoted\n\n    code\n\n[^n]: The note.\n"
    )
    back = of_bytes(source.encode(), "a", "a.md", "md")
    assert [(p.style, p.text) for p in back.paragraphs] == [
        ("Heading 1", "Title"),
        ("Normal", "A slanted and bold word, same paragraph.\u2028New line.¹"),
        ("List bullet", "one"), ("List bullet", "two"),
        ("List number", "three"), ("List number", "four"),
        ("Quote", "quoted"), ("Preformatted", "code"), ("Note", "1\tThe note."),
    ]  # fmt: skip
    looks = [(s.text, s.bold, s.italic) for s in back.paragraphs[1].stretches]
    assert ("slanted", False, True) in looks and ("bold", True, False) in looks


def test_html_without_its_scripts_and_links():
    source = (
        "<html><head><style>p{}</style><script>alert(1)</script></head><body><h2>Sky</h2>"
        "<p>A <em>slanted</em> <b>word</b><br>below</p><ul><li>one<li>two</ul>"
        '<blockquote><p>said</p></blockquote><img src="http://example.invalid/a.png">'
        "<div>loose <span>text</span></div><script>x()</script></body></html>"
    )
    back = of_bytes(source.encode(), "a", "a.html", "html")
    assert [(p.style, p.text) for p in back.paragraphs] == [
        ("Heading 2", "Sky"), ("Normal", "A slanted word\u2028below"),
        ("List bullet", "one"), ("List bullet", "two"), ("Quote", "said"),
        ("Normal", "loose text"),
    ]  # fmt: skip
    assert back.left["pictures elsewhere"] == 1


def letters(stretch):
    return stretch._replace(text="".join(c for c in stretch.text if c.isalnum()) or "x")


@given(PARAS, st.sampled_from(["html", "md"]))
def test_html_and_markdown_keep_the_words(paragraphs, kind):
    paragraphs = [
        Para(
            "Normal",
            (
                *(t for s in p.stretches for t in (letters(s), ManuscriptRun(" "))),
                ManuscriptRun("x"),
            ),
        )
        for p in paragraphs
    ]
    back = of_bytes(written(paragraphs, kind), "a", f"a.{kind}", kind)
    assert [p.text for p in back.paragraphs] == [p.text for p in paragraphs]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252", "cp1251", "cp1250"])
def test_plain_text_in_the_encodings_people_use(encoding):
    words = {
        "cp1251": "Ночное небо над обсерваторией и звёзды, которые видны осенью. " * 6,
        "cp1250": "Nocne niebo nad obserwatorium; gwiazdy, które widać jesienią, są żółte. " * 6,
    }.get(encoding, "Größe der Sterne – naïve Zählung, Ångström, façade, œuvre. " * 6)
    assert decoded(words.encode(encoding), "a.txt").text == words


def test_lines_broken_by_hand_are_joined_and_others_are_paragraphs():
    wrapped = "\n\n".join(["one line of a letter\nand another one\nand a third"] * 4)
    back = of_bytes(wrapped.encode(), "a", "a.txt", "txt")
    assert [p.text for p in back.paragraphs] == [
        "one line of a letter and another one and a third"
    ] * 4
    plain = of_bytes(b"a\nb\n\nc\n", "a", "a.txt", "txt")
    assert [p.text for p in plain.paragraphs] == ["a", "b", "c"]


BOMB = io.BytesIO()
with zipfile.ZipFile(BOMB, "w", zipfile.ZIP_DEFLATED) as _out:
    for _n in range(5):
        _out.writestr(f"word/{_n}.xml", b"\0" * 90_000_000)
ENTITIES = (
    '<!DOCTYPE w [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>'
    '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">'
    "<w:body><w:p>&b;</w:p></w:body></w:document>"
)


def zipped(**parts):
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w") as out:
        for name, data in parts.items():
            out.writestr(name.replace("__", "/") + ".xml", data)
    return file.getvalue()


@pytest.mark.parametrize(
    ("data", "kind", "said"),
    [
        (b"", "docx", "damaged"),
        (b"PK\x03\x04 no more", "docx", "damaged"),
        (bytes.fromhex("D0CF11E0A1B11AE1") + b"x", "docx", "password"),
        (BOMB.getvalue(), "docx", "unpacks to more"),
        (zipped(word__document=ENTITIES), "docx", "entities"),
        (zipped(word__document="<a>"), "docx", "damaged"),
        (zipped(word__other="<a/>"), "docx", "damaged"),
        (zipped(content="<a/>"), "odt", "damaged"),
        (zipped(**{"META-INF__manifest": "<m><encryption-data/></m>"}, content="<a/>"), "odt",
         "password"),
        (b"\0\1\2\xff" * 40, "txt", "not a text"),
    ],
)  # fmt: skip
def test_bad_files_get_one_sentence(data, kind, said):
    with pytest.raises(Refusal, match=said) as refusal:
        of_bytes(data, "a", f"a.{kind}", kind)
    assert str(refusal.value).endswith(".") and f"“a.{kind}”" in str(refusal.value)


@given(st.binary(max_size=400), st.sampled_from(KINDS))
def test_any_bytes_are_read_or_refused(data, kind):
    try:
        found = of_bytes(data, "a", f"a.{kind}", kind)
    except Refusal:
        return
    assert all(p.style for p in found.paragraphs)


@given(st.data())
def test_a_docx_with_bytes_changed_is_read_or_refused(data):
    good = bytearray(written([Para("Heading 1", (ManuscriptRun("Sky"),))] * 5, "docx", "t"))
    for _ in range(data.draw(st.integers(1, 8))):
        good[data.draw(st.integers(0, len(good) - 1))] = data.draw(st.integers(0, 255))
    try:
        of_bytes(bytes(good), "a", "a.docx", "docx")
    except Refusal as refusal:
        assert str(refusal).endswith(".")


def test_a_line_of_fifty_megabytes_is_read_in_a_moment():
    found = of_bytes(b"word " * 10_000_000, "a", "a.txt", "txt")
    assert len(found.paragraphs) == 1


def test_an_unknown_encoding_or_kind_is_refused(tmp_path):
    with pytest.raises(Refusal, match="ascii"):
        decoded("ä".encode(), "a.txt", "ascii")
    (tmp_path / "a.pdf").write_bytes(b"x")
    with pytest.raises(Refusal, match="can’t be imported"):
        read(tmp_path / "a.pdf")
    with pytest.raises(Refusal, match="can't be read"):
        read(tmp_path / "none.txt")
    with pytest.raises(Refusal, match="can't be written"):
        written([], "pdf")


@given(PARAS)
def test_docx_to_a_story_and_back_keeps_words_styles_and_emphasis(paragraphs):
    publication = new_publication("Book", Setup(trim=TRIMS["A5"]), 2)
    source = of_bytes(written(paragraphs, "docx"), "a", "a.docx", "docx")
    publication, text = brought(publication, source)
    publication, story = pour(publication, publication.sections[0].id, text)
    assert problems(publication) == []
    Composer().compose(publication).scenes()
    out = as_paragraphs(publication, find_story(publication, story).text)
    back = of_bytes(written(out, "docx"), "a", "a.docx", "docx")
    again, same = brought(publication, back)
    assert len(again.paragraph_styles) == len(publication.paragraph_styles)
    assert [p.style for p in same] == [p.style for p in text]
    words = ["".join(c.text for c in p.content) for p in text]
    assert ["".join(c.text for c in p.content) for p in same] == words


def test_styles_are_matched_by_name_and_made_where_there_is_none():
    publication = new_publication("Book", Setup(trim=TRIMS["A5"]), 1)
    found = matched(publication, ["Normal", "Heading 1", "heading", "Quote"])
    assert found == {"Normal": "body", "Heading 1": "heading", "heading": "heading", "Quote": ""}
    manuscript = of_bytes(b"> said\n\n## Sky\n", "a", "a.md", "md")
    after, text = brought(publication, manuscript, {"Quote": "folio"})
    assert text[0].style == "folio"
    assert [s.name for s in after.paragraph_styles][-1] == "Heading 2"


def test_a_long_table_in_markdown_is_walked_once_and_keeps_every_cell(monkeypatch):
    rows = [f"| {n} | same | x{n % 3} |" for n in range(400)]
    text = "\n".join(["| a | b | c |", "|---|---|---|", *rows, "", "Behind the table."])

    def compared(*_):
        raise AssertionError("a token is looked for among all others")

    monkeypatch.setattr(Token, "__eq__", compared)
    found = read_markdown(text, "table.md")
    said = ["".join(s.text for s in p.stretches) for p in found.paragraphs]
    assert said[1:401] == [f"{n}\tsame\tx{n % 3}" for n in range(400)]
    assert said[-1] == "Behind the table."
