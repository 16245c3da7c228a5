"""Properties of the page on the desk, and of its section."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCheckBox

from hidden_frame.compose.facts import describe
from hidden_frame.compose.references import paragraph_at
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.fields.inherited import InheritedList
from hidden_frame.desktop.fields.numbering import STYLES, StartField
from hidden_frame.desktop.panels.properties.setup import SetupRows
from hidden_frame.desktop.panels.properties.stack import StackEditor
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.masters.apply import apply_masters, set_section_masters
from hidden_frame.edit.masters.overrides import follow_on_pages
from hidden_frame.edit.pages.order import set_blind
from hidden_frame.edit.pages.sections import (
    StoryPlace,
    begin_with,
    change_numbering,
    rename_section,
)
from hidden_frame.interact.words.beginning import shortened, starts_on
from hidden_frame.interact.words.rules_told import cause_in_words, followed_rule
from hidden_frame.model.lookup import (
    find_page,
    find_section,
    section_of,
    stack_of,
)
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Numbering, Page, Section

_MOST_BEGINNINGS = 12  # paragraphs that are offered
_OFF = Qt.CheckState.Unchecked
_HOW = {
    frozenset({True}): "Set by hand",
    frozenset({False}): "Automatic",
    frozenset({True, False}): "Some set by hand, some automatic",
}


class PageForm(Form):
    """What the page follows and prints, and how its section is numbered."""

    folds = True

    apply_wanted = Signal()
    size_wanted = Signal(object)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.name = self.title("")
        self.what = self.note()
        self.level("Page", "Section", "Publication")
        self._about_section = False
        self.on_level("Page")
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
        automatic.setToolTip("Use the masters of the section or the publication")
        self.automatic = automatic
        self.heading("FROM THE MASTERS")
        self.overrides = self.note()
        self.inherited = InheritedList(session)
        self.column.addWidget(self.inherited)
        self.again = self.buttons("Follow the masters again")[0]
        self.again.clicked.connect(self._follow_all)
        self.heading("FOLIO")
        self.blind = QCheckBox("Blind: counted, not printed")
        self.blind.clicked.connect(lambda: self._set_blind(self.blind.checkState() != _OFF))
        self.column.addWidget(self.blind)
        self.on_level("Section")
        self.of_section = self.note()
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
        self.begins = Choice("Begins with")
        self.begins.setToolTip("The paragraph the section begins with; the section moves with it")
        self.begins.committed.connect(self._begin)
        self.row("Begins with", self.begins)
        self.counted = QCheckBox("Counted, though not printed")
        self.counted.clicked.connect(lambda on: self._number(counted=on))
        self.column.addWidget(self.counted)
        self.own_masters = QCheckBox("Use different default masters in this section")
        self.own_masters.clicked.connect(self._own_masters)
        self.column.addWidget(self.own_masters)
        self.section_stack = StackEditor("Masters of the section", "No master")
        self.section_stack.changed.connect(self._section_masters)
        self.column.addWidget(self.section_stack)
        self.on_level("Publication")
        self.setup = SetupRows(self, session)
        self.setup.wanted.connect(self.size_wanted)
        self.end()

    def load(self) -> None:
        session = self.session
        publication = session.publication
        chosen = self.pages()
        pages = [find_page(publication, p) for p in chosen]
        facts = session.composition.facts
        sections = list(dict.fromkeys(facts[p].section_id for p in chosen))
        self._say_who(chosen)
        self._load_masters(pages)
        blind = {p.blind for p in pages}
        self.blind.setTristate(len(blind) > 1)
        mixed = Qt.CheckState.PartiallyChecked
        state = Qt.CheckState.Checked if blind == {True} else Qt.CheckState.Unchecked
        self.blind.setCheckState(mixed if len(blind) > 1 else state)
        one = len(sections) == 1
        section = section_of(publication, chosen[0])
        known = section.name or "It has no name yet"
        self.of_section.setText(known if one else f"{known}: the first of {len(sections)} chosen")
        self._land(bool(session.section_id))
        section = section_of(publication, chosen[0])
        numbering = section.numbering
        self.section.show_text(section.name)
        self.style_field.show_choice(STYLES, numbering.style)
        self.start.show_text("" if numbering.start is None else str(numbering.start))
        self.prefix.show_text(numbering.prefix)
        self._show_beginning(section)
        self.counted.setVisible(numbering.style == "none")
        self.counted.setChecked(numbering.counted)
        self.own_masters.setChecked(section.masters is not None)
        self.section_stack.setVisible(section.masters is not None)
        self.section_stack.show_stack(publication, section.masters or ())
        self.setup.load()

    def _land(self, about_section: bool) -> None:
        """The level of what was clicked; the one that was chosen stays for the next of a kind."""
        assert self.levels is not None
        if about_section != self._about_section:
            self._about_section = about_section
            self.levels.show_level("Section" if about_section else "Page")

    def _load_masters(self, pages: list[Page]) -> None:
        """What the pages follow, and what is overridden on them."""
        publication = self.session.publication
        by_hand = frozenset(p.masters is not None for p in pages)
        stacks = {stack_of(publication, p) for p in pages}
        how = _HOW[by_hand]
        if len(stacks) > 1:
            how = f"They follow {len(stacks)} different stacks; this is the first page’s"
        rule = followed_rule(publication, pages[0])
        if rule is not None and len(stacks) == 1 and by_hand == {False}:
            how = f"By rule: {cause_in_words(publication, rule)}"
        self.how.setText(how)
        self.stack.show_stack(publication, stack_of(publication, pages[0]))
        self.automatic.setEnabled(True in by_hand)
        count, several = sum(len(p.overrides) for p in pages), len(pages) > 1
        marked = "Nothing is overridden on them" if several else "All follow; a click selects one"
        if count:
            marked = f"◆ {count} overridden {'on them' if several else 'here'}"
        self.overrides.setText(marked)
        self.inherited.setVisible(not several)
        if not several:
            self.inherited.load()
        self.again.setVisible(bool(count))

    def _say_who(self, chosen: tuple[str, ...]) -> None:
        """Who the form is about: a page, several, or a section as such."""
        session, facts = self.session, self.session.composition.facts
        names = [facts[p].folio or f"#{facts[p].position}" for p in chosen]
        self.name.setToolTip(", ".join(names) if len(names) > 1 else "")
        count = pages_counted(len(names))
        if session.section_id:
            self.name.setText(f"Section {facts[chosen[0]].section_name or 'without a name'}")
            span = f"{names[0]} to {names[-1]}" if len(names) > 1 else names[0]
            self.what.setText(f"{count}: {span}")
        elif len(chosen) > 1:
            told = ", ".join(names) if len(names) <= 8 else f"{', '.join(names[:7])}, … {names[-1]}"
            self.name.setText(f"{count}: {told}")
            within = [facts[p].section_name for p in chosen if facts[p].section_name]
            self.what.setText(" · ".join(dict.fromkeys(within)) or "Changes apply to all of them")
        else:
            here = facts[chosen[0]]
            self.name.setText(f"Page {here.folio}" if here.folio else f"Page #{here.position}")
            self.what.setText(describe(here, find_page(session.publication, chosen[0])))

    def pages(self) -> tuple[str, ...]:
        """The pages that the form is about, and that its changes reach."""
        return self.session.pages or (self.session.page_id,)

    def _apply(self, masters: tuple[str, ...] | None) -> None:
        pages = self.pages()
        name = "back to automatic" if masters is None else "master stack"
        self.session.edit(name, lambda p: apply_masters(p, pages, masters))

    def _follow_all(self) -> None:
        pages = self.pages()
        self.session.lock_pages(pages)
        self.session.edit("follow the masters", lambda p: follow_on_pages(p, pages))

    def _set_blind(self, blind: bool) -> None:
        pages = self.pages()
        self.session.edit("blind folio", lambda p: set_blind(p, pages, blind))

    def _section_id(self) -> str:
        return section_of(self.session.publication, self.pages()[0]).id

    def _rename(self, name: object) -> None:
        section = self._section_id()
        self.session.edit("rename section", lambda p: rename_section(p, section, str(name)))

    def _number(self, **changes: object) -> None:
        section = self._section_id()
        old = find_section(self.session.publication, section).numbering
        values = {f: getattr(old, f) for f in Numbering.__struct_fields__} | changes
        self.session.edit("numbering", lambda p: change_numbering(p, section, Numbering(**values)))

    def _show_beginning(self, section: Section) -> None:
        """Its first page, or a paragraph: the one that it follows, and those that begin there."""
        composition = self.session.composition
        options: list[tuple[str, object]] = [("its first page", None)]
        now: object = None
        if section.begins:
            words, page = paragraph_at(composition, section.begins)
            now = section.begins
            lost = "a paragraph that is gone" if not words else "a paragraph without room"
            options.append((shortened(words) if page else lost, now))
        options += [
            (shortened(start.words), start.place)
            for start in starts_on(composition, section.pages[0].id)[:_MOST_BEGINNINGS]
            if start.named != section.begins or not section.begins
        ]
        self.begins.show_choice(options, now)
        self.show_row(self.begins, len(options) > 1)

    def _begin(self, first: object) -> None:
        section = self._section_id()
        if first is None or isinstance(first, StoryPlace):
            place = first
            self.session.edit("where a section begins", lambda p: begin_with(p, section, place))

    def _own_masters(self, own: bool) -> None:
        """The section gets masters of its own, the publication's to begin with; or none."""
        self._section_masters(self.session.publication.default_masters if own else None)

    def _section_masters(self, stack: tuple[str, ...] | None) -> None:
        section = self._section_id()
        self.session.edit(
            "masters of the section", lambda p: set_section_masters(p, section, stack)
        )
