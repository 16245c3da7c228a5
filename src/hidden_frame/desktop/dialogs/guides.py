"""Guides in rows and columns with gutters, or repeated at an interval."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.guides import add_guides, at_intervals, fields, remove_guides
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Guide
from hidden_frame.model.layouts import master_layout, page_layout
from hidden_frame.model.lookup import find_page, masters_by_id
from hidden_frame.model.publication import Publication
from hidden_frame.model.units import round_gutter, round_step

WAYS = (("rows and columns", "fields"), ("at an interval across", "horizontal"),
        ("at an interval down", "vertical"))  # fmt: skip


class GuidesDialog(EditQuestion):
    """Guides for the page or master that is worked on; on a facing master they mirror."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Guides", "Add guides")
        unit = session.publication.setup.unit
        self.holder = session.holder_id
        self.way = Choice("How")
        self.way.show_choice(WAYS, "fields")
        self.way.activated.connect(self._show_rows)
        self.form.note("Guides for this page or master only; they don’t print.")
        self.form.row("How", self.way)
        self.within = Choice("Inside")
        self.within.show_choice((("the margins", True), ("the page", False)), True)
        self.form.row("Inside", self.within)
        self.rows = NumberField("Rows", "", 1, 200)
        self.columns = NumberField("Columns", "", 1, 200)
        self.down = LengthField("Gap between rows", unit, 0.0)
        self.across = LengthField("Gap between columns", unit, 0.0)
        for field, value in ((self.rows, 3), (self.columns, 2)):
            field.show_value(value)
        for gap in (self.down, self.across):
            gap.show_value(round_gutter(unit))
        self.form.row("Rows", self.rows)
        self.form.row("Gap between rows", self.down)
        self.form.row("Columns", self.columns)
        self.form.row("Gap between columns", self.across)
        self.first = LengthField("First at", unit)
        self.step = LengthField("Every", unit)
        self.count = NumberField("How many", "", 1, 200)
        self.first.show_value(round_step(unit))
        self.step.show_value(round_step(unit))
        self.count.show_value(10)
        self.form.row("First at", self.first)
        self.form.row("Every", self.step)
        self.form.row("How many", self.count, known_as="count")
        self.instead = QCheckBox("Replace the guides that are there")
        self.form.column.addWidget(self.instead)
        self._show_rows()
        self.finish()

    def _show_rows(self) -> None:
        """Only the rows that the chosen way needs can be filled in."""
        by_fields = self.way.currentIndex() == 0
        for field in (self.within, self.rows, self.down, self.columns, self.across):
            field.setEnabled(by_fields)
        for field in (self.first, self.step, self.count):
            field.setEnabled(not by_fields)

    def guides(self) -> list[Guide]:
        """The guides meant; raises `Refusal` for what can't be."""
        publication = self.session.publication
        way = WAYS[self.way.currentIndex()][1]
        if way != "fields":
            axis = "horizontal" if way == "horizontal" else "vertical"
            count = int(self.count.read())
            step = self.step.read()
            if step <= 0:
                raise self.step.refusal("The distance between guides must be greater than 0.")
            return at_intervals(axis, self.first.read(), step, count)  # type: ignore[arg-type]
        trim = publication.setup.trim
        top, inside, width, height = 0.0, 0.0, trim.width, trim.height
        if self.within.currentIndex() == 0:
            if self.holder in masters_by_id(publication):
                margins = master_layout(publication, self.holder).margins
            else:
                margins = page_layout(publication, find_page(publication, self.holder)).margins
            top, inside = margins.top, margins.inside
            width -= margins.inside + margins.outside
            height -= margins.top + margins.bottom
        rows = _divided(top, height, self.rows, self.down)
        columns = _divided(inside, width, self.columns, self.across)
        return [Guide("horizontal", y) for y in rows] + [Guide("vertical", x) for x in columns]

    def answer(self) -> None:
        made = self.guides()
        instead, holder = self.instead.isChecked(), self.holder

        def change(publication: Publication) -> Publication:
            if instead:
                publication = remove_guides(publication, holder)
            return add_guides(publication, holder, made)

        self.edit(f"add {len(made)} guides", change)


def _divided(start: float, length: float, count: NumberField, gutter: LengthField) -> list[float]:
    """The edges of fields as two rows of the form say; refusals are about one of the two."""
    try:
        return fields(start, length, int(count.read()), gutter.read())
    except Refusal as refusal:
        at = {"count": count, "gutter": gutter}.get(refusal.field)
        raise refusal if at is None else at.refusal(str(refusal)) from refusal
