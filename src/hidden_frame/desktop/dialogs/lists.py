"""The index and the list of notes: their styles and titles."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.interact.hands.likely import likely_title
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Index, NoteList

_RUN_IN = "run in"  # sub-terms behind their term, in the same paragraph


class _ListDialog(Question):
    """A title with its style, and the style of lines."""

    def __init__(
        self, parent: QWidget | None, publication: Publication, title: str,
        now: Index | NoteList, action: str,
    ) -> None:  # fmt: skip
        super().__init__(parent, title, action)
        self.styles: list[tuple[str, object]] = [
            (s.name, s.id) for s in publication.paragraph_styles
        ]
        self.title_field, self.title_style = TextField("Title"), Choice("Style of the title")
        self.title_field.setPlaceholderText("none")
        self.title_field.show_text(now.title)
        self.title_style.show_choice(self.styles, now.title_style or likely_title(publication))
        self.form.row("Title", self.title_field)
        self.form.row("in style", self.title_style)
        self.shown = Choice("Lines")
        self.shown.show_choice(self.styles, now.shown)
        self.form.row("Lines", self.shown)

    def heading(self) -> dict[str, str]:
        """The title and its style, and the style of lines."""
        title = self.title_field.text().strip()[:200]
        style = str(self.title_style.value()) if title else ""
        return {"title": title, "title_style": style, "shown": str(self.shown.value())}


class IndexListDialog(_ListDialog):
    """How the index looks; `put` takes it."""

    def __init__(
        self, parent: QWidget | None, publication: Publication, now: Index, action: str,
        put: Callable[[Index], object],
    ) -> None:  # fmt: skip
        super().__init__(parent, publication, "The index", now, action)
        self._put = put
        self.subs, self.letters = Choice("Sub-terms"), Choice("Letters")
        self.subs.show_choice(
            [("behind their term", _RUN_IN), ("in the style of lines", ""), *self.styles],
            _RUN_IN if now.run_in else now.sub_shown,
        )
        self.letters.show_choice([("none", ""), *self.styles], now.letters)
        self.form.row("Sub-terms", self.subs)
        self.form.row("Letters", self.letters)
        self.form.note("Terms are sorted by the publication’s language.")
        self.finish()

    def answer(self) -> None:
        subs = str(self.subs.value())
        run_in = subs == _RUN_IN
        self._put(
            Index(
                sub_shown="" if run_in else subs, run_in=run_in,
                letters=str(self.letters.value()), **self.heading(),
            )
        )  # fmt: skip


class NoteListDialog(_ListDialog):
    """How a list of notes looks, and whose notes it lists; `put` takes it."""

    def __init__(
        self, parent: QWidget | None, publication: Publication, now: NoteList, action: str,
        put: Callable[[NoteList], object],
    ) -> None:  # fmt: skip
        super().__init__(parent, publication, "List of notes", now, action)
        self._put = put
        self.story = Choice("Notes of")
        stories: list[tuple[str, object]] = [(s.name, s.id) for s in publication.stories]
        self.story.show_choice([("all stories", ""), *stories], now.story)
        self.form.row("Notes of", self.story)
        self.finish()

    def answer(self) -> None:
        self._put(NoteList(story=str(self.story.value()), **self.heading()))
