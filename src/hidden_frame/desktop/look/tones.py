"""Rows of lists in a tone of the theme: it is looked up when a row is painted, so that no row
keeps the colour of a theme that has gone."""

from __future__ import annotations

from typing import Literal

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, Qt
from PySide6.QtGui import QColor, QPalette
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidgetItem,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeWidgetItem,
)

from hidden_frame.desktop.look import theme

Tone = Literal["text", "quiet", "master", "warning"]
_TONE = Qt.ItemDataRole.UserRole + 40


class _Tones(QStyledItemDelegate):
    """Paints a row in the tone that it names."""

    def initStyleOption(
        self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        super().initStyleOption(option, index)
        tone = index.data(_TONE)
        if tone is not None:
            colour = QColor(getattr(theme.current(), tone))
            option.palette.setColor(QPalette.ColorRole.Text, colour)  # type: ignore[attr-defined]


def with_tones(view: QAbstractItemView) -> None:
    """Lets a list paint its rows in tones."""
    view.setItemDelegate(_Tones(view))


def set_tone(row: QTreeWidgetItem | QListWidgetItem, tone: Tone, column: int = 0) -> None:
    """Gives a row, or one column of it, a tone."""
    if isinstance(row, QTreeWidgetItem):
        row.setData(column, _TONE, tone)
    else:
        row.setData(_TONE, tone)
