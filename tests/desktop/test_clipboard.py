"""Cut, copy, paste, also between windows; pictures and text from elsewhere."""

from __future__ import annotations

import io

import pytest
from PIL import Image
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage

from hidden_frame.desktop.shell.window import Window
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.items_mime import ITEMS_MIME
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import plain
from hidden_frame.model.invariants import problems
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import all_pages, find_master, find_page
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS


def select(hands, position, *names):
    page = find_page(hands.publication, hands.page(position))
    hands.session.show_page(page.id)
    face = next(f for f in hands.session.faces() if f.holder_id == page.id)
    hands.session.select_items(face, tuple(hands.item(page, n).id for n in names))


def picture(path, size=(60, 40), colour=(250, 10, 10)):
    buffer = io.BytesIO()
    Image.new("RGB", size, colour).save(buffer, "PNG")
    path.write_bytes(buffer.getvalue())
    return path


def test_copy_and_paste_a_little_aside_and_at_the_same_spot(hands):
    select(hands, 9, "Moon 1", "Moon 2")
    before = hands.own(9, "Moon 1")
    hands.do("copy")
    hands.do("paste")
    first, second = find_page(hands.publication, hands.page(9)).items[-2:]
    assert (first.x - before.x, first.y - before.y) == pytest.approx((12, 12))
    assert hands.session.items == (first.id, second.id)
    hands.session.show_page(hands.page(11))
    hands.session.select_items(hands.session.faces()[1], ())
    hands.do("paste same")
    there = find_page(hands.publication, hands.page(11)).items[-2]
    assert (there.x, there.y) == (before.x, before.y) and there.fill == before.fill


def test_the_keys_for_copy_paste_and_cut(hands):
    select(hands, 9, "Moon 1")
    hands.desk.setFocus()
    count = len(find_page(hands.publication, hands.page(9)).items)
    hands.key(Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    hands.key(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(find_page(hands.publication, hands.page(9)).items) == count + 1
    hands.key(Qt.Key.Key_X, Qt.KeyboardModifier.ControlModifier)
    assert len(find_page(hands.publication, hands.page(9)).items) == count


def test_cut_takes_away_and_paste_brings_back(hands):
    select(hands, 9, "Moon 1")
    gone = hands.own(9, "Moon 1")
    hands.do("cut")
    names = [i.name for i in find_page(hands.publication, hands.page(9)).items]
    assert "Moon 1" not in names
    hands.do("paste same")
    assert hands.own(9, "Moon 1").x == gone.x


def test_a_masters_item_is_copied_from_a_page_as_it_looks_there(hands):
    hands.session.show_page(hands.page(9))
    band = hands.item(
        find_master(hands.publication, hands.master("Month table")), "Table head band"
    )
    hands.session.select_items(hands.session.faces()[1], (band.id,))
    hands.do("copy")
    hands.session.show_page(hands.page(27))
    hands.session.select_items(hands.session.faces()[1], ())
    hands.do("paste same")
    made = find_page(hands.publication, hands.page(27)).items[-1]
    assert (made.x, made.width, made.fill) == (band.x, band.width, band.fill)


def test_pasting_into_another_publication_in_another_window(hands, qtbot):
    select(hands, 9, "Month", "Moon 1")
    hands.do("copy")
    other = Window(Session(new_publication("Other", Setup(trim=TRIMS["A5"]), 4)))
    qtbot.addWidget(other)
    other.show()
    qtbot.waitExposed(other)
    other.commands["paste"].trigger()
    publication = other.session.history.now
    items = all_pages(publication)[0].items
    assert {i.name for i in items} == {"Month", "Moon 1"} and problems(publication) == []
    assert "Month" in [s.name for s in publication.paragraph_styles]
    assert "Star gold" in [c.name for c in publication.colours]


def test_a_picture_goes_along_with_its_bytes(hands, qtbot):
    cover = find_master(hands.publication, hands.master("Cover"))
    frame = next(i for i in cover.items if isinstance(i, PictureFrame))
    hands.session.show_master(cover.id)
    hands.session.select_items(hands.session.faces()[1], (frame.id,))
    hands.do("copy")
    other = Window(Session(new_publication("Other", Setup(trim=TRIMS["A5"]), 4)))
    qtbot.addWidget(other)
    other.show()
    other.commands["paste"].trigger()
    assert other.session.blobs[frame.picture] == hands.session.blobs[frame.picture]


def test_what_can_not_be_read_is_said_and_nothing_changes(hands):
    data = QMimeData()
    data.setData(ITEMS_MIME, b"nonsense")
    QGuiApplication.clipboard().setMimeData(data)
    before = hands.publication
    hands.do("paste")
    assert hands.publication is before and "can't be read" in hands.notices[-1]


def test_text_and_pictures_from_other_programs_are_pasted(hands):
    hands.session.show_page(hands.page(27))
    QGuiApplication.clipboard().setText("First line\nSecond line")
    hands.do("paste")
    made = find_page(hands.publication, hands.page(27)).items[-1]
    assert isinstance(made, TextFrame) and plain(made.text) == "First line\nSecond line"
    image = QImage(90, 60, QImage.Format.Format_RGB32)
    image.fill(0xFF3366AA)
    QGuiApplication.clipboard().setImage(image)
    hands.do("paste")
    made = find_page(hands.publication, hands.page(27)).items[-1]
    assert isinstance(made, PictureFrame) and made.picture in hands.session.blobs
    assert made.width / made.height == pytest.approx(1.5)


def drop(hands, paths, face=1, x=200.0, y=300.0):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    at = QPointF(hands.at(face, x, y))
    hands.app.sendEvent(
        hands.desk, QDragEnterEvent(at.toPoint(), Qt.DropAction.CopyAction, data, left, none)
    )
    hands.app.sendEvent(hands.desk, QDropEvent(at, Qt.DropAction.CopyAction, data, left, none))


def test_several_files_are_laid_out_in_order_and_undone_in_one_step(hands, tmp_path):
    hands.session.show_page(hands.page(27))
    files = [picture(tmp_path / f"{n}.png", colour=(n * 40, 0, 0)) for n in range(4)]
    (tmp_path / "words.txt").write_text("Some words")
    before = hands.publication
    drop(hands, [*files, tmp_path / "words.txt"], x=60, y=100)
    made = find_page(hands.publication, hands.page(27)).items[-5:]
    assert [i.name for i in made] == ["0.png", "1.png", "2.png", "3.png", "words"]
    places = [(round(i.y, 3), round(i.x, 3)) for i in made]
    assert places == sorted(places) and len(set(places)) == 5
    assert set(hands.session.items) == {i.id for i in made}
    hands.do("undo")
    assert hands.publication is before


def test_a_dropped_picture_has_its_actual_size(hands, tmp_path):
    """As the fit “actual” shows it: 600 × 300 pixels at 300 to an inch are 2 × 1 inches."""
    hands.session.show_page(hands.page(27))
    Image.new("RGB", (600, 300), (90, 20, 20)).save(tmp_path / "plate.png", dpi=(300, 300))
    drop(hands, [tmp_path / "plate.png"])
    frame = find_page(hands.publication, hands.session.page_id).items[-1]
    known = next(p for p in hands.publication.pictures if p.hash == frame.picture)
    assert (frame.width, frame.height) == pytest.approx((144.0, 72.0), abs=0.1)
    assert (frame.width, frame.height) == pytest.approx(known.size, abs=0.1)


def test_a_picture_dropped_on_a_picture_frame_fills_it(hands, tmp_path):
    hands.session.show_page(hands.page(27))
    hands.do("tool picture")
    hands.drag(1, (100, 100), (260, 220))
    frame = find_page(hands.publication, hands.page(27)).items[-1]
    count = len(find_page(hands.publication, hands.page(27)).items)
    drop(hands, [picture(tmp_path / "sky.png")], x=150, y=150)
    items = find_page(hands.publication, hands.page(27)).items
    assert len(items) == count
    assert items[-1].id == frame.id and items[-1].picture is not None


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("broken.png", b"\x89PNG nonsense", "not a picture"),
        ("table.xyz", b"1 2 3", "can't be placed"),
        ("latin.txt", b"caf\xe9 au lait", "UTF-8"),
        ("long.txt", b"x" * 600_000, "longer than a frame can hold"),
    ],
)
def test_one_bad_file_is_named_and_nothing_is_placed(hands, tmp_path, name, data, says):
    hands.session.show_page(hands.page(27))
    bad = tmp_path / name
    bad.write_bytes(data)
    before = hands.publication
    drop(hands, [picture(tmp_path / "good.png"), bad])
    assert hands.publication is before
    assert name in hands.notices[-1] and says in hands.notices[-1]


def test_too_many_files_are_refused(hands, tmp_path):
    hands.session.show_page(hands.page(27))
    before = hands.publication
    drop(hands, [tmp_path / f"{n}.png" for n in range(250)])
    assert hands.publication is before and "250 files" in hands.notices[-1]
