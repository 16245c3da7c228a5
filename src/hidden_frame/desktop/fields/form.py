"""A panel of labelled rows, each with room for the mark of an override."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.fields.fields import Typed
from hidden_frame.desktop.fields.group import Group
from hidden_frame.desktop.fields.levels import Levels
from hidden_frame.model.errors import Refusal

_LABEL = 190  # pixels, the most that labels push their fields to the right


class Form(QWidget):
    """Headings, rows of one or two fields, buttons, and one place for a sentence."""

    folds = False  # whether headings fold what stands beneath them

    def __init__(self) -> None:
        super().__init__()
        self._whole = QVBoxLayout(self)
        self._whole.setContentsMargins(14, 12, 14, 12)
        self._whole.setSpacing(7)
        self.column = self._whole  # where rows are added: the whole form, a level, a group
        self._around = self._whole  # where groups are added
        self.levels: Levels | None = None
        self.groups: list[Group] = []
        self.problem = QLabel()
        self.problem.setObjectName("Error")
        self.problem.setWordWrap(True)
        self.problem.hide()
        self._room: QWidget | None = None
        self.grid: QGridLayout | None = None
        self._known_as: dict[QWidget, tuple[str, ...]] = {}
        self._rows: dict[QWidget, tuple[QWidget, ...]] = {}
        self._places: dict[QWidget, tuple[QGridLayout, int]] = {}

    def title(self, text: str) -> QLabel:
        label = QLabel(text)
        label.setObjectName("Title")
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label

    def heading(self, text: str) -> Group | QLabel:
        """What follows stands under it, and folds away with it where the form folds."""
        self.grid = None
        if self.folds:
            group = Group(f"{type(self).__name__} {text}", text)
            self.groups.append(group)
            self._around.addWidget(group)
            self.column = group.body
            return group
        label = QLabel(text)
        label.setObjectName("Heading")
        self.column.addSpacing(6)
        self.column.addWidget(label)
        return label

    def note(self, text: str = "") -> QLabel:
        self.grid = None
        label = QLabel(text)
        label.setObjectName("Quiet")
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label

    def row(
        self, label: str, field: QWidget, *, beside: bool = False, known_as: str = ""
    ) -> QToolButton:
        """A field behind its label, `beside` the one before where both are short; the button
        lets an overridden property follow again.  `known_as` are the names under which a refusal
        may speak of it."""
        self._known_as[field] = tuple(known_as.split())
        if self.grid is None:
            self.grid = QGridLayout()
            self.grid.setHorizontalSpacing(7)
            self.grid.setVerticalSpacing(6)
            self.grid.setColumnStretch(1, 1)
            self.column.addLayout(self.grid)
        name = QLabel(label)
        name.setBuddy(field)
        field.setMinimumWidth(max(58, field.minimumWidth()))
        follow = QToolButton()
        follow.setObjectName("Follow")
        follow.setText("follow")
        follow.setToolTip(f"{label}: follow the master again")
        follow.setAccessibleName(f"{label} follows the master again")
        follow.hide()
        # Each row has two more below it: for “follow” where two fields stand beside each other,
        # and for a sentence about one of them.
        row, first = 3 * len({r for g, r in self._places.values() if g is self.grid}), 0
        if beside:
            row, first = row - 3, 3
            self._make_room(self.grid, row)
        self.grid.addWidget(name, row, first)
        self.grid.addWidget(field, row, first + 1, 1, 1 if beside else 4)
        if beside:
            self.grid.addWidget(follow, row + 1, 4, Qt.AlignmentFlag.AlignRight)
        else:
            self.grid.addWidget(follow, row, 5)
        self._rows[field] = (name, field)
        self._places[field] = (self.grid, row)
        field.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        if isinstance(field, Typed):
            field.refused.connect(lambda sentence, at=field: self.say(sentence, at))
        return follow

    @staticmethod
    def _make_room(grid: QGridLayout, row: int) -> None:
        """The field of a row takes half of it, and its “follow” stands below."""
        grid.setColumnStretch(4, 1)
        for column, to in ((1, (row, 1, 1, 1)), (5, (row + 1, 1, 1, 1))):
            item = grid.itemAtPosition(row, column)
            if item is not None and (widget := item.widget()) is not None:
                grid.removeWidget(widget)
                grid.addWidget(widget, *to)
                if column == 5:
                    grid.setAlignment(widget, Qt.AlignmentFlag.AlignRight)

    def show_row(self, field: QWidget, shown: bool) -> None:
        """Shows a row, or hides it while what it depends on is not there."""
        for part in self._rows[field]:
            if part.isHidden() == shown:
                part.setVisible(shown)

    def buttons(self, *texts: str, abreast: int = 2) -> list[QPushButton]:
        """Buttons in lines of so many."""
        self.grid = None
        made = []
        for start in range(0, len(texts), abreast):
            line = QHBoxLayout()
            line.setSpacing(6)
            for text in texts[start : start + abreast]:
                button = QPushButton(text)
                button.setAutoDefault(False)  # in a dialog, Enter gives the answer
                line.addWidget(button)
                made.append(button)
            self.column.addLayout(line)
        return made

    def rule(self) -> None:
        self.grid = None
        line = QFrame()
        line.setFrameShape(QFrame.Shape.HLine)
        line.setFixedHeight(1)
        line.setStyleSheet("background: palette(mid); border: none;")
        self.column.addWidget(line)

    def end(self, keeps_room: bool = False) -> None:
        """Closes the form; a sentence that is about no single field stands at its foot.

        One that `keeps_room` has two lines for a sentence beforehand, wherever it will stand.
        """
        self.column = self._whole
        self.column.addWidget(self.problem)
        if keeps_room:
            high = 2 * self.fontMetrics().lineSpacing()
            self.problem.setMinimumHeight(high)
            self.problem.setAlignment(Qt.AlignmentFlag.AlignTop)
            self._room = QWidget()
            self._room.setFixedHeight(high + self._whole.spacing())
            self.column.addWidget(self._room)
            self._line_up()
        self.column.addStretch(1)
        self.column.setAlignment(Qt.AlignmentFlag.AlignTop)

    def _line_up(self) -> None:
        """The fields of all groups begin at one line."""
        grids = {grid for grid, _ in self._places.values()}
        labels = [parts[0] for field, parts in self._rows.items() if not self._is_beside(field)]
        widest = max((label.sizeHint().width() for label in labels), default=0)
        for grid in grids:
            grid.setColumnMinimumWidth(0, min(widest, _LABEL))

    def _is_beside(self, field: QWidget) -> bool:
        grid, _ = self._places[field]
        place: tuple[int, ...] = grid.getItemPosition(grid.indexOf(field))  # type: ignore[assignment]
        return place[1] > 1

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._room is not None:
            self._line_up()  # fonts are those of the style sheet from now on

    def level(self, *names: str) -> Levels:
        """Parts of the form of which one is in sight; `on_level` says to which rows are added."""
        self.levels = Levels(*names)
        self._whole.addWidget(self.levels)
        return self.levels

    def on_level(self, name: str) -> None:
        """Rows and groups that follow stand on this level."""
        assert self.levels is not None
        self.grid = None
        self.column = self._around = self.levels.columns[name]

    def reveal(self, widget: QWidget) -> None:
        """Brings a field into sight: its level, its group."""
        if self.levels is not None:
            self.levels.reveal(widget)
        for group in self.groups:
            if group.rows.isAncestorOf(widget):
                group.show_rows(True)

    def say(self, told: str | Refusal, field: QWidget | None = None) -> None:
        """Shows what is wrong with the last input, under its field; "" takes it away."""
        sentence = str(told)
        if field is None and isinstance(told, Refusal):
            field = self.field_of(told)
        if self._room is not None and sentence:
            self._room.hide()
        if sentence and field is not None:
            grid, row = self._places[field]
            grid.addWidget(self.problem, row + 2, 0, 1, 6)
        elif sentence:
            self._whole.insertWidget(max(self._whole.count() - 1, 0), self.problem)
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
        if self._room is not None and not sentence:
            self._room.show()

    def field_of(self, refusal: Refusal) -> QWidget | None:
        """The field that is at fault, if it is one of this form's that are shown."""
        for field in self._places:
            known = (*self._known_as[field], field.accessibleName().lower())
            if not field.isHidden() and refusal.field.lower() in known:
                return field
        return None
