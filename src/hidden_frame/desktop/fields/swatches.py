"""Colours as small squares, and lists of them."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap

from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look import theme
from hidden_frame.edit.looks.colours import in_rgb
from hidden_frame.model.paint import Colour


def sharp(width: int, height: int) -> QPixmap:
    """An empty picture of this size in pixels, sharp on screens of twice the resolution."""
    pixmap = QPixmap(width * 2, height * 2)
    pixmap.setDevicePixelRatio(2)
    pixmap.fill(Qt.GlobalColor.transparent)
    return pixmap


def swatch(colour: Colour, size: int = 20) -> QIcon:
    """A colour as a small square, a spot colour as a disc."""
    pixmap = sharp(size, size)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(QColor(theme.current().edge), 1))
    painter.setBrush(QColor.fromRgbF(*in_rgb(colour)))
    rect = QRectF(1.5, 1.5, size - 3, size - 3)
    if colour.space == "spot":
        painter.drawEllipse(rect)
    else:
        painter.drawRoundedRect(rect, 3, 3)
    painter.end()
    return QIcon(pixmap)


class Swatches(Choice):
    """Colours, each behind its square."""

    def __init__(self, label: str) -> None:
        super().__init__(label)
        self.setIconSize(QSize(14, 14))
        self._drawn: object = None

    def show_swatches(
        self,
        colours: Sequence[Colour],
        value: object,
        before: Sequence[tuple[str, object]] = (),
        behind: Sequence[tuple[str, object]] = (),
    ) -> None:
        """Shows which colour is chosen, by its id; other entries stand before and behind."""
        names: list[tuple[str, object]] = [(c.name, c.id) for c in colours]
        self.show_choice([*before, *names, *behind], value)
        drawn = (tuple(colours), *before, *behind, theme.current().dark)
        if drawn != self._drawn:
            self._drawn = drawn
            for number, colour in enumerate(colours, len(before)):
                self.setItemIcon(number, swatch(colour, 14))
