"""A contents list: which styles it lists, and how, tried on a draft in its frame."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.text.listing import list_style, set_list
from hidden_frame.interact.finds.listing import ListPlace
from hidden_frame.interact.hands.likely import heading_styles, likely_heading, likely_title
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Contents, ListLevel
from hidden_frame.settle.settling import settled

_NEW = "new"  # a style that is made for the lines of a level
_LEVELS = 4


class _Level(NamedTuple):
    """The fields of one level."""

    style: Choice
    shown: Choice
    number: QCheckBox
    folio: QCheckBox


class ContentsDialog(Question):
    """Lists by style: headings, captions, titles of tables, whatever has a style."""

    aside = True

    def __init__(
        self, session: Session, parent: QWidget | None, page_id: str, frame: ListPlace,
        now: Contents | None,
    ) -> None:  # fmt: skip
        super().__init__(parent, "Contents list", "Apply")
        self.session, self.page_id, self.item_id = session, page_id, frame.item
        self._made = frame.made  # with a frame that is made for it; None if there is one
        publication = session.history.now
        self.form.note("Lists paragraphs with these styles and their folios; always up to date.")
        self.title_field = TextField("Title")
        self.title_field.setPlaceholderText("none")
        self.title_field.show_text(now.title if now is not None else "")
        self.title_style = Choice("Style of the title")
        styles: list[tuple[str, object]] = [(s.name, s.id) for s in publication.paragraph_styles]
        usual = likely_heading(publication)
        plain = likely_title(publication)
        self.title_style.show_choice(styles, (now and now.title_style) or plain)
        self.form.row("Title", self.title_field)
        self.form.row("in style", self.title_style)
        self.section = Choice("Sections")
        sections: list[tuple[str, object]] = [("all of the publication", "")]
        sections += [(s.name or "a section without a name", s.id) for s in publication.sections]
        self.section.show_choice(sections, now.sections[0] if now and now.sections else "")
        self.form.row("Lists", self.section)
        there = now.levels if now is not None else tuple(
            ListLevel(s, _NEW) for s in heading_styles(publication) or [usual]
        )  # fmt: skip
        self.levels = [
            self._level(n, styles, there[n] if n < len(there) else None) for n in range(_LEVELS)
        ]
        for field in (self.title_style, self.section):
            field.committed.connect(lambda *_: self._try())
        self.title_field.committed.connect(lambda *_: self._try())
        (self.plain,) = self.form.buttons("Convert to plain text")
        self.plain.setToolTip("No longer updated; you can edit them")
        self.plain.setEnabled(now is not None)
        self.plain.setAutoDefault(False)
        self.plain.clicked.connect(self._leave)
        self.rejected.connect(self._give_up)
        self._try()
        self.finish()

    def _level(self, n: int, styles: list[tuple[str, object]], now: ListLevel | None) -> _Level:
        self.form.heading(f"LEVEL {n + 1}")
        style, shown = Choice(f"Style of level {n + 1}"), Choice(f"Lines of level {n + 1}")
        style.show_choice([("nothing", ""), *styles], now.style if now is not None else "")
        lines = [("a new style for lists", _NEW), *styles]
        shown.show_choice(lines, now.shown if now is not None else _NEW)
        number, folio = QCheckBox("Number"), QCheckBox("Folio")
        number.setChecked(now is None or now.number)
        folio.setChecked(now is None or now.folio)
        self.form.row("Lists", style)
        self.form.row("as", shown)
        self.form.row("", number)
        self.form.row("", folio, beside=True)
        for field in (style, shown):
            field.committed.connect(lambda *_: self._try())
        for box in (number, folio):
            box.clicked.connect(lambda *_: self._try())
        return _Level(style, shown, number, folio)

    def changed(self, publication: Publication) -> Publication:
        """The publication with the list as it is chosen; raises what is wrong with the choice."""
        levels: list[ListLevel] = []
        for n, level in enumerate(self.levels):
            style, shown = str(level.style.value()), str(level.shown.value())
            if not style:
                continue
            if any(style == other.style for other in levels):
                name = level.style.currentText()
                raise Refusal(f"“{name}” is listed on two levels; choose another style for one.")
            if shown == style:
                raise Refusal(
                    f"Lines of level {n + 1} can't use the style they list; choose another."
                )
            if shown == _NEW:
                body = publication.paragraph_styles[0].id
                publication, shown = list_style(publication, n, body)
            levels.append(
                ListLevel(style, shown, level.number.isChecked(), level.folio.isChecked())
            )
        if not levels:
            raise Refusal("The list has no level; choose the style of the paragraphs to list.")
        section = str(self.section.value())
        title = self.title_field.text().strip()
        contents = Contents(
            levels=tuple(levels), title=title[:200],
            title_style=str(self.title_style.value()) if title else "",
            sections=(section,) if section else (),
        )  # fmt: skip
        listed = set_list(publication, self.page_id, self.item_id, contents)
        return settled(listed, self.session.composer)

    def _try(self) -> None:
        """The desk shows what would come of it."""
        for n, level in enumerate(self.levels):
            used = bool(level.style.value())
            for field in (level.shown, level.number, level.folio):
                self.form.show_row(field, used)
            if n:
                before = bool(self.levels[n - 1].style.value())
                level.style.setEnabled(before or used)
        try:
            self.session.set_draft(self.changed(self._base()))
            self.form.say("")
        except Refusal as refusal:
            self.session.set_draft(self._made)
            self.form.say(refusal)

    def _base(self) -> Publication:
        """The publication with the frame that the list stands in."""
        return self.session.history.now if self._made is None else self._made

    def _give_up(self) -> None:
        if self._made is not None:
            self.session.select_items(None, ())
        self.session.set_draft(None)

    def _leave(self) -> None:
        page, item = self.page_id, self.item_id
        self.session.set_draft(None)
        self.session.edit("list as plain text", lambda p: set_list(p, page, item, None))
        self.accept()

    def answer(self) -> None:
        made = self.changed(self._base())
        self.session.commit(made, "contents list")
