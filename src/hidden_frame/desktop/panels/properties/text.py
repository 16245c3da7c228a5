"""Properties of the text being edited: styles, and what single characters change of them."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QCheckBox

from hidden_frame.desktop.dialogs.colour_choice import ColourChoice
from hidden_frame.desktop.fields.families import show_families
from hidden_frame.desktop.fields.fields import Choice, NumberField, TextField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.look.languages import language_options
from hidden_frame.desktop.look.letterforms import CHOOSABLE, SHIFT_HINT, Choosable
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.model.text import Look
from hidden_frame.model.valid import limits

ALIGNMENTS = ("left", "right", "centre", "justified", "inside", "outside")


class TextForm(Form):
    """Shows the look at the caret, and changes that of the selection."""

    def __init__(self, session: Session, text: TextEdit) -> None:
        super().__init__()
        self.session = session
        self.text = text
        self.title("Text")
        self.note("Applies to the selection, or to the word at the caret.")
        self.heading("PARAGRAPH")
        self.style_field = Choice("Paragraph style")
        self.style_field.committed.connect(lambda v: text.dress.set_paragraph_style(str(v)))
        self.row("Style", self.style_field)
        self.alignment = Choice("Alignment")
        self.alignment.committed.connect(text.dress.set_alignment)
        self.row("Alignment", self.alignment)
        self.short = TextField("Short title")
        self.short.setPlaceholderText("none")
        self.short.setToolTip("Shown by running heads where the full heading has no room")
        self.short.committed.connect(lambda v: text.dress.set_short(str(v)))
        self.row("Short title", self.short)
        (self.ends,) = self.buttons("Tab to the right edge")
        self.ends.setToolTip("What follows the caret moves to the right edge of the line")
        self.ends.clicked.connect(text.dress.split_ends)
        self.departs = self.note()
        self.styled, self.made = self.buttons("Clear local formatting", "New style from it")
        self.styled.setToolTip("Clears local formatting of the paragraph and its characters")
        self.styled.clicked.connect(text.dress.clear_departures)
        self.made.setToolTip("Makes a style of this paragraph’s formatting and applies it")
        self.made.clicked.connect(text.dress.make_style)
        self.heading("CHARACTERS")
        self.character = Choice("Character style")
        self.character.committed.connect(
            lambda v: text.dress.set_character_style(None if v is None else str(v))
        )
        self.row("Style", self.character)
        self.family = Choice("Font")
        self.family.committed.connect(lambda v: text.dress.set_look(family=v))
        self.row("Font", self.family)
        self.size_field = NumberField("Size", "pt", 0.5, limits(Look, "size")[1] or 0)
        self.size_field.committed.connect(lambda v: text.dress.set_look(size=v))
        self.row("Size", self.size_field)
        low, high = limits(Look, "tracking")
        self.tracking = NumberField("Tracking", "/1000 em", low or 0, high or 0)
        self.tracking.committed.connect(lambda v: text.dress.set_look(tracking=v))
        self.row("Tracking", self.tracking)
        self.colour = ColourChoice("Text colour", session)
        self.colour.committed.connect(lambda v: text.dress.set_look(colour=v))
        self.row("Colour", self.colour)
        self.tint = NumberField("Text tint", "%", 0, 100, 100.0)
        self.tint.committed.connect(lambda v: text.dress.set_look(tint=v))
        self.row("Tint", self.tint)
        self.language = Choice("Language of these characters")
        self.language.setToolTip("Decides where words are hyphenated")
        self.language.committed.connect(lambda v: text.dress.set_look(language=v))
        self.row("Language", self.language)
        self.bold, self.italic = QCheckBox("Bold"), QCheckBox("Italic")
        self.bold.clicked.connect(lambda on: text.dress.set_look(bold=on))
        self.italic.clicked.connect(lambda on: text.dress.set_look(italic=on))
        self.row("", self.bold)
        self.row("", self.italic, beside=True)
        self.chosen: dict[str, Choice | QCheckBox] = {}
        for each in CHOOSABLE:
            self._choosable(each)
        low, high = limits(Look, "shift")
        self.shift = NumberField("Baseline shift", "pt", low or 0, high or 0)
        self.shift.setToolTip(SHIFT_HINT)
        self.shift.committed.connect(lambda v: text.dress.set_look(shift=v))
        self.row("Shift", self.shift)
        (self.plain,) = self.buttons("As in the styles")
        self.plain.clicked.connect(self._plain)
        self.end()

    def _choosable(self, each: Choosable) -> None:
        name = each.name
        if each.values is None:
            box = QCheckBox(each.label)
            box.clicked.connect(lambda on: self.text.dress.set_look(**{name: on}))
            self.row("", box)
            self.chosen[name] = box
        else:
            field = Choice(each.label)
            field.committed.connect(lambda v: self.text.dress.set_look(**{name: v}))
            self.row(each.label, field)
            self.chosen[name] = field
        self.chosen[name].setToolTip(each.hint)

    def _plain(self) -> None:
        names = Look.__struct_fields__
        self.text.dress.set_look(**dict.fromkeys(names, None))

    def load(self) -> None:
        publication = self.session.publication
        now: dict[str, Any] = self.text.dress.now()
        departs = [name.replace("_", " ") for name in self.text.dress.departures()]
        told = f"Local formatting: {', '.join(departs)}" if departs else "No local formatting"
        self.departs.setText(told)
        self.styled.setEnabled(bool(departs))
        self.show_row(self.short, self.text.dress.in_heads())
        self.short.show_text(self.text.text[self.text.caret[0]].short)
        styles = [(s.name, s.id) for s in publication.paragraph_styles]
        self.style_field.show_choice(styles, now["style"])
        looks: list[tuple[str, object]] = [("none", None)]
        looks += [(s.name, s.id) for s in publication.character_styles]
        self.character.show_choice(looks, now["character"])
        self.alignment.show_choice([(a, a) for a in ALIGNMENTS], now["alignment"])
        show_families(self.family, now["family"])
        self.language.show_choice(language_options("as its paragraph"), now["language"])
        self.size_field.show_value(now["size"])
        self.tracking.show_value(now["tracking"])
        self.colour.show_colours(now["colour"])
        self.tint.show_value(now["tint"])
        self.bold.setChecked(bool(now["bold"]))
        self.italic.setChecked(bool(now["italic"]))
        for each in CHOOSABLE:
            field, value = self.chosen[each.name], now[each.name]
            if isinstance(field, Choice):
                field.show_choice([(v, v) for v in each.values or ()], value)
            else:
                field.setChecked(bool(value))
        self.shift.show_value(now["shift"])
