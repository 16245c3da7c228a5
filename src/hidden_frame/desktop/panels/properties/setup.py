"""Rows for the publication's setup and defaults, and margins by a construction."""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QCheckBox

from hidden_frame.compose.followers import followers
from hidden_frame.desktop.fields.fields import Choice, LengthField, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.panels.properties.stack import StackEditor
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.about import set_title
from hidden_frame.edit.masters.apply import set_default_masters
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.edit.size.layout import construction_of
from hidden_frame.edit.size.resize import LEAST_TRIM, resize
from hidden_frame.model.canons import CANONS
from hidden_frame.model.geometry import Margins, Size
from hidden_frame.model.invariants import MAX_BLEED, MAX_TRIM
from hidden_frame.model.plural import plural
from hidden_frame.model.publication import Publication
from hidden_frame.model.units import UNITS


class SetupRows(QObject):
    """Title, size, bleed and unit, facing or single pages, the opening side, and what automatic
    pages follow.  Another size is `wanted` (a `Size`, or None to choose one): it is asked then what
    becomes of what is there."""

    wanted = Signal(object)

    def __init__(self, form: Form, session: Session) -> None:
        super().__init__(form)
        self.session = session
        self.title = TextField("Title")
        self.title.committed.connect(
            lambda v: session.edit("title", lambda p: set_title(p, str(v)))
        )
        form.row("Title", self.title)
        self.wide = LengthField("Page width", "mm", LEAST_TRIM, MAX_TRIM)
        self.high = LengthField("Page height", "mm", LEAST_TRIM, MAX_TRIM)
        for field in (self.wide, self.high):
            field.committed.connect(self._ask)
        form.row("Page width", self.wide)
        form.row("Page height", self.high)
        self.bleed = LengthField("Bleed", "mm", 0.0, MAX_BLEED)
        self.bleed.committed.connect(
            lambda v: session.edit("bleed", lambda p: resize(p, bleed=float(v)))
        )
        form.row("Bleed", self.bleed)
        self.unit = Choice("Unit")
        self.unit.committed.connect(
            lambda unit: session.edit("unit", lambda p: change_setup(p, unit=unit))
        )
        form.row("Unit", self.unit)
        (self.size,) = form.buttons("Page size…")
        self.size.setToolTip("Change the trim size and choose what happens to the items")
        self.size.clicked.connect(lambda: self.wanted.emit(None))
        self.facing = QCheckBox("Facing pages")
        self.facing.setToolTip("Single pages show the recto face; switching back loses nothing")
        self.facing.clicked.connect(self._set_facing)
        form.row("", self.facing)
        self.opening = Choice("Begins with")
        self.opening.committed.connect(
            lambda side: session.edit("opening side", lambda p: change_setup(p, opening=side))
        )
        form.row("Begins with", self.opening)
        self.direction = Choice("Reading direction")
        self.direction.committed.connect(
            lambda v: session.edit("reading direction", lambda p: change_setup(p, direction=v))
        )
        form.row("Reading direction", self.direction)
        self.sheet = Choice("Pages in multiples of")
        self.sheet.committed.connect(
            lambda v: session.edit("sheets", lambda p: change_setup(p, sheet=v))
        )
        form.row("Pages in multiples of", self.sheet)
        form.note("Automatic pages follow these, unless their section says otherwise:")
        self.stack = StackEditor("Default masters", "No master")
        self.stack.changed.connect(
            lambda stack: session.edit("default masters", lambda p: set_default_masters(p, stack))
        )
        form.column.addWidget(self.stack)

    def _set_facing(self, facing: bool) -> None:
        self.session.edit(
            "facing pages" if facing else "single pages", lambda p: change_setup(p, facing=facing)
        )

    def _ask(self) -> None:
        """A size was typed: what becomes of what is there is asked before anything changes."""
        now = self.session.history.now.setup
        exact = (now.trim.width, now.trim.height)
        read = [field.length() or 0.0 for field in (self.wide, self.high)]
        near = [
            e if abs(typed - e) < 0.005 else typed for typed, e in zip(read, exact, strict=True)
        ]
        size = Size(*near)
        if size != now.trim:
            self.wanted.emit(size)
        self.load()

    def load(self) -> None:
        publication = self.session.publication
        setup = publication.setup
        for field, length in ((self.wide, setup.trim.width), (self.high, setup.trim.height),
                              (self.bleed, setup.bleed)):  # fmt: skip
            field.unit = setup.unit
            field.show_value(length)
        self.unit.show_choice([(u, u) for u in UNITS], setup.unit)
        self.title.show_text(publication.title)
        self.facing.setChecked(setup.facing)
        self.opening.setEnabled(setup.facing)
        self.opening.show_choice(
            (("one page alone", "recto"), ("a spread", "verso")), setup.opening
        )
        ways = ("left to right", "right to left")
        self.direction.show_choice([(w, w) for w in ways], setup.direction)
        sheets: list[tuple[str, object]] = [("any number", 1)]
        sheets += [(f"{n}", n) for n in (2, 4, 8, 16, 32)]
        self.sheet.show_choice(sheets, setup.sheet)
        self.stack.show_stack(publication, publication.default_masters)


def canon_choice(publication: Publication, margins: Margins) -> tuple[list, object]:
    """The constructions as a choice, and the one that these margins follow, if any."""
    trim = publication.setup.trim
    options: list[tuple[str, object]] = [("as typed", None)]
    follows = construction_of(trim, margins)
    options += [(canon.name, number) for number, canon in enumerate(CANONS)]
    now = None if follows is None else CANONS.index(follows)
    return options, now


def pages_in_words(publication: Publication, master_id: str) -> str:
    """“12 pages follow”."""
    count = len(followers(publication)[master_id])
    return plural(count, "{n} page follows", "{n} pages follow")
