"""The tab stops of a paragraph style: position, alignment and leader, a row each."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QToolButton, QVBoxLayout, QWidget

from hidden_frame.desktop.fields.fields import Choice, LengthField
from hidden_frame.desktop.look.icons import dress
from hidden_frame.model.errors import Refusal
from hidden_frame.model.text import TabStop

_ALIGN = (("left", "left"), ("right", "right"), ("centre", "centre"))
_LEADERS = (("none", ""), (".....", "."), (". . . .", " ."), ("·····", "·"), ("____", "_"),
            ("- - -", "-"))  # fmt: skip
_MOST = 12  # stops of one style


class _Stop(QWidget):
    """One stop; an empty position is the right edge of the line."""

    def __init__(self, stop: TabStop) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(5)
        self.position = LengthField("Tab stop", "pt", 0.0)
        self.position.setPlaceholderText("right edge")
        self.position.setToolTip("From the frame\u2019s left edge; empty means the right edge")
        if stop.position is not None:
            self.position.show_value(stop.position)
        self.align = Choice("Alignment at the stop")
        self.align.show_choice(_ALIGN, stop.align)
        self.leader = Choice("Leader")
        known = [value for _, value in _LEADERS]
        own = [] if stop.leader in known else [(f"“{stop.leader}”", stop.leader)]
        self.leader.show_choice([*_LEADERS, *own], stop.leader)
        self.gone = QToolButton()
        dress(self.gone, "ph.x", 12)
        self.gone.setToolTip("Remove this tab stop")
        self.gone.setAccessibleName("Remove this tab stop")
        for field, share in ((self.position, 2), (self.align, 2), (self.leader, 3)):
            field.setMinimumWidth(84)
            row.addWidget(field, share)
        row.addWidget(self.gone)

    def stop(self) -> TabStop:
        typed = self.position.text().strip()
        position = None if typed in ("", "right edge") else self.position.parse(typed)
        return TabStop(position, self.align.value(), str(self.leader.value()))  # type: ignore[arg-type]


class TabStops(QWidget):
    """Rows of stops, and a button for one more; `stops` gives them, or refuses a length."""

    refused = Signal(str)
    changed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(5)
        self.rows: list[_Stop] = []
        self.more = QPushButton("Add a tab stop")
        self.more.setAutoDefault(False)
        self.more.clicked.connect(self._one_more)
        self.column.addWidget(self.more)

    def _one_more(self) -> None:
        self._add(TabStop(None, "right", "."))
        self.changed.emit()

    def show_stops(self, stops: tuple[TabStop, ...]) -> None:
        for row in list(self.rows):
            self._remove(row)
        for stop in stops:
            self._add(stop)

    def stops(self) -> tuple[TabStop, ...]:
        """What is set, from left to right."""
        found = [row.stop() for row in self.rows]
        if len(found) > _MOST:
            raise Refusal(f"A style has at most {_MOST} tab stops; remove some.")
        ends = [float("inf") if s.position is None else s.position for s in found]
        return tuple(s for _, s in sorted(zip(ends, found, strict=True), key=lambda pair: pair[0]))

    def _add(self, stop: TabStop) -> None:
        row = _Stop(stop)
        row.position.refused.connect(self.refused)
        row.position.committed.connect(lambda _: self.changed.emit())
        row.align.committed.connect(lambda _: self.changed.emit())
        row.leader.committed.connect(lambda _: self.changed.emit())
        row.gone.clicked.connect(lambda: self._take_away(row))
        self.rows.append(row)
        self.column.insertWidget(self.column.count() - 1, row)

    def _take_away(self, row: _Stop) -> None:
        self._remove(row)
        self.changed.emit()

    def _remove(self, row: _Stop) -> None:
        self.rows.remove(row)
        self.column.removeWidget(row)
        row.deleteLater()
