"""How the desk behaves: how far snapping reaches, the nudge step, the rubber band, the theme.

What one snaps to is chosen under “Snap to” in the status line, and nowhere else.
"""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, NumberField, TextField
from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.state.session import Session
from hidden_frame.model.number_format import figure, number_of
from hidden_frame.model.units import format_length, parse_length

THEMES = (("as the desktop", "desktop"), ("light", "light"), ("dark", "dark"))
BANDS = (("touches", False), ("encloses", True))


class DeskSettings(Question):
    """Takes effect when accepted, in every window."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent, "Desk settings", "Apply")
        now = settings().now
        self.unit = session.publication.setup.unit
        self.form.heading("HAND")
        self.reach = TextField("Snaps within")
        self.reach.setText(f"{figure(now.reach)} px")
        self.form.row("Snaps within", self.reach)
        self.nudge = TextField("Arrow keys move by")
        self.nudge.setText(format_length(now.nudge, self.unit))
        self.form.row("Arrow keys move by", self.nudge)
        self.band = Choice("Selection box takes items it")
        self.band.show_choice(BANDS, now.enclosing)
        self.form.row("Selection box takes items it", self.band)
        self.form.heading("LOOK")
        self.theme = Choice("Theme")
        self.theme.show_choice(THEMES, now.theme)
        self.form.row("Theme", self.theme)
        self.form.heading("EARLIER VERSIONS")
        self.versions = NumberField("Keep up to", "MB", 0, 1_000_000)
        self.versions.show_value(now.versions_mb)
        self.form.row("Keep up to", self.versions)
        self.finish()

    def answer(self) -> None:
        nudge = parse_length(self.nudge.text(), self.unit)
        if not 0 < nudge <= 1000:
            raise self.nudge.refusal(
                f"“{self.nudge.text()}” is not a step for the arrow keys; enter a length above 0."
            )
        try:
            reach = number_of(self.reach.text().replace("px", ""))
        except ValueError:
            reach = 0.0
        if not 1 <= reach <= 40:
            raise self.reach.refusal(
                f"“{self.reach.text()}” is not a distance for snapping; enter 1 to 40 pixels."
            )
        versions = self.versions.read()
        settings().change(
            versions_mb=round(versions),
            reach=reach,
            nudge=nudge,
            enclosing=BANDS[self.band.currentIndex()][1],
            theme=THEMES[self.theme.currentIndex()][1],
        )
