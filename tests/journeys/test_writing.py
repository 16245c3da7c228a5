"""A day at the keyboard in the long book: every key, the mouse, undo, paste, and after a crash."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

from PySide6.QtCore import QMimeData
from PySide6.QtGui import QGuiApplication
from tests.journeys.hands import Hands

from hidden_frame.demo.book import long_book
from hidden_frame.edit.text.write import plain
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import load, save
from hidden_frame.storage.recovery import left_behind
from hidden_frame.typeset.caret import caret_at

PAGE = """<h2>Of wicks</h2><p>Some <b>heavy</b> and some <i>slanted</i> words.</p>
<ol><li>flat</li><li>round</li></ol>"""


def saved_book(folder: Path) -> Path:
    path = folder / "lamps.hframe"
    save(path, settled(long_book(chapters=4)), {})
    return path


def words(hands: Hands) -> str:
    return plain(find_story(hands.publication, hands.publication.stories[0].id).text)


def says(hands: Hands, fragment: str) -> None:
    """Once all keys have arrived, the story has these words."""

    def there() -> bool:
        now = hands.session.history.now
        return fragment in plain(find_story(now, now.stories[0].id).text)

    hands.until(there, f"“{fragment}” is not in the story")


def caret(hands: Hands) -> tuple[int, int]:
    return tuple(hands.ask(lambda: hands.window.desk.text.caret))  # type: ignore[return-value]


def spot_of(hands: Hands, place: tuple[int, int]) -> tuple[float, float]:
    """Where a place of the story stands on the screen."""

    def where() -> tuple[float, float]:
        from PySide6.QtCore import QPoint

        session, desk = hands.session, hands.window.desk
        flow = session.composition.flow(session.publication.stories[0].id)
        at = flow.stop_of(*place)
        stop = flow.stops[at]
        face = next(f for f in session.faces() if f.holder_id == stop.page_id)
        placed = next(p for p in session.scene_of(face).placed if p.item_id == stop.room.item_id)
        block = placed.drawing.text
        found = caret_at(block.text, place[0] - flow.starts[at].paragraph, place[1])
        x, y = placed.matrix.apply(found.x + block.x, (found.top + found.bottom) / 2 + block.y)
        across, down = desk.camera.view.to_widget(x + face.x, y)
        point = desk.mapToGlobal(QPoint(round(across), round(down)))
        return point.x(), point.y()

    return hands.ask(where)


def undone(hands: Hands, before: str) -> None:
    """Ctrl+Z until the words are what they were."""
    for _ in range(12):
        if words(hands) == before:
            return
        hands.keys("Ctrl+z")
    assert words(hands) == before


def open_in_the_middle(hands: Hands, path: Path) -> None:
    hands.ask(lambda: hands.windows.start.open_path(path))
    hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
    hands.fill_screen()
    hands.rest()
    middle = len(all_pages(hands.publication)) // 2
    page = all_pages(hands.publication)[middle].id
    hands.ask(lambda: hands.session.show_page(page))
    hands.rest()


def copied(hands: Hands, page: str, said: str) -> None:
    """As another program leaves it on the clipboard."""

    def put() -> None:
        data = QMimeData()
        data.setHtml(page)
        data.setText(said)
        QGuiApplication.clipboard().setMimeData(data)

    hands.ask(put)


def test_a_day_at_the_keyboard(day, tmp_path):
    path = saved_book(tmp_path)

    def journey(hands: Hands) -> None:
        open_in_the_middle(hands, path)
        whole = words(hands)

        hands.step("a double click opens the text where it is, and the view stays")
        story = hands.publication.stories[0].id
        flow = hands.ask(lambda: hands.session.composition.flow(story))
        at = next(n for n, s in enumerate(flow.stops) if s.page_id == hands.session.page_id)
        first = (flow.starts[at].paragraph, flow.starts[at].place.offset + 30)
        x, y = spot_of(hands, first)
        hands.fingers.click(x, y, times=2)
        hands.rest()
        assert hands.ask(lambda: hands.session.editing) is not None
        time.sleep(0.3)
        after = spot_of(hands, first)
        assert abs(after[0] - x) <= 1 and abs(after[1] - y) <= 1
        assert caret(hands)[0] == first[0] and abs(caret(hands)[1] - first[1]) <= 1

        hands.step("typed at speed, dead keys between, undone: the caret stands where it began")
        begun = caret(hands)
        hands.fingers.type("Quickly typed, the lantern was lit; caf", pause=0.004)
        says(hands, "was lit; caf")
        hands.fingers.strike("dead_acute")
        hands.fingers.strike("e")
        says(hands, "Quickly typed, the lantern was lit; café")
        undone(hands, whole)
        assert caret(hands) == begun

        hands.step("three pages selected by keys, overwritten, undone, selected again")
        hands.keys("Shift+PgDown", "Shift+PgDown", "Shift+Down", "Shift+End")
        ends = hands.ask(lambda: hands.window.desk.text.selection)
        stops = [flow.stop_of(*place) for place in ends]
        assert stops[1] - stops[0] >= 2
        hands.fingers.type("Z")
        hands.rest()
        assert len(words(hands)) < len(whole) - 500
        undone(hands, whole)
        assert hands.ask(lambda: hands.window.desk.text.selection) == ends

        hands.step("a word taken by a double click, and dragged behind another")
        hands.keys("Home")
        text = find_story(hands.publication, story).text
        number = caret(hands)[0]
        line = plain((text[number],))
        begun = line.index(" ", caret(hands)[1] + 3) + 2  # in the midst of a word
        hands.fingers.click(*spot_of(hands, (number, begun)), times=2)
        hands.rest()
        (_, start), (_, end) = hands.ask(lambda: hands.window.desk.text.selection)
        word = line[start:end]
        assert word.strip() and word.isalpha()
        there = (number, line.index(" ", end + 8))
        x, y = spot_of(hands, (number, (start + end) // 2))
        time.sleep(0.6)  # a third press at once would take the paragraph
        hands.fingers.drag((x, y), spot_of(hands, there))
        hands.rest()
        moved = plain((find_story(hands.publication, story).text[number],))
        assert len(moved) == len(line) and moved != line
        assert moved.replace(word, "", 1) != moved
        undone(hands, whole)

        hands.step("a third click takes the paragraph")
        time.sleep(0.6)
        hands.fingers.click(*spot_of(hands, (number, start + 1)), times=3)
        hands.rest()
        assert hands.ask(lambda: hands.window.desk.text.selection) == ((number, 0), (number + 1, 0))

        hands.step("turned four pages on by the finder, and Shift with a click selects up to there")
        time.sleep(0.6)
        hands.fingers.click(*spot_of(hands, (number, start + 1)))
        hands.rest()
        begun = caret(hands)
        hands.ask(lambda: hands.session.show_page(flow.stops[at + 6].page_id))
        hands.rest()
        far = flow.starts[at + 6]
        x, y = spot_of(hands, (far.paragraph, far.place.offset + 40))
        code = hands.fingers._code("Shift_L")[0]
        hands.fingers._fake(hands.fingers._x.KeyPress, code)
        hands.fingers.click(x, y)
        hands.fingers._fake(hands.fingers._x.KeyRelease, code)
        hands.rest()
        selection = hands.ask(lambda: hands.window.desk.text.selection)
        assert selection[0] == begun and flow.stop_of(*selection[1]) == at + 6

        hands.step("pasted from elsewhere: asked once, lists and headings come, undone by one key")
        hands.keys("Right")
        copied(hands, PAGE, "Of wicks\nSome heavy and some slanted words.\nflat\nround")
        hands.keys("Ctrl+v")
        hands.seen("These come with what was copied")
        hands.fingers.keys("Enter")
        hands.rest()
        styles = {s.id: s.name for s in hands.publication.paragraph_styles}
        came = [
            (plain((p,)), styles[p.style]) for p in find_story(hands.publication, story).text
            if plain((p,)) in ("flat", "round", "Some heavy and some slanted words.")
        ]  # fmt: skip
        assert [name for _, name in came[1:]] == ["List number", "List number"]
        hands.keys("Ctrl+z")
        assert words(hands) == whole
        hands.keys("Ctrl+Alt+v")
        hands.rest()
        assert "Of wicks\nSome heavy and some slanted words.\nflat\nround" in words(hands)
        undone(hands, whole)

        hands.step("the galley: accents, words, undo there; what it shows is the story")
        hands.keys("Shift+F3")
        galley = hands.find("Galley")
        hands.fingers.click(*hands.place_of(galley))
        hands.rest()
        hands.fingers.type("caf")
        hands.rest()
        hands.fingers.strike("dead_acute")
        hands.fingers.strike("e")
        hands.keys("Shift+Ctrl+Left", "Ctrl+x", "Ctrl+v")
        says(hands, "café")
        hands.rest()
        assert hands.ask(lambda: galley.toPlainText()) == words(hands)
        undone(hands, whole)
        assert hands.ask(lambda: galley.toPlainText()) == whole
        hands.keys("Shift+F3")

        hands.step("the list of steps says what was typed")
        hands.ask(lambda: hands.window.desk.text.write_at(story, (number, 0)))
        hands.ask(lambda: hands.window.desk.setFocus())
        hands.fingers.type("A new beginning. ")
        hands.rest()
        hands.menu("Edit", "Steps: what was done")
        hands.rest()
        steps = hands.ask(lambda: hands.window.steps.list)
        said = hands.ask(lambda: steps.item(steps.count() - 1).text())
        assert said.startswith("Typing “A new beginning.” · ")

    day(journey)


def killed(path: Path, fingers: object, folder: Path) -> None:
    """Another process of the program, in which somebody writes when it is killed."""
    command = [sys.executable, "-c", "from hidden_frame.cli import main; main()", str(path)]
    running = subprocess.Popen(command, env={**os.environ, "XDG_STATE_HOME": str(folder)})
    try:
        time.sleep(7)
        for _ in range(3):
            fingers.keys("PgDown")  # type: ignore[attr-defined]
            time.sleep(0.4)
        fingers.click(570, 300, times=2)  # type: ignore[attr-defined]
        time.sleep(1.5)
        fingers.type("Zebra ")  # type: ignore[attr-defined]
        time.sleep(1.0)
        until = time.monotonic() + 40
        while time.monotonic() < until and not list(folder.glob("**/publication.json")):
            time.sleep(0.5)
        time.sleep(1.0)
    finally:
        running.send_signal(signal.SIGKILL)
        running.wait()


def test_after_a_crash_one_goes_on_in_one_window_where_one_was(day, screen, tmp_path, monkeypatch):
    from tests.journeys.screen import Fingers

    path, state = saved_book(tmp_path), tmp_path / "state"
    monkeypatch.setenv("XDG_STATE_HOME", str(state))
    killed(path, Fingers(screen), state)
    assert len(left_behind()) == 1
    held = load(path).publication

    def journey(hands: Hands) -> None:
        hands.step("the file is opened again: a bar, in its window")
        hands.ask(lambda: hands.windows.start.open_path(path))
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.seen("This was not closed normally")
        assert "Zebra" not in words(hands)

        hands.step("compared, then gone on with")
        hands.press("Compare…")
        hands.seen("It has more than the file")
        hands.press("Close")
        hands.press("Go on with it")
        hands.rest()
        assert "Zebra " in words(hands) and len(hands.windows.open_ones) == 1
        assert hands.ask(lambda: hands.session.editing) is not None
        hands.fingers.type("crossing")
        says(hands, "Zebra crossing")

        hands.step("undo comes back to the file as it is")
        hands.keys("Ctrl+z", "Ctrl+z")
        hands.rest()
        assert hands.publication == held and not hands.session.modified

    day(journey)
