"""Publications to go on with: each with its first page, its name, and when it was saved."""

from __future__ import annotations

import zipfile
from datetime import datetime, timedelta
from pathlib import Path

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from hidden_frame.desktop.look import theme
from hidden_frame.desktop.look.moments import clock, day_in_words
from hidden_frame.desktop.look.settings import settings

BOOK = "book:"  # stands for the long book
PATH = Qt.ItemDataRole.UserRole  # the file's path; "" stands for the demo
_DETAIL = PATH + 1
_MAX_PREVIEW = 8 * 1024 * 1024  # bytes; a preview is never so large
_LEAST = QSize(290, 84)  # of an entry
_MOST = 128  # pixels that an entry is high where there is room


class RecentList(QListWidget):
    """Entries in as many columns as fit, as high as the room allows; the demos come last."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName("Recent publications")
        self.setViewMode(QListWidget.ViewMode.IconMode)
        self.setMovement(QListWidget.Movement.Static)
        self.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setMouseTracking(True)
        self.setObjectName("Recent")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setItemDelegate(_Entry(self))
        for name in settings().now.recent:
            path = Path(name)
            if path.is_file():
                self._add(path.stem, _saved(path), name, _preview(path), str(path))
        told = "32 sample pages to try things out."
        if not self.count():
            told = "Nothing yet; publications you save are listed here. " + told
        self._add("The demo almanac", told, "", _star(), "Opens without a file")
        self._add("A long book", "About 200 pages of one continuous story.", BOOK, _lines(),
                  "Opens without a file")  # fmt: skip

    def _add(self, name: str, detail: str, path: str, picture: QPixmap, tip: str) -> None:
        row = QListWidgetItem(QIcon(picture), name)
        row.setToolTip(tip)
        row.setData(PATH, path)
        row.setData(_DETAIL, detail)
        self.addItem(row)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        room = self.size()
        across = max(1, min(room.width() // _LEAST.width(), self.count()))
        down = -(-self.count() // across)
        high = max(_LEAST.height(), min(_MOST, room.height() // down - 1))
        self.setMaximumHeight(down * (_MOST + 1) + 4)  # the rest of the window is the cards'
        scrolls = high * down > room.height()
        # Said, for a bar that is shown as needed is always given its room.
        shown = Qt.ScrollBarPolicy.ScrollBarAlwaysOn, Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        self.setVerticalScrollBarPolicy(shown[not scrolls])
        bar = self.verticalScrollBar().sizeHint().width() if scrolls else 0
        # A row that is as wide as the list to the pixel would be broken by it.
        grid = QSize((room.width() - bar - 4) // across, high)
        if grid != self.gridSize():
            self.setGridSize(grid)


class _Entry(QStyledItemDelegate):
    """Paints an entry: the first page, then the name over what is known of the file."""

    def sizeHint(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> QSize:
        view = self.parent()
        assert isinstance(view, QListWidget)
        return view.gridSize()

    def paint(
        self,
        painter: QPainter,
        option: QStyleOptionViewItem,
        index: QModelIndex | QPersistentModelIndex,
    ) -> None:
        colours = theme.current()
        state, whole = option.state, QRect(option.rect)  # type: ignore[attr-defined]
        entry = QRectF(whole).adjusted(3.5, 3.5, -3.5, -3.5)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        focused = bool(state & QStyle.StateFlag.State_HasFocus)
        hovered = bool(state & QStyle.StateFlag.State_MouseOver)
        painter.setPen(QPen(QColor(colours.action if focused else colours.line), 1))
        painter.setBrush(QColor(colours.action_soft if hovered else colours.panel))
        painter.drawRoundedRect(entry, 8, 8)
        picture = index.data(Qt.ItemDataRole.DecorationRole)
        high = entry.height() - 16
        frame = QRect(round(entry.x() + 12), round(entry.y() + 8), round(high), round(high))
        picture.paint(painter, frame)
        left = frame.right() + 14
        words = QRectF(left, entry.y(), entry.right() - left - 8, entry.height())
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(QColor(colours.text))
        name = painter.fontMetrics().elidedText(
            index.data(), Qt.TextElideMode.ElideRight, round(words.width())
        )
        middle = words.center().y()
        row = QRectF(words.x(), middle - 24, words.width(), 22)
        painter.drawText(row, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom, name)
        font.setBold(False)
        font.setPixelSize(13)
        painter.setFont(font)
        painter.setPen(QColor(colours.quiet))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.drawText(QRectF(words.x(), middle, words.width(), 36), flags, index.data(_DETAIL))
        painter.restore()


def _saved(path: Path) -> str:
    """“saved today at 14:20, in Books”."""
    try:
        when = datetime.fromtimestamp(path.stat().st_mtime)
    except OSError:
        return f"in {path.parent.name}"
    today = datetime.now().date()
    if when.date() == today:
        day = "today"
    elif when.date() == today - timedelta(days=1):
        day = "yesterday"
    else:
        day = day_in_words(when.date())
    return f"saved {day} at {clock(when.time())}, in {path.parent.name or '/'}"


def _preview(path: Path) -> QPixmap:
    """The picture of the first page that a file carries, on a quiet ground."""
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
    return _framed(pixmap)


def _star() -> QPixmap:
    """The demo's picture: a lighted window under a night sky."""
    pixmap = QPixmap(170, 240)
    pixmap.fill(QColor("#14213A"))
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor("#F4EFE4"))
    for x, y, size in ((30, 40, 5), (120, 30, 4), (80, 90, 6), (140, 120, 4), (40, 140, 4)):
        painter.drawEllipse(x, y, size, size)
    painter.setBrush(QColor("#0B1220"))
    painter.drawEllipse(-40, 190, 250, 120)
    painter.setBrush(QColor("#E0B354"))
    painter.drawRect(78, 168, 12, 24)
    painter.end()
    return _framed(pixmap)


def _lines() -> QPixmap:
    """The long book's picture: a page full of lines."""
    pixmap = QPixmap(170, 240)
    pixmap.fill(QColor("#FBF8F1"))
    painter = QPainter(pixmap)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor("#1F6F5C"))
    painter.drawRect(26, 34, 74, 9)
    painter.setBrush(QColor("#8A857B"))
    for n in range(13):
        short = 40 if n in (5, 12) else 0
        painter.drawRect(26, 62 + n * 12, 118 - short, 4)
    painter.end()
    return _framed(pixmap)


def _framed(pixmap: QPixmap) -> QPixmap:
    """A page in the middle of a square, with an edge around it."""
    side = 240
    framed = QPixmap(side, side)
    framed.fill(Qt.GlobalColor.transparent)
    painter = QPainter(framed)
    small = pixmap.scaled(side - 2, side - 2, Qt.AspectRatioMode.KeepAspectRatio,
                          Qt.TransformationMode.SmoothTransformation)  # fmt: skip
    x, y = (side - small.width()) // 2, (side - small.height()) // 2
    painter.drawPixmap(x, y, small)
    painter.setPen(QPen(QColor("#A59F94"), 2))
    painter.drawRect(x, y, small.width() - 1, small.height() - 1)
    painter.end()
    return framed
