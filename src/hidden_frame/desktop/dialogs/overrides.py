"""All overrides of the publication: a list with jumps, and the way back to the masters."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.departures import Departure, departures, in_words
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.masters.overrides import follow_items
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication


class OverridesDialog(QDialog):
    """Stays open beside the desk; a click on a row goes there."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.found: list[Departure] = []
        self._shown: object = None
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("All overrides")
        self.resize(760, 440)
        column = QVBoxLayout(self)
        self.title = QLabel()
        self.title.setObjectName("Title")
        column.addWidget(self.title)
        self.note = QLabel(
            "Pages and derived masters that differ from their masters. Click to go there."
        )
        self.note.setObjectName("Quiet")
        self.note.setWordWrap(True)
        column.addWidget(self.note)
        self.asleep = QCheckBox("Only those without effect now")
        self.asleep.setToolTip("Overrides that have no effect now, kept until their master returns")
        self.asleep.clicked.connect(self._fill)
        column.addWidget(self.asleep)
        self.list = QTreeWidget()
        self.list.setAccessibleName("Overrides")
        with_tones(self.list)
        self.list.setRootIsDecorated(False)
        self.list.setHeaderLabels(["Where", "Item", "From", "What"])
        self.list.setSelectionMode(QTreeWidget.SelectionMode.ExtendedSelection)
        self.list.header().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        for n, width in enumerate((200, 160, 160)):
            self.list.setColumnWidth(n, width)
        self.list.itemClicked.connect(lambda row, _: self._go(row))
        self.list.itemActivated.connect(lambda row, _: self._go(row))
        column.addWidget(self.list, 1)
        self.why = QLabel()
        self.why.setWordWrap(True)
        self.why.setObjectName("Quiet")
        column.addWidget(self.why)
        row = QHBoxLayout()
        self.follow = QPushButton("Follow the master again")
        self.follow.clicked.connect(self._follow)
        close = QPushButton("Close")
        close.clicked.connect(self.close)
        row.addWidget(self.follow)
        row.addStretch(1)
        row.addWidget(close)
        column.addLayout(row)
        self.list.itemSelectionChanged.connect(self._chosen)
        session.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Lists the overrides again if they may have changed."""
        publication = self.session.publication
        key = (publication.sections, publication.masters, publication.default_masters)
        if self.session.draft is None and key != self._shown:
            self._shown = key
            self._fill()

    def _fill(self) -> None:
        self.found = departures(self.session.publication)
        sleeping = sum(bool(d.asleep) for d in self.found)
        count = len(self.found)
        asleep = f", {sleeping} asleep" if sleeping else ""
        self.title.setText(
            plural(count, "{n} override", "{n} overrides") + asleep if count else "No overrides"
        )
        self.list.clear()
        for number, each in enumerate(self.found):
            if self.asleep.isChecked() and not each.asleep:
                continue
            what = in_words(each.names) + (" · asleep" if each.asleep else "")
            row = QTreeWidgetItem([each.where, each.item_name, each.master_name or "–", what])
            row.setData(0, Qt.ItemDataRole.UserRole, number)
            row.setToolTip(3, each.sentence)
            if each.asleep:
                for column in range(4):
                    set_tone(row, "quiet", column)
            self.list.addTopLevelItem(row)
        self._chosen()

    def chosen(self) -> list[Departure]:
        rows = self.list.selectedItems()
        return [self.found[r.data(0, Qt.ItemDataRole.UserRole)] for r in rows]

    def _chosen(self) -> None:
        chosen = self.chosen()
        self.follow.setEnabled(bool(chosen))
        self.why.setText(chosen[0].sentence if len(chosen) == 1 else "")

    def _go(self, row: QTreeWidgetItem) -> None:
        """Lays the page or master on the desk and selects the item, if it is to be seen."""
        session = self.session
        each = self.found[row.data(0, Qt.ItemDataRole.UserRole)]
        if each.holder_id in masters_by_id(session.publication):
            session.show_master(each.holder_id, on_desk=True)
        else:
            session.show_page(each.holder_id)
        for face in session.faces():
            shown = items_on(session.publication, face.holder_id, face.side)
            if face.holder_id == each.holder_id and any(r.item.id == each.item_id for r in shown):
                session.select_items(face, (each.item_id,))
                break

    def _follow(self) -> None:
        chosen = self.chosen()

        def change(publication: Publication) -> Publication:
            for each in chosen:
                publication = follow_items(publication, each.holder_id, (each.item_id,))
            return publication

        for each in chosen:
            self.session.lock(each.holder_id, each.item_id)
        self.session.edit("follow the masters", change)
