"""The start window: a new publication by kind, recent ones with their first pages, the demo."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.left_cards import LeftList
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.shell.start.cards import PresetCard, StartCard
from hidden_frame.desktop.shell.start.recent import BOOK, PATH, RecentList
from hidden_frame.model.errors import Refusal
from hidden_frame.model.presets import PRESETS, Preset
from hidden_frame.model.publication import Publication
from hidden_frame.storage.recovery import Left
from hidden_frame.storage.shelf import PicturesOnDisk

Opener = Callable[[Publication, Mapping[str, bytes], Path | None], object]
_MAX_PREVIEW = 8 * 1024 * 1024  # bytes; a preview is never so large


class StartWindow(QWidget):
    """Opens a publication through `opener`, then goes away."""

    said = Signal(str)

    def __init__(self, opener: Opener, recover: Callable[[Left], object] = lambda _: None) -> None:
        super().__init__()
        self.opener, self._recover = opener, recover
        self.setObjectName("Start")
        self.setWindowTitle("Hidden Frame")
        self.resize(1000, 640)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(40, 30, 40, 26)
        whole.setSpacing(10)
        title = QLabel("Hidden Frame")
        title.setObjectName("Big")
        whole.addWidget(title)
        self.left = LeftList()
        self.left.wanted.connect(self.go_on_with)
        whole.addWidget(self.left)
        heading = QLabel("BEGIN A NEW PUBLICATION")
        heading.setObjectName("Heading")
        whole.addSpacing(6)
        whole.addWidget(heading)
        whole.addLayout(self._presets(), 2)
        whole.addSpacing(8)
        heading = QLabel("RECENT PUBLICATIONS")
        heading.setObjectName("Heading")
        whole.addWidget(heading)
        whole.addWidget(self._recent(), 3)
        self.problem = QLabel()
        self.problem.setObjectName("Error")
        self.problem.setWordWrap(True)
        self.problem.hide()
        whole.addWidget(self.problem)
        whole.addLayout(self._foot())
        self.said.connect(self._say)

    def _presets(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(10)
        self.cards: dict[str, PresetCard] = {}
        for preset in PRESETS:
            card = PresetCard(preset)
            card.clicked.connect(lambda _=False, p=preset: self.new(p))
            row.addWidget(card)
            self.cards[preset.name] = card
        self.other = StartCard("Another size", "your own trim, margins and columns")
        self.other.clicked.connect(lambda: self.new(None))
        row.addWidget(self.other)
        return row

    def _recent(self) -> RecentList:
        self.recent = RecentList()
        self.recent.itemClicked.connect(self._open_recent)
        self.recent.itemActivated.connect(self._open_recent)
        return self.recent

    def _foot(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.browse = QPushButton("Open a file…")
        self.browse.clicked.connect(self._browse)
        row.addStretch(1)
        row.addWidget(self.browse)
        return row

    # -- what is opened ----------------------------------------------------------------

    def new(self, preset: Preset | None) -> None:
        from hidden_frame.desktop.dialogs.new import NewDialog  # the window is up before it

        dialog = NewDialog(self, preset)
        if dialog.exec() and dialog.publication is not None:
            self.opener(dialog.publication, {}, None)

    def open_demo(self) -> None:
        from hidden_frame.demo.almanac import almanac

        publication, blobs = almanac()
        self.opener(publication, blobs, None)

    def open_book(self) -> None:
        """The long book, grown to what its story needs."""
        from hidden_frame.demo.driven import driven_book
        from hidden_frame.settle.settling import settled

        self.opener(settled(driven_book()), {}, None)

    def _browse(self) -> None:
        from hidden_frame.storage.format import EXTENSION

        name, _ = QFileDialog.getOpenFileName(self, "Open", "", f"Publications (*{EXTENSION})")
        if name:
            self.open_path(Path(name))

    def _open_recent(self, row: QListWidgetItem) -> None:
        name = row.data(PATH)
        if name == BOOK:
            self.open_book()
        elif name:
            self.open_path(Path(name))
        else:
            self.open_demo()

    def open_path(self, path: Path) -> None:
        from hidden_frame.storage.format import load

        try:
            opened = load(path, PicturesOnDisk())
        except Refusal as refusal:
            self.said.emit(str(refusal))
            return
        settings().remember(path)
        from hidden_frame.desktop.files.arrivals import kept_at, tell

        window = self.opener(opened.publication, opened.blobs, kept_at(opened, path))
        tell(window.session, opened, path)  # type: ignore[attr-defined]

    def go_on_with(self, left: Left) -> None:
        """Work that was not closed normally."""
        try:
            self._recover(left)
        except Refusal as refusal:
            self.said.emit(str(refusal))

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
