"""Properties of what is anchored in the text being edited."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QPlainTextEdit

from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.fields.fields import Choice, LengthField
from hidden_frame.desktop.fields.form import Form
from hidden_frame.desktop.panels.properties.kinds import FITS
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.text_edit import TextEdit
from hidden_frame.interact.words.told import resolution_in_words
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame
from hidden_frame.model.text import Anchor
from hidden_frame.model.valid import limits
from hidden_frame.storage.pictures import read_picture

STANDS = (
    ("in the line", "In the line"),
    ("above the line", "Above the line"),
    ("inside", "In the inside margin"),
    ("outside", "In the outside margin"),
)


class _Caption(QPlainTextEdit):
    """A caption of a few lines, kept when the keyboard leaves it."""

    def __init__(self, commit: Callable[[str], None]) -> None:
        super().__init__()
        self._commit = commit
        self.setAccessibleName("Caption")
        self.setPlaceholderText("No caption")
        self.setTabChangesFocus(True)
        self.setFixedHeight(56)

    def focusOutEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().focusOutEvent(event)
        self._commit(self.toPlainText())


class AnchoredForm(Form):
    """Shown above the form of the text while something anchored is selected."""

    def __init__(self, session: Session, text: TextEdit) -> None:
        super().__init__()
        self.session, self.text = session, text
        anchors = text.anchors
        self.title("Anchored in the text")
        self.note("Moves with the text. Escape deselects it; Delete removes it.")
        self.heading("PLACE")
        self.stands = Choice("Stands")
        self.stands.committed.connect(lambda v: anchors.change(stands=v))
        self.row("Stands", self.stands)
        unit = session.publication.setup.unit
        self.width_field = LengthField("Width", unit, *limits(Anchor, "width"))
        self.height_field = LengthField("Height", unit, *limits(Anchor, "height"))
        self.distance = LengthField("Distance", unit, *limits(Anchor, "distance"))
        self.distance.setToolTip("From the text that it stands above or beside")
        self.shift = LengthField("Shift", unit, *limits(Anchor, "shift"))
        self.shift.setToolTip("Raises it; a negative value lowers it")
        for label, field, name, beside in (
            ("Width", self.width_field, "width", False),
            ("Height", self.height_field, "height", True),
            ("Distance", self.distance, "distance", False),
            ("Shift", self.shift, "shift", True),
        ):
            field.committed.connect(lambda v, name=name: anchors.change(**{name: v}))
            self.row(label, field, beside=beside)
        self.heading("PICTURE")
        self.fit = Choice("Fit")
        self.fit.committed.connect(lambda v: anchors.change(fit=v))
        self.row("Fit", self.fit)
        self.resolution = self.note()
        self.choose, self.out = self.buttons("Choose a picture…", "Release onto the page")
        self.choose.clicked.connect(self._choose)
        self.out.setToolTip("Takes it out of the text and leaves it on the page where it is")
        self.out.clicked.connect(anchors.free)
        self.heading("CAPTION")
        self.caption = _Caption(self._say)
        self.column.addWidget(self.caption)
        self.caption_style = Choice("Style of the caption")
        self.caption_style.committed.connect(lambda v: anchors.change(caption_style=v))
        self.row("Style", self.caption_style)
        self.end()

    def _say(self, words: str) -> None:
        anchor = self.text.anchors.now() if self.session.editing is not None else None
        if anchor is None or anchor.caption == words:
            return
        if len(words) > 2000:
            self.session.noticed.emit("A caption has at most 2,000 characters; shorten it.")
            return
        self.text.anchors.change(caption=words)

    def _choose(self) -> None:
        chosen = PictureDialog.ask(self, "Choose a picture")
        if not chosen:
            return
        try:
            self.text.anchors.show_picture(*read_picture(chosen[0]))
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))

    def load(self) -> None:
        anchor = self.text.anchors.now()
        if anchor is None:
            return
        publication = self.session.publication
        self.stands.show_choice([(label, value) for value, label in STANDS], anchor.stands)
        self.width_field.show_value(anchor.width)
        self.height_field.show_value(anchor.height)
        self.distance.show_value(anchor.distance)
        self.distance.setEnabled(anchor.stands != "in the line")
        self.shift.show_value(anchor.shift)
        fits = [f for f in FITS if f[1] != "free" or anchor.crop is not None]
        self.fit.show_choice(fits, anchor.fit)
        picture = next((p for p in publication.pictures if p.hash == anchor.picture), None)
        self.resolution.setText(resolution_in_words(picture, _frame(anchor)))
        if not self.caption.hasFocus() and self.caption.toPlainText() != anchor.caption:
            self.caption.setPlainText(anchor.caption)
        styles: list[tuple[str, object]] = [("that of its paragraph", None)]
        styles += [(s.name, s.id) for s in publication.paragraph_styles]
        self.caption_style.show_choice(styles, anchor.caption_style)


def _frame(anchor: Anchor) -> PictureFrame:
    return PictureFrame(
        id="", x=0, y=0, width=anchor.width, height=anchor.height, picture=anchor.picture,
        fit=anchor.fit, crop=anchor.crop,
    )  # fmt: skip
