"""The guide: a page a job, in the order in which people work; and what the program is made of."""

from __future__ import annotations

from PySide6.QtCore import QUrl
from PySide6.QtGui import QTextBlockFormat, QTextCursor, QTextDocument
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QTextBrowser,
    QVBoxLayout,
    QWidget,
)

from hidden_frame import __version__
from hidden_frame.desktop.state.command import Commands
from hidden_frame.desktop.state.topics import topics
from hidden_frame.resources import GUIDE

# What it stands on, and under which licence each is used.
LIBRARIES = (
    ("PySide6_Essentials", "Qt for Python", "LGPL-3.0"),
    ("uharfbuzz", "HarfBuzz, shaping", "Apache-2.0"),
    ("fonttools", "fonts", "MIT"),
    ("pyphen", "hyphenation", "LGPL-2.0 or later, or MPL-1.1"),
    ("pikepdf", "QPDF, writing PDF", "MPL-2.0"),
    ("svg2pdf-py", "drawings", "MIT"),
    ("pypdfium2", "PDFium, drawings on screen", "Apache-2.0 or BSD-3-Clause"),
    ("lxml", "reading SVG", "BSD-3-Clause"),
    ("Pillow", "pictures", "MIT-CMU"),
    ("numpy", "arithmetic", "BSD-3-Clause"),
    ("msgspec", "files", "BSD-3-Clause"),
)


class GuideWindow(QDialog):
    """Stays open beside the work; the list on the left, a page on the right."""

    def __init__(self, commands: Commands, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Guide")
        self.resize(900, 640)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.list = QListWidget()
        self.list.setAccessibleName("Pages of the guide")
        self.list.setFixedWidth(190)
        self.text = QTextBrowser()
        self.text.setAccessibleName("The guide")
        self.text.setOpenLinks(False)
        self.text.setSearchPaths([str(GUIDE)])
        self.text.document().setDocumentMargin(22)
        row.addWidget(self.list)
        row.addWidget(self.text)
        self._topics = topics()
        self.list.addItems([title for title, _ in self._topics])
        self.list.addItem("Keys")
        self._keys = keys_in_words(commands)
        self.list.currentRowChanged.connect(self._show)
        self.list.setCurrentRow(0)

    def _show(self, number: int) -> None:
        words = self._keys
        if number < len(self._topics):
            words = self._topics[number][1].read_text("utf-8")
        self.text.document().setBaseUrl(QUrl.fromLocalFile(f"{GUIDE}/"))
        features = QTextDocument.MarkdownFeature.MarkdownDialectGitHub
        self.text.document().setMarkdown(words, features)
        _open_up(self.text.document())
        self.text.moveCursor(QTextCursor.MoveOperation.Start)


def _open_up(document: QTextDocument) -> None:
    """Room between paragraphs and lines: as Markdown comes, they stand close."""
    cursor = QTextCursor(document)
    block = document.begin()
    while block.isValid():
        cursor.setPosition(block.position())
        layout = QTextBlockFormat()
        if cursor.currentTable() is None:
            layout.setTopMargin(9)
        if "\ufffc" not in block.text():  # a line of pictures is as high as they are
            layout.setLineHeight(122, QTextBlockFormat.LineHeightTypes.ProportionalHeight.value)
        cursor.mergeBlockFormat(layout)
        block = block.next()


def keys_in_words(commands: Commands) -> str:
    """Every key and what it does, menu by menu, in Markdown."""
    lines = ["# Keys", "", "| key | command |", "|---|---|"]
    for command in commands.list:
        key = commands.key(command.id)
        if key:
            title = commands[command.id].text().replace("&", "")
            lines.append(f"| {key} | {title} |")
    return "\n".join(lines)


class AboutProgram(QDialog):
    """Version, libraries and licences."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("About Hidden Frame")
        column = QVBoxLayout(self)
        title = QLabel("Hidden Frame")
        title.setObjectName("Big")
        column.addWidget(title)
        column.addWidget(QLabel(f"Version {__version__} · MIT licence"))
        column.addWidget(QLabel("Multi-page publications on reusable master pages."))
        self.made_of = QLabel(libraries_in_words())
        self.made_of.setObjectName("Quiet")
        column.addSpacing(8)
        column.addWidget(self.made_of)
        fonts = QLabel(
            "Fonts: Spectral, Alegreya Sans and Noto, under the SIL Open Font License 1.1.\n"
            "Icons: Phosphor, MIT."
        )
        fonts.setObjectName("Quiet")
        column.addWidget(fonts)
        box = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        box.rejected.connect(self.reject)
        column.addWidget(box)


def libraries_in_words() -> str:
    """“uharfbuzz 0.57.0: HarfBuzz, shaping (Apache-2.0)”, a line each."""
    from importlib.metadata import PackageNotFoundError, version  # loads the mail library

    lines = []
    for package, what, licence in LIBRARIES:
        try:
            number = f" {version(package)}"
        except PackageNotFoundError:
            number = ""
        lines.append(f"{package}{number}: {what} ({licence})")
    return "\n".join(lines)
