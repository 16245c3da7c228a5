"""A click takes what is seen."""

from __future__ import annotations

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.interact.hands.hits import all_hits, hit
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run

FOLIO = (Paragraph("folio", (Run("12"),), alignment="right"),)


def page_of(*items: object):
    made = new_publication("Year", Setup(trim=Size(400.0, 300.0)), 1)
    page, ids = all_pages(made)[0].id, []
    for item in items:
        made, new = add_item(made, page, item)
        ids.append(new)
    return Composer().compose(made).scene(page), ids


def test_a_logo_is_taken_from_under_the_empty_part_of_a_folios_frame():
    logo = Shape(id="", x=40, y=250, width=40, height=30, fill=Fill("spruce"))
    folio = TextFrame(id="", x=20, y=255, width=360, height=16, text=FOLIO)
    scene, (mark, frame) = page_of(logo, folio)
    assert hit(scene, 60, 262, 2).item_id == mark
    assert hit(scene, 374, 262, 2).item_id == frame  # its figures
    assert hit(scene, 200, 262, 2).item_id == frame  # nothing else is there
    assert [p.item_id for p in all_hits(scene, 60, 262, 2)] == [frame, mark]  # both are reached


def test_an_outline_is_taken_at_its_line_and_an_empty_frame_all_over():
    ground = Shape(id="", x=0, y=0, width=400, height=300, fill=Fill("ochre"))
    ring = Shape(id="", x=50, y=50, width=200, height=100, stroke=Stroke(colour="ink", width=2))
    scene, (below, above) = page_of(ground, ring)
    assert hit(scene, 51, 90, 3).item_id == above
    assert hit(scene, 150, 100, 3).item_id == below
    empty = TextFrame(id="", x=50, y=50, width=200, height=100)
    scene, (below, above) = page_of(ground, empty)
    assert hit(scene, 150, 100, 3).item_id == above  # one wants to write there


def test_a_fills_shape_counts_not_its_box():
    ground = Shape(id="", x=0, y=0, width=400, height=300, fill=Fill("ochre"))
    disc = Shape(id="", x=50, y=50, width=100, height=100, form="ellipse", fill=Fill("ink"))
    scene, (below, above) = page_of(ground, disc)
    assert hit(scene, 100, 100, 3).item_id == above
    assert hit(scene, 54, 54, 3).item_id == below
