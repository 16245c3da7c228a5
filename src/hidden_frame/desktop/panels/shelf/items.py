"""Items and layers of the page or face that is worked on, layer by layer."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QModelIndex, Qt
from PySide6.QtGui import QDropEvent, QFont, QIcon
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QToolButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.compose.cascade import Resolved
from hidden_frame.desktop.look.icons import bracketed, dress
from hidden_frame.desktop.look.icons import plain_icon as icon
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.panels.properties.kinds import handled
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.draw import change_items, move_in_stack
from hidden_frame.edit.looks.layers import (
    add_layer,
    change_layer,
    delete_layer,
    items_in,
    move_layer,
)
from hidden_frame.interact.hands.faces import Face
from hidden_frame.interact.hands.shown import change_shown, items_on
from hidden_frame.model.items import Item
from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.publication import Publication

_ID = Qt.ItemDataRole.UserRole
_KIND = Qt.ItemDataRole.UserRole + 1  # "layer", "own" or "master"
EYE, LOCK, PRINT = 1, 2, 3


class ItemTree(QTreeWidget):
    """Layers, topmost first, and under each its items; a drop moves one in the stack."""

    def __init__(self, panel: ItemList) -> None:
        super().__init__()
        self.panel = panel
        self.setObjectName("Stack")
        self.setColumnCount(4)
        self.setHeaderHidden(True)
        self.setIndentation(12)
        self.setAccessibleName("Items")
        with_tones(self)
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
        for column in (EYE, LOCK, PRINT):
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
        if target is not None and moved is not None and moved.data(0, _KIND) == "layer":
            below = (
                self.dropIndicatorPosition() != QAbstractItemView.DropIndicatorPosition.AboveItem
            )
            self.panel.move_layer(moved.data(0, _ID), target, below)
            return
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
        row = QHBoxLayout()
        row.setSpacing(2)
        self.new_layer = self._tool("ph.plus", "New layer above", self._new_layer)
        self.new_layer.setText("Layer")
        self.new_layer.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextBesideIcon)
        self.layer_up = self._tool("ph.arrow-up", "Layer one up", lambda: self._step_layer(1))
        self.layer_down = self._tool(
            "ph.arrow-down", "Layer one down", lambda: self._step_layer(-1)
        )
        self.drop_layer = self._tool(
            "ph.trash", "Delete the layer and keep its items", self._delete
        )
        row.addWidget(self.new_layer)
        row.addStretch(1)
        for button in (self.layer_up, self.layer_down, self.drop_layer):
            row.addWidget(button)
        column.addLayout(row)
        note = QLabel("Drag to change the order. Double-click to rename.")
        note.setObjectName("Quiet")
        note.setWordWrap(True)
        column.addWidget(note)
        self.tree.itemSelectionChanged.connect(self._select)
        self.tree.itemClicked.connect(self._clicked)
        self.tree.itemChanged.connect(self._renamed)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)

    def _tool(self, picture: str, tip: str, run: Callable[[], None]) -> QToolButton:
        button = QToolButton()
        dress(button, picture, 16)
        button.setToolTip(tip)
        button.setAccessibleName(tip)
        button.clicked.connect(lambda _=False: run())
        return button

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
            publication.layers,
            tuple(
                (
                    r.item.id,
                    r.item.name,
                    r.item.layer,
                    r.item.group,
                    r.item.visible,
                    r.item.locked,
                    r.carrier,
                    bool(r.overridden),
                )
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
        row = self.tree.currentItem()
        chosen = row.data(0, _ID) if row is not None and row.data(0, _KIND) == "layer" else None
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
            row.setIcon(PRINT, icon("ph.printer" if layer.printing else "ph.prohibit"))
            row.setFlags(
                Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsEditable
                | Qt.ItemFlag.ItemIsDropEnabled | Qt.ItemFlag.ItemIsDragEnabled
                | Qt.ItemFlag.ItemIsSelectable
            )  # fmt: skip
            row.setToolTip(0, f"The layer {layer.name}, on all pages and masters")
            row.setToolTip(PRINT, f"Print the layer {layer.name}, or leave it out of print and PDF")
            row.setToolTip(EYE, f"Show or hide the layer {layer.name} everywhere")
            row.setToolTip(LOCK, f"Lock or unlock the layer {layer.name} everywhere")
            self.tree.addTopLevelItem(row)
            for resolved in reversed([r for r in found if r.item.layer == layer.id]):
                each = self._row(resolved)
                row.addChild(each)
                _tell_group(each, resolved.item, [r.item for r in found])
            if layer.id == chosen:
                self.tree.setCurrentItem(row)
        self.tree.expandAll()

    def _row(self, resolved: Resolved) -> QTreeWidgetItem:
        session, item = self.session, resolved.item
        own = resolved.carrier in (None, session.holder_id)
        row = QTreeWidgetItem([item.name or "item", "", ""])
        row.setData(0, _ID, item.id)
        row.setData(0, _KIND, "own" if own else "master")
        row.setIcon(0, icon(handled(item).icon))
        row.setIcon(EYE, icon("ph.eye" if item.visible else "ph.eye-slash"))
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        if own:
            row.setIcon(LOCK, icon("ph.lock-simple") if item.locked else QIcon())
            flags |= Qt.ItemFlag.ItemIsEditable | Qt.ItemFlag.ItemIsDragEnabled
            row.setToolTip(LOCK, "Lock or unlock it")
        else:
            master = masters_by_id(session.publication)[str(resolved.carrier)].name
            set_tone(row, "master")
            row.setToolTip(0, f"From the master “{master}”")
            if resolved.overridden:
                row.setText(0, f"◆ {item.name or 'item'}")
                row.setToolTip(0, f"From the master “{master}”; departs from it here")
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
            elif column == PRINT:
                name = "leave layer out of print" if layer.printing else "print layer"
                session.edit(name, lambda p: change_layer(p, wanted, printing=not layer.printing))
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
        elif column == LOCK and row.data(0, _KIND) == "own":
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

    # -- layers ----------------------------------------------------------------------

    def layer_now(self) -> str:
        """The layer that is chosen, or that of the chosen item, or else the topmost."""
        row = self.tree.currentItem()
        if row is not None:
            row = row if row.data(0, _KIND) == "layer" else row.parent()
        layers = self.session.publication.layers
        wanted = row.data(0, _ID) if row is not None else ""
        return wanted if any(x.id == wanted for x in layers) else layers[-1].id

    def _choose_layer(self, layer_id: str) -> None:
        self.refresh()
        for n in range(self.tree.topLevelItemCount()):
            row = self.tree.topLevelItem(n)
            if row is not None and row.data(0, _ID) == layer_id:
                self.tree.setCurrentItem(row)

    def _new_layer(self) -> None:
        above = self.layer_now()
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, layer_id = add_layer(publication, "Layer", above)
            made.append(layer_id)
            return publication

        if self.session.edit("new layer", change):
            self._choose_layer(made[0])
            row = self.tree.currentItem()
            if row is not None:
                self.tree.editItem(row, 0)

    def _step_layer(self, by: int) -> None:
        layer_id = self.layer_now()
        at = [x.id for x in self.session.publication.layers].index(layer_id)
        self.session.edit(
            "move layer", lambda p: move_layer(p, layer_id, at + by) if at + by >= 0 else p
        )
        self._choose_layer(layer_id)

    def move_layer(self, layer_id: str, target: QTreeWidgetItem, below: bool) -> None:
        """A layer dropped above or below the layer of a row."""
        row = target if target.data(0, _KIND) == "layer" else target.parent()
        if row is None or row.data(0, _ID) == layer_id:
            return
        rest = [x.id for x in self.session.publication.layers if x.id != layer_id]
        at = rest.index(row.data(0, _ID)) + (not below)
        self.session.edit("move layer", lambda p: move_layer(p, layer_id, at))
        self._choose_layer(layer_id)

    def _delete(self) -> None:
        session, layer_id = self.session, self.layer_now()
        name = next(x.name for x in session.publication.layers if x.id == layer_id)
        count = items_in(session.publication, layer_id)
        if session.edit("delete layer", lambda p: delete_layer(p, layer_id)) and count:
            stay = "its item is" if count == 1 else f"its {count} items are"
            session.noticed.emit(
                f"Deleted the layer {name}; {stay} in the next one. Undo brings it back."
            )

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


def _tell_group(row: QTreeWidgetItem, item: Item, items: list[Item]) -> None:
    """A bracket before the members of a group, and their names on pointing at one."""
    if item.group is None:
        return
    members = [i.name or "item" for i in items if i.group == item.group]
    row.setIcon(0, bracketed(handled(item).icon))
    said = f"In a group of {len(members)}: {', '.join(members[:6])}"
    before = row.toolTip(0)
    row.setToolTip(0, f"{before}\n{said}" if before else said)
