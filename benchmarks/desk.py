"""The desk with 200 items on a spread, in the real window: drag, zoom, scroll, typing, start.

Each frame is one mouse move or key with everything that follows from it, the window painted.
"""

from __future__ import annotations

import gc
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from statistics import median, quantiles

from benchmarks.measures import Row, _application, _window
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.model.items import Item, Line, Shape, TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS

ITEMS = 200


def crowded() -> Publication:
    """A spread with 200 items, half on each page: shapes, lines and small texts."""
    publication = new_publication("Crowded", Setup(trim=TRIMS["A4"], bleed=9), 8)
    pages = all_pages(publication)
    for n in range(ITEMS):
        page = pages[1 + n % 2].id
        row, column = divmod(n // 2, 10)
        x, y = 40 + column * 52.0, 40 + row * 72.0
        publication, _ = add_item(publication, page, _item(n, x, y))
    return publication


def _item(n: int, x: float, y: float) -> Item:
    if n % 3 == 0:
        text = (Paragraph("body", (Run(f"Number {n} with a few words of its own"),)),)
        return TextFrame(id="", x=x, y=y, width=48, height=60, text=text)
    if n % 3 == 1:
        form = ("rectangle", "rounded", "ellipse")[n % 9 // 3]
        fill, stroke = Fill("spruce", tint=0.4), Stroke(colour="ink", width=0.7)
        return Shape(id="", x=x, y=y, width=44, height=40, form=form, fill=fill, stroke=stroke)  # type: ignore[arg-type]
    return Line(id="", x=x, y=y + 20, width=46, height=0, rotation=n * 7.0,
                stroke=Stroke(colour="ochre", width=1.5))  # fmt: skip


def _frames(app, desk, steps: list[Callable[[], None]]) -> list[float]:  # type: ignore[no-untyped-def]
    """How long each step takes until it is on the screen, in milliseconds."""
    times = []
    gc.collect()
    for step in steps:
        start = time.perf_counter()
        step()
        desk.repaint()
        app.processEvents()
        times.append((time.perf_counter() - start) * 1000)
    return times


def sender(app, window):  # type: ignore[no-untyped-def]
    """A hand on the right page of the desk: sends a kind of mouse event at a place in points."""
    from PySide6.QtCore import QEvent, QPointF, Qt
    from PySide6.QtGui import QMouseEvent

    desk, left = window.desk, Qt.MouseButton.LeftButton

    def send(kind, x: float, y: float) -> None:  # type: ignore[no-untyped-def]
        there = QPointF(*desk.camera.view.to_widget(x + window.session.faces()[1].x, y))
        button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else left
        held = Qt.KeyboardModifier.NoModifier
        event = QMouseEvent(kind, there, desk.mapToGlobal(there), button, left, held)
        app.sendEvent(desk, event)

    return send


def wheel_of(app, desk):  # type: ignore[no-untyped-def]
    """A wheel over the middle of the desk: forty turns one way, then back."""
    from PySide6.QtCore import QPoint, QPointF, Qt
    from PySide6.QtGui import QWheelEvent

    def wheel(n: int, held: Qt.KeyboardModifier) -> None:
        at = QPointF(desk.width() / 2, desk.height() / 2)
        turn = QPoint(0, 120 if n < 40 else -120)
        event = QWheelEvent(
            at, desk.mapToGlobal(at), QPoint(), turn, Qt.MouseButton.NoButton, held,
            Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        app.sendEvent(desk, event)

    return wheel


def _rows(name: str, times: list[float]) -> Iterator[Row]:
    yield Row(f"{name}, median frame", median(times), "ms", 16)
    yield Row(f"{name}, 95th percentile", quantiles(times, n=20)[-1], "ms", 33)


def _qt_view() -> list[float]:
    """The yardstick: one of 200 like items dragged in Qt's own scene and view, bare."""
    from PySide6.QtCore import QPointF, QRectF
    from PySide6.QtGui import QBrush, QColor, QPainter, QPen
    from PySide6.QtWidgets import QGraphicsScene, QGraphicsView

    app = _application()
    scene = QGraphicsScene(QRectF(0, 0, 1190, 842))
    scene.addRect(QRectF(0, 0, 1190, 842), QPen(), QBrush(QColor("white")))
    moved = None
    for n in range(ITEMS):
        row, column = divmod(n // 2, 10)
        x, y = 40 + column * 52.0 + 595 * (n % 2), 40 + row * 72.0
        if n % 3 == 0:
            text = scene.addText(f"Number {n} with a few words of its own")
            text.setTextWidth(48)
            text.setPos(x, y)
        elif n % 3 == 1:
            rect = QRectF(0, 0, 44, 40)
            moved = scene.addEllipse(rect, QPen(QColor("black"), 0.7), QBrush(QColor("#9CC")))
            moved.setPos(x, y)
        else:
            scene.addLine(x, y + 20, x + 46, y + 30, QPen(QColor("brown"), 1.5))
    view = QGraphicsView(scene)
    view.setRenderHint(QPainter.RenderHint.Antialiasing)
    view.resize(752, 504)
    view.fitInView(scene.sceneRect())
    view.show()
    app.processEvents()
    assert moved is not None
    start = moved.pos()
    steps = [lambda n=n: moved.setPos(start + QPointF(n * 1.7, n * 1.1)) for n in range(120)]
    times = _frames(app, view.viewport(), steps)
    view.close()
    return times


def desk_frames() -> Iterator[Row]:
    """Dragging one item and fifty, zooming, scrolling; a frame each time."""
    from PySide6.QtCore import QEvent, Qt

    publication = crowded()
    app, window = _window(publication, {})
    app.processEvents()
    desk, session = window.desk, window.session
    page = all_pages(publication)[2]
    session.show_page(page.id)
    desk.camera.fit_to("spread")
    app.processEvents()
    window.thumbnails.finish()

    send = sender(app, window)
    for name, count in (("drag one of 200 items", 1), ("drag 50 of 200 items", 50)):
        items = [i for i in page.items if isinstance(i, Shape)]
        chosen = [items[0].id, *(i.id for i in page.items if i.id != items[0].id)][:count]
        session.select_items(session.faces()[1], tuple(chosen))
        x, y = items[0].x + 22, items[0].y + 20
        send(QEvent.Type.MouseButtonPress, x, y)
        moves = [
            lambda n=n, x=x, y=y: send(QEvent.Type.MouseMove, x + n * 1.7, y + n * 1.1)
            for n in range(5, 125)
        ]
        bare = median(_qt_view()) if count == 1 else 0.0
        times = _frames(app, desk, moves)
        if count == 1:
            yield Row("the same in a bare QGraphicsView (yardstick)", bare, "ms")
            yield Row("drag one of 200 items / QGraphicsView", median(times) / bare, "ratio")
        yield from _rows(name, times)
        send(QEvent.Type.MouseButtonRelease, x + 200, y + 130)
        session.undo()
    session.select_items(None, ())

    wheel = wheel_of(app, desk)
    for name, held in (("zoom", Qt.KeyboardModifier.ControlModifier),
                       ("scroll", Qt.KeyboardModifier.NoModifier)):  # fmt: skip
        desk.camera.fit_to("spread")
        app.processEvents()
        turns = [lambda n=n, held=held: wheel(n, held) for n in range(80)]
        yield from _rows(name, _frames(app, desk, turns))
    window.close()


def selecting() -> Iterator[Row]:
    """A click on one item after another, of three kinds, until its values stand in Properties."""
    from PySide6.QtCore import QEvent

    publication = crowded()
    app, window = _window(publication, {})
    window.resize(1280, 800)
    page = all_pages(publication)[2]
    window.session.show_page(page.id)
    window.desk.camera.fit_to("spread")
    app.processEvents()
    window.thumbnails.finish()
    send = sender(app, window)

    def click(item: Item) -> None:
        x, y = item.x + item.width / 2, item.y + item.height / 2
        send(QEvent.Type.MouseButtonPress, x, y)
        send(QEvent.Type.MouseButtonRelease, x, y)
        assert window.session.items == (item.id,)

    times = _frames(app, window.desk, [lambda i=i: click(i) for i in page.items[:60]])
    yield Row("one item selected, to painted, median", median(times), "ms", 33)
    window.close()


def typing() -> Iterator[Row]:
    """A key typed into a frame of 300 words until it is on the screen."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    from hidden_frame.interact.sight.value import Editing

    publication = crowded()
    page = all_pages(publication)[2].id
    words = "An evening with clear skies and no moon is worth more than a good book. " * 22
    text = (Paragraph("body", (Run(words.strip()),)),)
    frame = TextFrame(id="", x=40, y=40, width=500, height=700, text=text)
    publication, frame_id = add_item(publication, page, frame)
    app, window = _window(publication, {})
    session, desk = window.session, window.desk
    session.show_page(page)
    desk.setFocus()
    desk.text.begin(Editing(page, frame_id, session.side))
    app.processEvents()
    window.thumbnails.finish()
    none = Qt.KeyboardModifier.NoModifier
    keys = [
        lambda c=c: QTest.keyClick(desk, c, none) for c in "the sky is clear again tonight " * 3
    ]
    times = _frames(app, desk, keys)
    yield Row("a key typed in 300 words, median", median(times), "ms", 16)
    window.close()


_BARE = """
import time; start = time.perf_counter()
from PySide6.QtWidgets import QApplication, QMainWindow
app = QApplication([]); window = QMainWindow(); window.resize(1280, 800); window.show()
for _ in range(3): app.processEvents()
print(time.perf_counter() - start)
"""
_OURS = """
import gc, time; start = time.perf_counter(); gc.disable()
from PySide6.QtWidgets import QApplication
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.shell.start.window import StartWindow
app = QApplication([]); theme.load_fonts(); theme.prepare(app)
window = StartWindow(lambda *_: None); theme.dress(app); window.show()
for _ in range(3): app.processEvents()
print(time.perf_counter() - start)
"""
_WINDOW = """
import gc, time; start = time.perf_counter(); gc.disable()
from PySide6.QtWidgets import QApplication
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.shell.window import Window
from hidden_frame.edit.new import new_publication
from hidden_frame.model.publication import Setup
from hidden_frame.model.trims import TRIMS
app = QApplication([]); theme.load_fonts(); theme.prepare(app)
window = Window(Session(new_publication("New", Setup(trim=TRIMS["A5"]), 8)))
theme.dress(app); window.show()
for _ in range(3): app.processEvents()
print(time.perf_counter() - start)
"""


def start_up() -> Iterator[Row]:
    """From a fresh process to a window on the screen, beside a bare PySide6 window; collections
    are held off and the style sheet comes last, as the program itself does it."""
    codes = {"bare": _BARE, "start": _OURS, "window": _WINDOW}
    times: dict[str, list[float]] = {name: [] for name in codes}
    _application()
    for _ in range(5):  # in turn, so that the machine's moods touch all alike
        for name, code in codes.items():
            done = subprocess.run(
                [sys.executable, "-c", code], capture_output=True, text=True, check=True
            )
            times[name].append(float(done.stdout.splitlines()[-1]) * 1000)
    bare = median(times["bare"])
    yield Row("bare PySide6 window (yardstick)", bare, "ms")
    yield Row("start window up", median(times["start"]), "ms")
    yield Row("publication's window up", median(times["window"]), "ms")
    yield Row("start window / bare window", median(times["start"]) / bare, "ratio", 1.5)
    yield Row("publication's window / bare window", median(times["window"]) / bare, "ratio", 2.7)
