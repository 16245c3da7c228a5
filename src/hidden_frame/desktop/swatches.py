"""Colours as small squares, and lists of them from which one is chosen or made."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QIcon, QPainter, QPen, QPixmap

from hidden_frame.desktop import theme
from hidden_frame.desktop.dialogs.colour import ColourDialog
from hidden_frame.desktop.properties.fields import Choice
from hidden_frame.desktop.session import Session
from hidden_frame.edit.colours import in_rgb
from hidden_frame.model.paint import Colour

_NEW = object()


def swatch(colour: Colour, size: int = 20) -> QIcon:
    """A colour as a small square, a spot colour as a disc."""
    pixmap = QPixmap(size * 2, size * 2)  # sharp on screens of twice the resolution
    pixmap.setDevicePixelRatio(2)
    pixmap.fill(Qt.GlobalColor.transparent)
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


class ColourChoice(Choice):
    """The publication's colours, each behind its square; the last entry makes a new one."""

    def __init__(self, label: str, session: Session) -> None:
        super().__init__(label)
        self.session = session
        self.setIconSize(QSize(14, 14))
        self._drawn: object = None
        self._now: object = None

    def show_colours(self, value: object, without: str = "") -> None:
        """Shows which colour is chosen; `without` names an entry for no colour."""
        colours = self.session.publication.colours
        options: list[tuple[str, object]] = [(without, None)] if without else []
        options += [(c.name, c.id) for c in colours]
        self._now = value
        self.show_choice([*options, ("New colour…", _NEW)], value)
        drawn = (colours, theme.current().dark)
        if drawn != self._drawn:
            self._drawn = drawn
            for number, colour in enumerate(colours, 1 if without else 0):
                self.setItemIcon(number, swatch(colour, 14))

    def take(self, number: int) -> None:
        """Takes an entry; the last one asks for a new colour first."""
        if self._values[number] is not _NEW:
            self._now = self._values[number]
            super().take(number)
            return
        dialog = ColourDialog(self.session, None, None, self.window())
        chosen = dialog.made if dialog.exec() else ""
        self.show_colours(chosen or self._now, self.itemText(0) if None in self._values else "")
        if chosen:
            self.committed.emit(chosen)
