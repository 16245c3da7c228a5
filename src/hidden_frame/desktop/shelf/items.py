"""Items: the stacking order of the page or face that is worked on, layer by layer."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtGui import QColor, QDropEvent, QFont, QIcon
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHeaderView,
    QLabel,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.cascade import Resolved
from hidden_frame.compose.shown import change_shown, items_on
from hidden_frame.desktop import theme
from hidden_frame.desktop.icons import plain_icon as icon
from hidden_frame.desktop.session import Face, Session
from hidden_frame.edit.items import change_items, move_in_stack
from hidden_frame.edit.layers import change_layer
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.publication import Publication

_ID = Qt.ItemDataRole.UserRole
_KIND = Qt.ItemDataRole.UserRole + 1  # "layer", "own" or "master"
PICTURES = {
    TextFrame: "ph.text-t", PictureFrame: "ph.image", Shape: "ph.polygon", Line: "ph.line-segment"
}  # fmt: skip
EYE, LOCK = 1, 2


class ItemTree(QTreeWidget):
    """Layers, topmost first, and under each its items; a drop moves one in the stack."""

    def __init__(self, panel: ItemList) -> None:
        super().__init__()
        self.panel = panel
        self.setObjectName("Stack")
        self.setColumnCount(3)
        self.setHeaderHidden(True)
        self.setIndentation(12)
        self.setAccessibleName("Items")
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        header = self.header()
        header.setMinimumSectionSize(22)
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        for column in (EYE, LOCK):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Fixed)
            header.resizeSection(column, 24)

    def edit(self, index: QModelIndex, trigger, event) -> bool:  # type: ignore[no-untyped-def,override]
        """Only names are edited, not the eye and the lock."""
        return index.column() == 0 and super().edit(index, trigger, event)

    def dropEvent(self, event: QDropEvent) -> None:
        """The dragged item goes right above the one it is dropped on or over."""
        target = self.itemAt(event.position().toPoint())
        moved = self.currentItem()
        event.ignore()
        if target is None or moved is None or moved.data(0, _KIND) != "own":
            return
        layer = target if target.data(0, _KIND) == "layer" else target.parent()
        if layer is None:
            return
        index = layer.indexOfChild(target) if target is not layer else -1
        below = self.dropIndicatorPosition() == QAbstractItemView.DropIndicatorPosition.BelowItem
        at = index + 1 if below or index < 0 else index
        if index < 0:
            at = 0
        self.panel.restack(moved.data(0, _ID), layer, at)


class ItemList(QWidget):
    """Names that can be changed, an eye and a lock for each item and each layer."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self._filling = False
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 8, 10)
        self.title = QLabel()
        self.title.setObjectName("Heading")
        self.title.setWordWrap(True)
        column.addWidget(self.title)
        self.tree = ItemTree(self)
        column.addWidget(self.tree)
        note = QLabel("Drag to restack. Double click to rename.")
        note.setObjectName("Quiet")
        note.setWordWrap(True)
        column.addWidget(note)
        self.tree.itemSelectionChanged.connect(self._select)
        self.tree.itemClicked.connect(self._clicked)
        self.tree.itemChanged.connect(self._renamed)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    # -- what is shown ---------------------------------------------------------------

    def _face(self) -> Face | None:
        session = self.session
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                return face
        return None

    def refresh(self) -> None:
        """Fills the tree again if something in it is another; marks what is selected."""
        session = self.session
        if not self.isVisible():
            return
        publication = session.publication
        found = items_on(publication, session.holder_id, session.side)
        key = (
            session.holder_id,
            theme.current().dark,
            publication.layers,
            tuple(
                (r.item.id, r.item.name, r.item.layer, r.item.visible, r.item.locked, r.carrier)
                for r in found
            ),
        )
        self._filling = True
        if key != self._shown:
            self._shown = key
            self._fill(publication, found)
        self._mark()
        self._filling = False

    def _fill(self, publication: Publication, found: tuple[Resolved, ...]) -> None:
        self.tree.clear()
        on_master = self.session.mode == "masters"
        self.title.setText("ITEMS OF THIS MASTER" if on_master else "ITEMS OF THIS PAGE")
        for layer in reversed(publication.layers):
            row = QTreeWidgetItem([layer.name, "", ""])
            row.setData(0, _ID, layer.id)
            row.setData(0, _KIND, "layer")
            font = QFont(self.font())
            font.setBold(True)
            row.setFont(0, font)
            row.setIcon(EYE, icon("ph.eye" if layer.visible else "ph.eye-slash"))
            row.setIcon(LOCK, icon("ph.lock-simple" if layer.locked else "ph.lock-simple-open"))
            row.setFlags(
                Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsEditable
                | Qt.ItemFlag.ItemIsDropEnabled
            )  # fmt: skip
            row.setToolTip(EYE, f"Show or hide the layer {layer.name} everywhere")
            row.setToolTip(LOCK, f"Lock or free the layer {layer.name} everywhere")
            self.tree.addTopLevelItem(row)
            for resolved in reversed([r for r in found if r.item.layer == layer.id]):
                row.addChild(self._row(resolved))
        self.tree.expandAll()

    def _row(self, resolved: Resolved) -> QTreeWidgetItem:
        session, item = self.session, resolved.item
        own = resolved.carrier in (None, session.holder_id)
        row = QTreeWidgetItem([item.name or "item", "", ""])
        row.setData(0, _ID, item.id)
        row.setData(0, _KIND, "own" if own else "master")
        row.setIcon(0, icon(PICTURES[type(item)]))
        row.setIcon(EYE, icon("ph.eye" if item.visible else "ph.eye-slash"))
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        if own:
            row.setIcon(LOCK, icon("ph.lock-simple") if item.locked else QIcon())
            flags |= Qt.ItemFlag.ItemIsEditable | Qt.ItemFlag.ItemIsDragEnabled
            row.setToolTip(LOCK, "Lock or free it")
        else:
            master = masters_by_id(session.publication)[str(resolved.carrier)].name
            row.setForeground(0, QColor(theme.current().master))
            row.setToolTip(0, f"From the master “{master}”")
        row.setToolTip(EYE, "Show or hide it here")
        row.setFlags(flags)
        return row

    def rows(self) -> dict[str, QTreeWidgetItem]:
        """Every item's row by id."""
        found = {}
        for n in range(self.tree.topLevelItemCount()):
            layer = self.tree.topLevelItem(n)
            if layer is None:
                continue
            for k in range(layer.childCount()):
                row = layer.child(k)
                found[row.data(0, _ID)] = row
        return found

    def _mark(self) -> None:
        wanted = set(self.session.items)
        for item_id, row in self.rows().items():
            if row.isSelected() != (item_id in wanted):
                row.setSelected(item_id in wanted)
                if item_id in wanted:
                    self.tree.scrollToItem(row)

    # -- what is done ----------------------------------------------------------------

    def _select(self) -> None:
        if self._filling:
            return
        chosen = tuple(
            r.data(0, _ID) for r in self.tree.selectedItems() if r.data(0, _KIND) != "layer"
        )
        if chosen != self.session.items:
            self.session.select_items(self._face(), chosen)

    def _clicked(self, row: QTreeWidgetItem, column: int) -> None:
        if column == 0:
            return
        session, wanted = self.session, row.data(0, _ID)
        if row.data(0, _KIND) == "layer":
            layer = next(x for x in session.publication.layers if x.id == wanted)
            if column == EYE:
                name = "hide layer" if layer.visible else "show layer"
                session.edit(name, lambda p: change_layer(p, wanted, visible=not layer.visible))
            else:
                name = "free layer" if layer.locked else "lock layer"
                session.edit(name, lambda p: change_layer(p, wanted, locked=not layer.locked))
            return
        found = items_on(session.publication, session.holder_id, session.side)
        resolved = next((r for r in found if r.item.id == wanted), None)
        if resolved is None:
            return
        holder, side, item = session.holder_id, session.side, resolved.item
        if column == EYE:
            changes: dict[str, dict[str, object]] = {wanted: {"visible": not item.visible}}
            name = "hide item" if item.visible else "show item"
            session.edit(name, lambda p: change_shown(p, holder, side, changes))
        elif row.data(0, _KIND) == "own":
            name = "free item" if item.locked else "lock item"
            session.edit(
                name, lambda p: change_items(p, holder, {wanted: {"locked": not item.locked}})
            )

    def _renamed(self, row: QTreeWidgetItem, column: int) -> None:
        if self._filling or column != 0:
            return
        session, wanted, name = self.session, row.data(0, _ID), row.text(0).strip()
        self._shown = None  # what was typed may be refused or cleaned
        if row.data(0, _KIND) == "layer":
            session.edit("rename layer", lambda p: change_layer(p, wanted, name=name))
        elif name:
            holder = session.holder_id
            session.edit("rename item", lambda p: change_items(p, holder, {wanted: {"name": name}}))
        self.refresh()

    def restack(self, item_id: str, layer: QTreeWidgetItem, at: int) -> None:
        """An item put at a place, counted from the top, among the rows of a layer."""
        children = [layer.child(n) for n in range(layer.childCount())]
        lower = [
            r.data(0, _ID)
            for r in children[at:]
            if r.data(0, _KIND) == "own" and r.data(0, _ID) != item_id
        ]
        session, layer_id = self.session, layer.data(0, _ID)
        holder = session.holder_id
        above = lower[0] if lower else None
        session.edit("restack", lambda p: move_in_stack(p, holder, item_id, above, layer_id))
