"""A paragraph style looked at and changed, or made anew from another."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace
from PySide6.QtWidgets import QCheckBox, QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.properties.fields import Choice, LengthField, NumberField, TextField
from hidden_frame.desktop.session import Session
from hidden_frame.edit.styles import add_paragraph_style, put_paragraph_style
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.text import ParagraphStyle
from hidden_frame.typeset.fonts import font_book

ALIGNMENTS = ("left", "right", "centre", "justified", "inside", "outside")
_LENGTHS = (
    ("Size", "size", 0.5),
    ("Leading", "leading", 0.5),
    ("Space before", "space_before", 0.0),
    ("Space after", "space_after", 0.0),
    ("First line indent", "indent_first", None),
)


class StyleDialog(EditQuestion):
    """Chooses a style, shows what it says, and changes it wherever it is used."""

    def __init__(
        self, session: Session, style_id: str | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent, "Paragraph styles", "Change")
        self.style_id = style_id or session.publication.paragraph_styles[0].id
        form = self.form
        self.chosen = Choice("Style")
        self.chosen.committed.connect(self._choose)
        form.row("Style", self.chosen)
        form.heading("TYPE")
        self.name = TextField("Name")
        form.row("Name", self.name)
        self.family = Choice("Font")
        form.row("Font", self.family)
        self.bold, self.italic = QCheckBox("Bold"), QCheckBox("Italic")
        form.row("", self.bold)
        form.row("", self.italic)
        self.lengths: dict[str, LengthField] = {}
        for label, name, least in _LENGTHS:
            self.lengths[name] = LengthField(label, "pt", least)
            form.row(label, self.lengths[name])
        self.tracking = NumberField("Tracking", "/1000 em", -500, 2000)
        form.row("Tracking", self.tracking)
        self.colour = Choice("Colour")
        form.row("Colour", self.colour)
        self.alignment = Choice("Alignment")
        form.row("Alignment", self.alignment)
        self.hyphenate = QCheckBox("Hyphenate")
        form.row("", self.hyphenate)
        self.new = form.buttons("New style like this one")[0]
        self.new.clicked.connect(self._make)
        self.finish()
        self._load()

    def _style(self) -> ParagraphStyle:
        return paragraph_style(self.session.publication, self.style_id)

    def _choose(self, style_id: object) -> None:
        self.style_id = str(style_id)
        self.form.say("")
        self._load()

    def _load(self) -> None:
        publication, style = self.session.publication, self._style()
        styles = [(s.name, s.id) for s in publication.paragraph_styles]
        self.chosen.show_choice(styles, style.id)
        self.name.show_text(style.name)
        families = font_book().families()
        if style.family not in families:
            families.append(style.family)
        self.family.show_choice([(f, f) for f in families], style.family)
        self.bold.setChecked(style.bold)
        self.italic.setChecked(style.italic)
        for name, field in self.lengths.items():
            field.show_value(getattr(style, name))
        self.tracking.show_value(style.tracking)
        self.colour.show_choice([(c.name, c.id) for c in publication.colours], style.colour)
        self.alignment.show_choice([(a, a) for a in ALIGNMENTS], style.alignment)
        self.hyphenate.setChecked(style.hyphenate)

    def _make(self) -> None:
        """A new style that says the same, to be changed next."""
        made: list[str] = []
        like = self.style_id

        def change(publication):  # type: ignore[no-untyped-def]
            publication, style_id = add_paragraph_style(publication, like)
            made.append(style_id)
            return publication

        self.session.edit("new style", change)
        self._choose(made[-1])

    def answer(self) -> None:
        changes: dict[str, Any] = {
            name: field.parse(field.text()) for name, field in self.lengths.items()
        }
        name = " ".join(self.name.text().split())
        others = {
            s.name for s in self.session.publication.paragraph_styles if s.id != self.style_id
        }
        if not name or name in others:
            raise Refusal(f"A style can't be named “{name}”; choose a name that is not in use.")
        style = replace(
            self._style(),
            name=name,
            family=self.family.currentText(),
            bold=self.bold.isChecked(),
            italic=self.italic.isChecked(),
            tracking=self.tracking.parse(self.tracking.text()),
            colour=self.session.publication.colours[self.colour.currentIndex()].id,
            alignment=ALIGNMENTS[self.alignment.currentIndex()],
            hyphenate=self.hyphenate.isChecked(),
            **changes,
        )
        self.edit(f"change style {name}", lambda p: put_paragraph_style(p, style))
