"""Pictures flipped and given another for dark ground by hand, as they are seen on the desk."""

from __future__ import annotations

import pytest
from PIL import Image
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.state.choices import place_picture
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import PictureFrame, Shape
from hidden_frame.model.lookup import find_page
from hidden_frame.model.paint import Fill

COLOURS = ((220, 20, 20), (20, 160, 20), (20, 20, 220), (120, 120, 120))


@pytest.fixture
def frame(hands, tmp_path):
    """A picture of four colours on an empty page, selected."""
    image = Image.new("RGB", (40, 40))
    for n, colour in enumerate(COLOURS):
        left, top = 20 * (n % 2), 20 * (n // 2)
        image.paste(colour, (left, top, left + 20, top + 20))
    image.save(tmp_path / "quarters.png")
    page = hands.page(2)
    made = []

    def drawn(publication):
        item = PictureFrame(id="", x=60, y=80, width=90, height=90, fit="fill")
        publication, item_id = add_item(publication, page, item)
        made.append(item_id)
        return publication

    hands.session.edit("draw", drawn)
    hands.session.show_page(page)
    face = next(f for f in hands.session.faces() if f.holder_id == page)
    hands.session.select_items(face, (made[0],))
    place_picture(hands.session, tmp_path / "quarters.png")
    return page, made[0]


def seen(hands, qtbot, item):
    """The colours of the four quarters on the desk."""
    hands.settle(qtbot)
    image = hands.desk.grab().toImage()
    number = next(n for n, f in enumerate(hands.session.faces()) if f.holder_id == hands.page(2))
    found = []
    for b in (0.3, 0.7):
        for a in (0.3, 0.7):
            at = hands.at(number, item.x + item.width * a, item.y + item.height * b)
            colour = image.pixelColor(at)
            found.append((colour.red(), colour.green(), colour.blue()))
    return found


def near(found, expected):
    pairs = zip(found, expected, strict=True)
    return all(abs(a - b) < 45 for one, other in pairs for a, b in zip(one, other, strict=True))


def test_flipping_by_the_menu_is_seen_on_the_desk_and_undone(hands, qtbot, frame):
    page, item_id = frame

    def now():
        return next(i for i in find_page(hands.publication, page).items if i.id == item_id)

    a, b, c, d = COLOURS
    assert near(seen(hands, qtbot, now()), (a, b, c, d))
    hands.do("flip across")
    assert now().flip == "across" and near(seen(hands, qtbot, now()), (b, a, d, c))
    hands.do("flip down")
    assert now().flip == "both" and near(seen(hands, qtbot, now()), (d, c, b, a))
    hands.do("undo")
    hands.do("undo")
    assert near(seen(hands, qtbot, now()), (a, b, c, d))


def test_a_picture_for_dark_ground_is_chosen_in_properties(
    hands, qtbot, frame, monkeypatch, tmp_path
):
    page, item_id = frame
    Image.new("RGB", (40, 40), "#FAFAFA").save(tmp_path / "white.png")
    monkeypatch.setattr(PictureDialog, "ask", lambda *_, **__: [tmp_path / "white.png"])
    button = hands.field("Picture on dark ground")
    assert isinstance(button, QPushButton) and button.text() == "the same picture"
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    item = next(i for i in find_page(hands.publication, page).items if i.id == item_id)
    assert item.picture_on_dark and hands.field("Picture on dark ground").text() == "white.png"
    assert near(seen(hands, qtbot, item), COLOURS)  # on paper as before

    def darkened(publication):
        ink = publication.colours[0].id
        box = Shape(id="", x=40, y=60, width=140, height=140, fill=Fill(ink))
        publication, box_id = add_item(publication, page, box)
        from hidden_frame.edit.items.draw import reorder_items

        return reorder_items(publication, page, [box_id], "back")

    hands.session.edit("ground", darkened)
    assert near(seen(hands, qtbot, item), [(250, 250, 250)] * 4)


def test_words_alone_are_not_flipped(hands):
    from hidden_frame.model.items import TextFrame
    from hidden_frame.model.lookup import all_pages

    page = next(p for p in all_pages(hands.publication)
                for i in p.items if isinstance(i, TextFrame))  # fmt: skip
    hands.session.show_page(page.id)
    face = next(f for f in hands.session.faces() if f.holder_id == page.id)
    text = next(i for i in page.items if isinstance(i, TextFrame))
    hands.session.select_items(face, (text.id,))
    hands.window.commands.refresh()
    assert not hands.window.commands["flip across"].isEnabled()
