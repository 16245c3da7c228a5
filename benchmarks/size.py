"""5,000 pages in the real window: opened, edited, saved beside the work, exported; and its memory.

One process opens the file of another, as in use: nothing of its making is in its memory.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from statistics import median
from typing import Any

from benchmarks.measures import Row, _application, _window
from benchmarks.publication import large
from hidden_frame.edit.items.draw import change_items
from hidden_frame.edit.pages.order import add_pages, delete_pages, move_pages
from hidden_frame.model.lookup import all_pages
from hidden_frame.storage.format import load, save
from hidden_frame.storage.shelf import PicturesOnDisk

PAGES = 5_000
_BEAT = 0.002  # seconds between two beats of the desk's own clock


def size() -> Iterator[Row]:
    """What 5,000 pages cost."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.hframe"
        publication, blobs = large(int(os.environ.get("PAGES", PAGES)))
        save(path, publication, blobs)
        command = [sys.executable, "-c", f"from benchmarks.size import _use; _use({str(path)!r})"]
        homes = {f"XDG_{name}_HOME": folder for name in ("STATE", "DATA", "CONFIG", "CACHE")}
        done = subprocess.run(command, stdout=subprocess.PIPE, text=True, check=True,
                              env={**os.environ, **homes})  # fmt: skip
        for line in done.stdout.splitlines():
            yield Row(*json.loads(line))


def _tell(name: str, value: float, unit: str, target: float | None) -> None:
    print(json.dumps([name, value, unit, target]), flush=True)


def _use(name: str) -> None:
    """A session from opening to the export."""
    from hidden_frame.desktop.shell.app import take_turns

    path = Path(name)
    take_turns()
    _application()
    start = time.perf_counter()
    opened = load(path, PicturesOnDisk())
    app, window = _window(opened.publication, opened.blobs)
    window.session.path = path
    window.desk.grab()
    _tell("5,000 pages opened to the first page", (time.perf_counter() - start) * 1000, "ms", 1000)
    _settle(app, 1.0)
    for told, steps in _edits(window):
        _tell(f"{told}, median", median(_frames(app, window.desk, steps)), "ms", 16)
    session, last = window.session, all_pages(window.session.publication)[-1]
    session.edit("move", lambda p: change_items(p, last.id, {last.items[1].id: {"x": 61.0}}))
    _settle(app, 0.2)
    beat = _Beat(app)
    window.keeper.look()
    beat.until(lambda: window.keeper._writing is None or window.keeper._writing.done())
    _tell("longest the journal holds the desk", beat.longest, "ms", 50)
    beat = _Beat(app)
    window.files.saver.begin(path.with_name("again.hframe"))
    beat.until(lambda: not window.files.saver.busy)
    _tell("longest a save holds the desk", beat.longest, "ms", 50)
    window.keeper.wait()
    _export(app, window, path.with_suffix(".pdf"))
    # Not getrusage: its peak is inherited from the parent process across a fork.
    status = Path("/proc/self/status").read_text()
    _tell("memory of all this at most", int(status.split("VmHWM:")[1].split()[0]) / 1024, "MB", 350)
    window.close()


def _settle(app: Any, seconds: float) -> None:
    until = time.perf_counter() + seconds
    while time.perf_counter() < until:
        app.processEvents()


def _frames(app: Any, desk: Any, steps: list[Callable[[], object]]) -> list[float]:
    """How long each step takes until the desk is painted; what comes later is let come."""
    times = []
    for step in steps:
        start = time.perf_counter()
        step()
        desk.repaint()
        times.append((time.perf_counter() - start) * 1000)
        _settle(app, 0.05)
    return times


def _edits(window: Any) -> Iterator[tuple[str, list[Callable[[], object]]]]:
    """Kinds of edits on a page in the middle, each several times."""
    from PySide6.QtTest import QTest

    from hidden_frame.interact.sight.value import Editing

    session, desk = window.session, window.desk
    page = all_pages(session.publication)[2_501 * len(all_pages(session.publication)) // PAGES]
    text, picture = page.items
    session.show_page(page.id)
    base = session.publication.masters[0]

    def moved(holder: str, item: str, x: float) -> Callable[[], object]:
        return lambda: session.edit("move", lambda p: change_items(p, holder, {item: {"x": x}}))

    yield "item of a page moved", [moved(page.id, picture.id, 40 + n) for n in range(15)]
    yield (
        "item of the base master moved",
        [moved(base.id, base.items[0].id, 31 + n) for n in range(15)],
    )
    section = session.publication.sections[0].id
    yield "a page deleted", [
        lambda n=n: session.edit(
            "delete", lambda p: delete_pages(p, [all_pages(p)[1_000 + n].id])
        ) for n in range(9)
    ]  # fmt: skip
    yield "a page added", [
        lambda n=n: session.edit("add", lambda p: add_pages(p, section, 2_400 + n, 1)[0])
        for n in range(9)
    ]  # fmt: skip
    yield "undone", [session.undo] * 9
    yield "50 pages moved to the front", [
        lambda n=n: session.edit("order", lambda p: move_pages(
            p, [q.id for q in all_pages(p)[1_500 + n : 1_550 + n]], section, 0
        )) for n in range(9)
    ]  # fmt: skip
    session.edit_text(Editing(page.id, text.id, session.side_of(page.id)))
    yield "a key typed", [lambda c=c: QTest.keyClicks(desk, c) for c in "clear skies tonight"]
    session.edit_text(None)


class _Beat:
    """A clock of the desk that should beat every two milliseconds, and how late it was."""

    def __init__(self, app: Any) -> None:
        self.app = app
        self.longest = 0.0  # milliseconds
        self._last = time.perf_counter()

    def until(self, done: Callable[[], bool]) -> None:
        """Beats until something is done."""
        while not done():
            self.app.processEvents()
            now = time.perf_counter()
            self.longest = max(self.longest, (now - self._last) * 1000)
            self._last = now
            time.sleep(_BEAT)


class _Asked:
    """When an export looked at Cancel last, and the longest between two looks (milliseconds)."""

    def __init__(self) -> None:
        self.last = time.perf_counter()
        self.longest = 0.0

    def now(self) -> None:
        """It looks."""
        now = time.perf_counter()
        self.longest = max(self.longest, (now - self.last) * 1000)
        self.last = now


def _export(app: Any, window: Any, path: Path) -> None:
    from hidden_frame.output.pdf import Cancelled, export_pdf

    session, asked = window.session, _Asked()

    def progress(done: int, total: int) -> bool:
        asked.now()
        app.processEvents()
        return True

    start = time.perf_counter()
    export_pdf(session.composition, session.blobs, path, None, progress)
    end = time.perf_counter()
    _tell("export of all pages", end - start, "s", None)
    _tell("longest between two looks at Cancel", asked.longest, "ms", 200)
    _tell("after the last progress", (end - asked.last) * 1000, "ms", 200)

    def cancelled(done: int, total: int) -> bool:
        asked.now()
        return done < 0.97 * total  # while the file is written

    try:
        export_pdf(session.composition, session.blobs, path, None, cancelled)
    except Cancelled:
        _tell("from Cancel to the end", (time.perf_counter() - asked.last) * 1000, "ms", 200)
