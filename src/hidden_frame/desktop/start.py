"""The start window: a new publication by kind, recent ones with their first pages, the demo."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QColor, QIcon, QPainter, QPaintEvent, QPixmap
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop import theme
from hidden_frame.desktop.dialogs.spread import paint_spread
from hidden_frame.desktop.settings import settings
from hidden_frame.model.errors import Refusal
from hidden_frame.model.presets import PRESETS, Preset
from hidden_frame.model.publication import Publication

Opener = Callable[[Publication, dict[str, bytes], Path | None], object]
_MAX_PREVIEW = 8 * 1024 * 1024  # bytes; a preview is never so large


class PresetCard(QToolButton):
    """A kind of publication with its spread."""

    def __init__(self, preset: Preset) -> None:
        super().__init__()
        self.preset = preset
        self.setObjectName("Preset")
        self.setFixedSize(168, 176)
        self.setAccessibleName(preset.name)
        self.setToolTip(f"{preset.name}: {preset.about}, {preset.pages} pages to begin with")

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        colours = theme.current()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_spread(painter, QRectF(18, 14, self.width() - 36, 96), self.preset.setup)
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(QColor(colours.text))
        painter.drawText(QRectF(6, 118, self.width() - 12, 20), Qt.AlignmentFlag.AlignCenter,
                         self.preset.name)  # fmt: skip
        font.setBold(False)
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(QColor(colours.quiet))
        flags = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop
        painter.drawText(QRectF(10, 139, self.width() - 20, 34),
                         flags | Qt.TextFlag.TextWordWrap, self.preset.about)  # fmt: skip


class StartWindow(QWidget):
    """Opens a publication through `opener`, then goes away."""

    said = Signal(str)

    def __init__(self, opener: Opener) -> None:
        super().__init__()
        self.opener = opener
        self.setObjectName("Start")
        self.setWindowTitle("Hidden Frame")
        self.resize(1000, 640)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(40, 30, 40, 26)
        whole.setSpacing(10)
        title = QLabel("Hidden Frame")
        title.setObjectName("Big")
        whole.addWidget(title)
        heading = QLabel("BEGIN A NEW PUBLICATION")
        heading.setObjectName("Heading")
        whole.addSpacing(6)
        whole.addWidget(heading)
        whole.addLayout(self._presets())
        whole.addSpacing(10)
        heading = QLabel("GO ON WITH")
        heading.setObjectName("Heading")
        whole.addWidget(heading)
        whole.addWidget(self._recent(), 1)
        self.problem = QLabel()
        self.problem.setObjectName("Error")
        self.problem.setWordWrap(True)
        self.problem.hide()
        whole.addWidget(self.problem)
        whole.addLayout(self._foot())
        self.said.connect(self._say)

    def _presets(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(10)
        self.cards: dict[str, PresetCard] = {}
        for n, preset in enumerate(PRESETS):
            card = PresetCard(preset)
            card.clicked.connect(lambda _=False, p=preset: self.new(p))
            grid.addWidget(card, 0, n)
            self.cards[preset.name] = card
        grid.setColumnStretch(len(PRESETS), 1)
        return grid

    def _recent(self) -> QListWidget:
        self.recent = QListWidget()
        self.recent.setAccessibleName("Recent publications")
        self.recent.setViewMode(QListWidget.ViewMode.IconMode)
        self.recent.setIconSize(QSize(110, 120))
        self.recent.setGridSize(QSize(150, 164))
        self.recent.setMovement(QListWidget.Movement.Static)
        self.recent.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.recent.setWordWrap(True)
        for name in settings().now.recent:
            path = Path(name)
            if path.is_file():
                row = QListWidgetItem(_preview(path), path.stem)
                row.setToolTip(str(path))
                row.setData(Qt.ItemDataRole.UserRole, name)
                row.setTextAlignment(Qt.AlignmentFlag.AlignHCenter)
                self.recent.addItem(row)
        if not self.recent.count():
            row = QListWidgetItem("Nothing yet. What you save is listed here.")
            row.setFlags(Qt.ItemFlag.NoItemFlags)
            self.recent.setGridSize(QSize(420, 40))
            self.recent.addItem(row)
        self.recent.itemClicked.connect(self._open_recent)
        self.recent.itemActivated.connect(self._open_recent)
        return self.recent

    def _foot(self) -> QHBoxLayout:
        row = QHBoxLayout()
        self.other = QPushButton("New of another size…")
        self.other.clicked.connect(lambda: self.new(None))
        row.addWidget(self.other)
        self.demo = QPushButton("Open the demo almanac")
        self.browse = QPushButton("Open a file…")
        self.demo.clicked.connect(self.open_demo)
        self.browse.clicked.connect(self._browse)
        row.addStretch(1)
        row.addWidget(self.demo)
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

    def _browse(self) -> None:
        from hidden_frame.storage.format import EXTENSION

        name, _ = QFileDialog.getOpenFileName(self, "Open", "", f"Publications (*{EXTENSION})")
        if name:
            self.open_path(Path(name))

    def _open_recent(self, row: QListWidgetItem) -> None:
        name = row.data(Qt.ItemDataRole.UserRole)
        if name:
            self.open_path(Path(name))

    def open_path(self, path: Path) -> None:
        from hidden_frame.storage.format import load

        try:
            opened = load(path)
        except Refusal as refusal:
            self.said.emit(str(refusal))
            return
        settings().remember(path)
        window = self.opener(opened.publication, opened.blobs, path)
        for warning in opened.warnings:
            window.session.noticed.emit(warning)  # type: ignore[attr-defined]

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))


def _preview(path: Path) -> QIcon:
    """The picture of the first page that a file carries, on a quiet ground."""
    import zipfile

    pixmap = QPixmap()
    try:
        with zipfile.ZipFile(path) as archive:
            if archive.getinfo("preview.png").file_size <= _MAX_PREVIEW:
                pixmap.loadFromData(archive.read("preview.png"))
    except (OSError, KeyError, zipfile.BadZipFile, NotImplementedError, RuntimeError):
        pixmap = QPixmap()
    if pixmap.isNull():
        pixmap = QPixmap(84, 118)
        pixmap.fill(QColor("#FFFFFF"))
    framed = QPixmap(110, 120)
    framed.fill(Qt.GlobalColor.transparent)
    painter = QPainter(framed)
    small = pixmap.scaled(106, 116, Qt.AspectRatioMode.KeepAspectRatio,
                          Qt.TransformationMode.SmoothTransformation)  # fmt: skip
    x, y = (110 - small.width()) // 2, (120 - small.height()) // 2
    painter.drawPixmap(x, y, small)
    painter.setPen(QColor(theme.current().line))
    painter.drawRect(x, y, small.width() - 1, small.height() - 1)
    painter.end()
    return QIcon(framed)
