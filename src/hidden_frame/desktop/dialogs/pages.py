"""Questions about pages: apply masters, export, delete a master."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QWidget

from hidden_frame.checks.content import counted, printed
from hidden_frame.checks.finding import KnownFindings
from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.ranges import echo, pages_in_range
from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, LengthField, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.masters.apply import Applying, apply_masters, delete_master
from hidden_frame.model.errors import Refusal
from hidden_frame.model.invariants import MAX_BLEED
from hidden_frame.model.lookup import find_master
from hidden_frame.model.plural import plural
from hidden_frame.model.units import format_length

_PATIENCE = 0.3  # seconds that one waits for what is doubtful
_AGAIN = 500  # milliseconds until it is asked for again
_MODES: tuple[tuple[str, Applying], ...] = (
    ("replace what is there", "replace"),
    ("add on top", "add"),
    ("take away", "take away"),
)


# What is written for each of the buttons; "": the pages that are selected.
_WORDS = {
    "All": "all", "Odd": "odd", "Even": "even", "Selected": "",
    "Rectos": "rectos", "Versos": "versos", "First pages": "first pages",
    "Without items": "without items",
}  # fmt: skip


class EditQuestion(Question):
    """A question whose answer is one edit."""

    def __init__(self, session: Session, parent: QWidget | None, title: str, action: str) -> None:
        super().__init__(parent, title, action)
        self.session = session

    def edit(self, name: str, change) -> None:  # type: ignore[no-untyped-def]
        self.session.edit(name, change, aloud=False)


class ApplyDialog(EditQuestion):
    """A master applied to a range as people type it, or to the selected pages."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Apply masters", "Apply")
        publication = session.publication
        facts = page_facts(publication)
        self.master = Choice("Master")
        options: list[tuple[str, object]] = [(m.name, (m.id,)) for m in publication.masters]
        options += [("no master", ()), ("automatic", None)]
        chosen = (session.master_id,) if session.master_id else ()
        self.master.show_choice(options, chosen)
        self._options = options
        self.form.row("Master", self.master)
        self.mode = Choice("How")
        self.mode.show_choice(_MODES, "replace")
        self.form.row("How", self.mode)
        self.within = Choice("In section")
        self._sections: list[tuple[str, object]] = [("the whole publication", None)]
        self._sections += [
            (s.name or f"section {n}", s.id) for n, s in enumerate(publication.sections, 1)
        ]
        self.within.show_choice(self._sections, None)
        self.form.row("In section", self.within)
        self.within.activated.connect(self._narrowed)
        self.range = TextField("Pages")
        pages = session.pages or ((session.page_id,) if session.mode == "pages" else ())
        self.range.setText(", ".join(f"#{facts[p].position}" for p in pages))
        self.range.setPlaceholderText("3, 7, 12-18, iv-ix, odd, all")
        self.form.row("Pages", self.range)
        listed = self.range.text()
        buttons = self.form.buttons(*_WORDS, abreast=4)
        for button, word in zip(buttons, _WORDS.values(), strict=True):
            button.clicked.connect(lambda _=False, w=word: self.range.setText(w or listed))
        self.echo = self.form.note()
        self.range.textChanged.connect(self._echo)
        self.range.committed.connect(self._echo)  # a field that is left takes back its own fault
        self._echo()
        self.finish()

    def _narrowed(self) -> None:
        """A section is chosen with all its pages; the range can then be narrowed."""
        self.range.setText("all")
        self._echo()

    def pages(self) -> list[str]:
        """The pages meant; raises `Refusal` for a range that means nothing there."""
        found = pages_in_range(self.session.publication, self.range.text())
        section = self._sections[self.within.currentIndex()][1]
        if section is None:
            return found
        facts = page_facts(self.session.publication)
        kept = [p for p in found if facts[p].section_id == section]
        if not kept:
            name = self._sections[self.within.currentIndex()][0]
            raise Refusal(f"None of these pages is in “{name}”; choose another range or section.")
        return kept

    def _echo(self, *_: object) -> None:
        """What the typed range means, as it is typed."""
        try:
            pages = self.pages()
            self.echo.setText(echo(self.session.publication, pages))
            self.form.say("")
        except Refusal as refusal:
            self.echo.setText("")
            self.form.say(str(refusal), self.range)

    def answer(self) -> None:
        pages = self.pages()
        masters = self._options[self.master.currentIndex()][1]
        mode = _MODES[self.mode.currentIndex()][1]
        self.edit("apply masters", lambda p: apply_masters(p, pages, masters, mode))  # type: ignore[arg-type]


class RangeDialog(Question):
    """Which pages to export, and with how much bleed; `pages` and `bleed` hold the answer."""

    def __init__(
        self,
        session: Session,
        parent: QWidget | None = None,
        found: Callable[[float], KnownFindings] = lambda _: KnownFindings((), True),
    ) -> None:
        super().__init__(parent, "Export PDF", "Export…")
        self.session = session
        self._found, self.known = found, found(_PATIENCE)
        self._again = QTimer(self)
        self._again.setInterval(_AGAIN)
        self._again.timeout.connect(self._look)
        if not self.known.complete:
            self._again.start()
        self.pages: list[str] = []
        self.range = TextField("Pages")
        self.range.setText("all")
        self.form.row("Pages", self.range)
        self.form.note("Folios or positions: 3, 7, 12-18, iv-ix, #5, odd, all")
        unit, own = session.publication.setup.unit, session.publication.setup.bleed
        self.bleed = own
        self.bleed_field = LengthField("Bleed", unit, 0.0, MAX_BLEED)
        self.bleed_field.show_value(own)
        self.form.row("Bleed", self.bleed_field)
        self.around = self.form.note()
        self.bleed_field.textChanged.connect(self._tell_bleed)
        self._tell_bleed()
        self.doubtful = self.form.note()
        self.doubtful.setMinimumHeight(self.doubtful.fontMetrics().lineSpacing() * 3)
        self.doubtful.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.range.textChanged.connect(self._tell)
        self.range.committed.connect(self._tell)
        self._tell()
        self.finish()
        self.setMinimumWidth(430)

    def _look(self) -> None:
        """Asks once more what is doubtful, as long as not everything was looked at."""
        self.known = self._found(0.0)
        if self.known.complete:
            self._again.stop()
        self._tell()

    def _tell(self, *_: object) -> None:
        """What is doubtful about these pages, before they are exported."""
        try:
            pages = set(pages_in_range(self.session.publication, self.range.text()))
        except Refusal as refusal:
            self.doubtful.setText("")
            self.form.say(str(refusal), self.range)
            return
        self.form.say("")
        if not self.known.complete:
            self.doubtful.setText("The checks are still running; you needn’t wait for them.")
            return
        found = [f for f in self.known.found if pages.intersection(f.pages)]
        if not found:
            self.doubtful.setText("Checks found no problems on these pages.")
            return
        words = counted(found)
        others = len(found) - len([f for f in found if printed(f.kind)])
        more = f"{others} about order or fonts" if others else ""
        said = ", ".join(w for w in (words, more) if w)
        self.doubtful.setText(f"Checks on these pages: {said}. See Checks (Shift+F2).")

    def _tell_bleed(self) -> None:
        """What the bleed means for the file."""
        setup = self.session.publication.setup
        try:
            bleed = float(self.bleed_field.read())
        except Refusal as refusal:
            self.around.setText("")
            self.form.say(str(refusal), self.bleed_field)
            return
        self.form.say("")
        unit, trim = setup.unit, setup.trim
        width, height = (format_length(v + 2 * bleed, unit) for v in (trim.width, trim.height))
        own = format_length(setup.bleed, unit)
        more = f"; the publication is laid out for {own}" if bleed > setup.bleed + 1e-6 else ""
        self.around.setText(f"Each page of the file is {width} × {height}{more}.")

    def answer(self) -> None:
        self.bleed = float(self.bleed_field.read())
        self.pages = pages_in_range(self.session.publication, self.range.text())


class DeleteMasterDialog(EditQuestion):
    """What the pages shall follow instead of a master that is deleted (R14)."""

    def __init__(self, session: Session, master_id: str, parent: QWidget | None = None) -> None:
        publication = session.publication
        name = next(m.name for m in publication.masters if m.id == master_id)
        super().__init__(session, parent, f"Delete the master “{name}”", "Delete")
        count = len(session.composition.followers(master_id))
        follow = plural(count, "{n} page follows", "{n} pages follow")
        self.form.note(f"{follow} it. Which master should they follow?")
        self.master_id = master_id
        self.instead = Choice("Instead")
        others = [m for m in publication.masters if m.id != master_id]
        self._options: list[tuple[str, object]] = [(m.name, m.id) for m in others]
        self._options += [("nothing in its place", None)]
        # What it builds on is nearest to it; nothing is a choice, and not what Enter does.
        base = find_master(publication, master_id).base
        nearest = base or (others[0].id if others else None)
        self.instead.show_choice(self._options, nearest)
        self.form.row("Instead", self.instead)
        heirs = [m.name for m in publication.masters if m.base == master_id]
        if heirs:
            on = f"on “{find_master(publication, base).name}”" if base else "on no other"
            names = ", ".join(f"“{n}”" for n in heirs)
            self.form.note(
                plural(len(heirs), "{names} builds on it, and will build {on}.",
                       "{names} build on it, and will build {on}.", names=names, on=on)
            )  # fmt: skip
        self.finish()

    def answer(self) -> None:
        instead = self._options[self.instead.currentIndex()][1]
        self.edit("delete master", lambda p: delete_master(p, self.master_id, instead))  # type: ignore[arg-type]
