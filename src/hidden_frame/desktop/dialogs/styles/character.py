"""A character style looked at and changed, or made anew from another."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.colour_choice import ON_DARK_HINT, ColourChoice
from hidden_frame.desktop.dialogs.styles.drafts import StyleDrafts
from hidden_frame.desktop.dialogs.styles.parts import chosen_part, colour_part, typed_part
from hidden_frame.desktop.fields.families import show_families
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField
from hidden_frame.desktop.look.languages import language_options
from hidden_frame.desktop.look.letterforms import CHOOSABLE, SHIFT_HINT, Choosable
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.colours import check_dark
from hidden_frame.edit.looks.styles import (
    delete_character_style,
    new_character_style,
    put_character_style,
    restated_character,
)
from hidden_frame.model.lookup import character_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import CharacterStyle, computed_characters
from hidden_frame.model.valid import limits


class CharacterDialog(StyleDrafts):
    """The form of character styles: what a style does not say is as its base, or else as the
    paragraph, and the field says so."""

    kind = "character"

    def __init__(
        self, session: Session, style_id: str | None = None, parent: QWidget | None = None
    ) -> None:
        if not session.publication.character_styles:
            session.edit("new character style", lambda p: new_character_style(p, None)[0])
        super().__init__(session, style_id or session.publication.character_styles[0].id, parent)
        form = self.form
        self.family = Choice("Font")
        self._chosen("family", "Font", self.family)
        self.bold, self.italic = Choice("Bold"), Choice("Italic")
        self._chosen("bold", "Bold", self.bold)
        self._chosen("italic", "Italic", self.italic)
        self.size_field = LengthField("Size", "pt", 0.5, limits(CharacterStyle, "size")[1])
        self.parts.append(typed_part("size", self.size_field, form.row("Size", self.size_field)))
        low, high = limits(CharacterStyle, "tracking")
        self.tracking = NumberField("Tracking", "/1000 em", low or 0, high or 0)
        self.parts.append(
            typed_part("tracking", self.tracking, form.row("Tracking", self.tracking))
        )
        self.colour = ColourChoice("Colour", session)
        self.parts.append(colour_part(self.colour, self.unsaid, form.row("Colour", self.colour)))
        self.tint = NumberField("Tint", "%", 0, 100, 100.0)
        self.parts.append(typed_part("tint", self.tint, form.row("Tint", self.tint)))
        self.on_dark = ColourChoice("On dark ground", session)
        self.on_dark.setToolTip(ON_DARK_HINT)
        row = form.row("On dark ground", self.on_dark)
        self.parts.append(colour_part(self.on_dark, self.unsaid, row, "on_dark"))
        self.language = Choice("Language")
        self.language.setToolTip("Decides where words are hyphenated")
        self._chosen("language", "Language", self.language)
        for each in CHOOSABLE:
            self._choosable(each)
        self.shift = LengthField("Shift", "pt", *limits(CharacterStyle, "shift"))
        self.shift.setToolTip(SHIFT_HINT)
        self.parts.append(typed_part("shift", self.shift, form.row("Shift", self.shift)))
        self.complete()

    def _choosable(self, each: Choosable) -> None:
        field = Choice(each.label)
        said: list[tuple[str, object]] = (
            [(each.label.lower(), True), (f"no {each.label.lower()}", False)]
            if each.values is None
            else [(v, v) for v in each.values]
        )

        def show(value: object) -> None:
            field.show_choice([(self.unsaid(), None), *said], value)

        field.setToolTip(each.hint)
        self.parts.append(chosen_part(each.name, field, show, self.form.row(each.label, field)))

    def _chosen(self, name: str, label: str, field: Choice) -> None:
        show = getattr(self, f"_show_{name}")
        self.parts.append(chosen_part(name, field, show, self.form.row(label, field)))

    def unsaid(self) -> str:
        """What a property that the style does not say is like: “as the paragraph”."""
        base = self.base()
        if base is None:
            return "as the paragraph"
        return f"as {character_style(self.session.publication, base).name}"

    def _show_family(self, family: str | None) -> None:
        show_families(self.family, family, self.unsaid())

    def _show_bold(self, bold: bool | None) -> None:
        options = [(self.unsaid(), None), ("bold", True), ("not bold", False)]
        self.bold.show_choice(options, bold)

    def _show_italic(self, italic: bool | None) -> None:
        options = [(self.unsaid(), None), ("italic", True), ("upright", False)]
        self.italic.show_choice(options, italic)

    def _show_language(self, code: str | None) -> None:
        self.language.show_choice(language_options(self.unsaid()), code)

    # -- what is particular to character styles --------------------------------------

    def styles(self, publication: Publication) -> tuple[CharacterStyle, ...]:
        return publication.character_styles

    def put(self, publication: Publication, style: CharacterStyle) -> Publication:
        return put_character_style(publication, style)

    def made(self, publication: Publication, like: str, based: bool) -> tuple[Publication, str]:
        return new_character_style(publication, like, based)

    def deleted(self, publication: Publication, style_id: str, instead: Any) -> Publication:
        return delete_character_style(publication, style_id, instead)

    def shown(self, publication: Publication) -> CharacterStyle:
        return character_style(publication, self.style_id)

    def show_values(self, style: CharacterStyle) -> None:
        for field in (self.size_field, self.tracking, self.tint, self.shift):
            field.setPlaceholderText(self.unsaid())
        super().show_values(style)

    def said(self, publication: Publication, name: str) -> CharacterStyle:
        made = CharacterStyle(id=self.style_id, name=name, based_on=self.base(), **self.values())
        check_dark(publication, made.colour, made.on_dark)
        return made

    def rebase(self, before: str | None) -> None:
        """What is set in it looks as before; what the new base says as well is left to it."""
        around = self.around()
        said = CharacterStyle(id=self.style_id, name="-", based_on=before, **self.values())
        wanted = computed_characters(put_character_style(around, said).character_styles)
        self._loading = True
        self.show_values(restated_character(around, wanted[self.style_id], self.base()))
        self._loading = False
