"""Icons in the theme's colours, drawn again when the theme changes."""

from __future__ import annotations

from weakref import WeakKeyDictionary

import qtawesome
from PySide6.QtCore import QSize
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QAbstractButton

from hidden_frame.desktop import theme

_dressed: WeakKeyDictionary[QAbstractButton, str] = WeakKeyDictionary()


def icon(name: str) -> QIcon:
    """An icon of the set that ships with the program: `icon("ph.eye")`."""
    colours = theme.current()
    return qtawesome.icon(
        name, color=colours.text, color_on=colours.action_text, color_disabled=colours.edge
    )


def plain_icon(name: str) -> QIcon:
    """An icon for a list's row, the same whether the row is open, chosen or neither."""
    return qtawesome.icon(name, color=theme.current().text)


def dress(button: QAbstractButton, name: str, size: int = 18) -> None:
    """Gives a button an icon that follows the theme."""
    button.setIcon(icon(name))
    button.setIconSize(QSize(size, size))
    _dressed[button] = name


def redress() -> None:
    """Every icon again, in the present theme's colours."""
    for button, name in list(_dressed.items()):
        button.setIcon(icon(name))
