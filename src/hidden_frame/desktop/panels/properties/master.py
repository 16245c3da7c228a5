"""Properties of the master on the desk."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.fields.inherited import InheritedList
from hidden_frame.desktop.panels.properties.setup import canon_choice, pages_in_words
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.masters.apply import (
    possible_bases,
    rename_master,
    set_base,
    set_opens,
    set_page_layout,
)
from hidden_frame.edit.masters.overrides import follow_all
from hidden_frame.model.canons import CANONS
from hidden_frame.model.geometry import Columns, Grid, Guide
from hidden_frame.model.invariants import check
from hidden_frame.model.layouts import master_layout
from hidden_frame.model.lookup import find_master
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Master, Publication
from hidden_frame.model.units import format_length


class MasterForm(Form):
    """Name, base, and the margins, columns and guides that the master sets or inherits."""

    folds = True

    def __init__(self, session: Session) -> None:
        from hidden_frame.desktop.dialogs.guides import GuidesDialog

        super().__init__()
        self.session = session
        unit = session.publication.setup.unit
        self.name_label = self.title("")
        self.what = self.note()
        self.name = TextField("Name")
        self.name.committed.connect(self._rename)
        self.row("Name", self.name)
        self.base = Choice("Builds on")
        self.base.committed.connect(self._set_base)
        self.row("Builds on", self.base)
        self.opens = Choice("Sections start on")
        self.opens.committed.connect(
            lambda side: session.edit(
                "opening side", lambda p: set_opens(p, session.master_id, side)
            )
        )
        self.row("Sections start on", self.opens)
        self.opens.setToolTip(
            "Checks report a section that starts with this master on the other side"
        )
        self.from_base = self.heading("FROM THE BASE")
        self.departs = self.note()
        self.inherited = InheritedList(session)
        self.column.addWidget(self.inherited)
        self.again = self.buttons("Follow the base again")[0]
        self.again.clicked.connect(
            lambda: session.edit("follow the base", lambda p: follow_all(p, session.master_id))
        )
        self.heading("MARGINS")
        self.canon = Choice("Margins by")
        self.canon.committed.connect(self._set_canon)
        self.row("By", self.canon)
        self.margins: dict[str, LengthField] = {}
        for side in ("top", "bottom", "inside", "outside"):
            field = LengthField(side.capitalize(), unit, 0.0)
            field.committed.connect(lambda v, s=side: self._set_margin(s, v))
            self.row(side.capitalize(), field)
            self.margins[side] = field
        self.own_margins = self.buttons("Margins from the base")[0]
        self.own_margins.clicked.connect(lambda: self._layout(margins=None))
        self.heading("COLUMNS")
        self.count = NumberField("Columns", "", 1, 40)
        self.count.committed.connect(lambda v: self._set_columns(count=int(float(v))))
        self.row("Columns", self.count)
        self.gutter = LengthField("Gutter", unit, 0.0)
        self.gutter.committed.connect(lambda v: self._set_columns(gutter=float(v)))
        self.row("Gutter", self.gutter)
        self.own_columns = self.buttons("Columns from the base")[0]
        self.own_columns.clicked.connect(lambda: self._layout(columns=None))
        self.heading("BASELINE GRID")
        self.grid_start = LengthField("Grid starts at", unit, 0.0)
        self.grid_start.committed.connect(lambda v: self._set_grid(start=float(v)))
        self.row("Starts at", self.grid_start)
        self.grid_step = LengthField("Grid step", "pt", 1.0)
        self.grid_step.committed.connect(lambda v: self._set_grid(step=float(v)))
        self.row("Step", self.grid_step)
        self.own_grid = self.buttons("Grid from the base")[0]
        self.own_grid.clicked.connect(lambda: self._layout(grid=None))
        self.heading("GUIDES")
        self.guides = self.note()
        self.across = LengthField("Add horizontal guide", unit)
        self.across.committed.connect(lambda v: self._add_guide("horizontal", float(v)))
        self.row("Add horizontal guide, from top", self.across)
        self.down = LengthField("Add vertical guide", unit)
        self.down.committed.connect(lambda v: self._add_guide("vertical", float(v)))
        self.row("Add vertical guide, from spine", self.down)
        self.fields, self.no_guides = self.buttons("Rows, columns…", "Remove all guides")
        self.fields.setToolTip("Guides in rows and columns, or at intervals")
        self.fields.clicked.connect(lambda: GuidesDialog(session, self.window()).exec())
        self.no_guides.clicked.connect(lambda: self._layout(guides=()))
        self.own_guides = self.buttons("Guides from the base")[0]
        self.own_guides.clicked.connect(lambda: self._layout(guides=None))
        self.end()

    def _master(self) -> Master:
        return find_master(self.session.publication, self.session.master_id)

    def load(self) -> None:
        publication = self.session.publication
        master = self._master()
        layout = master_layout(publication, master.id)
        self.name_label.setText(master.name)
        self.what.setText(f"Master · {pages_in_words(publication, master.id)}")
        self.name.show_text(master.name)
        options: list[tuple[str, object]] = [("no other master", None)]
        options += [(m.name, m.id) for m in possible_bases(publication, master.id)]
        self.base.show_choice(options, master.base)
        self.opens.show_choice(
            (("either side", "either"), ("a recto", "recto"), ("a verso", "verso")), master.opens
        )
        departs = len(master.overrides)
        self.departs.setText(
            f"◆ {departs} changed here; all else follows" if departs else "All follow"
        )
        self.departs.setVisible(master.base is not None)
        self.from_base.setVisible(master.base is not None)
        self.inherited.load()
        self.inherited.setVisible(master.base is not None)
        self.again.setVisible(bool(departs))
        self.canon.show_choice(*canon_choice(publication, layout.margins))
        for side, field in self.margins.items():
            field.show_value(getattr(layout.margins, side))
        self.count.show_value(layout.columns.count)
        self.gutter.show_value(layout.columns.gutter)
        self.own_margins.setVisible(master.margins is not None)
        self.own_columns.setVisible(master.columns is not None)
        grid = layout.grid
        self.grid_start.show_text("" if grid is None else self._length(grid.start))
        self.grid_step.show_text("" if grid is None else format_length(grid.step, "pt"))
        self.grid_start.setPlaceholderText("no grid")
        self.grid_step.setPlaceholderText("no grid")
        self.own_grid.setVisible(master.grid is not None)
        self.own_guides.setVisible(master.guides is not None and master.base is not None)
        number = len(layout.guides)
        own = "of its own" if master.guides is not None else "from its base"
        self.guides.setText(
            plural(number, "{n} guide, {own}", "{n} guides, {own}", own=own) if number else "None"
        )
        self.no_guides.setVisible(bool(number))
        self.across.show_text("")
        self.down.show_text("")

    def _rename(self, name: object) -> None:
        master = self.session.master_id
        self.session.edit("rename master", lambda p: rename_master(p, master, str(name)))

    def _set_base(self, base: object) -> None:
        master = self.session.master_id
        self.session.edit(
            "change base", lambda p: set_base(p, master, None if base is None else str(base))
        )

    def _layout(self, **changes: object) -> None:
        """The master's own layout with some of it changed; None goes back to the base's."""
        master = self._master()
        values: dict[str, object] = {
            "margins": master.margins, "columns": master.columns, "guides": master.guides,
            "grid": master.grid,
        }  # fmt: skip
        values |= changes

        def change(publication: Publication) -> Publication:
            return check(set_page_layout(publication, master.id, **values))  # type: ignore[arg-type]

        self.session.edit("page layout", change)

    def _length(self, points: float) -> str:
        return format_length(points, self.session.publication.setup.unit)

    def _set_grid(self, **changes: float) -> None:
        """The grid with another start or step; a first one starts at the upper margin."""
        layout = master_layout(self.session.publication, self.session.master_id)
        grid = layout.grid or Grid(layout.margins.top, 12.0)
        self._layout(grid=replace(grid, **changes))

    def _set_canon(self, number: object) -> None:
        """Margins by a construction, from the trim size."""
        if isinstance(number, int):
            self._layout(margins=CANONS[number].margins(self.session.publication.setup.trim))

    def _set_margin(self, side: str, value: object) -> None:
        margins = master_layout(self.session.publication, self.session.master_id).margins
        self._layout(margins=replace(margins, **{side: value}))

    def _set_columns(self, **changes: object) -> None:
        columns = master_layout(self.session.publication, self.session.master_id).columns
        values = {"count": columns.count, "gutter": columns.gutter} | changes
        self._layout(columns=Columns(**values))  # type: ignore[arg-type]

    def _add_guide(self, axis: str, position: float) -> None:
        guides = master_layout(self.session.publication, self.session.master_id).guides
        self._layout(guides=(*guides, Guide(axis, position)))  # type: ignore[arg-type]
