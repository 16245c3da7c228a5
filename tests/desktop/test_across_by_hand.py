"""Items over the spine in the window: drawn, hit on either page, written in, foretold."""

from __future__ import annotations

import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QMenu

from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.edit.new import new_publication
from hidden_frame.interact.hands.halves import reaching
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph, Run

W, H = 300.0, 400.0
SECOND = 1  # the face of the right page


@pytest.fixture
def spread(hands):
    """Pages 2 and 3 of an empty publication on the desk."""
    publication = new_publication("Across", Setup(trim=Size(W, H), bleed=9.0), 8)
    hands.session.replace_all(publication, {}, None)
    hands.session.show_page(hands.page(2))
    hands.desk.camera.fit_to("spread")
    hands.app.processEvents()
    return hands


def items(hands, position):
    return find_page(hands.publication, hands.page(position)).items


def drawn(hands, tool, start, end):
    """A tool drawn from one point of the spread to another; its item, selected."""
    hands.session.set_tool(tool)
    hands.pull(hands.desk, hands.at(0, *start), hands.at(0, *end))
    return hands.session.items[0]


def test_what_is_drawn_belongs_to_the_page_that_its_middle_lies_on(spread):
    drawn(spread, "rectangle", (200, 40), (500, 120))
    assert not items(spread, 2) and items(spread, 3)[0].x == pytest.approx(200 - W, abs=2)
    drawn(spread, "rectangle", (20, 200), (400, 280))
    assert items(spread, 2)[0].width == pytest.approx(380, abs=3)
    assert spread.session.holder_id == spread.page(2)


def test_a_press_on_the_other_page_takes_it_and_a_drag_moves_it(spread):
    made = drawn(spread, "rectangle", (20, 200), (400, 280))
    spread.session.select_items(None, ())
    spread.click(SECOND, 60, 240)
    assert (spread.session.holder_id, spread.session.items) == (spread.page(2), (made,))
    spread.session.select_items(None, ())
    spread.drag(SECOND, (60, 240), (70, 300))
    (moved,) = items(spread, 2)
    assert moved.y == pytest.approx(260, abs=3) and moved.x == pytest.approx(30, abs=3)
    # Drawn above it on its own page, another item is hit there first.
    over = drawn(spread, "ellipse", (W + 40, 280), (W + 90, 320))
    spread.session.select_items(None, ())
    spread.click(SECOND, 65, 300)
    assert (spread.session.holder_id, spread.session.items) == (spread.page(3), (over,))


def test_a_text_over_the_spine_is_written_in_on_either_page(spread):
    drawn(spread, "text", (150, 100), (440, 180))
    words = "The long night over the harbour and the bell beyond the weir, " * 3
    spread.type(words)
    spread.key(Qt.Key.Key_Escape)
    (frame,) = items(spread, 2)
    assert isinstance(frame, TextFrame) and frame.x + frame.width > W + 100
    spread.double(SECOND, 40, 107)
    assert spread.session.editing is not None
    assert spread.session.editing.holder_id == spread.page(2)
    spread.click(SECOND, 40, 107)
    paragraph, at = spread.desk.text.caret
    assert paragraph == 0 and 20 < at < 100  # where it was pressed, far from the head
    spread.type("X")
    text = items(spread, 2)[0].text
    assert text == (Paragraph(text[0].style, (Run(text[0].content[0].text),)),)
    assert "X" in text[0].content[0].text[15:]


def test_what_would_be_cut_is_asked_about_first(spread):
    drawn(spread, "rectangle", (20, 200), (400, 280))
    spread.session.show_page(spread.page(1))
    before = [p.id for p in all_pages(spread.publication)]
    spread.do("add page")
    assert [p.id for p in all_pages(spread.publication)] == before
    menu = spread.window.findChild(QMenu, "TieChoices")
    said, *offers = [a.text() for a in menu.actions() if a.text()]
    assert said.endswith("1 item reaches over the spine from 2 onto 3, which will not face it")
    assert offers == [
        "Go on", "Go on, and add the page that keeps it together",
        "Go on, and put the other half on the page it leaves", "Leave it",
    ]  # fmt: skip
    next(a for a in menu.actions() if "other half" in a.text()).trigger()
    assert len(all_pages(spread.publication)) == 9 and not reaching(spread.publication)
    left, right = (find_page(spread.publication, p).items[0] for p in before[1:3])
    assert left.x + left.width == pytest.approx(W + 9) and right.x == pytest.approx(-9)


def test_a_picture_that_is_placed_fills_the_empty_frame_that_is_selected(
    spread, tmp_path, monkeypatch
):
    shot = tmp_path / "shot.png"
    Image.new("RGB", (300, 100), (30, 60, 120)).save(shot)
    monkeypatch.setattr(PictureDialog, "ask", lambda *_, **__: [shot])
    made = drawn(spread, "picture", (20, 200), (400, 280))
    spread.do("place pictures")
    (frame,) = items(spread, 2)
    assert frame.id == made and frame.picture and spread.session.items == (made,)
    spread.do("place pictures")  # it is not empty any more
    assert next(i.id for i in items(spread, 2)) == made
    assert sum(len(items(spread, n)) for n in (2, 3)) == 2
