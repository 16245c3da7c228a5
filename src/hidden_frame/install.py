"""The program in the desktop's menu: its entry, icon, file type, description and manual page.

Where each file belongs is said by the freedesktop.org specifications: Base Directory,
Desktop Entry, Shared MIME-info Database, Icon Theme; and by AppStream for the description.

>>> from pathlib import Path
>>> [str(p) for p in placed(Path("share"))][:2]
['share/applications/hidden-frame.desktop', 'share/icons/hicolor/scalable/apps/hidden-frame.svg']
"""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

from hidden_frame.model.errors import Refusal
from hidden_frame.resources import DESKTOP

# Name in the package → place beneath the data folder.
FILES = {
    "hidden-frame.desktop": "applications/hidden-frame.desktop",
    "hidden-frame.svg": "icons/hicolor/scalable/apps/hidden-frame.svg",
    "hidden-frame-mime.xml": "mime/packages/hidden-frame.xml",
    "hidden-frame.metainfo.xml": "metainfo/local.hidden_frame.HiddenFrame.metainfo.xml",
    "hidden-frame.1": "man/man1/hidden-frame.1",
}
_REFRESH = (("update-mime-database", "mime"), ("update-desktop-database", "applications"))


def placed(data: Path) -> list[Path]:
    """Where the files lie beneath a data folder such as `~/.local/share`."""
    return [data / place for place in FILES.values()]


def install(data: Path, program: Path | None = None) -> list[Path]:
    """Writes the files beneath `data`, the entry naming `program` (this one, unless told).

    Raises Refusal when a file can't be written; what was written stays and is written again
    the next time.
    """
    program = program or _program()
    try:
        for name, target in zip(FILES, placed(data), strict=True):
            target.parent.mkdir(parents=True, exist_ok=True)
            content = (DESKTOP / name).read_text("utf-8")
            if name.endswith(".desktop"):
                content = content.replace("Exec=hidden-frame", f"Exec={_quoted(program)}")
            target.write_text(content, "utf-8")
    except OSError as error:
        where = error.filename or data
        raise Refusal(
            f"{where} could not be written ({error.strerror}); nothing else was changed. "
            "Free or allow that folder, then install again."
        ) from error
    _refresh(data)
    return placed(data)


def remove(data: Path) -> list[Path]:
    """Takes the files away again; the ones that were there."""
    gone = [path for path in placed(data) if path.exists()]
    for path in gone:
        path.unlink()
    _refresh(data)
    return gone


def _program() -> Path:
    beside = Path(sys.executable).with_name("hidden-frame")
    found = shutil.which("hidden-frame")
    return beside if beside.exists() or found is None else Path(found)


def _quoted(program: Path) -> str:
    """The path as a desktop entry's Exec key quotes it."""
    text = str(program)
    for character in '\\"`$':
        text = text.replace(character, "\\" + character)
    text = text.replace("\\", "\\\\").replace("%", "%%")  # the key is itself an escaped string
    return f'"{text}"'


def _refresh(data: Path) -> None:
    """Lets the desktop read the new files now; where the tools are missing, at its next start."""
    for tool, folder in _REFRESH:
        found = shutil.which(tool)
        if found is not None and (data / folder).is_dir():
            subprocess.run([found, str(data / folder)], capture_output=True, check=False)
