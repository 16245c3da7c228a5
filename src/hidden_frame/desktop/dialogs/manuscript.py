"""A manuscript brought in: what its styles become, where it goes, and what came."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QApplication, QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.properties.fields import Choice
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.settings import settings
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought, matched, pictures_kept
from hidden_frame.model.lookup import find_story, section_of
from hidden_frame.model.publication import Publication
from hidden_frame.storage.manuscripts.manuscript import Manuscript, report_in_words

NEW = "a new style of this name"
MOST = 12  # styles that are asked for; the rest are matched by name


class ManuscriptDialog(EditQuestion):
    """Each style of the source is matched to one here by name, or chosen once; what was chosen is
    remembered for the next manuscript."""

    def __init__(
        self,
        session: Session,
        manuscript: Manuscript,
        section_id: str = "",
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(session, parent, "Bring in a manuscript", "Bring in")
        self.manuscript = manuscript
        self.left = 0
        self.form.note(f"“{manuscript.name}”: {report_in_words(manuscript)}")
        self.section = Choice("Into the section")
        here = section_id or section_of(session.publication, session.page_id).id
        sections = session.publication.sections
        options = [(s.name or f"Section {n}", s.id) for n, s in enumerate(sections, 1)]
        self.section.show_choice(options, here)
        self.form.row("Into the section", self.section)
        self.choices: dict[str, Choice] = {}
        found = matched(session.publication, manuscript.styles) | self._remembered()
        styles = [(s.name, s.id) for s in session.publication.paragraph_styles]
        if manuscript.styles:
            self.form.heading("STYLES")
        for name in manuscript.styles[:MOST]:
            choice = Choice(name)
            choice.show_choice([(NEW, ""), *styles], found[name])
            self.form.row(name, choice)
            self.choices[name] = choice
        if len(manuscript.styles) > MOST:
            more = len(manuscript.styles) - MOST
            self.form.note(f"{more} more styles are matched by name, or made.")
        self.finish()

    def _remembered(self) -> dict[str, str]:
        """What was chosen for these names before, where that style is here."""
        known = {s.name: s.id for s in self.session.publication.paragraph_styles}
        chosen = dict(settings().now.manuscript_styles)
        return {n: known[chosen[n]] for n in self.manuscript.styles if chosen.get(n) in known}

    def answer(self) -> None:
        matches = {name: str(choice.value() or "") for name, choice in self.choices.items()}
        section = str(self.section.value())
        names = {s.id: s.name for s in self.session.publication.paragraph_styles}
        kept = dict(settings().now.manuscript_styles)
        kept |= {name: names[chosen] for name, chosen in matches.items() if chosen}
        settings().change(manuscript_styles=tuple(sorted(kept.items()))[-200:])

        def change(publication: Publication) -> Publication:
            publication, text = brought(publication, self.manuscript, matches)
            publication, story = pour(publication, section, text, self.manuscript.name)
            first = len(find_story(publication, story).text) - len(text)
            kept = pictures_kept(publication, story, self.manuscript, first)
            self.session.blobs.update(kept.blobs)
            self.left = kept.left
            return kept.publication

        self.edit("bring in a manuscript", change)
        self.session.noticed.emit(self._report())

    def _report(self) -> str:
        """What came and what did not; where the pictures are."""
        words = report_in_words(self.manuscript)
        if self.manuscript.pictures:
            words += " Pictures wait in the story’s tray on the Shelf."
        if self.left:
            words += f" {self.left} of them are of a kind that can’t be placed."
        return words


def read_with_patience(path: Path) -> Manuscript:
    """Reads a manuscript under a busy pointer."""
    from PySide6.QtCore import Qt

    from hidden_frame.storage.manuscripts import read

    QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    try:
        return read(path)
    finally:
        QApplication.restoreOverrideCursor()
