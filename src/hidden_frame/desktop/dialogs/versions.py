"""Earlier versions of a file: when, by how many steps, what differs from now, with pictures."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import datetime
from pathlib import Path

from msgspec.structs import replace
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.composer import Composer
from hidden_frame.desktop.dialogs.differing import DifferingPages, State
from hidden_frame.desktop.look.moments import clock, day_in_words
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.words.compared import compared
from hidden_frame.model.errors import Refusal
from hidden_frame.model.number_format import grouped
from hidden_frame.model.publication import Publication
from hidden_frame.storage.format import Opened
from hidden_frame.storage.versions import Version, opened_version, versions_of


class VersionsDialog(QDialog):
    """`show` opens one beside, called what it is, from where pages can be copied back."""

    def __init__(
        self, session: Session, path: Path,
        show: Callable[[Publication, Mapping[str, bytes], str], object],
        parent: QWidget | None = None,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.session, self._show, self._name = session, show, path.name
        self.setWindowTitle(f"Earlier versions of {path.name}")
        self.resize(600, 640)
        column = QVBoxLayout(self)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Versions")
        self.list.setRootIsDecorated(False)
        self.list.setHeaderLabels(["Saved", "Steps"])
        self.list.setColumnWidth(0, 320)
        column.addWidget(self.list, 1)
        self.told = QLabel(" ")
        self.told.setWordWrap(True)
        column.addWidget(self.told)
        self.pages = DifferingPages(("Then", "Now"))
        column.addWidget(self.pages)
        row = QHBoxLayout()
        note = QLabel(
            "Every save of the last hour, one an hour for a day, one a day for thirty days."
        )
        note.setObjectName("Quiet")
        row.addWidget(note, 1)
        self.back = QPushButton("Restore this version")
        self.back.setAutoDefault(False)
        self.back.setToolTip("Replaces what is here now, as one step that can be undone")
        self.beside, close = QPushButton("Open in a new window"), QPushButton("Close")
        self.beside.setDefault(True)
        self.beside.setToolTip("Pages can be copied from there")
        row.addWidget(close)
        row.addWidget(self.back)
        row.addWidget(self.beside)
        column.addLayout(row)
        self._opened: Opened | None = None
        self.versions = versions_of(path)
        for version in self.versions:
            self._row(version)
        self.list.currentItemChanged.connect(lambda *_: self._choose())
        self.beside.clicked.connect(self._open)
        self.back.clicked.connect(self._take_back)
        close.clicked.connect(self.reject)
        first = self.list.topLevelItem(0)
        if first is not None:
            self.list.setCurrentItem(first)
        else:
            self.told.setText("There are none yet; each save keeps one.")
            for button in (self.beside, self.back):
                button.setEnabled(False)

    def _row(self, version: Version) -> None:
        row = QTreeWidgetItem([_moment(version), grouped(version.steps)])
        self.list.addTopLevelItem(row)

    def _choose(self) -> None:
        """Says what the chosen version is to the present one, and shows pages that differ."""
        row = self.list.currentItem()
        self._opened = None
        if row is not None:
            try:
                self._opened = opened_version(self.versions[self.list.indexOfTopLevelItem(row)])
            except (Refusal, OSError) as error:
                self.told.setText(str(error))
        then, since = None, "nothing"
        now = State(self.session.composition, self.session.blobs)
        if self._opened is not None:
            held = self._opened.publication
            then = State(Composer().compose(held), self._opened.blobs)
            since = compared(held, self.session.publication)
            same = since == "nothing"
            self.told.setText("Nothing has changed since." if same else f"Since then: {since}.")
        self.pages.compare(then, now)
        self.beside.setEnabled(self._opened is not None)
        self.back.setEnabled(self._opened is not None and since != "nothing")

    def _when(self) -> str:
        row = self.list.currentItem()
        return _moment(self.versions[self.list.indexOfTopLevelItem(row)])

    def _take_back(self) -> None:
        """The version instead of what there is; ids that were given since are given to nobody."""
        opened, session = self._opened, self.session
        if opened is None:
            return
        when = self._when()
        self.accept()
        session.blobs.update(opened.blobs)
        then = opened.publication
        session.edit(
            "take back an earlier version",
            lambda p: replace(then, next_id=max(then.next_id, p.next_id)),
        )
        session.noticed.emit(
            f"This is the version saved on {when}; Undo brings back what was here."
        )

    def _open(self) -> None:
        opened = self._opened
        if opened is not None:
            when = self._when()
            self.accept()
            self._show(opened.publication, opened.blobs, f"{self._name} as of {when}")


def _moment(version: Version) -> str:
    when = datetime.fromtimestamp(version.when)
    return f"{day_in_words(when.date(), weekday=True)}, {clock(when.time(), seconds=True)}"
