"""A session at a divided book of some 800 pages in the real window, frame by frame: opened in the
middle, turned, jumped through, zoomed, typed into at its head, middle and end, a picture dragged
through its text, saved, the flatplan scrolled.

A frame is a step with all that follows from it until the window is painted, and what is done beside
the desk between two steps. The worst are printed by name.
"""

from __future__ import annotations

import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from statistics import quantiles
from typing import Any

from benchmarks.cold import book
from benchmarks.desk import sender, wheel_of
from benchmarks.measures import Row, _application, _window
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import Shape
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.storage.format import load, save

_WORDS = 300_000
_IDLE = 1.0  # milliseconds up to which a turn of the loop did nothing
_WORST = 14  # frames that are printed


class _Frames:
    """Every frame with its name, in milliseconds."""

    def __init__(self, app: Any, window: Any) -> None:
        self.app, self.window = app, window
        self.found: list[tuple[float, str]] = []

    def step(self, name: str, do: Callable[[], object], rest: float = 0.05) -> None:
        """One step, then so many seconds in which the desk may do what it does beside."""
        self._timed(name, lambda: (do(), self.window.repaint()))
        self.rest(name, rest)

    def rest(self, name: str, seconds: float) -> None:
        """The desk by itself: each turn of its loop is a frame."""
        end = time.perf_counter() + seconds
        while time.perf_counter() < end:
            self._timed(f"{name}, beside", self.app.processEvents)

    def _timed(self, name: str, do: Callable[[], object]) -> None:
        start = time.perf_counter()
        do()
        taken = (time.perf_counter() - start) * 1000
        if taken > _IDLE or "beside" not in name:
            self.found.append((taken, name))


def frames() -> Iterator[Row]:
    """All of it; none over 50 ms is wanted, and 95 in 100 under 16."""
    from PySide6.QtCore import QEvent, Qt
    from PySide6.QtTest import QTest

    _application()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "book.hframe"
        publication = book("en", _WORDS)
        shape = Shape(id="", x=90, y=200, width=90, height=70, fill=Fill("ochre"))
        page = all_pages(publication)[400].id  # a right page
        publication, shape_id = add_item(publication, page, shape)
        save(path, publication, {})
        opened = load(path)
        app, window = _window(new_publication("Empty", Setup(trim=TRIMS["A5"])), {})
        window.session.replace_all(opened.publication, opened.blobs, path)
        taken = _Frames(app, window)
        session, desk = window.session, window.desk
        pages = [p.id for p in all_pages(session.publication)]
        assert len(pages) > 780
        taken.step("opened in the middle", lambda: session.show_page(pages[399]), 1.0)
        for number in range(401, 441, 2):
            taken.step("a page turned", lambda n=number: session.show_page(pages[n]), 0.02)
        for number in (700, 20, 610, 333, 790 % len(pages), 1, 500):
            taken.step("a jump", lambda n=number: session.show_page(pages[n]), 0.1)
        taken.rest("after the jumps", 3.0)
        desk.camera.fit_to("spread")
        wheel = wheel_of(app, desk)
        for n in range(40):
            held = Qt.KeyboardModifier.ControlModifier
            taken.step("zoomed", lambda n=n, held=held: wheel(0 if n < 20 else 40, held), 0.0)
        _typed(taken, session, desk, QTest)
        session.edit_text(None)
        session.show_page(page)
        taken.rest("before the drag", 0.5)
        side = session.side_of(page)
        face = next(f for f in session.faces() if f.side == side)
        session.select_items(face, (shape_id,))
        send = sender(app, window)
        before = session.history.now
        taken.step("a drag begun", lambda: send(QEvent.Type.MouseButtonPress, 130, 230), 0.0)
        for n in range(60):
            taken.step(
                "dragged through text",
                lambda n=n: send(QEvent.Type.MouseMove, 130 + n * 1.5, 230 - n), 0.0,
            )  # fmt: skip
        taken.step("dropped", lambda: send(QEvent.Type.MouseButtonRelease, 220, 170), 0.5)
        moved = session.history.now is not before
        taken.step("saved", lambda: window.files.save_beside(), 1.5)
        window.files.saver.finish()
        assert load(path).publication == session.history.now
        taken.step("the flatplan", session.show_flatplan, 0.5)
        view = window.flatplan.view
        for _ in range(60):
            bar = view.verticalScrollBar()
            taken.step("the flatplan scrolled", lambda b=bar: b.setValue(b.value() + 60), 0.0)
        assert moved, "the picture was not dragged"
        window.close()
    yield from _told(taken.found)


def _typed(taken: _Frames, session: Any, desk: Any, hands: Any) -> None:
    from PySide6.QtCore import Qt

    story = session.publication.stories[0]
    desk.setFocus()
    for name, paragraph in (("head", 1), ("middle", len(story.text) // 2), ("end", -2)):
        at = paragraph % len(story.text)
        taken.step(
            f"written at the {name}", lambda at=at: desk.text.write_at(story.id, (at, 4)), 0.3
        )
        before = session.history.now
        for letter in "the night is clear again and ":
            taken.step(
                f"a key at the {name}",
                lambda c=letter: hands.keyClick(desk, c, Qt.KeyboardModifier.NoModifier), 0.03,
            )  # fmt: skip
        assert session.history.now is not before, f"nothing was typed at the {name}"


def _told(found: list[tuple[float, str]]) -> Iterator[Row]:
    times = [taken for taken, _ in found]
    worst: dict[str, float] = {}
    for taken, name in sorted(found, reverse=True):
        worst.setdefault(name, taken)
    for name, taken in list(worst.items())[:_WORST]:
        print(f"{taken:8.1f} ms  {name}", file=sys.stderr)
        yield Row(f"worst frame: {name}", taken, "ms", 50)
    yield Row("frames, 95th percentile", quantiles(times, n=20)[-1], "ms", 16)
    over = sum(t > 50 for t in times)
    yield Row(f"frames over 50 ms, of {len(times):,}", over, "frames", 0)
