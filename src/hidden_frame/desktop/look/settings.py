"""What the program remembers from one day to the next: a value, kept in one file.

>>> settings().change(nudge=0.5)
>>> settings().now.nudge
0.5
"""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Annotated, Any, Literal

import msgspec
from msgspec import Meta, Struct
from msgspec.structs import replace
from platformdirs import user_config_path
from PySide6.QtCore import QObject, QTimer, Signal

from hidden_frame.interact.hands.snap_to import SnapTo
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.files import write_atomically

MAX_RECENT = 12
ThemeName = Literal["desktop", "light", "dark"]


class Preferences(Struct, frozen=True, omit_defaults=True):
    """Lengths in points, but for `reach`: screen pixels within which things snap."""

    snap: SnapTo = SnapTo()
    snapping: bool = True
    reach: Annotated[float, Meta(ge=1, le=40)] = 6.0
    nudge: Annotated[float, Meta(gt=0, le=1000)] = 1.0
    enclosing: bool = False
    theme: ThemeName = "desktop"
    rulers: bool = True
    guides: bool = True
    lines_above: bool = False  # whether guides and margins lie over what is printed
    run: bool = True
    shelf_shown: bool = True
    properties_shown: bool = True
    hints: bool = True
    characters: str = ""  # those put in of late, the latest first
    favourites: str = "—–…†§•°×"
    typographic: bool = True  # whether typed quotes, dashes and points become the real ones
    spelling: bool = True  # whether doubtful words are marked
    versions_mb: Annotated[int, Meta(ge=0, le=1_000_000)] = 2_000  # for earlier versions
    # Groups of Properties that are folded: those that are seldom needed, to begin with.
    folded: tuple[str, ...] = (
        "ItemForm LINE UP", "ItemForm TEXT WRAP", "MasterForm BASELINE GRID",
        "MasterForm GUIDES",
    )  # fmt: skip
    recent: tuple[str, ...] = ()
    size: tuple[int, int] | None = None  # of a window; None: as the screen has room
    across: tuple[int, ...] = ()
    down: tuple[int, ...] = ()
    shelf: Annotated[int, Meta(ge=0, le=5)] = 0
    pasted_styles: tuple[tuple[str, str], ...] = ()  # of what was copied elsewhere
    manuscript_styles: tuple[tuple[str, str], ...] = ()  # of a source, and what it became


def _path() -> Path:
    return user_config_path("hidden-frame") / "preferences.json"


class Settings(QObject):
    """`now` is the present value; `changed` tells that it is another."""

    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.now = self._read()
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(400)
        self._later.timeout.connect(self.write)

    @staticmethod
    def _read() -> Preferences:
        """What was kept; the defaults where there is nothing, or nothing that makes sense."""
        try:
            return msgspec.json.decode(_path().read_bytes(), type=Preferences)
        except (OSError, msgspec.MsgspecError):
            return Preferences()

    def change(self, **changes: Any) -> None:
        new = replace(self.now, **changes)
        if new != self.now:
            self.now = new
            self._later.start()
            self.changed.emit()

    def remember(self, path: Path) -> None:
        """Puts a publication first among the recent ones."""
        name = str(path.resolve())
        rest = [p for p in self.now.recent if p != name]
        self.change(recent=(name, *rest)[:MAX_RECENT])

    def write(self) -> None:
        """Keeps the present value on disk; a disk that takes nothing is no reason to stop."""
        self._later.stop()
        try:
            _path().parent.mkdir(parents=True, exist_ok=True)
            write_atomically(_path(), msgspec.json.format(msgspec.json.encode(self.now)))
        except (Refusal, OSError):
            return


@cache
def settings() -> Settings:
    """The one set of settings of this process."""
    return Settings()
