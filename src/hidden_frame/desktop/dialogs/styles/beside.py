"""What stands beside the form of a style: all styles, and the parts of the form to jump to."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QScrollArea, QWidget

from hidden_frame.desktop.fields.form import Form

WIDTH = 142  # pixels
_MARK = "◆ "  # as elsewhere: it departs from what it is based on


class StyleRows(QListWidget):
    """The styles by name; `committed` tells which one was gone to."""

    committed = Signal(object)

    def __init__(self, label: str) -> None:
        super().__init__()
        self.setAccessibleName(label)
        self.setFixedWidth(WIDTH)
        # A name that is longer is cut with “…”, and its tooltip is the whole of it.
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._ids: list[str] = []
        self.currentRowChanged.connect(lambda row: self.committed.emit(self._ids[row]))

    def show_styles(self, styles: Sequence[tuple[str, str]], chosen: str) -> None:
        """Names and ids, as they are now; nothing is told."""
        self.blockSignals(True)
        if [i for _, i in styles] != self._ids:
            self.clear()
            self.addItems([name for name, _ in styles])
            self._ids = [i for _, i in styles]
        for row, (name, _) in enumerate(styles):
            item = self.item(row)
            item.setText(name)
            item.setToolTip(name)
        self.setCurrentRow(self._ids.index(chosen))
        self.blockSignals(False)


class PartRows(QListWidget):
    """The headings of a form that scrolls; a click brings one to the top."""

    def __init__(self, form: Form, area: QScrollArea) -> None:
        super().__init__()
        self.setAccessibleName("Parts of the form")
        self.setFixedWidth(WIDTH)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # Tab goes through the fields themselves
        self._form, self._area = form, area
        self._headings = [h for h in form.findChildren(QLabel) if h.objectName() == "Heading"]
        for heading in self._headings:
            QListWidgetItem(heading.text().capitalize(), self)
        self.setFixedHeight(self.sizeHintForRow(0) * len(self._headings) + 8)
        self.itemClicked.connect(lambda _: self.jump(self.currentRow()))

    def jump(self, number: int) -> None:
        """A part at the top of what is seen."""
        self._area.verticalScrollBar().setValue(self._top(self._headings[number]) - 4)

    def mark(self, said: Sequence[QWidget]) -> None:
        """Marks the parts in which one of these stands."""
        tops = [self._top(h) for h in self._headings]
        marked = {sum(top <= self._top(each) for top in tops) - 1 for each in said}
        for row, heading in enumerate(self._headings):
            name = heading.text().capitalize()
            self.item(row).setText(_MARK + name if row in marked else name)

    def _top(self, widget: QWidget) -> int:
        return widget.mapTo(self._form, QPoint(0, 0)).y()
