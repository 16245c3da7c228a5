"""Step and repeat: how many copies, and how far each stands from the one before."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.items.draw import MAX_COPIES, repeat_items
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.units import format_length, parse_length, round_step


class RepeatDialog(EditQuestion):
    """Copies of the selected items, shown on the desk while one types."""

    aside = True

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Step and repeat", "Repeat")
        unit = session.publication.setup.unit
        self.count = TextField("Copies")
        self.count.setText("3")
        self.form.row("Copies", self.count, known_as="count")
        self.across = TextField("To the right")
        self.across.setText(format_length(0.0, unit))
        self.form.row("To the right", self.across)
        self.down = TextField("Down")
        self.down.setText(format_length(round_step(unit), unit))
        self.form.row("Down", self.down)
        self.form.note("Distance from one copy to the next; negative values go the other way.")
        self.made: list[str] = []
        for field in (self.count, self.across, self.down):
            field.textChanged.connect(self._preview)
            field.committed.connect(self._preview)  # a field that is left takes back its own fault
        self.rejected.connect(lambda: session.set_draft(None))
        self.finish()
        self._preview()

    def _values(self) -> tuple[int, float, float]:
        text = self.count.text().strip()
        if not text.isdecimal():
            raise self.count.refusal(
                f"“{text}” is not a number of copies; give a whole number from 1 to {MAX_COPIES}."
            )
        unit = self.session.publication.setup.unit
        across, down = (parse_length(f.text(), unit) for f in (self.across, self.down))
        return int(text), across, down

    def _repeated(self, publication: Publication) -> Publication:
        count, dx, dy = self._values()
        session = self.session
        publication, self.made = repeat_items(
            publication, session.holder_id, list(session.items), count, dx, dy
        )
        return publication

    def _preview(self, *_: object) -> None:
        try:
            self.session.set_draft(self._repeated(self.session.history.now))
            self.form.say("")
        except Refusal as refusal:
            self.session.set_draft(None)
            self.form.say(refusal)

    def answer(self) -> None:
        self._values()
        self.session.set_draft(None)
        count = self._values()[0]
        self.edit(f"repeat {count} times", self._repeated)
        session, items = self.session, self.session.items
        session.select_items(None, (*items, *self.made))
        session.tell_copies(session.holder_id, items, session.holder_id, self.made)
