"""Words that something hides are told, with a way out."""

from __future__ import annotations

import io

from msgspec.structs import replace
from PIL import Image

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.new import new_publication
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.storage.pictures import picture_from_bytes

WORDS = (
    Paragraph("body", (Run("The lantern was lit at dusk and went out before the dawn. " * 6),)),
)


def page_with(*above: object):
    made = new_publication("Harbour", Setup(trim=Size(300.0, 300.0)), 1)
    page = all_pages(made)[0].id
    frame = TextFrame(id="", name="Story", x=40, y=40, width=220, height=200, text=WORDS)
    made, text = add_item(made, page, frame)
    ids = []
    for item in above:
        made, new = add_item(made, page, item)
        ids.append(new)
    return made, page, text, ids


def told(publication, blobs=()):
    found = content_findings(Composer().compose(publication), blobs)
    return [f for f in found if f.kind == "covered"]


def box(**more: object) -> Shape:
    at = {"x": 60, "y": 60, "width": 80, "height": 60, "fill": Fill("slate"), "name": "Panel"}
    return Shape(id="", **(at | more))


def test_words_under_a_fill_are_told_by_their_words_and_run_around_it():
    publication, page, _, (panel,) = page_with(box())
    (finding,) = told(publication)
    assert finding.sentence.startswith("Page 1 (#1): “Story” has words under “Panel”: “")
    assert "more lines" in finding.sentence and finding.offer == "Let the text run around it"
    mended = finding.fix(publication)
    assert told(mended) == []
    assert next(i for i in find_page(mended, page).items if i.id == panel).around is not None


def test_what_hides_nothing_is_not_told():
    faint = box(fill=Fill("slate", 1.0, 0.2))
    empty = box(fill=None)
    beside = box(x=40, y=245, width=200, height=20)
    dark = box(blend="multiply")
    corner = box(x=35, y=35, width=30, height=9, form="ellipse")  # its box touches, it does not
    for item in (faint, empty, beside, dark, corner):
        assert told(page_with(item)[0]) == [], item
    # below it, and on a layer that is not printed
    publication, page, _, (panel,) = page_with(box())
    below = change_items(publication, page, {panel: {"layer": "ground"}})
    assert told(below) == []
    layers = tuple(replace(x, printing=x.id != "above") for x in publication.layers)
    unseen = change_items(replace(publication, layers=layers), page, {panel: {"layer": "above"}})
    assert told(unseen) == []


def test_a_picture_hides_where_it_is_not_transparent():
    image = Image.new("RGBA", (32, 32), (0, 0, 0, 0))
    image.paste((200, 30, 30, 255), (16, 0, 32, 32))
    data = io.BytesIO()
    image.save(data, "PNG")
    picture, _ = picture_from_bytes(data.getvalue(), "half.png")
    frame = PictureFrame(id="", name="Half", x=0, y=60, width=90, height=40, fit="stretch")
    publication, page, _, (half,) = page_with(frame)
    publication = replace(publication, pictures=(picture,))
    shown = change_items(publication, page, {half: {"picture": picture.hash}})
    known = {picture.hash}
    assert len(told(shown, known)) == 1
    clear = change_items(shown, page, {half: {"x": 110.0, "width": 360.0}})  # red from 290 on
    assert told(clear, known) == []
