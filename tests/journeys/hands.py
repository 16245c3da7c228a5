"""A designer at the program: finds things by what they are called, and looks at what comes of it.

The program runs in the main thread; a journey runs beside it and asks there what it wants to know,
so that dialogs and menus are open while it goes on.
"""

from __future__ import annotations

import threading
import time
from collections.abc import Callable
from concurrent.futures import Future
from pathlib import Path
from typing import Any, TypeVar

from PySide6.QtCore import QObject, QPoint, QRect, Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QApplication,
    QComboBox,
    QDialog,
    QLabel,
    QLineEdit,
    QMenu,
    QScrollArea,
    QWidget,
)
from tests.journeys.labels import shown
from tests.journeys.screen import Fingers

T = TypeVar("T")
_TITLE = 24  # pixels of a window's title
PATIENCE = 20.0  # seconds until what is looked for is missed


class Asker(QObject):
    """Runs what other threads ask for in the thread of the windows."""

    _asked = Signal(object, object)

    def __init__(self) -> None:
        super().__init__()
        self._asked.connect(self._answer, Qt.ConnectionType.QueuedConnection)

    def _answer(self, question: Callable[[], Any], answer: Future[Any]) -> None:
        try:
            answer.set_result(question())
        except BaseException as error:
            answer.set_exception(error)

    def ask(self, question: Callable[[], T], patience: float = 60.0) -> T:
        answer: Future[T] = Future()
        self._asked.emit(question, answer)
        return answer.result(timeout=patience)


class Missed(AssertionError):
    """What a designer would have looked for, and did not find."""


def _named(widget: QWidget) -> list[str]:
    """What a widget is called, by who sees it and who hears it."""
    names = [widget.accessibleName()]
    if isinstance(widget, QAbstractButton | QLabel):
        names.append(widget.text().replace("&", ""))
    return [n for n in names if n]


class Hands:
    """What is pressed is named as it is seen; `steps` says what was done, for when it fails."""

    def __init__(self, asker: Asker, fingers: Fingers, windows: Any) -> None:
        self.asker, self.fingers, self.windows = asker, fingers, windows
        self.steps: list[str] = []
        self.slow: list[tuple[float, str]] = []

    def step(self, said: str) -> None:
        """What is to be done now."""
        self.steps.append(said)

    def ask(self, question: Callable[[], T]) -> T:
        return self.asker.ask(question)

    def until(self, question: Callable[[], T], what: str, patience: float = PATIENCE) -> T:
        """Looks again and again until the answer is something."""
        end = time.monotonic() + patience
        while True:
            found = self.ask(question)
            if found:
                return found
            if time.monotonic() > end:
                raise Missed(f"{what} – after: {' · '.join(self.steps[-4:])}")
            time.sleep(0.03)

    def rest(self, patience: float = 60.0) -> None:
        """Until nothing more is worked out, and what is seen is what there is."""

        def rests() -> bool:
            return all(
                not w.session.settles and w.session.rests and not w.session.hurried
                for w in self.windows.open_ones
            )

        time.sleep(0.08)
        began = time.monotonic()
        self.until(rests, "rest", patience)
        waited = time.monotonic() - began
        if waited > 1.0:
            self.slow.append((waited, self.steps[-1] if self.steps else ""))

    # -- what there is ------------------------------------------------------------------

    @property
    def window(self) -> Any:
        return self.windows.open_ones[-1]

    @property
    def session(self) -> Any:
        return self.window.session

    @property
    def publication(self) -> Any:
        """The publication as it is kept."""
        return self.ask(lambda: self.session.history.now)

    def find(self, name: str, kind: type[QWidget] = QWidget) -> QWidget:
        """What is seen and called so, in the window that is in front."""
        name = shown(name)

        def look() -> QWidget | None:
            front = QApplication.activeModalWidget() or QApplication.activePopupWidget()
            roots = [front] if front is not None else [
                w for w in QApplication.topLevelWidgets() if w.isVisible()
            ]  # fmt: skip
            for root in roots:
                for widget in [root, *root.findChildren(QWidget)]:
                    if isinstance(widget, kind) and widget.isVisible() and name in _named(widget):
                        return widget
            return None

        return self.until(look, f"nothing is called “{name}”")

    def seen(self, words: str, patience: float = 5.0) -> None:
        """These words can be read in a window."""
        words = shown(words)

        def look() -> bool:
            return any(
                words in _text(widget)
                for root in QApplication.topLevelWidgets() if root.isVisible()
                for widget in [root, *root.findChildren(QWidget)] if widget.isVisible()
            )  # fmt: skip

        self.until(look, f"“{words}” can't be read anywhere", patience)

    def place_of(self, widget: QWidget, at: QPoint | None = None) -> tuple[int, int]:
        def where() -> tuple[int, int]:
            point = widget.mapToGlobal(at if at is not None else widget.rect().center())
            return point.x(), point.y()

        return self.ask(where)

    def into_sight(self, widget: QWidget) -> QWidget:
        """Turns the wheel over what scrolls until a widget can be seen whole."""

        def way() -> tuple[int, int, int] | None:
            area = widget.parentWidget()
            while area is not None and not isinstance(area, QScrollArea):
                area = area.parentWidget()
            if area is None:
                return None
            view = area.viewport()
            top = widget.mapTo(view, QPoint(0, 0)).y()
            if top >= 0 and top + widget.height() <= view.height():
                return None
            # At the edge, where no field takes the wheel for itself.
            point = view.mapToGlobal(QPoint(6, view.height() // 2))
            return point.x(), point.y(), 1 if top > 0 else -1

        for _ in range(40):
            found = self.ask(way)
            if found is None:
                return widget
            self.fingers.wheel(*found)
            time.sleep(0.03)
        raise Missed(f"{_named(widget)} can't be scrolled to")

    def settled(self) -> None:
        """Until what is in front has the keyboard and stays where it is: a window manager puts a
        window elsewhere after it was shown, and a press on the old place is nobody's."""
        stood: list[tuple[QRect, float]] = []

        def stands() -> bool:
            front = QApplication.activeWindow()
            if front is None:
                stood.clear()
                return False
            place, now = front.frameGeometry(), time.monotonic()
            if not stood or stood[0][0] != place:
                stood[:] = [(place, now)]
            return now - stood[0][1] > 0.4

        self.until(stands, "no window stands still", 60.0)

    def fill_screen(self) -> None:
        """The window as large as the screen, below its title."""
        wide, high = self.fingers.size

        def place() -> None:
            self.window.setGeometry(0, _TITLE, wide, high - _TITLE - 6)

        self.ask(place)
        self.rest()

    # -- what is done -------------------------------------------------------------------

    def press(self, name: str, kind: type[QWidget] = QWidget, times: int = 1) -> None:
        """A press on what is called so."""
        widget = self.into_sight(self.find(name, kind))
        self.until(widget.isEnabled, f"“{name}” can't be pressed")
        self.fingers.click(*self.place_of(widget), times=times)
        self.rest()

    def keys(self, *chords: str) -> None:
        for chord in chords:
            self.fingers.keys(chord)
            time.sleep(0.03)
        self.rest()

    def type(self, text: str, pause: float = 0.006) -> None:
        self.fingers.type(text, pause)
        self.rest()

    def fill(self, name: str, text: str) -> None:
        """A field with something else in it, left by Tab."""
        self.fingers.click(*self.place_of(self.into_sight(self.find(name, QLineEdit))))
        time.sleep(0.05)
        self.fingers.keys("Ctrl+a")
        self.fingers.type(text)
        self.fingers.keys("Tab")
        self.rest()

    def choose(self, name: str, entry: str) -> None:
        """An entry of a list that opens, by keys as one who knows it: its first letters."""
        entry = shown(entry)
        box = self.find(name, QComboBox)
        assert isinstance(box, QComboBox)
        self.into_sight(box)
        self.fingers.click(*self.place_of(box))
        self.until(lambda: box.view().isVisible(), f"the list “{name}” does not open")

        def where() -> tuple[int, int] | None:
            row = next((n for n in range(box.count()) if entry in box.itemText(n)), None)
            if row is None:
                raise Missed(
                    f"“{name}” has no “{entry}”: "
                    + ", ".join(box.itemText(n) for n in range(box.count()))
                )
            view = box.view()
            index = box.model().index(row, box.modelColumn())
            view.scrollTo(index)
            rect = view.visualRect(index)
            point = view.viewport().mapToGlobal(rect.center())
            return point.x(), point.y()

        place = self.until(where, f"“{entry}” in “{name}”")
        time.sleep(0.25)  # a list that has just opened takes no press for a moment
        self.fingers.click(*place)
        self.until(lambda: not box.view().isVisible(), f"the list “{name}” stays open")
        self.rest()

    def menu(self, *titles: str) -> None:
        """An entry of the menus, by presses from the bar on."""
        titles = tuple(shown(title) for title in titles)
        bar = self.ask(lambda: self.window.menuBar())
        owner: Any = bar
        for n, title in enumerate(titles):

            def where(owner: Any = owner, title: str = title) -> tuple[Any, int, int] | None:
                action = _action(owner, title)
                if action is None or not owner.isVisible():
                    return None
                if not action.isEnabled():
                    raise Missed(f"“{title}” is grey")
                point = owner.mapToGlobal(owner.actionGeometry(action).center())
                return action, point.x(), point.y()

            action, x, y = self.until(where, f"the menu has no “{title}” here")
            self.fingers.click(x, y)
            if n + 1 < len(titles):
                owner = self.until(
                    lambda action=action: action.menu() if action.menu().isVisible() else None,
                    f"“{title}” does not open",
                )
        self.rest()

    def pick(self, title: str) -> None:
        """An entry of the menu that has opened by itself, to ask something."""
        title = shown(title)

        def where() -> tuple[int, int] | None:
            owner = QApplication.activePopupWidget()
            action = _action(owner, title) if isinstance(owner, QMenu) else None
            if action is None:
                return None
            point = owner.mapToGlobal(owner.actionGeometry(action).center())
            return point.x(), point.y()

        self.fingers.click(*self.until(where, f"no menu offers “{title}”"))
        self.rest()

    def row(self, words: str, times: int = 1) -> None:
        """A press on a row of a list that says so."""

        def where() -> tuple[int, int] | None:
            front = QApplication.activeModalWidget()
            roots = [front] if front is not None else QApplication.topLevelWidgets()
            for root in roots:
                for view in root.findChildren(QAbstractItemView):
                    found = _row(view, words) if view.isVisible() else None
                    if found is not None:
                        return found
            return None

        self.fingers.click(*self.until(where, f"no row says “{words}”"), times=times)
        self.rest()

    def file(self, path: Path) -> None:
        """A file's name in a dialog that asks for one."""

        def asks() -> bool:
            front = QApplication.activeModalWidget()
            return front is not None and front.inherits("QFileDialog")

        def typed() -> str:
            front = QApplication.activeModalWidget()
            field = front.findChild(QLineEdit) if front is not None else None
            return field.text() if field is not None else ""

        self.until(asks, "no file is asked for")
        for _ in range(3):  # Qt's dialog reads folders meanwhile, and loses letters now and then
            time.sleep(0.3)
            self.fingers.keys("Ctrl+a")
            self.fingers.type(str(path), 0.004)
            time.sleep(0.2)
            if self.ask(typed) == str(path):
                break
        self.fingers.keys("Enter")
        for _ in range(2):  # it takes no Return while it still looks at the name
            time.sleep(1.5)
            if self.ask(asks) and self.ask(typed) == str(path):
                self.fingers.keys("Enter")
        self.until(lambda: not asks(), "the file is not taken")
        self.rest()

    def gone(self, patience: float = PATIENCE) -> None:
        """Until no dialog is open."""
        self.until(
            lambda: not any(isinstance(w, QDialog) and w.isVisible()
                            for w in QApplication.topLevelWidgets()),
            "a dialog stays open", patience,
        )  # fmt: skip
        self.rest()

    def on_page(self, x: float, y: float) -> tuple[float, float]:
        """A place on the page on the desk (points from its trim), on the screen."""

        def where() -> tuple[float, float]:
            desk = self.window.desk
            session = self.session
            wanted = session.page_id if session.mode == "pages" else session.master_id
            face = next(f for f in session.faces() if f.holder_id == wanted)
            across, down = desk.camera.view.to_widget(face.x + x, y)
            point = desk.mapToGlobal(QPoint(round(across), round(down)))
            return point.x(), point.y()

        return self.ask(where)


def _text(widget: QWidget) -> str:
    if isinstance(widget, QLabel | QAbstractButton | QLineEdit):
        return widget.text()
    if isinstance(widget, QAbstractItemView):
        model = widget.model()
        rows = range(model.rowCount()) if model is not None else ()
        return "\n".join(str(model.index(n, 0).data() or "") for n in rows)
    return widget.windowTitle() if widget.isWindow() else ""


def _action(owner: QMenu | Any, title: str) -> QAction | None:
    return next(
        (a for a in owner.actions() if a.text().replace("&", "") == title and a.isVisible()), None
    )


def _row(view: QAbstractItemView, words: str) -> tuple[int, int] | None:
    model = view.model()
    if model is None:
        return None
    for n in range(model.rowCount()):
        index = model.index(n, 0)
        widget = view.indexWidget(index)
        said = str(index.data() or "")
        if widget is not None:
            said += " ".join(label.text() for label in widget.findChildren(QLabel))
        if words in said:
            view.scrollTo(index)
            rect: QRect = view.visualRect(index)
            point = view.viewport().mapToGlobal(QPoint(rect.left() + 60, rect.center().y()))
            return point.x(), point.y()
    return None


def go(windows: Any, app: QApplication, fingers: Fingers, journey: Callable[[Hands], None],
       pictures: Path) -> Hands:  # fmt: skip
    """Runs a journey beside the program; what it raises is raised here, with a picture of the
    screen as it was then."""
    asker = Asker()
    hands = Hands(asker, fingers, windows)
    failed: list[BaseException] = []

    def work() -> None:
        try:
            hands.settled()
            journey(hands)
        except BaseException as error:
            failed.append(error)
            fingers.picture(pictures / f"{journey.__qualname__.split('.')[0]}.png")
        finally:
            asker.ask(lambda: _close_all(app, windows))

    thread = threading.Thread(target=work, daemon=True)
    thread.start()
    app.setQuitOnLastWindowClosed(False)
    app.exec()
    thread.join(30)
    if failed:
        raise AssertionError(
            f"{failed[0]}\n  steps: " + "\n         ".join(hands.steps[-12:])
        ) from failed[0]
    return hands


def _close_all(app: QApplication, windows: Any) -> None:
    """Dialogs and windows that are still open are left, nothing is kept, and the program ends."""
    for widget in app.topLevelWidgets():
        if isinstance(widget, QDialog) and widget.isVisible():
            widget.reject()
    for window in list(windows.open_ones):
        window.files.may_leave = lambda: True
        window.close()
    app.exit(0)
