"""A list of the publication's colours, from which one is chosen or made."""

from __future__ import annotations

from hidden_frame.desktop.dialogs.colour import ColourDialog
from hidden_frame.desktop.fields.swatches import Swatches
from hidden_frame.desktop.state.session import Session

_NEW = object()
NO_DARK = "the same colour"
ON_DARK_HINT = "The colour of the words where what is printed beneath them is dark"


class ColourChoice(Swatches):
    """The publication's colours; the last entry makes a new one."""

    def __init__(self, label: str, session: Session) -> None:
        super().__init__(label)
        self.session = session
        self._now: object = None

    def show_colours(self, value: object, without: str = "") -> None:
        """Shows which colour is chosen; `without` names an entry for no colour."""
        self._now = value
        none: list[tuple[str, object]] = [(without, None)] if without else []
        colours = self.session.publication.colours
        self.show_swatches(colours, value, none, [("New colour…", _NEW)])

    def take(self, number: int) -> None:
        """Takes an entry; the last one asks for a new colour first."""
        if self._values[number] is not _NEW:
            self._now = self._values[number]
            super().take(number)
            return
        dialog = ColourDialog(self.session, None, None, self.window())
        chosen = dialog.made if dialog.exec() else ""
        self.show_colours(chosen or self._now, self.itemText(0) if None in self._values else "")
        if chosen:
            self.committed.emit(chosen)
