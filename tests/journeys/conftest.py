"""Days of work through the real window, on a screen of their own: `./check --journeys`, or
`HIDDEN_FRAME_SCREEN=1024x768 ./check --journeys` on a smaller one."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from tests.journeys.screen import Fingers, Screen

PICTURES = Path(__file__).with_name("failures")
# They need a platform of their own, which a process has once.
collect_ignore_glob = [] if os.environ.get("HIDDEN_FRAME_JOURNEYS") else ["test_*.py"]


@pytest.fixture(scope="session")
def screen() -> Iterator[Screen]:
    size = os.environ.get("HIDDEN_FRAME_SCREEN", "1280x800")
    made = Screen(*(int(side) for side in size.split("x")))
    os.environ["DISPLAY"], os.environ["QT_QPA_PLATFORM"] = made.name, "xcb"
    os.environ["LC_ALL"] = "C.UTF-8"  # whose table says what dead keys compose
    yield made
    made.stop()


@pytest.fixture(scope="session")
def program(screen: Screen) -> Iterator[tuple[Any, Any]]:
    """The application as the command starts it, and its windows."""
    from PySide6.QtWidgets import QApplication

    from hidden_frame.desktop.look import theme
    from hidden_frame.desktop.shell.app import take_turns
    from hidden_frame.desktop.shell.windows import Windows
    from hidden_frame.desktop.state.mishaps import catch_all

    take_turns()
    app = QApplication(["hidden-frame"])
    app.setApplicationName("Hidden Frame")
    theme.load_fonts()
    theme.prepare(app)
    windows = Windows(app)
    catch_all(windows.sessions)
    yield app, windows


@pytest.fixture
def day(program: tuple[Any, Any], screen: Screen, tmp_path: Path) -> Callable[[Any], Any]:
    """Starts at the start window and goes through a day."""
    from tests.journeys.hands import go

    def through(journey: Callable[..., None]) -> Any:
        app, windows = program
        start = windows.show_start()
        start.move(20, 20)
        return go(windows, app, Fingers(screen), journey, PICTURES)

    return through
