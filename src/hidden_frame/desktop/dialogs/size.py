"""Page size…: another trim or bleed, tried on the desk before it is kept."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.checks.resized import Trying
from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.slices import Slicer
from hidden_frame.edit.size.layout import KEPT, construction_of
from hidden_frame.edit.size.resize import (
    LEAST_TRIM,
    Items,
    NewSize,
    area_factor,
    resize_pages,
    resizing,
)
from hidden_frame.model.canons import CANONS
from hidden_frame.model.errors import Refusal
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.invariants import MAX_BLEED, MAX_TRIM
from hidden_frame.model.number_format import decimal
from hidden_frame.model.publication import Publication
from hidden_frame.model.slices import at_once
from hidden_frame.model.trims import TRIMS
from hidden_frame.model.units import format_length

_TYPED = "typed below"
_ITEMS: list[tuple[str, object]] = [
    ("follow the edges and margins", "follow"), ("are scaled", "scale"),
    ("stay where they are", "stay"),
]  # fmt: skip
_TOLD = {
    "follow": "Items on or near an edge, margin, column or guide stay there; those that span "
    "keep spanning.",
    "scale": "Everything scales by one factor about the centre of the page; what bleeds goes "
    "on bleeding.",
    "stay": "Everything keeps its distance from the spine and the top.",
}
_MOST = 5  # masters whose margins are asked about


class SizeDialog(Question):
    """What comes of a size is on the desk, the Run and in a sentence while one chooses."""

    aside = True

    def __init__(self, session: Session, parent: QWidget | None, trim: Size | None = None) -> None:
        super().__init__(parent, "Page size", "Apply")
        session.edit_text(None)
        self.session = session
        self.before = session.history.now
        setup = self.before.setup
        self.work = Slicer(self)
        self.work.seen.connect(self._see)
        self.work.done.connect(self._see)
        self.trying = Trying(self.before, session.composer, session.blobs)
        form = self.form
        self.trim = Choice("Trim size")
        self.trim.committed.connect(self._take_trim)
        form.row("Trim size", self.trim)
        self.wide = LengthField("Width", setup.unit, LEAST_TRIM, MAX_TRIM)
        self.high = LengthField("Height", setup.unit, LEAST_TRIM, MAX_TRIM)
        self.bleed = LengthField("Bleed", setup.unit, 0.0, MAX_BLEED)
        form.row("Width", self.wide)
        form.row("Height", self.high)
        form.row("Bleed", self.bleed)
        self.items = Choice("Items")
        self.items.show_choice(_ITEMS, "follow")
        form.row("Items", self.items)
        self.factor = NumberField("Factor", "%", 1.0, 10_000.0, 100.0)
        self.factor.setPlaceholderText("by the page’s area")
        form.row("Factor", self.factor)
        self.type_too = QCheckBox("Letters and the widths of lines, too")
        form.column.addWidget(self.type_too)
        self.what = form.note()
        self._by_itself: dict[str, object] = {}  # what becomes of margins if nothing is said
        self.margins = self._margin_rows()
        form.heading("RESULT")
        self.told = form.note(" ")
        self.told.setMinimumHeight(3 * self.fontMetrics().lineSpacing())
        for field in (self.wide, self.high, self.bleed, self.factor):
            field.committed.connect(self._try)
        self.items.committed.connect(self._try)
        self.type_too.clicked.connect(self._try)
        self.rejected.connect(self._leave)
        size = trim or setup.trim
        self.wide.show_value(size.width)
        self.high.show_value(size.height)
        self.bleed.show_value(setup.bleed)
        self.finish()
        self._try()

    def _margin_rows(self) -> dict[str, Choice]:
        """Margins in the new size: of the publication, and of masters that have their own."""
        now = self.before
        sets = [("", "The publication", now.setup.margins)]
        sets += [(m.id, m.name, m.margins) for m in now.masters if m.margins is not None][:_MOST]
        self.form.heading("MARGINS IN THE NEW SIZE")
        rows = {}
        for holder, name, margins in sets:
            field = rows[holder] = Choice(f"Margins of {name}")
            options, self._by_itself[holder] = self._ways(margins)
            field.show_choice(options, self._by_itself[holder])
            field.committed.connect(self._try)
            self.form.row(name, field)
        return rows

    def _ways(self, margins: Margins) -> tuple[list[tuple[str, object]], object]:
        follows = construction_of(self.before.setup.trim, margins)
        options: list[tuple[str, object]] = [("as wide as they are", KEPT)]
        options += [(canon.name, canon.name) for canon in CANONS]
        return options, follows.name if follows is not None else KEPT

    # -- what is chosen ----------------------------------------------------------------

    def _take_trim(self, name: object) -> None:
        size = TRIMS.get(str(name))
        if size is not None:
            self.wide.show_value(size.width)
            self.high.show_value(size.height)
            self._try()

    def _size(self) -> Size:
        """The trim as typed; raises the refusal of the field that is wrong."""
        read = [f.length() or 0.0 for f in (self.wide, self.high)]
        named = next(
            (s for s in TRIMS.values()
             if abs(s.width - read[0]) < 0.005 and abs(s.height - read[1]) < 0.005), None,
        )  # fmt: skip
        return named or Size(*read)

    def chosen(self) -> NewSize:
        """What is chosen; raises `Refusal` for what can't be."""
        size, bleed = self._size(), self.bleed.length()
        items: Items = self.items.value()  # type: ignore[assignment]
        if items == "scale":
            typed = self.factor.text().strip()
            factor = float(str(self.factor.parse(typed))) if typed else None
            return NewSize(size, bleed, items, factor, self.type_too.isChecked())
        margins = {}
        if items == "follow" and size != self.before.setup.trim:
            # What is as it would be anyway is not asked for.
            margins = {
                holder: str(field.value()) for holder, field in self.margins.items()
                if field.value() != self._by_itself[holder]
            }  # fmt: skip
        return NewSize(size, bleed, items, margins=margins)

    def _show_rows(self, chosen: NewSize) -> None:
        """The rows that matter to what is chosen."""
        items, size = chosen.items, chosen.trim
        assert size is not None
        name = next((n for n, s in TRIMS.items() if s == size), _TYPED)
        self.trim.show_choice([*((n, n) for n in TRIMS), (_TYPED, _TYPED)], name)
        self.form.show_row(self.factor, items == "scale")
        self.type_too.setVisible(items == "scale")
        factor = area_factor(self.before.setup.trim, size)
        self.factor.setPlaceholderText(
            f"{decimal(factor * 100, 1, trimmed=False)} %, by the page’s area"
        )
        for field in self.margins.values():
            field.setEnabled(items == "follow" and size != self.before.setup.trim)
        self.what.setText(_TOLD[items])

    # -- what comes of it --------------------------------------------------------------

    def _try(self) -> None:
        """The spread in sight at once; all pages, and what is wrong with them, beside the desk."""
        self.work.stop()
        self.trying.came, self.trying.whole = None, False
        try:
            chosen = self.chosen()
            self._show_rows(chosen)
            seen = [face.holder_id for face in self.session.faces()]
            first = resize_pages(self.before, chosen, seen)
        except Refusal as refusal:
            self.session.set_draft(None)
            self.told.setText(" ")
            self.form.say(refusal)
            return
        self.form.say("")
        if first is self.before:
            self.session.set_draft(None)
            self.told.setText("No changes yet.")
            return
        self.session.set_draft(first)
        self.told.setText("Checking all pages…")
        self.work.start(self.trying.slices(resizing(self.before, chosen)), first)

    def _see(self, publication: Publication) -> None:
        if publication is not self.session.publication:
            self.session.set_draft(publication)
        self._tell()

    def _tell(self) -> None:
        came, setup = self.trying.came, self.session.publication.setup
        if came is None:
            return
        across, down = (format_length(v, setup.unit) for v in (setup.trim.width, setup.trim.height))
        so_far = "" if self.trying.whole else " So far; still checking…"
        self.told.setText(f"{across} × {down}. {came.sentence}{so_far}")

    # -- answers -----------------------------------------------------------------------

    def _leave(self) -> None:
        self.work.stop()
        self.session.set_draft(None)

    def answer(self) -> None:
        chosen = self.chosen()
        resize_pages(self.before, chosen, ())  # what is wrong with it belongs here
        made = self.session.publication if self.trying.whole else None
        self.work.stop()
        self.session.set_draft(None)
        self.session.edit("page size", lambda p: made or at_once(resizing(p, chosen)))
