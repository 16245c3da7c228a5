"""A file that another process has open."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QMessageBox, QWidget

from hidden_frame.desktop.look.moments import moment
from hidden_frame.storage.holding import Holder, held_by


def in_words(path: Path, holder: Holder) -> str:
    """“notes.hframe” is open since 14:02, by mira on tern (process 812)."""
    return (
        f"“{path.name}” is open since {moment(holder.since)}, by {holder.user} on "
        f"{holder.machine} (process {holder.process})."
    )


def path_to_keep(path: Path | None, parent: QWidget | None) -> Path | None:
    """The path under which a file is opened: none, for a copy, where another process has it open
    and a copy is wanted."""
    holder = held_by(path) if path is not None else None
    if path is None or holder is None:
        return path
    return None if _copy_wanted(path, holder, parent) else path


def _copy_wanted(path: Path, holder: Holder, parent: QWidget | None) -> bool:
    box = QMessageBox(parent)
    box.setWindowTitle("Open elsewhere")
    box.setText(in_words(path, holder))
    box.setInformativeText(
        "You can open it here too; whoever saves second will be asked what to keep."
    )
    role = QMessageBox.ButtonRole
    copy = box.addButton("Open a copy", role.AcceptRole)
    same = box.addButton("Open it here too", role.DestructiveRole)
    box.setDefaultButton(copy)
    box.setEscapeButton(copy)
    box.exec()
    return box.clickedButton() is not same
