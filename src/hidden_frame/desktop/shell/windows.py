"""The open windows: publications side by side, and the start window before the first."""

from __future__ import annotations

import os
from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication

from hidden_frame.desktop.files.file_names import FileNames
from hidden_frame.desktop.files.other_hands import path_to_keep
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.start.window import StartWindow
from hidden_frame.model.errors import Refusal
from hidden_frame.model.memory import MEMORY, unsettle
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication
from hidden_frame.model.sparse import forget
from hidden_frame.typeset.breaking import resume

if TYPE_CHECKING:
    from hidden_frame.desktop.shell.window import Window
    from hidden_frame.desktop.state.session import Session
    from hidden_frame.storage.recovery import Left


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
        self._names = FileNames(app)

    def open(
        self, publication: Publication, blobs: Mapping[str, bytes], path: Path | None
    ) -> Window:
        """A publication in a window of its own; a file that is open comes to the front, and one
        that another process has open is asked about."""
        there = self._window_of(path)
        if there is not None:
            there.raise_()
            there.activateWindow()
            return there
        window = self._window(publication, blobs, path_to_keep(path, self.start))
        self._offer_left(window)
        return window

    def _window(
        self, publication: Publication, blobs: Mapping[str, bytes], path: Path | None
    ) -> Window:
        # The start window is up before all that a publication's window needs is loaded.
        from hidden_frame.desktop.shell.window import Window
        from hidden_frame.desktop.state.session import Session

        window = Window(Session(publication, blobs, path), self.open)
        window.dialogs.recover = self.open_left
        window.files.opened_here = lambda: self._offer_left(window)
        window.others = lambda: self.open_ones
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

    def _window_of(self, path: Path | None) -> Window | None:
        """The window in which a file is open."""
        if path is None:
            return None
        for window in self.open_ones:
            other = window.session.path
            if other is not None and os.path.realpath(other) == os.path.realpath(path):
                return window
        return None

    def open_left(self, left: Left) -> Window:
        """Work that was left behind, as it was; it counts as not saved.  Where its file can be
        opened, or is open, it is a step in that window; else it has a window of its own."""
        from hidden_frame.storage.recovery import discard, recovered

        opened = recovered(left)
        path = Path(left.about.path) if left.about.path else None
        window = self._window_of(path) or self._opened(path)
        if window is not None:
            window.recovering.go_on(left, opened)
            return window
        window = self._window(opened.publication, opened.blobs, path)
        window.session.recover(left.about.stamp)
        window.keeper.look()
        window.keeper.wait()  # it is kept anew before what was left is taken away
        discard(left)
        for warning in opened.warnings:
            window.session.noticed.emit(warning)
        return window

    def _opened(self, path: Path | None) -> Window | None:
        """A file in a window; None where it isn't there, or can't be read."""
        from hidden_frame.desktop.files.arrivals import kept_at, tell
        from hidden_frame.storage.format import load
        from hidden_frame.storage.shelf import PicturesOnDisk

        if path is None:
            return None
        try:
            opened = load(path, PicturesOnDisk())
        except Refusal:
            return None
        window = self.open(opened.publication, opened.blobs, kept_at(opened, path))
        tell(window.session, opened, path)
        return window

    def _offer_left(self, window: Window) -> None:
        """The bar over a file that was not closed normally, in its window and no other."""
        left = next((one for one in _left() if self._is_of(one, window)), None)
        if left is not None:
            window.left_bar.offer(left)

    @staticmethod
    def _is_of(left: Left, window: Window) -> bool:
        path = window.session.path
        if path is None or not left.about.path:
            return False
        return os.path.realpath(path) == os.path.realpath(left.about.path)

    def tell_left(self, window: Window) -> None:
        """Says in a window that was opened without the start window what was left behind besides
        the work on its own file."""
        left = [one for one in _left() if not self._is_of(one, window)]
        if left:
            window.session.noticed.emit(
                plural(
                    len(left),
                    "“{title}” was not closed normally; Publication › Recover unsaved work… brings "
                    "it back.",
                    "{n} publications were not closed normally, “{title}” among them; Publication "
                    "› Recover unsaved work… brings them back.",
                    title=left[0].about.title,
                )
            )

    def sessions(self) -> list[Session]:
        """Of every open window, that of the active one first."""
        active = self.app.activeWindow()
        while active is not None and active.parentWidget() is not None:
            active = active.parentWidget()
        return [w.session for w in sorted(self.open_ones, key=lambda w: w is not active)]

    def show_start(self) -> StartWindow:
        """The start window, from which publications are opened."""
        self.start = StartWindow(self.open, self.open_left)
        theme.dress(self.app)
        self.start.show()
        return self.start

    def _gone(self, window: Window) -> None:
        if window in self.open_ones:
            self.open_ones.remove(window)
        window.deleteLater()
        unsettle()
        forget()
        resume.forget()
        for _ in range(2):  # what is still asked for, other windows ask for again
            MEMORY.clear_stale()
        # Its signals know everything that listened to them: with it all of that is let go.
        window.session.deleteLater()

    def _dress(self) -> None:
        """Every window in another theme, if it is another."""
        now = theme.current()
        if now is not self._theme:
            self._theme = now
            theme.apply(self.app)
            for window in self.open_ones:
                window.redress()


def _left() -> list[Left]:
    from hidden_frame.storage.recovery import left_behind  # needed late

    return left_behind()
