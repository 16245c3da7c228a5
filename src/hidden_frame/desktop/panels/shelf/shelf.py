"""The Shelf: masters as a family tree, details, and paragraph styles."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QByteArray, QEvent, QMimeData, QModelIndex, QObject, QPoint, Qt, Signal
from PySide6.QtGui import QDropEvent
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.followers import follower_counts
from hidden_frame.desktop.look.ribbon import ribbon_icon
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.panels.shelf.details import DetailList
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.drops import MASTER_MIME, carried
from hidden_frame.edit.masters.apply import add_master, set_base
from hidden_frame.edit.masters.family import copy_master, move_master
from hidden_frame.model.lookup import find_master
from hidden_frame.model.publication import Master, Publication

_ID = Qt.ItemDataRole.UserRole


class MasterTree(QTreeWidget):
    """Masters under their bases; dragging one carries its id."""

    pointed = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setColumnCount(2)
        self.setHeaderHidden(True)
        self.setIndentation(14)
        self.setDragEnabled(True)
        self.setDragDropMode(QAbstractItemView.DragDropMode.DragDrop)
        self.setDropIndicatorShown(True)
        self.setMouseTracking(True)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        header = self.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.entered.connect(self._entered)
        self.viewport().installEventFilter(self)
        self.setAccessibleName("Masters")
        with_tones(self)

    moved = Signal(str, str, str)  # a master, another, and "on", "above" or "below" it

    def dropEvent(self, event: QDropEvent) -> None:
        """A master dropped on another is built on it; between two, it changes its place."""
        row = self.itemAt(event.position().toPoint())
        master_id, _ = carried(event)
        event.setDropAction(Qt.DropAction.IgnoreAction)
        event.accept()
        if row is None or not master_id:
            return
        places = QAbstractItemView.DropIndicatorPosition
        where = {places.AboveItem: "above", places.BelowItem: "below"}.get(
            self.dropIndicatorPosition(), "on"
        )
        self.moved.emit(master_id, row.data(0, _ID), where)

    def mimeTypes(self) -> list[str]:
        return [MASTER_MIME]

    def supportedDropActions(self) -> Qt.DropAction:
        return Qt.DropAction.MoveAction | Qt.DropAction.CopyAction

    def mimeData(self, items: Sequence[QTreeWidgetItem]) -> QMimeData:
        data = QMimeData()
        if items:
            data.setData(MASTER_MIME, QByteArray(str(items[0].data(0, _ID)).encode()))
        return data

    def _entered(self, index: QModelIndex) -> None:
        self.pointed.emit(index.siblingAtColumn(0).data(_ID))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Leave:
            self.pointed.emit(None)
        return super().eventFilter(watched, event)


def _tell_count(row: QTreeWidgetItem, master: Master, count: int) -> None:
    """How many pages follow a master, in its row."""
    row.setText(1, str(count))
    departs = "; ◆ departs from its base" if master.overrides else ""
    row.setToolTip(0, f"{master.name}: {count} pages follow; drag it onto pages{departs}")


class Shelf(QWidget):
    """`master_menu`: the menu of a master (id, global point) is wanted."""

    master_menu = Signal(str, QPoint)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: Sequence[object] = ()
        self._rows: dict[str, QTreeWidgetItem] = {}
        self._counts: dict[str, int] = {}
        self.setObjectName("Panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMinimumWidth(200)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        column.setSpacing(6)
        self.masters = MasterTree()
        self.add_master = QPushButton("New master…")
        column.addWidget(_heading("MASTERS"))
        column.addWidget(self.masters, 3)
        column.addWidget(self.add_master)
        self.details = DetailList(session)
        column.addSpacing(8)
        column.addWidget(_heading("DETAILS"))
        column.addWidget(self.details, 2)
        self.add_master.clicked.connect(lambda: self.new_master())
        self.masters.moved.connect(self._moved)
        self.masters.itemClicked.connect(lambda item, _: session.show_master(item.data(0, _ID)))
        self.masters.customContextMenuRequested.connect(self._menu)
        session.changed.connect(self.refresh)
        session.looked.connect(self._mark)
        self.refresh()

    # -- masters -------------------------------------------------------------------

    def refresh(self) -> None:
        self.details.refresh()
        publication = self.session.publication
        counts = follower_counts(publication)
        shown = [(m.id, m.name, m.base, m.ribbon, bool(m.overrides)) for m in publication.masters]
        if shown != self._shown:
            self._shown = shown
            self._rows = self._fill(publication)
            self._counts = {}
        for master in publication.masters:
            if counts[master.id] != self._counts.get(master.id):
                _tell_count(self._rows[master.id], master, counts[master.id])
        self._counts = counts
        self._mark()

    def _fill(self, publication: Publication) -> dict[str, QTreeWidgetItem]:
        """The family as a tree; its rows by master."""
        self.masters.clear()
        rows: dict[str, QTreeWidgetItem] = {}
        waiting = list(publication.masters)
        while waiting:
            ready = [m for m in waiting if m.base is None or m.base in rows]
            for master in ready:
                row = QTreeWidgetItem([master.name + (" ◆" if master.overrides else "")])
                row.setData(0, _ID, master.id)
                row.setIcon(0, ribbon_icon(master.ribbon))
                row.setTextAlignment(1, Qt.AlignmentFlag.AlignRight)
                set_tone(row, "quiet", 1)
                rows[master.id] = row
                if master.base is None:
                    self.masters.addTopLevelItem(row)
                else:
                    rows[master.base].addChild(row)
            waiting = [m for m in waiting if m.id not in rows]
        self.masters.expandAll()
        return rows

    def row_of(self, master_id: str) -> QTreeWidgetItem | None:
        """The tree's row of a master."""
        stack = [self.masters.topLevelItem(n) for n in range(self.masters.topLevelItemCount())]
        while stack:
            row = stack.pop()
            if row is None:
                continue
            if row.data(0, _ID) == master_id:
                return row
            stack += [row.child(n) for n in range(row.childCount())]
        return None

    def _mark(self) -> None:
        row = self.row_of(self.session.master_id) if self.session.mode == "masters" else None
        self.masters.setCurrentItem(row)  # type: ignore[arg-type]

    def _menu(self, point: QPoint) -> None:
        row = self.masters.itemAt(point)
        if row is not None:
            where = self.masters.viewport().mapToGlobal(point)
            self.master_menu.emit(row.data(0, _ID), where)

    def new_master(self, base: str | None = None) -> None:
        """A new master based on another, laid on the desk; without one, asks what it shall be:
        empty, based on another, or a copy."""
        from hidden_frame.desktop.dialogs.masters import NewMasterDialog

        if base is None:
            NewMasterDialog(self.session, None, self.window()).exec()
            return
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, master_id = add_master(publication, "Master", base)
            made.append(master_id)
            return publication

        if self.session.edit("new master", change):
            self.session.show_master(made[0])

    def duplicate(self, master_id: str) -> None:
        """A copy on the same base, laid on the desk."""
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, copy = copy_master(publication, master_id, "on the same base")
            made.append(copy)
            return publication

        if self.session.edit("duplicate master", change):
            self.session.show_master(made[0])

    def _moved(self, master_id: str, target: str, where: str) -> None:
        """A master dropped in the list: built on another, or put beside it.

        Beside another, it takes that one's base too, since it stands among its family.
        """
        session = self.session
        if master_id == target:
            return
        if where == "on":
            session.edit("change base", lambda p: set_base(p, master_id, target))
            return
        names = [m.id for m in session.publication.masters if m.id != master_id]
        at = names.index(target) + (where == "below")
        before = names[at] if at < len(names) else None
        base = find_master(session.publication, target).base

        def change(publication: Publication) -> Publication:
            return move_master(set_base(publication, master_id, base), master_id, before)

        session.edit("move master in the list", change)


def _heading(text: str) -> QLabel:
    label = QLabel(text)
    label.setObjectName("Heading")
    return label
