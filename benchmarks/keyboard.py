"""Writing in 800 pages in the real window: keys on the page and in the galley with an input method
on, selecting over 100 pages, a chapter cut and pasted; beside the same in 40 pages."""

from __future__ import annotations

import os
import time
from collections.abc import Callable, Iterator
from statistics import median, quantiles

from benchmarks.measures import Row

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
_KEYS = 60
_PAGES = 100  # over which is selected
_CHAPTER = 36  # paragraphs


def keyboard_rows() -> Iterator[Row]:
    """In milliseconds, and how a key grows with the book."""
    large, small = _measured(50), _measured(3)
    yield Row("pages of the large book", large["pages"], "", None)
    limits = {"page": 16, "galley": 16, "page 95th": 33, "galley 95th": 33,
              "select": 50, "cut": 300, "paste": 300}  # fmt: skip
    words = {
        "page": "a key on the page, median", "page 95th": "a key on the page, 95th percentile",
        "galley": "a key in the galley, median",
        "galley 95th": "a key in the galley, 95th percentile",
        "select": f"Shift and a click over {_PAGES} pages",
        "cut": f"{_CHAPTER} paragraphs cut, seen on the spread",
        "paste": f"{_CHAPTER} paragraphs pasted, seen on the spread",
    }  # fmt: skip
    for name, limit in limits.items():
        yield Row(words[name], large[name], "ms", limit)
    for name in ("page", "galley"):
        yield Row(f"{words[name]}, in {large['pages']:.0f} / {small['pages']:.0f} pages",
                  large[name] / small[name], "ratio", None)  # fmt: skip


def _measured(chapters: int) -> dict[str, float]:
    from PySide6.QtCore import QPoint, Qt
    from PySide6.QtGui import QInputMethodEvent
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QApplication, QWidget

    from hidden_frame.demo.book import long_book
    from hidden_frame.desktop.look import theme
    from hidden_frame.desktop.shell.window import Window
    from hidden_frame.desktop.state.session import Session
    from hidden_frame.model.lookup import all_pages
    from hidden_frame.settle.settling import settled

    app = QApplication.instance() or QApplication([])
    assert isinstance(app, QApplication)
    theme.load_fonts()
    theme.apply(app)
    window = Window(Session(settled(long_book(chapters=chapters))))
    window.resize(1280, 800)
    window.show()
    session, writing, desk = window.session, window.desk.text, window.desk
    session.finish()
    story = session.publication.stories[0].id
    flow = session.composition.flow(story)
    middle = len(flow.stops) // 2
    start = flow.starts[middle]
    place = (start.paragraph, start.place.offset + 20)
    writing.write_at(story, place)
    app.processEvents()

    def key(widget: QWidget, making: str, made: str) -> float:
        """One key: it begins a letter, or makes one of what was begun; until it is painted."""
        event = QInputMethodEvent(making, [])
        event.setCommitString(made)

        def press() -> None:
            app.sendEvent(widget, event)
            desk.repaint()
            if widget is not desk:
                widget.repaint()

        return _took(press)

    def keys(widget: QWidget) -> tuple[float, float]:
        times = []
        for n in range(_KEYS):
            times += [key(widget, "´", ""), key(widget, "", "é" if n % 6 else " ")]
        app.processEvents()
        return median(times), quantiles(times, n=20)[-1]

    found: dict[str, float] = {"pages": len(all_pages(session.publication))}
    keys(desk)  # what the first ones have to load
    found["page"], found["page 95th"] = keys(desk)
    window.commands["galley"].trigger()
    app.processEvents()
    galley = window.galley.text
    keys(galley)
    found["galley"], found["galley 95th"] = keys(galley)
    window.commands["galley"].trigger()
    app.processEvents()

    far = min(middle + _PAGES, len(flow.stops) - 2)
    writing.write_at(story, place)
    session.show_page(flow.stops[far].page_id)
    app.processEvents()

    face = next(f for f in session.faces() if f.holder_id == flow.stops[far].page_id)
    trim = session.publication.setup.trim
    x, y = desk.camera.view.to_widget(face.x + trim.width / 2, trim.height / 2)

    def select() -> None:
        shift = Qt.KeyboardModifier.ShiftModifier
        QTest.mouseClick(desk, Qt.MouseButton.LeftButton, shift, QPoint(round(x), round(y)))
        desk.repaint()

    found["select"] = _took(select)
    assert writing.caret > (flow.starts[far].paragraph, 0) and writing.anchor == place
    writing.write_at(story, (start.paragraph + 1 + _CHAPTER, 0), (start.paragraph + 1, 0))
    app.processEvents()

    def press(key: Qt.Key) -> None:
        QTest.keyClick(desk, key, Qt.KeyboardModifier.ControlModifier)
        desk.repaint()

    found["cut"] = _took(lambda: press(Qt.Key.Key_X))
    session.finish()  # as it does in the time that a hand takes to go elsewhere
    writing.write_at(story, (start.paragraph - 20, 0))
    app.processEvents()
    found["paste"] = _took(lambda: press(Qt.Key.Key_V))
    session.finish()
    window.files.may_leave = lambda: True  # type: ignore[method-assign]
    window.close()
    app.processEvents()
    return found


def _took(done: Callable[[], object]) -> float:
    began = time.perf_counter()
    done()
    return (time.perf_counter() - began) * 1000
