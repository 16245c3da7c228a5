"""What is painted again after an edit: everything that differs lies within it."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

import hidden_frame as hf
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import change_items
from hidden_frame.interact.hands.difference import difference, reach
from hidden_frame.model.plane.box import Bounds
from hidden_frame.model.text import Run

WORDS = st.lists(st.sampled_from(["north", "a", "lighthouse", "of"]), min_size=8, max_size=60)


def _page(words, other="beside"):
    """A page with two text frames, one beside the other."""
    book = hf.Document.new("Notes", trim="A5", pages=1)
    page = book.page(1)
    frame = page.add_text_frame(50, 50, 150, 300, " ".join(words))
    page.add_text_frame(220, 50, 100, 300, other)
    return book.publication, page.id, frame.id


def _scenes(publication, page_id, frame_id, change):
    composer = Composer()
    after = change_items(publication, page_id, {frame_id: change})
    return composer.compose(publication).scene(page_id), composer.compose(after).scene(page_id)


def _text(scene, frame_id):
    placed = next(p for p in scene.placed if p.item_id == frame_id)
    block = placed.drawing.text
    return {
        (line.top + placed.matrix.f + block.y, line.bottom + placed.matrix.f + block.y,
         "".join(run.text for run in line.runs))
        for line in block.text.lines
    }  # fmt: skip


@settings(max_examples=60, deadline=None)
@given(words=WORDS, at=st.integers(0, 7), word=st.sampled_from(["lake", "i", "observatory"]))
def test_every_line_that_differs_is_painted_again_and_not_the_whole_page(words, at, word):
    publication, page_id, frame_id = _page(words)
    new = [*words[:at], word, *words[at + 1 :]]
    text = publication.sections[0].pages[0].items[0].text
    changed = (replace(text[0], content=(Run(" ".join(new)),)),)
    before, after = _scenes(publication, page_id, frame_id, {"text": changed})
    area = difference(before, after)
    lines = _text(before, frame_id) ^ _text(after, frame_id)
    if not lines:
        assert area is None or area.height < 2
        return
    assert area.top <= min(top for top, _, _ in lines)
    assert area.bottom >= max(bottom for _, bottom, _ in lines)
    assert area.right < 220  # the frame beside is left alone


@settings(max_examples=40, deadline=None)
@given(dx=st.floats(-40, 40), dy=st.floats(-40, 40))
def test_a_moved_item_is_painted_where_it_was_and_where_it_is(dx, dy):
    publication, page_id, frame_id = _page(["a", "note"])
    change = {"x": 50 + dx, "y": 50 + dy}
    before, after = _scenes(publication, page_id, frame_id, change)
    area = difference(before, after)
    places = [next(p for p in scene.placed if p.item_id == frame_id) for scene in (before, after)]
    if places[0].matrix == places[1].matrix:
        assert area is None
        return
    assert all(area.encloses(reach(placed)) for placed in places)


def test_a_stroke_reaches_beyond_its_box():
    book = hf.Document.new("Notes", trim="A5", pages=1)
    page = book.page(1)
    shape = page.add_shape(100, 100, 50, 50, stroke=("Ink", 30.0))
    scene = Composer().compose(book.publication).scene(page.id)
    placed = next(p for p in scene.placed if p.item_id == shape.id)
    assert reach(placed).encloses(Bounds(85, 85, 165, 165))
