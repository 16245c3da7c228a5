"""Pictures anchored in a text, in the real window: put in, selected, changed, freed."""

from __future__ import annotations

import io

import pytest
from PIL import Image
from PySide6.QtCore import Qt

from hidden_frame.compose.scene import PicturePrimitive, TextPrimitive
from hidden_frame.demo.book import long_book
from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.panels.properties.anchored import AnchoredForm
from hidden_frame.desktop.panels.properties.text import TextForm
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.stories import add_waiting
from hidden_frame.interact.hands.anchoring import seen_in
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import find_page, find_story
from hidden_frame.model.stories import Waiting
from hidden_frame.model.text import Anchor, Paragraph, Run
from hidden_frame.model.usage import anchors_in
from hidden_frame.settle.settling import settled
from hidden_frame.storage.pictures import picture_from_bytes

BOOK = settled(long_book(chapters=1))


@pytest.fixture
def shot(tmp_path):
    buffer = io.BytesIO()
    Image.new("RGB", (300, 200), (30, 60, 120)).save(buffer, "PNG")
    path = tmp_path / "shot.png"
    path.write_bytes(buffer.getvalue())
    return path


@pytest.fixture
def book(hands):
    """The long book's first chapter, page 6 on the desk."""
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(6))
    hands.desk.camera.fit_to("spread")
    hands.app.processEvents()
    hands.story = hands.publication.stories[0].id
    return hands


def anchored(hands):
    """Everything that is anchored in the story."""
    return list(anchors_in(find_story(hands.publication, hands.story).text))


def main_frame(hands, position):
    page = find_page(hands.publication, hands.page(position))
    view = hands.session.composition.view(page)
    return next(r.item for r in view.items if getattr(r.item, "main", 0))


def write_on(hands, x=30.0, y=100.0):
    """A double click into the main frame on the left page, at a place from its corner."""
    item = main_frame(hands, 6)
    left = hands.publication.setup.trim.width - item.x - item.width
    hands.double(0, left + x, item.y + y)
    assert hands.session.editing is not None


def put(hands, monkeypatch, path):
    monkeypatch.setattr(PictureDialog, "ask", lambda *_, **__: [path])
    hands.do("anchor picture")


def box_on_desk(hands, face=0):
    """The middle of what is anchored on a page of the spread, in points of the page."""
    shown = hands.session.faces()[face]
    for placed in hands.session.scene_of(shown).placed:
        for seen in seen_in(placed, shown.side):
            x, y = (seen.box.left + seen.box.right) / 2, (seen.box.top + seen.box.bottom) / 2
            return placed.matrix.apply(x, y)
    raise AssertionError("nothing is anchored there")


def choose(hands, name, words):
    field = hands.field(name)
    field.setCurrentIndex(field.findText(words))
    field.activated.emit(field.currentIndex())
    hands.app.processEvents()


def test_a_picture_is_anchored_at_the_caret_selected_and_taken_out_by_a_key(
    book, monkeypatch, shot, qtbot
):
    write_on(book)
    put(book, monkeypatch, shot)
    (anchor,) = anchored(book)
    assert anchor.stands == "above the line" and anchor.picture in book.session.blobs
    book.settle(qtbot)
    assert isinstance(book.window.properties.form, AnchoredForm)
    scene = book.session.composition.scene(book.page(6))
    shown = [p for each in scene.placed for p in each.drawing.primitives]
    assert any(isinstance(p, PicturePrimitive) and p.hash == anchor.picture for p in shown)
    book.key(Qt.Key.Key_Delete)
    assert not anchored(book)
    book.settle(qtbot)
    assert isinstance(book.window.properties.form, TextForm)
    book.do("undo")
    assert anchored(book) == [anchor]


def test_properties_change_where_it_stands_its_size_and_its_caption(book, monkeypatch, shot, qtbot):
    write_on(book)
    put(book, monkeypatch, shot)
    book.settle(qtbot)
    choose(book, "Stands", "In the outside margin")
    book.enter("Width", "60pt")
    book.enter("Height", "40pt")
    caption = book.field("Caption")
    caption.setFocus()
    book.type("Plate 3, at dusk", caption)
    book.desk.setFocus()
    book.app.processEvents()
    choose(book, "Style of the caption", "Page head")
    (anchor,) = anchored(book)
    assert (anchor.stands, anchor.width, anchor.height) == ("outside", 60.0, 40.0)
    assert anchor.caption == "Plate 3, at dusk"
    assert anchor.caption_style == "head"
    assert "Plate 3, at dusk" in " ".join(book.session.composition.scene(book.page(6)).text_of())


def test_a_click_on_it_selects_it_also_in_the_margin_and_the_text_is_still_written(
    book, monkeypatch, shot, qtbot
):
    write_on(book)
    put(book, monkeypatch, shot)
    book.settle(qtbot)
    choose(book, "Stands", "In the outside margin")
    book.enter("Width", "30pt")
    book.desk.setFocus()
    x, y = box_on_desk(book)
    book.key(Qt.Key.Key_Right)
    assert book.desk.text.anchors.now() is None
    book.click(0, x, y)
    assert book.session.editing is not None and book.desk.text.anchors.now() is not None
    book.session.edit_text(None)
    book.app.processEvents()
    book.double(0, x, y)
    assert book.session.editing is not None and book.desk.text.anchors.now() is not None


def test_the_whole_of_it_is_painted_where_it_stands_beside_its_frame(
    book, monkeypatch, shot, qtbot
):
    """The desk paints again what differs: also beside the frame that it is anchored in."""
    write_on(book)
    put(book, monkeypatch, shot)
    book.settle(qtbot)
    book.enter("Width", "36pt")
    book.enter("Height", "60pt")
    choose(book, "Fit", "fills the frame")
    choose(book, "Stands", "In the outside margin")
    book.desk.setFocus()
    book.settle(qtbot)
    x, y = box_on_desk(book)
    book.session.edit_text(None)
    book.settle(qtbot)
    picture = book.desk.grab().toImage()
    for dx in (-14.0, 0.0, 14.0):
        at = book.at(0, x + dx, y) * picture.devicePixelRatio()
        colour = picture.pixelColor(at)
        assert colour.blue() > colour.red() + 40, dx


def test_it_is_freed_onto_its_page_where_it_stood(book, monkeypatch, shot, qtbot):
    write_on(book)
    put(book, monkeypatch, shot)
    book.settle(qtbot)
    x, y = box_on_desk(book)
    book.button("Release onto the page").click()
    assert not anchored(book)
    (item,) = find_page(book.publication, book.page(6)).items
    assert isinstance(item, PictureFrame)
    assert item.x + item.width / 2 == pytest.approx(x, abs=0.1)
    assert item.y + item.height / 2 == pytest.approx(y, abs=0.1)
    assert book.session.items == (item.id,) and book.session.editing is None


def test_an_item_of_the_page_is_anchored_in_the_text_nearest_to_it(book, shot):
    picture, data = picture_from_bytes(shot.read_bytes(), "shot.png")
    book.session.blobs[picture.hash] = data
    frame = main_frame(book, 6)
    left = book.publication.setup.trim.width - frame.x - frame.width
    over = PictureFrame(id="", name="Over", x=left + 10, y=frame.y + 100, width=80, height=50,
                        picture=picture.hash)  # fmt: skip
    words = (Paragraph("head", (Run("A caption"),)),)
    beside = TextFrame(id="", name="Beside", x=4, y=frame.y + 60, width=left - 8, height=30,
                       text=words)  # fmt: skip
    page = book.page(6)
    for item in (over, beside):
        book.session.edit("put", lambda p, i=item: add_item(put_picture(p, picture), page, i)[0])
    for name in ("Over", "Beside"):
        item = book.own(6, name)
        book.session.select_items(book.session.faces()[0], (item.id,))
        book.do("anchor item")
        assert book.desk.text.anchors.now() is not None
        book.session.edit_text(None)
    found = anchored(book)
    assert sorted(a.stands for a in found) == ["above the line", "outside"]
    caption = next(a for a in found if a.caption)
    assert (caption.caption, caption.caption_style) == ("A caption", "head")
    assert not find_page(book.publication, book.page(6)).items


def test_a_copied_frame_is_anchored_where_one_writes(book, shot):
    picture, data = picture_from_bytes(shot.read_bytes(), "shot.png")
    book.session.blobs[picture.hash] = data
    page = book.page(6)
    item = PictureFrame(id="", name="Shot", x=0, y=0, width=80, height=50, picture=picture.hash)
    book.session.edit("put", lambda p: add_item(put_picture(p, picture), page, item)[0])
    book.session.select_items(book.session.faces()[0], (book.own(6, "Shot").id,))
    book.do("cut")
    write_on(book)
    book.key(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    (anchor,) = anchored(book)
    assert (anchor.width, anchor.height, anchor.picture) == (80, 50, picture.hash)


def test_the_trays_pictures_are_anchored_where_they_stood(book, shot):
    picture, data = picture_from_bytes(shot.read_bytes(), "shot.png")
    book.session.blobs[picture.hash] = data
    book.session.edit("wait", lambda p: add_waiting(
        put_picture(p, picture), book.story,
        [Waiting(picture.hash, 2), Waiting(picture.hash, 5)],
    ))  # fmt: skip
    book.do("stories")
    lists = book.window.story_list
    lists.refresh()
    assert not lists.anchor.isHidden()
    lists.anchor.click()
    text = find_story(book.publication, book.story).text
    assert [isinstance(p.content[0], Anchor) for p in text[:7]] == [
        False, False, True, False, False, True, False,
    ]  # fmt: skip
    assert not find_story(book.publication, book.story).waiting


def test_a_shape_can_not_be_anchored_and_words_of_a_story_neither(book):
    assert not book.window.text.can_anchor()
    frame = main_frame(book, 6)
    book.session.select_items(book.session.faces()[0], (frame.id,))
    assert not book.window.text.can_anchor()


def test_a_caption_is_part_of_what_a_page_says(book, monkeypatch, shot, qtbot):
    write_on(book)
    put(book, monkeypatch, shot)
    book.desk.text.anchors.change(caption="Plate 9")
    scene = book.session.composition.scene(book.page(6))
    texts = [p for each in scene.placed for p in each.drawing.primitives
             if isinstance(p, TextPrimitive)]  # fmt: skip
    assert any(line.text == "Plate 9" for t in texts for line in t.text.lines)


def test_a_corner_is_pulled_and_its_shape_kept_in_one_step(book, monkeypatch, shot, qtbot):
    write_on(book)
    put(book, monkeypatch, shot)
    book.settle(qtbot)
    (before,) = anchored(book)
    seen = book.desk.text.anchors.seen()
    placed = book.desk.text.placed()
    corner = placed.matrix.apply(seen.box.right, seen.box.bottom)
    book.drag(0, corner, (corner[0] - before.width / 2, corner[1] - before.height / 2))
    (after,) = anchored(book)
    assert after.width / after.height == pytest.approx(before.width / before.height, rel=0.01)
    assert after.width == pytest.approx(before.width / 2, rel=0.05)
    book.do("undo")
    assert anchored(book) == [before]
