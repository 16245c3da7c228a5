"""Masters by rule: an ordered list, each with the pages that it catches, tried on a draft."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.state.slices import Slicer
from hidden_frame.edit.masters.rules import add_rule, change_rule, move_rule, remove_rule
from hidden_frame.interact.hands.likely import likely_heading
from hidden_frame.interact.words.rules_told import (
    caught,
    caught_in_words,
    master_for_rule,
    no_room,
    rule_in_words,
)
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import MasterRule, Publication
from hidden_frame.settle.settling import settling

_WHEN: list[tuple[str, object]] = [
    ("a paragraph of a style begins", "style"), ("it is the first of its section", "first"),
    ("it is the last of its section", "last"), ("its number is odd", "odd"),
    ("its number is even", "even"), ("no text stands on it", "no text"),
]  # fmt: skip
_UNTIL: list[tuple[str, object]] = [
    ("that page only", "page"), ("until the section ends", "section"),
    ("until another rule", "rule"),
]  # fmt: skip
_NONE = "no master"
_ROW = 12  # pixels around the words of a row


class RulesDialog(Question):
    """The first rule of the list that is for a page counts; pages set by hand are left alone."""

    aside = True

    def __init__(self, session: Session, parent: QWidget | None) -> None:
        super().__init__(parent, "Masters by rule", "Apply")
        self.session = session
        self.made: Publication = session.history.now
        self._selected = session.pages  # they are selected again once it closes
        self.work = Slicer(self)
        self.work.seen.connect(self._see)
        self.work.done.connect(self._know)
        self.form.note(
            "Automatic pages follow the first rule that applies; pages with masters set by "
            "hand are left alone."
        )
        self.list = QListWidget()
        self.list.setAccessibleName("Rules")
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setMinimumHeight(150)
        self.form.column.addWidget(self.list)
        self._buttons()
        self.form.heading("THIS RULE")
        self.when, self.style_field = Choice("When"), Choice("Style")
        self.master, self.until = Choice("Follows"), Choice("How long")
        self.section = Choice("In section")
        self.form.row("Where", self.when)
        self.form.row("Style", self.style_field)
        self.form.row("Follows", self.master)
        self.form.row("For how long", self.until)
        self.form.row("In", self.section)
        self.caught = self.form.note(" ")
        self.caught.setMinimumHeight(34)
        for name, field in (("when", self.when), ("style", self.style_field),
                            ("until", self.until)):  # fmt: skip
            field.committed.connect(lambda v, name=name: self._say(**{name: v}))
        self.master.committed.connect(lambda v: self._say(masters=() if v == "" else (str(v),)))
        self.section.committed.connect(self._say_sections)
        self.list.currentRowChanged.connect(lambda _: self._show())
        self.rejected.connect(self._leave)
        self.finished.connect(lambda _: self._select_again())
        self._fill(0)
        self.finish()

    def _buttons(self) -> None:
        row = QHBoxLayout()
        row.setContentsMargins(0, 4, 0, 0)
        self.add, self.gone = QPushButton("New rule"), QPushButton("Remove")
        self.up, self.down = QPushButton("Earlier"), QPushButton("Later")
        for button in (self.add, self.gone, self.up, self.down):
            button.setAutoDefault(False)
            row.addWidget(button)
        self.form.column.addLayout(row)
        self.add.clicked.connect(self._add)
        self.gone.clicked.connect(self._remove)
        self.up.clicked.connect(lambda: self._move(-1))
        self.down.clicked.connect(lambda: self._move(1))

    # -- the list ----------------------------------------------------------------------

    @property
    def rule(self) -> MasterRule | None:
        """The rule that is chosen."""
        at = self.list.currentRow()
        return self.made.rules[at] if 0 <= at < len(self.made.rules) else None

    def _fill(self, at: int) -> None:
        """The list anew, with what each rule catches, and one of them chosen."""
        self.list.blockSignals(True)
        self.list.clear()
        for rule in self.made.rules:
            row = QListWidgetItem(
                f"{rule_in_words(self.made, rule)}\n{caught_in_words(self.made, rule.id)}"
            )
            self.list.addItem(row)
        self._fit_rows()
        self.list.setCurrentRow(min(max(at, 0), len(self.made.rules) - 1))
        self.list.blockSignals(False)
        self._show()

    def _fit_rows(self) -> None:
        """Rows as high as their words need: left to itself the list cuts what wraps narrowly."""
        width, words = self.list.viewport().width() - _ROW, self.list.fontMetrics()
        for n in range(self.list.count()):
            room = QRect(0, 0, width, 1000)
            row = self.list.item(n)
            needed = words.boundingRect(room, Qt.TextFlag.TextWordWrap, row.text())
            row.setSizeHint(QSize(width, needed.height() + _ROW))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit_rows()

    def _show(self) -> None:
        """The fields of the rule that is chosen, and its pages marked."""
        rule, publication = self.rule, self.made
        fields = (self.when, self.style_field, self.master, self.until, self.section)
        for field in (*fields, self.gone, self.up, self.down):
            field.setEnabled(rule is not None)
        if rule is None:
            self.caught.setText("No rules yet: pages follow their sections.")
            return
        self.when.show_choice(_WHEN, rule.when)
        styles: list[tuple[str, object]] = [(s.name, s.id) for s in publication.paragraph_styles]
        self.style_field.show_choice(styles, rule.style)
        masters: list[tuple[str, object]] = [(m.name, m.id) for m in publication.masters]
        masters.append((_NONE, ""))
        if len(rule.masters) > 1:  # a stack that a script made
            masters.append((" + ".join(rule.masters), rule.masters[0]))
        self.master.show_choice(masters, rule.masters[0] if rule.masters else "")
        self.until.show_choice(_UNTIL, rule.until)
        sections: list[tuple[str, object]] = [("every section", "")]
        sections += [(s.name or "a section without a name", s.id) for s in publication.sections]
        if len(rule.sections) > 1:  # one that was started in another it was for
            names = [name for name, s in sections if s in rule.sections]
            sections.append((" and ".join(names), rule.sections))
        now = rule.sections if len(rule.sections) > 1 else "".join(rule.sections)
        self.section.show_choice(sections, now)
        self.form.show_row(self.style_field, rule.when == "style")
        self.form.show_row(self.until, rule.when == "style")
        pages = caught(publication, rule.id)
        self.caught.setText(self._told(rule))
        self.session.mark_pages(tuple(p.id for p in pages))

    def _told(self, rule: MasterRule) -> str:
        """What a rule does, and what all of them ask for, before they are kept."""
        if self.work.busy:
            return "Finding the pages that follow it…"
        why = no_room(self.made, rule)
        pages = caught_in_words(self.made, rule.id)
        said = why or f"Catches {pages}{'' if pages.endswith('…') else '.'}"
        more = len(all_pages(self.made)) - len(all_pages(self.session.history.now))
        pages = pages_counted(abs(more))
        if not more:
            return said
        return f"{said} The book would {'need' if more > 0 else 'lose'} {pages}" + (
            " more." if more > 0 else "."
        )

    # -- changes -----------------------------------------------------------------------

    def _take(self, publication: Publication, at: int) -> None:
        """What the rules are now, on the desk, the Run and the flatplan."""
        self.made = publication
        self.work.start(settling(publication, self.session.composer), publication)
        self._fill(at)

    def _see(self, publication: Publication) -> None:
        """What is known so far is on the desk."""
        now = self.session.history.now
        self.session.set_draft(publication if publication is not now else None)

    def _know(self, publication: Publication) -> None:
        """All of it is known."""
        self.made = publication
        self._see(publication)
        self._fill(self.list.currentRow())

    def _say(self, **said: object) -> None:
        rule = self.rule
        if rule is None:
            return
        if said.get("when") == "style" and not rule.style:
            said["style"] = likely_heading(self.made)
        self._take(change_rule(self.made, rule.id, **said), self.list.currentRow())

    def _say_sections(self, chosen: object) -> None:
        several = chosen if isinstance(chosen, tuple) else (str(chosen),) if chosen else ()
        self._say(sections=several)

    def _add(self) -> None:
        master = master_for_rule(self.made)
        stack = (master,) if master else ()
        publication, _ = add_rule(self.made, style=likely_heading(self.made), masters=stack)
        self._take(publication, len(publication.rules))

    def _remove(self) -> None:
        if self.rule is not None:
            self._take(remove_rule(self.made, self.rule.id), self.list.currentRow())

    def _move(self, by: int) -> None:
        if self.rule is not None:
            self._take(move_rule(self.made, self.rule.id, by), self.list.currentRow() + by)

    def _select_again(self) -> None:
        """The pages that a rule caught were only shown."""
        known = {p.id for p in all_pages(self.session.publication)}
        self.session.mark_pages(tuple(p for p in self._selected if p in known))

    def _leave(self) -> None:
        self.work.stop()
        self.session.set_draft(None)

    def answer(self) -> None:
        self.work.finish()
        made = self.made
        self.session.set_draft(None)
        if made is not self.session.history.now:
            self.session.edit("masters by rule", lambda _: made)
