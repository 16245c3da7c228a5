"""What the publication says of itself in its PDF, and what its checks go by."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice, NumberField, TextField
from hidden_frame.desktop.look.languages import language_options
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.about import set_about, set_title
from hidden_frame.edit.pages.setup import change_setup
from hidden_frame.model.publication import Publication

_TEXTS = (("Author", "author"), ("Subject", "subject"), ("Keywords", "keywords"))


class AboutDialog(EditQuestion):
    """Title, author, subject, keywords and language; the least resolutions of pictures."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session, parent, "About this publication", "Change")
        publication = session.publication
        about, setup = publication.about, publication.setup
        form = self.form
        form.note("Written into the PDF, where readers and libraries look for it.")
        self.name = TextField("Title")
        self.name.show_text(publication.title)
        form.row("Title", self.name)
        self.texts: dict[str, TextField] = {}
        for label, name in _TEXTS:
            self.texts[name] = TextField(label)
            self.texts[name].show_text(getattr(about, name))
            form.row(label, self.texts[name])
        self.language = Choice("Language")
        self.language.setToolTip(
            "For every text whose style or characters set no language of their own"
        )
        self.language.show_choice(language_options(), about.language)
        form.row("Language", self.language)
        form.heading("WARN ABOUT PICTURES BELOW")
        self.ppi = NumberField("Pictures", "pixels to an inch", 1, 5000)
        self.ppi.show_value(setup.least_ppi)
        form.row("Pictures", self.ppi)
        self.line_ppi = NumberField("Black and white", "pixels to an inch", 1, 5000)
        self.line_ppi.show_value(setup.least_line_ppi)
        form.row("Black and white", self.line_ppi)
        form.heading("WARN ABOUT POORLY SET LINES")
        self.lines = Choice("Lines to mend")
        self.lines.setToolTip("Loose and tight lines, hyphen ladders, rivers, widows and orphans")
        places = ("nowhere", "in stories", "everywhere")
        self.lines.show_choice([(p, p) for p in places], setup.judges_lines)
        form.row("Lines", self.lines)
        self.finish()
        self.setMinimumWidth(420)

    def answer(self) -> None:
        ppi, line = (f.parse(f.text()) for f in (self.ppi, self.line_ppi))
        words = {name: " ".join(field.text().split()) for name, field in self.texts.items()}
        language = self.language.value() or self.session.publication.about.language

        def change(p: Publication) -> Publication:
            p = set_about(set_title(p, self.name.text().strip()), language=language, **words)
            return change_setup(
                p, least_ppi=ppi, least_line_ppi=line, judges_lines=self.lines.value()
            )

        self.edit("about this publication", change)
