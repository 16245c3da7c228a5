"""Pictures flipped and pictures for dark ground: against what pdfium paints of the page."""

from __future__ import annotations

from pathlib import Path

import pypdfium2
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.interact.hands.flipping import flipped, flips
from hidden_frame.interact.hands.shown import shown_item
from hidden_frame.model.geometry import Crop, Size
from hidden_frame.model.items import PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.output.pdf.export import pdf_bytes
from hidden_frame.storage.format import load, save
from hidden_frame.storage.pictures import read_picture

RED, GREEN, BLUE, GREY = (220, 20, 20), (20, 160, 20), (20, 20, 220), (120, 120, 120)
ROOM = 60.0  # points


def quarters(folder: Path) -> Path:
    """Four colours: red and green above, blue and grey below."""
    image = Image.new("RGB", (40, 40))
    for n, colour in enumerate((RED, GREEN, BLUE, GREY)):
        image.paste(colour, (20 * (n % 2), 20 * (n // 2), 20 * (n % 2) + 20, 20 * (n // 2) + 20))
    image.save(folder / "quarters.png")
    return folder / "quarters.png"


def svg_quarters(folder: Path) -> Path:
    squares = "".join(
        f'<rect x="{20 * (n % 2)}" y="{20 * (n // 2)}" width="20" height="20" '
        f'fill="rgb{colour}"/>' for n, colour in enumerate((RED, GREEN, BLUE, GREY))
    )  # fmt: skip
    path = folder / "quarters.svg"
    path.write_text(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="40" height="40">{squares}</svg>'
    )
    return path


def with_picture(small, path, **said):
    picture, data = read_picture(path)
    publication = put_picture(small, picture)
    page = all_pages(publication)[0].id
    frame = PictureFrame(id="", x=100, y=100, width=ROOM, height=ROOM, picture=picture.hash, **said)
    publication, item = add_item(publication, page, frame)
    return publication, {picture.hash: data}, page, item


def painted(publication, blobs, places):
    """Colours that pdfium paints on the first page at places (points)."""
    document = pypdfium2.PdfDocument(pdf_bytes(Composer().compose(publication), blobs, bleed=0.0))
    image = document[0].render(scale=2).to_pil().convert("RGB")
    found = [image.getpixel((round(x * 2), round(y * 2))) for x, y in places]
    document.close()
    return found


def corners(frame):
    """The middles of the four quarters of a frame."""
    return [(frame.x + frame.width * a, frame.y + frame.height * b)
            for b in (0.25, 0.75) for a in (0.25, 0.75)]  # fmt: skip


def near(one, other):
    return all(abs(a - b) < 30 for a, b in zip(one, other, strict=True))


EXPECTED = {
    "no": (RED, GREEN, BLUE, GREY), "across": (GREEN, RED, GREY, BLUE),
    "down": (BLUE, GREY, RED, GREEN), "both": (GREY, BLUE, GREEN, RED),
}  # fmt: skip


@pytest.mark.parametrize("flip", EXPECTED)
@pytest.mark.parametrize("made", [quarters, svg_quarters])
def test_a_flipped_picture_is_mirrored_on_paper(small, tmp_path, made, flip):
    publication, blobs, page, item = with_picture(small, made(tmp_path), fit="fill", flip=flip)
    frame = shown_item(publication, page, item, "recto")
    found = painted(publication, blobs, corners(frame))
    assert all(near(a, b) for a, b in zip(found, EXPECTED[flip], strict=True)), (found, flip)


@given(st.sampled_from(["no", "across", "down", "both"]), st.sampled_from(["across", "down"]))
def test_two_flips_are_none(now, way):
    assert flips(flips(now, way), way) == now and flips(now, way) != now


@given(
    st.lists(st.tuples(st.floats(0, 300), st.floats(0, 300), st.floats(5, 90), st.floats(5, 90),
                       st.sampled_from([0.0, 30.0, -45.0])), min_size=1, max_size=4),
    st.sampled_from(["across", "down"]),
)  # fmt: skip
def test_flipping_twice_leaves_all_where_it_was(boxes, way):
    from hidden_frame.edit.new import new_publication
    from hidden_frame.model.publication import Setup

    publication = new_publication("-", Setup(trim=Size(400, 500)), 1)
    page = all_pages(publication)[0].id
    ids = []
    for n, (x, y, w, h, turn) in enumerate(boxes):
        kind = (Shape, PictureFrame, TextFrame)[n % 3]
        item = kind(id="", x=x, y=y, width=w, height=h, rotation=turn)
        publication, made = add_item(publication, page, item)
        ids.append(made)
    once = flipped(publication, page, "recto", tuple(ids), way)
    twice = flipped(once, page, "recto", tuple(ids), way)
    for a, b in zip(find_page(publication, page).items, find_page(twice, page).items, strict=True):
        assert abs(a.x - b.x) < 1e-6 and abs(a.y - b.y) < 1e-6
        assert replace(a, x=0, y=0) == replace(b, x=0, y=0)


def test_a_free_crop_is_flipped_about_its_frame(small, tmp_path):
    publication, blobs, page, item = with_picture(
        small, quarters(tmp_path), fit="free", crop=Crop(0.0, 0.0, 3.0)
    )
    frame = shown_item(publication, page, item, "recto")
    before = painted(publication, blobs, corners(frame))
    publication = flipped(publication, page, "recto", (item,), "across")
    after = painted(publication, blobs, corners(frame))
    assert all(near(after[n], before[n ^ 1]) for n in range(4))


def logo(folder, name, colour):
    Image.new("RGBA", (30, 30), (*colour, 255)).save(folder / name)
    return read_picture(folder / name)


@pytest.mark.parametrize(("ground", "light"), [("ink", True), (None, False)])
def test_the_logo_that_stands_out_is_printed(small, tmp_path, ground, light):
    black, white = logo(tmp_path, "b.png", (10, 10, 10)), logo(tmp_path, "w.png", (250, 250, 250))
    publication = put_picture(put_picture(small, black[0]), white[0])
    blobs = {p.hash: data for p, data in (black, white)}
    page = all_pages(publication)[0].id
    if ground is not None:
        dark = publication.colours[0].id
        box = Shape(id="", x=80, y=80, width=120, height=120, fill=Fill(dark))
        publication, _ = add_item(publication, page, box)
    frame = PictureFrame(id="", x=100, y=100, width=30, height=30, picture=black[0].hash,
                         picture_on_dark=white[0].hash, fit="fill")  # fmt: skip
    publication, item = add_item(publication, page, frame)
    scene = Composer().compose(publication).scene(page)
    placed = next(p for p in scene.placed if p.item_id == item)
    assert placed.drawing.primitives[0].hash == (white if light else black)[0].hash
    (colour,) = painted(publication, blobs, [(115, 115)])
    assert near(colour, (250, 250, 250) if light else (10, 10, 10))


def test_it_is_kept_carried_and_asked_for(small, tmp_path):
    black, white = logo(tmp_path, "b.png", (10, 10, 10)), logo(tmp_path, "w.png", (250, 250, 250))
    publication = put_picture(put_picture(small, black[0]), white[0])
    blobs = {p.hash: data for p, data in (black, white)}
    page = all_pages(publication)[0].id
    frame = PictureFrame(id="", x=9, y=9, width=30, height=30, picture=black[0].hash, flip="both",
                         picture_on_dark=white[0].hash)  # fmt: skip
    publication, _ = add_item(publication, page, frame)
    save(tmp_path / "kept.hframe", publication, blobs)
    assert load(tmp_path / "kept.hframe").publication == publication
    from hidden_frame.edit.carry.items import copied, pasted

    clip = copied(publication, find_page(publication, page).items)
    other, _ = pasted(small, all_pages(small)[1].id, clip)
    assert {p.hash for p in other.pictures} >= set(blobs)


@pytest.mark.parametrize("gone", ["picture", "picture_on_dark"])
def test_the_way_out_of_a_missing_picture_takes_that_one_alone(small, tmp_path, gone):
    """On dark ground the frame shows its second picture; the one that is there stays."""
    black, white = logo(tmp_path, "b.png", (10, 10, 10)), logo(tmp_path, "w.png", (250, 250, 250))
    publication = put_picture(put_picture(small, black[0]), white[0])
    page = all_pages(publication)[0].id
    if gone == "picture_on_dark":
        fill = Fill(publication.colours[0].id)
        box = Shape(id="", x=0, y=0, width=99, height=99, fill=fill)
        publication, _ = add_item(publication, page, box)
    frame = PictureFrame(id="", x=9, y=9, width=30, height=30, picture=black[0].hash,
                         picture_on_dark=white[0].hash, fit="fill")  # fmt: skip
    publication, item = add_item(publication, page, frame)
    known = {(white if gone == "picture" else black)[0].hash}
    findings = content_findings(Composer().compose(publication), known)
    (finding,) = [f for f in findings if f.kind == "missing picture"]
    mended = finding.ways[0].fix(publication)
    made = next(i for i in find_page(mended, page).items if i.id == item)
    assert getattr(made, gone) is None
    other = "picture" if gone == "picture_on_dark" else "picture_on_dark"
    assert getattr(made, other) == getattr(frame, other)
