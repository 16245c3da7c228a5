"""The machine's fonts of every kind: offered, embedded and painted, or left out with a reason."""

from __future__ import annotations

import io
import struct
from pathlib import Path

import pypdf
import pypdfium2 as pdfium
import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.cu2quPen import Cu2QuPen
from fontTools.pens.t2CharStringPen import T2CharStringPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTCollection, TTFont
from msgspec.structs import replace

from hidden_frame import kept
from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import start_story
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.resources import FONTS
from hidden_frame.typeset.fonts import FontBook, FontFace, book, font_book, instances
from hidden_frame.typeset.fonts.fallback import stretches
from hidden_frame.typeset.fonts.machine import font_files, fonts_in

SPECTRAL = FONTS / "Spectral-Regular.ttf"


def named(font, family, style="Regular"):
    """The font under another name."""
    for record in font["name"].names:
        if record.nameID in (1, 16):
            record.string = family
        elif record.nameID in (2, 17):
            record.string = style
    return font


def static(path, family="Static Test", **os2):
    font = named(TTFont(SPECTRAL), family)
    for name, value in os2.items():
        setattr(font["OS/2"], name, value)
    font.save(path)
    return path


def letters(pen, width, weight):
    """A block with a notch, whose weight is the width of its stem."""
    pen.moveTo((100, 0))
    pen.lineTo((100, 700))
    pen.lineTo((100 + weight, 700))
    pen.lineTo((100 + weight, 0))
    pen.closePath()


def built(path, family, cff=False, axes=False):
    """A small font of three letters, with CFF outlines or with a weight axis."""
    builder = FontBuilder(1000, isTTF=not cff)
    order = [".notdef", "space", "a", "b", "c"]
    builder.setupGlyphOrder(order)
    builder.setupCharacterMap({32: "space", 97: "a", 98: "b", 99: "c"})
    if cff:
        strings = {}
        for name in order:
            pen = T2CharStringPen(500, None)
            if name not in (".notdef", "space"):
                letters(pen, 500, 200)
            strings[name] = pen.getCharString()
        builder.setupCFF(family.replace(" ", ""), {}, strings, {})
    else:
        glyphs = {}
        for name in order:
            pen = TTGlyphPen(None)
            if name not in (".notdef", "space"):
                letters(Cu2QuPen(pen, 1), 500, 100)
            glyphs[name] = pen.glyph()
        builder.setupGlyf(glyphs)
    builder.setupHorizontalMetrics(dict.fromkeys(order, (500, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": family, "styleName": "Regular"})
    builder.setupOS2(sTypoAscender=800, sTypoDescender=-200, fsType=0)
    builder.setupPost()
    if axes:
        builder.setupFvar(
            [("wght", 100, 100, 900, "Weight")],
            [
                {"location": {"wght": 100}, "stylename": "Regular"},
                {"location": {"wght": 900}, "stylename": "Bold"},
                {"location": {"wght": 500}, "stylename": "Medium"},
            ],
        )
        from fontTools.ttLib.tables.TupleVariation import TupleVariation

        wider = [(0, 0), (0, 0), (300, 0), (300, 0)] + [(0, 0)] * 4
        builder.setupGvar(
            {n: [TupleVariation({"wght": (0, 1, 1)}, wider)] for n in ("a", "b", "c")}
        )
    builder.font.save(path)
    return path


@pytest.fixture
def shelf(tmp_path, monkeypatch):
    """A folder that is this machine's only one, and a cache of its own."""
    monkeypatch.setattr(kept, "user_cache_path", lambda _: tmp_path / "cache")
    folder = tmp_path / "fonts"
    folder.mkdir()

    def fonts():
        found = [f for path in font_files((folder,)) for f in fonts_in(path)]
        return FontBook(FONTS, lambda: found)

    return folder, fonts


def printed(face_book, monkeypatch, family, text="abc", bold=False):
    """A text in a family as the PDF has it, and as PDFium paints it."""
    monkeypatch.setattr(book, "font_book", lambda: face_book)
    monkeypatch.setattr("hidden_frame.compose.textspec.font_book", lambda: face_book)
    monkeypatch.setattr("hidden_frame.typeset.fonts.fallback.font_book", lambda: face_book)
    publication = new_publication("F", Setup(trim=Size(300, 200)), 1)
    page = all_pages(publication)[0].id
    look = Look(family=family, size=60.0, bold=bold)
    frame = TextFrame(id="", x=10, y=10, width=280, height=180,
                      text=(Paragraph("body", (Run(text, None, look),)),))  # fmt: skip
    big = replace(publication.paragraph_styles[0], leading=90.0)
    publication = replace(publication, paragraph_styles=(big, *publication.paragraph_styles[1:]))
    publication, _ = add_item(publication, page, frame)
    data = pdf_bytes(Composer().compose(publication), {})
    image = pdfium.PdfDocument(data)[0].render(scale=1).to_pil().convert("L")
    darkest = 255 - image.getextrema()[0]  # black ink alone is not quite black on a screen
    ink = sum(255 - v for v in image.tobytes()) / max(darkest, 1)
    return pypdf.PdfReader(io.BytesIO(data)), ink


def embedded(reader):
    for number in range(1, reader.trailer["/Size"]):
        found = reader.get_object(number)
        if isinstance(found, dict) and found.get("/Subtype") in ("/CIDFontType0", "/CIDFontType2"):
            yield found


def test_capitals_in_an_ending_and_folders_are_found(shelf):
    folder, fonts = shelf
    (folder / "deep").mkdir()
    static(folder / "deep" / "A.TTF", "Loud Ending")
    assert fonts().knows("Loud Ending")


def test_cff_outlines_are_embedded_as_they_are(shelf, monkeypatch):
    folder, fonts = shelf
    built(folder / "c.otf", "Post Test", cff=True)
    reader, ink = printed(fonts(), monkeypatch, "Post Test")
    (font,) = embedded(reader)
    assert font["/Subtype"] == "/CIDFontType0" and "/CIDToGIDMap" not in font
    program = font["/FontDescriptor"]["/FontFile3"]
    assert program["/Subtype"] == "/CIDFontType0C"
    assert program.get_data()[:1] == b"\x01"  # a bare CFF table, no OpenType around it
    assert reader.pages[0].extract_text() == "abc"
    assert ink == pytest.approx(3 * 0.2 * 0.7 * 60**2, rel=0.05)


def test_members_of_a_collection_are_offered_one_by_one(shelf, monkeypatch):
    folder, fonts = shelf
    collection = TTCollection()
    sans = FONTS / "AlegreyaSans-Regular.ttf"
    collection.fonts = [named(TTFont(SPECTRAL), "First Member"),
                        named(TTFont(sans), "Second Member")]  # fmt: skip
    collection.save(folder / "both.ttc")
    known = fonts()
    assert known.knows("First Member") and known.knows("Second Member")
    assert known.face("First Member").unicodes != known.face("Second Member").unicodes
    reader, ink = printed(known, monkeypatch, "Second Member")
    assert reader.pages[0].extract_text() == "abc" and ink > 100


def test_named_instances_of_a_variable_font(shelf, monkeypatch):
    folder, fonts = shelf
    built(folder / "v.ttf", "Vary Test", axes=True)
    known = fonts()
    assert {"Vary Test", "Vary Test Medium"} <= set(known.families())
    _, thin = printed(known, monkeypatch, "Vary Test")
    _, medium = printed(known, monkeypatch, "Vary Test Medium")
    _, bold = printed(known, monkeypatch, "Vary Test", bold=True)
    assert thin == pytest.approx(3 * 0.1 * 0.7 * 3600, rel=0.06)
    assert bold == pytest.approx(3 * 0.4 * 0.7 * 3600, rel=0.06)
    assert thin * 1.5 < medium < bold
    made = list((folder.parent / "cache" / "fonts").iterdir())
    assert len(made) == 3  # made once; the next process reads them from there
    monkeypatch.setattr(instances, "_made", lambda *_: 1 / 0)
    assert FontFace("Vary Test", "Bold", known._found["Vary Test"]["Bold"]).data


@pytest.mark.parametrize(
    ("bits", "reason"),
    [(0x0002, "may not be embedded"), (0x0200, "bitmaps only"), (0x0006, ""), (0x0008, ""),
     (0x0100, ""), (0, "")],
)  # fmt: skip
def test_what_a_licence_forbids_is_said(shelf, bits, reason):
    # OpenType specification, OS/2 table, fsType.
    folder, fonts = shelf
    static(folder / "a.ttf", "Licence Test", fsType=bits)
    known = fonts()
    assert known.knows("Licence Test") == (not reason)
    assert (reason in known.refused.get("Licence Test", "")) == bool(reason) or not reason


def test_a_font_that_forbids_a_part_is_embedded_whole(shelf, monkeypatch):
    folder, fonts = shelf
    path = static(folder / "a.ttf", "Whole Test", fsType=0x0100)
    reader, _ = printed(fonts(), monkeypatch, "Whole Test", "abc\ue000")
    (font,) = embedded(reader)
    assert font["/FontDescriptor"]["/FontFile2"].get_data() == path.read_bytes()


def longer(data, tag):
    """The font with one table that claims to be larger than the file."""
    at = data.index(tag, 12) + 12
    return data[:at] + struct.pack(">I", 0x7FFFFFF0) + data[at + 4 :]


DAMAGE = {
    "empty": lambda data: b"",
    "cut short": lambda data: data[: len(data) // 3],
    "no table of characters": lambda data: data.replace(b"cmap", b"xxxx", 1),
    "no metrics": lambda data: data.replace(b"hmtx", b"xxxx", 1),
    "not a font": lambda data: b"some text that is no font at all" * 20,
    "a table beyond its end": lambda data: longer(data, b"glyf"),
    "a table before its start": lambda data: longer(data, b"hhea"),
}


@pytest.mark.parametrize("kind", DAMAGE)
@pytest.mark.parametrize("ending", [".ttf", ".otf", ".ttc"])
def test_a_damaged_font_is_left_out_with_a_reason(shelf, kind, ending):
    folder, fonts = shelf
    whole = static(folder / "whole", "Broken Test").read_bytes()
    (folder / "whole").unlink()
    (folder / f"Broken{ending}").write_bytes(DAMAGE[kind](whole))
    known = fonts()
    assert set(known.families()) == set(known.shipped)
    assert all("damaged" in reason for reason in known.refused.values())
    assert known.refused or ending == ".ttc"


def test_a_damaged_outline_never_fails_an_export(shelf, monkeypatch):
    folder, fonts = shelf
    font = named(TTFont(SPECTRAL), "Outline Test")
    data = io.BytesIO()
    font.save(data)
    raw = bytearray(data.getvalue())
    at = TTFont(io.BytesIO(bytes(raw))).reader.tables["glyf"].offset
    raw[at + 200 : at + 60_000] = b"\xff" * 59_800
    (folder / "o.ttf").write_bytes(bytes(raw))
    known = fonts()
    if known.knows("Outline Test"):
        printed(known, monkeypatch, "Outline Test")


def test_a_font_that_vanishes_is_as_if_it_were_not_here(shelf):
    folder, fonts = shelf
    path = static(folder / "a.ttf", "Vanishing Test")
    known = fonts()
    assert known.knows("Vanishing Test")
    path.unlink()
    assert known.face("Vanishing Test") is known.face("Spectral")
    assert not known.knows("Vanishing Test")


def test_the_shipped_fallback_covers_the_scripts_it_promises():
    known = FontBook(FONTS, tuple)
    have = frozenset().union(*(f.unicodes for f in known.reserve(False, False)))
    for first, last in ((0x20, 0x7E), (0xA1, 0x17F), (0x391, 0x3A1), (0x3B1, 0x3C9),
                        (0x400, 0x45F), (0x5D0, 0x5EA), (0x621, 0x63A), (0x2190, 0x21FF),
                        (0x2200, 0x22FF)):  # fmt: skip
        lacking = [chr(n) for n in range(first, last + 1) if chr(n) not in have]
        assert set(lacking) <= {"\xad"}
    assert Path(FONTS.parent / "fallback" / "OFL-Noto.txt").read_text().count("SIL") > 0


@pytest.mark.parametrize("word", ["περιμένουν", "Ωραίο", "μπορεί", "небо"])
def test_a_word_of_another_script_stands_in_one_font(word):
    """Spectral has π, μ and Ω as signs, and lacks most other Greek letters."""
    parts = stretches(f"see {word} here", font_book().face("Spectral"))
    assert [text for text, _ in parts if set(word) & set(text)] in ([word], [f"see {word} here"])


def test_a_font_of_the_machine_is_offered_for_what_no_font_here_has(shelf, monkeypatch):
    """In a frame and in a story; what is offered is then printed, and told no more."""
    folder, fonts = shelf
    static(folder / "plain.ttf", "Plain Test")
    for name, codes in (("Some Han", "字"), ("All Han", "字夜")):
        font = named(TTFont(SPECTRAL), name)
        for table in font["cmap"].tables:
            if table.isUnicode():
                table.cmap |= {ord(c): "a" for c in codes}
        font.save(folder / f"{name}.ttf")
    face_book = fonts()
    for module in ("compose.textspec", "typeset.fonts.fallback", "checks.ways"):
        monkeypatch.setattr(f"hidden_frame.{module}.font_book", lambda: face_book)
    assert face_book.having("字夜") == {"All Han": "字夜", "Some Han": "字"}
    publication = new_publication("F", Setup(trim=Size(300, 200)), 1)
    page = all_pages(publication)[0].id
    body = (Paragraph("body", (Run("the sign 字夜 at night 夜"),)),)
    frame = TextFrame(id="", x=10, y=10, width=280, height=80, text=body)
    publication, _ = add_item(publication, page, frame)
    publication, other = add_item(publication, page, replace(frame, y=100))
    publication, _ = start_story(publication, page, other)
    found = lacking(publication)
    assert len(found) == 2
    assert all("字" in f.sentence and "no installed font has" in f.sentence for f in found)
    assert found[0].ways[0].offer == "Set them in All Han"
    mended = found[0].ways[0].fix(publication)
    assert not lacking(mended)
    data = pdf_bytes(Composer().compose(mended), {})
    assert pypdf.PdfReader(io.BytesIO(data)).pages[0].extract_text().count("字夜") == 2


def lacking(publication):
    composition = Composer().compose(publication)
    return [f for f in content_findings(composition, ()) if f.kind == "missing character"]
