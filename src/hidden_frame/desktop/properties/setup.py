"""Rows for the publication's setup and defaults, and margins by a construction."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox

from hidden_frame.compose.followers import followers
from hidden_frame.desktop.properties.fields import Choice, TextField
from hidden_frame.desktop.properties.form import Form
from hidden_frame.desktop.properties.stack import StackEditor
from hidden_frame.desktop.session import Session
from hidden_frame.edit.about import set_title
from hidden_frame.edit.masters.apply import set_default_masters
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.canons import CANONS
from hidden_frame.model.geometry import Margins
from hidden_frame.model.publication import Publication


class SetupRows:
    """Title, facing or single pages, the opening side, and what automatic pages follow."""

    def __init__(self, form: Form, session: Session) -> None:
        self.session = session
        self.title = TextField("Title")
        self.title.committed.connect(
            lambda v: session.edit("title", lambda p: set_title(p, str(v)))
        )
        form.row("Title", self.title)
        self.facing = QCheckBox("Facing pages")
        self.facing.setToolTip("Single pages show the recto face; nothing is lost on the way back")
        self.facing.clicked.connect(self._set_facing)
        form.row("", self.facing)
        self.opening = Choice("Begins with")
        self.opening.committed.connect(
            lambda side: session.edit("opening side", lambda p: change_setup(p, opening=side))
        )
        form.row("Begins with", self.opening)
        self.direction = Choice("Reads")
        self.direction.committed.connect(
            lambda v: session.edit("reading direction", lambda p: change_setup(p, direction=v))
        )
        form.row("Reads", self.direction)
        self.sheet = Choice("Pages in")
        self.sheet.committed.connect(
            lambda v: session.edit("sheets", lambda p: change_setup(p, sheet=v))
        )
        form.row("Pages in", self.sheet)
        form.note("Automatic pages follow, unless their section says otherwise:")
        self.stack = StackEditor("Default masters", "No master")
        self.stack.changed.connect(
            lambda stack: session.edit("default masters", lambda p: set_default_masters(p, stack))
        )
        form.column.addWidget(self.stack)

    def _set_facing(self, facing: bool) -> None:
        self.session.edit(
            "facing pages" if facing else "single pages", lambda p: change_setup(p, facing=facing)
        )

    def load(self) -> None:
        publication = self.session.publication
        setup = publication.setup
        self.title.show_text(publication.title)
        self.facing.setChecked(setup.facing)
        self.opening.setEnabled(setup.facing)
        self.opening.show_choice(
            (("one page alone", "recto"), ("a spread", "verso")), setup.opening
        )
        ways = ("left to right", "right to left")
        self.direction.show_choice([(w, w) for w in ways], setup.direction)
        sheets: list[tuple[str, object]] = [("any number", 1)]
        sheets += [(f"multiples of {n}", n) for n in (2, 4, 8, 16, 32)]
        self.sheet.show_choice(sheets, setup.sheet)
        self.stack.show_stack(publication, publication.default_masters)


def canon_choice(publication: Publication, margins: Margins) -> tuple[list, object]:
    """The constructions as a choice, and the one that these margins follow, if any."""
    trim = publication.setup.trim
    options: list[tuple[str, object]] = [("as typed", None)]
    now: object = None
    for number, canon in enumerate(CANONS):
        options.append((canon.name, number))
        made = canon.margins(trim)
        if all(abs(getattr(made, n) - getattr(margins, n)) < 0.005
               for n in Margins.__struct_fields__):  # fmt: skip
            now = number
    return options, now


def pages_in_words(publication: Publication, master_id: str) -> str:
    """“12 pages follow”."""
    count = len(followers(publication)[master_id])
    return f"{count} page{'s' * (count != 1)} follow{'s' * (count == 1)}"
