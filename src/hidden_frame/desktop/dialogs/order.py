"""Questions about the order of pages: move, add, delete a range, fill up, start a section."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.compose.facts import page_facts, page_name
from hidden_frame.compose.ranges import echo, pages_in_range
from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.fields.numbering import STYLES, PageCountField, StartField
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.order import order_foretold
from hidden_frame.edit.pages.order import (
    add_pages,
    add_spread,
    delete_pages,
    fill_up,
    move_beside,
    place_of,
)
from hidden_frame.edit.pages.sections import begin_with, start_section
from hidden_frame.interact.finds.goto import find_place
from hidden_frame.interact.finds.plan import preview
from hidden_frame.interact.words.beginning import heading_on, shortened
from hidden_frame.interact.words.foretold import Change, foretell
from hidden_frame.interact.words.storied import running_into
from hidden_frame.interact.words.told import deleted_in_words
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_section, section_of
from hidden_frame.model.plural import pages_counted, plural
from hidden_frame.model.publication import Numbering, Publication

_SIDES = (("before", False), ("behind", True))
_WHITHER = "Name a page: they will go before or after it, with everything on them."


class OrderQuestion(EditQuestion):
    """A question whose answer changes the order; says beforehand what it will do."""

    def foretell(self, change: Change) -> str:
        """What a change will do, for the note under the fields."""
        foretold = foretell(self.session.publication, change)
        words = foretold.words
        return words[:1].upper() + words[1:] + ("" if words.endswith(".") or not words else ".")

    def order(self, name: str, change: Change, told: str = "") -> None:
        """The change as one step; what can't be done stays in the dialog."""
        foretold = foretell(self.session.publication, change)
        if foretold.refused:
            raise Refusal(foretold.refused, field=foretold.field)
        order_foretold(self.session, name, foretold, change, self.parentWidget() or self, told=told)


class MoveDialog(OrderQuestion):
    """The selected pages moved before or behind another, by keys alone if need be."""

    def __init__(self, session: Session, pages: tuple[str, ...], parent: QWidget | None) -> None:
        count = "1 page" if len(pages) == 1 else f"{len(pages)} pages"
        super().__init__(session, parent, f"Move {count}", "Move")
        self.pages = pages
        self.side = Choice("Where")
        self.side.show_choice(_SIDES, False)
        self.form.row("Where", self.side)
        self.page = TextField("Page")
        self.page.setPlaceholderText("folio, #position or section")
        self.form.row("Page", self.page, known_as="place")
        self.what = self.form.note(_WHITHER)
        self.page.textChanged.connect(self._tell)
        self.side.activated.connect(self._tell)
        self.page.setFocus()
        self.finish()

    def _change(self) -> Change:
        place = find_place(self.session.publication, self.page.text())
        if place.kind != "page":
            raise self.page.refusal(
                f"“{self.page.text()}” is a master; name a page, #position or section."
            )
        after = _SIDES[self.side.currentIndex()][1]
        pages = self.pages
        return lambda p: move_beside(p, pages, place.id, after=after)

    def _tell(self) -> None:
        try:
            said = self._lands() if self.page.text().strip() else _WHITHER
        except Refusal as refusal:
            said = str(refusal)
        self.what.setText(said)

    def _lands(self) -> str:
        """What the move will do, and in which section the pages will stand."""
        change = self._change()
        told = self.foretell(change)
        try:
            section = section_of(change(self.session.publication), self.pages[0])
        except Refusal:
            return told  # it says why not
        named = f"“{section.name}”" if section.name else "the section without a name"
        return f"{told} They will be in {named}."

    def answer(self) -> None:
        count = "page" if len(self.pages) == 1 else f"{len(self.pages)} pages"
        self.order(f"move {count}", self._change())


class AddDialog(OrderQuestion):
    """Pages added before or behind a page, or at the end of its section."""

    def __init__(self, session: Session, page: str, parent: QWidget | None = None) -> None:
        facts = page_facts(session.publication)[page]
        super().__init__(session, parent, "Add pages", "Add")
        self.page = page
        self.count = PageCountField("Number of pages")
        self.count.setText("2")
        self.form.row("Number of pages", self.count, known_as="count")
        name = facts.section_name or "the section"
        self.where = Choice("Where")
        self.where.setMinimumContentsLength(24)
        self._places = (
            (f"after {page_name(facts)}", "behind"), (f"before {page_name(facts)}", "before"),
            (f"at the end of {name}", "end"),
        )  # fmt: skip
        self.where.show_choice(self._places, "behind")
        self.form.row("Where", self.where)
        self.master = Choice("Follow")
        self._options = _masters(session.publication)
        self.master.show_choice(self._options, None)
        self.form.row("Follow", self.master)
        self.spread = QCheckBox("A blank spread: two pages kept together, without a master")
        self.spread.toggled.connect(self._tell)
        self.form.column.addWidget(self.spread)
        self.what = self.form.note(" ")
        self.count.textChanged.connect(self._tell)
        self.where.activated.connect(self._tell)
        self._tell()
        self.finish()

    def _change(self) -> Change:
        publication, page = self.session.publication, self.page
        where = self._places[self.where.currentIndex()][1]
        section, index = place_of(publication, page, after=where == "behind")
        if where == "end":
            index = len(find_section(publication, section).pages)
        if self.spread.isChecked():
            return lambda p: add_spread(p, section, index)[0]
        count = self.count.read()
        masters = self._options[self.master.currentIndex()][1]
        return lambda p: add_pages(p, section, index, count, masters)[0]  # type: ignore[arg-type]

    def _tell(self) -> None:
        blank = self.spread.isChecked()
        self.count.setEnabled(not blank)
        self.master.setEnabled(not blank)
        try:
            self.what.setText(self.foretell(self._change()) or " ")
        except Refusal as refusal:
            self.what.setText(str(refusal))

    def answer(self) -> None:
        change = self._change()
        count = 2 if self.spread.isChecked() else self.count.read()
        self.order("add page" if count == 1 else f"add {count} pages", change)


def _masters(publication: Publication) -> list[tuple[str, object]]:
    options: list[tuple[str, object]] = [("automatic", None), ("no master", ())]
    return options + [(m.name, (m.id,)) for m in publication.masters]


class DeleteRangeDialog(OrderQuestion):
    """Pages deleted by a typed range."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Delete pages", "Delete")
        self.range = TextField("Pages")
        facts = page_facts(session.publication)
        self.range.setText(", ".join(f"#{facts[p].position}" for p in session.pages))
        self.range.setPlaceholderText("3, 7, 12-18, iv-ix, odd")
        self.form.row("Pages", self.range)
        self.echo = self.form.note(" ")
        self.range.textChanged.connect(self._tell)
        self._tell()
        self.finish()

    def _tell(self) -> None:
        try:
            pages = pages_in_range(self.session.publication, self.range.text())
            told = self.foretell(lambda p: delete_pages(p, pages))
            self.echo.setText(f"{echo(self.session.publication, pages)}. {told}")
        except Refusal as refusal:
            self.echo.setText(str(refusal))

    def answer(self) -> None:
        publication = self.session.publication
        pages = pages_in_range(publication, self.range.text())
        told = deleted_in_words(publication, pages)
        count = "page" if len(pages) == 1 else f"{len(pages)} pages"
        self.order(f"delete {count}", lambda p: delete_pages(p, pages), told)


class FillUpDialog(OrderQuestion):
    """The pages that are missing to a full number of sheets."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Add pages to fill the last sheet", "Add")
        publication = session.publication
        self.sheet = Choice("To a multiple of")
        options: list[tuple[str, object]] = [(f"{n} pages", n) for n in (2, 4, 8, 16, 32)]
        self.sheet.show_choice(options, max(publication.setup.sheet, 2))
        self.sheet.activated.connect(self._count)
        self.form.row("To a multiple of", self.sheet)
        self.note = self.form.note()
        self.note.setMinimumHeight(self.note.fontMetrics().lineSpacing() * 2)
        facts = page_facts(publication)
        self.where = Choice("Where")
        self.where.setMinimumContentsLength(24)
        self._places: list[tuple[str, object]] = [
            ("before the last page", "last"),
            ("at the end", "end"),
        ]
        page = (session.pages or (session.page_id,))[0]
        self._places.append((f"before {page_name(facts[page])}", page))
        self.where.show_choice(self._places, "last")
        self.form.row("Where", self.where)
        self.master = Choice("Follow")
        self._options = _masters(publication)
        notes = next((v for n, v in self._options if n.casefold().startswith("note")), None)
        self.master.show_choice(self._options, notes)
        self.form.row("Follow", self.master)
        self.finish()
        self._count()

    def _count(self) -> None:
        """How many are missing to the multiple, and how many there will be then."""
        there = len(all_pages(self.session.publication))
        multiple = self.sheet.value()
        assert isinstance(multiple, int)
        self.lacking = -there % multiple
        self.ok.setEnabled(bool(self.lacking))
        if not self.lacking:
            self.note.setText(
                f"{there} pages are already a multiple of {multiple}; none will be added."
            )
            return
        pages = pages_counted(self.lacking)
        total = there + self.lacking
        self.note.setText(
            f"{there} pages; {pages} will be added: {total} in all, "
            f"{total // multiple} × {multiple}."
        )

    def answer(self) -> None:
        count = self.lacking
        if not count:
            return
        masters = self._options[self.master.currentIndex()][1]
        where = self._places[self.where.currentIndex()][1]
        publication = self.session.publication
        at: tuple[str, int] | None = None
        if where == "end":
            last = publication.sections[-1]
            at = (last.id, len(last.pages))
        elif where != "last":
            at = place_of(publication, str(where))
        self.order(
            f"fill up with {count} pages",
            lambda p: fill_up(p, count, masters, at)[0],  # type: ignore[arg-type]
            plural(count, "Added {n} page.", "Added {n} pages."),
        )


class SectionDialog(EditQuestion):
    """A section that starts at a page; shows what its first pages and its last will print."""

    def __init__(self, session: Session, page: str, parent: QWidget | None = None) -> None:
        facts = page_facts(session.publication)[page]
        title = f"Start a section at {page_name(facts)}"
        super().__init__(session, parent, title, "Start section")
        self.page = page
        self.name = TextField("Name")
        self.form.row("Name", self.name)
        self.style_field = Choice("Numbering")
        self.style_field.show_choice(STYLES, "decimal")
        self.form.row("Numbering", self.style_field)
        self.start = StartField("Starts at")
        self.start.setPlaceholderText("carries on")
        self.form.row("Starts at", self.start, known_as="start")
        self.prefix = TextField("Prefix")
        self.form.row("Prefix", self.prefix)
        self.counted = QCheckBox("Counts pages without printing folios (numbering “none”)")
        self.form.column.addWidget(self.counted)
        self.heading = heading_on(session.composition, page)
        words = self.heading.words if self.heading is not None else ""
        self.follows = QCheckBox(f"Begins where “{shortened(words)}” begins, and follows it")
        self.follows.setToolTip(words)
        self.follows.setChecked(self.heading is not None)
        self.follows.setVisible(self.heading is not None)
        self.form.column.addWidget(self.follows)
        self.shown = self.form.note()
        for field in (self.name, self.start, self.prefix):
            field.textChanged.connect(self._tell)
            field.committed.connect(self._tell)  # a field that is left takes back its own fault
        self.style_field.activated.connect(self._tell)
        self.counted.toggled.connect(self._tell)
        self._tell()
        self.finish()

    def _numbering(self) -> Numbering:
        return Numbering(
            style=STYLES[self.style_field.currentIndex()][1],  # type: ignore[arg-type]
            start=self.start.read(),
            prefix=self.prefix.text()[:40],
            counted=self.counted.isChecked(),
        )

    def _tell(self, *_: object) -> None:
        try:
            new, section = start_section(
                self.session.publication, self.page, self.name.text().strip(), self._numbering()
            )
        except Refusal as refusal:
            self.shown.setText(" ")
            self.form.say(refusal)
            return
        self.form.say("")
        number = next(n for n, s in enumerate(new.sections) if s.id == section)
        self.shown.setText("Its pages print " + folios_in_words(new, number))

    def answer(self) -> None:
        numbering = self._numbering()
        name, page = self.name.text().strip(), self.page
        on = running_into(self.session.composition, page)
        heading = self.heading if self.follows.isChecked() else None

        def started(publication: Publication) -> Publication:
            publication, section = start_section(publication, page, name, numbering, on)
            return begin_with(publication, section, heading.place) if heading else publication

        self.edit("start section", started)


def folios_in_words(publication: Publication, number: int) -> str:
    """The folios of a section's first three pages and its last: “1, 2, 3 … 12”."""
    folios = preview(publication, number)
    count = len(publication.sections[number].pages)
    if count > 4:
        return ", ".join(folios[:3]) + f" … {folios[3]}"
    return ", ".join(folios) or "nothing"
