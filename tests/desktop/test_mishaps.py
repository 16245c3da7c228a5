"""Faults that nobody foresaw: told in a sentence, written down, and nothing is lost."""

from __future__ import annotations

import sys

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent

from hidden_frame.desktop.state import mishaps
from hidden_frame.desktop.views.desk import paper
from hidden_frame.edit.items.draw import add_item
from hidden_frame.model.items import Shape
from hidden_frame.model.paint import Fill


@pytest.fixture
def caught(hands, monkeypatch, tmp_path):
    """The window as it runs: faults go to the program's own hook and log."""
    monkeypatch.setattr(mishaps, "log_file", lambda: tmp_path / "hidden-frame.log")
    before, handlers = sys.excepthook, list(mishaps._log.handlers)
    mishaps.forget()
    mishaps.keep_log()
    mishaps.catch_all(lambda: [hands.session])
    yield tmp_path / "hidden-frame.log"
    sys.excepthook = before
    for handler in set(mishaps._log.handlers) - set(handlers):
        mishaps._log.removeHandler(handler)


def told(hands):
    return [n for n in hands.notices if "program error" in n]


def test_a_fault_in_an_edit_changes_nothing_and_is_told(hands, caught):
    before = hands.publication

    def fails(_):
        raise KeyError("lost")

    assert not hands.session.edit("move things", fails)
    assert hands.publication is before and hands.session.draft is None
    assert len(told(hands)) == 1 and "Move things" in told(hands)[0]
    assert "nothing was changed" in told(hands)[0]
    assert "KeyError" in caught.read_text()


def test_a_fault_in_a_command_is_told_and_the_window_goes_on(hands, caught, monkeypatch):
    monkeypatch.setattr(hands.window.pages, "add_page", lambda *_: 1 / 0, raising=False)
    action = hands.window.commands["undo"]
    action.triggered.connect(lambda: 1 / 0)
    hands.session.edit("a step", lambda p: add_item(p, hands.page(3), RED)[0])
    hands.do("undo")
    assert "ZeroDivisionError" in caught.read_text() and told(hands)
    hands.click(0, 100, 100)
    assert hands.window.isVisible()


RED = Shape(id="", name="Red", x=50, y=50, width=80, height=40, fill=Fill("ink"))


def test_a_step_that_can_not_be_painted_is_taken_back(hands, caught, monkeypatch, qtbot):
    hands.session.show_page(hands.page(3))
    hands.app.processEvents()
    before = hands.publication
    whole = paper.paint_placed

    def fails(painter, placed, *more):
        if placed.item_id not in known:
            raise RuntimeError("can't be painted")
        whole(painter, placed, *more)

    composition = hands.session.composition
    known = {p.item_id for page in composition.facts for p in composition.scene(page).placed}
    monkeypatch.setattr(paper, "paint_placed", fails)
    hands.session.edit("add a shape", lambda p: add_item(p, hands.page(3), RED)[0])
    qtbot.wait(80)
    assert hands.publication is before
    assert len(told(hands)) == 1
    monkeypatch.setattr(paper, "paint_placed", whole)
    assert hands.session.edit("add a shape", lambda p: add_item(p, hands.page(3), RED)[0])
    qtbot.wait(80)
    hands.session.mishap("A later thing", ValueError("x"))
    assert hands.publication is not before  # what was painted stays


def test_the_same_fault_is_told_once_and_not_at_each_repaint(hands, caught):
    def fails():
        raise RuntimeError("again")

    for _ in range(5):
        try:
            fails()
        except RuntimeError as error:
            sys.excepthook(RuntimeError, error, error.__traceback__)
    assert len(told(hands)) == 1


@pytest.mark.parametrize("fault", [ValueError("x"), OSError("no room"), MemoryError(), KeyError(1)])
def test_an_export_that_fails_says_so(hands, caught, monkeypatch, tmp_path, fault):
    def fails(*_):
        raise fault

    monkeypatch.setattr("hidden_frame.output.pdf.export_pdf", fails)
    hands.window.files.export_to(tmp_path / "a.pdf")
    assert not (tmp_path / "a.pdf").exists()
    assert len(told(hands)) == 1 and "no file was written" in told(hands)[0]


def test_an_export_of_odd_text_is_whole_and_said(hands, tmp_path):
    hands.window.files.export_to(tmp_path / "a.pdf")
    assert (tmp_path / "a.pdf").read_bytes().startswith(b"%PDF")
    assert hands.notices[-1] == "Exported “a.pdf”."


def dropped(hands, path):
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    point = QPointF(hands.at(0, 150, 150))
    event = QDropEvent(point, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton,
                       Qt.KeyboardModifier.NoModifier)  # fmt: skip
    hands.desk.dropEvent(event)


@pytest.mark.parametrize(
    ("drawing", "says"),
    [
        ('width="1.2.3" height="8"', "how large"),
        ('width="9" height="9"><rect', "not a complete SVG"),
    ],
)
def test_a_drawing_that_can_not_be_placed_says_why(hands, caught, tmp_path, drawing, says):
    path = tmp_path / "odd.svg"
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" {drawing}></svg>')
    before = hands.publication
    dropped(hands, path)
    assert hands.publication is before
    assert "odd.svg" in hands.notices[-1] and says in hands.notices[-1]


def test_what_is_left_out_of_a_drawing_is_said_when_it_is_placed(hands, caught, tmp_path):
    path = tmp_path / "moving.svg"
    path.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><rect width="9" height="9">'
        '<animate attributeName="x"/></rect></svg>'
    )
    dropped(hands, path)
    assert any("moving.svg" in n and "animation" in n for n in hands.notices)


def test_the_log_begins_anew_before_it_is_large(caught):
    for n in range(3_000):
        mishaps.write_down("x" * 400, ValueError(n))
    sizes = [p.stat().st_size for p in caught.parent.iterdir()]
    assert len(sizes) == 3 or len(sizes) == 2
    assert max(sizes) <= 1_000_000
