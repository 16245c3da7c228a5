"""The real window on the demo publication, and hands to drive it."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMessageBox

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import Preferences, settings
from hidden_frame.desktop.shell.window import Window
from hidden_frame.desktop.state import session as session_module
from hidden_frame.desktop.state import slices as slices_module
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.spelling import speller
from hidden_frame.model.lookup import all_pages


class Hands:
    """Mouse and keys on a window, in page coordinates."""

    def __init__(self, window: Window, qapp) -> None:
        self.window = window
        self.session = window.session
        self.desk = window.desk
        self.app = qapp
        self.notices: list[str] = []
        self.session.noticed.connect(self.notices.append)
        self.session.undoable.connect(self.notices.append)

    @property
    def publication(self):
        return self.session.history.now

    def open_story(self, publication, position=5) -> None:
        """A publication on the desk, at a page through which its first story flows."""
        self.session.replace_all(publication, {}, None)
        self.session.show_page(self.page(position))
        self.app.processEvents()
        self.story = publication.stories[0].id

    def page(self, position: int) -> str:
        return all_pages(self.publication)[position - 1].id

    def master(self, name: str) -> str:
        return next(m.id for m in self.publication.masters if m.name == name)

    def item(self, holder, name: str):
        return next(i for i in holder.items if i.name == name)

    def at(self, face: int, x: float, y: float) -> QPoint:
        px, py = self.desk.camera.view.to_widget(x + self.session.faces()[face].x, y)
        return QPoint(round(px), round(py))

    def click(self, face: int, x: float, y: float, held=Qt.KeyboardModifier.NoModifier) -> None:
        QTest.mouseClick(self.desk, Qt.MouseButton.LeftButton, held, self.at(face, x, y))
        self.app.processEvents()

    def double(self, face: int, x: float, y: float) -> None:
        QTest.mouseDClick(
            self.desk,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            self.at(face, x, y),
        )
        self.app.processEvents()

    def drag(self, face, start, end, held=Qt.KeyboardModifier.NoModifier, drop=True) -> None:
        self.pull(self.desk, self.at(face, *start), self.at(face, *end), held, drop)

    def pull(self, widget, a: QPoint, b: QPoint, held=Qt.KeyboardModifier.NoModifier, drop=True):
        """Press, several moves, release, as a hand does it."""
        from PySide6.QtCore import QEvent, QPointF
        from PySide6.QtGui import QMouseEvent

        left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton

        def send(kind, point, button, buttons):
            there = QPointF(point)
            event = QMouseEvent(kind, there, widget.mapToGlobal(there), button, buttons, held)
            self.app.sendEvent(widget, event)
            self.app.processEvents()

        send(QEvent.Type.MouseButtonPress, a, left, left)
        for n in range(1, 6):
            send(QEvent.Type.MouseMove, a + (b - a) * n / 5, none, left)
        if drop:
            send(QEvent.Type.MouseButtonRelease, b, left, none)

    def again(self, kind: str, widget, point: QPoint, held=Qt.KeyboardModifier.NoModifier):
        """One more mouse event of a drag that was not dropped: `move` or `drop`."""
        from PySide6.QtCore import QEvent, QPointF
        from PySide6.QtGui import QMouseEvent

        move = kind == "move"
        event = QMouseEvent(
            QEvent.Type.MouseMove if move else QEvent.Type.MouseButtonRelease,
            QPointF(point), widget.mapToGlobal(QPointF(point)),
            Qt.MouseButton.NoButton if move else Qt.MouseButton.LeftButton,
            Qt.MouseButton.LeftButton if move else Qt.MouseButton.NoButton, held,
        )  # fmt: skip
        self.app.sendEvent(widget, event)
        self.app.processEvents()

    def own(self, position: int, name: str):
        """An item of a page by the page's position, as it is now."""
        from hidden_frame.model.lookup import find_page

        return self.item(find_page(self.publication, self.page(position)), name)

    def settle(self, qtbot) -> None:
        """Waits until what follows a moment later has followed."""
        qtbot.wait(120)

    def key(self, key, held=Qt.KeyboardModifier.NoModifier, widget=None) -> None:
        QTest.keyClick(widget or self.desk, key, held)
        self.app.processEvents()

    def type(self, text: str, widget=None) -> None:
        QTest.keyClicks(widget or self.desk, text)
        self.app.processEvents()

    def do(self, command: str) -> None:
        self.window.commands[command].trigger()
        self.window.files.saver.finish()  # a save goes on beside the work
        self.app.processEvents()

    def field(self, name: str):
        """A field of Properties by its label."""
        from PySide6.QtWidgets import QWidget

        form = self.window.properties.form
        found = [w for w in form.findChildren(QWidget) if w.accessibleName() == name]
        assert found, f"no field {name}"
        form.reveal(found[0])
        return found[0]

    def enter(self, name: str, text: str) -> None:
        field = self.field(name)
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.app.processEvents()

    def button(self, text: str):
        from PySide6.QtWidgets import QPushButton

        form = self.window.properties.form
        button = next(b for b in form.findChildren(QPushButton) if b.text() == text)
        form.reveal(button)
        return button


@pytest.fixture(scope="session", autouse=True)
def empty_clipboard(qapp):
    """What a test copied is let go of while there is still an interpreter: the offscreen platform
    keeps it to the very end, and its going then ends the process by a signal."""
    yield
    qapp.clipboard().clear()


@pytest.fixture(scope="session")
def dressed(qapp):
    """The application in the program's fonts and colours, once for all tests."""
    theme.load_fonts()
    theme.apply(qapp)
    yield qapp
    speller().close()


@pytest.fixture(autouse=True)
def preferences():
    """Each test begins with the same settings: without hints, and without snapping."""
    settings().now = Preferences(hints=False, snapping=False)
    yield settings()
    settings()._later.stop()


@pytest.fixture(autouse=True)
def nothing_left_behind(qapp):
    """The windows of a test are gone before the next: hidden ones would be dressed and
    refreshed for ever."""
    yield
    qapp.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    qapp.processEvents()


@pytest.fixture(autouse=True)
def nothing_waits(monkeypatch):
    """No question about unsaved changes waits for somebody; tests of it answer themselves."""
    discard = QMessageBox.StandardButton.Discard
    monkeypatch.setattr(QMessageBox, "exec", lambda _: discard)


@pytest.fixture(autouse=True)
def done_at_once(monkeypatch):
    """What an edit brings with it is done when the edit is, however slow the machine is; tests of
    the slices say otherwise."""
    for module in (session_module, slices_module):
        monkeypatch.setattr(module, "AT_ONCE", float("inf"))


@pytest.fixture
def hands(demo, dressed, qapp, qtbot) -> Hands:
    window = Window(Session(*demo))
    qtbot.addWidget(window, before_close_func=lambda w: setattr(w.files, "may_leave", lambda: True))
    # Tests let the desk scroll at its edges when they say so, not as time goes by.
    window.desk.edges._timer.setInterval(1_000_000)
    window.show()
    qtbot.waitExposed(window)
    qapp.processEvents()
    return Hands(window, qapp)


@pytest.fixture
def finder_of(hands, qtbot):
    """Find on the window, ready to be typed into."""
    from hidden_frame.desktop.find.finder import Finder
    from hidden_frame.desktop.find.places import Fields

    def made(open_style=lambda _: None, open_guide=lambda _: None) -> Finder:
        window = hands.window
        fields = Fields(hands.session, window.commands, window.properties)
        finder = Finder(hands.session, window.commands, fields, None, open_style, open_guide)
        qtbot.addWidget(finder)
        return finder

    return made
