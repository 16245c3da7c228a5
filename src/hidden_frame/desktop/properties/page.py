"""Properties of the page on the desk, and of its section."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox

from hidden_frame.compose.facts import describe
from hidden_frame.desktop.properties.fields import Choice, TextField
from hidden_frame.desktop.properties.form import Form
from hidden_frame.desktop.properties.inherited import InheritedList
from hidden_frame.desktop.properties.setup import SetupRows
from hidden_frame.desktop.properties.stack import StackEditor
from hidden_frame.desktop.session import Session
from hidden_frame.edit.masters import apply_masters, set_section_masters
from hidden_frame.edit.overrides import follow_on_pages
from hidden_frame.edit.pages import set_blind
from hidden_frame.edit.sections import change_numbering, rename_section
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import (
    find_page,
    find_section,
    section_of,
    stack_of,
)
from hidden_frame.model.publication import Numbering

STYLES = (
    ("1, 2, 3", "decimal"),
    ("i, ii, iii", "lower roman"),
    ("I, II, III", "upper roman"),
    ("a, b, c", "lower letters"),
    ("A, B, C", "upper letters"),
    ("none", "none"),
)


class StartField(TextField):
    """The number a section starts at; empty carries on from the section before."""

    def parse(self, text: str) -> int | None:
        clean = text.strip()
        if not clean:
            return None
        if not clean.isdecimal() or not 1 <= int(clean) <= 1_000_000:
            raise Refusal(
                f"A section can't start at “{clean}”; give a whole number from 1, or nothing to "
                "carry on."
            )
        return int(clean)


class PageForm(Form):
    """What the page follows and prints, and how its section is numbered."""

    apply_wanted = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.name = self.title("")
        self.what = self.note()
        self.heading("MASTERS, TOP FIRST")
        self.how = self.note()
        self.stack = StackEditor("Master stack", "No master")
        self.stack.changed.connect(self._apply)
        self.stack.opened.connect(session.show_master)
        self.column.addWidget(self.stack)
        apply, automatic, none = self.buttons("Apply masters…", "Automatic", "No master")
        none.clicked.connect(lambda: self._apply(()))
        apply.clicked.connect(self.apply_wanted)
        automatic.clicked.connect(lambda: self._apply(None))
        automatic.setToolTip("Follow what the section or the publication says")
        self.automatic = automatic
        self.heading("FROM THE MASTERS")
        self.overrides = self.note()
        self.inherited = InheritedList(session)
        self.column.addWidget(self.inherited)
        self.again = self.buttons("Follow the masters again")[0]
        self.again.clicked.connect(self._follow_all)
        self.heading("FOLIO")
        self.blind = QCheckBox("Blind: counted, not printed")
        self.blind.clicked.connect(self._set_blind)
        self.column.addWidget(self.blind)
        self.heading("SECTION")
        self.section = TextField("Name")
        self.section.committed.connect(self._rename)
        self.row("Name", self.section)
        self.style_field = Choice("Numbering")
        self.style_field.committed.connect(lambda v: self._number(style=v))
        self.row("Numbering", self.style_field)
        self.start = StartField("Starts at")
        self.start.setPlaceholderText("carries on")
        self.start.committed.connect(lambda v: self._number(start=v))
        self.row("Starts at", self.start)
        self.prefix = TextField("Prefix")
        self.prefix.committed.connect(lambda v: self._number(prefix=str(v)[:40]))
        self.row("Prefix", self.prefix)
        self.counted = QCheckBox("Counted, though not printed")
        self.counted.clicked.connect(lambda on: self._number(counted=on))
        self.column.addWidget(self.counted)
        self.own_masters = QCheckBox("Its own masters for automatic pages")
        self.own_masters.clicked.connect(self._own_masters)
        self.column.addWidget(self.own_masters)
        self.section_stack = StackEditor("Masters of the section", "No master")
        self.section_stack.changed.connect(self._section_masters)
        self.column.addWidget(self.section_stack)
        self.setup = SetupRows(self, session)
        self.end()

    def load(self) -> None:
        session = self.session
        publication = session.publication
        page = find_page(publication, session.page_id)
        facts = session.composition.facts[page.id]
        self.name.setText(f"Page {facts.folio}" if facts.folio else f"Page #{facts.position}")
        self.what.setText(describe(facts, page))
        chosen = len(self._page())
        who = "" if chosen == 1 else f"; changes reach {chosen} selected pages"
        self.how.setText(("Automatic" if page.masters is None else "Set by hand") + who)
        self.stack.show_stack(publication, stack_of(publication, page))
        self.automatic.setEnabled(page.masters is not None or chosen > 1)
        count = len(page.overrides)
        marked = f"◆ {count} overridden here" if count else "All follow; a click selects one"
        self.overrides.setText(marked)
        self.inherited.load()
        self.again.setVisible(bool(count))
        self.blind.setChecked(page.blind)
        section = section_of(publication, page.id)
        numbering = section.numbering
        self.section.show_text(section.name)
        self.style_field.show_choice(STYLES, numbering.style)
        self.start.show_text("" if numbering.start is None else str(numbering.start))
        self.prefix.show_text(numbering.prefix)
        self.counted.setVisible(numbering.style == "none")
        self.counted.setChecked(numbering.counted)
        self.own_masters.setChecked(section.masters is not None)
        self.section_stack.setVisible(section.masters is not None)
        self.section_stack.show_stack(publication, section.masters or ())
        self.setup.load()

    def _page(self) -> tuple[str, ...]:
        chosen = self.session.pages
        return chosen if self.session.page_id in chosen else (self.session.page_id,)

    def _apply(self, masters: tuple[str, ...] | None) -> None:
        pages = self._page()
        name = "back to automatic" if masters is None else "master stack"
        self.session.edit(name, lambda p: apply_masters(p, pages, masters))

    def _follow_all(self) -> None:
        pages = self._page()
        self.session.unlocked = {u for u in self.session.unlocked if u[0] not in pages}
        self.session.edit("follow the masters", lambda p: follow_on_pages(p, pages))

    def _set_blind(self, blind: bool) -> None:
        pages = self._page()
        self.session.edit("blind folio", lambda p: set_blind(p, pages, blind))

    def _section_id(self) -> str:
        return section_of(self.session.publication, self.session.page_id).id

    def _rename(self, name: object) -> None:
        section = self._section_id()
        self.session.edit("rename section", lambda p: rename_section(p, section, str(name)))

    def _number(self, **changes: object) -> None:
        section = self._section_id()
        old = find_section(self.session.publication, section).numbering
        values = {f: getattr(old, f) for f in Numbering.__struct_fields__} | changes
        self.session.edit("numbering", lambda p: change_numbering(p, section, Numbering(**values)))

    def _own_masters(self, own: bool) -> None:
        """The section gets masters of its own, the publication's to begin with; or none."""
        self._section_masters(self.session.publication.default_masters if own else None)

    def _section_masters(self, stack: tuple[str, ...] | None) -> None:
        section = self._section_id()
        self.session.edit(
            "masters of the section", lambda p: set_section_masters(p, section, stack)
        )
