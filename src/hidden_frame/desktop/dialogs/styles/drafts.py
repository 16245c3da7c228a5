"""What the forms of paragraph and character styles share: a style is chosen, changed before
one's eyes, and kept with the others in one step."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFrame,
    QLineEdit,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.dialogs.styles.beside import WIDTH, PartRows, StyleRows
from hidden_frame.desktop.dialogs.styles.delete import DeleteStyleDialog
from hidden_frame.desktop.dialogs.styles.parts import StylePart
from hidden_frame.desktop.fields.fields import Choice, TextField
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.styles import style_uses, uses_in_words
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle, chain_of

Style = ParagraphStyle | CharacterStyle


_WIDTH = 375  # pixels: its longest label, and two short fields beside each other


class StyleDrafts(EditQuestion):
    """Chooses a style, shows what it says, and changes it wherever it is used.

    Subclasses add a `Part` for each property, and say what is particular to their kind.
    """

    aside = True
    kind = ""

    def __init__(self, session: Session, style_id: str, parent: QWidget | None) -> None:
        super().__init__(session, parent, f"{self.kind} styles".capitalize(), "Change")
        self.style_id = style_id
        # Styles as they were changed here and are not kept yet, shown on the desk meanwhile.
        self.changed: dict[str, Style] = {}
        self.parts: list[StylePart] = []
        self._loading = True
        form = self.form
        self.chosen = StyleRows("Style")
        self.chosen.committed.connect(self._choose)
        self.new, self.new_based, self.delete = form.buttons(
            "New, like this", "New, based on this", "Delete…", abreast=3
        )
        self.new.clicked.connect(lambda: self._make(False))
        self.new_based.clicked.connect(lambda: self._make(True))
        self.delete.clicked.connect(self._delete)
        form.heading("TYPE")
        self.name = TextField("Name")
        form.row("Name", self.name)
        self.based_on = Choice("Based on")
        self.based_on.setToolTip("Inherits everything not set here")
        self.based_on.committed.connect(self._base)
        form.row("Based on", self.based_on)
        self.users = form.note()

    def complete(self) -> None:
        """To be called once all parts are there."""
        form = self.form
        self.waiting = form.note()
        self.finish()
        self.form.setMinimumWidth(_WIDTH)
        self._scroll()
        self._load()
        self._listen()
        self.rejected.connect(lambda: self.session.set_draft(None))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        QTimer.singleShot(0, self.mark_parts)  # once the rows stand where they will be

    def _scroll(self) -> None:
        """The rows scroll where the screen is low; the buttons stay in sight."""
        self.forms.removeWidget(self.form)
        area = QScrollArea()
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setWidgetResizable(True)
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # Tab goes from the list to its first row
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.form)
        area.setMinimumWidth(self.form.minimumWidth() + 14)
        beside = QVBoxLayout()
        beside.setContentsMargins(0, 12, 0, 0)
        beside.addWidget(self.chosen, 1)
        self.jumps = PartRows(self.form, area)
        beside.addWidget(self.jumps)
        self.forms.addLayout(beside)
        self.forms.addWidget(area)
        QWidget.setTabOrder(self.chosen, self.new)
        self.box.setParent(None)  # and back, so that Tab reaches it last
        self.column.addWidget(self.box)
        wanted = self.form.sizeHint().height() + self.box.sizeHint().height() + 40
        free = self.screen().availableGeometry().height() - 110
        self.resize(self.form.minimumWidth() + WIDTH + 26, min(720, wanted, free))

    def _listen(self) -> None:
        """Whatever is changed is shown on the desk at once."""
        for part in self.form.findChildren(QWidget):
            if part is self.based_on:
                continue
            if isinstance(part, QLineEdit):
                part.textEdited.connect(self._preview)
            elif isinstance(part, QComboBox):
                part.currentIndexChanged.connect(self._preview)
            elif isinstance(part, QCheckBox):
                part.toggled.connect(self._preview)
        for each in self.parts:
            each.follow.clicked.connect(lambda _=False, at=each: self.follow(at))

    # -- what is particular to a kind ------------------------------------------------

    def styles(self, publication: Publication) -> tuple[Any, ...]:
        """The styles of this kind."""
        raise NotImplementedError

    def put(self, publication: Publication, style: Any) -> Publication:
        """The publication with this style added or changed."""
        raise NotImplementedError

    def made(self, publication: Publication, like: str, based: bool) -> tuple[Publication, str]:
        """The publication with a new style, and its id."""
        raise NotImplementedError

    def deleted(self, publication: Publication, style_id: str, instead: Any) -> Publication:
        """The publication without a style."""
        raise NotImplementedError

    def shown(self, publication: Publication) -> Any:
        """The chosen style as the fields are to show it."""
        raise NotImplementedError

    def said(self, publication: Publication, name: str) -> Any:
        """The chosen style as the fields say it."""
        raise NotImplementedError

    def follow(self, part: StylePart) -> None:
        """A property follows the base again."""

    def mark(self, publication: Publication) -> None:
        """Shows which properties the style says itself."""

    def mark_parts(self) -> None:
        """Marks the parts of the form in which the style says something itself."""
        self.jumps.mark([p.follow for p in self.parts if not p.follow.isHidden()])

    def rebase(self, before: str | None) -> None:
        """The base was exchanged by hand."""

    # -- between the fields and the drafts -------------------------------------------

    def _style(self) -> Style:
        """The chosen style as it is kept."""
        return self.of(self.session.history.now, self.style_id)

    def of(self, publication: Publication, style_id: str) -> Any:
        """A style of this kind by its id."""
        return next(s for s in self.styles(publication) if s.id == style_id)

    def around(self) -> Publication:
        """The publication with what was changed of the other styles."""
        now = self.session.history.now
        return self._with_changes(now, but=self.style_id)

    def _with_changes(self, publication: Publication, but: str = "") -> Publication:
        for style in self.changed.values():
            if style.id != but:
                publication = self.put(publication, style)
        return publication

    def values(self) -> dict[str, Any]:
        """What the fields say, by the name of the property."""
        return {part.name: part.read() for part in self.parts}

    def preview(self) -> None:
        """Shows on the desk what the fields say, or a sentence why not."""
        if self._loading:
            return
        try:
            self._take()
        except Refusal as refusal:
            self.form.say(refusal)
            return
        self.form.say("")
        self._show_draft()

    def _preview(self) -> None:
        self.preview()

    def _show_draft(self) -> None:
        now = self.session.history.now
        self.session.set_draft(self._with_changes(now) if self.changed else None)
        count = len(self.changed)
        self.ok.setText(f"Change {count} styles" if count > 1 else "Change")
        others = [self.of(now, s).name for s in self.changed if s != self.style_id]
        told = f"Also changed, not yet applied: {', '.join(others)}" if others else ""
        self.waiting.setText(told)
        self.mark(self._with_changes(now))
        self.mark_parts()
        self._list()

    def _take(self) -> None:
        """Keeps what the fields say; raises what is wrong with it."""
        around = self.around()
        name = " ".join(self.name.text().split())
        others = {s.name for s in self.styles(around) if s.id != self.style_id}
        if not name or name in others:
            raise self.name.refusal(
                f"A style can't be named “{name}”; choose a name that is not in use."
            )
        style = self.said(around, name)
        if style == self._style():
            self.changed.pop(style.id, None)
        else:
            self.changed[style.id] = style

    def _choose(self, style_id: object) -> None:
        """Another style; what was said of this one stays, unless it makes no sense."""
        try:
            self._take()
        except Refusal as refusal:
            self._list()
            self.form.say(refusal)
            return
        self._turn_to(str(style_id))

    def _turn_to(self, style_id: str) -> None:
        self.style_id = style_id
        self.form.say("")
        self._load()
        self._show_draft()

    def _load(self) -> None:
        self._loading = True
        now = self.session.history.now
        drafted = self._with_changes(now)
        styles = self.styles(drafted)
        style = self.of(drafted, self.style_id)
        self.name.show_text(style.name)
        below = {s.id for s in styles if self.style_id in {c.id for c in chain_of(styles, s.id)}}
        bases: list[tuple[str, object]] = [("no other style", None)]
        bases += [(s.name, s.id) for s in styles if s.id not in below]
        self.based_on.show_choice(bases, style.based_on)
        self.base_now: str | None = style.based_on
        self.show_values(self.shown(drafted))
        self.mark(drafted)
        self.users.setText(uses_in_words(now, self.style_id))
        self.delete.setEnabled(len(styles) > 1 or self.kind == "character")
        self._list()
        QTimer.singleShot(0, self.mark_parts)
        self._loading = False

    def _list(self) -> None:
        """All styles, by the names that they have by now."""
        drafted = self._with_changes(self.session.history.now)
        self.chosen.show_styles([(s.name, s.id) for s in self.styles(drafted)], self.style_id)

    def show_values(self, style: Any) -> None:
        """Puts a style's properties into the fields."""
        for part in self.parts:
            part.show(getattr(style, part.name))

    def _base(self, _: object) -> None:
        before, self.base_now = self.base_now, self.base()
        self.rebase(before)
        self.preview()

    def base(self) -> str | None:
        """The style that this one is to be based on."""
        chosen = self.based_on.value()
        return None if chosen is None else str(chosen)

    # -- new ones, and fewer ---------------------------------------------------------

    def _make(self, based: bool) -> None:
        """A new style that comes out as this one, to be changed next."""
        made: list[str] = []
        like = self.style_id
        try:
            self._take()
        except Refusal as refusal:
            self.form.say(refusal)
            return
        self.session.set_draft(None)

        def change(publication: Publication) -> Publication:
            publication, style_id = self.made(publication, like, based)
            made.append(style_id)
            return publication

        self.session.edit(f"new {self.kind} style", change)
        self._turn_to(made[-1])
        self.name.setFocus()
        self.name.selectAll()

    def _delete(self) -> None:
        """Without the chosen style; asks what shall take its place where it is in use."""
        now = self.session.history.now
        gone = self._style()
        self.session.set_draft(None)
        options = [(s.name, s.id) for s in self.styles(now) if s.id != gone.id]
        if style_uses(now, gone.id):
            if self.kind == "character":
                options.insert(0, ("no character style", None))
            if not DeleteStyleDialog(self.session, gone, options, self.deleted, self).exec():
                self._show_draft()
                return
        else:
            instead = options[0][1] if options and self.kind == "paragraph" else None
            self.session.edit(
                f"delete style {gone.name}", lambda p: self.deleted(p, gone.id, instead)
            )
        self.changed.pop(gone.id, None)
        for style in list(self.changed.values()):  # what was based on it comes out as before
            if style.based_on == gone.id:
                drafted = self._with_changes(now)
                without = self.deleted(drafted, gone.id, options[-1][1])
                self.changed[style.id] = self.of(without, style.id)
        if not self.styles(self.session.history.now):
            self.reject()
            return
        self._turn_to(self.styles(self.session.history.now)[0].id)

    def answer(self) -> None:
        self._take()
        self.session.set_draft(None)
        names = [s.name for s in self.changed.values()]
        name = f"change style {names[0]}" if len(names) == 1 else f"change {len(names)} styles"
        if names:
            self.edit(name, self._with_changes)
