"""A family of fonts replaced by another, wherever it is used."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.families import show_families
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.text.fonts import families_used, replace_family
from hidden_frame.typeset.fonts import DEFAULT_FAMILY, font_book


class ReplaceFontDialog(EditQuestion):
    """Which family is replaced, and by which; every style and text that names it follows."""

    def __init__(self, session: Session, family: str = "", parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "Replace a font", "Replace")
        used = list(families_used(session.publication))
        missing = [f for f in used if not font_book().knows(f)]
        family = family or (missing or used)[0]
        self.old = Choice("Replace")
        options = [(f if f not in missing else f"{f} (not on this machine)", f) for f in used]
        self.old.show_choice(options, family)
        self._used = used
        self.form.row("Replace", self.old)
        self.new = Choice("By")
        show_families(self.new, DEFAULT_FAMILY)
        self.form.row("By", self.new)
        self.form.note("In every style and text that uses it.")
        self.finish()

    def answer(self) -> None:
        old, new = self._used[self.old.currentIndex()], str(self.new.value())
        self.edit(f"replace {old} by {new}", lambda p: replace_family(p, old, new))
