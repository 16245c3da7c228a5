"""Cards of the start window: each begins a new publication of one kind."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolButton

from hidden_frame.desktop.dialogs.spread import paint_spread
from hidden_frame.desktop.look import theme
from hidden_frame.model.presets import Preset

_WORDS = 62  # pixels for the name and what it is for


class StartCard(QToolButton):
    """A picture over a name and what it is for; as wide and high as there is room."""

    def __init__(self, name: str, about: str) -> None:
        super().__init__()
        self.name, self.about = name, about
        self.setObjectName("Preset")
        self.setMinimumSize(132, 168)
        self.setMaximumHeight(320)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(name)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter opens it, as a click does."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        return QSize(150, 184)

    def picture(self, painter: QPainter, room: QRectF) -> None:
        """Draws what the card stands for."""
        pen = QPen(QColor(theme.current().edge), 1.5, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        side = min(room.width(), room.height() * 0.72)
        page = QRectF(0, 0, side * 0.72, side)
        page.moveCenter(room.center())
        painter.drawRect(page)
        painter.setPen(QPen(QColor(theme.current().action), 2))
        middle, arm = page.center(), side * 0.12
        across, down = QPointF(arm, 0), QPointF(0, arm)
        painter.drawLine(middle - across, middle + across)
        painter.drawLine(middle - down, middle + down)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        colours = theme.current()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        foot = self.height() - _WORDS
        self.picture(painter, QRectF(16, 14, self.width() - 32, foot - 20))
        font = painter.font()
        font.setBold(True)
        painter.setFont(font)
        painter.setPen(QColor(colours.text))
        middle = Qt.AlignmentFlag.AlignCenter
        painter.drawText(QRectF(6, foot, self.width() - 12, 20), middle, self.name)
        font.setBold(False)
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(QColor(colours.quiet))
        flags = Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop
        words = QRectF(8, foot + 21, self.width() - 16, 34)
        painter.drawText(words, flags | Qt.TextFlag.TextWordWrap, self.about)


class PresetCard(StartCard):
    """A kind of publication with its spread."""

    def __init__(self, preset: Preset) -> None:
        super().__init__(preset.name, preset.about)
        self.preset = preset
        self.setToolTip(f"{preset.name}: {preset.about}, {preset.pages} pages to begin with")

    def picture(self, painter: QPainter, room: QRectF) -> None:
        paint_spread(painter, room, self.preset.setup)
