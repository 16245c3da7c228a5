"""The open windows: publications side by side, and the start window before the first."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication

from hidden_frame.desktop import theme
from hidden_frame.desktop.settings import settings
from hidden_frame.desktop.start.window import StartWindow
from hidden_frame.model.publication import Publication

if TYPE_CHECKING:
    from hidden_frame.desktop.session import Session
    from hidden_frame.desktop.window import Window


class Windows:
    """Keeps every window alive until it is closed."""

    def __init__(self, app: QApplication) -> None:
        self.app = app
        self.open_ones: list[Window] = []
        self.start: StartWindow | None = None
        self._theme = theme.current()
        settings().changed.connect(self._dress)
        app.styleHints().colorSchemeChanged.connect(lambda _: self._dress())
        app.aboutToQuit.connect(settings().write)

    def open(self, publication: Publication, blobs: dict[str, bytes], path: Path | None) -> Window:
        """A publication in a window of its own."""
        # The start window is up before all that a publication's window needs is loaded.
        from hidden_frame.desktop.session import Session
        from hidden_frame.desktop.window import Window

        window = Window(Session(publication, blobs, path), self.open)
        self.open_ones.append(window)
        window.closed.connect(lambda: self._gone(window))
        if len(self.open_ones) > 1:
            before = self.open_ones[-2]
            window.move(before.x() + 28, before.y() + 28)
        theme.dress(self.app)
        window.show()
        if self.start is not None:
            self.start.close()
            self.start = None
        return window

    def sessions(self) -> list[Session]:
        """Of every open window, that of the active one first."""
        active = self.app.activeWindow()
        while active is not None and active.parentWidget() is not None:
            active = active.parentWidget()
        return [w.session for w in sorted(self.open_ones, key=lambda w: w is not active)]

    def show_start(self) -> StartWindow:
        """The start window, from which publications are opened."""
        self.start = StartWindow(self.open)
        theme.dress(self.app)
        self.start.show()
        return self.start

    def _gone(self, window: Window) -> None:
        if window in self.open_ones:
            self.open_ones.remove(window)
        window.deleteLater()

    def _dress(self) -> None:
        """Every window in another theme, if it is another."""
        now = theme.current()
        if now is not self._theme:
            self._theme = now
            theme.apply(self.app)
            for window in self.open_ones:
                window.redress()
