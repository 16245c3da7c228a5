"""What is put into the text at the caret and asks something first."""

from __future__ import annotations

from typing import TYPE_CHECKING

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.interact.finds.indexing import terms
from hidden_frame.model.styles import computed_style
from hidden_frame.typeset.fonts import FontFace, font_book

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from hidden_frame.desktop.dialogs.characters import CharacterFinder


class CaretActions:
    """Running heads, references, notes, marks, names, dates and characters, each by its dialog."""

    def __init__(self, session: Session, desk: Desk, window: QWidget) -> None:
        self.session, self.desk, self.window = session, desk, window
        self._characters: CharacterFinder | None = None

    def running_head(self) -> None:
        """A running head put in at the caret, or the one that is selected there changed."""
        from hidden_frame.desktop.dialogs.running_head import RunningHeadDialog

        marker = self.desk.text.marker()
        head = marker.head if marker is not None else None
        put = self.desk.text.insert_marker
        RunningHeadDialog(self.session, self.window, put, head).exec()
        self.desk.setFocus()

    def refer(self) -> None:
        """A reference put in at the caret."""
        from hidden_frame.desktop.dialogs.refer import ReferDialog

        ReferDialog(self.session, self.window, self.desk.text.places.refer).exec()
        self.desk.setFocus()

    def note(self) -> None:
        """A note at the caret, or the one there changed."""
        from hidden_frame.desktop.dialogs.note import NoteDialog

        places = self.desk.text.places
        now = places.note()
        words = None if now is None else "".join(run.text for run in now.content)
        NoteDialog(self.window, words, places.put_note).exec()
        self.desk.setFocus()

    def index_mark(self) -> None:
        """A mark for the index at the caret."""
        from hidden_frame.desktop.dialogs.index import MarkDialog

        places, known = self.desk.text.places, terms(self.session.composition)
        names = list(dict.fromkeys(t.term for t in known))
        MarkDialog(self.window, places.words(), names, places.mark).exec()
        self.desk.setFocus()

    def name_place(self) -> None:
        from hidden_frame.desktop.dialogs.refer import PlaceDialog

        places = self.desk.text.places
        PlaceDialog(self.window, places.name_now(), places.name).exec()
        self.desk.setFocus()

    def date(self) -> None:
        from hidden_frame.desktop.dialogs.running_head import DateDialog

        DateDialog(self.session, self.window, self.desk.text.insert_marker).exec()
        self.desk.setFocus()

    def characters(self) -> CharacterFinder:
        """The finder of characters; it stays while one writes."""
        from hidden_frame.desktop.dialogs.characters import CharacterFinder

        if self._characters is None:
            self._characters = CharacterFinder(self.window, self._face, self._put_character)
        self._characters.show()
        self._characters.raise_()
        self._characters.refresh()
        return self._characters

    def _face(self) -> FontFace:
        """The font at the caret, or that of the first style."""
        if self.session.editing is not None and self.desk.text.text:
            now = self.desk.text.dress.now()
        else:
            styles = self.session.publication.paragraph_styles
            style = computed_style(styles, styles[0].id)
            now = {"family": style.family, "bold": style.bold, "italic": style.italic}
        return font_book().face(now["family"], bool(now["bold"]), bool(now["italic"]))

    def _put_character(self, character: str, form: str) -> None:
        if self.session.editing is None:
            self.session.noticed.emit("No text is being edited; double-click one first.")
            return
        self.desk.text.insert_form(character, form)
