"""Details of the publication: names and values, written where they stand, made, deleted."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.about import new_detail_name, remove_detail, rename_detail, set_detail
from hidden_frame.interact.words.told import removed_detail_in_words


class DetailTree(QTreeWidget):
    """A name and a value a row; the Delete key takes the chosen one away."""

    def __init__(self) -> None:
        super().__init__()
        self.setHeaderHidden(True)
        self.setColumnCount(2)
        self.setRootIsDecorated(False)
        self.setAccessibleName("Details")
        with_tones(self)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.header().setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        self.header().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
        self.delete = QPushButton("Delete")
        self.delete.setToolTip("Deletes the detail; its text stays wherever it is shown")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete and self.delete.isEnabled():
            self.delete.click()
            return
        super().keyPressEvent(event)


class DetailList(QWidget):
    """A double click on a value changes it on every page that shows it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self.tree = DetailTree()
        self.new, self.delete = QPushButton("New detail"), self.tree.delete
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.tree)
        row.addWidget(self.new)
        row.addWidget(self.delete)
        column.addLayout(row)
        self.new.clicked.connect(self._new)
        self.delete.clicked.connect(self._delete)
        self.tree.itemDoubleClicked.connect(self.tree.editItem)
        self.tree.itemActivated.connect(self.tree.editItem)
        self.tree.itemChanged.connect(self._changed)
        self.tree.currentItemChanged.connect(lambda _: self._enable())
        self.refresh()

    def refresh(self) -> None:
        details = self.session.publication.details
        if details == self._shown:
            return
        self._shown = details
        self.tree.blockSignals(True)
        self.tree.clear()
        for detail in details:
            row = QTreeWidgetItem([detail.name, detail.value])
            row.setFlags(row.flags() | Qt.ItemFlag.ItemIsEditable)
            set_tone(row, "quiet")
            row.setToolTip(1, "Double-click to change it everywhere")
            self.tree.addTopLevelItem(row)
        self.tree.blockSignals(False)
        self._enable()

    def _enable(self) -> None:
        self.delete.setEnabled(self.tree.currentItem() is not None)

    def _new(self) -> None:
        name = new_detail_name(self.session.publication)
        self.session.edit("new detail", lambda p: set_detail(p, name, "…"))
        row = self.tree.topLevelItem(self.tree.topLevelItemCount() - 1)
        if row is not None:
            self.tree.setCurrentItem(row)
            self.tree.editItem(row, 1)

    def _delete(self) -> None:
        row = self.tree.currentItem()
        if row is None:
            return
        publication, name = self.session.publication, row.text(0)
        said = removed_detail_in_words(publication, name)
        if self.session.edit(f"delete the detail {name}", lambda p: remove_detail(p, name)):
            self.session.noticed.emit(said)

    def _changed(self, row: QTreeWidgetItem, column: int) -> None:
        old = self.session.publication.details[self.tree.indexOfTopLevelItem(row)]
        if column == 1:
            self.session.edit("change detail", lambda p: set_detail(p, old.name, row.text(1)))
        else:
            self.session.edit("rename detail", lambda p: rename_detail(p, old.name, row.text(0)))
        self._shown = None
        self.refresh()
