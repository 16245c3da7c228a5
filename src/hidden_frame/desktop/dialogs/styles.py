"""A paragraph style looked at and changed, or made anew from another."""

from __future__ import annotations

from typing import Any

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QComboBox, QFrame, QLineEdit, QScrollArea, QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.dialogs.tabs import TabStops
from hidden_frame.desktop.families import show_families
from hidden_frame.desktop.languages import language_name, language_options
from hidden_frame.desktop.properties.fields import Choice, LengthField, NumberField, TextField
from hidden_frame.desktop.properties.form import Form
from hidden_frame.desktop.session import Session
from hidden_frame.desktop.swatches import ColourChoice
from hidden_frame.edit.styles import add_paragraph_style, put_paragraph_style
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import ParagraphStyle
from hidden_frame.model.valid import bounds

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


class StyleDialog(EditQuestion):
    """Chooses a style, shows what it says, and changes it wherever it is used."""

    aside = True

    def __init__(
        self, session: Session, style_id: str | None = None, parent: QWidget | None = None
    ) -> None:
        super().__init__(session, parent, "Paragraph styles", "Change")
        self.style_id = style_id or session.publication.paragraph_styles[0].id
        # Styles as they were changed here and are not kept yet, shown on the desk meanwhile.
        self.changed: dict[str, ParagraphStyle] = {}
        self._loading = True
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
        form.row("", self.italic, beside=True)
        self.lengths: dict[str, LengthField] = {}
        self._lengths(form, _TYPE)
        low, high = bounds(ParagraphStyle, "tracking")
        self.tracking = NumberField("Tracking", "/1000 em", low or 0, high or 0)
        form.row("Tracking", self.tracking)
        self.colour = ColourChoice("Colour", session)
        form.row("Colour", self.colour)
        self.language = Choice("Language")
        self.language.setToolTip("Decides where words are divided")
        form.row("Language", self.language)
        self.hyphenate = QCheckBox("Hyphenate")
        form.row("", self.hyphenate)
        form.heading("PARAGRAPH")
        self.alignment = Choice("Alignment")
        form.row("Alignment", self.alignment)
        self._lengths(form, _PARAGRAPH)
        form.heading("TAB STOPS")
        self.tabs = TabStops()
        self.tabs.refused.connect(self.form.say)
        form.column.addWidget(self.tabs)
        self.waiting = form.note()
        self.new = form.buttons("New style like this one")[0]
        self.new.clicked.connect(self._make)
        self.finish()
        self._scroll()
        self._load()
        self._listen()
        self.rejected.connect(lambda: session.set_draft(None))

    def _lengths(self, form: Form, rows: tuple[tuple[str, str, float | None], ...]) -> None:
        for label, name, least in rows:
            field = LengthField(label, "pt", least, bounds(ParagraphStyle, name)[1])
            self.lengths[name] = field
            second = name in ("leading", "space_after", "indent_right")
            form.row(_SHORT.get(label, label), field, beside=second)

    def _scroll(self) -> None:
        """The rows scroll where the screen is low; the buttons stay in sight."""
        self.forms.removeWidget(self.form)
        area = QScrollArea()
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.form)
        area.setMinimumWidth(344)
        self.forms.addWidget(area)
        self.box.setParent(None)  # and back, so that Tab reaches it last
        self.column.addWidget(self.box)
        self.resize(350, min(720, self.screen().availableGeometry().height() - 110))

    def _style(self) -> ParagraphStyle:
        """The chosen style as it is kept."""
        return paragraph_style(self.session.history.now, self.style_id)

    def _listen(self) -> None:
        """Whatever is changed is shown on the desk at once."""
        for part in self.findChildren(QWidget):
            if part is self.chosen or part.parent() is self.chosen:
                continue
            if isinstance(part, QLineEdit):
                part.textEdited.connect(self._preview)
            elif isinstance(part, QComboBox):
                part.currentIndexChanged.connect(self._preview)
            elif isinstance(part, QCheckBox):
                part.toggled.connect(self._preview)
        self.tabs.changed.connect(self._preview)

    def _preview(self) -> None:
        if self._loading:
            return
        try:
            self._take()
            self.form.say("")
        except Refusal as refusal:
            self.form.say(str(refusal))
            return
        self._show_draft()

    def _show_draft(self) -> None:
        now = self.session.history.now
        self.session.set_draft(self._with_changes(now) if self.changed else None)
        count = len(self.changed)
        self.ok.setText(f"Change {count} styles" if count > 1 else "Change")
        others = [paragraph_style(now, s).name for s in self.changed if s != self.style_id]
        self.waiting.setText(
            f"Also changed, and not kept yet: {', '.join(others)}" if others else ""
        )

    def _with_changes(self, publication: Publication) -> Publication:
        for style in self.changed.values():
            publication = put_paragraph_style(publication, style)
        return publication

    def _take(self) -> None:
        """Keeps what the fields say; raises what is wrong with it."""
        style = self._said()
        put_paragraph_style(self.session.history.now, style)
        if style == self._style():
            self.changed.pop(style.id, None)
        else:
            self.changed[style.id] = style

    def _choose(self, style_id: object) -> None:
        """Another style; what was said of this one stays, unless it makes no sense."""
        try:
            self._take()
        except Refusal as refusal:
            self.chosen.setCurrentIndex(self.chosen.findText(self._style().name))
            self.form.say(str(refusal))
            return
        self.style_id = str(style_id)
        self.form.say("")
        self._load()
        self._show_draft()

    def _load(self) -> None:
        self._loading = True
        publication = self.session.history.now
        style = self.changed.get(self.style_id) or self._style()
        styles = [(s.name, s.id) for s in publication.paragraph_styles]
        self.chosen.show_choice(styles, style.id)
        self.name.show_text(style.name)
        show_families(self.family, style.family)
        self.language.show_choice(language_options("as the publication"), style.language)
        named = language_name(publication.about.language)
        self.language.setToolTip(f"Decides where words are divided; the publication is in {named}")
        self.tabs.show_stops(style.tabs)
        self.bold.setChecked(style.bold)
        self.italic.setChecked(style.italic)
        for name, field in self.lengths.items():
            field.show_value(getattr(style, name))
        self.tracking.show_value(style.tracking)
        self.colour.show_colours(style.colour)
        self.alignment.show_choice([(a, a) for a in ALIGNMENTS], style.alignment)
        self.hyphenate.setChecked(style.hyphenate)
        self._loading = False

    def _make(self) -> None:
        """A new style that says the same, to be changed next."""
        made: list[str] = []
        like = self.style_id
        try:
            self._take()
        except Refusal as refusal:
            self.form.say(str(refusal))
            return
        self.session.set_draft(None)

        def change(publication):  # type: ignore[no-untyped-def]
            publication, style_id = add_paragraph_style(publication, like)
            made.append(style_id)
            return publication

        self.session.edit("new style", change)
        self.style_id = made[-1]
        self._load()
        self._show_draft()
        self.name.setFocus()
        self.name.selectAll()

    def _said(self) -> ParagraphStyle:
        """The chosen style as the fields say it."""
        changes: dict[str, Any] = {
            name: field.parse(field.text()) for name, field in self.lengths.items()
        }
        name = " ".join(self.name.text().split())
        others = {
            s.name for s in self.session.publication.paragraph_styles if s.id != self.style_id
        }
        if not name or name in others:
            raise Refusal(f"A style can't be named “{name}”; choose a name that is not in use.")
        return replace(
            self._style(),
            name=name,
            family=str(self.family.value()),
            language=self.language.value(),
            tabs=self.tabs.stops(),
            bold=self.bold.isChecked(),
            italic=self.italic.isChecked(),
            tracking=self.tracking.parse(self.tracking.text()),
            colour=str(self.colour.value()),
            alignment=ALIGNMENTS[self.alignment.currentIndex()],
            hyphenate=self.hyphenate.isChecked(),
            **changes,
        )

    def answer(self) -> None:
        self._take()
        self.session.set_draft(None)
        names = [s.name for s in self.changed.values()]
        name = f"change style {names[0]}" if len(names) == 1 else f"change {len(names)} styles"
        if names:
            self.edit(name, self._with_changes)
