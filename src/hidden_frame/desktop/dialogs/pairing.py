"""Facing or single pages, the opening side, the reading direction: seen before it is accepted."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.interact.words.foretold import foretell
from hidden_frame.model.publication import Publication

OPENINGS = (("one page alone", "recto"), ("a spread", "verso"))
DIRECTIONS = (("left to right", "left to right"), ("right to left", "right to left"))


class PairingDialog(Question):
    """What is chosen shows at once on the flatplan or the desk; Cancel takes it back."""

    aside = True

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent, "Spreads", "Accept")
        self.session = session
        setup = session.publication.setup
        self.facing = QCheckBox("Facing pages")
        self.facing.setChecked(setup.facing)
        self.facing.toggled.connect(self._show)
        self.form.row("", self.facing)
        self.opening = Choice("Begins with")
        self.opening.show_choice(OPENINGS, setup.opening)
        self.opening.activated.connect(self._show)
        self.form.row("Begins with", self.opening)
        self.direction = Choice("Reading direction")
        self.direction.show_choice(DIRECTIONS, setup.direction)
        self.direction.activated.connect(self._show)
        self.form.row("Reading direction", self.direction)
        self.what = self.form.note(" ")
        self.rejected.connect(lambda: session.set_draft(None))
        self.finish()
        self._show()

    def _change(self, publication: Publication) -> Publication:
        return change_setup(
            publication,
            facing=self.facing.isChecked(),
            opening=OPENINGS[self.opening.currentIndex()][1],
            direction=DIRECTIONS[self.direction.currentIndex()][1],
        )

    def _show(self) -> None:
        """The pages as they would lie, and what changes, in words."""
        self.opening.setEnabled(self.facing.isChecked())
        now = self.session.history.now
        told = foretell(now, self._change)
        words = told.words or "no page changes sides"
        self.what.setText(words[:1].upper() + words[1:] + ".")
        self.session.set_draft(None if told.result is now else told.result)

    def answer(self) -> None:
        self.session.set_draft(None)
        self.session.edit("spreads", self._change)
