"""The dialog in which picture files are chosen: beside the list stands what the file shows."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QImageReader, QPixmap
from PySide6.QtWidgets import QFileDialog, QGridLayout, QLabel, QVBoxLayout, QWidget

from hidden_frame.model.number_format import grouped
from hidden_frame.storage.pictures import EXTENSIONS

_WIDE = 220  # pixels
_LARGEST = 200 * 1024**2  # bytes; larger files are named only
_PRINT = 300  # pixels per inch of a picture that prints well, common practice
_MOST = 60_000_000  # pixels; to decode more would hold up the dialog


class PictureDialog(QFileDialog):
    """Qt's own dialog, which has room for a preview; those of desktops differ, and have none."""

    def __init__(self, parent: QWidget | None, title: str, kinds: str, several: bool) -> None:
        super().__init__(parent, title, "", kinds)
        self.setOption(QFileDialog.Option.DontUseNativeDialog)
        mode = QFileDialog.FileMode.ExistingFiles if several else QFileDialog.FileMode.ExistingFile
        self.setFileMode(mode)
        beside = QWidget()
        beside.setFixedWidth(_WIDE)
        column = QVBoxLayout(beside)
        column.setContentsMargins(8, 0, 0, 0)
        self.picture = QLabel()
        self.picture.setMinimumHeight(_WIDE)
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.told = QLabel("Choose a picture to preview it here.")
        self.told.setObjectName("Quiet")
        self.told.setWordWrap(True)
        column.addWidget(self.picture)
        column.addWidget(self.told)
        column.addStretch(1)
        grid = self.layout()
        if isinstance(grid, QGridLayout):
            grid.addWidget(beside, 0, grid.columnCount(), grid.rowCount(), 1)
        self.currentChanged.connect(lambda name: self.show_file(Path(name)))
        self.resize(860, 520)

    def show_file(self, path: Path) -> None:
        """What a file shows, and how large it prints well; its name alone if it shows nothing."""
        self.picture.clear()
        self.told.setText(path.name)
        try:
            small = path.is_file() and path.stat().st_size <= _LARGEST
        except OSError:
            return
        # Drawings are read in a process of their own, when they are placed.
        if not small or path.suffix.lower() == ".svg":
            return
        reader = QImageReader(str(path))
        reader.setAutoTransform(True)
        whole = reader.size()
        if not whole.isValid() or whole.width() * whole.height() > _MOST:
            return
        room = QSize(_WIDE - 12, _WIDE)
        reader.setScaledSize(whole.scaled(room, Qt.AspectRatioMode.KeepAspectRatio)
                             .boundedTo(whole))  # fmt: skip
        image = reader.read()
        if image.isNull():
            return
        self.picture.setPixmap(QPixmap.fromImage(image))
        wide, high = (round(n / _PRINT * 25.4) for n in (whole.width(), whole.height()))
        self.told.setText(
            f"{path.name}\n{grouped(whole.width())} × {grouped(whole.height())} pixels; "
            f"prints well up to {wide} × {high} mm"
        )

    @staticmethod
    def ask(
        parent: QWidget | None, title: str, several: bool = False, texts: bool = False
    ) -> list[Path]:
        """The files that are chosen, `several` or one; none if it is left.  Plain `texts` too."""
        kinds = " ".join(f"*.{e}" for e in (*EXTENSIONS, *(("txt",) if texts else ())))
        named = "Pictures and texts" if texts else "Pictures"
        dialog = PictureDialog(parent, title, f"{named} ({kinds})", several)
        chosen = dialog.exec()
        dialog.deleteLater()
        return [Path(name) for name in dialog.selectedFiles()] if chosen else []
