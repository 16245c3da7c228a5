"""Pictures and captions anchored in a text: where they stand, and that they travel."""

from __future__ import annotations

import io

import pypdfium2 as pdfium
import pytest
from benchmarks.whole_file import to_bytes
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.scene import PicturePrimitive, Placeholder, TextPrimitive
from hidden_frame.edit.carry.items import clip_of, pasted
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.looks.styles import (
    delete_paragraph_style,
    new_paragraph_style,
    put_paragraph_style,
    put_picture,
    style_uses,
)
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import pour, set_story_text
from hidden_frame.edit.text.anchors import anchor_at, change_anchor
from hidden_frame.edit.text.write import cut_out, delete, insert, insert_marker, put_in
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.invariants import check, problems
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Anchor, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import from_bytes
from hidden_frame.storage.pictures import picture_from_bytes

WIDTH, HEIGHT = 200.0, 300.0


def shot(width=120, height=80):
    buffer = io.BytesIO()
    Image.new("RGB", (width, height), (30, 60, 120)).save(buffer, "PNG")
    return picture_from_bytes(buffer.getvalue(), "shot.png")


PICTURE, BYTES = shot()
STANDS = ["in the line", "above the line", "inside", "outside"]
anchors = st.builds(
    Anchor,
    width=st.floats(1, 400), height=st.floats(1, 500), stands=st.sampled_from(STANDS),
    picture=st.sampled_from([None, PICTURE.hash]), distance=st.floats(0, 40),
    shift=st.floats(-60, 60), caption=st.sampled_from(["", "Plate 3", "two\nlines of it " * 9]),
    fit=st.sampled_from(["fit", "fill", "actual"]),
)  # fmt: skip
WORDS = st.lists(st.sampled_from(["sky", "observatory", "a", "Vega"]), max_size=60).map(" ".join)


def bare(pages=4):
    """Facing pages on a master with a main frame, and a picture."""
    publication = new_publication("Anchors", Setup(trim=Size(400, 500)), pages)
    publication = put_picture(publication, PICTURE)
    publication, master = add_master(publication, "Text")
    frame = TextFrame(id="", x=100, y=60, width=WIDTH, height=HEIGHT, main=1)
    publication, item = add_item(publication, master, frame)
    return replace(publication, default_masters=(master,)), item


def told(text, pages=4):
    """A story of a text through the main frames of those pages, and its id."""
    publication, item = bare(pages)
    publication, story = pour(publication, publication.sections[0].id, text, "Story")
    return publication, story, item


def text_of(*strings):
    return tuple(Paragraph("body", (Run(s),) if s else ()) for s in strings)


def with_anchor(text, place, anchor):
    return insert_marker(text, place, anchor)[0]


def drawn(publication, page, item):
    """The primitives that a frame shows on a page (counted from 0)."""
    scene = Composer().compose(check(publication)).scene(all_pages(publication)[page].id)
    return next(p.drawing.primitives for p in scene.placed if p.item_id == item)


def pictures(primitives):
    return [p for p in primitives if isinstance(p, PicturePrimitive | Placeholder)]


# -- where it stands -------------------------------------------------------------------


def test_above_the_line_it_pushes_its_line_down_and_the_text_goes_on_below():
    anchor = Anchor(width=80, height=50, distance=6, picture=PICTURE.hash, fit="stretch")
    text = with_anchor(text_of("first", "second", "third"), (1, 3), anchor)
    publication, _, item = told(text)
    shown = drawn(publication, 0, item)
    lines = next(p for p in shown if isinstance(p, TextPrimitive)).text.lines
    (picture,) = pictures(shown)
    height = lines[0].height
    assert [round(line.top, 3) for line in lines] == [0, height + 56, 2 * height + 56]
    assert picture.rect == pytest.approx((0, height, 80, 50))


def test_in_the_line_it_stands_on_the_baseline_and_words_make_room():
    anchor = Anchor(width=30, height=40, stands="in the line", picture=PICTURE.hash, fit="stretch")
    text = with_anchor(text_of("ab cd"), (0, 3), anchor)
    publication, _, item = told(text)
    shown = drawn(publication, 0, item)
    (line,) = next(p for p in shown if isinstance(p, TextPrimitive)).text.lines
    (picture,) = pictures(shown)
    x, y, width, height = picture.rect
    assert y + height == pytest.approx(line.baseline)
    words = [(w.text, line.x + at, w.width) for r in line.runs for w, at in zip(r.words, r.xs)]  # noqa: B905
    before, after = words[0], words[-1]
    assert x >= before[1] + before[2] and x + width == pytest.approx(after[1])
    assert line.top == pytest.approx(40 - line.line.rise)


@pytest.mark.parametrize("stands", ["inside", "outside"])
def test_in_the_margin_it_stands_at_its_line_on_the_side_of_the_page(stands):
    anchor = Anchor(width=60, height=40, stands=stands, distance=8, picture=PICTURE.hash,
                    fit="stretch")  # fmt: skip
    long = "night " * 900
    text = with_anchor(with_anchor(text_of(long), (0, 0), anchor), (0, 1500), anchor)
    publication, _, item = told(text)
    sides = {}
    composition = Composer().compose(publication)
    for number, page in enumerate(all_pages(publication)):
        for picture in pictures(drawn(publication, number, item)):
            sides[composition.facts[page.id].side] = picture.rect
    assert set(sides) == {"recto", "verso"}
    left, right = (-8 - 60, WIDTH + 8)
    at_left = {"inside": "recto", "outside": "verso"}[stands]
    for side, rect in sides.items():
        assert rect[0] == pytest.approx(left if side == at_left else right)


def test_it_travels_with_its_words():
    anchor = Anchor(width=50, height=50, picture=PICTURE.hash)
    text = with_anchor(text_of("a few words", "here it is"), (1, 5), anchor)
    publication, story, item = told(text)
    assert pictures(drawn(publication, 0, item)) and not pictures(drawn(publication, 1, item))
    longer, _ = insert(text, (0, 0), "night " * 400)
    publication = set_story_text(publication, story, longer)
    where = [bool(pictures(drawn(publication, n, item))) for n in range(4)]
    assert where.count(True) == 1 and not where[0]


def test_a_picture_without_room_goes_on_with_its_line_to_the_next_page():
    """The line before stays; a picture never stands below the frame's foot."""
    anchor = Anchor(width=50, height=200, picture=PICTURE.hash, fit="stretch")
    text = with_anchor(text_of("night " * 120, "here"), (1, 0), anchor)
    publication, _, item = told(text)
    for number in range(4):
        for picture in pictures(drawn(publication, number, item)):
            assert number == 1 and picture.rect[1] == pytest.approx(0)


def test_what_is_larger_than_its_column_is_made_smaller_and_nothing_hangs():
    anchor = Anchor(width=800, height=1200, picture=PICTURE.hash, fit="stretch")
    text = with_anchor(text_of("before", "here", "behind"), (1, 0), anchor)
    publication, story, item = told(text)
    (picture,) = [p for n in range(4) for p in pictures(drawn(publication, n, item))]
    x, y, width, height = picture.rect
    assert x >= -0.01 and y >= -0.01 and x + width <= WIDTH + 0.01
    assert y + height <= HEIGHT and width / height == pytest.approx(800 / 1200)
    assert Composer().compose(publication).flow(story).words_left == 0


def test_a_caption_stands_below_its_picture_in_its_style():
    publication, _ = bare()
    publication, style = new_paragraph_style(publication, "body")
    anchor = Anchor(width=90, height=40, picture=PICTURE.hash, caption="Plate 3\nof nine",
                    caption_style=style, fit="stretch")  # fmt: skip
    text = with_anchor(text_of("words"), (0, 0), anchor)
    publication, item = add_item(
        publication, all_pages(publication)[0].id,
        TextFrame(id="", x=20, y=20, width=WIDTH, height=HEIGHT, text=text),
    )  # fmt: skip
    shown = drawn(publication, 0, item)
    (picture,), words = pictures(shown), [p for p in shown if isinstance(p, TextPrimitive)]
    assert [line.text for line in words[1].text.lines] == ["Plate 3", "of nine"]
    assert words[1].y >= picture.rect[1] + picture.rect[3]
    assert words[0].text.lines[0].top >= words[1].y + words[1].text.height
    assert style_uses(publication, style) == 1
    gone = delete_paragraph_style(publication, style, "body")
    assert not problems(gone)


# -- whatever is anchored --------------------------------------------------------------


@given(st.lists(WORDS, min_size=1, max_size=6), st.lists(anchors, min_size=1, max_size=4),
       st.data())  # fmt: skip
@settings(max_examples=60)
def test_whatever_is_anchored_wherever(strings, several, data):
    """It composes, grows, saves, opens and is exported; each stands once, in order, and what
    stands above a line or in it keeps off the lines before it."""
    text = text_of(*strings)
    for anchor in several:
        index = data.draw(st.integers(0, len(text) - 1))
        size = sum(len(c.text) if isinstance(c, Run) else 1 for c in text[index].content)
        text = with_anchor(text, (index, data.draw(st.integers(0, size))), anchor)
    publication, story, item = told(text, 1)
    try:
        publication = settled(publication, Composer())
    except Refusal:
        return
    composition = Composer().compose(check(publication))
    flow = composition.flow(story)
    assert flow.words_left == 0
    seen = 0
    for number in range(len(all_pages(publication))):
        shown = drawn(publication, number, item)
        seen += len(pictures(shown))
    captions = sum(a.picture is None and bool(a.caption) for a in several)
    assert seen == len(several) - captions
    blobs = {PICTURE.hash: BYTES}
    assert pdf_bytes(composition, blobs).startswith(b"%PDF")
    assert from_bytes(to_bytes(publication, blobs), "a").publication == publication
    lines = [
        (line.top, line.bottom)
        for part in flow.parts for line in part.text.lines
    ]  # fmt: skip
    for part in flow.parts:
        tops = [line.top for line in part.text.lines]
        assert tops == sorted(tops) and all(t >= -0.01 for t in tops)
        assert all(line.bottom <= HEIGHT + 0.1 for line in part.text.lines)
    assert lines


@given(st.lists(WORDS, min_size=2, max_size=8), anchors, st.data())
@settings(max_examples=40)
def test_after_an_edit_all_is_as_if_composed_cold(strings, anchor, data):
    text = text_of(*strings)
    publication, story, _ = told(with_anchor(text, (1, 0), anchor), 6)
    composer = Composer()
    composer.compose(publication)
    for _ in range(3):
        text = find_story(publication, story).text
        at = data.draw(st.integers(0, len(text) - 1))
        choice = data.draw(st.sampled_from(["words", "anchor", "change"]))
        if choice == "words":
            text, _ = insert(text, (at, 0), data.draw(WORDS))
        elif choice == "anchor":
            text = with_anchor(text, (at, 0), data.draw(anchors))
        else:
            text = change_anchor(text, (1, 0), height=data.draw(st.floats(1, 300)))
        publication = set_story_text(publication, story, text)
        warm, cold = composer.compose(publication), Composer().compose(publication)
        for page in all_pages(publication):
            shown = [
                [pictures(placed.drawing.primitives) for placed in c.scene(page.id).placed]
                for c in (warm, cold)
            ]
            assert shown[0] == shown[1]
        counts = [[p.lines for p in c.flow(story).parts] for c in (warm, cold)]
        assert counts[0] == counts[1]


def test_keep_with_next_holds_for_a_paragraph_with_something_anchored():
    publication, _ = bare()
    body = publication.paragraph_styles[0]
    publication = put_paragraph_style(publication, replace(body, id="head", name="Head 1",
                                                           keep_next=True))  # fmt: skip
    anchor = Anchor(width=50, height=60, picture=PICTURE.hash)
    head = with_anchor((Paragraph("head", (Run("Heading"),)),), (0, 0), anchor)
    publication, story = pour(publication, publication.sections[0].id, head, "Story")
    for words in range(40, 200, 7):
        text = (*text_of("night " * words), *head, *text_of("night " * 60))
        done = set_story_text(publication, story, text)
        flow = Composer().compose(done).flow(story)
        pages = [
            {b.paragraph + start.paragraph for f in part.text.fragments for b in f.blocks}
            for part, start in zip(flow.parts, flow.starts, strict=True)
        ]
        assert all(2 in p for p in pages if 1 in p)


# -- edits -----------------------------------------------------------------------------


def test_it_is_cut_copied_and_changed_as_one_character():
    anchor = Anchor(width=50, height=60, picture=PICTURE.hash, caption="Plate 1")
    text = with_anchor(text_of("ab"), (0, 1), anchor)
    assert anchor_at(text, (0, 1)) == anchor and anchor_at(text, (0, 0)) is None
    piece = cut_out(text, (0, 1), (0, 2))
    without, place = delete(text, (0, 1), (0, 2))
    assert without == text_of("ab")
    assert put_in(without, place, piece)[0] == text
    assert anchor_at(change_anchor(text, (0, 1), width=99.0), (0, 1)).width == 99.0


def test_it_is_carried_to_another_publication_with_picture_and_style():
    publication, _ = bare()
    publication, style = new_paragraph_style(publication, "body")
    text = with_anchor(text_of("ab"), (0, 1),
                       Anchor(picture=PICTURE.hash, caption="c", caption_style=style))  # fmt: skip
    frame = TextFrame(id="f", x=0, y=0, width=90, height=90, text=text)
    other = new_publication("Other", Setup(trim=Size(400, 500)), 1)
    made, _ = pasted(other, all_pages(other)[0].id, clip_of(publication, [frame]))
    assert not problems(made) and made.pictures == (PICTURE,)


def test_a_picture_or_style_that_is_gone_is_told():
    publication, _ = bare()
    bad = with_anchor(text_of("a"), (0, 0), Anchor(picture="f" * 64, caption_style="none"))
    made, _ = pour(publication, publication.sections[0].id, bad, "Story")
    sentences = problems(made)
    assert len(sentences) == 2 and "anchored picture" in sentences[0]


# -- on paper --------------------------------------------------------------------------


def test_it_is_printed_where_it_stands():
    """The exported PDF, read by PDFium."""
    anchor = Anchor(width=90, height=60, picture=PICTURE.hash, fit="stretch", caption="Plate 3")
    text = with_anchor(text_of("first line", "second line"), (1, 0), anchor)
    publication, _, _ = told(text)
    data = pdf_bytes(Composer().compose(publication), {PICTURE.hash: BYTES})
    page = pdfium.PdfDocument(data)[0]
    (image,) = [o for o in page.get_objects() if o.type == pdfium.raw.FPDF_PAGEOBJ_IMAGE]
    left, foot, right, head = image.get_bounds()
    assert (right - left, head - foot) == pytest.approx((90, 60), abs=0.01)
    words = page.get_textpage()

    def box(word):
        index, _ = words.search(word).get_next()
        return words.get_charbox(index, loose=True)

    first, plate, second = box("first"), box("Plate"), box("second")  # left, foot, right, head
    assert left == pytest.approx(first[0], abs=1.5)
    assert first[1] >= head - 0.5 and foot >= plate[3] - 3 and plate[1] >= second[3] - 3


def test_a_frame_of_its_own_text_makes_room_too():
    anchor = Anchor(width=90, height=60, picture=PICTURE.hash, fit="stretch")
    publication, _ = bare()
    page = all_pages(publication)[0].id
    frame = TextFrame(id="", x=20, y=20, width=WIDTH, height=20, grows=True,
                      text=with_anchor(text_of("one"), (0, 0), anchor))  # fmt: skip
    publication, item = add_item(publication, page, frame)
    scene = Composer().compose(publication).scene(page)
    placed = next(p for p in scene.placed if p.item_id == item)
    assert placed.drawing.height > 66
    publication = change_items(publication, page, {item: {"width": 60.0}})
    assert Composer().compose(publication).scene(page)


# -- what is doubtful ------------------------------------------------------------------


@pytest.mark.parametrize(
    ("anchor", "kind"),
    [
        (Anchor(width=300, height=50, picture=PICTURE.hash), "anchored smaller"),
        (Anchor(width=50, height=50), "anchored empty"),
        (Anchor(width=120, height=50, picture=PICTURE.hash, stands="outside"),
         "anchored off the page"),
        (Anchor(width=50, height=20, picture=PICTURE.hash), None),
        (Anchor(width=50, stands="inside", caption="A caption alone"), None),
    ],
)  # fmt: skip
def test_checks_say_what_is_doubtful_about_it(anchor, kind):
    publication, _, _ = told(with_anchor(text_of("a few words of text"), (0, 3), anchor))
    found = content_findings(Composer().compose(publication), {PICTURE.hash})
    kinds = [f.kind for f in found if f.kind.startswith("anchored")]
    assert kinds == ([kind] if kind else [])
    assert all("anchored" in f.sentence and f.page_id for f in found if f.kind in kinds)
