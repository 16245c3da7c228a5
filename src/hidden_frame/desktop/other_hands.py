"""A file that somebody else changed, replaced or took away while it was open here."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from PySide6.QtWidgets import QMessageBox, QWidget

from hidden_frame.desktop.moments import moment
from hidden_frame.interact.compared import compared
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.format import Opened, load
from hidden_frame.storage.holding import Holder, held_by
from hidden_frame.storage.shelf import PicturesOnDisk
from hidden_frame.storage.stamps import stamp_of

Answer = Literal["overwrite", "save as", "take theirs", "cancel"]


def ask(path: Path, mine: Publication, parent: QWidget) -> tuple[Answer, Opened | None]:
    """What to do with a file that is no longer the one that was opened, and theirs if it can be
    read."""
    box = QMessageBox(parent)
    box.setWindowTitle("The file has changed")
    box.setIcon(QMessageBox.Icon.Warning)
    theirs: Opened | None = None
    stamp = stamp_of(path)
    when = f", {moment(stamp.changed / 1e9)}" if stamp is not None else ""
    box.setText(f"“{path.name}” was changed by somebody else{when}.")
    try:
        theirs = load(path, PicturesOnDisk())
        box.setInformativeText(
            f"In theirs differs: {compared(mine, theirs.publication)}. What is given up stays "
            "among the earlier versions."
        )
    except Refusal as refusal:
        box.setInformativeText(str(refusal))
    role = QMessageBox.ButtonRole
    other = box.addButton("Save as…", role.AcceptRole)
    take = box.addButton("Take theirs", role.DestructiveRole) if theirs is not None else None
    over = box.addButton("Overwrite theirs", role.DestructiveRole)
    box.addButton(QMessageBox.StandardButton.Cancel)
    box.setDefaultButton(other)
    box.exec()
    pressed = box.clickedButton()
    answers: dict[object, Answer] = {other: "save as", over: "overwrite", take: "take theirs"}
    return answers.get(pressed, "cancel"), theirs


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
    box.setInformativeText("Opened here too, whoever saves second is asked.")
    role = QMessageBox.ButtonRole
    copy = box.addButton("Open a copy", role.AcceptRole)
    same = box.addButton("Open it here too", role.DestructiveRole)
    box.setDefaultButton(copy)
    box.setEscapeButton(copy)
    box.exec()
    return box.clickedButton() is not same
