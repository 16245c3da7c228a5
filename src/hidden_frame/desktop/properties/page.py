"""Properties of the page on the desk, and of its section."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QCheckBox

from hidden_frame.compose.facts import describe
from hidden_frame.desktop.properties.fields import Choice, TextField
from hidden_frame.desktop.properties.form import Form
from hidden_frame.desktop.session import Session
from hidden_frame.edit.masters import apply_masters
from hidden_frame.edit.overrides import follow_all
from hidden_frame.edit.pages import set_blind
from hidden_frame.edit.sections import change_numbering, rename_section
from hidden_frame.edit.styles import set_title
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import (
    find_page,
    find_section,
    masters_by_id,
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
        self.stack = self.note()
        self.stack.setObjectName("")
        apply, automatic, none = self.buttons("Apply masters…", "Automatic", "No master")
        apply.clicked.connect(self.apply_wanted)
        automatic.clicked.connect(lambda: self._apply(None))
        none.clicked.connect(lambda: self._apply(()))
        self.overrides = self.note()
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
        self.heading("PUBLICATION")
        self.publication_title = TextField("Title")
        self.publication_title.committed.connect(self._set_title)
        self.row("Title", self.publication_title)
        self.end()

    def load(self) -> None:
        session = self.session
        publication = session.publication
        page = find_page(publication, session.page_id)
        facts = session.composition.facts[page.id]
        masters = masters_by_id(publication)
        names = [masters[m].name for m in reversed(stack_of(publication, page))]
        self.name.setText(f"Page {facts.folio}" if facts.folio else f"Page #{facts.position}")
        self.what.setText(describe(facts, page))
        how = "automatic" if page.masters is None else "set by hand"
        self.stack.setText("\n".join(names or ["No master"]) + f"\n({how})")
        count = len(page.overrides)
        self.overrides.setText(f"{count} master item{'s' * (count != 1)} overridden here")
        self.overrides.setVisible(bool(count))
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
        self.publication_title.show_text(publication.title)

    def _page(self) -> tuple[str, ...]:
        chosen = self.session.pages
        return chosen if self.session.page_id in chosen else (self.session.page_id,)

    def _apply(self, masters: tuple[str, ...] | None) -> None:
        pages = self._page()
        name = "back to automatic" if masters is None else "take masters away"
        self.session.edit(name, lambda p: apply_masters(p, pages, masters))

    def _follow_all(self) -> None:
        page = self.session.page_id
        self.session.edit("follow the masters", lambda p: follow_all(p, page))

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

    def _set_title(self, title: object) -> None:
        self.session.edit("title", lambda p: set_title(p, str(title)))
