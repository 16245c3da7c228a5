"""The application: reads its few arguments, then opens the window."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

_SETTLED = 400  # milliseconds after which a window is up and painted


def _arguments(arguments: list[str]) -> argparse.Namespace:
    parser = argparse.ArgumentParser(
        prog="hidden-frame", description="Multi-page publications on reusable master pages."
    )
    parser.add_argument("file", nargs="?", type=Path, help="a publication (.hframe) to open")
    parser.add_argument("--demo", action="store_true", help="open the demo almanac")
    parser.add_argument("--offscreen", action="store_true", help="open no visible window")
    parser.add_argument("--picture", type=Path, help="save a picture of the window and quit")
    return parser.parse_args(arguments)


def take_turns() -> None:
    """What runs beside the desk lets it go on at once, and so does the collector of circles.

    A thread keeps the interpreter for 5 ms where nobody says otherwise, and the desk waits for it
    after every call to the disk: that adds up to a tenth of a second while a file is saved.
    """
    from hidden_frame.model.memory import settle

    settle()
    sys.setswitchinterval(0.001)


def run(arguments: list[str]) -> int:
    """Opens the window and stays until it is closed; the exit status."""
    chosen = _arguments(arguments)
    if chosen.offscreen:
        os.environ["QT_QPA_PLATFORM"] = "offscreen"
    elif not any(os.environ.get(n) for n in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
        print(
            "There is no display to open a window on; use a desktop session, or --offscreen "
            "--picture window.png for a picture of the window.",
            file=sys.stderr,
        )
        return 1
    # Qt is loaded after the platform is chosen.
    from PySide6.QtGui import QIcon
    from PySide6.QtWidgets import QApplication

    from hidden_frame.desktop.files.arrivals import kept_at, tell
    from hidden_frame.desktop.look import theme
    from hidden_frame.desktop.look.settings import settings
    from hidden_frame.desktop.shell.windows import Windows
    from hidden_frame.desktop.state.mishaps import catch_all
    from hidden_frame.model.number_format import locale_of, write_for
    from hidden_frame.resources import DESKTOP
    from hidden_frame.typeset.known import KNOWN, ends_file

    take_turns()
    write_for(locale_of(os.environ))
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    app.setApplicationName("Hidden Frame")
    app.setDesktopFileName("hidden-frame")
    app.setWindowIcon(QIcon(str(DESKTOP / "hidden-frame.svg")))
    theme.load_fonts()
    theme.prepare(app)  # the window's widgets are dressed once they are all there
    KNOWN.open(ends_file())
    app.aboutToQuit.connect(KNOWN.keep)
    windows = Windows(app)
    catch_all(windows.sessions)
    if chosen.file is None and not chosen.demo:
        shown = windows.show_start()
        if chosen.picture:
            return _picture(app, shown, chosen.picture)
        _read_fonts()
        return int(app.exec())
    from hidden_frame.demo.almanac import almanac
    from hidden_frame.model.errors import Refusal
    from hidden_frame.storage.format import Opened, load
    from hidden_frame.storage.shelf import PicturesOnDisk

    try:
        opened = (
            load(chosen.file, PicturesOnDisk())
            if chosen.file is not None
            else Opened(*almanac(), [])
        )
    except Refusal as refusal:
        print(refusal, file=sys.stderr)
        return 1
    if chosen.file is not None:
        settings().remember(chosen.file)
    file = chosen.file
    there = kept_at(opened, file) if file is not None else None
    window = windows.open(opened.publication, opened.blobs, there)
    tell(window.session, opened, file or Path())
    windows.tell_left(window)
    if chosen.picture is not None:
        for _ in range(3):
            app.processEvents()
        window.run.finish()
        return _picture(app, window, chosen.picture)
    _read_fonts()
    return int(app.exec())


def _read_fonts() -> None:
    """Has the machine's fonts read beside the work, before somebody asks for them."""
    from threading import Thread

    from PySide6.QtCore import QTimer

    from hidden_frame.typeset.fonts import font_book

    reader = Thread(target=lambda: font_book().families(), name="fonts", daemon=True)
    QTimer.singleShot(_SETTLED, reader.start)


def _picture(app, widget, path: Path) -> int:  # type: ignore[no-untyped-def]
    """Saves a picture of a window; the exit status."""
    from PySide6.QtCore import QTimer

    for _ in range(3):
        app.processEvents()
    saved = widget.grab().save(str(path))
    QTimer.singleShot(0, app.quit)  # as a window's day ends: what runs beside it is ended too
    app.exec()
    return 0 if saved else 1
