"""What a page or derived master shows of its masters, and where it departs from them."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHeaderView, QTreeWidget, QTreeWidgetItem

from hidden_frame.compose.departures import in_words
from hidden_frame.desktop.look.tones import set_tone, with_tones
from hidden_frame.desktop.state.session import Session
from hidden_frame.interact.hands.shown import items_on
from hidden_frame.model.items import changed_properties
from hidden_frame.model.lookup import holder, masters_by_id

_ID = Qt.ItemDataRole.UserRole
_ROWS = 9  # shown at once


class InheritedList(QTreeWidget):
    """Items that come from masters, top first; a diamond marks those that depart here."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: object = None
        self.setObjectName("Stack")
        self.setAccessibleName("Items from masters")
        with_tones(self)
        self.setColumnCount(2)
        self.setHeaderHidden(True)
        self.setRootIsDecorated(False)
        header = self.header()
        header.setStretchLastSection(False)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
        self.itemClicked.connect(lambda row, _: self._select(row.data(0, _ID)))

    def load(self) -> None:
        session = self.session
        publication, holder_id = session.publication, session.holder_id
        masters = masters_by_id(publication)
        departs = {o.item: changed_properties(o) for o in holder(publication, holder_id).overrides}
        rows = []
        for resolved in reversed(items_on(publication, holder_id, session.side)):
            if resolved.carrier not in (None, holder_id):
                item = resolved.item
                names = tuple(departs.get(item.id, {}))
                origin = masters[str(resolved.carrier)].name
                rows.append((item.id, item.name or "item", origin, names, item.visible))
        if rows == self._shown:
            return
        self._shown = rows
        self.clear()
        for item_id, name, origin, names, visible in rows:
            mark = "◆ " if names else ""
            row = QTreeWidgetItem([f"{mark}{name}", origin])
            row.setData(0, _ID, item_id)
            set_tone(row, "master" if names else "text")
            set_tone(row, "quiet", 1)
            if not visible:
                font = row.font(0)
                font.setStrikeOut(True)
                row.setFont(0, font)
            what = f"differs here in {in_words(names)}" if names else "follows in everything"
            row.setToolTip(0, f"From “{origin}”; {what}")
            self.addTopLevelItem(row)
        self.setVisible(bool(rows))
        high = self.sizeHintForRow(0) if rows else 20
        self.setFixedHeight(high * min(max(len(rows), 1), _ROWS) + 6)

    def _select(self, item_id: str) -> None:
        session = self.session
        for face in session.faces():
            if (face.holder_id, face.side) == (session.holder_id, session.side):
                session.select_items(face, (item_id,))
                return
