"""SVG drawings against resvg, an independent renderer, from the PDF and as hostile input."""

from __future__ import annotations

import hashlib
import io
import os

import numpy as np
import pypdf
import pypdfium2 as pdfium
import pytest

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.new import new_publication
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.storage.drawings import drawn, guarded
from hidden_frame.storage.pictures import left_out, picture_from_bytes
from svg_samples import PX, SCALE, WHOLE, by_resvg, differing, near, svg


def printed(data):
    """The drawing placed on a page of its size, from the program's PDF."""
    picture, blob = picture_from_bytes(data, "a.svg")
    setup = Setup(trim=Size(200, 200))
    publication = put_picture(new_publication("S", setup, 1), picture)
    frame = PictureFrame(id="", x=0, y=0, width=picture.width, height=picture.height,
                         picture=picture.hash)  # fmt: skip
    publication, _ = add_item(publication, all_pages(publication)[0].id, frame)
    pdf = pdf_bytes(Composer().compose(publication), {picture.hash: blob})
    crop = (0, 200 - picture.height, 200 - picture.width, 0)
    image = pdfium.PdfDocument(pdf)[0].render(scale=SCALE / PX, crop=crop).to_pil()
    return np.asarray(image.convert("RGB")).astype(int), pdf


@pytest.mark.parametrize("name", WHOLE)
def test_a_drawing_is_printed_as_an_independent_renderer_draws_it(name):
    data = svg(name)
    expected = by_resvg(data)
    assert (expected.min(axis=2) < 200).mean() > 0.01  # the judge drew something
    image, pdf = printed(data)
    assert differing(image, expected) < near(name)
    if "picture" not in name:
        kinds = [
            o.get("/Subtype")
            for n in range(1, pypdf.PdfReader(io.BytesIO(pdf)).trailer["/Size"])
            if isinstance(o := pypdf.PdfReader(io.BytesIO(pdf)).get_object(n), dict)
        ]
        assert "/Image" not in kinds  # vectors stay vectors


def test_text_in_a_missing_font_does_not_vanish():
    data = svg("text").replace(b"Alegreya Sans", b"Nobody Has This")
    image, pdf = printed(data)
    assert (image.min(axis=2) < 128).mean() > 0.01
    assert "Ridge" in pypdf.PdfReader(io.BytesIO(pdf)).pages[0].extract_text()


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ("<animate attributeName='x'/>", "animation"),
        ("<rect width='9' height='9'><animateTransform/></rect>", "animation"),
    ],
)
def test_what_is_left_out_is_said_by_name(body, says):
    data = f'<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9">{body}</svg>'.encode()
    assert says in left_out(data, "a.svg") and "left out" in left_out(data, "a.svg")
    assert left_out(svg("mask"), "a.svg") == ""


HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" %s>'
ROOM = 'width="90" height="90"'
HOSTILE = {
    "entity": '<!DOCTYPE svg [<!ENTITY a "b">]>' + HEAD % ROOM + "&a;</svg>",
    "entity in capitals": '<!DOCTYPE svg [<! ENTITY a "b">]>' + HEAD % ROOM + "</svg>",
    "file by path": HEAD % ROOM + '<image href="/etc/passwd" width="9" height="9"/></svg>',
    "file by url": HEAD % ROOM + '<image xlink:href="file:///etc/hosts"/></svg>',
    "use of another file": HEAD % ROOM + '<use href="other.svg#a"/></svg>',
    "fill from elsewhere": HEAD % ROOM + '<rect fill="url(http://x.test/a#b)"/></svg>',
    "style from elsewhere": HEAD % ROOM + "<style>rect{fill:url(//x.test/a)}</style></svg>",
    "svg in data": HEAD % ROOM + '<image href="data:image/svg+xml;base64,PHN2Zy8+"/></svg>',
    "script": HEAD % ROOM + "<script>1</script></svg>",
    "handler": HEAD % ROOM + '<rect onclick="a()"/></svg>',
    "foreign": HEAD % ROOM + "<foreignObject/></svg>",
    "deep": HEAD % ROOM + "<g>" * 50_000 + "</g>" * 50_000 + "</svg>",
    "three dots": HEAD % 'width="1.2.3" height="9"' + "</svg>",
    "nothing said": HEAD % "" + "</svg>",
    "negative": HEAD % 'width="-5" height="9"' + "</svg>",
    "infinite": HEAD % 'width="1e999" height="9"' + "</svg>",
    "no drawing": "<html/>",
    "cut short": HEAD % ROOM + "<g>",
}


@pytest.mark.parametrize("name", HOSTILE)
def test_hostile_drawings_are_refused_in_a_sentence(name):
    with pytest.raises(Refusal, match=r"“bad.svg” .+[.]$"):
        picture_from_bytes(HOSTILE[name].encode(), "bad.svg")


def test_a_huge_filter_ends_with_its_process_and_not_with_ours():
    body = (
        '<filter id="f" x="-9999999" y="-9999999" width="99999999" height="99999999">'
        '<feGaussianBlur stdDeviation="900"/><feTurbulence baseFrequency=".01" numOctaves="99"/>'
        '</filter><rect width="90" height="90" filter="url(#f)"/>'
    )
    try:
        picture_from_bytes((HEAD % ROOM + body + "</svg>").encode(), "bad.svg")
    except Refusal as refusal:
        assert "bad.svg" in str(refusal)


def test_nothing_outside_the_file_is_read(tmp_path):
    """A pipe that nobody writes to would hold up for ever whoever opens it."""
    pipe = tmp_path / "pipe.png"
    os.mkfifo(pipe)
    for body in (f'<image href="{pipe}"/>', f"<style>@import '{pipe}';</style>"):
        data = (HEAD % ROOM + body + "</svg>").encode()
        try:
            safe = guarded(data, "bad.svg")
        except Refusal:
            continue
        assert str(pipe).encode() not in safe.data
        drawn(hashlib.sha256(data).hexdigest(), data)


def test_percents_and_missing_sizes_come_from_the_view_box():
    for size in ('width="100%" height="100%"', "", 'width="96"', 'height="48"'):
        data = (HEAD % (size + ' viewBox="0 0 96 48"') + "</svg>").encode()
        assert guarded(data, "a.svg").size == pytest.approx((72.0, 36.0))


def test_a_drawing_is_made_once_and_half_a_file_is_made_again(tmp_path, monkeypatch):
    from hidden_frame import kept
    from hidden_frame.storage.drawings import convert

    monkeypatch.setattr(kept, "user_cache_path", lambda _: tmp_path)
    made = []
    whole = convert._convert
    monkeypatch.setattr(convert, "_convert", lambda *a: (made.append(1), whole(*a))[1])
    data = svg("even-odd")
    first = convert._pdf(data, "a")
    assert convert._pdf(data, "a") == first and len(made) == 1
    (path,) = (tmp_path / "drawings").iterdir()
    path.write_bytes(first[:-40])
    assert convert._pdf(data, "a").startswith(b"%PDF-") and len(made) == 2


def test_the_oldest_of_what_is_kept_goes(tmp_path, monkeypatch):
    from hidden_frame import kept

    monkeypatch.setattr(kept, "user_cache_path", lambda _: tmp_path)
    monkeypatch.setattr(kept, "MOST", 3)
    for n in range(6):
        kept.kept("x", bytes([n]), lambda n=n: b"made %d" % n)
    assert len(list((tmp_path / "x").iterdir())) == 3
    assert kept.kept("x", b"\x05", lambda: b"anew") == b"made 5"
