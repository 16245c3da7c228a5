"""Colours of the publication: looked at, made, changed, taken for fill and stroke, deleted."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QSize
from PySide6.QtWidgets import (
    QGridLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.fields.swatches import swatch
from hidden_frame.desktop.look import theme
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.looks.colours import (
    delete_colour,
    filled_with,
    stroked_with,
    uses,
)
from hidden_frame.interact.hands.shown import change_shown, shown_items
from hidden_frame.model.items import is_level
from hidden_frame.model.paint import Colour
from hidden_frame.model.publication import Publication

if TYPE_CHECKING:
    from hidden_frame.desktop.dialogs.colour import ColourDialog


_SPACES = {"rgb": "RGB", "cmyk": "CMYK", "spot": "spot"}


class ColourList(QWidget):
    """A double click changes a colour everywhere it is used."""

    def __init__(self, session: Session, desk: Desk) -> None:
        super().__init__()
        self.session = session
        self.desk = desk
        self._shown: object = None
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        title = QLabel("COLOURS")
        title.setObjectName("Heading")
        column.addWidget(title)
        self.list = QListWidget()
        self.list.setAccessibleName("Colours")
        self.list.setIconSize(QSize(20, 20))
        column.addWidget(self.list)
        grid = QGridLayout()
        grid.setSpacing(6)
        self.fill, self.stroke = QPushButton("Fill"), QPushButton("Stroke")
        self.new, self.change = QPushButton("New…"), QPushButton("Change…")
        self.delete = QPushButton("Delete…")
        self.fill.setToolTip("Fill the selected items with this colour")
        self.stroke.setToolTip("Stroke the selected items with this colour")
        for n, button in enumerate((self.fill, self.stroke, self.new, self.change, self.delete)):
            grid.addWidget(button, n // 2, n % 2)
        column.addLayout(grid)
        self.list.itemDoubleClicked.connect(lambda _: self.open_change())
        self.list.currentRowChanged.connect(lambda _: self._enable())
        self.fill.clicked.connect(lambda: self.paint("fill"))
        self.stroke.clicked.connect(lambda: self.paint("stroke"))
        self.new.clicked.connect(self.open_new)
        self.change.clicked.connect(self.open_change)
        self.delete.clicked.connect(self.open_delete)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        if not self.isVisible():
            return
        colours = self.session.publication.colours
        key = (colours, theme.current().dark)
        if key != self._shown:
            self._shown = key
            row = max(self.list.currentRow(), 0)
            self.list.clear()
            for colour in colours:
                entry = QListWidgetItem(swatch(colour), colour.name)
                entry.setToolTip(f"{colour.name}, {_SPACES[colour.space]}; double-click to change")
                self.list.addItem(entry)
            self.list.setCurrentRow(min(row, len(colours) - 1))
        self._enable()

    def _enable(self) -> None:
        session = self.session
        free = bool(session.items) and session.may_change_all(session.holder_id, session.items)
        self.fill.setEnabled(free)
        self.stroke.setEnabled(free)
        self.delete.setEnabled(len(session.publication.colours) > 1)

    def chosen(self) -> Colour:
        colours = self.session.publication.colours
        return colours[max(0, min(self.list.currentRow(), len(colours) - 1))]

    def paint(self, name: str) -> None:
        """The selected items filled or stroked with the chosen colour."""
        session, colour = self.session, self.chosen().id
        holder, side, items = session.holder_id, session.side, session.items

        def change(p: Publication) -> Publication:
            changes: dict[str, dict[str, object]] = {}
            for item_id, item in shown_items(p, holder, items, side).items():
                if name == "stroke" or is_level(item):
                    changes[item_id] = {"stroke": stroked_with(item.stroke, colour)}
                else:
                    changes[item_id] = {"fill": filled_with(item.fill, colour)}
            return change_shown(p, holder, side, changes)

        session.edit(f"change {name}", change)

    def open_new(self) -> ColourDialog:
        return self._open(None)

    def open_change(self) -> ColourDialog:
        return self._open(self.chosen())

    def _open(self, colour: Colour | None) -> ColourDialog:
        from hidden_frame.desktop.dialogs.colour import ColourDialog

        dialog = ColourDialog(self.session, self.desk, colour, self.window())
        dialog.open()
        return dialog

    def open_delete(self) -> None:
        """Deletes an unused colour at once; asks what shall take a used one's place."""
        from hidden_frame.desktop.dialogs.colour import DeleteColourDialog

        colour = self.chosen()
        if uses(self.session.publication, colour.id) == 0:
            others = [c.id for c in self.session.publication.colours if c.id != colour.id]
            self.session.edit(
                f"delete colour {colour.name}", lambda p: delete_colour(p, colour.id, others[0])
            )
        else:
            DeleteColourDialog(self.session, colour, self.window()).open()
