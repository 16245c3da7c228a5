"""Icons in the theme's colours: these are looked up when an icon is painted.

The glyphs are those of the Phosphor font that QtAwesome ships.  They are painted here,
because importing QtAwesome itself takes as long as opening a bare window.
"""

from __future__ import annotations

import json
from functools import cache
from importlib.util import find_spec
from pathlib import Path

from PySide6.QtCore import QByteArray, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QIcon, QIconEngine, QPainter, QPixmap
from PySide6.QtWidgets import QAbstractButton

from hidden_frame.desktop.look import theme


@cache
def _font() -> tuple[str, dict[str, str]]:
    """The icon font's family, and the code of each icon's glyph by name."""
    spec = find_spec("qtawesome")  # finds the package without importing it
    assert spec is not None and spec.origin is not None
    folder = Path(spec.origin).parent / "fonts"
    names = sorted(f.name for f in folder.iterdir() if f.name.startswith("phosphor"))
    data = (folder / next(n for n in names if n.endswith(".ttf"))).read_bytes()
    number = QFontDatabase.addApplicationFontFromData(QByteArray(data))
    codes = json.loads((folder / next(n for n in names if n.endswith(".json"))).read_bytes())
    return QFontDatabase.applicationFontFamilies(number)[0], codes


class _Glyph(QIconEngine):
    """One glyph in the colours of a button's states, sharp at every size.

    `pressed` says whether it stands on a button that is filled while it is on.
    """

    def __init__(self, name: str, pressed: bool) -> None:
        super().__init__()
        self._name, self._pressed = name, pressed

    def _colour(self, mode: QIcon.Mode, state: QIcon.State) -> str:
        colours = theme.current()
        if mode == QIcon.Mode.Disabled:
            return colours.edge
        return colours.action_text if self._pressed and state == QIcon.State.On else colours.text

    def paint(self, painter: QPainter, rect: QRect, mode: QIcon.Mode, state: QIcon.State) -> None:
        family, codes = _font()
        font = QFont(family)
        font.setPixelSize(round(rect.height() * 0.95))
        painter.save()
        painter.setFont(font)
        painter.setPen(QColor(self._colour(mode, state)))
        glyph = chr(int(codes[self._name], 16))
        painter.drawText(QRectF(rect), Qt.AlignmentFlag.AlignCenter, glyph)
        painter.restore()

    def pixmap(self, size: QSize, mode: QIcon.Mode, state: QIcon.State) -> QPixmap:
        if size.isEmpty():  # some styles ask for none, and nothing can be painted on it
            return QPixmap()
        pixmap = QPixmap(size)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        self.paint(painter, QRect(0, 0, size.width(), size.height()), mode, state)
        painter.end()
        return pixmap

    def clone(self) -> QIconEngine:
        return _Glyph(self._name, self._pressed)


def icon(name: str) -> QIcon:
    """An icon of the set that ships with the program: `icon("ph.eye")`."""
    return QIcon(_Glyph(name.removeprefix("ph."), pressed=True))


class _Bracketed(_Glyph):
    """A glyph behind an upright line: it belongs to those above and below that have one."""

    def paint(self, painter: QPainter, rect: QRect, mode: QIcon.Mode, state: QIcon.State) -> None:
        colour = QColor(theme.current().action)
        painter.fillRect(QRect(rect.left(), rect.top(), 2, rect.height()), colour)
        super().paint(painter, rect.adjusted(4, 2, 0, -2), mode, state)

    def clone(self) -> QIconEngine:
        return _Bracketed(self._name, self._pressed)


def bracketed(name: str) -> QIcon:
    """An icon with the line of a group before it."""
    return QIcon(_Bracketed(name.removeprefix("ph."), False))


def plain_icon(name: str) -> QIcon:
    """An icon for a list's row, the same whether the row is open, chosen or neither."""
    return QIcon(_Glyph(name.removeprefix("ph."), pressed=False))


def dress(button: QAbstractButton, name: str, size: int = 18) -> None:
    """Gives a button an icon."""
    button.setIcon(icon(name))
    button.setIconSize(QSize(size, size))
