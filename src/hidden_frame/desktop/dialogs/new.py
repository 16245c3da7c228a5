"""New publication: trim, bleed, margins, facing, opening side, number of pages."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.dialogs.spread import paint_spread
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.fields.numbering import PageCountField
from hidden_frame.desktop.look import theme
from hidden_frame.edit.new import new_publication
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import SIDES, Columns, Margins, Side, Size
from hidden_frame.model.presets import PRESETS, Preset
from hidden_frame.model.publication import Publication, Setup
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.units import UNITS, Unit, format_length, mm, parse_length

_TYPED = "typed below"
_RECENT = 5  # publications offered
_LEAST = 10.0  # points, of a side of a page


class NewDialog(Question):
    """`publication` holds the answer once accepted."""

    def __init__(
        self,
        parent: QWidget | None = None,
        preset: Preset | None = None,
        recent: Sequence[str] = (),
    ) -> None:
        super().__init__(parent, "New publication", "Create")
        self.publication: Publication | None = None
        self.going_on: Path | None = None  # a recent publication, chosen instead
        self.unit: Unit = "mm"
        form = self.form
        self.preset = Choice("Kind")
        self.preset.show_choice([(p.name, p) for p in PRESETS], None)
        self.preset.committed.connect(self.take)
        self.preset.setPlaceholderText("choose a starting point")
        form.row("Kind", self.preset)
        self.name = TextField("Title")
        self.name.setText("Untitled publication")
        form.row("Title", self.name)
        self.trim = Choice("Trim size")
        self.trim.show_choice([*((n, n) for n in TRIMS), (_TYPED, _TYPED)], "A5")
        self.trim.committed.connect(self._take_trim)
        form.row("Trim size", self.trim)
        self.width_field = self._length("Width")
        self.height_field = self._length("Height", beside=True)
        self.bleed = self._length("Bleed", mm(3))
        self.units = Choice("Unit")
        self.units.show_choice([(u, u) for u in UNITS], "mm")
        self.units.committed.connect(self._take_unit)
        form.row("Unit", self.units, beside=True)
        form.heading("MARGINS")
        self.margins = {
            s: self._length(s, mm(18), beside=s in ("Bottom", "Outside"))
            for s in ("Top", "Bottom", "Inside", "Outside")
        }
        form.heading("COLUMNS")
        self.columns = TextField("Columns")
        self.columns.setText("1")
        self.columns.textChanged.connect(self._changed)
        form.row("Columns", self.columns)
        self.gutter = self._length("Gutter", mm(5), beside=True)
        form.heading("PAGES")
        self.pages = PageCountField("Number of pages")
        self.pages.setText("8")
        form.row("Number of pages", self.pages)
        self.facing = Choice("Pages")
        self.facing.show_choice([("facing", True), ("single", False)], True)
        form.row("Pages", self.facing)
        self.opening = Choice("Begins with")
        options = [("one page alone", "recto"), ("a spread", "verso")]
        self.opening.show_choice(options, "recto")
        form.row("Begins with", self.opening)
        form.note("All of this can be changed later, in Properties and with Page size….")
        self.preview = SpreadPreview(self)
        self.pages.textChanged.connect(self._changed)
        for field in form.findChildren(TextField):  # a field that is left takes back its own fault
            field.committed.connect(self._changed)
        self.facing.committed.connect(self._changed)
        self.opening.committed.connect(self._changed)
        self.form.end(keeps_room=True)
        self.form.setMinimumWidth(self.form.sizeHint().width())
        self.column.removeWidget(self.form)
        row = QHBoxLayout()
        row.addWidget(self.form)
        beside = QVBoxLayout()
        beside.addWidget(self.preview, 1)
        self.recent = QListWidget()
        self.recent.setAccessibleName("Go on with")
        self._offer(beside, recent)
        row.addLayout(beside, 1)
        self.column.addLayout(row)
        self.column.addWidget(self.box)
        self._take_trim("A5")
        if preset is not None:
            self.take(preset)

    def _offer(self, column: QVBoxLayout, recent: Sequence[str]) -> None:
        """Recent publications below the preview; a click goes on with one instead."""
        there = [Path(name) for name in recent if Path(name).is_file()][:_RECENT]
        self.recent.setVisible(bool(there))
        if not there:
            return
        heading = QLabel("OR A RECENT ONE")
        heading.setObjectName("Heading")
        column.addWidget(heading)
        column.addWidget(self.recent)
        for path in there:
            entry = QListWidgetItem(path.stem, self.recent)
            entry.setToolTip(str(path))
        self.recent.setFixedHeight(self.recent.sizeHintForRow(0) * len(there) + 6)

        def go_on(row: QListWidgetItem) -> None:
            self.going_on = Path(row.toolTip())
            self.reject()

        self.recent.itemClicked.connect(go_on)
        self.recent.itemActivated.connect(go_on)

    def take(self, preset: object) -> None:
        """Fills in a kind of publication; everything can be changed from there."""
        assert isinstance(preset, Preset)
        setup = preset.setup
        self.preset.setCurrentText(preset.name)
        self.unit = setup.unit
        self.units.show_choice([(u, u) for u in UNITS], self.unit)
        name = next((n for n, size in TRIMS.items() if size == setup.trim), _TYPED)
        self.trim.show_choice([*((n, n) for n in TRIMS), (_TYPED, _TYPED)], name)
        margins = setup.margins
        lengths = {
            self.width_field: setup.trim.width, self.height_field: setup.trim.height,
            self.bleed: setup.bleed, self.margins["Top"]: margins.top,
            self.margins["Bottom"]: margins.bottom, self.margins["Inside"]: margins.inside,
            self.margins["Outside"]: margins.outside, self.gutter: setup.columns.gutter,
        }  # fmt: skip
        for field, points in lengths.items():
            field.setText(format_length(points, self.unit))
        self.columns.setText(str(setup.columns.count))
        self.pages.setText(str(preset.pages))
        self.facing.setCurrentIndex(0 if setup.facing else 1)
        self._changed()

    def _length(self, label: str, points: float = 0.0, *, beside: bool = False) -> TextField:
        field = TextField(label)
        field.setText(format_length(points, "mm"))
        field.textChanged.connect(self._changed)
        self.form.row(label, field, beside=beside)
        return field

    def _take_trim(self, name: object) -> None:
        size = TRIMS.get(str(name))
        if size is not None:
            self.width_field.setText(format_length(size.width, self.unit))
            self.height_field.setText(format_length(size.height, self.unit))

    def _take_unit(self, unit: object) -> None:
        """The same lengths written in another unit."""
        old, self.unit = self.unit, str(unit)  # type: ignore[assignment]
        fields = [
            self.width_field,
            self.height_field,
            self.bleed,
            *self.margins.values(),
            self.gutter,
        ]
        for field in fields:
            try:
                points = parse_length(field.text(), old)
            except Refusal:
                continue
            field.setText(format_length(points, self.unit))

    def _changed(self, *_: object) -> None:
        """What is wrong is said at once, at its field; not while a field is empty, to be typed."""
        wrong = self.wrong()
        sentence, field = wrong or ("", None)
        if isinstance(field, TextField) and not field.text().strip():
            sentence, field = "", None
        self.form.say(sentence, field)
        self.preview.update()

    def _read(self, field: TextField, least: float = 0.0) -> float:
        try:
            value = parse_length(field.text(), self.unit)
        except Refusal as refusal:
            raise field.refusal(f"{field.accessibleName()}: {refusal}") from refusal
        if value < least:
            raise field.refusal(
                f"{field.accessibleName()} “{field.text()}” is too small; give at least "
                f"{format_length(least, self.unit)}."
            )
        return value

    def _count(self) -> int:
        text = self.columns.text().strip()
        if not text.isdecimal() or not 1 <= int(text) <= 40:
            raise self.columns.refusal(
                f"“{text}” is not a number of columns; give a whole number from 1 to 40."
            )
        return int(text)

    def wrong(self) -> tuple[str, QWidget | None] | None:
        """What is wrong first, in the order of the fields, and the field; None if nothing is."""
        asked: list[tuple[TextField, Callable[[], object]]] = [
            (field, partial(self._read, field, least))
            for field, least in (
                (self.width_field, _LEAST), (self.height_field, _LEAST), (self.bleed, 0.0),
                *((field, 0.0) for field in self.margins.values()),
            )
        ]  # fmt: skip
        asked += [(self.columns, self._count), (self.gutter, partial(self._read, self.gutter)),
                  (self.pages, self.pages.read)]  # fmt: skip
        for field, read in asked:
            try:
                read()
            except Refusal as refusal:
                return str(refusal), field
        try:
            new_publication("-", self.setup(), 1)
        except Refusal as refusal:
            return str(refusal), self.form.field_of(refusal) or self._too_much()
        return None

    def _too_much(self) -> TextField:
        """The margin to change where all of them together leave no room."""
        setup = self.setup()
        across = setup.margins.inside + setup.margins.outside >= setup.trim.width
        return self.margins["Inside" if across else "Top"]

    def setup(self) -> Setup:
        """The setup as typed; raises `Refusal` for what can't be."""
        trim = Size(self._read(self.width_field, _LEAST), self._read(self.height_field, _LEAST))
        m = {name: self._read(field) for name, field in self.margins.items()}
        side: Side = SIDES[self.opening.currentIndex() == 0]
        return Setup(
            trim=trim,
            bleed=self._read(self.bleed),
            facing=self.facing.currentIndex() == 0,
            opening=side,
            margins=Margins(
                top=m["Top"], bottom=m["Bottom"], inside=m["Inside"], outside=m["Outside"]
            ),
            columns=Columns(self._count(), self._read(self.gutter)),
            unit=self.unit,
        )

    def answer(self) -> None:
        if (wrong := self.wrong()) is not None:
            raise Refusal(wrong[0])
        title = self.name.text().strip() or "Untitled publication"
        self.publication = new_publication(title, self.setup(), self.pages.read())

    def _accept(self) -> None:
        wrong = self.wrong()
        if wrong is None:
            super()._accept()
            return
        self.form.say(*wrong)
        if wrong[1] is not None:
            wrong[1].setFocus()


class SpreadPreview(QWidget):
    """The first spread as typed: paper, margins, fold."""

    def __init__(self, dialog: NewDialog) -> None:
        super().__init__(dialog)
        self.dialog = dialog
        self.setMinimumSize(300, 320)

    def paintEvent(self, event: QPaintEvent) -> None:
        colours = theme.current()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(colours.desk))
        painter.drawRoundedRect(self.rect(), 8, 8)
        try:
            setup = self.dialog.setup()
        except Refusal:
            painter.setPen(QColor(colours.quiet))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "…")
            return
        paint_spread(painter, QRectF(self.rect()).adjusted(20, 20, -20, -40), setup)
        across = format_length(setup.trim.width, self.dialog.unit)
        down = format_length(setup.trim.height, self.dialog.unit)
        painter.setPen(QColor(colours.text))
        foot = QRectF(0, self.height() - 34, self.width(), 22)
        painter.drawText(foot, Qt.AlignmentFlag.AlignHCenter, f"{across} × {down}")
