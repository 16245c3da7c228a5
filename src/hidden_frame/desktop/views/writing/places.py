"""References put into the text that is being edited, and its paragraphs named as places."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec.structs import replace

from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.finds.indexing import marked_everywhere
from hidden_frame.interact.finds.referring import ReferTarget, placed, text_of
from hidden_frame.model.plural import plural
from hidden_frame.model.text import IndexMark, Marker, Note, Reference, Run, Text, TextPlace, Told

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.written import WrittenText


class TextPlaces:
    """Works on the caret's paragraph."""

    def __init__(self, edit: WrittenText) -> None:
        self.edit = edit

    def refer(self, target: ReferTarget, parts: tuple[tuple[str, Told | None], ...]) -> None:
        """Words, and what is told of a paragraph, in turn at the caret."""
        session = self.edit.session
        made, place = placed(session.history.now, target)
        here = self._here()
        text, at = self.edit.without_selection()
        if here is not None and (here.holder, here.item) == (target.holder, target.item):
            text, at = self._in_same(text_of(made, target))
        for words, told in parts:
            if told is not None:
                marker = Marker("reference", refers=Reference(place, told))
                text, at = edit_text.insert_marker(text, at, marker)
            else:
                text, at = edit_text.insert(text, at, words)
        self.edit.change("reference", text, at, before=lambda p: placed(p, target)[0])
        session.seal()

    def _in_same(self, text: Text) -> tuple[Text, TextPlace]:
        start, end = self.edit.selection
        return edit_text.delete(text, start, end) if start != end else (text, start)

    def _here(self) -> ReferTarget | None:
        """The caret's paragraph as a target."""
        editing, told, text = self.edit.session.editing, self.edit.told(), self.edit.text
        if editing is None or not text:
            return None
        at = self.edit.caret[0]
        if told is not None:
            return ReferTarget(told.story.id, "", at, "", "")
        if editing.holder_id not in self.edit.session.composition.facts:
            return None  # a master's text stands on many pages
        return ReferTarget(editing.holder_id, editing.item_id, at, "", "")

    def words(self) -> str:
        """What is selected, or the word at the caret, on one line."""
        start, end = self.edit.selection
        if start == end:
            start, end = steps.word_around(self.edit.text, start)
        return " ".join(edit_text.plain(self.edit.text, start, end).split())[:200]

    def mark(self, mark: IndexMark, everywhere: str) -> None:
        """An index mark behind what is selected, or behind the caret's word; or wherever some words
        stand."""
        session = self.edit.session
        if everywhere:
            made, count = marked_everywhere(session.history.now, everywhere, mark)
            if session.edit("mark for the index", lambda _: made):
                session.noticed.emit(plural(count, "Inserted {n} mark.", "Inserted {n} marks."))
            return
        start, end = self.edit.selection
        text = self.edit.text
        at = end if start != end else steps.word_around(text, start)[1]
        text, place = edit_text.insert_marker(text, at, mark)
        self.edit.change("mark for the index", text, place)
        session.seal()

    def note(self) -> Note | None:
        """The note that is selected by itself, or that stands right before the caret."""
        start, end = self.edit.selection
        at = start if start != end else (start[0], start[1] - 1)
        found = edit_text.object_at(self.edit.text, at) if self.edit.text else None
        return found if isinstance(found, Note) else None

    def put_note(self, words: str) -> None:
        """A note at the caret, or other words for the one there; runs that say the same keep how
        they look."""
        session, before = self.edit.session, self.note()
        if self.edit.told() is None:
            session.noticed.emit("Notes belong to stories; link this frame to another one first.")
            return
        if before is not None and self.edit.caret == self.edit.anchor:
            self.edit.anchor = (self.edit.caret[0], self.edit.caret[1] - 1)
        text, at = self.edit.without_selection()
        made = Note((Run(words),)) if before is None else replace(before, content=(Run(words),))
        text, at = edit_text.insert_marker(text, at, made)
        self.edit.change("note", text, at)
        session.seal()

    def name_now(self) -> str:
        """The name of the caret's paragraph; "" if it has none."""
        text = self.edit.text
        return text[self.edit.caret[0]].place_name if text else ""

    def name(self, name: str) -> None:
        """A name for the caret's paragraph."""
        here = self._here()
        if here is None:
            self.edit.session.noticed.emit(
                "A master’s text appears on many pages; name a paragraph on a page or in a story."
            )
            return
        made, _ = placed(self.edit.session.history.now, here, name)
        self.edit.session.edit("name a place", lambda _: made)
        self.edit.moved.emit()
