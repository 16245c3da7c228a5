"""The PDF read back by independent readers: pypdf and pypdfium2."""

from __future__ import annotations

import gc
import io
import re
import time
import weakref
from contextlib import suppress
from datetime import UTC, datetime

import pypdf
import pypdfium2 as pdfium
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from hidden_frame.compose.composer import Composer
from hidden_frame.demo.almanac import almanac
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_colour, put_picture
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.pages.sections import start_section
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Crop, Size
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Numbering, Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.output.pdf import Cancelled, export_pdf, pdf_bytes
from hidden_frame.output.pdf.spool import Spool
from hidden_frame.storage.pictures import picture_from_bytes


def exported(publication, blobs=(), pages=None):
    composition = Composer().compose(publication)
    return composition, pdf_bytes(composition, dict(blobs), pages)


@pytest.fixture(scope="module")
def demo_pdf(demo):
    return exported(*demo)


def test_labels_are_the_folios_by_two_readers(demo_pdf):
    composition, data = demo_pdf
    folios = [f.folio for f in composition.facts.values()]
    assert pypdf.PdfReader(io.BytesIO(data)).page_labels == folios
    document = pdfium.PdfDocument(data)
    assert [document.get_page_label(n) for n in range(len(document))] == folios


numberings = st.builds(
    Numbering,
    style=st.sampled_from(
        ["decimal", "lower roman", "upper roman", "lower letters", "upper letters", "none"]
    ),
    start=st.none() | st.integers(1, 60) | st.integers(3990, 4010),
    prefix=st.sampled_from(["", "A-", "S ", "(é)"]),
    counted=st.booleans(),
)


@settings(max_examples=25)
@given(st.lists(st.tuples(st.integers(1, 4), numberings), min_size=1, max_size=5))
def test_labels_of_random_sections_by_two_readers(sections):
    count = sum(pages for pages, _ in sections)
    publication = new_publication("P", Setup(trim=TRIMS["A6"]), count)
    ids = [p.id for p in all_pages(publication)]
    at = 0
    for pages, numbering in sections:
        publication, _ = start_section(publication, ids[at], f"S{at}", numbering)
        at += pages
    composition, data = exported(publication)
    folios = [f.folio for f in composition.facts.values()]
    assert pypdf.PdfReader(io.BytesIO(data)).page_labels == folios
    document = pdfium.PdfDocument(data)
    assert [document.get_page_label(n) for n in range(count)] == folios


@settings(max_examples=12)
@given(st.floats(60, 900), st.floats(60, 900), st.floats(0, 40))
def test_boxes_nest_as_the_standard_wants(width, height, bleed):
    # ISO 32000-1, 14.11.2: trim within bleed within media; sizes as set.
    setup = Setup(trim=Size(width, height), bleed=bleed, margins=_thin())
    _, data = exported(new_publication("P", setup, 1))
    page = pypdf.PdfReader(io.BytesIO(data)).pages[0]
    trim, bled, media = (
        [float(v) for v in b] for b in (page.trimbox, page.bleedbox, page.mediabox)
    )
    assert trim[2] - trim[0] == pytest.approx(width, abs=0.01)
    assert trim[3] - trim[1] == pytest.approx(height, abs=0.01)
    assert bled == pytest.approx(media, abs=0.01)
    assert trim == pytest.approx(
        [bled[0] + bleed, bled[1] + bleed, bled[2] - bleed, bled[3] - bleed], abs=0.01
    )


def _thin():
    from hidden_frame.model.geometry import Margins

    return Margins(top=5, bottom=5, inside=5, outside=5)


def objects(reader):
    """Every dictionary and stream of a file."""
    found = (reader.get_object(n) for n in range(1, reader.trailer["/Size"]))
    return [o for o in found if isinstance(o, pypdf.generic.DictionaryObject)]


def letters(text):
    """Text without the spaces and line ends that readers add or leave out, and without hyphens, in
    place of which they are told the rest of a word (`test_read_back`)."""
    return re.sub(r"[\s\u2028\u200b-]", "", text)


def test_text_of_every_page_is_what_the_scene_says(demo_pdf):
    composition, data = demo_pdf
    pages = pypdf.PdfReader(io.BytesIO(data)).pages
    for page, scene in zip(pages, composition.scenes(), strict=True):
        said = letters("".join(scene.text_of()))
        read = letters(page.extract_text())
        if page is pages[3]:  # leaders are nobody's text, but pypdf reads them too
            read, said = read.replace(".", ""), said.replace(".", "")
        assert sorted(read) == sorted(said)
    document = pdfium.PdfDocument(data)
    for number, scene in enumerate(composition.scenes()):
        read = letters(document[number].get_textpage().get_text_bounded())
        read = read.replace("\ufffe", "-").replace("\x02", "-")
        said = letters("".join(scene.text_of()))
        if number == 3:
            read, said = read.replace(".", ""), said.replace(".", "")
        assert sorted(read) == sorted(said)


def test_words_keep_their_spaces_and_ligatures_can_be_searched(small):
    page = all_pages(small)[0].id
    text = (Paragraph("body", (Run("The office of efficient affairs"),)),)
    frame = TextFrame(id="", x=20, y=20, width=350, height=30, text=text)
    publication, _ = add_item(small, page, frame)
    _, data = exported(publication)
    read = pypdf.PdfReader(io.BytesIO(data)).pages[0].extract_text()
    assert "The office of efficient affairs" in read
    found = pdfium.PdfDocument(data)[0].get_textpage().search("efficient").get_next()
    assert found is not None


def test_fonts_are_embedded_subsets(demo_pdf):
    _, data = demo_pdf
    reader = pypdf.PdfReader(io.BytesIO(data))
    fonts = [o for o in objects(reader) if o.get("/Subtype") == "/Type0"]
    assert len(fonts) >= 4
    assert not [o for o in objects(reader) if o.get("/Subtype") == "/Type1"]  # none unembedded
    for font in fonts:
        assert re.match(r"^/[A-Z]{6}\+", font["/BaseFont"])
        descendant = font["/DescendantFonts"][0].get_object()
        data = descendant["/FontDescriptor"]["/FontFile2"].get_data()
        assert len(data) == descendant["/FontDescriptor"]["/FontFile2"]["/Length1"]
        assert "/ToUnicode" in font


def test_title_and_bookmarks(demo_pdf):
    composition, data = demo_pdf
    reader = pypdf.PdfReader(io.BytesIO(data))
    assert reader.metadata.title == "Night Sky Almanac"
    names = [s.name for s in composition.publication.sections]
    assert [o.title for o in reader.outline] == names
    starts = [reader.get_destination_page_number(o) for o in reader.outline]
    assert starts == [0, 1, 6, 11, 16, 21, 26, 31]


def test_shapes_opacity_and_rotation_land_where_they_should(small):
    page = all_pages(small)[0].id
    red = Shape(id="", x=100, y=100, width=80, height=40, rotation=90, fill=Fill("ochre"))
    pale = Shape(id="", x=250, y=100, width=60, height=60, opacity=0.5, fill=Fill("ink"))
    line = Line(id="", x=50, y=300, width=200, height=0, stroke=Stroke(colour="spruce", width=6))
    publication = small
    for item in (red, pale, line):
        publication, _ = add_item(publication, page, item)
    _, data = exported(publication)
    image = pdfium.PdfDocument(data)[0].render(scale=1).to_pil().convert("RGB")
    b = small.setup.bleed

    def at(x, y):
        return image.getpixel((round(x + b), round(y + b)))

    assert at(140, 85)[2] < 80 and at(105, 120) == (255, 255, 255)  # turned upright
    paper = 255
    plain = at_ink(data)
    assert at(280, 130)[0] == pytest.approx((plain + paper) / 2, abs=3)
    assert at(150, 300)[1] == pytest.approx(0.435 * 255, abs=3)


def at_ink(data):
    """How PDFium shows black ink alone (DeviceCMYK 0 0 0 1)."""
    import pikepdf

    with pikepdf.Pdf.open(io.BytesIO(data)) as file:
        page = file.pages[0]
        page.Contents = file.make_stream(b"0 0 0 1 k 0 0 2000 2000 re f")
        buffer = io.BytesIO()
        file.save(buffer)
    image = pdfium.PdfDocument(buffer.getvalue())[0].render(scale=0.2).to_pil()
    return image.convert("RGB").getpixel((5, 5))[0]


def test_svg_logos_stay_vectors_and_a_logo_is_stored_once(demo, demo_pdf):
    _, data = demo_pdf
    reader = pypdf.PdfReader(io.BytesIO(data))
    images = [o for o in objects(reader) if o.get("/Subtype") == "/Image"]
    assert len(images) == 2  # the night sky and the sketch; logo and seal are paths


def test_chosen_pages_keep_their_labels_and_export_can_be_stopped(demo, tmp_path):
    publication, blobs = demo
    ids = [p.id for p in all_pages(publication)]
    composition, data = exported(publication, blobs, [ids[3], ids[4], ids[9]])
    assert pypdf.PdfReader(io.BytesIO(data)).page_labels == ["iv", "v", "4"]
    path = tmp_path / "out.pdf"
    with pytest.raises(Cancelled):
        export_pdf(composition, blobs, path, None, lambda done, total: done < 2)
    assert not path.exists()


def test_recurring_items_stand_at_the_same_place_on_all_pages(demo, demo_pdf):
    """Common practice of the trade: what recurs does not jump from page to page.  Read by
    PDFium, to a hundredth of a point: the folio at the outside foot, mirrored on versos."""
    publication, _ = demo
    composition, data = demo_pdf
    document = pdfium.PdfDocument(data)
    width, bleed = publication.setup.trim.width, publication.setup.bleed
    base = next(m for m in publication.masters if m.name == "Almanac base")
    folio = next(i for i in base.items if i.name == "Folio")
    edges: dict[str, set[float]] = {"verso": set(), "recto": set()}
    heights = set()
    for number, facts in enumerate(composition.facts.values()):
        shown = [p for p in composition.scene(facts.page_id).placed if p.item_id == folio.id]
        if not shown:
            continue
        text = shown[0].drawing.text
        page = document[number].get_textpage()
        left = shown[0].matrix.e + text.x + text.text.lines[0].left
        x, y = left + bleed, publication.setup.trim.height + bleed - shown[0].matrix.f
        boxes = [page.get_charbox(n, loose=True) for n in range(page.count_chars())]
        near = [b for b in boxes if abs(b[1] - y) < 20 and x - 1 <= b[0] <= x + 60]
        assert near, facts.folio
        box = (min(b[0] for b in near), min(b[1] for b in near), max(b[2] for b in near))
        edges[facts.side].add(round(box[0] if facts.side == "verso" else box[2], 2))
        heights.add(round(box[1], 2))
    assert len(edges["verso"]) == len(edges["recto"]) == len(heights) == 1
    outside = publication.setup.margins.outside
    assert edges["verso"].pop() == pytest.approx(bleed + outside, abs=0.011)
    assert edges["recto"].pop() == pytest.approx(bleed + width - outside, abs=0.011)


def pixel(data, x, y, scale=2.0):
    """The colour that PDFium paints at a point of the first page, from its top left."""
    image = pdfium.PdfDocument(data)[0].render(scale=scale).to_pil().convert("RGB")
    return image.getpixel((round(x * scale), round(y * scale)))


@pytest.mark.parametrize(("blend", "expected"), [("normal", (255, 255, 255)), ("multiply", None)])
def test_a_drawing_on_white_blots_out_what_is_beneath_or_darkens_it(small, blend, expected):
    """A white raster picture over a ruled line, in the PDF as PDFium renders it."""
    image = io.BytesIO()
    Image.new("RGB", (40, 40), (255, 255, 255)).save(image, "PNG")
    picture, blob = picture_from_bytes(image.getvalue(), "white.png")
    page = all_pages(small)[0].id
    publication = put_picture(small, picture)
    rule = Shape(id="", x=20, y=50, width=200, height=10, fill=Fill("spruce"))
    publication, _ = add_item(publication, page, rule)
    frame = PictureFrame(id="", x=60, y=30, width=50, height=50, picture=picture.hash, blend=blend)
    publication, _ = add_item(publication, page, frame)
    _, data = exported(publication, {picture.hash: blob}, [page])
    bleed = publication.setup.bleed
    plain, covered = (pixel(data, x + bleed, 55 + bleed) for x in (30, 80))
    assert covered == (expected or plain)
    assert plain != (255, 255, 255)


def test_two_tones_multiply_as_the_standard_says(small):
    # ISO 32000-1, 11.3.5.2: B(cb, cs) = cb × cs, channel by channel.
    page = all_pages(small)[0].id
    shape = Shape(id="", x=20, y=20, width=60, height=60, fill=Fill("ochre"))
    publication, _ = add_item(small, page, shape)
    other = replace(shape, x=50, fill=Fill("spruce"), blend="multiply")
    publication, _ = add_item(publication, page, other)
    _, data = exported(publication, (), [page])
    bleed = publication.setup.bleed
    lower, both, upper = (pixel(data, x + bleed, 50 + bleed) for x in (30, 65, 100))
    for a, b, c in zip(lower, upper, both, strict=True):
        assert c == pytest.approx(a * b / 255, abs=1.5)


@pytest.mark.parametrize("share", [0.2, 0.5, 0.9])
@pytest.mark.parametrize("master", [False, True])
def test_what_is_multiplied_and_seen_through_is_both(small, share, master):
    """ISO 32000-1, 11.3.6: (1 − α) cb + α (cb × cs); on a page and in a form that pages share."""
    pages = [p.id for p in all_pages(small)[:2]]
    holder = pages[0]
    if master:
        small, holder = add_master(small, "Tones")
        small = apply_masters(small, pages, (holder,))
    below = Shape(id="", x=20, y=20, width=60, height=60, fill=Fill("ochre"))
    publication, _ = add_item(small, holder, below)
    above = replace(below, x=50, fill=Fill("spruce"), blend="multiply", opacity=share)
    publication, _ = add_item(publication, holder, above)
    solid = replace(above, x=150, blend="normal", opacity=1.0)
    publication, _ = add_item(publication, holder, solid)
    _, data = exported(publication, (), pages)
    bleed = publication.setup.bleed
    lower, both, upper = (pixel(data, x + bleed, 50 + bleed) for x in (30, 65, 170))
    for a, b, c in zip(lower, upper, both, strict=True):
        assert c == pytest.approx((1 - share) * a + share * a * b / 255, abs=1.5)


def test_a_picture_is_clipped_to_round_corners_and_cropped_where_it_is_put(small):
    image = io.BytesIO()
    half = Image.new("RGB", (80, 40), (200, 0, 0))
    half.paste((0, 0, 200), (40, 0, 80, 40))
    half.save(image, "PNG")
    picture, blob = picture_from_bytes(image.getvalue(), "halves.png")
    page = all_pages(small)[0].id
    publication = put_picture(small, picture)
    frame = PictureFrame(id="", x=50, y=50, width=60, height=60, radius=30, fit="free",
                         crop=Crop(-80.0, 0.0, 2.0), picture=picture.hash)  # fmt: skip
    publication, _ = add_item(publication, page, frame)
    _, data = exported(publication, {picture.hash: blob}, [page])
    bleed = publication.setup.bleed
    assert pixel(data, 80 + bleed, 80 + bleed) == (0, 0, 200)
    assert pixel(data, 52 + bleed, 52 + bleed) == (255, 255, 255)


# -- the file itself -------------------------------------------------------------------------


def test_what_the_publication_says_of_itself_stands_in_info_and_xmp_alike(demo):
    publication, blobs = demo
    when = datetime(2031, 3, 20, 9, 30, tzinfo=UTC)
    data = pdf_bytes(Composer().compose(publication), blobs, None, None, when)
    reader = pypdf.PdfReader(io.BytesIO(data))
    info, xmp = reader.metadata, reader.xmp_metadata
    about = publication.about
    assert info.title == xmp.dc_title["x-default"] == publication.title
    assert info.author == about.author and xmp.dc_creator == [about.author]
    assert info.subject == xmp.dc_description["x-default"] == about.subject
    assert info["/Keywords"] == xmp.pdf_keywords == about.keywords
    assert info.producer == xmp.pdf_producer == "Hidden Frame"
    assert info.creation_date == when and xmp.xmp_create_date.replace(tzinfo=UTC) == when
    assert reader.trailer["/Root"]["/Lang"] == "en-GB" and xmp.dc_language == ["en-GB"]


def test_streams_are_binary_and_objects_packed(demo_pdf):
    _, data = demo_pdf
    assert b"ASCII85" not in data and b"/ObjStm" in data
    reader = pypdf.PdfReader(io.BytesIO(data))
    streams = [o for o in objects(reader) if isinstance(o, pypdf.generic.StreamObject)]
    assert all(o.get("/Filter") for o in streams if o.get("/Type") != "/Metadata")


def test_the_same_publication_makes_the_same_file(demo):
    publication, blobs = demo
    when = datetime(2031, 3, 20, tzinfo=UTC)
    one, other = (
        pdf_bytes(Composer().compose(publication), blobs, None, None, when) for _ in range(2)
    )
    assert one == other


def master_text(small, pages):
    """Pages that follow a master with 3,000 characters on it, and nothing else."""
    publication = new_publication("M", Setup(trim=TRIMS["A5"]), pages)
    master = publication.masters[0].id
    words = "".join(f"word{n} " for n in range(500))
    text = (Paragraph("body", (Run(words),)),)
    frame = TextFrame(id="", x=20, y=20, width=350, height=550, text=text)
    publication, _ = add_item(publication, master, frame)
    return exported(publication)[1]


def test_a_masters_drawing_stands_once_in_the_file(small):
    """A page more costs its own objects only: far less than the text of its master."""
    few, many = len(master_text(small, 10)), len(master_text(small, 210))
    assert (many - few) / 200 < 220
    reader = pypdf.PdfReader(io.BytesIO(master_text(small, 30)))
    forms = {id(o) for o in objects(reader) if o.get("/Subtype") == "/Form"}
    assert len(forms) == 2  # a form for each side
    assert all("word99" in page.extract_text() for page in reader.pages)


def test_black_text_is_black_ink_alone(small):
    page = all_pages(small)[0].id
    text = (Paragraph("body", (Run("black"),)),)
    publication, _ = add_item(
        small, page, TextFrame(id="", x=9, y=9, width=90, height=30, text=text)
    )
    _, data = exported(publication, (), [page])
    content = pypdf.PdfReader(io.BytesIO(data)).pages[0].get_contents().get_data()
    assert b"0 0 0 1 k" in content and b" rg" not in content


def test_a_glyph_raised_by_the_font_is_raised_in_the_file():
    """The operators themselves: a rise where the shaper asked for one, and back again."""
    from hidden_frame.output.pdf.fonts import EmbeddedFont
    from hidden_frame.typeset.fonts import font_book
    from hidden_frame.typeset.shaping import Shaped

    face = font_book().face("Spectral")
    a, b = (int(face.font.get_nominal_glyph(ord(c))) for c in "ab")
    shaped = Shaped("aba", (a, b, a), (500, 500, 500), ((0, 0), (0, 130), (0, 0)), (0, 1, 2), 1500)
    coded = EmbeddedFont(face).code(shaped)
    assert [rise for rise, _ in coded.pieces] == [0, 130, 0] and coded.spelt
    assert coded.plain is None


def test_progress_ends_with_the_file(demo, tmp_path):
    """Nothing silent after 100 %: the last call comes when all is written but the file."""
    publication, blobs = demo
    calls = []
    export_pdf(Composer().compose(publication), blobs, tmp_path / "a.pdf", None,
               lambda done, total: bool(calls.append((done, total))) or True)  # fmt: skip
    done, totals = [d for d, _ in calls], {t for _, t in calls}
    assert done == sorted(done) and len(totals) == 1
    assert calls[-1][0] == calls[-1][1] and sum(d == calls[-1][1] for d in done) <= 3


@pytest.mark.parametrize("share", [2.0, 0.98])
def test_an_export_leaves_its_document_to_nobody(demo, tmp_path, monkeypatch, share):
    """Each export of 5,000 pages kept 42 MB: a document and what it told how far it is held each
    other, in two languages, so that no collector saw it."""
    made = []

    def watched(self):
        pdf = opened(self)
        made.append(weakref.ref(self._file))  # which the document holds
        return pdf

    opened = Spool.opened
    monkeypatch.setattr(Spool, "opened", watched)
    publication, blobs = demo
    with suppress(Cancelled):
        export_pdf(Composer().compose(publication), blobs, tmp_path / "a.pdf", None,
                   lambda done, total: done < share * total)  # fmt: skip
    until = time.monotonic() + 5
    while made[0]() is not None and time.monotonic() < until:
        gc.collect()  # the thread that writes may still be ending
    assert made[0]() is None


@given(st.text(max_size=40))
def test_any_name_can_be_that_of_a_spot_colour(name):
    from hidden_frame.model.paint import Colour

    publication = new_publication("P", Setup(trim=TRIMS["A6"]), 1)
    spot = Colour(id="spot", name=name, space="spot", values=(0.0, 0.5, 0.5, 0.0))
    publication = put_colour(publication, spot)
    page = all_pages(publication)[0].id
    shape = Shape(id="", x=0, y=0, width=50, height=50, fill=Fill("spot"))
    publication, _ = add_item(publication, page, shape)
    _, data = exported(publication)
    spaces = pypdf.PdfReader(io.BytesIO(data)).pages[0]["/Resources"]["/ColorSpace"]
    assert [s[0] for s in spaces.values()] == ["/Separation"]


def test_the_body_is_read_before_head_and_foot(small):
    """Common practice for reading aloud: what repeats on each page comes after what is new."""
    master, page = small.masters[0].id, all_pages(small)[2].id

    def frame(words, y, **more):
        text = (Paragraph("body", (Run(words),)),)
        return TextFrame(id="", x=40, y=y, width=300, height=24, text=text, **more)

    publication = small
    for holder, item in ((master, frame("Head", 30)), (master, frame("Foot", 540)),
                         (page, frame("Body", 250))):  # fmt: skip
        publication, _ = add_item(publication, holder, item)
    _, data = exported(publication, (), [page])
    words = pypdf.PdfReader(io.BytesIO(data)).pages[0].extract_text().split()
    assert words == ["Body", "Head", "Foot"]


def test_what_covers_a_masters_text_goes_on_covering_it(small):
    master, page = small.masters[0].id, all_pages(small)[2].id
    text = (Paragraph("body", (Run("covered"),)),)
    under = TextFrame(id="", x=40, y=40, width=200, height=30, text=text)
    publication, _ = add_item(small, master, under)
    cover = Shape(id="", x=20, y=20, width=300, height=100, fill=Fill("paper"))
    publication, _ = add_item(publication, page, cover)
    _, data = exported(publication, (), [page])
    image = pdfium.PdfDocument(data)[0].render(scale=1).to_pil().convert("L")
    assert image.getextrema() == (255, 255)


@pytest.mark.parametrize("bleed", [0.0, 8.5, 20.0])
def test_the_bleed_is_chosen_at_export(bleed):
    publication, blobs = almanac()
    composition = Composer().compose(publication)
    first = [all_pages(publication)[0].id]
    read = pypdf.PdfReader(io.BytesIO(pdf_bytes(composition, blobs, first, bleed=bleed)))
    trim, page = publication.setup.trim, read.pages[0]
    # ISO 32000-1, 14.11.2: the trim box is the finished page, the bleed box what goes around it.
    assert [float(v) for v in page.trimbox] == pytest.approx(
        [bleed, bleed, bleed + trim.width, bleed + trim.height], abs=0.01
    )
    assert float(page.mediabox.width) == pytest.approx(trim.width + 2 * bleed, abs=0.01)
    own = pypdf.PdfReader(io.BytesIO(pdf_bytes(composition, blobs, first)))
    assert page.extract_text() == own.pages[0].extract_text()


@pytest.mark.parametrize("bleed", [-1.0, 1e6])
def test_a_bleed_that_no_press_has_is_refused(bleed):
    publication, blobs = almanac()
    with pytest.raises(Refusal, match="can't be exported"):
        pdf_bytes(Composer().compose(publication), blobs, bleed=bleed)


@pytest.mark.parametrize("words", ["x\u0301 and q\u0307", "sine x\u0301", "x\u0301"])
def test_what_glyphs_alone_do_not_spell_is_told_in_actual_text(small, words):
    """ISO 32000-1, 14.9.4: a mark that was put on a letter is its glyph's, but not its text's."""
    page = all_pages(small)[0].id
    frame = TextFrame(
        id="", x=40, y=40, width=300, height=60, text=(Paragraph("body", (Run(words),)),)
    )
    publication, _ = add_item(small, page, frame)
    reader = pypdf.PdfReader(io.BytesIO(exported(publication)[1]))
    found = b"".join(p.get_contents().get_data() for p in reader.pages)
    wanted = words.encode("utf-16-be").hex().upper()
    assert f"/ActualText <FEFF{wanted}>".encode() in found
