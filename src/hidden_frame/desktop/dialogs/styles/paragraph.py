"""A paragraph style looked at and changed, or made anew from another."""

from __future__ import annotations

from typing import Any

from msgspec import UNSET
from PySide6.QtWidgets import QCheckBox, QToolButton, QWidget

from hidden_frame.desktop.dialogs.colour_choice import NO_DARK, ON_DARK_HINT, ColourChoice
from hidden_frame.desktop.dialogs.styles.drafts import StyleDrafts
from hidden_frame.desktop.dialogs.styles.parts import (
    StylePart,
    chosen_part,
    colour_part,
    tabs_part,
    ticked_part,
    typed_part,
)
from hidden_frame.desktop.dialogs.styles.setting import (
    keep_parts,
    line_parts,
    number_parts,
    ornament_parts,
)
from hidden_frame.desktop.dialogs.tabs import TabStops
from hidden_frame.desktop.fields.families import show_families
from hidden_frame.desktop.fields.fields import Choice, LengthField, NumberField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.look.languages import language_name, language_options
from hidden_frame.desktop.look.letterforms import CHOOSABLE, SHIFT_HINT, Choosable
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.colours import check_dark
from hidden_frame.edit.looks.styles import (
    delete_paragraph_style,
    new_paragraph_style,
    put_paragraph_style,
    restated,
)
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import ComputedStyle, ParagraphStyle, computed_style, own
from hidden_frame.model.valid import limits

ALIGNMENTS = ("left", "right", "centre", "justified", "inside", "outside")
_TYPE = (("Size", "size", 0.5), ("Leading", "leading", 0.5))
_SHORT = {
    "Space before": "Above", "Space after": "Below", "Left indent": "Left",
    "Right indent": "Right", "First line indent": "First line",
}  # fmt: skip
_PARAGRAPH = (
    ("Space before", "space_before", 0.0),
    ("Space after", "space_after", 0.0),
    ("Left indent", "indent_left", 0.0),
    ("Right indent", "indent_right", 0.0),
    ("First line indent", "indent_first", None),
)


class StyleDialog(StyleDrafts):
    """The form of paragraph styles: what a style follows of its base is shown as it comes out,
    and what it says itself has a button that lets it follow again."""

    kind = "paragraph"

    def __init__(
        self, session: Session, style_id: str | None = None, parent: QWidget | None = None
    ) -> None:
        first = session.publication.paragraph_styles[0].id
        super().__init__(session, style_id or first, parent)
        form = self.form
        self.lengths: dict[str, LengthField] = {}
        self._let_go: set[str] = set()  # properties that shall follow the base again
        self._type(form)
        form.heading("PARAGRAPH")
        self.alignment = Choice("Alignment")
        self.parts.append(
            chosen_part(
                "alignment",
                self.alignment,
                lambda v: self.alignment.show_choice([(a, a) for a in ALIGNMENTS], v),
                form.row("Alignment", self.alignment),
            )
        )
        self._lengths(form, _PARAGRAPH)
        flush = QCheckBox("Not behind headings")
        flush.setToolTip(
            "The first line is not indented after a heading, list, picture or break, nor at "
            "the start of a story"
        )
        self.parts.append(ticked_part("flush_after", flush, form.row("", flush)))
        form.heading("TAB STOPS")
        self.tabs = TabStops()
        self.tabs.refused.connect(self.form.say)
        form.column.addWidget(self.tabs)
        self.tabs.changed.connect(self.preview)
        follow = QToolButton()
        follow.setObjectName("Follow")
        follow.setText("follow")
        follow.hide()
        form.column.addWidget(follow)
        self.parts.append(tabs_part(self.tabs, follow))
        self.parts += line_parts(form)
        self.parts += keep_parts(form)
        self.parts += ornament_parts(form)
        self.parts += number_parts(form, session.publication)
        for part in self.parts:
            part.follow.setToolTip("Set here; click to inherit from the style it is based on")
            part.follow.setAccessibleName(f"{part.name.replace('_', ' ')} follows the base again")
        self.complete()

    def _type(self, form: Form) -> None:
        self.family = Choice("Font")
        shown = form.row("Font", self.family)
        self.parts.append(
            chosen_part("family", self.family, lambda v: show_families(self.family, v), shown)
        )
        self.bold, self.italic = QCheckBox("Bold"), QCheckBox("Italic")
        self.parts.append(ticked_part("bold", self.bold, form.row("", self.bold)))
        self.parts.append(
            ticked_part("italic", self.italic, form.row("", self.italic, beside=True))
        )
        self._lengths(form, _TYPE)
        low, high = limits(ComputedStyle, "tracking")
        self.tracking = NumberField("Tracking", "/1000 em", low or 0, high or 0)
        self.parts.append(
            typed_part("tracking", self.tracking, form.row("Tracking", self.tracking))
        )
        self.colour = ColourChoice("Colour", self.session)
        self.parts.append(colour_part(self.colour, str, form.row("Colour", self.colour)))
        self.tint = NumberField("Tint", "%", 0, 100, 100.0)
        self.parts.append(typed_part("tint", self.tint, form.row("Tint", self.tint)))
        self.on_dark = ColourChoice("On dark ground", self.session)
        self.on_dark.setToolTip(ON_DARK_HINT)
        row = form.row("On dark ground", self.on_dark)
        self.parts.append(colour_part(self.on_dark, lambda: NO_DARK, row, "on_dark"))
        self.language = Choice("Language")
        self.parts.append(
            chosen_part(
                "language", self.language, self._show_language, form.row("Language", self.language)
            )
        )
        form.heading("LETTERS")
        self.letters: dict[str, Choice | QCheckBox] = {}
        for each in CHOOSABLE:
            self._choosable(form, each)
        self._lengths(form, (("Shift", "shift", limits(ComputedStyle, "shift")[0]),))
        self.lengths["shift"].setToolTip(SHIFT_HINT)

    def _choosable(self, form: Form, each: Choosable) -> None:
        if each.values is None:
            box = QCheckBox(each.label)
            follow = form.row("", box)
            self.parts.append(ticked_part(each.name, box, follow))
            self.letters[each.name] = box
        else:
            field = Choice(each.label)
            options = [(v, v) for v in each.values]
            follow = form.row(each.label, field)
            self.parts.append(
                chosen_part(each.name, field, lambda v: field.show_choice(options, v), follow)
            )
            self.letters[each.name] = field
        self.letters[each.name].setToolTip(each.hint)

    def _lengths(self, form: Form, rows: tuple[tuple[str, str, float | None], ...]) -> None:
        for label, name, least in rows:
            field = LengthField(label, "pt", least, limits(ComputedStyle, name)[1])
            self.lengths[name] = field
            second = name in ("leading", "space_after", "indent_right")
            follow = form.row(_SHORT.get(label, label), field, beside=second)
            self.parts.append(typed_part(name, field, follow))

    def _show_language(self, code: str | None) -> None:
        self.language.show_choice(language_options("as the publication"), code)
        named = language_name(self.session.publication.about.language)
        self.language.setToolTip(
            f"Decides where words are hyphenated; the publication is in {named}"
        )

    # -- what is particular to paragraph styles --------------------------------------

    def styles(self, publication: Publication) -> tuple[ParagraphStyle, ...]:
        return publication.paragraph_styles

    def put(self, publication: Publication, style: ParagraphStyle) -> Publication:
        return put_paragraph_style(publication, style)

    def made(self, publication: Publication, like: str, based: bool) -> tuple[Publication, str]:
        return new_paragraph_style(publication, like, based)

    def deleted(self, publication: Publication, style_id: str, instead: Any) -> Publication:
        return delete_paragraph_style(publication, style_id, instead)

    def shown(self, publication: Publication) -> ComputedStyle:
        self._let_go.clear()
        return computed_style(publication.paragraph_styles, self.style_id)

    def said(self, publication: Publication, name: str) -> ParagraphStyle:
        wanted = ComputedStyle(id=self.style_id, name=name, **self.values())
        made = restated(publication, wanted, self.base(), frozenset(self._let_go))
        dark = own(made, "on_dark")
        check_dark(publication, wanted.colour, dark if isinstance(dark, str) else None)
        return made

    def follow(self, part: StylePart) -> None:
        base = self.base()
        if base is not None:
            self._let_go.add(part.name)
            self._loading = True
            part.show(getattr(computed_style(self.around().paragraph_styles, base), part.name))
            self._loading = False
            self.preview()

    def mark(self, publication: Publication) -> None:
        style = paragraph_style(publication, self.style_id)
        for part in self.parts:
            says = style.based_on is not None and getattr(style, part.name) is not UNSET
            if part.follow.isHidden() == says:
                part.follow.setVisible(says)
